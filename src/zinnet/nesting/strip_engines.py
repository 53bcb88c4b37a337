"""The two engines that fill a strip: a swarm that pushes pieces apart, and a search by a tree.

The swarm is given shapes that are grown by half the gap, on a strip grown likewise; it knows nothing of gaps.
"""

import datetime
import threading
import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

from shapely.geometry import Polygon
from shapely.geometry.polygon import orient

from zinnet.geometry.region import Region
from zinnet.nesting.grown import single_outline

POLL_S = 0.04
ON_TIME = 0.9
"""The share of the time left that the swarm is told, since it overruns."""
EXPLORING = 0.85
"""How much of its time the swarm looks for other arrangements; the rest it tightens the best one."""


@dataclass(frozen=True, eq=False)
class StripItem:
    """One kind of piece on a strip: its grown shape, how many, and its turns in degrees (None: any)."""

    shape: Region
    copies: int
    turns: tuple[float, ...] | None


Spot = tuple[int, float, float, float]
"""Where a copy lies: the item's index, x and y in mm, the turn in degrees."""
Report = Callable[[list[Spot]], None]


def push_apart(
    items: Sequence[StripItem], height_mm: float, *, deadline: float, seed: int, workers: int, report: Report
) -> None:
    """Fill a strip with spyrrow, which knows neither holes nor several parts; each better layout is reported."""
    import spyrrow

    seconds = max(0.1, (deadline - time.monotonic()) * ON_TIME)

    shapes = [single_outline(item.shape) for item in items]
    config = spyrrow.StripPackingConfig(total_computation_time=max(1, round(seconds)), num_workers=workers, seed=seed)
    config.exploration_time = datetime.timedelta(seconds=EXPLORING * seconds)
    config.compression_time = datetime.timedelta(seconds=(1 - EXPLORING) * seconds)
    strip = spyrrow.StripPackingInstance(
        "strip",
        height_mm,
        [
            spyrrow.Item(
                str(index),
                list(orient(shape).exterior.coords),
                item.copies,
                None if item.turns is None else list(item.turns),
            )
            for index, (item, shape) in enumerate(zip(items, shapes, strict=True))
        ],
    )
    queue = spyrrow.ProgressQueue()
    done = threading.Event()
    last: list[Any] = []

    def solve() -> None:
        try:
            last.append(strip.solve(config, queue))
        finally:
            done.set()

    def pass_on(solution: Any) -> None:
        report([(int(one.id), *one.translation, one.rotation) for one in solution.placed_items])

    threading.Thread(target=solve, daemon=True).start()
    feasible = (spyrrow.ReportType.ExplFeas, spyrrow.ReportType.CmprFeas)
    while not done.wait(POLL_S):
        found = [solution for kind, solution in queue.drain() if kind in feasible]
        if found:
            pass_on(found[-1])
    if last:
        pass_on(last[0])


def search_tree(
    items: Sequence[StripItem], height_mm: float, length_mm: float, *, gap_mm: float, deadline: float, report: Report
) -> None:
    """Fill a strip with packingsolver, which knows holes, parts and gaps; each better layout is reported."""
    import packingsolver.irregular as irregular

    builder = irregular.InstanceBuilder()
    builder.set_objective(irregular.Objective.OpenDimensionX)
    builder.add_bin_type(irregular.build_rectangle(0, length_mm, 0, height_mm))
    builder.set_item_item_minimum_spacing(gap_mm)
    for item in items:
        builder.add_item_type(
            [item_shape(part) for part in item.shape.geoms],
            copies=item.copies,
            allowed_rotations=[(turn, turn, False) for turn in item.turns or (0.0,)],
        )

    def tell(output: Any) -> None:
        if not output.solution.full():
            return
        bin_ = output.solution.bin(0)
        report([(one.item_type_id, one.bl_corner.x, one.bl_corner.y, one.angle) for one in bin_.items])

    parameters = irregular.OptimizeParameters()
    parameters.time_limit = max(0.05, deadline - time.monotonic())
    parameters.verbosity_level = 0
    parameters.new_solution_callback = tell
    irregular.optimize(builder.build(), parameters)


def item_shape(part: Polygon) -> Any:
    """Return a polygon with its holes as packingsolver wants it."""
    import packingsolver.irregular as irregular

    outline = irregular.build_shape([tuple(point) for point in orient(part).exterior.coords[:-1]])
    holes = [
        irregular.build_shape([tuple(point) for point in orient(Polygon(hole)).exterior.coords[:-1]])
        for hole in part.interiors
    ]
    return irregular.ItemShape(irregular.ShapeWithHoles(outline, holes))
