"""Where the platen goes: the fewest positions that cover all film of a step and meet nothing that must stay cool."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry import Polygon

from zinnet.base.stages import stage
from zinnet.blanks.model import KeepOut
from zinnet.geometry.region import EMPTY, Region, common, hull_box, union
from zinnet.geometry.transform import moved, turn
from zinnet.machines.platens import Platen
from zinnet.pressing.box_cover import Boxes, fewest_boxes
from zinnet.pressing.film_dots import dots_of
from zinnet.pressing.platen_rows import in_reading_order, in_rows, wholes
from zinnet.pressing.platen_settle import cooler, pressed_too_often, settled
from zinnet.pressing.platen_spot import is_padded

TURN_STEP_DEG = 1.0
FINE_MM = 0.005
"""The hull of the film is taken so finely."""
LEAST_MM2 = 1e-3
"""What is smaller than this is rounding."""
ROUNDING_MM = 1e-3

Box = tuple[float, float, float, float]


@dataclass(frozen=True)
class Position:
    """One place of the platen on a panel: its middle in mm, how it is turned (degrees), and what is padded under it."""

    x: float
    y: float
    turn_deg: float
    width_mm: float
    height_mm: float
    pads: tuple[str, ...] = ()

    @property
    def box(self) -> Polygon:
        """The platen's outline on the panel."""
        half_w, half_h = self.width_mm / 2, self.height_mm / 2
        straight = shapely.box(-half_w, -half_h, half_w, half_h)
        return moved(straight, _placed(self.x, self.y, self.turn_deg))


@dataclass(frozen=True, eq=False)
class Coverage:
    """The positions in the order of pressing. ``least`` is the fewest that could do: as many, where it is proven.

    ``left`` is film that no position can cover without pressing on what must stay cool.
    """

    positions: tuple[Position, ...]
    least: int
    left: Region = EMPTY

    @property
    def is_proven(self) -> bool:
        """Whether fewer positions can't do."""
        return len(self.positions) <= self.least

    @property
    def pressed(self) -> Region:
        """All that lies under the platen at one of the positions."""
        return union(position.box for position in self.positions)


def _placed(x: float, y: float, turn_deg: float) -> NDArray[np.float64]:
    matrix = turn(turn_deg).copy()
    matrix[:2, 2] = (x, y)
    return matrix


def cover(
    films: Sequence[Region],
    platen: Platen,
    keep_outs: Sequence[KeepOut],
    *,
    overlap_mm: float,
    done: Region = EMPTY,
    soft: Region = EMPTY,
    turns: bool = True,
    most: Sequence[float] = (),
) -> Coverage:
    """Return the fewest positions of a platen that cover all films, which may lie on one another.

    Each of the films that fits within the platen's margins is pressed whole, with all that lies on it where that fits
    too; one that is larger is pressed in parts that overlap. Of as few positions, those are taken that press least
    twice, ``done`` counted in, whose edges lie on least film, and which stand in rows; before all that, such that no
    film is pressed more often than it bears.

    Parameters
    ----------
    films : regions, mm
        What is to be pressed, on the panel, piece by piece.
    platen : Platen, mm
        Its width, height and margin.
    keep_outs : keep-outs, mm
        What must stay cool.
    overlap_mm : float, mm
        Of neighbouring positions.
    done : Region, mm
        What was pressed before.
    soft : Region, mm
        What they keep off where they can: collars and ribs.
    turns : bool
        Whether the platen may be turned, also along its diagonal.
    most : sequence of numbers
        At how many positions the platen may lie on each of the films; at any number where nothing is said.

    Returns
    -------
    Coverage, mm and degrees
        The positions, and what no position can reach.
    """
    most = tuple(most) or (math.inf,) * len(films)
    pairs = [(film, times) for film, times in zip(films, most, strict=True) if not film.is_empty]
    if not pairs:
        return Coverage((), 0)
    films, most = [film for film, _ in pairs], tuple(times for _, times in pairs)
    hard = union([one.region for one in keep_outs if not is_padded(one)])
    box = hull_box(films)
    found = None if soft.is_empty else at_once(box, platen, union([hard, soft]), turns)
    found = found or at_once(box, platen, hard, turns)
    if found is None:
        keys = tuple(_Key(film) for film in films)
        found = _cover(keys, most, platen, _Key(hard), overlap_mm, _Key(union([done, soft])), turns)
    padded = [one for one in keep_outs if is_padded(one)]
    if not padded:
        return found
    return replace(found, positions=tuple(_with_pads(one, padded) for one in found.positions))


def _with_pads(position: Position, padded: Sequence[KeepOut]) -> Position:
    under = [one.kind for one in padded if common(one.region, position.box).area > LEAST_MM2]
    said = ["pocket or seam" if kind == "other" else kind for kind in under]
    return replace(position, pads=tuple(dict.fromkeys(said)))


def at_once(box: Box, platen: Platen, hard: Region, turns: bool) -> Coverage | None:
    """Return the one position that covers a box, the platen straight or upright, where there is one."""
    for angle in (0.0, 90.0) if turns and platen.width_mm != platen.height_mm else (0.0,):
        one = _one(box, Plate.of(platen, upright=angle == 90.0), hard)
        if one is not None:
            return Coverage((Position(*one, angle, platen.width_mm, platen.height_mm),), 1)
    return None


@dataclass(frozen=True)
class Plate:
    """A platen as it lies, in mm: its outline, and what of it presses evenly."""

    width: float
    height: float
    inner_width: float
    inner_height: float

    @classmethod
    def of(cls, platen: Platen, *, upright: bool = False) -> "Plate":
        """Return a platen as it lies straight, or upright."""
        sizes = (platen.width_mm, platen.height_mm, *platen.inner)
        return cls(sizes[1], sizes[0], sizes[3], sizes[2]) if upright else cls(*sizes)


class _Key:
    """A region as the key of a cache: equal where its outline is the very same."""

    def __init__(self, region: Region) -> None:
        self.region = region
        self._bytes = shapely.to_wkb(region)

    def __hash__(self) -> int:
        return hash(self._bytes)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Key) and self._bytes == other._bytes


@stage(most=256)
def _cover(
    films: tuple[_Key, ...],
    most: tuple[float, ...],
    platen: Platen,
    hard: _Key,
    overlap_mm: float,
    done: _Key,
    turns: bool,
) -> Coverage:
    regions, keep, plate = [key.region for key in films], hard.region, Plate.of(platen)
    hull = shapely.convex_hull(shapely.GeometryCollection(regions))
    for angle in slants(hull, *platen.inner) if turns else ():
        one = _one(_turned(hull, angle).bounds, plate, _turned(keep, angle))
        if one is not None:
            return Coverage((_back(*one, plate, angle),), 1)
    best: Coverage | None = None
    for angle in _several_turns(hull, *platen.inner, turns):
        tried = _several(regions, most, plate, keep, overlap_mm, done.region, angle)
        if best is None or _worth(tried) < _worth(best):
            best = tried
    assert best is not None
    return best


def _worth(found: Coverage) -> tuple[float, int]:
    return round(found.left.area, 3), len(found.positions)


def _turned(region: Region, angle: float) -> Region:
    return moved(region, turn(-angle)) if angle else region


def _one(box: Box, plate: Plate, hard: Region) -> tuple[float, float] | None:
    """Return the middle of a platen that covers a box and meets nothing hard, the nearest to the box's own middle."""
    left, top, right, bottom = box
    slack_x, slack_y = plate.inner_width - (right - left), plate.inner_height - (bottom - top)
    if slack_x < -1e-9 or slack_y < -1e-9:
        return None
    x, y = (left + right) / 2, (top + bottom) / 2
    if hard.is_empty:
        return x, y
    spots = shapely.box(x - slack_x / 2, y - slack_y / 2, x + slack_x / 2, y + slack_y / 2)
    free = shapely.difference(spots, reach(hard, plate.width, plate.height))
    if free.is_empty:
        return None
    nearest = shapely.shortest_line(free, shapely.Point(x, y)).coords[0]
    return float(nearest[0]), float(nearest[1])


def _back(x: float, y: float, plate: Plate, angle: float) -> Position:
    """Return a position of the turned panel on the panel as it lies."""
    if angle:
        x, y = (turn(angle) @ (x, y, 1.0))[:2].tolist()
    return Position(x, y, angle, plate.width, plate.height)


def reach(hard: Region, width: float, height: float) -> Region:
    """Return the middles at which a platen would meet what must stay cool: its parts' hulls, grown by half of it."""
    half = np.array([[-1, -1], [1, -1], [1, 1], [-1, 1]]) * (width / 2, height / 2)
    grown = []
    for part in hard.geoms:
        corners = shapely.get_coordinates(shapely.convex_hull(part))
        spread = (corners[:, None, :] + half[None, :, :]).reshape(-1, 2)
        grown.append(shapely.buffer(shapely.convex_hull(shapely.MultiPoint(spread)), -1e-7, join_style="mitre"))
    return union(grown)


def slants(film: Region, width: float, height: float) -> list[float]:
    """Return the turns at which the film would lie within the platen, the smallest first: a long piece on its diagonal.

    Tried are whole degrees, and the directions of the film's own hull.
    """
    corners = shapely.get_coordinates(shapely.simplify(shapely.convex_hull(film), FINE_MM))
    if np.ptp(corners, axis=0).max(initial=0.0) > math.hypot(width, height) + 1e-9:
        return []
    edges = np.diff(corners, axis=0)
    own = np.degrees(np.arctan2(edges[:, 1], edges[:, 0])) % 180.0
    angles = np.unique(np.concatenate([np.arange(0.0, 180.0, TURN_STEP_DEG), own, (own + 90.0) % 180.0]))
    radians = np.radians(angles)
    across = np.stack([np.cos(radians), np.sin(radians)])
    down = np.stack([-np.sin(radians), np.cos(radians)])
    wide, high = np.ptp(corners @ across, axis=0), np.ptp(corners @ down, axis=0)
    fitting = angles[(wide <= width + 1e-9) & (high <= height + 1e-9)]
    return sorted(fitting.tolist(), key=lambda angle: min(angle, 180.0 - angle))


def _several_turns(film: Region, width: float, height: float, turns: bool) -> tuple[float, ...]:
    """Return the turns that are worth trying where one position can't do."""
    if not turns:
        return (0.0,)
    corners = shapely.get_coordinates(shapely.minimum_rotated_rectangle(shapely.convex_hull(film)))
    angle = 0.0
    if len(corners) > 2:
        edge = corners[1] - corners[0]
        angle = math.degrees(math.atan2(edge[1], edge[0])) % 90.0
    slanted = (angle,) if 1.0 < angle < 89.0 else ()
    return (0.0, *((90.0,) if width != height else ()), *slanted)


def _several(
    films: Sequence[Region],
    most: Sequence[float],
    plate: Plate,
    hard: Region,
    overlap_mm: float,
    done: Region,
    angle: float,
) -> Coverage:
    """Return the positions of a platen that is turned so, where one can't do."""
    films = [_turned(film, angle) for film in films]
    hard, done = _turned(hard, angle), _turned(done, angle)
    blocked = reach(hard, plate.width, plate.height) if not hard.is_empty else EMPTY
    width, height = plate.inner_width, plate.inner_height
    overlap = min(overlap_mm, 0.5 * min(width, height))
    pieces, rest = wholes(films, width, height, blocked)
    task = Boxes(rest, width, height, width - overlap, height - overlap, blocked, pieces)
    found = fewest_boxes(task)
    rows = in_rows(task, found.middles)
    outer = plate.width, plate.height
    dots = dots_of(films, most, done)
    middles = settled(task, found.middles, dots, outer)
    if rows is not None:
        along = settled(task, rows, dots, outer, along=True)
        if pressed_too_often(dots, along, outer) <= pressed_too_often(dots, middles, outer):
            middles = along
    middles = cooler(task, middles, dots, outer)
    back = {(one.x, one.y): one for one in (_back(x, y, plate, angle) for x, y in middles)}
    positions = tuple(back[middle] for middle in in_reading_order(list(back), height))
    return Coverage(positions, found.least, _turned(found.left, -angle) if angle else found.left)


def leaves_whole(film: Region, positions: Sequence[Position]) -> bool:
    """Tell whether every part of the film lies whole under one of the positions."""
    boxes = [shapely.buffer(one.box, ROUNDING_MM) for one in positions]
    return all(any(box.covers(part) for box in boxes) for part in film.geoms)
