"""The nesting engine: packingsolver's irregular bins, fed with slightly grown shapes."""

import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from typing import Any

import numpy as np
import packingsolver.irregular as irregular
import shapely
from shapely.geometry import Polygon
from shapely.geometry.polygon import orient

from zinnet.geometry.region import Region, grown_simplified
from zinnet.geometry.transform import moved
from zinnet.nesting.model import Layout, NestTask, Piece, Placed, SheetLayout
from zinnet.nesting.shelf import best_turn, shelf_nest

EXACT_POINTS = 40
GROWTH_MM = 0.15
ANY_STEPS = 12


def engine_nest(task: NestTask, on_better: Callable[[Layout], None]) -> None:
    """Nest within ``task.seconds``; each better layout goes to ``on_better``, not yet verified.

    The engine fills a sheet from one side, and tight tasks are solved from one side and not from another:
    where sheets are few, two runs go side by side, one of them with the sheet turned by 90 degrees.
    """
    inner = _inner(task)
    fitting = [piece for piece in task.pieces if best_turn(piece, *inner) is not None]
    if not fitting:
        return
    if task.seed:
        order = np.random.default_rng(task.seed).permutation(len(fitting))
        fitting = [fitting[k] for k in order]
    deadline = time.monotonic() + task.seconds
    total = sum(piece.copies for piece in fitting)
    if task.most_sheets is None or task.most_sheets >= total:
        _Run(task, fitting, False, deadline, on_better).spread()
        return
    with ThreadPoolExecutor(max_workers=2) as pool:
        runs = [pool.submit(_Run(task, fitting, quarter, deadline, on_better).squeeze) for quarter in (False, True)]
        for run in runs:
            run.result()


def _inner(task: NestTask) -> tuple[float, float]:
    sheet = task.sheet
    return sheet.width_mm - 2 * sheet.margin_mm, sheet.height_mm - 2 * sheet.margin_mm


class _Run:
    """One run of the engine until the deadline, with the sheet as it is or turned by a quarter."""

    def __init__(
        self,
        task: NestTask,
        pieces: list[Piece],
        quarter: bool,
        deadline: float,
        on_better: Callable[[Layout], None],
    ) -> None:
        self.task, self.pieces, self.quarter = task, pieces, quarter
        self.deadline, self.on_better = deadline, on_better
        self.complete = False

    def spread(self) -> None:
        """Nest on as many sheets as it takes, then leave as much as can be of the last one."""
        enough = len(shelf_nest(self.task).sheets)
        self._optimize(irregular.Objective.BinPackingWithLeftovers, max(1, enough), share=1.0)

    def squeeze(self) -> None:
        """Nest on the sheets that there are: everything if that goes, else as much as can be."""
        assert self.task.most_sheets is not None
        self._optimize(irregular.Objective.BinPacking, self.task.most_sheets, share=0.4)
        if self.complete:
            self._optimize(irregular.Objective.BinPackingWithLeftovers, self.task.most_sheets, share=1.0)
        else:
            self._optimize(irregular.Objective.Knapsack, self.task.most_sheets, share=1.0)

    def _optimize(self, objective: Any, copies: int, *, share: float) -> None:
        seconds = (self.deadline - time.monotonic()) * share
        if seconds <= 0:
            return
        width, height = _inner(self.task)
        if self.quarter:
            width, height = height, width
        builder = irregular.InstanceBuilder()
        builder.set_objective(objective)
        builder.set_leftover_mode(irregular.LeftoverMode.Top if self.quarter else irregular.LeftoverMode.Left)
        builder.add_bin_type(irregular.build_rectangle(0, width, 0, height), copies=copies)
        builder.set_item_item_minimum_spacing(self.task.gap_mm)
        for piece in self.pieces:
            shape = engine_shape(piece.region, self.task.gap_mm)
            builder.add_item_type(
                [_item_shape(part) for part in shape.geoms],
                copies=piece.copies,
                allowed_rotations=self._rotations(piece),
            )
        parameters = irregular.OptimizeParameters()
        parameters.time_limit = seconds
        parameters.verbosity_level = 0
        parameters.new_solution_callback = self._report
        irregular.optimize(builder.build(), parameters)

    def _rotations(self, piece: Piece) -> list[tuple[float, float, bool]]:
        """Return the turns the engine tries. Where any will do, steps find more in less time than a free turn."""
        angles = piece.allowed_turns
        if angles is None:
            best = best_turn(piece, *_inner(self.task))
            steps = (360.0 / ANY_STEPS * step for step in range(ANY_STEPS))
            angles = (*steps, best[0]) if best is not None else tuple(steps)
        turned = sorted({(angle - 90 * self.quarter) % 360 for angle in angles})
        return [(angle, angle, False) for angle in turned]

    def _report(self, output: Any) -> None:
        solution = output.solution
        full = solution.full()
        if solution.number_of_items() and (full or self.task.most_sheets is not None):
            self.complete = self.complete or full
            self.on_better(self._layout(solution))

    def _layout(self, solution: Any) -> Layout:
        """Return the engine's solution in sheet coordinates, the sheets it repeats written out."""
        hulls = {piece.name: shapely.convex_hull(piece.region) for piece in self.task.pieces}
        copies = dict.fromkeys(hulls, 0)
        sheets = []
        for position in range(solution.number_of_different_bins()):
            bin_ = solution.bin(position)
            for _ in range(bin_.copies):
                placed = []
                for item in bin_.items:
                    name = self.pieces[item.item_type_id].name
                    copies[name] += 1
                    placed.append(self._placed(name, copies[name], item))
                reach = max(moved(hulls[one.piece], one.matrix).bounds[2] for one in placed)
                sheets.append(SheetLayout(placed=tuple(placed), used_length_mm=reach))
        unplaced = [piece.name for piece in self.task.pieces for _ in range(piece.copies - copies[piece.name])]
        return Layout(sheets=tuple(sheets), unplaced=tuple(unplaced))

    def _placed(self, name: str, copy_number: int, item: Any) -> Placed:
        x, y, angle = item.bl_corner.x, item.bl_corner.y, item.angle
        if self.quarter:
            x, y, angle = _inner(self.task)[0] - y, x, angle + 90
        margin = self.task.sheet.margin_mm
        return Placed(piece=name, copy_number=copy_number, x_mm=margin + x, y_mm=margin + y, turn_deg=angle % 360.0)


def engine_shape(region: Region, gap_mm: float) -> Region:
    """Return a simpler region that covers the piece; gaps within it too narrow for another piece are closed."""
    if len(shapely.get_coordinates(region)) <= EXACT_POINTS and len(region.geoms) == 1:
        return region
    half = gap_mm / 2
    closed = region.buffer(half, quad_segs=4).buffer(-half, quad_segs=4).union(region) if half else region
    tolerance = min(GROWTH_MM, max(gap_mm / 8, 0.02))
    return grown_simplified(Region(shapely.get_parts(closed)), tolerance)


def _item_shape(part: Polygon) -> Any:
    outline = irregular.build_shape([tuple(point) for point in orient(part).exterior.coords[:-1]])
    holes = [
        irregular.build_shape([tuple(point) for point in orient(Polygon(hole)).exterior.coords[:-1]])
        for hole in part.interiors
    ]
    return irregular.ItemShape(irregular.ShapeWithHoles(outline, holes))
