"""Positions of a platen that people can follow: pieces whole, in rows, few edges on film, little pressed twice."""

import math
from collections.abc import Iterator, Sequence
from dataclasses import replace

import numpy as np
import shapely
from numpy.typing import NDArray

from zinnet.geometry.region import EMPTY, Region, as_region, union
from zinnet.pressing.box_cover import Boxes, Corners, Middle, bare_parts
from zinnet.pressing.film_dots import Dots

PASSES = 4
CENTRING = 1e-3
"""How much area in mm2 pressed twice a mm off the middle is worth."""
IN_A_ROW = 30.0
"""How much area in mm2 pressed twice it is worth that a position stands in a row, or in a column, with others."""
TOO_OFTEN = 50.0
"""How much worse film is that the platen lies on more often than it bears."""
ON_AN_EDGE = 3.0
"""How much worse film is that an edge of the platen lies on than film that is pressed twice."""
RULER_MM = 1.0
SLACK_MM = 1e-6
LEAST_IN_ROWS = 3
"""So few positions need no rows."""

Points = NDArray[np.float64]


def wholes(films: Sequence[Region], width: float, height: float, blocked: Region) -> tuple[Corners, Region]:
    """Return what is pressed whole, as boxes (n, 4), and what is too large for that.

    Films whose boxes meet are one piece where that fits, else each by itself; of a film that does not fit, each part by
    itself. What fits but can't be whole under a platen without pressing on what must stay cool counts as too large.

    Parameters
    ----------
    films : regions, mm
        Piece by piece.
    width, height : float, mm
        What a platen presses evenly.
    blocked : Region, mm
        Where its middle may not be.

    Returns
    -------
    boxes (n, 4), mm, and Region, mm
        What is whole, and what is pressed in parts.
    """
    whole: list[tuple[float, float, float, float]] = []
    rest: list[shapely.Geometry] = []

    def take(region: Region) -> bool:
        left, top, right, bottom = region.bounds
        if right - left > width + SLACK_MM or bottom - top > height + SLACK_MM:
            return False
        spots = shapely.box(right - width / 2, bottom - height / 2, left + width / 2, top + height / 2)
        if not blocked.is_empty and shapely.difference(spots, blocked).is_empty:
            return False
        whole.append((left, top, right, bottom))
        return True

    for group in _meeting(films):
        together = group[0] if len(group) == 1 else union(group)
        if take(together):
            continue
        for film in group:
            if not take(film):
                rest += [part for part in film.geoms if not take(as_region(part))]
    return np.array(whole).reshape(-1, 4), union(rest) if rest else EMPTY


def _meeting(films: Sequence[Region]) -> list[list[Region]]:
    """Return films in groups, those whose boxes meet together."""
    boxes = shapely.box(*shapely.bounds(np.array(films, dtype=object)).T)
    joined = shapely.get_parts(shapely.union_all(boxes))
    tree = shapely.STRtree(joined)
    groups: dict[int, list[Region]] = {}
    for film, box in zip(films, boxes, strict=True):
        groups.setdefault(int(tree.nearest(shapely.centroid(box))), []).append(film)
    return list(groups.values())


def in_rows(task: Boxes, found: Sequence[Middle]) -> list[Middle] | None:
    """Return positions in rows that cover all of a task, a ruler's distance apart; None where rows take too many.

    Rows may take one more than was found, past a few positions: a rule that can be followed is worth that.
    """
    if not task.blocked.is_empty or len(found) < LEAST_IN_ROWS:
        return None
    most = len(found) + (len(found) > LEAST_IN_ROWS)
    rows = [] if task.film.is_empty else _film_rows(task)
    if rows is None:
        return None
    held = np.zeros(len(task.pieces), dtype=bool)
    for middle in rows:
        held |= _held(task, middle)
    rows += _piece_rows(replace(task, pieces=task.pieces[~held]))
    return rows if len(rows) <= most else None


def _film_rows(task: Boxes) -> list[Middle] | None:
    """Return even rows over film that is too large: over each part, or over all, whichever takes fewer."""
    best: list[Middle] | None = None
    for regions in ([as_region(part) for part in task.film.geoms], [task.film]):
        for evenly in (_grid, _strips):
            rows = [middle for region in regions for middle in evenly(task, region)]
            if bare_parts(task, rows).is_empty and (best is None or len(rows) < len(best)):
                best = rows
    return best


def _strips(task: Boxes, region: Region) -> list[Middle]:
    """Return rows of one height over a region, each as wide as what of it lies in the row, spread evenly."""
    left, top, right, bottom = region.bounds
    down = max(1, math.ceil((bottom - top) / task.core_height - SLACK_MM))
    high = (bottom - top) / down
    found = []
    for row in range(down):
        strip = shapely.intersection(region, shapely.box(left, top + row * high, right, top + (row + 1) * high))
        parts = shapely.get_parts(strip)
        y = top + (row + 0.5) * high
        for start, end in _joined([shapely.bounds(part) for part in parts if not part.is_empty], task.core_width):
            across = max(1, math.ceil((end - start) / task.core_width - SLACK_MM))
            found += [(start + (k + 0.5) * (end - start) / across, y) for k in range(across)]
    return found


def _joined(boxes: Sequence[NDArray[np.float64]], width: float) -> list[tuple[float, float]]:
    """Return the stretches of x that boxes take, those that one position holds together as one."""
    found: list[tuple[float, float]] = []
    for start, end in sorted((float(box[0]), float(box[2])) for box in boxes):
        if found and (start <= found[-1][1] or max(end, found[-1][1]) - found[-1][0] <= width):
            found[-1] = (found[-1][0], max(end, found[-1][1]))
        else:
            found.append((start, end))
    return found


def _piece_rows(task: Boxes) -> list[Middle]:
    """Return rows from the top, in each of them positions from the left, that hold every piece whole."""
    width, height = task.width, task.height
    left = task.pieces[np.lexsort((task.pieces[:, 0], task.pieces[:, 1]))]
    found: list[Middle] = []
    while len(left):
        top = left[:, 1].min()
        mine = left[:, 3] <= top + height + SLACK_MM
        row, left = left[mine], left[~mine]
        y = (row[:, 1].min() + row[:, 3].max()) / 2
        while len(row):
            start = row[:, 0].min()
            held = row[:, 2] <= start + width + SLACK_MM
            found.append(((start + row[held, 2].max()) / 2, float(y)))
            row = row[~held]
    return found


def _grid(task: Boxes, region: Region) -> list[Middle]:
    """Return the cells of an even grid over a region that hold any of it, by their middles."""
    left, top, right, bottom = region.bounds
    across = max(1, math.ceil((right - left) / task.core_width - SLACK_MM))
    down = max(1, math.ceil((bottom - top) / task.core_height - SLACK_MM))
    wide, high = (right - left) / across, (bottom - top) / down
    found = []
    for row in range(down):
        for column in range(across):
            cell = shapely.box(
                left + column * wide, top + row * high, left + (column + 1) * wide, top + (row + 1) * high
            )
            if shapely.area(shapely.intersection(cell, region)) > SLACK_MM:
                found.append((left + (column + 0.5) * wide, top + (row + 0.5) * high))
    return found


def in_reading_order(middles: Sequence[Middle], height: float) -> list[Middle]:
    """Return middles row by row, each row from the left."""
    left = sorted(middles, key=lambda middle: middle[1])
    rows: list[Middle] = []
    while left:
        row = [one for one in left if one[1] - left[0][1] < height / 2]
        left = [one for one in left if one not in row]
        rows += sorted(row)
    return rows


def settled(
    task: Boxes, middles: Sequence[Middle], dots: Dots, outer: tuple[float, float], *, along: bool = False
) -> list[Middle]:
    """Return as many middles, each moved as far as what it alone covers allows.

    No film is pressed more often than it bears, the least is pressed twice, and no edge of the platen lies on pieces,
    where that can be helped; middles stand in rows and columns, on whole millimetres.

    Parameters
    ----------
    task : Boxes, mm
        What is covered.
    middles : middles, mm
        That cover it.
    dots : Dots, mm
        The film, what was pressed before, and how often it bears the platen.
    outer : (width, height), mm
        The platen's outline.
    along : bool
        Whether they stay in their rows, and move along them alone.

    Returns
    -------
    middles, mm
        That cover it too.
    """
    found = list(middles)
    for _ in range(PASSES):
        before = list(found)
        for index in range(len(found)):
            found[index] = _moved(task, found, index, dots, outer, along=along)
        if found == before:
            break
    return found


def pressed_too_often(dots: Dots, middles: Sequence[Middle], outer: tuple[float, float]) -> float:
    """Return the area in mm2 of film on which the platen lies at more positions than it bears."""
    count = np.sum([dots.under(middle, outer) for middle in middles], axis=0)
    return float(dots.area * (count > dots.most).sum())


def taken_apart(task: Boxes, middles: Sequence[Middle], index: int) -> Iterator[tuple[Middle, Middle]]:
    """Yield pairs of middles that do for one, by the pieces that it alone holds, cut in two across and down."""
    pieces = _own_pieces(task, middles[index], [one for k, one in enumerate(middles) if k != index])
    for axis in (0, 1):
        order = pieces[np.argsort(pieces[:, axis] + pieces[:, axis + 2], kind="stable")]
        for cut in range(1, len(order)):
            first, second = (_middle_of(half) for half in (order[:cut], order[cut:]))
            yield first, second


def _middle_of(pieces: Corners) -> Middle:
    low, high = pieces[:, :2].min(axis=0), pieces[:, 2:].max(axis=0)
    return float(low[0] + high[0]) / 2, float(low[1] + high[1]) / 2


def _moved(
    task: Boxes, found: Sequence[Middle], index: int, dots: Dots, outer: tuple[float, float], *, along: bool
) -> Middle:
    middle = found[index]
    mine = _box(middle, outer)
    others = [one for k, one in enumerate(found) if k != index]
    reach = 2 * np.array(outer) + outer[0]
    near = [one for one in others if (np.abs(np.subtract(one, middle)) <= reach).all()]
    room = _room(task, _own_pieces(task, middle, near), _own_film(task, mine, near))
    if room is None:
        return middle
    tries = _tries(task, room, near, outer)
    if along:
        tries = [(x, middle[1]) for x, _ in tries]
    tries.append(middle)
    cost = _costs(task, np.array(tries), np.array(near).reshape(-1, 2), dots, outer)
    centre = np.array([(room[0] + room[2]) / 2, (room[1] + room[3]) / 2])
    return tries[int((cost + CENTRING * np.hypot(*(np.array(tries) - centre).T)).argmin())]


def _costs(task: Boxes, tries: Points, near: Points, dots: Dots, outer: tuple[float, float]) -> Points:
    """Return how bad each of some middles (n, 2) is, beside others: in mm2 of film that is pressed twice."""
    half = np.array(outer) / 2
    within = (dots.at >= tries.min(axis=0) - half) & (dots.at <= tries.max(axis=0) + half)
    dots = dots.only(np.asarray(within.all(axis=1)))
    before = np.sum([dots.under((x, y), outer) for x, y in near.tolist()], axis=0) * dots.film
    worth = (dots.done | (before > 0)) + TOO_OFTEN * (before + 1 > dots.most)
    inside = (np.abs(dots.at[None] - tries[:, None]) <= half).all(axis=2)
    in_rows = (np.abs(tries[:, None] - near[None]) < SLACK_MM).any(axis=1).sum(axis=1)
    return np.asarray(
        dots.area * (inside @ worth) + ON_AN_EDGE * _cut(task, tries, outer) - IN_A_ROW * in_rows.astype(float)
    )


def _own_pieces(task: Boxes, middle: Middle, others: Sequence[Middle]) -> Corners:
    """Return the pieces that lie whole under one position and under no other."""
    held = _held(task, middle)
    for one in others:
        held &= ~_held(task, one)
    return task.pieces[held]


def _held(task: Boxes, middle: Middle) -> NDArray[np.bool_]:
    return np.asarray(_held_at(task, np.array([middle]))[0])


def _held_at(task: Boxes, middles: Points) -> NDArray[np.bool_]:
    """Tell (m, n) which pieces lie whole within what a platen at each of the middles (m, 2) presses evenly."""
    low, high = (middles[:, None] + way * task.half for way in (-1, 1))
    inside = (task.pieces[None, :, :2] >= low - SLACK_MM) & (task.pieces[None, :, 2:] <= high + SLACK_MM)
    return np.asarray(inside.all(axis=2))


def _own_film(task: Boxes, mine: shapely.Polygon, others: Sequence[Middle]) -> Region:
    """Return what of the film only this position covers."""
    parts = [part for part in task.film.geoms if shapely.intersects(part, mine)]
    return bare_parts(replace(task, film=Region(parts)), list(others)) if parts else EMPTY


def _room(task: Boxes, pieces: Corners, film: Region) -> tuple[float, float, float, float] | None:
    """Return the box within which a middle covers its own pieces and its own film; None where it may not move."""
    low, high = np.array([-np.inf, -np.inf]), np.array([np.inf, np.inf])
    if len(pieces):
        low, high = pieces[:, 2:].max(axis=0) - task.half, pieces[:, :2].min(axis=0) + task.half
    if not film.is_empty:
        left, top, right, bottom = film.bounds
        fits = right - left <= task.core_width and bottom - top <= task.core_height
        reach = task.core if fits else task.half
        low = np.maximum(low, np.array([right, bottom]) - reach)
        high = np.minimum(high, np.array([left, top]) + reach)
    if not np.isfinite(low).all() or (high < low - SLACK_MM).any():
        return None
    high = np.maximum(low, high)
    return float(low[0]), float(low[1]), float(high[0]), float(high[1])


def _tries(
    task: Boxes, room: tuple[float, float, float, float], others: Sequence[Middle], outer: tuple[float, float]
) -> list[Middle]:
    """Return the middles worth trying: the middle of the room, its ends, in rows with others, clear of pieces."""
    axes = []
    for axis, (low, high) in enumerate(((room[0], room[2]), (room[1], room[3]))):
        values = {(low + high) / 2, low, high, *(one[axis] for one in others)}
        values |= {round((low + high) / 2 / RULER_MM) * RULER_MM}
        if len(task.pieces):
            half = outer[axis] / 2
            values |= set((task.pieces[:, axis] - half).tolist()) | set((task.pieces[:, axis + 2] + half).tolist())
        axes.append(sorted({value for value in values if low - SLACK_MM <= value <= high + SLACK_MM}))
    found = [(float(x), float(y)) for x in axes[0] for y in axes[1]]
    if task.blocked.is_empty:
        return found
    return [one for one in found if not shapely.contains_xy(task.blocked, *one)]


def _cut(task: Boxes, middles: Points, outer: tuple[float, float]) -> Points:
    """Return the area in mm2 of pieces that lie under a platen's outline, and not whole within what presses evenly."""
    half = np.array(outer) / 2
    low, high = (middles[:, None] + way * half for way in (-1, 1))
    shared = np.minimum(task.pieces[None, :, 2:], high) - np.maximum(task.pieces[None, :, :2], low)
    area = np.prod(np.clip(shared, 0.0, None), axis=2)
    return np.asarray(np.where(_held_at(task, middles), 0.0, area).sum(axis=1))


def _box(middle: Middle, size: tuple[float, float]) -> shapely.Polygon:
    x, y = middle
    return shapely.box(x - size[0] / 2, y - size[1] / 2, x + size[0] / 2, y + size[1] / 2)
