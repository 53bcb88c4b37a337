"""Cutting a drawing in mm into sheets of paper that overlap."""

import math
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from zinnet.base.errors import ZinnetError
from zinnet.base.units import MM_PER_INCH

PaperName = Literal["a4", "letter"]
PAPERS: dict[str, tuple[float, float]] = {"a4": (210.0, 297.0), "letter": (8.5 * MM_PER_INCH, 11 * MM_PER_INCH)}
"""Width and height in mm. Sources: ISO 216 (A4), ANSI/ASME Y14.1 (Letter, A)."""
ROLL = "roll"
"""One sheet as large as the drawing, for a printer that is fed from a roll."""
MOST_ROLL_MM = 5000.0
"""PDF (ISO 32000-1, annex C) knows no page longer than 14,400 points, 5080 mm."""
MARGIN_MM = 12.0
FOOT_MM = 24.0
OVERLAP_MM = 12.0
MOST_TILES = 120
LEAST_ROLL_MM = 186.0
"""So wide is a sheet from the roll at least: its foot with the bar of 100 mm needs that."""


@dataclass(frozen=True)
class Tile:
    """One sheet: its name, and the box of the drawing that it shows, in mm (left, top, right, bottom)."""

    name: str
    column: int
    row: int
    box: tuple[float, float, float, float]


@dataclass(frozen=True)
class Tiling:
    """All sheets of a drawing on one paper; ``window`` is what a sheet shows, in mm."""

    paper: tuple[float, float]
    window: tuple[float, float]
    columns: int
    rows: int
    left: float
    top: float

    def tiles(self) -> Iterator[Tile]:
        """Yield the sheets, row by row, named A1, B1 ... A2 ..."""
        wide, high = self.window
        for row in range(self.rows):
            for column in range(self.columns):
                x = self.left + column * (wide - OVERLAP_MM)
                y = self.top + row * (high - OVERLAP_MM)
                yield Tile(f"{_letters(column)}{row + 1}", column, row, (x, y, x + wide, y + high))


def _letters(index: int) -> str:
    name = ""
    index += 1
    while index:
        index, rest = divmod(index - 1, 26)
        name = chr(ord("A") + rest) + name
    return name


def tile(box: tuple[float, float, float, float], paper: str) -> Tiling:
    """Return how a drawing's box is cut into sheets: as few as possible, the drawing in their middle.

    Raises :class:`ZinnetError` for unknown paper or more sheets than anyone would tape together.
    """
    left, top, right, bottom = box
    if paper == ROLL:
        return _on_roll(box)
    if paper not in PAPERS:
        raise ZinnetError(f"There is no paper “{paper}”; use {', '.join((*PAPERS, ROLL))}.")
    width, height = PAPERS[paper]
    wide, high = width - 2 * MARGIN_MM, height - 2 * MARGIN_MM - FOOT_MM
    columns, rows = _count(right - left, wide), _count(bottom - top, high)
    if columns * rows > MOST_TILES:
        raise ZinnetError(
            f"A template of {right - left:.0f} x {bottom - top:.0f} mm takes {columns * rows} sheets; "
            f"at most {MOST_TILES} are written. Print one motif instead of all."
        )
    whole_x = columns * (wide - OVERLAP_MM) + OVERLAP_MM
    whole_y = rows * (high - OVERLAP_MM) + OVERLAP_MM
    return Tiling(
        paper=(width, height),
        window=(wide, high),
        columns=columns,
        rows=rows,
        left=left - (whole_x - (right - left)) / 2,
        top=top - (whole_y - (bottom - top)) / 2,
    )


def _on_roll(box: tuple[float, float, float, float]) -> Tiling:
    """Return one sheet that holds all of a drawing."""
    left, top, right, bottom = box
    wide, high = max(right - left, LEAST_ROLL_MM), bottom - top
    if max(wide, high) > MOST_ROLL_MM:
        raise ZinnetError(f"The sheet would be {max(wide, high):.0f} mm long; at most {MOST_ROLL_MM:.0f} are written.")
    paper = (wide + 2 * MARGIN_MM, high + 2 * MARGIN_MM + FOOT_MM)
    return Tiling(paper=paper, window=(wide, high), columns=1, rows=1, left=(left + right - wide) / 2, top=top)


def _count(length: float, window: float) -> int:
    return max(1, math.ceil((length - OVERLAP_MM) / (window - OVERLAP_MM) - 1e-9))
