"""The cutter as the window sees it: which mat is next, which port, what is being sent, and the stand-in behind it."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QTimer, Signal

from zinnet.base.errors import ZinnetError
from zinnet.bench import cutting_run
from zinnet.bench.cut_journal import Broken, JournalError, Mark, adopt_journal, forget_journal, mark_of
from zinnet.cutting.ports import PortSettings, ports
from zinnet.cutting.stand_in.cutter import Failure, FailureKind, StandIn
from zinnet.cutting.stand_in.depth import loaded_film
from zinnet.cutting.stand_in.port import StandInPort
from zinnet.films.catalogue import kind_of
from zinnet.job.edits import confirm, one_step, say_loaded
from zinnet.workshop.cutbook import CutBook

if TYPE_CHECKING:
    from zinnet.cutting.duration import Duration
    from zinnet.cutting.hpgl import Program
    from zinnet.cutting.link import Report, Sending
    from zinnet.cutting.paths import CutSheet
    from zinnet.cutting.settings import CutSettings
    from zinnet.plan.loading import LoadedMat
    from zinnet.ui.session import Session

STAND_IN = "stand-in"
FOLLOW_MS = 40
MOST_SHEETS = 64
FAIL_AFTER = 0.4
"""After which share of a program the stand-in fails, where it is told to."""


@dataclass
class Run:
    """One mat that is or was sent, from when on the stand-in's clock, and what became of it."""

    load: "LoadedMat"
    program: "Program"
    sending: "Sending"
    begun_s: float = 0.0
    is_test: bool = False
    passes: int = 1
    report: "Report | None" = None


def _prepared(load: "LoadedMat", mark: Mark) -> tuple["CutSheet", bool]:
    """Put all in order that is asked of a mat later; return its lines, and whether they are cut already."""
    assert load.program().text
    assert load.duration().seconds >= 0
    assert load.lines_key()
    return load.cut_sheet(), cutting_run.was_cut(load, mark)


class CutterControl(QObject):
    """What the pages of Cut and its bench share. They follow :attr:`changed` while something moves."""

    changed = Signal()

    def __init__(self, session: "Session") -> None:
        super().__init__(session)
        self.session = session
        self.port = STAND_IN
        self.times = 4.0
        self.failure: FailureKind | None = None
        self.ask: Callable[[str], bool] = lambda question: False
        self.run: Run | None = None
        self.finished: dict[str, str] = {}
        self._stand_in: StandInPort | None = None
        self._chosen: str | None = None
        self._sheets: dict[tuple[object, ...], CutSheet] = {}
        self._asked: set[tuple[object, ...]] = set()
        self._timer = QTimer(self, interval=FOLLOW_MS)
        self._timer.timeout.connect(self._tick)
        session.plan_changed.connect(self.changed)
        session.closing.connect(self.close)

    # which mat

    @property
    def loads(self) -> tuple["LoadedMat", ...]:
        """The mats of the job in the order of cutting."""
        plan = self.session.plan
        return plan.loads if plan.is_nested else ()

    @property
    def load(self) -> "LoadedMat | None":
        """The mat that is looked at: the chosen one, else the next that is not cut."""
        loads = self.loads
        chosen = next((load for load in loads if load.key == self._chosen), None)
        return chosen or next((load for load in loads if load.key not in self.finished), next(iter(loads), None))

    def choose(self, load: "LoadedMat") -> None:
        """Look at another mat."""
        self._chosen = load.key
        self.changed.emit()

    def go_on(self, by: int = 1) -> None:
        """Look at the next mat, or the one before."""
        loads, load = self.loads, self.load
        if load is not None:
            self.choose(loads[(loads.index(load) + by) % len(loads)])

    def sheet_of(self, load: "LoadedMat") -> "CutSheet | None":
        """Return a mat's lines in their order, or None while they are being put in order beside the window."""
        key = load.content_key
        if key not in self._sheets and key not in self._asked:
            self._asked.add(key)

            def take(prepared: tuple["CutSheet", bool]) -> None:
                while len(self._sheets) >= MOST_SHEETS:
                    oldest = next(iter(self._sheets))
                    del self._sheets[oldest]
                    self._asked.discard(oldest)
                self._sheets[key], is_cut = prepared
                if is_cut:
                    self.finished.setdefault(load.key, "It was cut before.")
                self.changed.emit()

            def refused(error: str) -> None:
                self._asked.discard(key)
                self.session.said.emit(str(error))

            mark = self.mark
            self.session.background.run(lambda: _prepared(load, mark), take, refused)
        return self._sheets.get(key)

    def duration_of(self, load: "LoadedMat") -> "Duration":
        """Return how long a mat takes to cut, as it is kept once its lines are in order."""
        with self.session.kept_stages():
            return load.duration()

    # sending

    @property
    def is_running(self) -> bool:
        """Whether a mat is being sent."""
        return self.run is not None and self.run.report is None

    def say_loaded(self, loaded: bool = True) -> None:
        """Say yes to the loading of the mat that is looked at, or take it back."""
        load = self.load
        if load is not None:
            self.session.apply(say_loaded(load.key, loaded))

    def confirm_loaded(self) -> None:
        """Say that the mat that is looked at is loaded and set as its card says; look at the next that is not."""
        loads, load = self.loads, self.load
        if load is None:
            return
        subject = load.settings_subject
        said = [] if load.is_loaded else [say_loaded(load.key)]
        if subject is not None and subject not in self.session.job.cutting.confirmed:
            said.append(confirm(subject))
        if said:
            self.session.apply(one_step(f"mat {load.numbers} is loaded", said))
        after = loads.index(load) + 1
        left = (one for one in (*loads[after:], *loads[:after]) if not (one.is_loaded or one.is_printed))
        following = next((one for one in left if one.key != load.key), None)
        if following is not None:
            self.choose(following)

    @property
    def mark(self) -> Mark:
        """Whose journals are those of the job at hand."""
        return mark_of(self.session.job)

    def send(self, again: bool | None = None) -> bool:
        """Send the mat that is looked at; ``again`` says whether lines in doubt are cut once more."""
        load = self.load
        if load is None or self.is_running:
            return False
        if self.session.is_working or self.sheet_of(load) is None:
            self.session.said.emit("The lines are still being put in order; try again in a moment.")
            return False
        try:
            load = cutting_run.prepare(self.session.plan, load.number)
            program = cutting_run.program_left(load, self.mark, again=again)
            settings = cutting_run.port_of(load, self._port_name(load, len(program.text)))
            begun_s = self.stand_in.head.seconds if self.stand_in is not None else 0.0
            sending = self._begun(load, settings, program)
            if sending is None:
                return False
            self.run = Run(load, program, sending, begun_s)
            self._chosen = load.key
        except ZinnetError as error:
            self.session.said.emit(str(error))
            return False
        self._timer.start()
        self.changed.emit()
        return True

    def _begun(self, load: "LoadedMat", port: PortSettings, program: "Program") -> "Sending | None":
        """Begin to send; where the journal can't be kept, only if that is wanted all the same."""
        try:
            return cutting_run.send(load, port, program, self.mark)
        except JournalError as error:
            if not self.ask(f"{error} Send the mat all the same?"):
                return None
            return cutting_run.send(load, port, program, self.mark, without_journal=True)

    def send_test(self, film: str, settings: "CutSettings") -> bool:
        """Send the test cut of a film, in the spot that is kept for it on its first mat."""
        load = next((one for one in self.loads if film in [mat.nest.film.id for mat in one.mats]), None)
        if load is None or self.is_running:
            return False
        try:
            load = cutting_run.prepare(self.session.plan, load.number)
            port = cutting_run.port_of(load, self._port_name(load, 0))
            running = cutting_run.send_test(load, port, settings)
        except ZinnetError as error:
            self.session.said.emit(str(error))
            return False
        self.run = Run(load, running.program, running, is_test=True, passes=settings.passes)
        self._timer.start()
        self.changed.emit()
        return True

    def pause(self) -> None:
        """Pause after the lines under way, or go on."""
        if self.run is not None and self.is_running:
            if self.run.sending.state == "paused":
                self.run.sending.resume()
            else:
                self.run.sending.pause()

    def stop(self) -> None:
        """Stop at once."""
        if self.run is not None and self.is_running:
            self.run.sending.stop()

    def forget(self) -> None:
        """Forget how far the mat got: other film is on it now."""
        load = self.load
        if load is not None and not self.is_running:
            forget_journal(load)
            self.finished.pop(load.key, None)
            self.run = None
            self._new_film()
            self.changed.emit()

    def same_film(self) -> None:
        """Take what was begun for another job or day for what is on the mat: the very film is still on it."""
        load = self.load
        if load is not None and not self.is_running:
            try:
                adopt_journal(load, self.mark)
            except ZinnetError as error:
                self.session.said.emit(str(error))
            if cutting_run.was_cut(load, self.mark):
                self.finished.setdefault(load.key, "It was cut before.")
            self.changed.emit()

    def broken(self, load: "LoadedMat") -> Broken | None:
        """Return how far a mat got that was broken off."""
        if self.is_running or load.key in self.finished or self.sheet_of(load) is None:
            return None
        return cutting_run.broken_mat(load, self.mark)

    def _port_name(self, load: "LoadedMat", size: int) -> str:
        """Return the port that is sent to; the stand-in is started for it where it is the one."""
        if self.port != STAND_IN:
            return self.port
        stand_in = self._stand_in
        if stand_in is None or not stand_in.is_on:
            stand_in = self._stand_in = StandInPort(StandIn())
        film = load.mats[0].nest.film
        blade = load.cutting.blade
        with stand_in.lock:
            stand_in.times = self.times
            cutter = stand_in.cutter
            cutter.reset()
            cutter.put_in(loaded_film(kind_of(film), film.kind))
            cutter.head.force_g, cutter.head.speed_mm_s = load.settings.force_g, load.settings.speed_mm_s
            cutter.blade_m = blade.metres if blade is not None else 0.0
            cutter.failure = (
                None if self.failure is None else Failure(self.failure, cutter.bytes_in + int(size * FAIL_AFTER))
            )
            if cutting_run.broken_mat(load, self.mark) is None:
                cutter.new_mat()
        self.failure = None
        return stand_in.name

    @property
    def stand_in(self) -> StandIn | None:
        """The stand-in, while it is the cutter and is on."""
        return self._stand_in.cutter if self._stand_in is not None and self.port == STAND_IN else None

    def _new_film(self) -> None:
        if self._stand_in is not None:
            with self._stand_in.lock:
                self._stand_in.cutter.new_mat()

    def _tick(self) -> None:
        run = self.run
        if run is None or run.report is not None:
            self._timer.stop()
            return
        if not run.sending.is_running:
            self._timer.stop()
            self._end(run, run.sending.report)
        self.changed.emit()

    def _end(self, run: Run, report: "Report") -> None:
        run.report = report
        if run.is_test:
            done = "The test cut is cut: weed it, and say how it came off." if report.is_whole else report.reason
            self.session.said.emit(done)
            self.session.books.use(
                lambda store: cutting_run.count_metres(run.load, run.program, report, run.passes, CutBook(store))
            )
            return
        plan = self.session.plan
        said = cutting_run.in_words(report, len(run.program.blocks))
        self.session.said.emit(f"Mat {run.load.numbers}: {said}.")
        if report.is_whole:
            cutting_run.finish_journal(run.load, self.mark)
            self.finished[run.load.key] = self._finished(run, report)
        self.session.books.use(lambda store: cutting_run.write_down(plan, run.load, run.program, report, store))

    def _finished(self, run: Run, report: "Report") -> str:
        """Return how long it took against the estimate, and how it came out on the stand-in."""
        stand_in, expected = self.stand_in, self.duration_of(run.load).seconds
        if stand_in is None:
            return f"It took {report.seconds:.0f} s; {expected:.0f} s were estimated."
        took = f"It took {stand_in.head.seconds - run.begun_s:.0f} s of its time; {expected:.0f} s were estimated."
        return f"{took} On the stand-in it weeds: {stand_in.outcome(run.load.settings)}."

    # ports and the end

    @staticmethod
    def ports() -> list[tuple[str, str]]:
        """Return what can be sent to: the stand-in, then the serial ports of this machine."""
        return [(STAND_IN, "the stand-in cutter"), *((name, f"{name}  {said}".strip()) for name, said in ports())]

    def close(self) -> None:
        """Stop everything."""
        self._timer.stop()
        if self.run is not None and self.run.sending.is_running:
            self.run.sending.stop()
            self.run.sending.wait(1.0)
        if self._stand_in is not None:
            self._stand_in.close()
