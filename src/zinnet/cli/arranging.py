"""``zinnet job group|ungroup|align|spread|words``: how designs lie to one another."""

from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Literal

import typer

from zinnet.base.errors import ZinnetError
from zinnet.cli import reading
from zinnet.cli.job import JobFile, OtherFile

if TYPE_CHECKING:
    from zinnet.bench.document import Document
    from zinnet.job.edits import Edit

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


def words(
    job: JobFile,
    design: Annotated[int, typer.Argument(help="The number of the text.")],
    out: OtherFile = None,
) -> None:
    """Set the words of a text apart: each a design and a piece of its own, of the same letter height."""
    from zinnet.plan.words import words_apart

    document = reading.opened_job(job)
    designs = document.plan.garments[0].designs
    if not 1 <= design <= len(designs):
        raise ZinnetError(f"The job has no design {design}; it has {len(designs)}.")
    before = len(designs)
    document.apply(words_apart(document.job, designs[design - 1]))
    numbers = (design, *range(before + 1, len(document.job.designs) + 1))
    document.save(out or job)
    typer.echo(" ".join(map(str, numbers)))


def register(app: typer.Typer) -> None:
    """Make them commands."""
    for command in (group, ungroup, align, spread, words):
        app.command()(command)


def _apply(document: "Document", edit: "Edit", out: Path, said: str) -> None:
    document.apply(edit)
    document.save(out)
    typer.echo(said)
