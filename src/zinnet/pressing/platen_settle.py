"""Positions of a platen moved as far as they may: no film too often, little twice, few edges on film, in rows."""

from collections.abc import Iterator, Sequence
from dataclasses import replace

import numpy as np
import shapely
from numpy.typing import NDArray

from zinnet.geometry.region import EMPTY, Region
from zinnet.pressing.box_cover import Boxes, Corners, Middle, bare_parts
from zinnet.pressing.film_dots import Dots
from zinnet.pressing.platen_rows import SLACK_MM, held

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
MOST_ALONG = 9
"""So many middles are tried along each side of the room that one has, the nearest to its middle."""
MOST_APART = 8
"""So many ways to take one position apart are tried."""

Points = NDArray[np.float64]
Size = tuple[float, float]


def settled(task: Boxes, middles: Sequence[Middle], dots: Dots, outer: Size, *, along: bool = False) -> list[Middle]:
    """Return as many middles, each moved as far as what it alone covers allows.

    No film is pressed more often than it bears, the least is pressed twice, and no edge of the platen lies on pieces,
    where that can be helped; middles stand in rows and columns, and on whole millimetres where nothing is lost by it.

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
    state = _State(task, dots, outer, list(middles), along)
    for _ in range(PASSES):
        before = list(state.middles)
        for index in range(len(before)):
            state.move(index)
        if state.middles == before:
            break
    return state.middles


def pressed_too_often(dots: Dots, middles: Sequence[Middle], outer: Size) -> float:
    """Return the area in mm2 of film on which the platen lies at more positions than it bears."""
    count = np.sum([dots.under(middle, outer) for middle in middles], axis=0)
    return float(dots.area * (count > dots.most).sum())


def cooler(task: Boxes, middles: list[Middle], dots: Dots, outer: Size) -> list[Middle]:
    """Return positions that spare film which bears less, where some is pressed too often: at most one more.

    One that need not lie on such film is taken apart into two, each of which has more room to keep off it.
    """
    best, least = middles, pressed_too_often(dots, middles, outer)
    if not least:
        return best
    count = np.sum([dots.under(middle, outer) for middle in middles], axis=0)
    hot = count > dots.most
    worst = sorted(range(len(middles)), key=lambda k: -int((dots.under(middles[k], outer) & hot).sum()))
    ways = ((index, two) for index in worst for two in _taken_apart(task, middles, index))
    for _, (index, two) in zip(range(MOST_APART), ways, strict=False):
        tried = settled(task, [*middles[:index], *middles[index + 1 :], *two], dots, outer)
        much = pressed_too_often(dots, tried, outer)
        if much < least:
            best, least = tried, much
    return best


def _taken_apart(task: Boxes, middles: Sequence[Middle], index: int) -> Iterator[tuple[Middle, Middle]]:
    """Yield pairs of middles that do for one, by the pieces that it alone holds, cut in two at the widest gaps."""
    inside = held(task, np.array(middles))
    own = task.pieces[inside[index] & (inside.sum(axis=0) == 1)]
    found = []
    for axis in (0, 1):
        order = own[np.argsort(own[:, axis] + own[:, axis + 2], kind="stable")]
        for cut in range(1, len(order)):
            gap = float(order[cut:, axis].min() - order[:cut, axis + 2].max())
            found.append((-gap, (_middle_of(order[:cut]), _middle_of(order[cut:]))))
    for _, two in sorted(found):
        yield two


def _middle_of(pieces: Corners) -> Middle:
    low, high = pieces[:, :2].min(axis=0), pieces[:, 2:].max(axis=0)
    return float(low[0] + high[0]) / 2, float(low[1] + high[1]) / 2


class _State:
    """Positions as they are moved, with which dots each covers and which pieces each holds whole."""

    def __init__(self, task: Boxes, dots: Dots, outer: Size, middles: list[Middle], along: bool) -> None:
        self.task, self.dots, self.outer, self.along = task, dots, outer, along
        self.middles = middles
        self._under = np.array([dots.under(middle, outer) for middle in middles])
        self._held = held(task, np.array(middles).reshape(-1, 2))
        self._count = self._under.sum(axis=0)

    def move(self, index: int) -> None:
        """Move one position to the best place that still covers what it alone covers."""
        middle = self.middles[index]
        reach = 2 * np.array(self.outer) + self.outer[0]
        others = [one for k, one in enumerate(self.middles) if k != index]
        near = [one for one in others if (np.abs(np.subtract(one, middle)) <= reach).all()]
        own = self.task.pieces[self._held[index] & (self._held.sum(axis=0) == 1)]
        room = _room(self.task, own, _own_film(self.task, _box(middle, self.outer), near))
        if room is None:
            return
        across, down = _lines(self.task, room, middle, near, self.outer)
        if self.along:
            down = np.array([middle[1]])
        costs = self._costs(index, across, down, np.array(near).reshape(-1, 2))
        centre = np.array([(room[0] + room[2]) / 2, (room[1] + room[3]) / 2])
        costs += CENTRING * np.hypot((across - centre[0])[:, None], (down - centre[1])[None, :])
        if not self.task.blocked.is_empty:
            x, y = np.meshgrid(across, down, indexing="ij")
            may_not = shapely.contains_xy(self.task.blocked, x, y) & ((x != middle[0]) | (y != middle[1]))
            costs[may_not] = np.inf
        i, j = np.unravel_index(int(costs.argmin()), costs.shape)
        self._take(index, (float(across[i]), float(down[j])))

    def _take(self, index: int, middle: Middle) -> None:
        if middle == self.middles[index]:
            return
        self.middles[index] = middle
        now = self.dots.under(middle, self.outer)
        self._count += now.astype(int) - self._under[index]
        self._under[index] = now
        self._held[index] = held(self.task, np.array([middle]))[0]

    def _costs(self, index: int, across: Points, down: Points, near: Points) -> Points:
        """Return how bad each middle (x, y) of a grid is beside the others: in mm2 of film that is pressed twice."""
        half, dots = np.array(self.outer) / 2, self.dots
        x, y = dots.at[:, 0], dots.at[:, 1]
        within = (x >= across.min() - half[0]) & (x <= across.max() + half[0])
        within &= (y >= down.min() - half[1]) & (y <= down.max() + half[1])
        before = (self._count - self._under[index])[within] * dots.film[within]
        worth = (dots.done[within] | (before > 0)) + TOO_OFTEN * (before + 1 > dots.most[within])
        in_x = (np.abs(across[:, None] - x[within]) <= half[0]).astype(float)
        in_y = (np.abs(down[:, None] - y[within]) <= half[1]).astype(float)
        again = (in_x * worth) @ in_y.T
        in_rows = _meets(across, near[:, 0])[:, None] + _meets(down, near[:, 1])[None, :]
        middles = np.stack(np.meshgrid(across, down, indexing="ij"), axis=-1).reshape(-1, 2)
        cut = _cut(self.task, middles, self.outer).reshape(again.shape)
        return np.asarray(dots.area * again + ON_AN_EDGE * cut - IN_A_ROW * in_rows)


def _meets(values: Points, others: Points) -> Points:
    """Return for each value how many of the others it stands in a line with."""
    return np.asarray((np.abs(values[:, None] - others[None]) < SLACK_MM).sum(axis=1).astype(float))


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


def _lines(
    task: Boxes, room: tuple[float, float, float, float], middle: Middle, others: Sequence[Middle], outer: Size
) -> tuple[Points, Points]:
    """Return the values of x and of y that are worth trying for a middle.

    The middle of the room, its ends, in rows with others, clear of pieces, and where it stands already.
    """
    axes = []
    for axis, (low, high) in enumerate(((room[0], room[2]), (room[1], room[3]))):
        centre = (low + high) / 2
        values = {*(one[axis] for one in others), round(centre / RULER_MM) * RULER_MM}
        if len(task.pieces):
            half = outer[axis] / 2
            values |= set((task.pieces[:, axis] - half).tolist()) | set((task.pieces[:, axis + 2] + half).tolist())
        inside = sorted((v for v in values if low - SLACK_MM <= v <= high + SLACK_MM), key=lambda v: abs(v - centre))
        axes.append(np.array(sorted({centre, low, high, middle[axis], *inside[:MOST_ALONG]})))
    return axes[0], axes[1]


def _cut(task: Boxes, middles: Points, outer: Size) -> Points:
    """Return the area in mm2 of pieces that lie under a platen's outline, and not whole within what presses evenly."""
    half = np.array(outer) / 2
    low, high = (middles[:, None] + way * half for way in (-1, 1))
    shared = np.minimum(task.pieces[None, :, 2:], high) - np.maximum(task.pieces[None, :, :2], low)
    area = np.prod(np.clip(shared, 0.0, None), axis=2)
    return np.asarray(np.where(held(task, middles), 0.0, area).sum(axis=1))


def _box(middle: Middle, size: tuple[float, float]) -> shapely.Polygon:
    x, y = middle
    return shapely.box(x - size[0] / 2, y - size[1] / 2, x + size[0] / 2, y + size[1] / 2)
