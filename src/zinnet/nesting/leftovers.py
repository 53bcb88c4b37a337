"""What is left of film when the pieces are cut: as it is, or the rectangles that it can be trimmed to."""

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry import box

from zinnet.geometry.region import Region, common, without

CELLS = 120
"""How finely a leftover is looked over for rectangles, along its longer side."""
CLOSE_MM = 0.02
Box = tuple[float, float, float, float]


def useful_parts(region: Region, *, least_mm: float) -> list[Region]:
    """Return the parts of a region that something can still be cut from, each a region of one part.

    What is narrower than ``least_mm`` is cut off: a tongue, a bridge, the skeleton between pieces. Of what is left a
    part counts if a square with sides of ``least_mm`` lies in it.

    Parameters
    ----------
    region : Region, mm
        What is left.
    least_mm : float, mm
        How narrow film may be to be of use.
    """
    reach = least_mm / 2 - CLOSE_MM
    core = shapely.buffer(region, -reach, quad_segs=8)
    if core.is_empty:
        return []
    opened = common(region, shapely.buffer(core, reach, join_style="mitre", mitre_limit=1.5))
    parts = [Region([part]) for part in opened.geoms]
    return [part for part in parts if rectangles_in(part, least_mm=least_mm, most=1)]


def rectangles_in(region: Region, *, least_mm: float, most: int = 3) -> list[Box]:
    """Return the largest upright rectangles in a region, one after the other, none narrower than ``least_mm``.

    Parameters
    ----------
    region : Region, mm
        What is left.
    least_mm : float, mm
        The least width and height.
    most : int
        How many at most.

    Returns
    -------
    (left, top, right, bottom) each, mm
        The largest first; they do not overlap.
    """
    found: list[Box] = []
    rest = region
    while len(found) < most and not shapely.buffer(rest, -0.49 * least_mm, quad_segs=2).is_empty:
        one = largest_rectangle(rest)
        if one is None or min(one[2] - one[0], one[3] - one[1]) < least_mm:
            break
        found.append(one)
        rest = without(rest, box(*one))
    return found


def largest_rectangle(region: Region) -> Box | None:
    """Return nearly the largest upright rectangle that lies in a region (left, top, right, bottom), or None.

    It is found on a grid of cells that lie wholly inside, then each side is moved out as far as the region goes.
    """
    if region.is_empty:
        return None
    left, top, right, bottom = region.bounds
    cell = max(right - left, bottom - top) / CELLS
    inside = shapely.buffer(region, -cell * np.sqrt(0.5), quad_segs=2)
    if inside.is_empty:
        return None
    xs = np.arange(left + cell / 2, right, cell)
    ys = np.arange(top + cell / 2, bottom, cell)
    shapely.prepare(inside)
    free = shapely.contains_xy(inside, *np.meshgrid(xs, ys))
    best = _largest_block(free)
    if best is None:
        return None
    row, column, rows, columns = best
    first = (
        float(left + column * cell),
        float(top + row * cell),
        float(left + (column + columns) * cell),
        float(top + (row + rows) * cell),
    )
    return _moved_out(region, first, 2 * cell)


def _largest_block(free: NDArray[np.bool_]) -> tuple[int, int, int, int] | None:
    """Return the largest block of free cells (row, column, rows, columns): the classic stack over heights per row."""
    heights = np.zeros(free.shape[1] + 1, dtype=np.int64)
    best, found = 0, None
    for row in range(free.shape[0]):
        heights[:-1] = np.where(free[row], heights[:-1] + 1, 0)
        stack: list[tuple[int, int]] = []
        for column, height in enumerate(heights.tolist()):
            start = column
            while stack and stack[-1][1] >= height:
                start, tall = stack.pop()
                if tall * (column - start) > best:
                    best, found = tall * (column - start), (row - tall + 1, start, tall, column - start)
            stack.append((start, height))
    return found


def _moved_out(region: Region, first: Box, most: float) -> Box:
    """Move each side of a rectangle outwards, one after the other, as far as it stays in the region."""
    shapely.prepare(region)
    sides = list(first)
    for side, sign in ((0, -1), (2, 1), (1, -1), (3, 1)):
        low, high = 0.0, most
        while high - low > CLOSE_MM:
            middle = (low + high) / 2
            trial = list(sides)
            trial[side] += sign * middle
            if region.covers(box(*trial)):
                low = middle
            else:
                high = middle
        sides[side] += sign * low
    return (sides[0], sides[1], sides[2], sides[3])
