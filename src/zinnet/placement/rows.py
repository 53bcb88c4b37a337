"""Rows and columns of one motif on a field: how many fit, at what size n fit, and with what spacing."""

import math
import re
from collections.abc import Sequence
from dataclasses import dataclass

from zinnet.base.errors import ZinnetError

ROUNDING_MM = 1e-6
MOST_IN_A_ROW = 500


@dataclass(frozen=True)
class Grid:
    """What is asked for: the field, the motif and the gaps in mm. Odd rows are shifted by half a step in a stagger."""

    field_width: float
    field_height: float
    width: float
    height: float
    gap_x: float
    gap_y: float
    stagger: bool = False

    @property
    def step_x(self) -> float:
        """From one motif to the next in a row."""
        return self.width + self.gap_x

    @property
    def step_y(self) -> float:
        """From one row to the next."""
        return self.height + self.gap_y


def columns_that_fit(grid: Grid) -> int:
    """Return how many motifs fit side by side."""
    return _count(grid.field_width, grid.width, grid.step_x)


def rows_that_fit(grid: Grid) -> int:
    """Return how many rows fit."""
    return _count(grid.field_height, grid.height, grid.step_y)


def _count(room: float, size: float, step: float) -> int:
    if size > room + ROUNDING_MM:
        return 0
    return math.floor((room - size + ROUNDING_MM) / step) + 1


def row_lengths(grid: Grid, columns: int | None = None, rows: int | None = None) -> list[int]:
    """Return how many motifs lie in each row; ``columns`` and ``rows`` are the most that are wanted.

    In a stagger every second row is shifted by half a step. Where that would leave the field it has one motif
    less, so that the margins hold on both sides; a single column has no room to alternate and stays straight.
    """
    across = columns_that_fit(grid) if columns is None else min(columns, columns_that_fit(grid))
    down = rows_that_fit(grid) if rows is None else min(rows, rows_that_fit(grid))
    if across == 0 or down == 0:
        return []
    odd = across
    if grid.stagger and not _has_room_to_shift(grid, across):
        odd = across - 1 if across > 1 else 1
    return [odd if k % 2 else across for k in range(down)]


def _has_room_to_shift(grid: Grid, across: int) -> bool:
    used = across * grid.step_x - grid.gap_x
    return used + grid.step_x / 2 <= grid.field_width + ROUNDING_MM


def how_many_fit(grid: Grid) -> int:
    """Return how many motifs fit in all."""
    return sum(row_lengths(grid))


def positions(grid: Grid, columns: int | None = None, rows: int | None = None) -> list[tuple[float, float]]:
    """Return the upper left corner of each motif, row by row; (0, 0) is the field's corner, the block is centred."""
    lengths = row_lengths(grid, columns, rows)
    if not lengths:
        return []
    across = max(lengths)
    shifted = grid.stagger and (across > 1 or _has_room_to_shift(grid, across))
    both_full = shifted and len(lengths) > 1 and lengths[1] == across
    block = across * grid.step_x - grid.gap_x + (grid.step_x / 2 if both_full else 0.0)
    left = (grid.field_width - block) / 2
    top = (grid.field_height - (len(lengths) * grid.step_y - grid.gap_y)) / 2
    return [
        (left + column * grid.step_x + (grid.step_x / 2 if shifted and row % 2 else 0.0), top + row * grid.step_y)
        for row, count in enumerate(lengths)
        for column in range(count)
    ]


def positions_of_counts(grid: Grid, counts: Sequence[int]) -> list[tuple[float, float]]:
    """Return the upper left corner of each motif in rows of given counts, every row and the block centred.

    Parameters
    ----------
    grid : Grid, mm
        Its stagger does not matter: a row of one motif less lies half a step further in by itself.
    counts : whole numbers
        How many motifs each row has, from the top.

    Returns
    -------
    list of (x, y), mm
        Row by row; (0, 0) is the field's corner.

    Raises
    ------
    ZinnetError
        A row or all of them together leave the field.

    Examples
    --------
    >>> positions_of_counts(Grid(100, 50, 20, 20, 10, 10), (3, 2))
    [(10.0, 0.0), (40.0, 0.0), (70.0, 0.0), (25.0, 30.0), (55.0, 30.0)]
    """
    wide = max(counts) * grid.step_x - grid.gap_x
    high = len(counts) * grid.step_y - grid.gap_y
    if wide > grid.field_width + ROUNDING_MM or high > grid.field_height + ROUNDING_MM:
        raise ZinnetError(
            f"Rows of {'-'.join(map(str, counts))} take {wide:.0f} x {high:.0f} mm, and there are "
            f"{grid.field_width:.0f} x {grid.field_height:.0f} mm; make the motif or its gaps smaller."
        )
    top = (grid.field_height - high) / 2
    return [
        ((grid.field_width - (count * grid.step_x - grid.gap_x)) / 2 + column * grid.step_x, top + row * grid.step_y)
        for row, count in enumerate(counts)
        for column in range(count)
    ]


def read_counts(text: str) -> tuple[int, ...]:
    """Return counts as they are written, such as 3-2-3-2-3; empty for none. Raises :class:`ZinnetError`.

    Examples
    --------
    >>> read_counts("3-2-3"), read_counts("3, 2, 3"), read_counts(" ")
    ((3, 2, 3), (3, 2, 3), ())
    """
    words = [word for word in re.split(r"[-,;\s]+", text.strip()) if word]
    if not all(word.isdecimal() and 0 < int(word) <= MOST_IN_A_ROW for word in words):
        raise ZinnetError(f"“{text}” is no list of counts; write how many each row has, such as 3-2-3-2-3.")
    return tuple(map(int, words))


def size_for(grid: Grid, count: int, *, within_mm: float = 0.01) -> float:
    """Return the largest factor by which the motif may be scaled so that ``count`` still fit; the gaps stay.

    It is right to ``within_mm`` of the motif's larger side, from below; 0 where not even the smallest fits.
    """

    def fits(factor: float) -> bool:
        sized = Grid(
            grid.field_width,
            grid.field_height,
            grid.width * factor,
            grid.height * factor,
            grid.gap_x,
            grid.gap_y,
            grid.stagger,
        )
        return how_many_fit(sized) >= count

    high = min(grid.field_width / grid.width, grid.field_height / grid.height)
    if fits(high):
        return high
    step = within_mm / max(grid.width, grid.height)
    low = step
    if not fits(low):
        return 0.0
    while high - low > step:
        middle = (low + high) / 2
        low, high = (middle, high) if fits(middle) else (low, middle)
    return low


def gap_for(room: float, size: float, count: int) -> float | None:
    """Return the gap in mm at which ``count`` motifs fill the room from edge to edge; None where they do not fit."""
    if count < 1 or count * size > room + ROUNDING_MM:
        return None
    return 0.0 if count == 1 else (room - count * size) / (count - 1)
