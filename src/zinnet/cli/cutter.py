"""Commands of the cutter: cut (write its files), send (to a port), cutter (the stand-in), testcut (what to set)."""

import signal
import sys
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any

import typer

from zinnet.base.errors import CutError, ZinnetError
from zinnet.cli import reading

if TYPE_CHECKING:
    from zinnet.bench.document import Document
    from zinnet.cutting.link import Report, Sending
    from zinnet.cutting.stand_in.cutter import Failure
    from zinnet.plan.loading import LoadedMat

JobFile = Annotated[Path, typer.Argument(help="A job file.")]
Passes = Annotated[
    list[str] | None,
    typer.Option("--pass", help="Pass a stop with a reason, such as wrong-cut-side=REASON."),
]
MachineName = Annotated[str | None, typer.Option("--machine", help="The machine; else the first that takes the mat.")]


def cut(
    job: JobFile,
    out: Annotated[
        Path | None, typer.Option("--out", help="The folder to write to; else one beside the job, of its name.")
    ] = None,
    formats: Annotated[str, typer.Option("--format", help="Of svg, dxf, hpgl, pdf, png; several with commas.")] = "svg",
    mat: Annotated[int | None, typer.Option(help="Only this mat.")] = None,
    names: Annotated[str | None, typer.Option(help="Names of files, of {job}, {mat} and {film}.")] = None,
    arcs: Annotated[bool, typer.Option(help="Arcs where SVG and DXF have them.")] = True,
    machine: MachineName = None,
    knife_offset: Annotated[str | None, typer.Option(help="How far the knife trails, such as 0.3mm.")] = None,
    overcut: Annotated[str | None, typer.Option(help="How far a line is cut on past its start.")] = None,
    weed_lines: Annotated[
        bool, typer.Option("--weed-lines", help="Cut lines through the waste in weed frames.")
    ] = False,
    passes: Passes = None,
) -> None:
    """Write the cut files of a job and its job sheet."""
    from zinnet.output.cut_files import (
        FORMATS,
        log_export,
        write_cut_files,
        write_job_sheet,
    )
    from zinnet.workshop.store import WorkshopStore

    chosen = [name.strip() for name in formats.split(",") if name.strip()]
    unknown = [name for name in chosen if name not in FORMATS]
    if unknown or not chosen:
        raise ZinnetError(f"There is no format “{', '.join(unknown)}”; use {', '.join(FORMATS)}.")
    document = _document(job, passes)
    fields: dict[str, Any] = {
        "machine": machine,
        "knife_offset_mm": None if knife_offset is None else reading.not_negative(knife_offset, "--knife-offset"),
        "overcut_mm": None if overcut is None else reading.not_negative(overcut, "--overcut"),
        "names": names,
        "weed_lines": weed_lines or None,
    }
    _set(document, {name: value for name, value in fields.items() if value is not None})
    out = out or job.with_suffix("")
    written = write_cut_files(document.plan, out, chosen, arcs=arcs, only=mat)
    written.append(write_job_sheet(document.plan, out))
    log_export(document.plan, WorkshopStore(), out)
    for path in written:
        typer.echo(path)


def send(
    job: JobFile,
    mat: Annotated[int, typer.Option(help="The number of the mat.")],
    port: Annotated[str, typer.Option(help="The serial port of the cutter, or what “zinnet cutter” prints.")],
    loaded: Annotated[bool, typer.Option("--loaded", help="Yes, it is loaded as its card says.")] = False,
    again: Annotated[
        bool | None,
        typer.Option("--again/--leave", help="Lines in doubt after a break: cut them again, or leave them."),
    ] = None,
    afresh: Annotated[
        bool, typer.Option("--afresh", help="Forget what was cut of it before: another film is on.")
    ] = False,
    same_film: Annotated[
        bool, typer.Option("--same-film", help="What was begun for another job or day is on the film that is on now.")
    ] = False,
    without_journal: Annotated[
        bool, typer.Option("--without-journal", help="Send though the journal of the cut can't be kept.")
    ] = False,
    test: Annotated[bool, typer.Option("--test-cut", help="Only the test cut, in the spot kept for it.")] = False,
    machine: MachineName = None,
    passes: Passes = None,
) -> None:
    """Send one mat to a cutter; after a break, what is left of it."""
    from zinnet.bench import cut_journal, cutting_run
    from zinnet.workshop.cutbook import CutBook
    from zinnet.workshop.store import WorkshopStore

    document = _document(job, passes)
    _set(document, {} if machine is None else {"machine": machine})
    load = cutting_run.load_of_mat(document.plan, mat)
    for line in card_lines(load):
        typer.echo(line)
    if not loaded and sys.stdin.isatty():
        loaded = typer.confirm("Is it loaded like this?")
    load = cutting_run.prepare(document.plan, mat, loaded=loaded)
    if test:
        sending = cutting_run.send_test(load, cutting_run.port_of(load, port), load.settings)
        report = _followed(sending, "test cut")
        cutting_run.count_metres(load, sending.program, report, load.settings.passes, CutBook(WorkshopStore()))
        typer.echo(f"{cutting_run.in_words(report, len(report.done))}. Weed it, then say how: zinnet testcut.")
        raise typer.Exit(0 if report.is_whole else 1)
    mark = cut_journal.mark_of(document.job)
    if afresh:
        cut_journal.forget_journal(load)
    elif same_film:
        cut_journal.adopt_journal(load, mark)
    program = cutting_run.program_left(load, mark, again=again)
    if cutting_run.broken_mat(load, mark) is not None:
        typer.echo(f"It was begun before: {len(load.program().blocks) - len(program.blocks)} lines are left out.")
    port_settings = cutting_run.port_of(load, port)
    sending = cutting_run.send(load, port_settings, program, mark, without_journal=without_journal)
    report = _followed(sending, f"mat {load.numbers}")
    cutting_run.write_down(document.plan, load, program, report, WorkshopStore())
    said = cutting_run.in_words(report, len(program.blocks))
    typer.echo(said[0].upper() + said[1:] + ".", err=not report.is_whole)
    if not report.is_whole:
        raise typer.Exit(1)
    typer.echo("Bend the mat away from the film, not the film from the mat, and take the test cut off.")


def cutter(
    times: Annotated[float, typer.Option(min=0, help="How much faster than real; 0 for at once.")] = 1.0,
    film: Annotated[str, typer.Option(help="The kind of film on it.")] = "smooth",
    harder: Annotated[float, typer.Option(min=0.1, max=10, help="How much harder than usual the film is.")] = 1.0,
    blade_metres: Annotated[float, typer.Option(min=0, help="How many metres the blade has cut.")] = 0.0,
    fail: Annotated[str | None, typer.Option(help="What fails after how many bytes, such as jam@400.")] = None,
    draw: Annotated[Path | None, typer.Option(help="Write what it cut as SVG at the end.")] = None,
    seconds: Annotated[float | None, typer.Option(min=0, help="End after so long; else with Ctrl+C.")] = None,
) -> None:
    """Start the stand-in cutter and print its port."""
    from zinnet.cutting.settings import CutSettings
    from zinnet.cutting.stand_in.cutter import StandIn
    from zinnet.cutting.stand_in.depth import loaded_film
    from zinnet.cutting.stand_in.drawing import strokes_svg
    from zinnet.cutting.stand_in.port import StandInPort
    from zinnet.films.catalogue import film_kinds
    from zinnet.machines.cutters import shipped_machines

    kinds = film_kinds()
    if film not in kinds:
        raise ZinnetError(f"There is no kind of film “{film}”; use one of {', '.join(kinds)}.")
    made = StandIn(film=loaded_film(kinds[film], film, harder=harder), blade_m=blade_metres, failure=_failure(fail))
    with StandInPort(made, times=times or None) as port:
        typer.echo(port.name)
        sys.stdout.flush()
        end = None if seconds is None else time.monotonic() + seconds
        with _told_to_end() as told:
            while port.is_on and not told.is_set() and (end is None or time.monotonic() < end):
                time.sleep(0.05)
    head = made.head
    typer.echo(f"{len(head.strokes)} strokes, {head.cut_mm / 1000:.2f} m cut in {head.seconds:.1f} s of its time.")
    if head.strokes:
        settings = CutSettings(force_g=head.force_g, blade_mm=made.blade_mm, speed_mm_s=head.speed_mm_s)
        typer.echo(f"With {settings.in_words(shipped_machines().cutter(None))} it weeds: {made.outcome(settings)}.")
    if made.errors:
        typer.echo(f"It failed: {', '.join(made.errors)}.")
    if draw is not None:
        from zinnet.output.writing import write_text

        write_text(draw, strokes_svg(head.strokes))


def try_cut(
    film: Annotated[str, typer.Argument(help="The film's id.")],
    machine: Annotated[str, typer.Option(help="The machine.")] = "table",
    outcome: Annotated[
        str | None,
        typer.Option(help="How it weeded: not through, tears, clean, carrier marked, carrier cut through."),
    ] = None,
    force: Annotated[
        str | None, typer.Option(help="The force as the machine says it: 90 (grams), a step, or “preset, more”.")
    ] = None,
    blade: Annotated[str | None, typer.Option(help="How much blade was out: 0.15mm, or its number.")] = None,
    speed: Annotated[float | None, typer.Option(min=1, help="The speed, in mm/s.")] = None,
    times: Annotated[int | None, typer.Option(min=1, max=5, help="How often each line was cut.")] = None,
    blade_first: Annotated[bool, typer.Option("--blade-first", help="More blade before more force.")] = False,
    new_blade: Annotated[bool, typer.Option("--new-blade", help="A new blade is in the machine.")] = False,
) -> None:
    """Say what to set for a film, write down how a test cut weeded, and say what to try next."""
    from zinnet.bench.test_cuts import Trial, advise, record_trial
    from zinnet.cutting.settings import OUTCOMES
    from zinnet.workshop.cutbook import CutBook
    from zinnet.workshop.opening import open_workshop
    from zinnet.workshop.store import WorkshopStore

    reading.refuse_unknown_film(film)
    device = open_workshop().machines.cutter(machine)
    store = WorkshopStore()
    if new_blade:
        typer.echo(f"Blade {CutBook(store).put_in_blade(machine).number} is in.")
    if outcome is not None and outcome not in OUTCOMES:
        raise CutError(f"There is no result “{outcome}”; use one of: {', '.join(OUTCOMES)}.")
    trial = Trial(film, machine, blade_first=blade_first)
    settings = advise(open_workshop(), trial).shown
    typed = {
        "force_g": None if force is None else device.read_force(force),
        "blade_mm": None if blade is None else device.read_blade(blade) or reading.positive(blade, "--blade"),
        "speed_mm_s": speed,
        "passes": times,
    }
    settings = settings.model_copy(update={name: value for name, value in typed.items() if value is not None})
    if outcome is not None:
        record_trial(store, open_workshop(), trial, settings, outcome)
    advice = advise(open_workshop(), trial)
    typer.echo(f"{advice.reason[0].upper()}{advice.reason[1:]}.")
    typer.echo(f"Set {advice.shown.in_words(device)} ({advice.source}).")
    if advice.worn:
        typer.echo(f"The blade is likely worn: {advice.worn}.")


def card_lines(load: "LoadedMat") -> list[str]:
    """Return the loading card of a mat as text."""
    lines = [f"Mat {load.numbers}: {load.films}", f"  {load.grip}"]
    if load.is_printed:
        return [*lines, f"  {load.trims[0].side_down}, at 100 %; trim it by hand"]
    for trim in load.trims:
        left, top = load.stuck_at(trim)
        lines.append(
            f"  {trim.source}: {trim.side_down}, {left:.1f} mm from the left, {top:.1f} mm from the upper edge"
        )
    lines += [f"  {load.settings_said} ({load.known.source})", f"  {load.duration().in_words()}"]
    lines += [f"  changed: {change}" for change in load.changes]
    if load.curls:
        lines.append("  tape the corners if they lift")
    return lines


def _followed(running: "Sending", what: str) -> "Report":
    """Follow what is being sent to its end, with a bar on a terminal; Ctrl+C stops the cutter. Return the report."""
    from rich.progress import Progress

    with Progress(disable=not sys.stdout.isatty(), transient=True) as progress:
        bar = progress.add_task(what, total=1.0)
        with _told_to_end() as told:
            while running.is_running:
                running.wait(0.1)
                progress.update(bar, completed=running.share)
                if told.is_set():
                    running.stop()
    return running.wait()


@contextmanager
def _told_to_end() -> Iterator[threading.Event]:
    """Give an event that is set by Ctrl+C or a polite kill, also where whoever started this ignores them."""
    told = threading.Event()
    before = {one: signal.signal(one, lambda *_: told.set()) for one in (signal.SIGINT, signal.SIGTERM)}
    try:
        yield told
    finally:
        for one, handler in before.items():
            signal.signal(one, handler)


def _document(job: Path, passes: list[str] | None) -> "Document":
    """Return the document of a job file, nested, with stops passed for the reasons that were typed."""
    from zinnet.job.edits import pass_finding

    document = reading.nested_job(job)
    for text in passes or []:
        finding, equals, reason = text.partition("=")
        if not equals or len(reason.strip()) < 3:
            raise ZinnetError(f"--pass {text} has no reason; write it like wrong-cut-side='as its maker says'.")
        about = [one for one in document.plan.open_stops if one.id == finding.strip()]
        if not about:
            raise ZinnetError(f"--pass {finding}: no such stop is open.")
        for one in about:
            document.apply(pass_finding(one.id, reason.strip(), one.subject))
    return document


def _set(document: "Document", fields: dict[str, Any]) -> None:
    from zinnet.job.edits import set_cutting

    if fields:
        document.apply(set_cutting("how it is cut", **fields))


def _failure(text: str | None) -> "Failure | None":
    from zinnet.cutting.stand_in.cutter import FAILURES, Failure

    if text is None:
        return None
    kind, _, after = text.partition("@")
    if kind not in FAILURES or not after.isdigit():
        raise ZinnetError(
            f"--fail {text} can't be read; write one of {', '.join(FAILURES)} and bytes, such as jam@400."
        )
    return Failure(kind, int(after))
