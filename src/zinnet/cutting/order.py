"""The order in which lines are cut: inside before outside, small before large, and little travel with a lifted knife.

Lines that lie inside others, and small ones beside large ones, come first. Within that, the way with a lifted knife is
made short by the moves 2-opt (Croes 1958) and Or-opt (Or 1976), with small upsets in between; where a line is begun is
chosen with it, on corners where it has any.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry import Polygon

from zinnet.base.stages import stage
from zinnet.cutting.paths import LAST, CutPath, turns_deg
from zinnet.cutting.tolerances import lines
from zinnet.cutting.tour import Tour, improved

MOST_STARTS, MOST_IN_GROUP, GROUPS_SHARE = 16, 6, 0.5
ROUNDS, LATER = 4, 0.2
"""How often order and starts are chosen in turn, and how much of the work the later times take."""
Points = NDArray[np.float64]
HOME = (0.0, 0.0)


@dataclass(frozen=True)
class _Starts:
    """Where a line may be begun: the points' numbers, where it begins and where it ends then, each (k, 2)."""

    numbers: tuple[int, ...]
    begins: Points
    ends: Points


def in_cutting_order(paths: Sequence[CutPath], home: tuple[float, float] = HOME) -> tuple[CutPath, ...]:
    """Return the lines in the order in which they are cut, each begun where that is best.

    Pieces come first, then weed frames, then lines through the waste. The knife comes from ``home`` and goes back.

    Parameters
    ----------
    paths : lines, mm
        In any order.
    home : (x, y), mm
        Where the knife begins and ends.

    Returns
    -------
    lines, mm
        All of those given, closed ones begun at another point where that is shorter.
    """
    groups = [[path for path in paths if path.kind not in LAST]]
    groups += [[path for path in paths if path.kind == kind] for kind in LAST]
    found: list[CutPath] = []
    at = home
    for group in groups:
        if group:
            found += _short_way(group, at, home)
            at = (float(found[-1].points[-1][0]), float(found[-1].points[-1][1]))
    return tuple(found)


def ways_mm(paths: Sequence[CutPath], home: tuple[float, float] = HOME) -> NDArray[np.float64]:
    """Return the ways of the lifted knife: from ``home`` to the first line, on to each next one, and back.

    Parameters
    ----------
    paths : n lines, mm
        In the order of cutting.
    home : (x, y), mm
        Where the knife begins and ends.

    Returns
    -------
    array (n + 1,), mm
        Straight ways.
    """
    starts = np.array([path.points[0] for path in paths] + [home])
    ends = np.array([home] + [path.points[-1] for path in paths])
    return np.asarray(np.hypot(*(starts - ends).T))


def travel_mm(paths: Sequence[CutPath], home: tuple[float, float] = HOME) -> float:
    """Return how far the lifted knife goes in all."""
    return float(ways_mm(paths, home).sum())


def must_precede(paths: Sequence[CutPath]) -> NDArray[np.int64]:
    """Return pairs (m, 2): the first is cut before the second.

    What lies inside a closed line goes before it, and so does what is small beside a larger one.

    Parameters
    ----------
    paths : n lines, mm
        In any order.

    Returns
    -------
    int array (m, 2)
        Indices of lines; without a circle.
    """
    closed = [k for k, path in enumerate(paths) if path.closed]
    shapes = [Polygon(paths[k].points) for k in closed]
    if len(shapes) < 2:
        return np.empty((0, 2), dtype=np.int64)
    areas = np.array([shape.area for shape in shapes])
    spans = np.array([max(x2 - x1, y2 - y1) for x1, y1, x2, y2 in (shape.bounds for shape in shapes)])
    points = shapely.points([shape.exterior.coords[0] for shape in shapes])
    outer, inner = shapely.STRtree(points).query(shapes, predicate="intersects")
    pairs = {(int(i), int(o)) for o, i in zip(outer, inner, strict=True) if i != o and areas[i] < areas[o]}
    limits = lines()
    small = np.flatnonzero(spans <= limits.small_mm)
    if len(small):
        which, near = shapely.STRtree(shapes).query(
            [shapes[k] for k in small], predicate="dwithin", distance=limits.beside_mm
        )
        pairs |= {(int(small[k]), int(n)) for k, n in zip(which, near, strict=True) if spans[n] > 2 * spans[small[k]]}
    found = np.array(sorted(pairs), dtype=np.int64).reshape(-1, 2)
    return np.array(closed, dtype=np.int64)[found]


def _short_way(paths: Sequence[CutPath], start: tuple[float, float], end: tuple[float, float]) -> list[CutPath]:
    lines = tuple((path.points.tobytes(), path.closed) for path in paths)
    return [paths[k].starting_at(number) for k, number in _way_through(lines, start, end)]


@stage(most=256)
def _way_through(
    lines: tuple[tuple[bytes, bool], ...], start: tuple[float, float], end: tuple[float, float]
) -> tuple[tuple[int, int], ...]:
    """Return by number which line is cut after which, each with the number of the point where it is begun.

    Lines are known by their points alone: mats on which the same lies are gone through alike, and worked out once.
    """
    paths = [CutPath("", "", "", "outline", np.frombuffer(data).reshape(-1, 2), closed) for data, closed in lines]
    starts = [_starts(path) for path in paths]
    before = must_precede(paths)
    first, last = np.array(start), np.array(end)
    order = _nearest_next(starts, before, first)
    chosen = _best_starts(order, starts, first, last)
    best, best_length = (order, chosen), math.inf
    for round_number in range(ROUNDS):
        begins = np.array([one.begins[at] for one, at in zip(starts, chosen, strict=True)])
        ends = np.array([one.ends[at] for one, at in zip(starts, chosen, strict=True)])
        tour = Tour(begins, ends, first, last, before)
        if not round_number and len(before):
            order = _by_groups(tour, order)
        order = improved(tour, order, seed=round_number, share=LATER if round_number else 1.0)
        chosen = _best_starts(order, starts, first, last)
        length = _length(order, chosen, starts, first, last)
        if length > best_length * (1 - 1e-6):
            break
        best, best_length = (order, chosen), length
    order, chosen = best
    return tuple((int(k), starts[k].numbers[chosen[k]]) for k in order)


def _by_groups(tour: Tour, order: NDArray[np.int64]) -> NDArray[np.int64]:
    """Return an order in which small groups of lines that must follow one another stay together.

    A stretch with such lines in it can't be turned round, but a way through the groups, each by its last line, can.
    """
    count = len(order)
    labels = np.arange(count)
    for one, other in tour.before:
        labels[labels == labels[other]] = labels[one]
    small = np.bincount(labels, minlength=count)[labels] <= MOST_IN_GROUP
    names = np.where(small, labels, count + np.arange(count))
    members: dict[int, list[int]] = {}
    for node in order.tolist():
        members.setdefault(int(names[node]), []).append(node)
    groups = list(members.values())
    group_of = np.empty(count, dtype=np.int64)
    for number, group in enumerate(groups):
        group_of[group] = number
    lasts = np.array([group[-1] for group in groups])
    between = group_of[tour.before]
    between = np.unique(between[between[:, 0] != between[:, 1]], axis=0)
    coarse = Tour(tour.begins[lasts], tour.ends[lasts], tour.first, tour.last, between)
    found = improved(coarse, np.arange(len(groups)), share=GROUPS_SHARE)
    return np.concatenate([groups[number] for number in found])


def _starts(path: CutPath) -> _Starts:
    """Return where a line may be begun: at its corners, else anywhere along it; an open one at either end."""
    if not path.closed:
        ends = path.points[[0, -1]]
        return _Starts((0, len(path.points) - 1), ends, ends[::-1])
    ring = path.points[:-1]
    corners = np.flatnonzero(turns_deg(path.points, closed=True) >= lines().corner_deg)
    numbers = corners if len(corners) else np.arange(len(ring))
    if len(numbers) > MOST_STARTS:
        numbers = numbers[np.linspace(0, len(numbers) - 1, MOST_STARTS).astype(int)]
    return _Starts(tuple(int(k) for k in numbers), ring[numbers], ring[numbers])


def _nearest_next(starts: Sequence[_Starts], before: NDArray[np.int64], at: Points) -> NDArray[np.int64]:
    """Return an order that goes on with the nearest line that may be cut next."""
    count = len(starts)
    waits = np.zeros(count, dtype=int)
    np.add.at(waits, before[:, 1], 1)
    after: list[list[int]] = [[] for _ in range(count)]
    for first, second in before.tolist():
        after[first].append(second)
    points = np.vstack([one.begins for one in starts])
    owner = np.repeat(np.arange(count), [len(one.numbers) for one in starts])
    blocked = waits[owner] > 0
    order = []
    for _ in range(count):
        distances = np.hypot(points[:, 0] - at[0], points[:, 1] - at[1])
        distances[blocked] = math.inf
        hit = int(np.argmin(distances))
        chosen = int(owner[hit])
        order.append(chosen)
        at = starts[chosen].ends[hit - int(np.searchsorted(owner, chosen))]
        blocked[owner == chosen] = True
        for freed in after[chosen]:
            waits[freed] -= 1
            if waits[freed] == 0:
                blocked[owner == freed] = False
    return np.array(order)


def _best_starts(order: NDArray[np.int64], starts: Sequence[_Starts], first: Points, last: Points) -> NDArray[np.int64]:
    """Return for each line which of its starts makes the way in this order shortest, by dynamic programming."""
    cost = np.zeros(1)
    ends = first[None]
    back: list[NDArray[np.int64]] = []
    for k in order:
        there = starts[k].begins
        total = cost[:, None] + np.hypot(ends[:, None, 0] - there[None, :, 0], ends[:, None, 1] - there[None, :, 1])
        back.append(np.argmin(total, axis=0))
        cost = total[back[-1], np.arange(len(there))]
        ends = starts[k].ends
    at = int(np.argmin(cost + np.hypot(ends[:, 0] - last[0], ends[:, 1] - last[1])))
    chosen = np.zeros(len(starts), dtype=np.int64)
    for k, came in zip(order[::-1], back[::-1], strict=True):
        chosen[k] = at
        at = int(came[at])
    return chosen


def _length(
    order: NDArray[np.int64], chosen: NDArray[np.int64], starts: Sequence[_Starts], first: Points, last: Points
) -> float:
    begins = np.array([starts[k].begins[chosen[k]] for k in order] + [last])
    ends = np.array([first] + [starts[k].ends[chosen[k]] for k in order])
    return float(np.hypot(*(begins - ends).T).sum())
