"""The nesting process: reads one task, writes each better layout that holds, one JSON line each.

It runs as ``python -m zinnet.nesting.worker`` so that stopping it at any moment loses nothing.
"""

import os
import sys
import threading

from zinnet.base.stages import StageCache
from zinnet.nesting.engine import engine_nest
from zinnet.nesting.model import Layout, NestTask, rank
from zinnet.nesting.pinned import with_pinned, without_pinned
from zinnet.nesting.shelf import shelf_nest
from zinnet.nesting.verify import faults

POLITE = 15
"""How far the worker stands back: a window that is drawn at the same time comes first."""


def main() -> None:
    """Nest the task on standard input."""
    os.nice(POLITE)
    with StageCache().in_use():
        nest(NestTask.from_json(sys.stdin.read()))


def nest(task: NestTask) -> None:
    """Nest a task, and write each layout that is better and holds."""
    best: Layout | None = None
    one_at_a_time = threading.Lock()

    def offer(layout: Layout) -> None:
        nonlocal best
        with one_at_a_time:
            if (best is None or rank(task, layout) < rank(task, best)) and not faults(task, layout):
                best = layout
                sys.stdout.write(layout.model_dump_json() + "\n")
                sys.stdout.flush()

    free = without_pinned(task)

    def offer_joined(layout: Layout) -> None:
        offer(with_pinned(task, layout))

    offer_joined(shelf_nest(free))
    if sum(piece.copies for piece in free.pieces) > 1 or not all(sheet.is_plain for sheet in free.sheets):
        engine_nest(free, offer_joined)


if __name__ == "__main__":
    main()
