"""Job files of strangers, read under watch."""

from pathlib import Path

from zinnet.blanks.build import build_blank
from zinnet.cli.watch import try_source, watched
from zinnet.job.file import load_job
from zinnet.job.model import Job
from zinnet.nesting.model import Layout
from zinnet.plan.fitting import as_laid


def watched_job(path: Path) -> tuple[Job, dict[str, Layout]]:
    """Return the job of a file and its nests, read under watch, and what is drawn in it tried."""
    with watched(path.name):
        job, layouts = load_job(path)
    blank = build_blank(job.blank) if job.designs else None
    for design in job.designs:
        try_source(design.source if blank is None else as_laid(design, blank).source)
    return job, layouts
