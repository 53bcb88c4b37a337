"""The way with a lifted knife against the order of the file and against a general routing solver, on 20 nested mats."""

import statistics
import time
from collections.abc import Sequence

import numpy as np

from benchmarks.nests.density import task_of
from benchmarks.nests.instances import instances
from zinnet.cutting.order import HOME, in_cutting_order, travel_mm
from zinnet.cutting.paths import CutPath, Shape, file_order
from zinnet.cutting.shared_lines import cut_once
from zinnet.geometry.transform import moved
from zinnet.nesting.running import nest_all

MATS = 20
NEST_S = 1.5
SOLVER_S = 5
SCALE = 1000


def mats() -> list[tuple[str, tuple[CutPath, ...]]]:
    """Return the lines of 20 mats in the order of their files, with their names; the nests are from the density run."""
    chosen = [one for one in instances() if len(one.pieces) <= 300][-MATS - 8 :][:MATS]
    found = []
    for one, layout in zip(chosen, nest_all([task_of(one, NEST_S) for one in chosen]), strict=True):
        regions = {piece.name: piece.region for piece in one.pieces}
        shapes = [
            Shape(f"{placed.piece}-copy-{placed.copy_number}", "film", moved(regions[placed.piece], placed.matrix))
            for placed in layout.sheets[0].placed
        ]
        found.append((one.name, cut_once(file_order(shapes))))
    return found


def by_general_solver(paths: Sequence[CutPath], seconds: float) -> float:
    """Return the travel that OR-tools' routing finds through the same starts; it need not cut the inside first."""
    from ortools.constraint_solver import pywrapcp, routing_enums_pb2

    begins = np.vstack([[HOME], [path.points[0] for path in paths]])
    ends = np.vstack([[HOME], [path.points[-1] for path in paths]])
    far = np.rint(np.hypot(*np.moveaxis(ends[:, None] - begins[None], 2, 0)) * SCALE).astype(int)
    manager = pywrapcp.RoutingIndexManager(len(begins), 1, 0)
    routing = pywrapcp.RoutingModel(manager)
    routing.SetArcCostEvaluatorOfAllVehicles(routing.RegisterTransitMatrix(far.tolist()))
    how = pywrapcp.DefaultRoutingSearchParameters()
    how.first_solution_strategy = routing_enums_pb2.FirstSolutionStrategy.PATH_CHEAPEST_ARC
    how.local_search_metaheuristic = routing_enums_pb2.LocalSearchMetaheuristic.GUIDED_LOCAL_SEARCH
    how.time_limit.FromMilliseconds(int(seconds * 1000))
    return float(routing.SolveWithParameters(how).ObjectiveValue()) / SCALE


def run() -> None:
    """Print the travel of every mat as ratios."""
    to_file, to_solver, times = [], [], []
    print(f"{'mat':<24}{'lines':>7}{'ours mm':>10}{'seconds':>9}{'to file':>9}{'to solver':>11}")
    for name, paths in mats():
        started = time.perf_counter()
        ordered = in_cutting_order(paths)
        times.append(time.perf_counter() - started)
        ours = travel_mm(ordered)
        to_file.append(ours / travel_mm(paths))
        to_solver.append(ours / by_general_solver(ordered, SOLVER_S))
        print(
            f"{name:<24}{len(paths):>7}{ours:>10.0f}{times[-1]:>9.2f}{to_file[-1]:>9.2f}{to_solver[-1]:>11.3f}",
            flush=True,
        )
    print(
        f"to the file's order: median {statistics.median(to_file):.2f}, worst {max(to_file):.2f}; to the general "
        f"solver after {SOLVER_S} s: median {statistics.median(to_solver):.3f}, worst {max(to_solver):.3f}; "
        f"longest {max(times):.2f} s"
    )
