"""Commands that answer questions: about pieces and film, and about a job and the shelf."""

from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any

import typer

from zinnet.base.errors import NestError
from zinnet.cli import job_questions, reading
from zinnet.cli.nesting import sources_of

if TYPE_CHECKING:
    from zinnet.nesting.model import NestTask

app = typer.Typer(help="Ask what fits, what is missing, and what would do.", no_args_is_help=True)

Json = Annotated[bool, typer.Option("--json", help="As JSON.")]
Pieces = Annotated[Path, typer.Argument(help="An SVG; each direct child of its root is one piece.")]
SheetSize = Annotated[str | None, typer.Option(help="Width x height of one sheet, such as 300x200mm.")]
Roll = Annotated[str | None, typer.Option(help="Width x length of a roll, such as 9.5x132in.")]
Scrap = Annotated[list[Path] | None, typer.Option(help="An SVG of a scrap: what is painted is film.")]
Gap = Annotated[str, typer.Option(help="The least room between pieces.")]
Margin = Annotated[str, typer.Option(help="The margin kept free along every edge of film.")]
Turn = Annotated[str, typer.Option(help="Allowed turns in degrees, such as 0,90,180,270; or any.")]
Seconds = Annotated[float, typer.Option(min=1, max=3600, help="How long to look at most.")]


@app.command()
def rectangles(
    size: Annotated[str, typer.Argument(help="The rectangle, such as 7.2x5in.")],
    on: Annotated[str, typer.Option("--on", help="Width x length of the film, such as 9.5x132in.")],
    gap: Gap = "0",
    as_json: Json = False,
) -> None:
    """How many equal rectangles lie on film, in either direction and mixed."""
    from zinnet.base.units import read_size
    from zinnet.nesting.rectangles import how_many_rectangles

    counts = how_many_rectangles(read_size(size), read_size(on), reading.not_negative(gap, "--gap"))
    if as_json:
        reading.print_json({**counts.model_dump(), "best": counts.best})
        return
    typer.echo(f"{counts.long_along} with the long side along the film")
    typer.echo(f"{counts.short_along} with the short side along the film")
    if counts.mixed > max(counts.long_along, counts.short_along):
        typer.echo(f"{counts.mixed} in both directions mixed")


@app.command(name="how-many")
def how_many_fit(
    pieces: Pieces,
    sheet: SheetSize = None,
    roll: Roll = None,
    scrap: Scrap = None,
    gap: Gap = "0",
    margin: Margin = "0",
    turn: Turn = "0,90,180,270",
    seconds: Seconds = 30.0,
    as_json: Json = False,
) -> None:
    """How many sets of the pieces fit on film."""
    from zinnet.nesting.questions import how_many, until

    count = how_many(_task(pieces, sheet, roll, scrap, gap, margin, turn), goes_on=until(seconds))
    _say(as_json, {"fit": count}, f"{count} fit")


@app.command()
def largest(
    pieces: Pieces,
    count: Annotated[int, typer.Option(min=1, max=2000, help="How many of each piece.")] = 1,
    sheet: SheetSize = None,
    roll: Roll = None,
    scrap: Scrap = None,
    gap: Gap = "0",
    margin: Margin = "0",
    turn: Turn = "0,90,180,270",
    seconds: Seconds = 60.0,
    as_json: Json = False,
) -> None:
    """The largest size at which so many of each piece fit on film."""
    from zinnet.nesting.questions import largest_size, until

    task = _task(pieces, sheet, roll, scrap, gap, margin, turn, copies=count)
    found = largest_size(task, goes_on=until(seconds))
    left, top, right, bottom = task.pieces[0].region.bounds
    width, height = (right - left) * found.factor, (bottom - top) * found.factor
    _say(
        as_json,
        {"factor": found.factor, "exact": found.exact, "width_mm": width, "height_mm": height},
        f"{found.factor:.4f} times as large; the first piece is then {width:.1f} x {height:.1f} mm",
    )


@app.command()
def missing(
    pieces: Pieces,
    roll: Annotated[str, typer.Option(help="Width x length of the roll, such as 305x2000mm.")],
    copies: Annotated[int, typer.Option(min=1, max=2000, help="How many of each piece.")] = 1,
    gap: Gap = "0",
    margin: Margin = "0",
    turn: Turn = "0,90,180,270",
    seconds: Seconds = 5.0,
    as_json: Json = False,
) -> None:
    """How much of a roll is missing for all the pieces."""
    from dataclasses import replace

    from zinnet.base.units import read_size
    from zinnet.nesting.questions import missing_length
    from zinnet.nesting.running import NestRun

    task = replace(_task(pieces, None, roll, None, gap, margin, turn, copies=copies), seconds=seconds)
    layout = NestRun(task).wait()
    length = missing_length(task, layout, read_size(roll)[0], margin_mm=task.sheet.margin_mm, seconds=seconds)
    _say(
        as_json,
        {"missing_mm": length, "pieces": len(layout.unplaced)},
        f"{length:.1f} mm of the roll are missing, for {len(layout.unplaced)} pieces"
        if layout.unplaced
        else "nothing is missing",
    )


def _task(
    pieces: Path,
    sheet: str | None,
    roll: str | None,
    scrap: list[Path] | None,
    gap: str,
    margin: str,
    turn: str,
    *,
    copies: int = 1,
) -> "NestTask":
    from dataclasses import replace

    from zinnet.nesting.from_svg import pieces_of_svg
    from zinnet.nesting.model import NestTask

    named = pieces_of_svg(reading.read(pieces), pieces.name, turns=reading.turns(turn))
    if not named:
        raise NestError(f"{pieces} holds no piece.")
    rolls = [roll] if roll is not None else []
    sources = sources_of(sheet, 1, rolls, scrap or [], None, reading.not_negative(margin, "--margin"))
    return NestTask(
        pieces=tuple(replace(piece, copies=piece.copies * copies) for piece in named),
        sheets=tuple(source for source, _ in sources),
        gap_mm=reading.not_negative(gap, "--gap"),
    )


def _say(as_json: bool, data: dict[str, Any], sentence: str) -> None:
    if as_json:
        reading.print_json(data)
    else:
        typer.echo(sentence)


app.command()(job_questions.more)
app.command()(job_questions.scraps)
app.command()(job_questions.films)
app.command(name="mats")(job_questions.ask_mats)
app.command()(job_questions.ways)
app.command()(job_questions.already)
app.command()(job_questions.size)
app.command()(job_questions.rescues)
