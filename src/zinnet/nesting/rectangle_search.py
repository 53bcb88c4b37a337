"""Rectangles, and what nearly is one: packingsolver's own search for them, far quicker than the one for any shape."""

import math
import time
from collections import Counter
from collections.abc import Callable
from functools import partial
from typing import Any

import shapely

from zinnet.geometry.transform import moved, turn
from zinnet.nesting.engine_process import run_until
from zinnet.nesting.model import Layout, NestTask, Piece, Placed, SheetLayout

UNITS_PER_MM = 1000
BOXY = 0.8
"""How much of its box the hull of a piece takes that is nested as a box too."""
Report = Callable[[Layout], None]


def are_boxy(task: NestTask, pieces: list[Piece]) -> bool:
    """Tell whether all pieces nearly fill their upright boxes, on equal plain sheets, turned by quarters at most."""
    return len(task.sheets) == 1 and task.sheet.is_plain and all(_is_boxy(piece) for piece in pieces)


def _is_boxy(piece: Piece) -> bool:
    """Tell whether nothing much fits into the corners of a piece's box: a word's hull is one, a disc's is none."""
    turns = piece.allowed_turns
    if turns is None or any(angle % 90 for angle in turns):
        return False
    return bool(shapely.convex_hull(piece.region).area > BOXY * _box_area(piece))


def _box_area(piece: Piece) -> float:
    left, top, right, bottom = piece.region.bounds
    return float((right - left) * (bottom - top))


def fill_with_boxes(task: NestTask, pieces: list[Piece], deadline: float, on_better: Report) -> None:
    """Nest rectangles until the deadline; the first layouts come at once, none of them is verified yet."""
    run_until(deadline, partial(_fill, task, pieces, deadline), on_better)


def _fill(task: NestTask, pieces: list[Piece], deadline: float, *, report: Report) -> None:
    """Look for the shortest strip that holds all, then, where one sheet does not, for as few sheets as can be."""
    import packingsolver.rectangle as rectangle

    limited = task.sheet.copies is not None
    several = rectangle.Objective.Knapsack if limited else rectangle.Objective.BinPackingWithLeftovers
    width, height = task.sheet.inner
    copies = task.sheet.copies or sum(piece.copies for piece in pieces)
    on_one = sum(_box_area(piece) * piece.copies for piece in pieces) <= width * height
    goals = [(rectangle.Objective.OpenDimensionX, 1, 0.6), (several, copies, 1.0)]
    for objective, count, share in goals if on_one else goals[1:]:
        builder = rectangle.InstanceBuilder()
        builder.set_objective(objective)
        builder.add_bin_type(_units(width + task.gap_mm, -1), _units(height + task.gap_mm, -1), copies=count)
        for piece in pieces:
            across, down, fixed = _laid(piece, task.gap_mm)
            builder.add_item_type(across, down, copies=piece.copies, oriented=fixed)
        full: list[bool] = []

        def tell(output: Any, full: list[bool] = full) -> None:
            if output.solution.full() or (limited and output.solution.number_of_items()):
                full.append(output.solution.full())
                report(_layout(task, pieces, output.solution))

        parameters = rectangle.OptimizeParameters()
        parameters.time_limit = max(0.05, (deadline - time.monotonic()) * share)
        parameters.verbosity_level = 0
        parameters.new_solution_callback = tell
        rectangle.optimize(builder.build(), parameters)
        if any(full) and count == 1:
            return


def _units(mm: float, sign: int) -> int:
    """Return a length in the engine's whole units, rounded up for pieces (1) and down for film (-1)."""
    return math.ceil(mm * UNITS_PER_MM - 1e-6) if sign > 0 else math.floor(mm * UNITS_PER_MM + 1e-6)


def _laid(piece: Piece, gap_mm: float) -> tuple[int, int, bool]:
    """Return a piece's sides at its first turn with the gap added, and whether it must lie so."""
    turns = piece.allowed_turns or (0.0,)
    left, top, right, bottom = moved(piece.region, turn(turns[0])).bounds
    fixed = len({angle % 180 for angle in turns}) == 1
    return _units(right - left + gap_mm, 1), _units(bottom - top + gap_mm, 1), fixed


def _layout(task: NestTask, pieces: list[Piece], solution: Any) -> Layout:
    """Return the engine's solution in sheet coordinates."""
    margin = task.sheet.margin_mm
    counts: Counter[str] = Counter()
    sheets = []
    for position in range(solution.number_of_different_bins()):
        bin_ = solution.bin(position)
        for _ in range(bin_.copies):
            placed, reach = [], 0.0
            for item in bin_.items:
                piece = pieces[item.item_type_id]
                angle = _turn(piece, item.rotate)
                left, top, right, _ = moved(piece.region, turn(angle)).bounds
                counts[piece.name] += 1
                x, y = margin + item.x / UNITS_PER_MM - left, margin + item.y / UNITS_PER_MM - top
                placed.append(
                    Placed(piece=piece.name, copy_number=counts[piece.name], x_mm=x, y_mm=y, turn_deg=angle % 360.0)
                )
                reach = max(reach, x + right)
            if placed:
                sheets.append(SheetLayout(placed=tuple(placed), used_length_mm=reach))
    unplaced = [piece.name for piece in task.pieces for _ in range(piece.copies - counts[piece.name])]
    return Layout(sheets=tuple(sheets), unplaced=tuple(unplaced))


def _turn(piece: Piece, crosswise: bool) -> float:
    """Return the first allowed turn of a piece, or the first one across it."""
    turns = piece.allowed_turns or (0.0,)
    if not crosswise:
        return turns[0]
    return next(angle for angle in turns if (angle - turns[0]) % 180 != 0)
