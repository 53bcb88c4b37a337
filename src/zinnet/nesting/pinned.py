"""Pieces that stay where they were put: the rest is nested around them."""

from collections import Counter
from dataclasses import replace

import shapely

from zinnet.geometry.region import Region, union
from zinnet.geometry.transform import moved
from zinnet.nesting.model import Layout, NestTask, Placed, SheetLayout
from zinnet.nesting.sheet import Sheet, spoiled

ROUND = 1.006
"""Buffers of eight segments a quarter lie up to half a percent inside the true arc."""


def without_pinned(task: NestTask) -> NestTask:
    """Return the task of all that is not pinned; each sheet with pinned pieces comes first, and is spoiled by them.

    Such sheets count as scraps: they are filled before film is taken that is still whole.
    """
    if not task.pinned:
        return task
    pinned = Counter(one.piece for sheet in task.pinned for one in sheet.placed)
    used = Counter(sheet.sheet for sheet in task.pinned)
    begun = [_around(task, sheet) for sheet in task.pinned]
    left = [sheet for _, sheet in _left(task, used)]
    rest = [replace(piece, copies=piece.copies - pinned[piece.name]) for piece in task.pieces]
    return replace(task, pieces=tuple(one for one in rest if one.copies > 0), sheets=(*begun, *left), pinned=())


def _left(task: NestTask, used: Counter[int]) -> list[tuple[int, Sheet]]:
    """Return the sheets that nothing is pinned on, each with its kind; of a roll what full loads leave of it."""
    found = []
    for index, sheet in enumerate(task.sheets):
        if sheet.roll_mm is not None:
            rest = sheet.roll_mm - used[index] * sheet.width_mm
            if rest > 2 * sheet.margin_mm:
                found.append((index, sheet.model_copy(update={"roll_mm": rest})))
        elif sheet.copies is None:
            found.append((index, sheet))
        elif sheet.copies > used[index]:
            found.append((index, sheet.model_copy(update={"copies": sheet.copies - used[index]})))
    return found


def with_pinned(task: NestTask, layout: Layout) -> Layout:
    """Return the layout of the whole task: what was nested around the pinned pieces, and these.

    Parameters
    ----------
    task : NestTask, mm
        The whole task.
    layout : Layout, mm
        Of the task without what is pinned.

    Returns
    -------
    Layout, mm
        Its copies are numbered through the whole task.
    """
    if not task.pinned:
        return layout
    used = Counter(sheet.sheet for sheet in task.pinned)
    kinds = [index for index, _ in _left(task, used)]
    taken = {(one.piece, one.copy_number) for sheet in task.pinned for one in sheet.placed}
    fresh = {
        piece.name: iter([k for k in range(1, piece.copies + 1) if (piece.name, k) not in taken])
        for piece in task.pieces
    }
    sheets = list(task.pinned)
    for one in layout.sheets:
        placed = tuple(each.model_copy(update={"copy_number": next(fresh[each.piece])}) for each in one.placed)
        if one.sheet < len(task.pinned):
            begun = sheets[one.sheet]
            sheets[one.sheet] = begun.model_copy(
                update={
                    "placed": (*begun.placed, *placed),
                    "used_length_mm": max(begun.used_length_mm, one.used_length_mm),
                }
            )
        else:
            sheets.append(one.model_copy(update={"placed": placed, "sheet": kinds[one.sheet - len(task.pinned)]}))
    return Layout(sheets=tuple(sheets), unplaced=layout.unplaced)


def pinned_sheet(sheet: int, placed: tuple[Placed, ...], regions: dict[str, Region]) -> SheetLayout:
    """Return a sheet on which some copies lie, with how far they reach along x."""
    reach = max(float(moved(shapely.convex_hull(regions[one.piece]), one.matrix).bounds[2]) for one in placed)
    return SheetLayout(placed=placed, used_length_mm=reach, sheet=sheet)


def _around(task: NestTask, begun: SheetLayout) -> Sheet:
    """Return the sheet with the pinned pieces and the gap around them as spots to keep out of."""
    sheet = task.sheets[begun.sheet]
    regions = {piece.name: piece.region for piece in task.pieces}
    room = ROUND * max(task.gap_mm - sheet.margin_mm, 0.0)
    spots = [shapely.buffer(moved(regions[one.piece], one.matrix), room, quad_segs=8) for one in begun.placed]
    return spoiled(sheet, union(spots)).model_copy(update={"copies": 1, "kind": "scrap", "roll_mm": None})
