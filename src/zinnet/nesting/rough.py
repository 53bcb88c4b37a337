"""How much film pieces take, roughly and at once: their boxes in columns, each column filled as far as it goes.

It is first-fit decreasing by width, of which it is known that it takes at most 1.7 times the least length, and a
column (Coffman, Garey, Johnson and Tarjan 1980). It compares ways to cut a layer apart; the nest itself says the truth.
"""

from collections.abc import Sequence
from dataclasses import dataclass


@dataclass(frozen=True)
class RoughPiece:
    """A box that is laid level or on its side where it may be turned: width along the film, height across, in mm."""

    width_mm: float
    height_mm: float
    copies: int
    may_turn: bool


@dataclass
class _Column:
    width: float
    free: float


def rough_length(pieces: Sequence[RoughPiece], across_mm: float, gap_mm: float) -> float | None:
    """Return how much length of film, across which there is so much room, the boxes take; None where one is too wide.

    Examples
    --------
    >>> rough_length([RoughPiece(50.0, 40.0, 4, False)], 100.0, 5.0)
    105.0
    """
    boxes: list[tuple[float, float]] = []
    for piece in pieces:
        ways = [(piece.width_mm, piece.height_mm)]
        ways += [(piece.height_mm, piece.width_mm)] if piece.may_turn else []
        fitting = [way for way in ways if way[1] <= across_mm + 1e-6]
        if not fitting:
            return None
        boxes += [min(fitting)] * piece.copies
    columns: list[_Column] = []
    for width, height in sorted(boxes, reverse=True):
        for column in columns:
            if height <= column.free + 1e-6:
                column.free -= height + gap_mm
                break
        else:
            columns.append(_Column(width, across_mm - height - gap_mm))
    return sum(column.width for column in columns) + gap_mm * max(0, len(columns) - 1)
