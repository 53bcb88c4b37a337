"""The rivals: each engine by itself, as anyone would call it, and rows of bounding boxes.

Both engines overrun their time on hard instances, one of them by half and more. Here each is ended when the wall
time is over, and what it has found by then counts, as it does for Zinnet.
"""

import math
import threading
import time
from collections.abc import Callable, Sequence
from functools import partial
from typing import Any

import numpy as np
import packingsolver.irregular as irregular
import shapely
import spyrrow
from shapely.geometry import Polygon
from shapely.geometry.polygon import orient

from benchmarks.nests.instances import Instance
from zinnet.geometry.region import Region, as_region
from zinnet.geometry.transform import moved, shift, turn
from zinnet.nesting.engine_process import run_until
from zinnet.nesting.model import Piece
from zinnet.nesting.strip_engines import Spot, item_shape

CORES = 2
FLATNESS_MM = 0.05
STEPS = 24
POLL_S = 0.05
Report = Callable[[float], None]


def spyrrow_alone(instance: Instance, seconds: float) -> float:
    """Return the strip's length by spyrrow alone, holes left out as it knows none."""
    begun = time.monotonic()
    own = partial(_spyrrow, instance, seconds, instance.gap_mm, 0.0)
    found, failure = _best_of(own, begun + seconds)
    if failure is None:
        return found
    grown = partial(_spyrrow, instance, seconds, 0.0, instance.gap_mm)
    return _best_of(grown, time.monotonic() + seconds)[0]


def packingsolver_alone(instance: Instance, seconds: float) -> float:
    """Return the strip's length by packingsolver alone, infinite where it finds no full result in time."""
    lengths = [math.inf]

    def take(spots: list[Spot]) -> None:
        regions = [moved(instance.pieces[k].region, shift(x, y) @ turn(angle)) for k, x, y, angle in spots]
        if _are_apart(regions):
            lengths.append(float(shapely.total_bounds(regions)[2]))

    run_until(time.monotonic() + seconds, partial(_packingsolver, instance, seconds), take)
    return min(lengths)


def _are_apart(regions: list[Region]) -> bool:
    """Tell whether no two regions overlap by more than rounding: the engine stacks some pieces of several parts."""
    shapes = np.array(regions, dtype=object)
    one, other = shapely.STRtree(shapes).query(shapes, predicate="intersects")
    pairs = one < other
    common = shapely.area(shapely.intersection(shapes[one[pairs]], shapes[other[pairs]]))
    return bool((common < 0.1).all())


def _best_of(engine: Callable[..., None], deadline: float) -> tuple[float, str | None]:
    """Return the shortest length that an engine has reported by the deadline, and how it failed, if it did."""
    lengths = [math.inf]
    failure = run_until(deadline, engine, lengths.append)
    return min(lengths), failure


def _spyrrow(instance: Instance, seconds: float, gap_mm: float, grown_mm: float, *, report: Report) -> None:
    """Report lengths, room kept by the engine's own separation, or by growing shapes that it stumbles over."""
    items = [
        spyrrow.Item(
            piece.name,
            list(orient(_outline(piece).buffer(grown_mm / 2, quad_segs=4)).exterior.coords),
            piece.copies,
            _turns(piece, None),
        )
        for piece in instance.pieces
    ]
    config = spyrrow.StripPackingConfig(
        total_computation_time=round(seconds), min_items_separation=gap_mm or None, num_workers=CORES, seed=1
    )
    strip = spyrrow.StripPackingInstance(instance.name, instance.height_mm + grown_mm, items)
    queue = spyrrow.ProgressQueue()
    done = threading.Event()

    def tell() -> None:
        while not done.wait(POLL_S):
            for kind, solution in queue.drain():
                if kind in (spyrrow.ReportType.ExplFeas, spyrrow.ReportType.CmprFeas):
                    report(float(solution.width) - grown_mm)

    threading.Thread(target=tell, daemon=True).start()
    report(float(strip.solve(config, queue).width) - grown_mm)
    done.set()


def _packingsolver(instance: Instance, seconds: float, *, report: Callable[[list[Spot]], None]) -> None:
    """Report full results."""
    area = sum(piece.region.area * piece.copies for piece in instance.pieces)
    builder = irregular.InstanceBuilder()
    builder.set_objective(irregular.Objective.OpenDimensionX)
    length = 8 * area / instance.height_mm + 400
    builder.add_bin_type(irregular.build_rectangle(0, length, 0, instance.height_mm))
    builder.set_item_item_minimum_spacing(instance.gap_mm)
    for piece in instance.pieces:
        turns = _turns(piece, STEPS) or [0.0]
        builder.add_item_type(
            [item_shape(part) for part in _flat(piece)],
            copies=piece.copies,
            allowed_rotations=[(turn, turn, False) for turn in turns],
        )

    def tell(output: Any) -> None:
        if output.solution.full():
            items = output.solution.bin(0).items
            report([(one.item_type_id, one.bl_corner.x, one.bl_corner.y, one.angle) for one in items])

    parameters = irregular.OptimizeParameters()
    parameters.time_limit = seconds
    parameters.verbosity_level = 0
    parameters.new_solution_callback = tell
    irregular.optimize(builder.build(), parameters)


def rows_of_boxes(instance: Instance) -> float:
    """Return the strip's length when boxes are laid in rows in the order given, as most people do by hand."""
    x = y = column = 0.0
    for piece in instance.pieces:
        left, top, right, bottom = piece.region.bounds
        across, down = right - left, bottom - top
        for _ in range(piece.copies):
            if y > 0 and y + down > instance.height_mm + 1e-9:
                x, y, column = x + column + instance.gap_mm, 0.0, 0.0
            y += down + instance.gap_mm
            column = max(column, across)
    return x + column


def _turns(piece: Piece, steps: int | None) -> list[float] | None:
    if piece.allowed_turns is not None:
        return list(piece.allowed_turns)
    return None if steps is None else [360.0 / steps * k for k in range(steps)]


def _outline(piece: Piece) -> Polygon:
    parts = [Polygon(part.exterior) for part in _flat(piece)]
    return parts[0] if len(parts) == 1 else shapely.convex_hull(shapely.union_all(parts))


def _flat(piece: Piece) -> Sequence[Polygon]:
    """Return the parts of a piece with no more points than the picture of it needs."""
    return as_region(shapely.simplify(piece.region, FLATNESS_MM)).geoms
