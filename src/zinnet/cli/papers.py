"""Commands of papers: sheet, tags, and labels of the shelf."""

from pathlib import Path
from typing import Annotated

import typer

from zinnet.cli import reading

Out = Annotated[Path, typer.Option("--out", help="The PDF to write.")]
Labels = Annotated[str, typer.Option("--labels", help="The sheet of labels: a4-3x8, a4-2x7 or letter-3x10.")]
Skip = Annotated[int, typer.Option("--skip", min=0, help="How many labels of the first sheet are used up.")]


def sheet(
    job: Annotated[Path, typer.Argument(help="The job file.")],
    out: Annotated[Path | None, typer.Option("--out", help="The PDF to write; else one beside the job.")] = None,
    paper: Annotated[str, typer.Option("--paper", help="a4 or letter.")] = "a4",
) -> None:
    """Write the job sheet: picture, measures, layers, film, mats, steps, times and cost, with boxes to tick."""
    from zinnet.base.files import write_whole
    from zinnet.output.papers.job_sheet import job_sheet_pdf
    from zinnet.workshop.prices import read_prices

    plan = reading.nested_job(job).plan
    write_whole(out or job.with_suffix(".pdf"), job_sheet_pdf(plan, plan.findings, read_prices(), paper=paper))


def tags(
    job: Annotated[Path, typer.Argument(help="The job file.")],
    out: Out,
    labels: Labels = "a4-3x8",
    skip: Skip = 0,
) -> None:
    """Write a care tag for every garment of a job, on sheets of labels."""
    from zinnet.base.files import write_whole
    from zinnet.output.papers.care_tags import care_tags_pdf

    write_whole(out, care_tags_pdf(reading.opened_job(job).plan, labels, skip=skip))


def stock_labels(
    out: Out,
    numbers: Annotated[list[int] | None, typer.Argument(help="Label numbers; all scraps if left out.")] = None,
    labels: Labels = "a4-3x8",
    skip: Skip = 0,
) -> None:
    """Write labels for film on the shelf, on sheets of labels."""
    from zinnet.base.files import write_whole
    from zinnet.output.papers.scrap_labels import scrap_labels_pdf
    from zinnet.workshop.opening import open_workshop
    from zinnet.workshop.stock import Stock
    from zinnet.workshop.store import WorkshopStore

    stock = Stock(WorkshopStore())
    items = [stock.item(number) for number in numbers] if numbers else stock.items(kind="scrap")
    write_whole(out, scrap_labels_pdf(items, open_workshop(), labels, skip=skip))
