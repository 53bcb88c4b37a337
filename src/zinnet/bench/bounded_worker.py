"""The process that reads and derives what strangers made: one order in, one answer out. See ``bench.bounded``."""

import contextlib
import resource
import sys
from collections.abc import Callable
from pathlib import Path
from typing import Any

from zinnet.base.errors import ZinnetError
from zinnet.base.parcel import packed, unpacked
from zinnet.base.stages import Handed, StageCache
from zinnet.blanks.model import OwnOutline
from zinnet.blanks.own import read_outline
from zinnet.camera.found_sheet import FoundSheet
from zinnet.camera.measure import StraightPhoto, photo_of, straightened
from zinnet.geometry.region import Region
from zinnet.job.file import load_job
from zinnet.job.model import Job
from zinnet.nesting.from_svg import region_of_svg
from zinnet.nesting.model import Layout
from zinnet.plan.derive import derive
from zinnet.workshop.model import Workshop


def derived(job: Job, workshop: Workshop) -> Handed:
    """Derive a job, and return what its stages made."""
    cache = StageCache(budget=1 << 40)
    with cache.in_use():
        derive(job, workshop)
    return cache.handed_on()


def opened(path: Path, workshop: Workshop) -> tuple[Job, dict[str, Layout], Handed]:
    """Read a job file and derive it; return the job, its nests, and what the stages made."""
    cache = StageCache(budget=1 << 40)
    with cache.in_use():
        job, layouts = load_job(path)
        derive(job, workshop, layouts)
    return job, layouts, cache.handed_on()


def outline(data: bytes, name: str) -> OwnOutline:
    """Read the outline of a blank of one's own."""
    return read_outline(name, data)


def area(data: bytes, name: str) -> Region:
    """Read what an SVG paints, in mm."""
    return region_of_svg(data, name)


def photo(path: Path, paper: str) -> tuple[FoundSheet, StraightPhoto]:
    """Find the sheet in a photo, and straighten it."""
    picture, found = photo_of(path, paper)
    return found, straightened(picture, found)


TASKS: dict[str, Callable[..., Any]] = {
    "derive": derived,
    "open": opened,
    "outline": outline,
    "area": area,
    "photo": photo,
}


def main() -> None:
    """Do the task on standard input; standard output gets how it went and the answer."""
    task, given, most_bytes = unpacked(sys.stdin.buffer.read())
    with contextlib.suppress(ValueError, OSError):
        resource.setrlimit(resource.RLIMIT_DATA, (most_bytes, most_bytes))
    with contextlib.suppress(ValueError, OSError):
        resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    sys.stdout.buffer.write(_attempt(TASKS[task], given))


def _attempt(task: Callable[..., Any], given: tuple[Any, ...]) -> bytes:
    try:
        return packed(("done", task(*given)))
    except ZinnetError as error:
        return packed(("refused", error))
    except (MemoryError, RecursionError) as error:
        return packed(("memory" if isinstance(error, MemoryError) else "refused", str(error)))


if __name__ == "__main__":
    main()
