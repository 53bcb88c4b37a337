"""Nesting a document to the end, without a window."""

from dataclasses import replace

from zinnet.bench.document import Document
from zinnet.nesting.running import nest_all


def nest_document(document: Document, seconds: float | None = None, steps: int | None = None) -> None:
    """Nest what is not nested yet, and what is tried beside it; each film gets its seconds, or so many steps.

    Film that is cut from both sides is nested one side after the other.
    """
    tried: set[str] = set()
    while True:
        waiting = [
            one for one in document.plan.to_nest if one.layout is None and not one.waits and one.key not in tried
        ]
        if not waiting:
            return
        tried |= {one.key for one in waiting}
        tasks = [
            replace(one.task, seconds=seconds or one.task.seconds, steps=steps or one.task.steps) for one in waiting
        ]
        for one, layout in zip(waiting, nest_all(tasks), strict=True):
            document.keep_layout(one.key, layout)
