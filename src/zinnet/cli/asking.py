"""Commands that answer questions: about pieces and film, and about a job and the shelf."""

import math
from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any

import typer

from zinnet.base.errors import NestError, ZinnetError
from zinnet.cli import reading
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
JobFile = Annotated[Path, typer.Argument(help="The job file.")]


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


@app.command()
def more(job: JobFile, seconds: Seconds = 60.0, as_json: Json = False) -> None:
    """For how many more garments the film of a job holds pieces."""
    from dataclasses import asdict

    from zinnet.nesting.questions import until
    from zinnet.shop.questions import more_garments

    rows = more_garments(reading.nested_job(job).plan, goes_on=until(seconds))
    _say_rows(as_json, [(asdict(row), f"{row.film}: {row.more} more") for row in rows], "Nothing is nested.")


@app.command()
def scraps(job: JobFile, seconds: Seconds = 60.0, as_json: Json = False) -> None:
    """Which scraps of the shelf would do for a job."""
    from zinnet.nesting.questions import until
    from zinnet.shop.questions import scraps_that_do

    rows = [
        (
            {"film": row.film, "scrap": row.item.number, "holds": row.holds, "wanted": row.wanted},
            f"{row.film}: scrap {row.item.number} holds {row.holds} of {row.wanted} pieces",
        )
        for row in scraps_that_do(reading.nested_job(job).plan, goes_on=until(seconds))
    ]
    _say_rows(as_json, rows, "There is no scrap of the job's films on the shelf.")


@app.command()
def films(job: JobFile, seconds: Seconds = 60.0, as_json: Json = False) -> None:
    """Which films of the shelf are nearest in colour and enough for a job."""
    from zinnet.nesting.questions import until
    from zinnet.shop.questions import films_that_do

    rows = [
        (
            {"film": row.film.id, "instead_of": row.instead_of, "difference": row.difference, "enough": row.enough},
            f"{row.instead_of}: {row.film.name}, {row.difference:.1f} away, {'enough' if row.enough else 'too short'}",
        )
        for row in films_that_do(reading.nested_job(job).plan, goes_on=until(seconds))
    ]
    _say_rows(as_json, rows, "There is no film of these kinds on the shelf.")


@app.command(name="mats")
def ask_mats(job: JobFile, seconds: Seconds = 120.0, as_json: Json = False) -> None:
    """What a job takes on every mat: loads, film, and money where prices are known."""
    from zinnet.nesting.questions import until
    from zinnet.shop.questions import mats_that_do

    rows = [
        (
            {
                "mat": row.name,
                "fits": row.fits,
                "loads": row.loads,
                "taken_mm2": row.taken_mm2,
                "cost": row.cost,
            },
            f"{row.mat.name}: "
            + (f"{row.loads} loads, {row.taken_mm2 / 100:.0f} cm2" if row.fits else "too small")
            + ("" if row.cost is None else f", {row.cost:.2f}"),
        )
        for row in mats_that_do(reading.nested_job(job).plan, goes_on=until(seconds))
    ]
    _say_rows(as_json, rows, "Nothing is to be cut.")


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


def _say_rows(as_json: bool, rows: list[tuple[dict[str, Any], str]], nothing: str) -> None:
    if as_json:
        reading.print_json([data for data, _ in rows])
        return
    for _, sentence in rows:
        typer.echo(sentence)
    if not rows:
        typer.echo(nothing)


@app.command()
def ways(job: JobFile, as_json: Json = False) -> None:
    """How the layers of a job can be cut apart: film, pieces to lay, minutes and money of every way."""
    from zinnet.base.units import write_area
    from zinnet.plan.parted import ways_of

    document = reading.opened_job(job)
    rows = ways_of(document.plan)
    if as_json:
        reading.print_json(
            [
                {
                    "film": one.film.id,
                    "chosen": one.chosen,
                    "proposed": one.proposed,
                    "ways": [
                        {
                            "share": way.share,
                            "pieces": way.pieces,
                            "film_mm2": None if math.isinf(way.film_mm2) else way.film_mm2,
                            "minutes": way.seconds / 60,
                            "cost": None if math.isinf(way.cost) else way.cost,
                        }
                        for way in one.ways
                    ],
                }
                for one in rows
            ]
        )
        return
    unit = document.job.unit
    for one in rows:
        for place, way in enumerate(one.ways):
            gap = "whole" if way.share is None else f"apart at gaps of {way.share:.0%} of its size"
            area = "" if math.isinf(way.film_mm2) else write_area(way.film_mm2, unit=unit)
            film = f"about {area}, {way.cost:.2f}" if area else "no room"
            mark = "*" if place == one.chosen else " "
            typer.echo(f"{mark} {one.film.name}, {gap}: {way.pieces} pieces, {way.seconds / 60:.0f} min, {film}")


@app.command()
def rescues(
    job: JobFile,
    take: Annotated[int | None, typer.Option("--take", min=1, help="Change the job as this way out says.")] = None,
    out: Annotated[Path | None, typer.Option("--out", help="Save the changed job under this name.")] = None,
    as_json: Json = False,
) -> None:
    """Whole jobs that would do where film is short: other films, sizes, counts, mats, or what to buy."""
    from zinnet.base.units import write_area
    from zinnet.bench.rescues import rescues as searched
    from zinnet.workshop.prices import read_prices

    document = reading.nested_job(job)
    found = list(searched(document.plan, read_prices()))
    if take is not None:
        if take > len(found):
            raise ZinnetError(f"There are {len(found)} ways out; --take {take} is none of them.")
        chosen = found[take - 1]
        for key, layout in chosen.layouts.items():
            document.keep_layout(key, layout)
        document.apply(chosen.edit)
        document.save(out or job)
    if as_json:
        reading.print_json(
            [
                {
                    "kind": one.kind,
                    "name": one.edit.name,
                    "colour_difference": one.difference,
                    "kept_mm2": one.kept_mm2,
                    "minutes": one.minutes,
                    "film_cost": str(one.film_cost),
                    "said": list(one.said),
                }
                for one in found
            ]
        )
        return
    if not found:
        typer.echo("Nothing is short." if not document.plan.open_stops else "No way out was found that holds.")
    for number, one in enumerate(found, start=1):
        kept = write_area(one.kept_mm2, unit=document.job.unit)
        said = f"{one.film_cost:.2f} of film, {kept} kept, {one.minutes:.0f} min of hands"
        typer.echo(f"{number}. {one.edit.name}: {'; '.join((said, *one.said))}")
