"""How long an edit takes until the plan follows it: the stewards' tees in seven sizes, all of them nested."""

import time
from collections.abc import Callable

import numpy as np

from zinnet.bench.document import Document
from zinnet.demo import demo_document
from zinnet.job.edits import Edit, set_placement, set_title

TIMES = 25


def run() -> None:
    """Edits of seven sizes: the time until the plan follows, median and longest of 25."""
    document = demo_document(name="stewards")
    print(f"{len(document.plan.garments)} sizes, {len(document.plan.mats)} mats, nested: {document.plan.is_nested}")
    for name, edit in EDITS.items():
        times = [_time(document, edit(number)) for number in range(TIMES)]
        print(f"{name}: median {np.median(times):.1f} ms, longest {max(times):.1f} ms")


def _time(document: Document, edit: Edit) -> float:
    begun = time.perf_counter()
    document.apply(edit)
    return (time.perf_counter() - begun) * 1000


EDITS: dict[str, Callable[[int], Edit]] = {
    "another title": lambda number: set_title(f"Tees {number}"),
    "a nudge of the artwork": lambda number: set_placement("nudge", from_centre_mm=0.25 * (number + 1)),
}
