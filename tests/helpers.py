"""Small artworks, jobs and readers that several tests use."""

import contextlib
import io
import os
import re
import subprocess
import sys
import xml.etree.ElementTree as ET
from collections.abc import Callable
from dataclasses import replace
from functools import reduce
from unittest import mock

import numpy as np
import shapely

from zinnet.artwork.painted import paint_artwork
from zinnet.artwork.svg.reader import read_svg
from zinnet.bench.document import Document
from zinnet.bench.nesting import nest_document
from zinnet.geometry.region import union
from zinnet.job.edits import open_artwork
from zinnet.nesting import bins, worker
from zinnet.nesting.model import Layout, NestTask, check_task
from zinnet.workshop.model import standard_workshop

NS = 'xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"'
RED_AND_BLUE = '<rect width="60" height="40" fill="#d62828"/><circle cx="60" cy="40" r="20" fill="#1f57c3"/>'
LANTERN = (
    '<path fill="#e9a53a" fill-rule="evenodd" d="M0 0H60V80H0Z M15 15V60H45V15Z"/>'
    '<circle cx="30" cy="38" r="9" fill="#d62828"/>'
)


def cases(short: int, long: int) -> int:
    """Return how many random cases a test looks at, in the usual run and in the long one."""
    return long if os.environ.get("ZINNET_TESTS") == "long" else short


def first_of(plan):
    """Return the first design on the job's own size."""
    return plan.garments[0].designs[0]


def crashed(copy):
    """Let go of an automatic copy's note as the system does when its program dies."""
    copy._note.close()
    copy._note = None
    return copy


def run_command(*words: object) -> subprocess.CompletedProcess[str]:
    """Run a command of Zinnet in this process, and return what it printed, complained of and ended with."""
    from zinnet.cli import main

    told = ["zinnet", *map(str, words)]
    out, err = (io.TextIOWrapper(io.BytesIO(), encoding="utf-8", write_through=True) for _ in range(2))
    code = 0
    with mock.patch.object(sys, "argv", told), contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
        try:
            main()
        except SystemExit as left:
            code = left.code if isinstance(left.code, int) else 0
    said, complained = (stream.buffer.getvalue().decode() for stream in (out, err))  # type: ignore[attr-defined]
    assert "Traceback" not in complained
    return subprocess.CompletedProcess(told, code, said, complained)


def svg(body: str, attributes: str = 'viewBox="0 0 100 100"') -> bytes:
    """Return an SVG file with this body."""
    return f"<svg {NS} {attributes}>{body}</svg>".encode()


def painted(body: str, attributes: str = 'viewBox="0 0 1000 1000"', tolerance: float = 0.001):
    """Return what an SVG paints as one region in viewBox units."""
    return union(area.region for area in paint_artwork(read_svg(svg(body, attributes), "test.svg"), tolerance))


def document_of(body: str, *edits, attributes: str = 'viewBox="0 0 100 100"') -> Document:
    """Return a document with artwork open and edits applied."""
    document = Document(standard_workshop())
    document.apply(open_artwork("test.svg", svg(body, attributes)))
    for edit in edits:
        document.apply(edit)
    return document


NESTS: dict[str, Layout] = {}
"""The nests made so far by their key: the narrow search finds the same each time."""


def nested(document: Document, seconds: float | None = None) -> Document:
    """Nest what is not nested yet: by a narrow search that finds the same each time, or a wide one for so long."""
    if seconds is not None:
        nest_document(document, seconds)
        return document
    tried: set[str] = set()
    while waiting := [nest for nest in document.plan.nests if nest.layout is None and not nest.waits]:
        assert not tried & {nest.key for nest in waiting}
        tried |= {nest.key for nest in waiting}
        for nest in waiting:
            document.keep_layout(nest.key, narrow_nest(nest.task))
    return document


def narrow_nest(task: NestTask) -> Layout:
    """Return what the narrowest search finds, in this process: a worker takes longer to start than to nest."""
    if task.key not in NESTS:
        found: list[Layout] = []
        with mock.patch.object(bins, "run_until", lambda deadline, search, report: search(report=report)):
            worker.nest(replace(task, steps=1), found.append)
        NESTS[task.key] = found[-1].as_verified()
    return NESTS[task.key]


class NestHere:
    """A nest that the narrowest search has found, in this process, when it is begun."""

    is_running = False

    def __init__(self, task: NestTask, on_better: Callable[[Layout], None] | None = None) -> None:
        check_task(task)
        self.best = narrow_nest(task)
        if on_better is not None:
            on_better(self.best)

    def wait(self) -> Layout:
        """Return what was found."""
        return self.best

    cancel = wait

    def abandon(self) -> None:
        """There is nothing to stop."""


def times(count):
    """Return what lets a search go on so often as it asks."""
    left = iter(range(count))
    return lambda: next(left, None) is not None


def outlines_in_svg(text: str) -> list[np.ndarray]:
    """Read the outlines back from a cut file, by the XML library and a pattern alone, in document order."""
    root = ET.fromstring(text)
    assert root.get("width", "").endswith("mm")
    box = [float(number) for number in root.get("viewBox", "").split()]
    assert box[2] == float(root.get("width", "")[:-2])
    found = []
    for element in root.iter("{http://www.w3.org/2000/svg}path"):
        pairs = re.findall(r"(-?[\d.]+) (-?[\d.]+)", element.get("d", ""))
        found.append(np.array(pairs, dtype=float))
    return found


def outlines_in_hpgl(text: str) -> list[np.ndarray]:
    """Read the outlines back from HP-GL in mm, y up, by the rules of the language: PU moves, PD cuts."""
    found, here, current = [], (0.0, 0.0), []
    for command in filter(None, re.split(r"[;\n]+", text)):
        if command[:2] not in ("PU", "PD"):
            continue
        numbers = [float(number) / 40 for number in re.findall(r"-?\d+", command[2:])]
        points = list(zip(numbers[::2], numbers[1::2], strict=True))
        if command.startswith("PU"):
            if current:
                found.append(np.array(current))
            current, here = [], points[-1] if points else here
        elif command.startswith("PD"):
            current = current or [here]
            current += points
            here = points[-1]
    return found


def as_worn(rings: list[np.ndarray]) -> shapely.MultiPolygon:
    """Return the even-odd region of outlines."""
    polygons = [shapely.make_valid(shapely.Polygon(ring)) for ring in rings]
    return reduce(shapely.symmetric_difference, polygons, shapely.Polygon())
