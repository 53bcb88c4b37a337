"""Nests by sliding pieces in, in ever other orders: for pieces with much room between their parts, on many mats."""

import time
from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from zinnet.nesting.model import Layout, NestTask, Piece, Placed, SheetLayout, rank
from zinnet.nesting.slide import Load, SlidPiece, profiles_of, slide_in

MOST_LOADS = 400
SWAPPED = 0.15
"""How many of the pieces change places from one order to the next, as a share."""


@dataclass(frozen=True, eq=False)
class _Copies:
    """All copies of all pieces, each by itself."""

    kinds: tuple[int, ...]
    pieces: tuple[SlidPiece, ...]


def nest_by_sliding(
    task: NestTask, pieces: list[Piece], deadline: float, on_better: Callable[[Layout], None], *, once: bool = False
) -> None:
    """Nest on the plain sheets of a task until the deadline, or ``once``; each better layout is told, not verified yet.

    Parameters
    ----------
    task : NestTask, mm
        Sheets, gap and aims.
    pieces : pieces, mm
        Those to place.
    deadline : float, s
        On the monotonic clock.
    on_better : function of a Layout
        Told each better layout.
    """
    copies = _copies(pieces)
    if not copies.kinds:
        return
    rng = np.random.default_rng(task.seed + 1)
    areas = np.array([copies.pieces[k].area_mm2 for k in range(len(copies.kinds))])
    best: tuple[tuple[float, ...], NDArray[np.int64]] | None = None
    for number, order in enumerate(_orders(copies, areas, rng)):
        if number and (once or time.monotonic() > deadline):
            return
        wanted = order if best is None or number < 3 else _swapped(best[1], rng)
        layout = _laid(task, pieces, copies, wanted)
        worth = rank(task, layout)
        if best is None or worth < best[0]:
            best = worth, wanted
            on_better(layout)


def _copies(pieces: list[Piece]) -> _Copies:
    kinds: list[int] = []
    rows: list[SlidPiece] = []
    for kind, piece in enumerate(pieces):
        turns = piece.allowed_turns or (0.0, 90.0, 180.0, 270.0)
        turns = tuple(angle for angle in turns if angle % 90 == 0)
        if not turns:
            continue
        left, top, right, bottom = piece.region.bounds
        slid = SlidPiece(profiles_of(piece.region, turns), (right - left) * (bottom - top))
        kinds += [kind] * piece.copies
        rows += [slid] * piece.copies
    return _Copies(tuple(kinds), tuple(rows))


def _orders(copies: _Copies, areas: NDArray[np.float64], rng: np.random.Generator) -> Iterator[NDArray[np.int64]]:
    """Yield orders to lay pieces in: the largest first, the longest first, then any."""
    yield np.argsort(-areas, kind="stable")
    longest = np.array([max(profile.width_mm for profile in piece.profiles) for piece in copies.pieces])
    yield np.argsort(-longest, kind="stable")
    while True:
        yield rng.permutation(len(areas))


def _swapped(order: NDArray[np.int64], rng: np.random.Generator) -> NDArray[np.int64]:
    """Return the order with some pieces elsewhere."""
    found = order.copy()
    for _ in range(max(1, round(SWAPPED * len(order) * rng.random()))):
        one, other = rng.integers(0, len(order), 2)
        found[one], found[other] = found[other], found[one]
    return found


def _laid(task: NestTask, pieces: list[Piece], copies: _Copies, order: NDArray[np.int64]) -> Layout:
    rest = order.tolist()
    sheets: list[SheetLayout] = []
    counts = dict.fromkeys(range(len(pieces)), 0)
    for index, sheet in enumerate(task.sheets):
        most = MOST_LOADS if sheet.copies is None else min(sheet.copies, MOST_LOADS)
        along, across = sheet.inner
        while sheet.is_plain and rest and most > 0 and min(along, across) > 0:
            load = Load.of(along, across, task.gap_mm)
            left = slide_in(load, rest, copies.pieces, task.gap_mm)
            if len(left) == len(rest):
                break
            sheets.append(_sheet(load, index, sheet.margin_mm, pieces, copies, counts))
            rest, most = left, most - 1
    unplaced = [piece.name for k, piece in enumerate(pieces) for _ in range(piece.copies - counts[k])]
    other = [piece.name for piece in task.pieces if piece not in pieces for _ in range(piece.copies)]
    return Layout(sheets=tuple(sheets), unplaced=(*unplaced, *other))


def _sheet(
    load: Load, index: int, margin_mm: float, pieces: list[Piece], copies: _Copies, counts: dict[int, int]
) -> SheetLayout:
    placed = []
    for one in load.slid:
        kind = copies.kinds[one.piece]
        counts[kind] += 1
        left, top = one.profile.corner
        placed.append(
            Placed(
                piece=pieces[kind].name,
                copy_number=counts[kind],
                x_mm=margin_mm + one.x_mm - left,
                y_mm=margin_mm + one.y_mm - top,
                turn_deg=one.profile.turn_deg % 360.0,
            )
        )
    return SheetLayout(placed=tuple(placed), used_length_mm=margin_mm + load.reach_mm, sheet=index)
