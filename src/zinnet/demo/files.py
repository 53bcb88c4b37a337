"""What the demo writes: for every job of the walk its file, its cut files and its papers, and labels for the shelf."""

from collections.abc import Callable, Iterator
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


def write_walk(folder: Path, said: Callable[[str], None] = lambda title: None) -> list[Path]:
    """Write a folder for every job of the walk, and labels for what is on the shelf; return what was written."""
    written = []
    for name in WALK_JOBS:
        document = demo_document(name=name)
        nest_document(document)
        said(document.job.title)
        written += [
            *write_cut_files(document.plan, folder / name, USUAL),
            write_job_sheet(document.plan, folder / name),
        ]
        document.save(folder / name / f"{name}.zinnet")
        written += [write_whole(folder / name / file, data) for file, data in _papers(document)]
    workshop = demo_shelf()
    scraps = [item for item in workshop.stock if item.kind == "scrap"]
    written.append(write_whole(folder / "scrap-labels.pdf", scrap_labels_pdf(scraps, workshop)))
    return written


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
