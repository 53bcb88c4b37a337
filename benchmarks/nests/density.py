"""Film taken by the nests, as a ratio to each engine alone and to rows of boxes."""

import math
import statistics
import sys
import time
from typing import NamedTuple

from benchmarks.nests.instances import Instance, instances
from benchmarks.nests.rivals import packingsolver_alone, rows_of_boxes, spyrrow_alone
from zinnet.nesting.model import NestTask
from zinnet.nesting.running import NestRun, prepare_workers
from zinnet.nesting.sheet import Sheet

SECONDS = 5
WARM_S = 1.5
"""How long a worker has to start before its task, as it has in the window."""


class Result(NamedTuple):
    """The lengths of film that one instance takes, in mm."""

    instance: Instance
    zinnet: float
    spyrrow: float
    packingsolver: float
    rows: float

    @property
    def to_engines(self) -> float:
        """Our length as a share of the better engine's."""
        return self.zinnet / min(self.spyrrow, self.packingsolver)

    @property
    def to_rows(self) -> float:
        """Our length as a share of that of rows of boxes."""
        return self.zinnet / self.rows


def task_of(instance: Instance, seconds: float) -> NestTask:
    """Return an instance as a nest on a roll that is long enough."""
    length = 2 * rows_of_boxes(instance) + 400
    roll = Sheet(width_mm=length, height_mm=instance.height_mm, copies=1, kind="roll")
    return NestTask(instance.pieces, (roll,), instance.gap_mm, seconds=seconds, inside_counters=True)


def measure(instance: Instance, seconds: int) -> Result:
    """Return what each way takes in the same wall time on the same cores, one after the other."""
    prepare_workers(1)
    time.sleep(WARM_S)
    ours = NestRun(task_of(instance, seconds)).wait().sheets[0].used_length_mm
    return Result(
        instance,
        ours,
        spyrrow_alone(instance, seconds),
        packingsolver_alone(instance, seconds),
        rows_of_boxes(instance),
    )


def run() -> None:
    """Density: film taken against each engine alone and against rows of boxes, at 5 s."""
    named = [word for word in sys.argv[1:] if "-" in word and not word.startswith("--")]
    results = []
    for instance in instances():
        if named and instance.name not in named:
            continue
        result = measure(instance, SECONDS)
        results.append(result)
        count = sum(piece.copies for piece in instance.pieces)
        tree = "none" if math.isinf(result.packingsolver) else f"{result.packingsolver:.1f}"
        print(
            f"{instance.name:<22} {count:>3} pieces  ours {result.zinnet:7.1f} mm  spyrrow {result.spyrrow:7.1f}  "
            f"packingsolver {tree:>7}  rows {result.rows:7.1f}  to engines {result.to_engines:.3f}  "
            f"to rows {result.to_rows:.2f}",
            flush=True,
        )
    to_engines = [result.to_engines for result in results]
    to_rows = [result.to_rows for result in results if result.instance.irregular]
    print(f"to the better engine: median {statistics.median(to_engines):.3f}, worst {max(to_engines):.3f}")
    if to_rows:
        print(f"to rows of boxes, irregular: median {statistics.median(to_rows):.2f}, worst {max(to_rows):.2f}")
