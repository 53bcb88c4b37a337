"""The nesting engine: the search that suits the job, within the time allowed."""

import time
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace

import shapely

from zinnet.base.stages import carried
from zinnet.nesting.bins import fill_bins, fill_in_steps
from zinnet.nesting.model import Layout, NestTask, Piece
from zinnet.nesting.rectangle_search import are_boxy, fill_with_boxes
from zinnet.nesting.rolls import nest_rolls
from zinnet.nesting.sheet_by_sheet import fill_in_turn, fill_mats
from zinnet.nesting.shelf import fits
from zinnet.nesting.slide_search import nest_by_sliding
from zinnet.nesting.strip import StripSearch

Search = Callable[[NestTask, list[Piece], float, Callable[[Layout], None]], None]
SURELY_ONE, PERHAPS_ONE = 0.4, 0.92
"""Shares of a sheet's area: pieces whose hulls take less go on one surely, pieces that take more never do."""
FIRST_TRY = 0.45
FEW_PIECES = 40


def engine_nest(task: NestTask, on_better: Callable[[Layout], None]) -> None:
    """Nest within ``task.seconds`` or ``task.steps``; each better layout goes to ``on_better``, not yet verified."""
    if any(sheet.roll_mm is not None for sheet in task.sheets):
        nest_rolls(task, on_better, search=engine_nest)
        return
    deadline = time.monotonic() + task.seconds
    pieces = [piece for piece in task.pieces if fits(piece, task)]
    if not pieces:
        return
    if task.steps is not None or any(len(piece.region.geoms) > 1 for piece in pieces):
        nest_by_sliding(task, pieces, deadline, on_better, once=True)
    if task.steps is not None:
        fill_in_steps(task, pieces, task.steps, on_better)
    elif len(task.sheets) > 1:
        fill_in_turn(task, pieces, deadline, on_better, nest=nest_on_one_kind)
    else:
        nest_on_one_kind(task, pieces, deadline, on_better)


def nest_on_one_kind(task: NestTask, pieces: list[Piece], deadline: float, on_better: Callable[[Layout], None]) -> None:
    """Nest on sheets that are all alike; for what is nearly a rectangle another search goes beside the usual one."""
    if not are_boxy(task, pieces):
        _nest_shapes(task, pieces, deadline, on_better)
        return
    _side_by_side((fill_with_boxes, _nest_shapes), task, pieces, deadline, on_better)


def _side_by_side(
    searches: Sequence[Search],
    task: NestTask,
    pieces: list[Piece],
    deadline: float,
    on_better: Callable[[Layout], None],
) -> None:
    """Let several searches look at once; each tells what it finds."""
    with ThreadPoolExecutor(max_workers=len(searches)) as pool:
        runs = [pool.submit(carried(search), task, pieces, deadline, on_better) for search in searches]
        for run in runs:
            run.result()


def _nest_shapes(task: NestTask, pieces: list[Piece], deadline: float, on_better: Callable[[Layout], None]) -> None:
    """Nest as one strip where one sheet may hold it all, else as bins."""
    if not task.sheet.is_plain:
        fill_bins(task, pieces, deadline, on_better)
        return
    share, airy = _share_of_sheet(task, pieces, hulls=False), _share_of_sheet(task, pieces, hulls=True)
    if share > PERHAPS_ONE:
        _fill_many(task, pieces, deadline, on_better)
        return
    held = False

    def take(layout: Layout) -> None:
        nonlocal held
        width = task.sheet.width_mm - task.sheet.margin_mm
        if layout.sheets[0].used_length_mm <= width + 1e-6:
            held = True
            on_better(layout)

    now = time.monotonic()
    first = deadline if airy < SURELY_ONE else now + FIRST_TRY * (deadline - now)
    StripSearch(task, pieces, first, take).run()
    if not held:
        _fill_many(task, pieces, deadline, on_better)
    elif first < deadline:
        StripSearch(replace(task, seed=task.seed + 1), pieces, deadline, take).run()


def _fill_many(task: NestTask, pieces: list[Piece], deadline: float, on_better: Callable[[Layout], None]) -> None:
    """Nest on several mats, or as much as can be on those that there are; pieces slide in beside the other searches."""
    _side_by_side((nest_by_sliding, _fill_by_engines), task, pieces, deadline, on_better)


def _fill_by_engines(task: NestTask, pieces: list[Piece], deadline: float, on_better: Callable[[Layout], None]) -> None:
    now = time.monotonic()
    if sum(piece.copies for piece in pieces) > FEW_PIECES and task.sheet.copies != 1:
        fill_mats(task, pieces, now + 0.6 * (deadline - now), on_better)
    fill_bins(task, pieces, deadline, on_better)


def _share_of_sheet(task: NestTask, pieces: list[Piece], *, hulls: bool) -> float:
    """Return how much of a sheet the pieces take, or their hulls, which say more of pieces of many parts."""
    width, height = task.sheet.inner
    shapes = ((shapely.convex_hull(piece.region) if hulls else piece.region, piece.copies) for piece in pieces)
    return float(sum(shape.area * copies for shape, copies in shapes)) / (width * height)
