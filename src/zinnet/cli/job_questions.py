"""Questions about a job and the shelf, and their answers carried out."""

import math
from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any

import typer

from zinnet.base.errors import ZinnetError
from zinnet.cli import reading

if TYPE_CHECKING:
    from zinnet.bench.answers import Answer
    from zinnet.bench.document import Document
    from zinnet.bench.rescues import Rescue
    from zinnet.films.catalogue import Film
    from zinnet.plan.model import Facts

Json = Annotated[bool, typer.Option("--json", help="As JSON.")]
Seconds = Annotated[float, typer.Option(min=1, max=3600, help="How long to look at most.")]
JobFile = Annotated[Path, typer.Argument(help="The job file.")]
Out = Annotated[Path | None, typer.Option("--out", help="Save the changed job under this name.")]
Take = Annotated[int | None, typer.Option("--take", min=1, help="Change the job as this way says.")]


def more(job: JobFile, seconds: Seconds = 60.0, take: Take = None, out: Out = None, as_json: Json = False) -> None:
    """For how many more garments the film of a job holds pieces; --take 1 makes so many more."""
    from dataclasses import asdict

    from zinnet.bench.answers import more as answered
    from zinnet.nesting.questions import until
    from zinnet.shop.questions import more_garments

    document = reading.nested_job(job)
    if take is not None:
        answer = answered(document.plan, until(seconds), document.job.unit)
        _say_answer(document, answer, job, take, out, as_json)
        return
    rows = more_garments(document.plan, goes_on=until(seconds))
    _say_rows(as_json, [(asdict(row), f"{row.film}: {row.more} more") for row in rows], "Nothing is nested.")


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


def films(job: JobFile, seconds: Seconds = 60.0, as_json: Json = False) -> None:
    """Which films of the shelf are nearest in colour and enough for a job."""
    from zinnet.nesting.questions import until
    from zinnet.shop.questions import films_that_do

    rows = [
        (
            {
                "film": row.film.id,
                "instead_of": row.instead_of.name,
                "difference": row.difference,
                "enough": row.enough,
            },
            f"{row.instead_of.name}: {row.film.name}, {row.difference:.1f} away, "
            f"{'enough' if row.enough else 'too short'}",
        )
        for row in films_that_do(reading.nested_job(job).plan, goes_on=until(seconds))
    ]
    _say_rows(as_json, rows, "There is no film of these kinds on the shelf.")


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


def ways(job: JobFile, as_json: Json = False) -> None:
    """How the layers of a job can be cut apart: film, pieces to lay, minutes and money of every way."""
    from zinnet.base.units import write_area

    document = reading.opened_job(job)
    rows = document.plan.ways
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


def already(
    job: JobFile,
    cut: Annotated[
        str | None, typer.Option(help="FILM=FILM: what was to be cut from the first is of the second.")
    ] = None,
    cloth: Annotated[str | None, typer.Option(help="The garment's colour, #rrggbb.")] = None,
    fault: Annotated[str | None, typer.Option(help="How far beside the artwork a fault shows, such as 8mm.")] = None,
    pressed: Annotated[str | None, typer.Option(help="The film that is pressed already.")] = None,
    take: Take = None,
    out: Out = None,
    as_json: Json = False,
) -> None:
    """What goes with what is there already: pieces cut in another film, another cloth, a fault, a film pressed."""
    from zinnet.bench.already import cut_in, hidden, on_cloth, pressed_first
    from zinnet.job.keys import read_colour

    if sum(one is not None for one in (cut, cloth, fault, pressed)) != 1:
        raise ZinnetError("Say one thing that is there: --cut, --cloth, --fault or --pressed.")
    document = reading.nested_job(job)
    plan = document.plan
    if cut is not None:
        old, _, film = cut.partition("=")
        answer = cut_in(plan, film_called(plan, old), film_called(plan, film))
    elif cloth is not None:
        answer = on_cloth(plan, read_colour(cloth, "--cloth"))
    elif fault is not None:
        answer = hidden(plan, reading.not_negative(fault, "--fault"), document.job.unit)
    else:
        answer = pressed_first(plan, film_called(plan, pressed or ""))
    _say_answer(document, answer, job, take, out, as_json)


def size(job: JobFile, seconds: Seconds = 60.0, take: Take = None, out: Out = None, as_json: Json = False) -> None:
    """How large the designs of a job may be on the film that there is."""
    from zinnet.bench.answers import largest as answered
    from zinnet.nesting.questions import until

    document = reading.nested_job(job)
    answer = answered(document.plan, until(seconds), document.job.unit)
    _say_answer(document, answer, job, take, out, as_json)


def film_called(facts: "Facts", name: str) -> "Film":
    """Return the film of an id or a name. Raises where there is none."""
    wanted = name.strip().lower()
    for film in facts.workshop.films:
        if wanted in (film.id, film.name.lower()):
            return film
    raise ZinnetError(f"There is no film {name!r}; `zinnet films` lists them.")


def _say_answer(
    document: "Document", answer: "Answer", job: Path, take: int | None, out: Path | None, as_json: bool
) -> None:
    """Print an answer and its offers; carry out the one that is taken, where it holds."""
    if take is not None:
        _carry_out(document, answer, job, take, out)
    offers = [{"name": way.edit.name, "said": list(way.said)} for way in answer.offers]
    if as_json:
        reading.print_json({"said": answer.said, "offers": offers})
        return
    typer.echo(answer.said)
    for number, way in enumerate(answer.offers, start=1):
        typer.echo(f"{number}. {'; '.join((way.edit.name, *way.said))}")


def _carry_out(document: "Document", answer: "Answer", job: Path, take: int, out: Path | None) -> None:
    from zinnet.bench.answers import carried_out
    from zinnet.workshop.prices import read_prices

    if take > len(answer.offers):
        raise ZinnetError(f"There are {len(answer.offers)} ways; --take {take} is none of them.")
    way = answer.offers[take - 1]
    found = carried_out(document.plan, way, read_prices())
    if found is None:
        raise ZinnetError(f"Tried: {way.edit.name}. It does not hold, so nothing is changed; take another way.")
    _take(document, found, out or job)


def _take(document: "Document", rescue: "Rescue", path: Path) -> None:
    rescue.keep_nests(document)
    document.apply(rescue.edit)
    document.save(path)


def rescues(
    job: JobFile,
    take: Take = None,
    out: Out = None,
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
        _take(document, found[take - 1], out or job)
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


def _say_rows(as_json: bool, rows: list[tuple[dict[str, Any], str]], nothing: str) -> None:
    if as_json:
        reading.print_json([data for data, _ in rows])
        return
    for _, sentence in rows:
        typer.echo(sentence)
    if not rows:
        typer.echo(nothing)
