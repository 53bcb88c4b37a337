"""What a platen presses whole, and positions in rows that people can follow."""

import math
from collections.abc import Sequence
from dataclasses import replace

import numpy as np
import shapely
from numpy.typing import NDArray

from zinnet.geometry.region import EMPTY, Region, as_region, union
from zinnet.pressing.box_cover import Boxes, Corners, Middle, bare_parts

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
    bare = task.pieces[~held(task, np.array(rows).reshape(-1, 2)).any(axis=0)]
    rows += _piece_rows(replace(task, pieces=bare))
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


def held(task: Boxes, middles: Points) -> NDArray[np.bool_]:
    """Tell (m, n) which pieces lie whole within what a platen at each of the middles (m, 2) presses evenly."""
    low, high = (middles[:, None] + way * task.half for way in (-1, 1))
    inside = (task.pieces[None, :, :2] >= low - SLACK_MM) & (task.pieces[None, :, 2:] <= high + SLACK_MM)
    return np.asarray(inside.all(axis=2))
