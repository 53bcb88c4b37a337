"""Pressing as the window sees it: which step is looked at, the schedule, the run at the bench, the stand-in press."""

import threading
import time
from collections.abc import Sequence
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QTimer, Signal

from zinnet.base.units import write_seconds
from zinnet.bench.alarm import Alarm
from zinnet.bench.press_log import write_down
from zinnet.bench.press_run import PressRun
from zinnet.bench.run_order import card_beside, cards_left, do_beside, keep_sides, works_left
from zinnet.bench.run_record import lifted_films, record_of
from zinnet.bench.timers import TIMERS, Timers, machine_clock
from zinnet.job.edits import confirm, set_pressing
from zinnet.plan.press_cards import Card, cards_of, quick_cards, run_works
from zinnet.plan.run_garments import by_size, run_presses
from zinnet.pressing.schedule.tasks import team_of
from zinnet.pressing.stand_in.press import StandInPress
from zinnet.ui.background import Background
from zinnet.ui.press.bench_habits import BenchHabits

if TYPE_CHECKING:
    from zinnet.plan.model import Plan
    from zinnet.plan.presses import GarmentPress
    from zinnet.pressing.schedule.model import GarmentWork, Schedule, Team
    from zinnet.pressing.schedule.plan import Help
    from zinnet.pressing.steps import PressStep
    from zinnet.ui.session import Session

SEARCH_S, HELP_S = 4.0, 1.5
FOLLOW_MS = 100
MOST_AT_ONCE = 12
"""So many garments at most are laid out while the window waits."""
SEEN_TICKS = 10
"""So often is it noted that somebody is at the bench: once a second."""
WARMING_TIMES = 10.0
"""How much faster the stand-in warms up than a real press, so that nobody waits for practice."""


class PressControl(QObject):
    """What the pages of Press and its bench share. They follow :attr:`changed`."""

    changed = Signal()
    rang = Signal(str)

    def __init__(self, session: "Session", habits: BenchHabits) -> None:
        super().__init__(session)
        self.session = session
        self.step_index = 0
        self.run: PressRun | None = None
        self._last_run: PressRun | None = None
        self.stand_in: StandInPress | None = None
        self.habits = habits
        self.clock = machine_clock
        self.schedule: Schedule | None = None
        self.helped: tuple[Help, ...] = ()
        self.is_planning = False
        self._planned_for: object = None
        self._works: tuple[Plan, tuple[GarmentWork, ...]] | None = None
        self._stop = threading.Event()
        self._background = Background(self, session.kept_stages)
        self._alarm = Alarm()
        self._at_bench, self._ticks = False, 0
        self._looked = 0.0
        self._timer = QTimer(self, interval=FOLLOW_MS)
        self._timer.timeout.connect(self._tick)
        folder = session.state_folder
        self._left = Timers(None if folder is None else folder / TIMERS, self.clock)
        self.follow_left()
        session.plan_changed.connect(self.changed)
        session.closing.connect(self.close)

    def follow_left(self) -> None:
        """Let timers ring that were left running when Zinnet was closed."""
        if self._left.all:
            self._timer.start()

    # what is looked at

    @property
    def press(self) -> "GarmentPress":
        """How the size that is looked at is pressed."""
        presses = self.session.plan.presses
        return presses[min(self.session.selection.number, len(presses) - 1)]

    @property
    def steps(self) -> tuple["PressStep", ...]:
        """Its steps."""
        return self.press.steps

    @property
    def step(self) -> "PressStep | None":
        """The step that is looked at."""
        steps = self.steps
        return steps[min(self.step_index, len(steps) - 1)] if steps else None

    def look_at_step(self, index: int) -> None:
        """Look at another step."""
        self.step_index = max(0, min(index, len(self.steps) - 1))
        self.changed.emit()

    # the schedule

    @property
    def team(self) -> "Team":
        """Who and what works at it."""
        spec = self.session.job.pressing
        return team_of(spec.presses, spec.people, spec.cooling)

    @property
    def works(self) -> tuple["GarmentWork", ...]:
        """The work of all garments."""
        plan = self.session.plan
        if self._works is None or self._works[0] is not plan:
            self._works = plan, run_works(by_size(plan.presses))
        return self._works[1]

    def plan_schedule(self) -> None:
        """Plan the run beside the window, where that is not done yet; what is shown is the best so far."""
        works, team = self.works, self.team
        key = tuple((work.kind, work.name) for work in works), tuple({work.tasks for work in works}), team
        if key == self._planned_for:
            return
        self._planned_for = key
        self._stop.set()
        stop = self._stop = threading.Event()
        self.schedule, self.helped = None, ()
        if not works:
            return
        self.is_planning = True

        from zinnet.pressing.schedule.plan import helps, plan_work

        def plan() -> "Schedule":
            return plan_work(works, team, seconds=SEARCH_S, stop=stop)

        def take(found: "Schedule") -> None:
            if key == self._planned_for:
                self.schedule = found
                self._background.run(lambda: () if stop.is_set() else helps(found, HELP_S), take_help, self._failed)
                self.changed.emit()

        def take_help(helped: tuple["Help", ...]) -> None:
            if key == self._planned_for:
                self.helped, self.is_planning = helped, False
                self.changed.emit()

        self._background.run(plan, take, self._failed)

    def _failed(self, error: str) -> None:
        self.is_planning = False
        self.session.said.emit(str(error))

    # the bench

    def begin_run(self) -> None:
        """Lay the cards out: in the order of the schedule where it is planned, else by rule; go on where it stopped."""
        works, team, found = self.works, self.team, self.schedule
        if not works:
            self.run = None
            return
        plan = self.session.plan
        presses = by_size(plan.presses)
        if plan.named:
            self.run = None
            self._background.run(lambda: quick_cards(run_presses(plan), team), self._take_cards, self._failed)
        elif found is not None and found.works == works:
            self._take_cards(cards_of(presses, found))
        elif len(works) <= MOST_AT_ONCE:
            self._take_cards(quick_cards(presses, team))
        else:
            self.run = None
            self._background.run(lambda: quick_cards(presses, team), self._take_cards, self._failed)

    def _take_cards(self, cards: Sequence[Card]) -> None:
        fresh = PressRun(cards, self.session.state_folder, self.clock, self.team.presses)
        if self.run is None or self.run.key != fresh.key:
            before, self.run = self._last_run, fresh
            if before is not None and before.key != fresh.key and before.done and not before.is_over and not fresh.at:
                self.session.said.emit("The job is another one since the run began: its cards begin anew.")
        self._last_run = self.run
        self._looked = time.monotonic()
        self._timer.start()
        self._at_bench = True
        self.run.come()
        self.changed.emit()

    def end_run(self) -> None:
        """Leave the bench: timers go on, and ring; the time away is a pause of the run."""
        if self.run is not None and self._at_bench:
            self.run.stay()
        self._at_bench = False
        if not self.timers.all:
            self._timer.stop()

    @property
    def timers(self) -> Timers:
        """The timers of the run, or those that were left by one before."""
        return self.run.timers if self.run is not None else self._left

    @property
    def stray_subject(self) -> str | None:
        """By what the finding about stray film is confirmed, where it is still open."""
        return next((one.subject for one in self.session.plan.findings if one.id == "stray-film"), None)

    @property
    def beside(self) -> Card | None:
        """The card of the second person, where two work and there is one."""
        return card_beside(self.run) if self.run is not None and self.team.people > 1 else None

    def go_on_beside(self) -> None:
        """Do what the second person's card asks for."""
        card = self.beside
        if self.run is not None and card is not None:
            do_beside(self.run, card)
            self.changed.emit()

    def confirm(self) -> None:
        """Confirm what can't be taken back, and go on."""
        card = self.run.card if self.run is not None else None
        if self.run is not None and card is not None and self.run.confirm():
            if any(one.subject == card.step.confirmed_as for one in self.session.plan.findings):
                self.session.apply(confirm(card.step.confirmed_as))
            self.changed.emit()

    def go_on(self) -> None:
        """Do what the card asks for."""
        run = self.run
        if run is None or run.card is None:
            return
        card = run.card
        press = self.stand_in
        if press is not None and press.is_shut and run.timer(card) is None and run.awaited(card) is None:
            press.open()  # a bare garment was preheated; its card is done since the press was shut
        if press is not None and card.step.heat is not None and run.timer(card) is None:
            press.set_c = card.step.heat.heat_c or press.set_c
            if not press.is_ready:
                said = f"The press is at {press.display_c} °C; wait until it holds {press.set_c:.0f} °C."
                self.session.said.emit(said)
                return
        if card.step.kind == "heat up":
            if self.session.plan.open_stops:
                names = ", ".join(dict.fromkeys(one.title.lower() for one in self.session.plan.open_stops))
                self.session.said.emit(f"Nothing is pressed while a stop is open: {names}.")
                return
            subject = self.stray_subject
            if subject is not None:
                self.session.apply(confirm(subject))
        started, beside = run.timer(card) is None, self.beside
        run.go_on()
        keep_sides(run, beside)
        self._follow_stand_in(card, started)
        self.changed.emit()

    def _follow_stand_in(self, card: Card, started: bool) -> None:
        press = self.stand_in
        if press is None or card.step.heat is None or self.run is None:
            return
        if started and self.run.timer(card) is not None:
            press.lay()
            press.shut(card.seconds)
        elif self.run.timer(card) is None:
            press.open()

    def pull_handle(self) -> None:
        """Shut the stand-in press, or open it: the bench follows it."""
        press, run = self.stand_in, self.run
        if press is None or run is None or run.card is None:
            return
        if press.is_shut:
            press.open()
            run.opened()
            self.changed.emit()
        else:
            self.go_on()

    def plan_rest(self) -> None:
        """Plan what is left of the run anew, beside the window, from where one is."""
        run, team = self.run, self.team
        if run is None or run.is_over:
            return
        works = works_left(run)

        def take(found: "Schedule") -> None:
            if self.run is run:
                run.take_order(cards_left(run, found))
                self.session.said.emit(f"Planned anew: about {write_seconds(found.total_s)} are left.")
                self.changed.emit()

        if works:
            from zinnet.pressing.schedule.plan import plan_work

            self._background.run(lambda: plan_work(works, team, seconds=HELP_S), take, self._failed)

    def use_stand_in(self, used: bool) -> None:
        """Put the stand-in press beside the bench, or away."""
        heat = next((step.heat.heat_c for step in self.steps if step.heat is not None and step.heat.heat_c), 160.0)
        self.stand_in = StandInPress(heat) if used else None
        self.changed.emit()

    def finish(self, worked: bool) -> None:
        """Write down what was pressed and how it came out."""
        run = self.run
        if run is None or not run.is_over:
            return
        plan, cards, lifted = self.session.plan, run.cards, lifted_films(run)
        record = record_of(run, self.habits.who, people=self.team.people)

        def then(at: str) -> None:
            self.session.apply(set_pressing("pressed", pressed_at=at))
            self.session.said.emit("It is written down.")

        self.session.books.use(lambda store: write_down(plan, cards, record, store, worked=worked, lifted=lifted), then)
        run.begin_anew()
        self.changed.emit()

    def _tick(self) -> None:
        now = time.monotonic()
        if self.stand_in is not None:
            warming = not self.stand_in.is_ready and not self.stand_in.is_shut
            self.stand_in.advance((now - self._looked) * (WARMING_TIMES if warming else 1.0))
        self._looked = now
        for name in self._alarm.ringing(self.timers):
            self.rang.emit(name)
        if self._at_bench and self.run is not None:
            self._ticks += 1
            if self._ticks % SEEN_TICKS == 0:
                self.run.stay()
        self.changed.emit()

    def close(self) -> None:
        """Stop everything."""
        self._timer.stop()
        self._stop.set()
        self._background.wait()
