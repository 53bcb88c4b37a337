"""Commands of the log: what was made, with what, how it did, and doing it again."""

from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any

import typer

from zinnet.base.errors import ZinnetError
from zinnet.cli import reading

if TYPE_CHECKING:
    from zinnet.plan.model import Plan
    from zinnet.workshop.madebook import MadeBook

app = typer.Typer(help="What was made, with what, and how it did.", no_args_is_help=True)

MOST_LIFTED = 20
Number = Annotated[int, typer.Argument(help="The entry's number.")]
Json = Annotated[bool, typer.Option("--json", help="As JSON.")]
Verdict = Annotated[str | None, typer.Option(help="good, usable or spoiled.")]
Spoiled = Annotated[int | None, typer.Option(min=0, help="How many garments were lost.")]
Washes = Annotated[int | None, typer.Option(min=0, help="How many washes it has survived.")]
Minutes = Annotated[float | None, typer.Option(min=0, help="How long it really took, in minutes.")]
Note = Annotated[str | None, typer.Option(help="What else to know.")]
Photo = Annotated[Path | None, typer.Option(help="A picture of it.")]


@app.command(name="list")
def list_entries(
    find: Annotated[str, typer.Option(help="Words in title, blank, film, verdict, date or note.")] = "",
    as_json: Json = False,
) -> None:
    """List what was made, the latest first."""
    found = _book().entries(find)
    if as_json:
        reading.print_json([one.model_dump() for one in found])
        return
    for one in found:
        verdict = one.verdict or "no verdict"
        typer.echo(f"{one.number:>4}  {one.at[:10]}  {one.garments:>4} x {one.blank:<22} {verdict:<10}  {one.title}")
    if not found:
        typer.echo("Nothing in the log that fits; write a job down with: zinnet log add JOB")


@app.command()
def add(
    job: Annotated[Path, typer.Argument(help="The job file.")],
    verdict: Verdict = None,
    spoiled: Spoiled = None,
    minutes: Minutes = None,
    washes: Washes = None,
    note: Note = None,
    photo: Photo = None,
    lifted: Annotated[
        list[str] | None,
        typer.Option("--lifted", help="How often a film came up and was pressed again: cream=1, again for each."),
    ] = None,
) -> None:
    """Write down that a job was made, and print the entry's number; what held teaches its recipes."""
    from zinnet.bench.made import made_of
    from zinnet.bench.press_log import record_pressed
    from zinnet.job.file import packed_job
    from zinnet.workshop.store import WorkshopStore

    if lifted and verdict is None:
        raise ZinnetError("Say with --lifted how it came out: --verdict good, usable or spoiled.")
    again = _lifted(lifted, reading.opened_job(job).plan) if lifted else {}
    document = reading.nested_job(job)
    made = made_of(document.plan, **_said(verdict, spoiled, minutes, washes, note))
    entry = _book().record(made, packed_job(document.job, document.plan.layouts), _picture(photo))
    if verdict is not None:
        worked = verdict != "spoiled"
        record_pressed(document.plan.presses, WorkshopStore(), worked=worked, lifted=again, made=entry.number)
    typer.echo(f"{entry.number}  {entry.title}")


def _lifted(rows: list[str], plan: "Plan") -> dict[str, int]:
    """Return how often films lifted, as it is typed: FILM=TIMES."""
    films = {piece.film.id for press in plan.presses for work in press.works for piece in work.pieces}
    found = {}
    for row in rows:
        film, _, times = row.partition("=")
        if film not in films:
            raise ZinnetError(f"--lifted {row}: the job has no film “{film}”; it has {', '.join(sorted(films))}.")
        if not times.isdigit() or not 0 < int(times) <= MOST_LIFTED:
            raise ZinnetError(f"--lifted {row}: write FILM=TIMES with 1 to {MOST_LIFTED} times, such as cream=1.")
        found[film] = int(times)
    return found


@app.command()
def change(
    number: Number,
    verdict: Verdict = None,
    spoiled: Spoiled = None,
    minutes: Minutes = None,
    washes: Washes = None,
    note: Note = None,
    photo: Photo = None,
) -> None:
    """Say more of an entry: its verdict, how long it took, the washes that it survived."""
    entry = _book().change(number, photo=_picture(photo), **_said(verdict, spoiled, minutes, washes, note))
    typer.echo(f"{entry.number}  {entry.title}: {entry.verdict or 'no verdict'}, {entry.washes} washes")


@app.command()
def show(number: Number, as_json: Json = False) -> None:
    """Show an entry: its run at the press garment by garment, plan and truth beside one another."""
    from zinnet.workshop.run_words import garment_cells, run_said

    entry = _book().entry(number)
    if as_json:
        reading.print_json(entry.model_dump())
        return
    typer.echo(f"{entry.number}  {entry.at[:10]}  {entry.title}: {entry.verdict or 'no verdict'}")
    if entry.run is None:
        typer.echo(entry.note or "Nothing more is known of it: it was not pressed at the bench.")
        return
    typer.echo(run_said(entry.run))
    for name, planned, real, presses, happened in map(garment_cells, entry.run.garments):
        typer.echo(f"{name:<36} {real:>12} of {planned:>12} planned   {presses}{f'   {happened}' if happened else ''}")


@app.command()
def again(number: Number, out: Annotated[Path, typer.Option("--out", help="The new job's file.")]) -> None:
    """Make a new job from an old one."""
    from zinnet.bench.made import again as job_again
    from zinnet.job.file import save_job

    job, layouts = job_again(_book().job(number))
    save_job(out, job, layouts)
    typer.echo(f"{out}: {job.title}")


@app.command()
def photo(number: Number, out: Annotated[Path, typer.Option("--out", help="Where to write it.")]) -> None:
    """Write an entry's photo to a file."""
    from zinnet.base.files import write_whole

    typer.echo(str(write_whole(out, _book().photo(number))))


@app.command()
def numbers(as_json: Json = False) -> None:
    """What the log says: which film and setting did how well, waste by month, minutes for a garment."""
    from dataclasses import asdict

    from zinnet.pressing.pace import pace_cells, paces_of
    from zinnet.workshop.made import film_records, hand_times, months

    log = _book().entries()
    films, by_month, paces = film_records(log), months(log), paces_of(hand_times(tuple(log)))
    if as_json:
        rows = [asdict(one) | {"minutes_each": one.minutes_each} for one in by_month]
        found = [asdict(one) | {"seconds": one.seconds} for one in paces]
        reading.print_json({"films": [asdict(one) for one in films], "months": rows, "paces": found})
        return
    for film in films:
        typer.echo(f"{film.film:<18} {film.setting:<36} {film.good} of {film.jobs} good, {film.spoiled} lost")
    for one in by_month:
        each = "" if one.minutes_each is None else f", {one.minutes_each:.1f} min a garment"
        typer.echo(f"{one.month}  {one.garments:>4} garments, {one.waste_mm2 / 100:.0f} cm² thrown away{each}")
    for name, usual, here, span, cards in map(pace_cells, paces):
        typer.echo(f"{name:<26} {here} here, usually {usual}; half of {cards} cards take {span}")


def _said(
    verdict: str | None, spoiled: int | None, minutes: float | None, washes: int | None, note: str | None
) -> dict[str, Any]:
    """Return the fields of an entry that were said."""
    from zinnet.workshop.made import VERDICTS

    if verdict is not None and verdict not in VERDICTS:
        raise ZinnetError(f"There is no verdict “{verdict}”; write {', '.join(VERDICTS)}.")
    real = None if minutes is None else minutes * 60
    fields = {"verdict": verdict, "spoiled": spoiled, "real_s": real, "washes": washes, "note": note}
    return {name: value for name, value in fields.items() if value is not None}


def _picture(path: Path | None) -> bytes | None:
    if path is None:
        return None
    from zinnet.camera.measure import read_picture

    data = reading.read(path)
    read_picture(data, path.name)
    return data


def _book() -> "MadeBook":
    from zinnet.workshop.madebook import MadeBook
    from zinnet.workshop.store import WorkshopStore

    return MadeBook(WorkshopStore())
