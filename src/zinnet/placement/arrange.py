"""Arrangements: one, rows and columns, letters along an arc, copies round a circle, a band round a jar or cup."""

import math
from dataclasses import dataclass
from itertools import pairwise
from typing import Annotated, Literal

import shapely
from pydantic import Field

from zinnet.base.errors import ZinnetError
from zinnet.base.frozen import Frozen
from zinnet.base.stages import stage
from zinnet.blanks.model import Arc as Circle
from zinnet.blanks.model import Panel, Point
from zinnet.data.limits import limits
from zinnet.geometry.region import Region, union
from zinnet.geometry.transform import Matrix, moved, shift, turn
from zinnet.placement.character import are_spaces, baseline_of, letters_of
from zinnet.placement.rows import MOST_IN_A_ROW, Grid, positions, positions_of_counts

WITHIN_MM = 1e-3
CENTRING_STEPS = 12
MOST_COPIES = 2000


class One(Frozen):
    """The artwork once."""

    kind: Literal["one"] = "one"


class Rows(Frozen):
    """The artwork in rows and columns over the whole usable area; None: as many as fit, or a proposed gap.

    With ``counts`` there are as many in each row as these say, every row in the middle.
    """

    kind: Literal["rows"] = "rows"
    columns: int | None = Field(default=None, ge=1, le=500)
    rows: int | None = Field(default=None, ge=1, le=500)
    gap_x_mm: float | None = Field(default=None, ge=0, le=5000)
    gap_y_mm: float | None = Field(default=None, ge=0, le=5000)
    margin_mm: float = Field(default=0.0, ge=0, le=2000)
    stagger: bool = True
    counts: tuple[Annotated[int, Field(ge=1, le=MOST_IN_A_ROW)], ...] = Field(default=(), max_length=MOST_IN_A_ROW)


class Arc(Frozen):
    """Letters along an arc, each turned to its tangent; None: the panel's own seam, or the letters' own spacing."""

    kind: Literal["arc"] = "arc"
    radius_mm: float | None = Field(default=None, ge=10, le=20_000)
    gap_mm: float | None = Field(default=None, ge=0, le=500)
    inward: bool = False


class Ring(Frozen):
    """Copies round a circle, their feet towards its middle, or all upright."""

    kind: Literal["ring"] = "ring"
    count: int = Field(default=8, ge=1, le=200)
    radius_mm: float = Field(default=150.0, ge=0, le=5000)
    upright: bool = False


class Band(Frozen):
    """Copies evenly round a jar or cup, the joint in the middle of a gap."""

    kind: Literal["band"] = "band"
    count: int | None = Field(default=None, ge=1, le=200)
    gap_mm: float | None = Field(default=None, ge=0, le=500)


Arrangement = Annotated[One | Rows | Arc | Ring | Band, Field(discriminator="kind")]
DEFAULTS: dict[str, One | Rows | Arc | Ring | Band] = {
    "one": One(),
    "rows": Rows(),
    "arc": Arc(),
    "ring": Ring(),
    "band": Band(),
}


@dataclass(frozen=True, eq=False)
class Setting:
    """Letters set along an arc: each has a matrix from artwork mm to set artwork mm.

    ``foot`` is the middle of the arc in set artwork mm, ``radius`` that of the line that the letters stand on.
    """

    letters: tuple[Region, ...]
    matrices: tuple[Matrix, ...]
    baseline: float
    foot: Point
    radius: float
    inward: bool
    gap_mm: float


def usual_gap_mm(width_mm: float) -> float:
    """Return the gap that is proposed between motifs of a width."""
    return float(limits()["arrangement"]["gap_share"]) * width_mm


def grid_on(spec: Rows, panel: Panel, width: float, height: float) -> Grid:
    """Return the grid of a motif on a panel's usable area less the margin."""
    left, top, right, bottom = panel.usable.bounds
    usual = usual_gap_mm(width)
    return Grid(
        field_width=max(0.0, right - left - 2 * spec.margin_mm),
        field_height=max(0.0, bottom - top - 2 * spec.margin_mm),
        width=width,
        height=height,
        gap_x=usual if spec.gap_x_mm is None else spec.gap_x_mm,
        gap_y=usual if spec.gap_y_mm is None else spec.gap_y_mm,
        stagger=spec.stagger,
    )


def copies_in_rows(spec: Rows, panel: Panel, width: float, height: float) -> tuple[Matrix, ...]:
    """Return the shift of each copy whose box lies in the usable area. Raises where not a single one fits."""
    left, top, _, _ = panel.usable.bounds
    grid = grid_on(spec, panel, width, height)
    found = positions_of_counts(grid, spec.counts) if spec.counts else positions(grid, spec.columns, spec.rows)
    if len(found) > MOST_COPIES:
        raise ZinnetError(f"{len(found)} copies are more than {MOST_COPIES}; make the motif or its gaps larger.")
    corner_x, corner_y = left + spec.margin_mm, top + spec.margin_mm
    boxes = [shapely.box(corner_x + x, corner_y + y, corner_x + x + width, corner_y + y + height) for x, y in found]
    field = shapely.buffer(panel.usable, 0.01)
    shapely.prepare(field)
    inside = shapely.covers(field, boxes) if boxes else []
    if spec.counts and not all(inside):
        raise ZinnetError(
            f"{sum(not fits for fits in inside)} of {len(boxes)} copies in rows of {'-'.join(map(str, spec.counts))} "
            "reach beyond the usable area; make the motif or its gaps smaller."
        )
    return tuple(shift(corner_x + x, corner_y + y) for (x, y), fits in zip(found, inside, strict=True) if fits)


def copies_in_ring(spec: Ring, centre: Point, width: float, height: float) -> tuple[Matrix, ...]:
    """Return the place of each copy round a circle, the first at the top, clockwise."""
    found = []
    for k in range(spec.count):
        angle = 360.0 * k / spec.count
        out = shift(*centre) @ turn(angle) @ shift(0, -spec.radius_mm)
        upright = turn(-angle) if spec.upright else turn(0)
        found.append(out @ upright @ shift(-width / 2, -height / 2))
    return tuple(found)


def band_room(panel: Panel, y_mm: float) -> float:
    """Return the length in mm at a height that copies are spread over: all round, or what the usable area leaves."""
    if panel.round_mm is not None:
        return panel.round_mm if panel.arc is None else panel.round_mm * (1 - y_mm / panel.arc.radius)
    left, _, right, _ = panel.usable.bounds
    return float(right - left)


def band_count(spec: Band, panel: Panel, width: float, y_mm: float) -> int:
    """Return how many copies go round: as asked, else as many as leave a gap that holds the joint too."""
    if spec.count is not None:
        return spec.count
    room = band_room(panel, y_mm)
    left, _, right, _ = panel.usable.bounds
    joint = room - (right - left) if panel.arc is None else 0.0
    share = limits()["arrangement"]["band_gap_share"]
    least = max(share * width if spec.gap_mm is None else spec.gap_mm, joint)
    return max(1, math.floor((room + 1e-6) / (width + least)))


def copies_in_band(spec: Band, panel: Panel, middle: Point, width: float, height: float) -> tuple[Matrix, ...]:
    """Return the place of each copy, evenly round; on a tapered wall each is turned with it."""
    x, y = middle
    count = band_count(spec, panel, width, y)
    step = band_room(panel, y) / count
    found = []
    for k in range(count):
        along = (k - (count - 1) / 2) * step
        if panel.arc is None:
            at = shift(x + along, y)
        else:
            centre_x, centre_y = panel.arc.centre
            angle = math.degrees(along / (panel.arc.radius - y))
            at = shift(centre_x, centre_y) @ turn(angle) @ shift(x - centre_x, y - centre_y)
        found.append(at @ shift(-width / 2, -height / 2))
    return tuple(found)


@stage(most=64)
def set_on_arc(silhouette: Region, radius: float, gap_mm: float | None, inward: bool) -> Setting | None:
    """Return how the letters of artwork (mm) stand on a circle, with equal clear gaps; None for a single letter.

    Every letter's foot, the middle of its box on the baseline, lies on the circle, and its baseline is the
    tangent there. Letters are placed from the middle outward; the clear gap between neighbours is the least
    distance of their outlines. ``inward`` letters stand on the circle's inside, heads to its centre.
    """
    letters = letters_of(silhouette)
    if len(letters) < 2:
        return None
    baseline = baseline_of(letters)
    upright = [_stood(letter, baseline) for letter in letters]
    gaps = _source_gaps(letters)
    boxes = [b.bounds[0] - a.bounds[2] for a, b in pairwise(letters)]
    spaces = are_spaces(boxes, max(letter.bounds[3] - letter.bounds[1] for letter in letters))
    own = [gap for gap, space in zip(gaps, spaces, strict=True) if not space]
    wanted = gap_mm if gap_mm is not None else max(0.3, sum(own) / len(own) if own else gaps[0])
    wide = [gap for gap, space in zip(gaps, spaces, strict=True) if space]
    space_gap = max(sum(wide) / len(wide), wanted) if wide else wanted
    targets = [space_gap if space else wanted for space in spaces]
    angles = _angles([region for region, _ in upright], targets, radius, inward)
    sign = -1 if inward else 1
    matrices = tuple(
        _onto_circle(angle, radius, inward) @ shift(-foot, -baseline)
        for angle, (_, foot) in zip(angles, upright, strict=True)
    )
    placed = [moved(letter, matrix) for letter, matrix in zip(letters, matrices, strict=True)]
    left, top, _, _ = shapely.total_bounds(placed).tolist()
    to_corner = shift(-left, -top)
    return Setting(
        letters=letters,
        matrices=tuple(to_corner @ matrix for matrix in matrices),
        baseline=baseline,
        foot=(-left, -sign * radius - top),
        radius=radius,
        inward=inward,
        gap_mm=wanted,
    )


def stand_on_arc(letters: list[Region], radius: float) -> list[Region]:
    """Return the letters of a word, each moved onto a circle of this radius; a single one stays as it is."""
    setting = set_on_arc(union(letters), radius, None, False)
    if setting is None:
        return letters
    return [moved(letter, matrix) for letter, matrix in zip(setting.letters, setting.matrices, strict=True)]


def _stood(letter: Region, baseline: float) -> tuple[Region, float]:
    """Return a letter with its foot at (0, 0), and where its foot was."""
    left, _, right, _ = letter.bounds
    foot = (left + right) / 2
    return moved(letter, shift(-foot, -baseline)), foot


def _source_gaps(letters: tuple[Region, ...]) -> list[float]:
    return [float(shapely.distance(a, b)) for a, b in pairwise(letters)]


def _onto_circle(angle_deg: float, radius: float, inward: bool) -> Matrix:
    """Return the matrix that stands what is at (0, 0) on the circle about (0, 0), turned to its tangent."""
    if inward:
        return turn(-angle_deg) @ shift(0, radius)
    return turn(angle_deg) @ shift(0, -radius)


def _angles(letters: list[Region], targets: list[float], radius: float, inward: bool) -> list[float]:
    """Return the angle of each letter, from the middle outward, and then centred by the outermost edges."""
    middle = len(letters) // 2
    angles = [0.0] * len(letters)
    for direction, order in ((1, range(middle + 1, len(letters))), (-1, range(middle - 1, -1, -1))):
        for index in order:
            before = index - direction
            still = moved(letters[before], _onto_circle(angles[before], radius, inward))
            gap = targets[min(index, before)]
            angles[index] = _angle_at_gap(letters[index], still, angles[before], direction, gap, radius, inward)
    return _centred(letters, angles, radius, inward)


def _centred(letters: list[Region], angles: list[float], radius: float, inward: bool) -> list[float]:
    """Return the angles turned together until the word reaches as far to the left as to the right."""
    for _ in range(CENTRING_STEPS):
        placed = [
            moved(letter, _onto_circle(angle, radius, inward)) for letter, angle in zip(letters, angles, strict=True)
        ]
        left, _, right, _ = shapely.total_bounds(placed).tolist()
        off = (left + right) / 2
        if abs(off) < WITHIN_MM:
            break
        back = math.degrees(math.asin(max(-0.5, min(0.5, off / radius))))
        angles = [angle - back for angle in angles]
    return angles


def _angle_at_gap(
    letter: Region, still: Region, start: float, direction: int, gap: float, radius: float, inward: bool
) -> float:
    """Return the angle at which a letter is ``gap`` from its neighbour, by bisection."""

    def distance(angle: float) -> float:
        return float(shapely.distance(moved(letter, _onto_circle(angle, radius, inward)), still))

    width = letter.bounds[2] - letter.bounds[0] + still.bounds[2] - still.bounds[0] + gap + 1.0
    near, far = 0.0, min(179.0, math.degrees(width / radius) + 0.01)
    while distance(start + direction * far) < gap:
        if far >= 179.0:
            raise ZinnetError("The word is too long for this circle; make it smaller, or the radius larger.")
        near, far = far, min(179.0, far * 1.5)
    while math.radians(far - near) * radius > WITHIN_MM:
        angle = (near + far) / 2
        near, far = (near, angle) if distance(start + direction * angle) >= gap else (angle, far)
    return start + direction * far


def arc_under(spec: Arc, panel: Panel, up_mm: float) -> Circle:
    """Return the circle that letters stand on: ``up_mm`` outside the panel's seam, or one of a radius of one's own.

    A circle of one's own goes through the point ``up_mm`` above the panel's first reference point, which is its top.
    """
    if spec.radius_mm is None and panel.arc is not None and panel.arc.radius > 0:
        return Circle(panel.arc.centre, panel.arc.radius + up_mm)
    radius = spec.radius_mm or 200.0
    x, y = next(iter(panel.references.values()))
    sign = -1 if spec.inward else 1
    return Circle((x, y - up_mm + sign * radius), radius)
