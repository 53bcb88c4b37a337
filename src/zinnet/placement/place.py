"""Placing artwork on a panel: the matrices, the distances, and what fits."""

from dataclasses import dataclass, replace

import numpy as np
import shapely
import shapely.affinity
import shapely.ops
from numpy.typing import NDArray
from pydantic import Field
from shapely.geometry import LinearRing
from shapely.geometry.base import BaseGeometry

from zinnet.base.errors import ZinnetError
from zinnet.base.frozen import Frozen
from zinnet.blanks.catalogue import blank_kind, blank_kinds
from zinnet.blanks.model import Blank, Panel
from zinnet.geometry.region import Region, as_region, common
from zinnet.geometry.transform import Matrix, moved, shift, turn
from zinnet.placement.arrange import (
    DEFAULTS,
    Arc,
    Arrangement,
    Band,
    One,
    Ring,
    Rows,
    Setting,
    arc_under,
    copies_in_band,
    copies_in_ring,
    copies_in_rows,
)
from zinnet.placement.guides import Place, Range, place_names, places_of, school, usual_school

HULL_STEP_MM = 8.0
"""Between two spots this far apart a collar's curve reaches in by less than the 0.15 mm kept from it."""


class PlacementSpec(Frozen):
    """What the user asks for. Lengths in mm; None where Zinnet proposes.

    ``from_reference_mm`` is how far the artwork's top edge (or its middle, by the place) is below the reference
    point, or how far its bottom edge is above it. ``field_width_mm`` and ``field_height_mm`` are what was measured for
    the artwork itself: without a width of its own it fills that.
    """

    place: str | None = None
    school: str | None = None
    width_mm: float | None = Field(default=None, gt=0, le=100_000)
    height_mm: float | None = Field(default=None, gt=0, le=100_000)
    field_width_mm: float | None = Field(default=None, gt=0, le=100_000)
    field_height_mm: float | None = Field(default=None, gt=0, le=100_000)
    from_centre_mm: float | None = None
    from_reference_mm: float | None = None
    turn_deg: float = 0.0
    arrangement: Arrangement | None = None

    def asked_width_mm(self, aspect: float) -> float | None:
        """Return how wide artwork of an aspect (height by width) is to be, in mm; None where that is proposed."""
        if self.width_mm is not None:
            return self.width_mm
        within = [self.field_width_mm, None if self.field_height_mm is None else self.field_height_mm / aspect]
        return min((one for one in within if one is not None), default=None)

    @property
    def is_measured(self) -> bool:
        """Whether its size follows from what was measured for it."""
        return self.width_mm is None and (self.field_width_mm, self.field_height_mm) != (None, None)


class Habits(Frozen):
    """What the user is used to: a finger's breadth, and schools by kind of blank and class, ``kind/class``."""

    finger_mm: float
    schools: tuple[tuple[str, str], ...] = ()

    def school_for(self, kind: str, size_class: str) -> str:
        """Return the school for a kind of blank and a class of sizes."""
        return dict(self.schools).get(f"{kind}/{size_class}", usual_school(size_class))


ON_LINE_MM = 0.5
"""So near to the centre line a middle lies on it."""


@dataclass(frozen=True, eq=False)
class Placement:
    """Artwork on a panel. ``matrix`` leads from artwork mm (origin: upper left of its box) to panel mm.

    ``matrices`` are those of all its copies, the first of which is ``matrix``.
    """

    place: Place
    panel: Panel
    width_mm: float
    height_mm: float
    from_centre_mm: float
    from_reference_mm: float
    turn_deg: float
    school: str | None
    down: Range
    across: Range
    matrix: Matrix
    matrices: tuple[Matrix, ...]
    arrangement: One | Rows | Arc | Ring | Band

    @property
    def centre(self) -> tuple[float, float]:
        """The middle of the artwork's box on the panel."""
        x, y = moved(shapely.Point(self.width_mm / 2, self.height_mm / 2), self.matrix).coords[0]
        return float(x), float(y)

    @property
    def is_on_centre(self) -> bool:
        """Whether it is asked for in the middle, and lies there: the middle of all its copies on the centre line."""
        left, _, right, _ = self.block
        return self.place.centred and abs((left + right) / 2 - self.reference[0]) <= ON_LINE_MM

    @property
    def corners(self) -> list[tuple[float, float]]:
        """The four corners of the artwork's box on the panel, from the upper left clockwise."""
        return box_corners(self.matrix, self.width_mm, self.height_mm)

    @property
    def block(self) -> tuple[float, float, float, float]:
        """The box around all copies."""
        corners = [corner for m in self.matrices for corner in box_corners(m, self.width_mm, self.height_mm)]
        xs, ys = [x for x, _ in corners], [y for _, y in corners]
        return min(xs), min(ys), max(xs), max(ys)

    def moved(self, by: NDArray[np.float64]) -> "Placement":
        """Return the placement moved on the panel by (x, y) mm."""
        x, y = by.tolist()
        there = shift(x, y)
        return replace(
            self,
            from_centre_mm=self.from_centre_mm + x,
            from_reference_mm=self.from_reference_mm + (-y if self.place.anchor == "bottom" else y),
            matrix=there @ self.matrix,
            matrices=tuple(there @ matrix for matrix in self.matrices),
        )

    def drawn_larger(self, factor: float) -> "Placement":
        """Return the placement by which the same artwork is drawn larger, about the point by which its place holds it.

        It is for a picture alone: the lengths that it says stay those of the artwork as it is.
        """
        held = np.array(
            [self.width_mm / 2, {"top": 0.0, "middle": 0.5, "bottom": 1.0}[self.place.anchor] * self.height_mm]
        )
        grown = shift(*held) @ np.diag([factor, factor, 1.0]) @ shift(*-held)
        return replace(self, matrix=self.matrix @ grown, matrices=tuple(matrix @ grown for matrix in self.matrices))

    @property
    def copies_mm(self) -> tuple[tuple[float, float], ...]:
        """The middle of each copy, to the right of and below the reference point."""
        x, y = self.reference
        middles = np.array([self.width_mm / 2, self.height_mm / 2, 1.0])
        return tuple((float(m[0] @ middles) - x, float(m[1] @ middles) - y) for m in self.matrices)

    @property
    def reference(self) -> tuple[float, float]:
        """The point of the panel from which the distance is measured."""
        return self.panel.references[self.place.reference]


def held_by(place: Place, panel: Panel, box: tuple[float, float, float, float]) -> dict[str, float]:
    """Return how far a box (left, top, right, bottom) on a panel is from where a place measures, as a spec says it."""
    left, top, right, bottom = box
    x, y = panel.references[place.reference]
    down = {"top": top - y, "bottom": y - bottom, "middle": (top + bottom) / 2 - y}[place.anchor]
    return {"from_centre_mm": (left + right) / 2 - x, "from_reference_mm": down}


def box_corners(matrix: Matrix, width_mm: float, height_mm: float) -> list[tuple[float, float]]:
    """Return the corners of a box with its upper left at the origin, moved by the matrix, clockwise."""
    box = np.array([(0, 0), (width_mm, 0), (width_mm, height_mm), (0, height_mm)], dtype=np.float64)
    return [(float(x), float(y)) for x, y in box @ matrix[:2, :2].T + matrix[:2, 2]]


def places_on(blank: Blank) -> dict[str, Place]:
    """Return the places of a blank; one of the user's own has those of a catalogue's blank of its form."""
    found = places_of(blank.kind)
    if not found:
        form = blank_kind(blank.kind).form
        alike = [name for name, kind in blank_kinds().items() if kind.form == form and places_of(name)]
        found = places_of(alike[0]) if alike else {}
    return {name: place for name, place in found.items() if blank.panel(place.panel) is not None}


def place_on(spec: PlacementSpec, blank: Blank) -> Place:
    """Return the place that is asked for, else the blank's usual one.

    Raises :class:`ZinnetError` where there is no such place, or not on this blank.
    """
    found = places_on(blank)
    name = spec.place or blank_kind(blank.kind).place
    if name in found:
        return found[name]
    if name not in place_names():
        raise ZinnetError(f"There is no place “{name}”; on {blank.name.lower()} there are: {', '.join(found)}.")
    raise ZinnetError(f"{blank.name} has no place “{name}”; it has: {', '.join(found)}.")


def down_range(place: Place, spec: PlacementSpec, blank: Blank, habits: Habits) -> tuple[Range, str | None]:
    """Return how far from the reference artwork belongs, and the school that says so where one does.

    Where the place has a range of its own, the school's is kept within it.
    """
    own = place.down_of(blank.size_class)
    if not place.by_school:
        return own or Range(low_mm=0, target_mm=0, high_mm=0), None
    name = spec.school or habits.school_for(blank.kind, blank.size_class)
    by_school = school(name).range_mm(habits.finger_mm)
    if own is None or spec.school is not None:
        return by_school, name
    low, high = max(own.low_mm, by_school.low_mm), min(own.high_mm, by_school.high_mm)
    if low > high:
        return own, name
    return Range(low_mm=low, target_mm=min(max(by_school.target_mm, low), high), high_mm=high), name


def place_artwork(
    spec: PlacementSpec,
    blank: Blank,
    habits: Habits,
    *,
    width_mm: float,
    height_mm: float,
    setting: Setting | None = None,
) -> Placement:
    """Return the placement of artwork whose box, or that of its set letters, is ``width_mm`` x ``height_mm``."""
    place = place_on(spec, blank)
    panel = blank.panel(place.panel)
    assert panel is not None
    down, school_name = down_range(place, spec, blank, habits)
    across = place.across_of(blank.size_class)
    distance = down.target_mm if spec.from_reference_mm is None else spec.from_reference_mm
    off = across.target_mm if spec.from_centre_mm is None else spec.from_centre_mm
    arrangement = spec.arrangement or DEFAULTS[place.arrangement]
    x, y = panel.references[place.reference]
    if setting is not None and isinstance(arrangement, Arc):
        matrix = _on_arc(arrangement, panel, setting, off, distance, spec.turn_deg)
    else:
        centre_y = (
            y + {"top": distance + height_mm / 2, "bottom": -distance - height_mm / 2, "middle": distance}[place.anchor]
        )
        matrix = shift(x + off, centre_y) @ turn(spec.turn_deg) @ shift(-width_mm / 2, -height_mm / 2)
    matrices: tuple[Matrix, ...] = (matrix,)
    if isinstance(arrangement, Rows):
        matrices = copies_in_rows(arrangement, panel, width_mm, height_mm) or matrices
    elif isinstance(arrangement, Ring):
        matrices = copies_in_ring(arrangement, (x + off, y + distance), width_mm, height_mm)
    elif isinstance(arrangement, Band):
        middle_x, middle_y = moved(shapely.Point(width_mm / 2, height_mm / 2), matrix).coords[0]
        matrices = copies_in_band(arrangement, panel, (middle_x, middle_y), width_mm, height_mm)
    return Placement(
        place=place,
        panel=panel,
        width_mm=width_mm,
        height_mm=height_mm,
        from_centre_mm=off,
        from_reference_mm=distance,
        turn_deg=spec.turn_deg,
        school=school_name,
        down=down,
        across=across,
        matrix=matrices[0],
        matrices=matrices,
        arrangement=arrangement,
    )


def _on_arc(spec: Arc, panel: Panel, setting: Setting, off: float, up: float, turn_deg: float) -> Matrix:
    """Return the matrix that lays set letters on their circle; aside is along the circle."""
    circle = arc_under(spec, panel, up)
    x, y = circle.centre
    angle = float(np.degrees(off / circle.radius)) * (-1 if spec.inward else 1) + turn_deg
    foot_x, foot_y = setting.foot
    middle = (foot_x, foot_y + (-1 if setting.inward else 1) * setting.radius)
    return shift(x, y) @ turn(angle) @ shift(-middle[0], -middle[1])


def edge_distances(placement: Placement) -> tuple[float, float] | None:
    """Return how far the artwork's box is from the panel's left and right edge, in mm, at its middle."""
    edges = placement.panel.edges_at(placement.centre[1])
    if edges is None:
        return None
    across = [x for x, _ in placement.corners]
    return min(across) - edges[0], edges[1] - max(across)


def field_of(place: Place, panel: Panel) -> Region:
    """Return the area that artwork of a place may fill: what the usable area leaves of the panel less its rim."""
    field = panel.usable
    if place.less_mm is not None:
        less_x, less_y = place.less_mm
        left, top, right, bottom = panel.region.bounds
        inner = shapely.box(left + less_x / 2, top + less_y / 2, right - less_x / 2, bottom - less_y / 2)
        rim = shapely.buffer(panel.region, -min(less_x, less_y) / 2, join_style="mitre", quad_segs=64)
        field = common(as_region(rim), inner)
        if less_x or less_y:
            field = common(field, shapely.buffer(panel.usable, 1e-6))
    if place.within_visible and panel.visible_mm is not None:
        _, top, _, bottom = panel.region.bounds
        field = common(field, shapely.box(-panel.visible_mm / 2, top, panel.visible_mm / 2, bottom))
    return field


def largest_width(
    spec: PlacementSpec,
    blank: Blank,
    habits: Habits,
    *,
    unit_art: Region,
    aspect: float,
    field: Region | None = None,
) -> float:
    """Return the largest width in mm at which the artwork stays in the usable area, 0 where none does.

    ``unit_art`` is the artwork scaled to a width of 1; its held edge keeps its distance from the reference.
    """
    one = spec.model_copy(update={"arrangement": One()})
    inside = blank_panel(spec, blank).usable if field is None else field
    if inside.is_empty:
        return 0.0
    inside = as_region(shapely.buffer(inside, 1e-6))
    hull = shapely.convex_hull(unit_art)
    shapely.prepare(inside)

    def fits(width: float) -> bool:
        at = place_artwork(one, blank, habits, width_mm=width, height_mm=width * aspect)
        unit_to_panel = at.matrix @ np.diag([width, width, 1.0])
        return bool(shapely.covers(inside, moved(hull, unit_to_panel)))

    left, top, right, bottom = inside.bounds
    low, high = 0.0, float(max(right - left, (bottom - top) / aspect)) + 0.1
    if not fits(1.0):
        return 0.0
    while high - low > 0.02:
        middle = (low + high) / 2
        low, high = (middle, high) if fits(middle) else (low, middle)
    return low


def blank_panel(spec: PlacementSpec, blank: Blank) -> Panel:
    """Return the panel on which the place lies."""
    panel = blank.panel(place_on(spec, blank).panel)
    assert panel is not None
    return panel


def nearest_inside(spec: PlacementSpec, art: Region, placement: Placement) -> PlacementSpec | None:
    """Return the placement nearest to this one at which ``art`` (on the panel, mm) is inside the usable area.

    The shifts that keep one point inside are the usable area less that point; those that keep every spot
    on the art's hull inside are what all these have in common, but for shifts that would lay the hull over a hole.
    None where there are none.
    """
    usable = placement.panel.usable
    if usable.is_empty or not _fits_within(art.bounds, usable.bounds):
        return None
    hull = shapely.convex_hull(art)
    corners = shapely.get_coordinates(shapely.segmentize(shapely.simplify(hull, 0.1), HULL_STEP_MM).exterior)[:-1]
    shifts = shapely.intersection_all([shapely.affinity.translate(usable, -x, -y) for x, y in corners])
    holes = [_around_hole(hole, corners) for part in usable.geoms for hole in part.interiors]
    shifts = shapely.buffer(shapely.difference(shifts, shapely.union_all(holes)), -0.15)
    if shifts.is_empty:
        return None
    nearest, _ = shapely.ops.nearest_points(shifts, shapely.Point(0, 0))
    down = -nearest.y if placement.place.anchor == "bottom" else nearest.y
    return spec.model_copy(
        update={
            "from_centre_mm": round(placement.from_centre_mm + nearest.x, 1),
            "from_reference_mm": round(placement.from_reference_mm + down, 1),
        }
    )


def _fits_within(box: tuple[float, float, float, float], room: tuple[float, float, float, float]) -> bool:
    """Tell whether a box is neither wider nor taller than another one."""
    return box[2] - box[0] <= room[2] - room[0] and box[3] - box[1] <= room[3] - room[1]


def _around_hole(hole: LinearRing, corners: NDArray[np.float64]) -> BaseGeometry:
    """Return the shifts at which a hull with these corners meets a hole: the Minkowski sum of the hole and its mirror.

    The hole is taken by its own hull, so that the sum is the hull of all differences of corners.
    """
    edge = shapely.get_coordinates(shapely.convex_hull(hole))
    differences = (edge[:, None, :] - corners[None, :, :]).reshape(-1, 2)
    return shapely.convex_hull(shapely.MultiPoint(differences))
