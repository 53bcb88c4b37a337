"""Commands of pressing: press, schedule, recipe."""

from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any, Literal

import typer

from zinnet.base.errors import ZinnetError
from zinnet.cli import reading

if TYPE_CHECKING:
    from zinnet.base.units import Unit
    from zinnet.bench.document import Document
    from zinnet.films.catalogue import Film
    from zinnet.plan.presses import GarmentPress
    from zinnet.pressing.steps import PressStep
    from zinnet.workshop.model import Workshop

JobFile = Annotated[Path, typer.Argument(help="The job file.")]
Json = Annotated[bool, typer.Option("--json", help="As JSON.")]


def press(
    job: JobFile,
    as_json: Json = False,
    school: Annotated[str | None, typer.Option(help="tack each layer, or full presses.")] = None,
    cover: Annotated[str | None, typer.Option(help="Over bare film: carriers, parchment, sheet or none.")] = None,
    together: Annotated[bool, typer.Option("--together", help="All whose heats meet in one press.")] = False,
    platen: Annotated[str | None, typer.Option(help="The platen, such as flat-15x15 or iron-8x4.")] = None,
    care_dots: Annotated[int | None, typer.Option(min=1, max=3, help="Dots of the iron on the care label.")] = None,
    degrees: Annotated[str | None, typer.Option(help="C or F.")] = None,
) -> None:
    """Say how a job is pressed: recipes, steps, positions of the platen, and what could go wrong."""
    from zinnet.base.units import write_seconds
    from zinnet.output.press_json import press_json

    fields = {"school": school, "cover": cover, "together": together or None, "degrees": degrees}
    document = _document(job, fields, platen, care_dots)
    plan = document.plan
    if not any(one.works for one in plan.presses):
        raise ZinnetError("There is nothing to press: no layer of the job has a film yet.")
    if as_json:
        reading.print_json(press_json(plan))
        return
    for one in plan.presses:
        typer.echo(f"{one.garment.copies} x {one.garment.blank.name}, {one.garment.blank.fabric}")
        if one.saved_s >= 1:
            typer.echo(f"Pressing films at once saves {write_seconds(one.saved_s)} on each.")
        for number, step in enumerate(one.steps, start=1):
            typer.echo(f"{number:3}  {step.headline}")
            for line in (*step.lines, *(said for said in (step.wrong, step.lifts, step.caution) if said)):
                typer.echo(f"     {line}")
            for line in _positions_of(one, step, document.job.unit):
                typer.echo(f"       {line}")
    for finding in plan.findings:
        if finding.station == "press":
            typer.echo(f"{finding.level}: {finding.title}: {finding.measured} ({finding.limit})")


def _positions_of(press: "GarmentPress", step: "PressStep", unit: "Unit") -> list[str]:
    """Return where the platen goes, where that is to more than one place."""
    from zinnet.pressing.position_words import rows_said

    panel = next((work.panel for work in press.works if work.panel.id == step.panel), None)
    if panel is None or step.heat is None or len(step.heat.coverage.positions) < 2:
        return []
    return rows_said(step.heat.coverage.positions, panel, unit)


def schedule(
    job: JobFile,
    garments: Annotated[int | None, typer.Option(min=1, max=2000, help="How many; those of the job.")] = None,
    presses: Annotated[int | None, typer.Option(min=1, max=20, help="How many presses.")] = None,
    people: Annotated[int | None, typer.Option(min=1, max=20, help="How many people; one for each press.")] = None,
    cooling: Annotated[int | None, typer.Option(min=1, max=50, help="How many can cool at once.")] = None,
    seconds: Annotated[float, typer.Option(min=0.5, max=600, help="How long to look for the best.")] = 4.0,
    as_json: Json = False,
) -> None:
    """Say who and what does which step when, how long it takes, and what holds it up."""
    from zinnet.base.units import write_seconds
    from zinnet.output.press_json import schedule_json
    from zinnet.plan.press_cards import run_works
    from zinnet.plan.presses import day_before_said
    from zinnet.plan.run_garments import by_size
    from zinnet.pressing.schedule.model import one_after_another_s
    from zinnet.pressing.schedule.plan import helps, plan_work
    from zinnet.pressing.schedule.tasks import team_of, works_of

    document = reading.opened_job(job)
    plan, spec = document.plan, document.job.pressing
    works = run_works(by_size(plan.presses))
    if garments is not None:
        first = plan.presses[0]
        works = works_of([(first.garment.blank.name, garments, first.steps)])
    if not works:
        raise ZinnetError("There is nothing to press: no layer of the job has a film yet.")
    count = presses or spec.presses
    team = team_of(count, people or (count if presses else spec.people), cooling or max(spec.cooling, 2 * count))
    found = plan_work(works, team, seconds=seconds)
    before = day_before_said(plan.presses)
    helped = helps(found, min(seconds, 2.0))
    if as_json:
        reading.print_json({**schedule_json(found, helped), "day_before": before})
        return
    if before:
        typer.echo(before)
    alone = one_after_another_s(works, team)
    proof = "no faster order exists" if found.is_proven else f"at most {found.gap:.1%} above the shortest"
    typer.echo(f"{len(works)} garments in {write_seconds(found.total_s)}: {proof}.")
    typer.echo(f"One after another they take {write_seconds(alone)}.")
    if found.pattern is not None:
        begun = "a garment" if found.pattern.begun == 1 else f"{found.pattern.begun} garments"
        typer.echo(f"Every {write_seconds(found.pattern.period_s)} {begun} more, {found.pattern.in_work} in work.")
    for row in helped:
        typer.echo(f"{row.in_words(team)} saves {write_seconds(row.saves_s)}.")


def recipe(
    film: Annotated[str, typer.Argument(help="The film's id, or a kind of film: then for all its colours.")],
    heat: Annotated[str | None, typer.Option(help="The heat, such as 320F or 150C-160C.")] = None,
    time: Annotated[str | None, typer.Option(help="The full press in seconds, such as 15 or 10-15.")] = None,
    tack: Annotated[str | None, typer.Option(help="The tack in seconds.")] = None,
    back: Annotated[str | None, typer.Option(help="The press from the back in seconds.")] = None,
    wait: Annotated[str | None, typer.Option(help="The wait before the peel in seconds.")] = None,
    pressure: Annotated[str | None, typer.Option(help="light, medium or firm.")] = None,
    peel: Annotated[str | None, typer.Option(help="hot, warm, cool or cold.")] = None,
    fabric: Annotated[str | None, typer.Option(help="The fabric it is for; any if left out.")] = None,
    source: Annotated[str | None, typer.Option("--with", help="The source of heat: plate, press, hand ...")] = None,
    mine: Annotated[bool, typer.Option("--mine", help="My own, not from the maker's sheet.")] = False,
    forget: Annotated[bool, typer.Option("--forget", help="Forget what was typed in for this film.")] = False,
) -> None:
    """Type in a film maker's sheet or a recipe of one's own, or show what is known of a film."""
    from zinnet.blanks.fabrics import fabric_of
    from zinnet.films.catalogue import film_kinds
    from zinnet.machines.platens import heat_kinds
    from zinnet.pressing.recipes import ORIGINS_SAID, KeptRecipe, habits
    from zinnet.pressing.typed_recipe import typed_recipe
    from zinnet.workshop.opening import open_workshop
    from zinnet.workshop.pressbook import PressBook
    from zinnet.workshop.store import WorkshopStore

    if film not in film_kinds():
        reading.refuse_unknown_film(film)
    if source is not None and source not in heat_kinds():
        raise ZinnetError(f"There is no source of heat “{source}”; use one of {', '.join(heat_kinds())}.")
    book = PressBook(WorkshopStore())
    origin: Literal["mine", "maker"] = "mine" if mine else "maker"
    if forget:
        book.drop(film, origin)
        typer.echo(f"What was typed in ({ORIGINS_SAID[origin]}) for {film} is forgotten.")
        return
    if heat is not None or time is not None:
        cloth = fabric_of(fabric) if fabric is not None else None
        if fabric is not None and cloth is None:
            raise ZinnetError(f"“{fabric}” is no fabric that is known; see zinnet blanks for their names.")
        typed = {
            "heat": heat,
            "time": time,
            "tack": tack,
            "back": back,
            "wait": wait,
            "pressure": pressure,
            "peel": peel,
        }
        made = typed_recipe(typed, origin=origin)
        name = None if cloth is None else cloth.name
        known = next((one for one in heat_kinds() if one == source), None)
        book.keep(KeptRecipe(film=film, fabric=name, heat_source=known, recipe=made))
    workshop = open_workshop()
    one = workshop.film(film)
    kind = film if one is None else one.kind
    rows = [kept.recipe for kept in workshop.recipes if kept.film in (film, kind)]
    rows += [habit.recipe for habit in habits() if kind in habit.films]
    for row in rows:
        typer.echo(f"{ORIGINS_SAID[row.origin]}: {row.school}: {row.in_words()}")
    if one is not None:
        _say_learned(one, workshop)


def _say_learned(film: "Film", workshop: "Workshop") -> None:
    """Say what the log teaches of a film, for each fabric and source of heat that it was pressed with."""
    from zinnet.blanks.fabrics import fabrics
    from zinnet.pressing.learned import learned

    pairs = dict.fromkeys((one.fabric, one.heat_source) for one in workshop.pressed)
    for fabric, source in pairs:
        taught = learned(workshop.pressed, film, fabrics().get(fabric), source)
        if taught is not None:
            typer.echo(f"learned here: {fabric}, {source}: {taught.in_words()} ({taught.source})")


def hem(
    job: JobFile,
    bar: Annotated[
        list[str] | None,
        typer.Option("--bar", help="What became of a bar: 150C/10=held, or spoiled; held, washed after a wash."),
    ] = None,
    film: Annotated[str | None, typer.Option(help="The kind of film that was tried; else the only one.")] = None,
    as_json: Json = False,
) -> None:
    """Say which bars to press on a hem, or write down what became of them."""
    from zinnet.plan.hem_trials import HOW, hem_trials
    from zinnet.workshop.pressbook import PressBook
    from zinnet.workshop.store import WorkshopStore

    document = reading.opened_job(job)
    trials = [one for one in hem_trials(document.plan.presses[0], document.workshop) if film in (None, one.kind)]
    if not trials:
        raise ZinnetError("There is nothing to try on a hem: no film of the job is pressed with a heat that is known.")
    if bar:
        if len(trials) > 1:
            raise ZinnetError(f"Say which film was tried: --film {' or --film '.join(one.kind for one in trials)}.")
        kept = PressBook(WorkshopStore()).keep_test(trials[0].filled([reading.hem_bar(text) for text in bar]))
        best = kept.best
        held = "no bar held" if best is None else f"{best.heat_c:g} °C, {best.seconds:g} s held"
        typer.echo(f"{trials[0].said}: {held}.")
        return
    if as_json:
        reading.print_json(
            [
                {
                    "film": one.kind,
                    "cloth": one.fabric,
                    "heat_source": one.heat_source,
                    "bars": [{"heat_c": each.heat_c, "seconds": each.seconds} for each in one.bars],
                    "peel": one.peel,
                    "tested": None if one.kept is None else one.kept.model_dump(mode="json"),
                }
                for one in trials
            ]
        )
        return
    for one in trials:
        typer.echo(f"{one.film}: {one.said}; peel {one.peel}")
        for each in one.bars:
            typer.echo(f"  {each.heat_c:.0f} °C, {each.seconds:g} s")
    for number, line in enumerate(HOW, start=1):
        typer.echo(f"{number}  {line}")


def _document(job: Path, fields: dict[str, Any], platen: str | None, dots: int | None) -> "Document":
    """Return the document of a job file with what was typed about pressing."""
    from zinnet.job.edits import choose_platen, set_blank, set_pressing

    document = reading.opened_job(job)
    given = {name: value for name, value in fields.items() if value is not None}
    if given:
        document.apply(set_pressing("how it is pressed", **given))
    if platen is not None:
        document.workshop.presses.platen(platen)
        document.apply(choose_platen(platen))
    if dots is not None:
        document.apply(set_blank("dots of the care label", care_dots=dots))
    return document
