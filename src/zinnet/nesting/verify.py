"""The judge of every nest: plain geometry on the true shapes, nothing of the engine's."""

from collections import Counter
from typing import Any, Literal

import numpy as np
import shapely

from zinnet.base.frozen import Frozen
from zinnet.data.limits import limits
from zinnet.geometry.region import Region, without
from zinnet.geometry.transform import moved
from zinnet.nesting.model import Layout, NestTask, SheetLayout
from zinnet.nesting.sheet import Sheet, film_of, taken_mm


def regions_on(sheet: SheetLayout, pieces: dict[str, Region]) -> list[Region]:
    """Return each placed piece's region on its sheet, in the order of the placements.

    Parameters
    ----------
    sheet : SheetLayout, mm
        The placements.
    pieces : regions by name, mm
        About their own origin.

    Returns
    -------
    list of Region, mm
        On the sheet, in the order of the placements.
    """
    return [moved(pieces[placed.piece], placed.matrix) for placed in sheet.placed]


FaultKind = Literal["count", "margin", "turn", "gap", "overlap"]


class Fault(Frozen):
    """One thing that is wrong with a layout; sheets are counted from 1, 0 where it is about all of them."""

    kind: FaultKind
    sheet: int
    message: str


def faults(task: NestTask, layout: Layout) -> list[Fault]:
    """Return what is wrong with a layout, one record each; an empty list means it holds.

    Parameters
    ----------
    task : NestTask, mm
        What was asked for.
    layout : Layout, mm
        What is to be judged, wherever it came from.

    Returns
    -------
    list of Fault
        Wrong counts alone, where there are any; else pieces on one another, gaps too small, and margins and turns that
        are not allowed.
    """
    found = count_faults(task, layout)
    if found:
        return found
    for number, on_sheet in enumerate(layout.sheets, start=1):
        found += sheet_faults(task, on_sheet, number)
    return found


def sheet_faults(task: NestTask, on_sheet: SheetLayout, number: int = 1) -> list[Fault]:
    """Return what is wrong with one sheet of a layout, by itself."""
    pieces = {piece.name: piece for piece in task.pieces}
    found: list[Fault] = []
    regions = regions_on(on_sheet, {name: piece.region for name, piece in pieces.items()})
    for placed, region in zip(on_sheet.placed, regions, strict=True):
        over = overhang(task.sheets[on_sheet.sheet], region)
        if over > _tolerance():
            found.append(_fault("margin", number, f"{placed.piece} is {over:.3f} mm beyond the margin"))
        allowed = pieces[placed.piece].allowed_turns
        if allowed is not None and min(abs((placed.turn_deg - a + 180) % 360 - 180) for a in allowed) > 1e-6:
            found.append(_fault("turn", number, f"{placed.piece} is turned by {placed.turn_deg:g} degrees"))
    found.extend(_too_close(on_sheet, regions, task.gap_mm - _tolerance(), number))
    return found


def overhang(sheet: Sheet, region: Region) -> float:
    """Return how far in mm a region reaches over the sheet's margin; at most 0 where it stays inside.

    On a scrap the margin goes along every edge of the film, the holes too, and around the spots to keep out of.
    """
    left, top, right, bottom = region.bounds
    margin = sheet.margin_mm
    over = float(max(margin - left, margin - top, right - sheet.width_mm + margin, bottom - sheet.height_mm + margin))
    if sheet.is_plain:
        return over
    usable = without(film_of(sheet), sheet.keep_out) if sheet.keep_out is not None else film_of(sheet)
    outside = without(region, usable)
    if outside.area > 1e-6 * outside.length:
        return margin + float(shapely.distance(shapely.points(shapely.get_coordinates(outside)), usable).max())
    return margin - float(shapely.distance(region, usable.boundary))


def count_faults(task: NestTask, layout: Layout) -> list[Fault]:
    """Return whether the copies placed and left over are the copies wanted, on no more sheets than there are."""
    wanted = Counter({piece.name: piece.copies for piece in task.pieces})
    given = Counter(placed.piece for sheet in layout.sheets for placed in sheet.placed)
    given.update(layout.unplaced)
    copies = [(placed.piece, placed.copy_number) for sheet in layout.sheets for placed in sheet.placed]
    found = []
    if wanted != given or len(set(copies)) != len(copies):
        found.append(_fault("count", 0, "the copies placed and left over are not the copies wanted"))
    used = Counter(sheet.sheet for sheet in layout.sheets)
    for index, count in used.items():
        if index >= len(task.sheets):
            found.append(_fault("count", 0, "a sheet is used that there is not"))
            continue
        most = task.sheets[index].copies
        if most is not None and count > most:
            found.append(_fault("count", 0, f"{count} sheets are used of {most}"))
    for index, sheet in enumerate(task.sheets):
        lengths = [taken_mm(sheet, one.used_length_mm) for one in layout.sheets if one.sheet == index]
        if sheet.roll_mm is not None and sum(lengths) > sheet.roll_mm + _tolerance():
            found.append(_fault("count", 0, f"{sum(lengths):.1f} mm are cut off a roll of {sheet.roll_mm:.1f} mm"))
    return found


def _too_close(sheet: SheetLayout, regions: list[Region], gap_mm: float, number: int) -> list[Fault]:
    shapes = np.array(regions, dtype=object)
    tree = shapely.STRtree(shapes)
    if gap_mm > 0:
        first, second = tree.query(shapes, predicate="dwithin", distance=gap_mm)
    else:
        first, second = tree.query(shapes, predicate="intersects")
    found = []
    for a, b in zip(first, second, strict=True):
        if a >= b:
            continue
        if gap_mm <= 0 and shapely.intersection(shapes[a], shapes[b]).area <= -gap_mm * shapes[a].length + 1e-9:
            continue
        names = f"{sheet.placed[a].piece} and {sheet.placed[b].piece}"
        if shapely.intersection(shapes[a], shapes[b]).area > _limits()["overlap_mm2"]:
            found.append(_fault("overlap", number, f"{names} lie on one another"))
        else:
            found.append(_fault("gap", number, f"{names} are too close"))
    return found


def _fault(kind: FaultKind, sheet: int, message: str) -> Fault:
    return Fault(kind=kind, sheet=sheet, message=message)


def _tolerance() -> float:
    return float(_limits()["tolerance_mm"])


def _limits() -> dict[str, Any]:
    return limits()["nest"]
