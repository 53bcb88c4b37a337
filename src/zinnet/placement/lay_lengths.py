"""Where a piece is laid: four lengths from points of its film that a ruler finds, enough to put it in its place.

Heights are measured straight down from the reference of its place, sides straight across to the panel's edge, and what
lies there already straight from edge to edge. Of all points that can be found on the film those are taken by which the
place is told best; where plain ones do as well, plain ones.
"""

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import product
from typing import Literal

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry

from zinnet.base.stages import stage
from zinnet.base.units import Unit, write_length
from zinnet.blanks.model import Panel
from zinnet.data.limits import limits
from zinnet.geometry.region import Region

LengthKind = Literal["reference", "left", "right", "beside", "second"]
Spot = tuple[float, float]

EIGHTHS = {
    "highest point": (0.0, -1.0),
    "lowest point": (0.0, 1.0),
    "left end": (-1.0, 0.0),
    "right end": (1.0, 0.0),
    "upper left corner": (-1.0, -1.0),
    "upper right corner": (1.0, -1.0),
    "lower left corner": (-1.0, 1.0),
    "lower right corner": (1.0, 1.0),
}
"""Points of a film's edge by the direction in which nothing of it lies farther out, in the order of their plainness."""
UPPER = ("highest point", "upper left corner", "upper right corner")
LOWER = ("lowest point", "lower left corner", "lower right corner")
LEFT = ("left end", "upper left corner", "lower left corner")
RIGHT = ("right end", "upper right corner", "lower right corner")
SHOWN_MM: dict[Unit, float] = {"mm": 0.05, "in": 0.1}
"""How far a length may be from what is shown of it."""
GOOD_MM, GOOD_DEG = 0.25, 0.15
"""So exactly a place is told by plain points at best; nothing better is looked for then."""
EDGE_MM = 1e-3
STEP_MM, STEP_RAD = 0.02, 2e-4
TILTS_DEG = (-13.0, -8.0, -4.0, -1.5, 1.5, 4.0, 8.0, 13.0)
FAR_RAD = math.radians(20)
"""From such tilts another place is looked for; one that is tilted farther is taken for its own by nobody."""
OTHER_MM, OTHER_DEG = 0.3, 0.25
"""A place that is farther off is another one."""
READ_ALIKE_MM = 0.15
"""Lengths that differ by less are read alike."""
MOST_TRIED, ROUNDS = 12, 6


@dataclass(frozen=True)
class LayLength:
    """One length: from a point of the film, which has a name, to what it is measured to; both spots on the panel."""

    kind: LengthKind
    mm: float
    point: str
    start: Spot
    end: Spot

    def shown(self, unit: Unit = "mm") -> str:
        """Return the length as it is shown."""
        return write_length(abs(self.mm), unit=unit)


@dataclass(frozen=True)
class Laying:
    """How a piece is laid. ``error_mm`` and ``error_deg`` are how far off it may lie by what is not shown of lengths.

    ``centred_mm`` is how far its middle is to the right of the panel's centre line.
    """

    lengths: tuple[LayLength, ...]
    centred_mm: float
    error_mm: float
    error_deg: float
    rules: tuple[Callable[[Spot], float], ...] = ()
    """What a ruler reads for each length where its point lies elsewhere."""


@dataclass(frozen=True)
class _Rule:
    """A way to measure: from a named point of the film; ``reach`` says the length where that point lies elsewhere."""

    kind: LengthKind
    point: str
    start: Spot
    reach: Callable[[Spot], tuple[float, Spot]]

    def mm_at(self, start: Spot) -> float:
        return self.reach(start)[0]


@stage(most=512)
def laying_of(
    piece: Region,
    panel: Panel,
    reference: Spot | None,
    pressed: Region | None = None,
    *,
    low: bool = False,
    unit: Unit = "mm",
) -> Laying:
    """Return the four lengths by which a piece is laid.

    Parameters
    ----------
    piece
        The film where it belongs, in the panel's mm.
    panel
        What it lies on.
    reference
        The point whose height is measured from, such as the collar's; None: the panel's upper edge.
    pressed
        What lies on the panel already; None for the first piece.
    low
        Whether the reference lies below: then the lower points of the film are measured.
    unit
        In which unit lengths are shown; by that they are rounded.
    """
    tips = _tips(piece)
    down = _from_edge(panel) if reference is None else _down_from(reference)
    heights = [_Rule("reference", name, tips[name], down) for name in (LOWER if low else UPPER)]
    lefts = [_Rule("left", name, tips[name], _to_edge(panel, 0)) for name in LEFT]
    rights = [_Rule("right", name, tips[name], _to_edge(panel, 1)) for name in RIGHT]
    lasts = [_Rule("second", name, tips[name], down) for name in (*UPPER[1:], *LOWER)]
    if pressed is not None and not pressed.is_empty:
        edge, nearest = pressed.boundary, limits()["as_laid"]["ruler_mm"]
        shapely.prepare(edge)
        beside = [_Rule("beside", name, tips[name], _to_film(edge)) for name in EIGHTHS]
        beside.sort(key=lambda rule: round(rule.mm_at(rule.start), 1))
        lasts = [*(rule for rule in beside if rule.mm_at(rule.start) >= nearest), *lasts]
    left, top, right, bottom = piece.bounds
    middle = ((left + right) / 2, (top + bottom) / 2)
    ways = [
        way for way in product(heights, lefts, rights, lasts) if way[3].start != way[0].start or way[3].kind != "second"
    ]
    slopes = {rule: _slope(rule, middle) for rules in (heights, lefts, rights, lasts) for rule in rules}
    errors = _errors(np.array([[slopes[rule] for rule in way] for way in ways]), SHOWN_MM[unit])
    worth = np.maximum(np.maximum(errors[:, 0] / GOOD_MM, errors[:, 1] / GOOD_DEG), 1.0)
    has_film = any(rule.kind == "beside" for rule in lasts)
    plainer = np.array([0.0 if way[3].kind == "beside" or not has_film else 0.5 for way in ways])
    order = np.argsort(np.round(worth + plainer, 6), kind="stable").tolist()
    best = next((at for at in order[:MOST_TRIED] if _tells_one_place(ways[at], middle)), order[0])
    lengths = tuple(_measured(rule) for rule in ways[best])
    rules = tuple(rule.mm_at for rule in ways[best])
    return Laying(lengths, middle[0], float(errors[best, 0]), float(errors[best, 1]), rules)


def _tips(piece: Region) -> dict[str, Spot]:
    """Return the points of a film's edge that can be found: the farthest out to each side and to each corner."""
    corners = shapely.get_coordinates(shapely.convex_hull(piece))
    found = {}
    for name, way in EIGHTHS.items():
        x, y = corners[np.argmax(np.round(corners @ np.array(way), 6))].tolist()
        found[name] = (x, y)
    return found


def _down_from(reference: Spot) -> Callable[[Spot], tuple[float, Spot]]:
    return lambda start: (start[1] - reference[1], (start[0], reference[1]))


def _from_edge(panel: Panel) -> Callable[[Spot], tuple[float, Spot]]:
    """Return how far a spot is below the panel's upper edge, straight down."""
    left, top, right, bottom = panel.region.bounds

    def reach(start: Spot) -> tuple[float, Spot]:
        x = min(max(start[0], left + EDGE_MM), right - EDGE_MM)
        met = shapely.bounds(shapely.intersection(panel.region, shapely.LineString([(x, top - 1), (x, bottom + 1)])))
        edge = float(met[1])
        return start[1] - edge, (start[0], edge)

    return reach


def _to_edge(panel: Panel, side: int) -> Callable[[Spot], tuple[float, Spot]]:
    def reach(start: Spot) -> tuple[float, Spot]:
        edge = panel.edges_near(start[1])[side]
        return (start[0] - edge if side == 0 else edge - start[0]), (edge, start[1])

    return reach


def _to_film(edge: BaseGeometry) -> Callable[[Spot], tuple[float, Spot]]:
    def reach(start: Spot) -> tuple[float, Spot]:
        there = shapely.shortest_line(shapely.Point(start), edge)
        x, y = shapely.get_coordinates(there)[1].tolist()
        return float(shapely.length(there)), (x, y)

    return reach


def _measured(rule: _Rule) -> LayLength:
    mm, end = rule.reach(rule.start)
    return LayLength(rule.kind, mm, rule.point, rule.start, end)


def _slope(rule: _Rule, middle: Spot) -> tuple[float, float, float]:
    """Return how a length changes as the piece moves right and down (per mm) and turns about its middle (per rad)."""
    x, y = rule.start
    away = (x - middle[0], y - middle[1])

    def at(right: float, down: float, turned: float) -> float:
        cosine, sine = math.cos(turned), math.sin(turned)
        spot = (
            middle[0] + cosine * away[0] - sine * away[1] + right,
            middle[1] + sine * away[0] + cosine * away[1] + down,
        )
        return rule.mm_at(spot)

    steps = ((STEP_MM, 0.0, 0.0), (0.0, STEP_MM, 0.0), (0.0, 0.0, STEP_RAD))
    found = [(at(*step) - at(*(-one for one in step))) / (2 * sum(step)) for step in steps]
    return found[0], found[1], found[2]


def _tells_one_place(way: Sequence[_Rule], middle: Spot) -> bool:
    """Tell whether four lengths lead to no other place near by: one tilted a little at which all rulers read the same.

    From some tilts the place is looked for by Gauss and Newton's method; what it finds must be the piece's own.
    """
    away = np.array([rule.start for rule in way]) - middle
    wanted = np.array([rule.mm_at(rule.start) for rule in way])

    def misfit(off: NDArray[np.float64]) -> NDArray[np.float64]:
        cosine, sine = math.cos(off[2]), math.sin(off[2])
        spots = away @ np.array([[cosine, sine], [-sine, cosine]]) + middle + off[:2]
        read = [rule.mm_at((x, y)) for rule, (x, y) in zip(way, spots.tolist(), strict=True)]
        return np.asarray(np.array(read) - wanted, dtype=np.float64)

    steps = np.diag([STEP_MM, STEP_MM, STEP_RAD])
    for tilt in TILTS_DEG:
        off = np.array([0.0, 0.0, math.radians(tilt)])
        for _ in range(ROUNDS):
            now = misfit(off)
            if float(np.abs(now).max()) <= EDGE_MM:
                break
            slopes = np.column_stack([(misfit(off + step) - now) / step.sum() for step in steps])
            off = off - np.linalg.lstsq(slopes, now, rcond=None)[0]
            if abs(off[2]) > FAR_RAD:
                break
        is_own = math.hypot(off[0], off[1]) <= OTHER_MM and abs(math.degrees(off[2])) <= OTHER_DEG
        if not is_own and abs(off[2]) <= FAR_RAD and float(np.abs(misfit(off)).max()) <= READ_ALIKE_MM:
            return False
    return True


def _errors(slopes: NDArray[np.float64], shown_mm: float) -> NDArray[np.float64]:
    """Return for each way of measuring (n, 4, 3) how far off the piece may lie at most: (n, 2), in mm and degrees."""
    scale = np.array([1.0, 1.0, 100.0])  # a radian counts as much as the 100 mm that it moves at an arm's end
    inverse = np.linalg.pinv(slopes / scale, rcond=1e-7)
    flat = np.abs(np.linalg.matrix_rank(slopes / scale, tol=1e-5)) < 3
    most = np.abs(inverse).sum(axis=2) * shown_mm / scale
    errors = np.column_stack([np.hypot(most[:, 0], most[:, 1]), np.degrees(most[:, 2])])
    errors[flat] = 1e6
    return errors
