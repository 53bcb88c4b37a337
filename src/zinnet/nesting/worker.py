"""The nesting process: reads one task, writes each better layout that holds, one JSON line each.

It runs as ``python -m zinnet.nesting.worker`` so that stopping it at any moment loses nothing.
"""

import os
import sys
import threading
from collections.abc import Callable

from zinnet.base.stages import StageCache
from zinnet.nesting.engine import engine_nest
from zinnet.nesting.model import Layout, NestTask, rank
from zinnet.nesting.pinned import with_pinned, without_pinned
from zinnet.nesting.shelf import shelf_nest
from zinnet.nesting.verify import faults

POLITE = 15
"""How far the worker stands back: a window that is drawn at the same time comes first."""


def main() -> None:
    """Nest the task on standard input; each better layout that holds is a line on standard output."""
    os.nice(POLITE)

    def write(layout: Layout) -> None:
        sys.stdout.write(layout.model_dump_json() + "\n")
        sys.stdout.flush()

    with StageCache().in_use():
        nest(NestTask.from_json(sys.stdin.read()), write)


def nest(task: NestTask, write: Callable[[Layout], None]) -> None:
    """Nest a task; ``write`` gets each layout that is better and holds. Where the search fails, plain rows stand in."""
    best: Layout | None = None
    one_at_a_time = threading.Lock()

    def take(layout: Layout) -> None:
        nonlocal best
        best = layout
        write(layout)

    def offer(layout: Layout) -> None:
        with one_at_a_time:
            if (best is None or rank(task, layout) < rank(task, best)) and not faults(task, layout):
                take(layout)

    free = without_pinned(task)
    searched = sum(piece.copies for piece in free.pieces) > 1 or not all(sheet.is_plain for sheet in free.sheets)
    rows = with_pinned(task, shelf_nest(free))
    offer(rows.model_copy(update={"plain": searched}))
    if not searched:
        return
    engine_nest(free, lambda layout: offer(with_pinned(task, layout)))
    with one_at_a_time:
        if best is not None and best.plain:
            take(best.model_copy(update={"plain": False}))


if __name__ == "__main__":
    main()
