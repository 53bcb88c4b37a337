"""The rivals: each engine by itself, as anyone would call it, and rows of bounding boxes."""

import math
import time
from collections.abc import Sequence
from typing import Any

import packingsolver.irregular as irregular
import shapely
import spyrrow
from shapely.geometry import Polygon
from shapely.geometry.polygon import orient

from benchmarks.nests.instances import Instance
from zinnet.geometry.region import as_region
from zinnet.nesting.model import Piece

CORES = 2
FLATNESS_MM = 0.05
STEPS = 24


def spyrrow_alone(instance: Instance, seconds: int) -> float:
    """Return the strip's length by spyrrow alone, holes left out as it knows none."""
    try:
        return _spyrrow(instance, seconds, instance.gap_mm, 0.0)
    except BaseException as error:
        if type(error).__name__ != "PanicException":
            raise
        return _spyrrow(instance, seconds, 0.0, instance.gap_mm)


def _spyrrow(instance: Instance, seconds: int, gap_mm: float, grown_mm: float) -> float:
    """Return the length, room kept by the engine's own separation, or by growing shapes that it stumbles over."""
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
        total_computation_time=seconds, min_items_separation=gap_mm or None, num_workers=CORES, seed=1
    )
    strip = spyrrow.StripPackingInstance(instance.name, instance.height_mm + grown_mm, items)
    return float(strip.solve(config).width) - grown_mm


def packingsolver_alone(instance: Instance, seconds: float) -> float:
    """Return the strip's length by packingsolver alone, infinite where it finds no full result in time."""
    area = sum(piece.region.area * piece.copies for piece in instance.pieces)
    builder = irregular.InstanceBuilder()
    builder.set_objective(irregular.Objective.OpenDimensionX)
    length = 8 * area / instance.height_mm + 400
    builder.add_bin_type(irregular.build_rectangle(0, length, 0, instance.height_mm))
    builder.set_item_item_minimum_spacing(instance.gap_mm)
    for piece in instance.pieces:
        turns = _turns(piece, STEPS) or [0.0]
        builder.add_item_type(
            [_item_shape(part) for part in _flat(piece)],
            copies=piece.copies,
            allowed_rotations=[(turn, turn, False) for turn in turns],
        )
    best = math.inf

    def report(output: Any) -> None:
        nonlocal best
        solution = output.solution
        if solution.full():
            best = min(best, float(solution.x_max()))

    parameters = irregular.OptimizeParameters()
    parameters.time_limit = seconds
    parameters.verbosity_level = 0
    parameters.new_solution_callback = report
    irregular.optimize(builder.build(), parameters)
    return best


def rows_of_boxes(instance: Instance) -> float:
    """Return the strip's length when boxes are laid in rows in the order given, as most people do by hand."""
    x = y = column = 0.0
    boxes = []
    for piece in instance.pieces:
        left, top, right, bottom = piece.region.bounds
        boxes += [(right - left, bottom - top)] * piece.copies
    for across, down in boxes:
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


def _item_shape(part: Polygon) -> Any:
    def shape(ring: Any) -> Any:
        return irregular.build_shape([tuple(point) for point in orient(Polygon(ring)).exterior.coords[:-1]])

    return irregular.ItemShape(irregular.ShapeWithHoles(shape(part.exterior), [shape(h) for h in part.interiors]))


def timed(function: Any, *args: Any) -> tuple[float, float]:
    """Return a rival's length and the seconds it took."""
    begun = time.monotonic()
    return float(function(*args)), time.monotonic() - begun


def _flat(piece: Piece) -> Sequence[Polygon]:
    """Return the parts of a piece with no more points than the picture of it needs."""
    return as_region(shapely.simplify(piece.region, FLATNESS_MM)).geoms
