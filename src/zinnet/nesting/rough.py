"""How much film pieces take, roughly and soon, as :mod:`zinnet.nesting.slide` lays them: the nest says the truth."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

from zinnet.nesting.slide import Load, SlidPiece

MOST_COPIES = 36
"""So many pieces are laid at most; of more, the length grows in proportion."""


@dataclass(frozen=True, eq=False)
class RoughPiece:
    """A piece and how many there are of it."""

    piece: SlidPiece
    copies: int


def rough_length(
    pieces: Sequence[RoughPiece], across_mm: float, gap_mm: float, *, load_mm: float = math.inf, edges_mm: float = 0.0
) -> float | None:
    """Return how much length of film the pieces take; None where one finds no room.

    Parameters
    ----------
    pieces
        With their copies.
    across_mm : float, mm
        The room across the film.
    gap_mm : float, mm
        Between pieces.
    load_mm : float, mm
        How long the room of a load is; a roll that is fed has one load.
    edges_mm : float, mm
        What each load takes besides what reaches along it: the room at both its edges.
    """
    total = sum(one.copies for one in pieces)
    share = min(1.0, MOST_COPIES / total) if total else 1.0
    loads: list[Load] = []
    laid = 0
    for one in sorted(pieces, key=lambda one: -one.piece.area_mm2):
        for _ in range(max(1, round(one.copies * share))):
            if not any(load.lay(laid, one.piece.profiles, gap_mm) for load in loads):
                loads.append(Load.of(load_mm, across_mm, gap_mm))
                if not loads[-1].lay(laid, one.piece.profiles, gap_mm):
                    return None
            laid += 1
    return sum(load.reach_mm + edges_mm for load in loads) * total / laid if laid else 0.0
