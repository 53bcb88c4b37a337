"""Filling sheets that there are several of, or that are no rectangles: packingsolver's irregular bins."""

import threading
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from functools import partial
from typing import Any

import numpy as np
import packingsolver.irregular as irregular
import shapely
from shapely.geometry import LinearRing, Polygon
from shapely.geometry.polygon import orient

from zinnet.base.stages import carried
from zinnet.geometry.region import Region
from zinnet.geometry.transform import moved
from zinnet.nesting.engine_process import run_until
from zinnet.nesting.grown import EXACT_POINTS, grown, with_counters
from zinnet.nesting.model import Layout, NestTask, Piece, Placed, SheetLayout
from zinnet.nesting.sheet import Sheet, room_of
from zinnet.nesting.shelf import best_turn, shelf_nest
from zinnet.nesting.strip_engines import item_shape

MOST_S = 600.0
"""How long a search of a given width may take at most."""
GROWTH_MM = 0.15
ANY_STEPS = 12
LEAST_ROOM_MM2 = 25.0
ROOM_MM = 0.05
"""How far the room on a scrap may be simplified; it is made smaller by as much."""


def fill_in_steps(task: NestTask, pieces: list[Piece], steps: int, on_better: Callable[[Layout], None]) -> None:
    """Fill the task's sheets by a search of a given width, on one core: the same steps find the same each time.

    Parameters
    ----------
    task : NestTask, mm
        Sheets, pieces and gap.
    pieces : pieces, mm
        Those to place.
    steps : int
        How wide the search is.
    on_better : function of a Layout
        Told each better layout.
    """
    deadline = time.monotonic() + MOST_S
    run_until(deadline, partial(_fill_in_steps, task, shuffled(task, pieces), steps, deadline), on_better)


def _fill_in_steps(
    task: NestTask, pieces: list[Piece], steps: int, deadline: float, *, report: Callable[[Layout], None]
) -> None:
    _Run(task, pieces, False, deadline, report, steps).step()


def shuffled(task: NestTask, pieces: list[Piece]) -> list[Piece]:
    """Return the pieces in the order of the task's seed."""
    if not task.seed:
        return pieces
    return [pieces[k] for k in np.random.default_rng(task.seed).permutation(len(pieces))]


def fill_bins(task: NestTask, pieces: list[Piece], deadline: float, on_better: Callable[[Layout], None]) -> None:
    """Fill the task's sheets until the deadline; each better layout goes to ``on_better``, not yet verified.

    The engine fills a sheet from one side, and tight tasks are solved from one side and not from another:
    where plain sheets are few, two runs go side by side, one of them with the sheet turned by 90 degrees.
    """
    run_until(deadline, partial(_fill, task, shuffled(task, pieces), deadline), on_better)


def _fill(task: NestTask, pieces: list[Piece], deadline: float, *, report: Callable[[Layout], None]) -> None:
    """Fill the sheets; each layout is reported, by one thread at a time."""
    one_at_a_time = threading.Lock()

    def tell(layout: Layout) -> None:
        with one_at_a_time:
            report(layout)

    total = sum(piece.copies for piece in pieces)
    most = sum(total if sheet.copies is None else sheet.copies for sheet in task.sheets)
    alike = len(task.sheets) == 1 and task.sheet.is_plain
    if most >= total and alike:
        _Run(task, pieces, False, deadline, tell).spread()
        return
    with ThreadPoolExecutor(max_workers=2) as pool:
        runs = [
            pool.submit(carried(_Run(task, pieces, quarter, deadline, tell).squeeze))
            for quarter in ((False, True) if alike else (False,))
        ]
        for run in runs:
            run.result()


class _Run:
    """One run of the engine until the deadline, with the sheet as it is or turned by a quarter."""

    def __init__(
        self,
        task: NestTask,
        pieces: list[Piece],
        quarter: bool,
        deadline: float,
        on_better: Callable[[Layout], None],
        steps: int | None = None,
    ) -> None:
        self.task, self.pieces, self.quarter, self.steps = task, pieces, quarter, steps
        self.deadline, self.on_better = deadline, on_better
        self.complete = False
        self._bins: list[int] = []

    def spread(self) -> None:
        """Nest on as many sheets as it takes, then leave as much as can be of the last one."""
        enough = len(shelf_nest(self.task).sheets)
        self._optimize(irregular.Objective.BinPackingWithLeftovers, max(1, enough), share=1.0)

    def step(self) -> None:
        """Nest with the two goals whose searches come to an end by themselves."""
        unlimited = all(sheet.copies is None for sheet in self.task.sheets)
        if len(self.task.sheets) == 1 and self.task.sheet.is_plain:
            enough = max(1, len(shelf_nest(self.task).sheets)) if unlimited else None
            self._optimize(irregular.Objective.BinPacking, enough, share=1.0)
        if not self.complete and not unlimited:
            self._optimize(irregular.Objective.Knapsack, None, share=1.0)

    def squeeze(self) -> None:
        """Nest on the sheets that there are: everything if that goes, else as much as can be."""
        if len(self.task.sheets) > 1 or not self.task.sheet.is_plain:
            self._optimize(irregular.Objective.Knapsack, None, share=1.0)
            return
        self._optimize(irregular.Objective.BinPacking, None, share=0.4)
        if self.complete:
            self._optimize(irregular.Objective.BinPackingWithLeftovers, None, share=1.0)
        else:
            self._optimize(irregular.Objective.Knapsack, None, share=1.0)

    def _optimize(self, objective: Any, copies: int | None, *, share: float) -> None:
        seconds = (self.deadline - time.monotonic()) * share
        if seconds <= 0:
            return
        builder = irregular.InstanceBuilder()
        builder.set_objective(objective)
        builder.set_leftover_mode(irregular.LeftoverMode.Top if self.quarter else irregular.LeftoverMode.Left)
        self._bins = []
        for index, sheet in enumerate(self.task.sheets):
            self._add_bins(builder, index, sheet, copies)
        if not self._bins:
            return
        builder.set_item_item_minimum_spacing(self.task.gap_mm)
        for piece in self.pieces:
            region, holes = piece.region, self.task.inside_counters
            shape = engine_shape(
                with_counters(region, self.task.counter_mm) if holes else region, self.task.gap_mm, with_holes=holes
            )
            builder.add_item_type(
                [item_shape(part) for part in shape.geoms],
                copies=piece.copies,
                allowed_rotations=self._rotations(piece),
            )
        parameters = irregular.OptimizeParameters()
        parameters.time_limit = seconds
        parameters.verbosity_level = 0
        parameters.new_solution_callback = self._report
        if self.steps is not None:
            parameters.optimization_mode = irregular.OptimizationMode.NotAnytimeSequential
            parameters.not_anytime_tree_search_queue_size = self.steps
            parameters.not_anytime_sequential_single_knapsack_subproblem_tree_search_queue_size = self.steps
            parameters.not_anytime_sequential_value_correction_number_of_iterations = max(1, self.steps // 16)
            parameters.use_local_search_black_box_optimization = False
            parameters.use_local_search_direct_trigonometry = False
            parameters.use_local_search_linear_programming = False
            parameters.use_local_search_nonlinear_programming = False
        irregular.optimize(builder.build(), parameters)

    def _add_bins(self, builder: Any, index: int, sheet: Sheet, copies: int | None) -> None:
        """Add a sheet as a bin, or each part of it that hangs together."""
        if min(sheet.inner) <= 0:
            return
        count = copies if copies is not None else sheet.copies or sum(piece.copies for piece in self.pieces)
        if sheet.is_plain:
            width, height = reversed(sheet.inner) if self.quarter else sheet.inner
            builder.add_bin_type(irregular.build_rectangle(0, width, 0, height), copies=count)
            self._bins.append(index)
            return
        for part in shapely.get_parts(shapely.buffer(shapely.simplify(room_of(sheet), ROOM_MM), -ROOM_MM)):
            if part.area < LEAST_ROOM_MM2:
                continue
            bin_id = builder.add_bin_type(_ring(part.exterior), copies=count)
            self._bins.append(index)
            for hole in part.interiors:
                builder.add_defect(bin_id, 0, irregular.ShapeWithHoles(_ring(hole), []))

    def _rotations(self, piece: Piece) -> list[tuple[float, float, bool]]:
        """Return the turns the engine tries. Where any will do, steps find more in less time than a free turn."""
        angles = piece.allowed_turns
        if angles is None:
            best = best_turn(piece, *self.task.sheet.inner)
            steps = (360.0 / ANY_STEPS * step for step in range(ANY_STEPS))
            angles = (*steps, best[0]) if best is not None else tuple(steps)
        turned = sorted({(angle - 90 * self.quarter) % 360 for angle in angles})
        return [(angle, angle, False) for angle in turned]

    def _report(self, output: Any) -> None:
        solution = output.solution
        full = solution.full()
        unlimited = all(sheet.copies is None for sheet in self.task.sheets)
        if solution.number_of_items() and (full or not unlimited):
            self.complete = self.complete or full
            self.on_better(self._layout(solution))

    def _layout(self, solution: Any) -> Layout:
        """Return the engine's solution in sheet coordinates: the sheets it repeats written out, those parted joined."""
        hulls = {piece.name: shapely.convex_hull(piece.region) for piece in self.task.pieces}
        copies = dict.fromkeys(hulls, 0)
        found: list[tuple[int, list[Placed]]] = []
        parted: dict[int, list[Placed]] = {}
        for position in range(solution.number_of_different_bins()):
            bin_ = solution.bin(position)
            kind = self._bins[bin_.bin_type_id]
            for _ in range(bin_.copies):
                placed = []
                for item in bin_.items:
                    name = self.pieces[item.item_type_id].name
                    copies[name] += 1
                    placed.append(self._placed(kind, name, copies[name], item))
                if self.task.sheets[kind].is_plain or self.task.sheets[kind].copies != 1:
                    found.append((kind, placed))
                elif kind in parted:
                    parted[kind].extend(placed)
                else:
                    parted[kind] = placed
                    found.append((kind, placed))
        sheets = [
            SheetLayout(
                placed=tuple(placed),
                used_length_mm=max(moved(hulls[one.piece], one.matrix).bounds[2] for one in placed),
                sheet=kind,
            )
            for kind, placed in found
            if placed
        ]
        unplaced = [piece.name for piece in self.task.pieces for _ in range(piece.copies - copies[piece.name])]
        return Layout(sheets=tuple(sheets), unplaced=tuple(unplaced))

    def _placed(self, kind: int, name: str, copy_number: int, item: Any) -> Placed:
        x, y, angle = item.bl_corner.x, item.bl_corner.y, item.angle
        sheet = self.task.sheets[kind]
        if self.quarter:
            x, y, angle = sheet.inner[0] - y, x, angle + 90
        margin = sheet.margin_mm if sheet.is_plain else 0.0
        return Placed(piece=name, copy_number=copy_number, x_mm=margin + x, y_mm=margin + y, turn_deg=angle % 360.0)


def _ring(ring: LinearRing) -> Any:
    return irregular.build_shape([tuple(point) for point in orient(Polygon(ring)).exterior.coords[:-1]])


def engine_shape(region: Region, gap_mm: float, *, with_holes: bool) -> Region:
    """Return a simpler region that covers the piece; gaps within it too narrow for another piece are closed."""
    simple = len(shapely.get_coordinates(region)) <= EXACT_POINTS and len(region.geoms) == 1
    if simple and (with_holes or not region.geoms[0].interiors):
        return region
    half = gap_mm / 2
    closed = region.buffer(half, quad_segs=4).buffer(-half, quad_segs=4).union(region) if half else region
    tolerance = min(GROWTH_MM, max(gap_mm / 8, 0.02))
    return grown(Region(shapely.get_parts(closed)), 0.0, tolerance, with_holes=with_holes)
