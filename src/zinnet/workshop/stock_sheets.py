"""Film from the shelf as it can lie on a mat: scraps and sheets as they are, rolls by the length that a mat takes."""

from collections.abc import Iterator, Sequence

import numpy as np
import shapely

from zinnet.geometry.region import Region, as_region, common
from zinnet.geometry.transform import Matrix, moved, shift, turn
from zinnet.machines.cutters import Mat, room
from zinnet.nesting.sheet import Sheet
from zinnet.workshop.stock import StockItem

KINDS = ("scrap", "sheet", "roll")


def sheets_from(
    items: Sequence[StockItem], mat: Mat, *, edge_mm: float, directed: bool
) -> tuple[tuple[Sheet, StockItem], ...]:
    """Return every load that film makes on a mat, in the order in which it is to be used up, each with its film.

    Scraps come first, the smallest before the larger, then sheets, then rolls, the shortest first. Film with a
    direction lies so that the direction runs along x.
    """
    ordered = sorted(items, key=lambda item: (KINDS.index(item.kind), item.area_mm2, item.number))
    loads = ((sheet, item) for item in ordered for sheet in _loads(item, mat, directed, edge_mm))
    return tuple((_with_margin(sheet, mat, edge_mm), item) for sheet, item in loads)


def _loads(item: StockItem, mat: Mat, directed: bool, edge_mm: float) -> Iterator[Sheet]:
    whole = item.sheet(0.0)
    if directed and item.turned:
        whole = _quarter_turned(whole)
    options = [(mat.width_mm, mat.height_mm)]
    if not mat.fed:
        options = sorted({(mat.width_mm, mat.height_mm), (mat.height_mm, mat.width_mm)})
    held = _held_of_roll if whole.kind == "roll" else _held
    along, across = max(options, key=lambda option: held(whole, *option))
    if whole.kind == "roll":
        longest = along if mat.fed else _load_mm(whole, mat, along, edge_mm)
        yield from _lengths(whole, longest, min(across, whole.height_mm))
    else:
        yield from _windows(whole, along, across)


def _held(whole: Sheet, along: float, across: float) -> tuple[float, float]:
    """Return how much of the film one load holds, then how long a load is."""
    return round(min(along, whole.width_mm) * min(across, whole.height_mm), 3), along


def _held_of_roll(roll: Sheet, along: float, across: float) -> tuple[float, float]:
    """Return how much of a roll's width a load takes, since what lies beside it is lost, then how long it is."""
    return round(min(across, roll.height_mm), 3), min(along, roll.width_mm)


def _load_mm(roll: Sheet, mat: Mat, along: float, edge_mm: float) -> float:
    """Return how long loads of a roll are at most: so that what lies within their edges lies within the mat's margin.

    Film that is narrow enough keeps no more than its own edge free, so that nothing is gained by longer ones.
    """
    kept = 2 * max(0.0, mat.margin_mm - edge_mm)
    across = min(mat.width_mm, mat.height_mm)
    return along - kept if roll.height_mm <= across - kept else along


def _lengths(roll: Sheet, along: float, across: float) -> Iterator[Sheet]:
    """Yield the loads that are cut off a roll, so long at most; from one with spoiled spots, one by one."""
    if roll.keep_out is None:
        most = max(1, int(roll.width_mm / room().least_load_mm))
        length = min(along, roll.width_mm)
        pool = None if roll.width_mm <= along + 1e-6 else roll.width_mm
        yield roll.model_copy(
            update={"width_mm": length, "height_mm": across, "copies": 1 if pool is None else most, "roll_mm": pool}
        )
        return
    start = 0.0
    while roll.width_mm - start >= room().least_load_mm:
        length = min(along, roll.width_mm - start)
        yield _window(roll, start, 0.0, length, across)
        start += length


def _windows(whole: Sheet, along: float, across: float) -> Iterator[Sheet]:
    """Yield film that is no larger than the mat as it is; larger film by what a mat takes of it."""
    if whole.width_mm <= along + 0.5 and whole.height_mm <= across + 0.5:
        yield whole
        return
    top = 0.0
    while whole.height_mm - top >= room().least_load_mm:
        left = 0.0
        while whole.width_mm - left >= room().least_load_mm:
            window = _window(whole, left, top, min(along, whole.width_mm - left), min(across, whole.height_mm - top))
            if window.outline is None or not window.outline.is_empty:
                yield window
            left += along
        top += across


def _window(whole: Sheet, left: float, top: float, width: float, height: float) -> Sheet:
    """Return a rectangle of film with what is known of it there."""

    def there(region: Region | None) -> Region | None:
        if region is None:
            return None
        return common(moved(region, shift(-left, -top)), as_region(shapely.box(0, 0, width, height)))

    spots = there(whole.keep_out)
    return whole.model_copy(
        update={
            "width_mm": width,
            "height_mm": height,
            "outline": there(whole.outline),
            "keep_out": None if spots is None or spots.is_empty else spots,
            "corner": (left, top),
        }
    )


def _quarter_turned(sheet: Sheet) -> Sheet:
    """Return film turned by a quarter, its corner where it was."""
    matrix = _quarter(sheet.height_mm)
    return sheet.model_copy(
        update={
            "width_mm": sheet.height_mm,
            "height_mm": sheet.width_mm,
            "outline": None if sheet.outline is None else moved(sheet.outline, matrix),
            "keep_out": None if sheet.keep_out is None else moved(sheet.keep_out, matrix),
            "kind": "sheet" if sheet.kind == "roll" else sheet.kind,
            "turned": True,
        }
    )


def _with_margin(sheet: Sheet, mat: Mat, edge_mm: float) -> Sheet:
    """Return the load with the room kept at its edges: the film's own, and as much as the mat's margin asks for there.

    Film that reaches into the margin of a mat lies in the middle of it.
    """
    long, short = sorted((sheet.width_mm, sheet.height_mm), reverse=True)
    beside = min(max(mat.width_mm, mat.height_mm) - long, min(mat.width_mm, mat.height_mm) - short) / 2
    margin = max(edge_mm, mat.margin_mm - max(0.0, beside))
    return sheet.model_copy(update={"margin_mm": margin})


def _quarter(width_mm: float) -> Matrix:
    """Return the matrix that turns film of a width (across) by a quarter, its corner staying the origin."""
    return shift(width_mm, 0.0) @ turn(90.0)


def to_film(sheet: Sheet, item: StockItem) -> Matrix:
    """Return the matrix from a load to the whole film that it is part of, x along the film's length."""
    there = shift(*sheet.corner)
    return np.linalg.inv(_quarter(item.width_mm)) @ there if sheet.turned else there
