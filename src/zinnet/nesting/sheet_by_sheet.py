"""Sheets filled one after the other: scraps first, then mats and rolls, each with as much as it holds."""

import time
from collections import Counter
from collections.abc import Callable
from dataclasses import replace

import shapely

from zinnet.geometry.transform import moved
from zinnet.nesting.bins import fill_bins
from zinnet.nesting.model import Layout, NestTask, Piece, Placed, SheetLayout, rank
from zinnet.nesting.sheet import Sheet, room_of
from zinnet.nesting.strip import StripSearch

Nest = Callable[[NestTask, list[Piece], float, Callable[[Layout], None]], None]
FULL = 0.8
"""How much of a sheet's area pieces may well cover."""
OVERFILL = 1.12
"""How much more is tried on a sheet than it is expected to hold: what hangs over goes on the next."""
SCRAPS_SHARE, REST_SHARE = 0.25, 0.5


def fill_mats(task: NestTask, pieces: list[Piece], deadline: float, on_better: Callable[[Layout], None]) -> None:
    """Fill equal plain sheets one after the other, each as a strip whose overhang goes on the next."""
    wanted = Counter({piece.name: piece.copies for piece in pieces})
    filled: list[SheetLayout] = []
    most = task.sheet.copies
    while wanted.total() and (most is None or len(filled) < most):
        now = time.monotonic()
        left = _sheets_left(task.sheet, pieces, wanted)
        if now > deadline:
            return
        chosen = _enough_for(task.sheet, pieces, wanted)
        one = _fill_one(task, chosen, now + (deadline - now) / left)
        if one is None or not one.placed:
            return
        filled.append(one)
        wanted.subtract(placed.piece for placed in one.placed)
        wanted = +wanted
    on_better(numbered(task, filled))


def fill_in_turn(
    task: NestTask, pieces: list[Piece], deadline: float, on_better: Callable[[Layout], None], *, nest: Nest
) -> None:
    """Nest on several kinds of sheets: on the scraps and the rest elsewhere, and without the scraps for comparison."""
    begun = time.monotonic()
    scraps = [index for index, sheet in enumerate(task.sheets) if sheet.kind == "scrap"]
    others = [index for index in range(len(task.sheets)) if index not in scraps]
    wanted = Counter({piece.name: piece.copies for piece in pieces})
    seconds = deadline - begun
    on_scraps: list[SheetLayout] = []
    if scraps:
        on_scraps = _on_scraps(task, pieces, scraps, begun + (SCRAPS_SHARE if others else 1.0) * seconds)
    if not on_scraps:
        on_better(numbered(task, _on_kinds(task, pieces, wanted, others, deadline, nest)))
        return
    rest = wanted - Counter(placed.piece for sheet in on_scraps for placed in sheet.placed)
    if not others or not rest.total():
        on_better(numbered(task, on_scraps))
        return
    with_rest = _on_kinds(task, pieces, rest, others, begun + (SCRAPS_SHARE + REST_SHARE) * seconds, nest)
    on_better(numbered(task, [*on_scraps, *with_rest]))
    plain = _on_kinds(task, pieces, wanted, others, deadline, nest)
    on_better(numbered(task, plain))
    on_better(numbered(task, [*on_scraps, *_thinned(task, plain, rest)]))


def numbered(task: NestTask, sheets: list[SheetLayout]) -> Layout:
    """Return the layout on these sheets, its copies numbered anew and what is missing named."""
    counts: Counter[str] = Counter()
    found = []
    for sheet in sheets:
        placed = []
        for one in sheet.placed:
            counts[one.piece] += 1
            placed.append(one.model_copy(update={"copy_number": counts[one.piece]}))
        found.append(sheet.model_copy(update={"placed": tuple(placed)}))
    unplaced = [piece.name for piece in task.pieces for _ in range(piece.copies - counts[piece.name])]
    return Layout(sheets=tuple(found), unplaced=tuple(unplaced))


def _on_kinds(
    task: NestTask, pieces: list[Piece], wanted: Counter[str], kinds: list[int], deadline: float, nest: Nest
) -> list[SheetLayout]:
    """Fill kinds of sheets in their order, what found no room on one going on the next."""
    found: list[SheetLayout] = []
    rest = Counter(wanted)
    for position, index in enumerate(kinds):
        if not rest.total():
            break
        now = time.monotonic()
        best = _best_on(
            replace(task, sheets=(task.sheets[index],)),
            _copied(pieces, rest),
            now + (deadline - now) / (len(kinds) - position if position else 1.6 if len(kinds) > 1 else 1),
            nest,
        )
        for sheet in best:
            found.append(sheet.model_copy(update={"sheet": index}))
            rest.subtract(placed.piece for placed in sheet.placed)
        rest = +rest
    return found


def _best_on(task: NestTask, pieces: list[Piece], deadline: float, nest: Nest) -> tuple[SheetLayout, ...]:
    """Return the best layout on one kind of sheet."""
    sub = replace(task, pieces=tuple(pieces), seconds=deadline - time.monotonic())
    found: list[Layout] = []
    nest(sub, pieces, deadline, found.append)
    return min(found, key=lambda layout: rank(sub, layout)).sheets if found else ()


def _on_scraps(task: NestTask, pieces: list[Piece], scraps: list[int], deadline: float) -> list[SheetLayout]:
    """Put as much as can be on the scraps, all at once."""
    sub = replace(task, sheets=tuple(task.sheets[index].model_copy(update={"copies": 1}) for index in scraps))
    found: list[Layout] = []
    fill_bins(sub, pieces, deadline, found.append)
    if not found:
        return []
    areas = {piece.name: piece.region.area for piece in pieces}
    best = max(found, key=lambda layout: sum(areas[one.piece] for sheet in layout.sheets for one in sheet.placed))
    return [sheet.model_copy(update={"sheet": scraps[sheet.sheet]}) for sheet in best.sheets]


def _thinned(task: NestTask, sheets: list[SheetLayout], wanted: Counter[str]) -> list[SheetLayout]:
    """Return sheets with only so many of each piece as are wanted, those taken out that reach farthest."""
    rest = Counter(wanted)
    found = []
    for sheet in sheets:
        rights = {
            index: moved(shapely.convex_hull(_region(task, one)), one.matrix).bounds[2]
            for index, one in enumerate(sheet.placed)
        }
        kept = []
        for index in sorted(rights, key=lambda index: rights[index]):
            name = sheet.placed[index].piece
            if rest[name] > 0:
                rest[name] -= 1
                kept.append(index)
        if kept:
            reach = max(rights[index] for index in kept)
            placed = tuple(sheet.placed[index] for index in sorted(kept))
            found.append(sheet.model_copy(update={"placed": placed, "used_length_mm": reach}))
    return found


def _region(task: NestTask, placed: Placed) -> shapely.MultiPolygon:
    return next(piece.region for piece in task.pieces if piece.name == placed.piece)


def _copied(pieces: list[Piece], wanted: Counter[str]) -> list[Piece]:
    """Return the pieces with as many copies as are wanted."""
    return [replace(piece, copies=wanted[piece.name]) for piece in pieces if wanted[piece.name] > 0]


def _sheets_left(sheet: Sheet, pieces: list[Piece], wanted: Counter[str]) -> int:
    area = sum(piece.region.area * wanted[piece.name] for piece in pieces)
    return max(1, round(float(area / (FULL * room_of(sheet).area)) + 0.4))


def _enough_for(sheet: Sheet, pieces: list[Piece], wanted: Counter[str]) -> list[Piece]:
    """Return pieces for one sheet: a fair share of large and small ones, a little more than it holds."""
    enough = OVERFILL * FULL * float(room_of(sheet).area)
    total = float(sum(piece.region.area * wanted[piece.name] for piece in pieces))
    if total <= enough:
        return _copied(pieces, wanted)
    share, carried = enough / total, 0.5
    chosen: Counter[str] = Counter()
    for piece in sorted(pieces, key=lambda one: -one.region.area):
        exact = wanted[piece.name] * share + carried
        chosen[piece.name] = min(int(exact), wanted[piece.name])
        carried = exact - int(exact)
    return _copied(pieces, chosen)


def _fill_one(task: NestTask, pieces: list[Piece], deadline: float) -> SheetLayout | None:
    """Fill one sheet: the shortest strip of the pieces, without what reaches over the sheet's end."""
    found: list[Layout] = []
    StripSearch(task, pieces, deadline, found.append).run()
    if not found:
        return None
    best = min(found, key=lambda layout: layout.sheets[0].used_length_mm).sheets[0]
    end = task.sheet.width_mm - task.sheet.margin_mm
    hulls = {piece.name: shapely.convex_hull(piece.region) for piece in pieces}
    rights = [moved(hulls[one.piece], one.matrix).bounds[2] for one in best.placed]
    kept = [(one, right) for one, right in zip(best.placed, rights, strict=True) if right <= end + 1e-9]
    if not kept:
        return None
    return SheetLayout(placed=tuple(one for one, _ in kept), used_length_mm=max(right for _, right in kept))
