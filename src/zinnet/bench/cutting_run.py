"""One mat on its way to the cutter: what must be said before, what is written down, and what is left after a break.

A journal in the state folder keeps which lines are cut, so that a broken mat goes on where it stopped, also after the
program or the machine went down.
"""

import contextlib
from collections.abc import Callable

from zinnet.base.errors import CutError
from zinnet.bench.cut_journal import (
    Broken,
    JournalError,
    Mark,
    keep_journal,
    mark_of,
    read_journal,
    refuse_unreadable,
)
from zinnet.cutting.hpgl import Program
from zinnet.cutting.link import Report, Sending, rest_of
from zinnet.cutting.ports import PortSettings
from zinnet.cutting.settings import CutSettings
from zinnet.output.preflight import passed_in_words, refuse_unready
from zinnet.plan.loading import LoadedMat
from zinnet.plan.model import Plan
from zinnet.workshop.cutbook import CutBook
from zinnet.workshop.store import WorkshopStore


def load_of_mat(plan: Plan, number: int) -> LoadedMat:
    """Return the mat of a number on the table as it is loaded. Raises :class:`CutError` where there is none."""
    found = next((load for load in plan.loads if number in [mat.number for mat in load.mats]), None)
    if found is None:
        raise CutError(f"There is no mat {number}; there are {len(plan.mats)}.")
    return found


def port_of(load: LoadedMat, port: str) -> PortSettings:
    """Return how the port of a mat's machine is opened."""
    device = load.cutting.device
    return PortSettings(port, device.baud, device.handshake)


def prepare(plan: Plan, number: int, *, loaded: bool = False) -> LoadedMat:
    """Return a mat that may be sent.

    Raises :class:`CutError` past an open stop, before everything is nested, for film that is printed on, or where
    nobody has said yes to its loading.
    """
    refuse_unready(plan)
    load = load_of_mat(plan, number)
    if load.is_printed:
        raise CutError(f"Mat {load.numbers} is printed, not cut: print its PDF at 100 %.")
    if not (loaded or load.is_loaded):
        raise CutError(f"Confirm first how mat {load.numbers} is loaded: compare it with its card, then say yes.")
    return load


def program_left(load: LoadedMat, mark: Mark, *, again: bool | None = None) -> Program:
    """Return what is still to be cut of a mat; ``again`` says whether lines in doubt are cut once more.

    Raises :class:`CutError` where there are such lines and nobody said, where all of it is cut already, or where its
    lines were begun for another job or on another day.
    """
    broken = read_journal(load, mark)
    if broken is None:
        return load.program()
    refuse_unreadable(load, broken)
    if broken.of:
        raise CutError(
            f"The very lines of mat {load.numbers} were begun before, for {broken.of}: say whether that film is still "
            "on the mat, or other film."
        )
    if broken.is_whole(load):
        raise CutError(f"Mat {load.numbers} is cut already; say that other film is on it before it is cut again.")
    if broken.doubtful and again is None:
        raise CutError(
            f"Of {', '.join(broken.doubtful)} nobody knows whether they are cut: look at the mat, then say whether "
            "they are cut again or left."
        )
    doubtful = broken.doubtful
    return rest_of(load.program(), (*broken.done, *doubtful), doubtful if again else ())


def send(
    load: LoadedMat,
    port: PortSettings,
    program: Program,
    mark: Mark,
    *,
    without_journal: bool = False,
    on_change: Callable[[Sending], None] | None = None,
) -> Sending:
    """Start to send; the journal follows every line. Lines of the mat that are not in the program are done with.

    Raises :class:`JournalError`, before anything is sent, where the journal can't be kept, unless it goes without one.
    A disk that is full later on does not stop the cut.
    """
    to_cut = {block.path.name for block in program.blocks}
    done_before = tuple(block.path.name for block in load.program().blocks if block.path.name not in to_cut)

    def change(sending: Sending) -> None:
        report = sending.report
        with contextlib.suppress(JournalError):
            keep_journal(load, mark, Broken((*done_before, *report.done), report.doubtful))
        if on_change is not None:
            on_change(sending)

    if not without_journal:
        keep_journal(load, mark, Broken(done_before, ()))
    sending = Sending(program, port, load.settings, on_change=change)
    return sending.start()


def send_test(
    load: LoadedMat, port: PortSettings, settings: CutSettings, *, on_change: Callable[[Sending], None] | None = None
) -> Sending:
    """Start to cut the test cut in the spot that is kept for it. Raises :class:`CutError` where none is kept."""
    program = load.test_program(settings)
    if program is None:
        raise CutError(f"On mat {load.numbers} no spot is kept free for a test cut; ask for one at Nest.")
    return Sending(program, port, settings, on_change=on_change).start()


def write_down(plan: Plan, load: LoadedMat, program: Program, report: Report, store: WorkshopStore) -> None:
    """Write a mat that was sent to the log, count its metres to the blade, and forget the journal of a whole one."""
    book = CutBook(store)
    count_metres(load, program, report, load.settings.passes, book)
    said = [in_words(report, len(program.blocks)), f"mat {load.numbers}, {load.films}, {load.settings_said}"]
    book.log(
        plan.job.title, "cut" if report.is_whole else "cut, broken off", "\n".join([*said, *passed_in_words(plan)])
    )
    if report.is_whole:
        finish_journal(load, mark_of(plan.job))


def count_metres(load: LoadedMat, program: Program, report: Report, passes: int, book: CutBook) -> None:
    """Count to the blade what it went over: every pass of each line that is cut, or in doubt after a break."""
    lengths = {block.path.name: block.path.length_mm for block in program.blocks}
    metres = passes * sum(lengths[name] for name in (*report.done, *report.doubtful)) / 1000
    if metres:
        book.add_metres(load.cutting.machine, metres)


def in_words(report: Report, count: int) -> str:
    """Return what became of a mat, every line that is not cut for sure by its name."""
    if report.is_whole:
        return f"all {count} lines are cut, in {report.seconds:.0f} s"
    said = [f"{report.reason}: {len(report.done)} of {count} lines are cut"]
    if report.doubtful:
        said.append(f"in doubt: {', '.join(report.doubtful)}; look at the mat")
    if report.left:
        said.append(f"not cut: {', '.join(report.left)}")
    return "; ".join(said)


def finish_journal(load: LoadedMat, mark: Mark) -> None:
    """Keep that all of a mat is cut, so that it is not cut again by mistake; a full disk does not matter any more."""
    with contextlib.suppress(JournalError):
        keep_journal(load, mark, Broken(tuple(block.path.name for block in load.program().blocks), ()))


def was_cut(load: LoadedMat, mark: Mark) -> bool:
    """Tell whether all of a mat is cut already, on the film that is on it."""
    kept = read_journal(load, mark)
    return kept is not None and kept.is_whole(load)


def broken_mat(load: LoadedMat, mark: Mark) -> Broken | None:
    """Return how far a mat got that was not finished, or None where it was never begun or is whole."""
    kept = read_journal(load, mark)
    return None if kept is None or kept.is_whole(load) else kept
