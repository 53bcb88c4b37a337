"""Placing artwork on the panel: the matrix, the distances, and what fits."""

from dataclasses import dataclass

import numpy as np
import shapely
import shapely.affinity
import shapely.ops

from zinnet.blanks.model import Blank
from zinnet.geometry.region import Region
from zinnet.geometry.transform import Matrix, apply, moved, shift, turn
from zinnet.model import Frozen
from zinnet.placement.guides import place, school

HULL_STEP_MM = 8.0
"""Between two spots this far apart a collar's curve reaches in by less than the 0.15 mm kept from it."""


class PlacementSpec(Frozen):
    """What the user asks for. Lengths in mm; None where Zinnet proposes."""

    place: str = "full-front"
    school: str | None = None
    width_mm: float | None = None
    from_centre_mm: float = 0.0
    below_collar_mm: float | None = None
    turn_deg: float = 0.0


@dataclass(frozen=True, eq=False)
class Placement:
    """Artwork on the panel. ``matrix`` leads from artwork mm (origin: upper left of its box) to panel mm."""

    width_mm: float
    height_mm: float
    from_centre_mm: float
    below_collar_mm: float
    turn_deg: float
    school: str
    centre: tuple[float, float]
    matrix: Matrix

    @property
    def corners(self) -> list[tuple[float, float]]:
        """The four corners of the artwork's box on the panel, from the upper left clockwise."""
        width, height = self.width_mm, self.height_mm
        box = np.array([(0, 0), (width, 0), (width, height), (0, height)], dtype=np.float64)
        return [(float(x), float(y)) for x, y in apply(self.matrix, box)]


def place_artwork(spec: PlacementSpec, blank: Blank, *, width_mm: float, height_mm: float) -> Placement:
    """Return the placement of artwork whose box is ``width_mm`` x ``height_mm``."""
    name = spec.school or place(spec.place).school
    below = school(name).target_mm if spec.below_collar_mm is None else spec.below_collar_mm
    centre_x = blank.collar_point[0] + spec.from_centre_mm
    centre_y = blank.collar_point[1] + below + height_mm / 2
    matrix = shift(centre_x, centre_y) @ turn(spec.turn_deg) @ shift(-width_mm / 2, -height_mm / 2)
    return Placement(
        width_mm=width_mm,
        height_mm=height_mm,
        from_centre_mm=spec.from_centre_mm,
        below_collar_mm=below,
        turn_deg=spec.turn_deg,
        school=name,
        centre=(centre_x, centre_y),
        matrix=matrix,
    )


def edge_distances(placement: Placement, blank: Blank) -> tuple[float, float] | None:
    """Return how far the artwork's box is from the garment's left and right edge, in mm, at its middle."""
    edges = blank.edges_at(placement.centre[1])
    if edges is None:
        return None
    across = [x for x, _ in placement.corners]
    return min(across) - edges[0], edges[1] - max(across)


def proposed_width(spec: PlacementSpec, blank: Blank, *, aspect: float) -> float:
    """Return the width in mm that Zinnet proposes for artwork of ``aspect`` = height / width.

    It is the usual width of the place, or the largest whole 5 mm below it that stays in the usable area.
    """
    usual = place(spec.place).width_usual_mm
    box = Region([shapely.box(0, 0, 1, aspect)])
    largest = largest_width(spec, blank, unit_art=box, aspect=aspect)
    if largest >= usual:
        return usual
    return max(20.0, largest // 5 * 5)


def largest_width(spec: PlacementSpec, blank: Blank, *, unit_art: Region, aspect: float) -> float:
    """Return the largest width in mm at which the artwork stays in the usable area, 0 where none does.

    ``unit_art`` is the artwork scaled to a width of 1; its top edge keeps its distance from the collar.
    """
    hull = shapely.convex_hull(unit_art)
    shapely.prepare(blank.usable)

    def fits(width: float) -> bool:
        at = place_artwork(spec, blank, width_mm=width, height_mm=width * aspect)
        unit_to_panel = at.matrix @ np.diag([width, width, 1.0])
        return bool(shapely.covers(blank.usable, moved(hull, unit_to_panel)))

    low, high = 0.0, float(blank.usable.bounds[2] - blank.usable.bounds[0])
    if not fits(1.0):
        return 0.0
    while high - low > 0.05:
        middle = (low + high) / 2
        low, high = (middle, high) if fits(middle) else (low, middle)
    return low


def nearest_inside(spec: PlacementSpec, blank: Blank, art: Region, placement: Placement) -> PlacementSpec | None:
    """Return the placement nearest to this one at which ``art`` (on the panel, mm) is inside the usable area.

    The shifts that keep one point inside are the usable area less that point; those that keep every spot
    on the art's hull inside are what all these have in common. None where there are none.
    """
    hull = shapely.convex_hull(art)
    corners = shapely.get_coordinates(shapely.segmentize(shapely.simplify(hull, 0.1), HULL_STEP_MM).exterior)[:-1]
    shifts = shapely.intersection_all([shapely.affinity.translate(blank.usable, -x, -y) for x, y in corners])
    shifts = shapely.buffer(shifts, -0.15)
    if shifts.is_empty:
        return None
    nearest, _ = shapely.ops.nearest_points(shifts, shapely.Point(0, 0))
    return spec.model_copy(
        update={
            "from_centre_mm": round(placement.from_centre_mm + nearest.x, 1),
            "below_collar_mm": round(placement.below_collar_mm + nearest.y, 1),
        }
    )
