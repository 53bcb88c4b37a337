"""What the demo writes: for every job of the walk its file, its cut files and its papers, and labels for the shelf."""

import multiprocessing
import os
from collections.abc import Callable, Iterator
from concurrent.futures import ProcessPoolExecutor, as_completed
from pathlib import Path

from zinnet.base.files import write_whole
from zinnet.bench.document import Document
from zinnet.bench.nesting import nest_document
from zinnet.demo import demo_document, demo_shelf
from zinnet.demo.walk import WALK, WALK_JOBS
from zinnet.output.cut_files import USUAL, write_cut_files, write_job_sheet
from zinnet.output.papers.care_tags import care_tags_pdf
from zinnet.output.papers.names_list import names_list_pdf
from zinnet.output.papers.quote_sheet import quote_pdf
from zinnet.output.papers.scrap_labels import scrap_labels_pdf
from zinnet.output.papers.shopping_list import shopping_pdf
from zinnet.shop.costing import Costing
from zinnet.shop.ordered import Ordered
from zinnet.shop.quote import quote_csv
from zinnet.workshop.price_list import usual_prices

LONGEST_FIRST = ("stewards", "blanket", "band", "names")
"""The jobs that take longest to write; they are begun before the others."""


class WalkFiles:
    """The files of the walk, written by processes beside this one, as many as there are cores."""

    def __init__(self, folder: Path) -> None:
        names = sorted(WALK_JOBS, key=lambda name: (*LONGEST_FIRST, name).index(name))
        context = multiprocessing.get_context("forkserver")
        context.set_forkserver_preload([__name__])
        self._pool = ProcessPoolExecutor(os.cpu_count(), mp_context=context)
        self._written = [self._pool.submit(_write_job, name, folder / name) for name in names]
        self._written.append(self._pool.submit(_write_labels, folder))

    def collect(self, said: Callable[[str], None]) -> list[Path]:
        """Return all that was written; ``said`` is told of each job as it is done."""
        written: list[Path] = []
        with self._pool:
            for done in as_completed(self._written):
                title, paths = done.result()
                said(f"{title}: {len(paths)} files.")
                written += paths
        return written


def _write_job(name: str, folder: Path) -> tuple[str, list[Path]]:
    """Write a job of the walk with its cut files and its papers; return its title and what was written."""
    document = demo_document(name=name)
    nest_document(document)
    with document.stages.in_use():
        written = [*write_cut_files(document.plan, folder, USUAL), write_job_sheet(document.plan, folder)]
        document.save(folder / f"{name}.zinnet")
        written += [write_whole(folder / file, data) for file, data in _papers(document)]
    return document.job.title, written


def _write_labels(folder: Path) -> tuple[str, list[Path]]:
    """Write labels for the scraps on the demo's shelf."""
    workshop = demo_shelf()
    scraps = [item for item in workshop.stock if item.kind == "scrap"]
    return "Labels for the shelf", [write_whole(folder / "scrap-labels.pdf", scrap_labels_pdf(scraps, workshop))]


def _papers(document: Document) -> Iterator[tuple[str, bytes]]:
    """Yield the papers of a job by file name."""
    costing = Costing(document.plan, usual_prices())
    ordered = Ordered(costing)
    title, money = document.job.title, costing.prices.currency
    yield "quote.pdf", quote_pdf(costing)
    yield "quote.csv", quote_csv(costing).encode()
    yield "to-buy.pdf", shopping_pdf(title, ordered.shopping, money, ordered.due_said(WALK.replace(day=1)))
    yield "care-tags.pdf", care_tags_pdf(document.plan)
    if document.plan.named:
        yield "names.pdf", names_list_pdf(document.plan)
