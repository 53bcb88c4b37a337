"""One mat on its way to the cutter: what must be said before, what is written down, and what is left after a break.

A journal in the state folder keeps which lines are cut, so that a broken mat goes on where it stopped, also after the
program or the machine went down.
"""

import contextlib
import json
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

import platformdirs

from zinnet.base.errors import CutError
from zinnet.base.files import write_whole
from zinnet.cutting.hpgl import Program
from zinnet.cutting.link import PortSettings, Report, Sending, rest_of
from zinnet.cutting.settings import CutSettings
from zinnet.output.preflight import passed_in_words, refuse_unready
from zinnet.plan.loading import LoadedMat
from zinnet.plan.model import Plan
from zinnet.workshop.cutbook import CutBook
from zinnet.workshop.store import WorkshopStore


@dataclass(frozen=True)
class Broken:
    """A mat that was not finished: the lines that are cut, and those of which nobody knows."""

    done: tuple[str, ...]
    doubtful: tuple[str, ...]


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
        raise CutError(f"Nobody has said yet that mat {load.numbers} is loaded as its card says; look, and say yes.")
    return load


def program_left(load: LoadedMat, broken: Broken | None, *, again: bool | None = None) -> Program:
    """Return what is still to be cut of a mat; ``again`` says whether lines in doubt are cut once more.

    Raises :class:`CutError` where there are such lines and nobody said, or where all of it is cut already.
    """
    if was_cut(load):
        raise CutError(f"Mat {load.numbers} is cut already; say that other film is on it before it is cut again.")
    if broken is None:
        return load.program()
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
    *,
    on_change: Callable[[Sending], None] | None = None,
) -> Sending:
    """Start to send; the journal follows every line. Lines of the mat that are not in the program are done with."""
    journal = journal_of(load)
    to_cut = {block.path.name for block in program.blocks}
    done_before = tuple(block.path.name for block in load.program().blocks if block.path.name not in to_cut)

    def change(sending: Sending) -> None:
        report = sending.report
        keep_journal(journal, Broken((*done_before, *report.done), report.doubtful))
        if on_change is not None:
            on_change(sending)

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
    said = [in_words(report, len(program.blocks)), f"mat {load.numbers}, {load.films}, {load.settings.in_words()}"]
    book.log(
        plan.job.title, "cut" if report.is_whole else "cut, broken off", "\n".join([*said, *passed_in_words(plan)])
    )
    if report.is_whole:
        finish_journal(load)


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


def journal_of(load: LoadedMat) -> Path:
    """Return where the journal of a mat lies; another nest or other lines have another one."""
    return platformdirs.user_state_path("zinnet") / "cutting" / f"{load.lines_key()}.json"


def keep_journal(path: Path, broken: Broken) -> None:
    """Keep the journal; a disk that is full does not stop the cut."""
    data = {"done": list(broken.done), "doubtful": list(broken.doubtful)}
    with contextlib.suppress(CutError, OSError):
        path.parent.mkdir(parents=True, exist_ok=True)
        write_whole(path, json.dumps(data).encode(), error=CutError)


def finish_journal(load: LoadedMat) -> None:
    """Keep that all of a mat is cut, so that it is not cut again by mistake."""
    keep_journal(journal_of(load), Broken(tuple(block.path.name for block in load.program().blocks), ()))


def was_cut(load: LoadedMat) -> bool:
    """Tell whether all of a mat is cut already."""
    kept = _journal(load)
    names = {block.path.name for block in load.program().blocks}
    return kept is not None and not kept.doubtful and names <= set(kept.done)


def broken_mat(load: LoadedMat) -> Broken | None:
    """Return how far a mat got that was not finished, or None where it was never begun or is whole."""
    kept = _journal(load)
    return None if kept is None or was_cut(load) else kept


def _journal(load: LoadedMat) -> Broken | None:
    try:
        data = json.loads(journal_of(load).read_text(encoding="utf-8"))
        done, doubtful = (tuple(str(name) for name in data[key]) for key in ("done", "doubtful"))
    except (OSError, ValueError, KeyError, TypeError):
        return None
    return Broken(done, doubtful) if done or doubtful else None


def forget_journal(load: LoadedMat) -> None:
    """Forget how far a mat got: other film is on it."""
    journal_of(load).unlink(missing_ok=True)
