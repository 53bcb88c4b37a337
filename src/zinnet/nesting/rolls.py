"""Loads that are cut off a roll: each as long as what lies on it asks for, until the roll is used up.

The searches know sheets of one size only. A roll is given to them as full loads and the rest; what they leave of it,
since a load is cut off where its last piece ends, makes further loads for what found no room.
"""

import time
from collections import Counter
from collections.abc import Callable, Iterable
from dataclasses import replace

from zinnet.nesting.model import Layout, NestTask, Piece, SheetLayout, rank
from zinnet.nesting.sheet import Sheet, taken_mm
from zinnet.nesting.sheet_by_sheet import numbered

Search = Callable[[NestTask, Callable[[Layout], None]], None]
FIRST_SHARE, NEXT_SHARE = 0.7, 0.5
"""How much of the time the full loads are searched, and how much of what is left every further load."""


def nest_rolls(task: NestTask, on_better: Callable[[Layout], None], *, search: Search) -> None:
    """Nest on rolls and whatever else there is; ``search`` nests on sheets of fixed sizes.

    Parameters
    ----------
    task : NestTask, mm
        Some of its sheets are loads of a roll.
    on_better : function of a Layout
        Told each better layout of the whole task.
    search : function
        Nests a task without rolls.
    """
    deadline = time.monotonic() + task.seconds
    fixed, kinds = _fixed(task.sheets)
    first = replace(task, sheets=tuple(fixed), seconds=task.seconds * FIRST_SHARE)
    found: list[Layout] = []

    def take(layout: Layout) -> None:
        mapped = _mapped(layout.sheets, kinds)
        found.append(numbered(task, mapped))
        on_better(found[-1])

    search(first, take)
    best = min(found, key=lambda layout: rank(task, layout)) if found else numbered(task, [])
    while best.unplaced:
        now = time.monotonic()
        more = _further(task, best, (deadline - now) * NEXT_SHARE, search)
        if not more or (task.steps is None and now >= deadline):
            return
        best = numbered(task, [*best.sheets, *more])
        on_better(best)


def _further(task: NestTask, best: Layout, seconds: float, search: Search) -> list[SheetLayout]:
    """Return one more load with some of what found no room, on what is left of a roll; none where nothing fits."""
    left = Counter(best.unplaced)
    pieces = tuple(replace(piece, copies=left[piece.name]) for piece in task.pieces if left[piece.name])
    for index, sheet in enumerate(task.sheets):
        rest = rest_of_roll_mm(task, best.sheets, index)
        if rest is None or rest < least_load_mm(sheet, pieces):
            continue
        load = sheet.model_copy(update={"width_mm": min(sheet.width_mm, rest), "copies": 1, "roll_mm": None})
        found: list[Layout] = []
        sub = replace(task, pieces=pieces, sheets=(load,), pinned=(), seconds=max(seconds, 0.1))
        search(sub, found.append)
        held = [layout for layout in found if layout.sheets]
        if held:
            fullest = min(held, key=lambda layout: rank(sub, layout))
            return [one.model_copy(update={"sheet": index}) for one in fullest.sheets]
    return []


def least_load_mm(sheet: Sheet, pieces: Iterable[Piece]) -> float:
    """Return how long a load must be at least to hold any of the pieces, by the narrower side of their hulls' boxes."""
    narrow = min((min(_sides(piece)) for piece in pieces), default=0.0)
    return narrow / 1.5 + 2 * sheet.margin_mm


def _sides(piece: Piece) -> tuple[float, float]:
    left, top, right, bottom = piece.region.bounds
    return right - left, bottom - top


def rest_of_roll_mm(task: NestTask, layouts: Iterable[SheetLayout], index: int) -> float | None:
    """Return how much of the roll's length the loads leave that are cut off it; None where it is no roll."""
    sheet = task.sheets[index]
    if sheet.roll_mm is None:
        return None
    return sheet.roll_mm - sum(taken_mm(sheet, one.used_length_mm) for one in layouts if one.sheet == index)


def _fixed(sheets: tuple[Sheet, ...]) -> tuple[list[Sheet], list[int]]:
    """Return sheets of fixed sizes, with which kind of the task each is: of a roll the full loads, and the rest."""
    fixed: list[Sheet] = []
    kinds: list[int] = []
    for index, sheet in enumerate(sheets):
        if sheet.roll_mm is None:
            rows = [sheet]
        else:
            full, rest = int(sheet.roll_mm / sheet.width_mm + 1e-9), sheet.roll_mm % sheet.width_mm
            plain = sheet.model_copy(update={"roll_mm": None})
            rows = [plain.model_copy(update={"copies": full})] if full else []
            if rest > 2 * sheet.margin_mm + 1.0 and rest < sheet.width_mm - 1e-6:
                rows.append(plain.model_copy(update={"width_mm": rest, "copies": 1}))
        fixed += rows
        kinds += [index] * len(rows)
    return fixed, kinds


def _mapped(layouts: Iterable[SheetLayout], kinds: list[int]) -> list[SheetLayout]:
    return [one.model_copy(update={"sheet": kinds[one.sheet]}) for one in layouts]
