"""``zinnet job group|ungroup|align|spread|rows|words``: how designs lie to one another."""

from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any, Literal

import typer

from zinnet.base.errors import ZinnetError
from zinnet.cli import reading
from zinnet.cli.options import JobFile, OtherFile

if TYPE_CHECKING:
    from zinnet.bench.document import Document
    from zinnet.job.edits import Edit
    from zinnet.plan.fitted import FittedDesign, Garment

Designs = Annotated[list[int], typer.Argument(help="Their numbers, as zinnet job show prints them.")]
Size = Annotated[str | None, typer.Option("--on", help="On this size only; else on the job's own.")]


def group(
    job: JobFile,
    designs: Designs,
    name: Annotated[str, typer.Option("--name", help="What the group is called.")],
    out: OtherFile = None,
) -> None:
    """Make designs one group: placed, sized and cut as one, in one proportion on all sizes."""
    from zinnet.plan.arranging import grouped

    document = reading.opened_job(job)
    edit = grouped(document.plan.garments[0], [number - 1 for number in designs], name.strip())
    _apply(document, edit, out or job, f"{name.strip()}: designs {', '.join(map(str, sorted(designs)))}")


def ungroup(
    job: JobFile,
    name: Annotated[str, typer.Argument(help="What the group is called.")],
    out: OtherFile = None,
) -> None:
    """Take a group apart; its designs stay where they are."""
    from zinnet.plan.arranging import ungrouped

    document = reading.opened_job(job)
    _apply(document, ungrouped(document.job, name), out or job, f"{name} is no group any more")


def align(
    job: JobFile,
    designs: Designs,
    by: Annotated[
        Literal["left", "centre", "right", "top", "middle", "bottom"],
        typer.Option("--by", help="Which edge, or the middle across (centre) or down (middle)."),
    ],
    to: Annotated[
        Literal["first", "each-other", "panel", "centre-line"],
        typer.Option("--to", help="The first one named, all together, the usable area, or the centre line."),
    ] = "first",
    at: Annotated[str | None, typer.Option("--at", help="So far to the right of it or below it, such as 12mm.")] = None,
    size: Size = None,
    out: OtherFile = None,
) -> None:
    """Bring an edge or the middle of designs into line; groups move whole."""
    from zinnet.base.units import read_length
    from zinnet.plan.arranging import aligned

    document, garment = reading.opened_size(job, size)
    at_mm = 0.0 if at is None else read_length(at)
    edit = aligned(garment, [number - 1 for number in designs], by, to, at_mm)
    _apply(document, edit, out or job, f"aligned by {by}")


def spread(
    job: JobFile,
    designs: Designs,
    along: Annotated[Literal["across", "down"], typer.Option("--along", help="The way in which the gaps are.")],
    gap: Annotated[str | None, typer.Option("--gap", help="The gap, such as 12mm; else the outer ones stay.")] = None,
    over_panel: Annotated[bool, typer.Option("--over-panel", help="Over the whole usable area.")] = False,
    size: Size = None,
    out: OtherFile = None,
) -> None:
    """Lay designs with equal gaps; groups move whole."""
    from zinnet.plan.arranging import spread as spread_out

    if gap is not None and over_panel:
        raise ZinnetError("Say --gap or --over-panel; over the panel the gap follows.")
    document, garment = reading.opened_size(job, size)
    gap_mm = None if gap is None else reading.not_negative(gap, "--gap")
    indices = [number - 1 for number in designs]
    edit = spread_out(garment, indices, along, gap_mm, over_panel=over_panel)
    _apply(document, edit, out or job, f"equal gaps {along}")


def rows(
    job: JobFile,
    design: Annotated[int, typer.Argument(help="The number of the motif.")],
    counts: Annotated[str, typer.Option("--counts", help="How many each row has, such as 3-2-3-2-3.")],
    gap: Annotated[str | None, typer.Option("--gap", help="The gap in a row; else the usual one.")] = None,
    row_gap: Annotated[str | None, typer.Option("--row-gap", help="The gap between rows; else as in a row.")] = None,
    size: Size = None,
    out: OtherFile = None,
) -> None:
    """Repeat a design in rows of given counts, and print where the middle of each copy lies, in mm."""
    from zinnet.job.edits import set_placement
    from zinnet.placement.arrange import Rows
    from zinnet.placement.rows import read_counts

    document, garment = reading.opened_size(job, size)
    fitted = _design(garment, design)
    gap_x = None if gap is None else reading.not_negative(gap, "--gap")
    gap_y = gap_x if row_gap is None else reading.not_negative(row_gap, "--row-gap")
    arrangement = Rows(counts=read_counts(counts), gap_x_mm=gap_x, gap_y_mm=gap_y)
    fields: dict[str, Any] = {"arrangement": arrangement.model_dump(), "width_mm": fitted.word_width_mm}
    document.apply(set_placement("rows", design=design - 1, size=size, **fields))
    document.save(out or job)
    _, garment = reading.opened_size(out or job, size)
    placement = garment.designs[design - 1].placement
    for x, y in placement.copies_mm if placement is not None else ():
        typer.echo(f"{x:.1f} {y:.1f}")


def words(
    job: JobFile,
    design: Annotated[int, typer.Argument(help="The number of the text.")],
    out: OtherFile = None,
) -> None:
    """Set the words of a text apart: each a design and a piece of its own, of the same letter height."""
    from zinnet.plan.words import words_apart

    document = reading.opened_job(job)
    text = _design(document.plan.garments[0], design)
    before = len(document.job.designs)
    document.apply(words_apart(document.job, text))
    numbers = (design, *range(before + 1, len(document.job.designs) + 1))
    document.save(out or job)
    typer.echo(" ".join(map(str, numbers)))


def _design(garment: "Garment", number: int) -> "FittedDesign":
    if not 1 <= number <= len(garment.designs):
        raise ZinnetError(f"The job has no design {number}; it has {len(garment.designs)}.")
    return garment.designs[number - 1]


def register(app: typer.Typer) -> None:
    """Make them commands."""
    for command in (group, ungroup, align, spread, rows, words):
        app.command()(command)


def _apply(document: "Document", edit: "Edit", out: Path, said: str) -> None:
    document.apply(edit)
    document.save(out)
    typer.echo(said)
