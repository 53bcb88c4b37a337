"""The cards of a run at the bench: a step of a garment each, in the order of a schedule."""

from collections.abc import Sequence
from dataclasses import dataclass

from zinnet.plan.presses import GarmentPress
from zinnet.pressing.schedule.dispatch import dispatch
from zinnet.pressing.schedule.model import GarmentWork, Schedule, Team
from zinnet.pressing.schedule.phases import all_at_once
from zinnet.pressing.schedule.tasks import works_of
from zinnet.pressing.steps import PressStep

TIMED = ("press", "preheat", "wait", "cool")
QUICK_IN_WORK = 3
"""With so many garments in work the rule of the quick cards does well for all that cools."""


@dataclass(frozen=True)
class Card:
    """One card: a step of one garment. ``number`` counts all garments of the job from 1."""

    number: int
    garment: str
    press: GarmentPress
    step_index: int

    @property
    def step(self) -> PressStep:
        """The step."""
        return self.press.steps[self.step_index]

    @property
    def id(self) -> str:
        """By what its timer and its entry are known."""
        return f"{self.number}.{self.step_index}"

    @property
    def seconds(self) -> float:
        """How long its timer runs; 0 where it has none."""
        return self.step.seconds if self.step.kind in TIMED else 0.0


def run_works(presses: Sequence[GarmentPress]) -> tuple[GarmentWork, ...]:
    """Return the work of all garments of a job, size after size."""
    return works_of([(press.garment.blank.name, press.garment.copies, press.steps) for press in presses])


def cards_of(presses: Sequence[GarmentPress], schedule: Schedule) -> tuple[Card, ...]:
    """Return the cards in the order of the schedule: what is done once first, then what begins first."""
    rows = [(press, copy) for press in presses for copy in range(press.garment.copies) if press.steps]
    names = [work.name for work in schedule.works]
    found = [Card(1, names[0], presses[0], k) for k, step in enumerate(presses[0].steps) if step.once] if names else []
    for slot in sorted(schedule.slots, key=lambda one: (one.start, one.garment)):
        first, last = schedule.task(slot).steps
        press, _ = rows[slot.garment]
        found += [Card(slot.garment + 1, names[slot.garment], press, k) for k in range(first, last)]
    last_card = next((k for k, step in enumerate(presses[0].steps) if step.kind == "care"), None)
    if found and last_card is not None:
        found.append(Card(len(rows), names[-1], presses[-1], last_card))
    return tuple(found)


def quick_cards(presses: Sequence[GarmentPress], team: Team) -> tuple[Card, ...]:
    """Return the cards of a schedule by one rule, which is there soon."""
    return cards_of(presses, quick_schedule(presses, team)) if run_works(presses) else ()


def quick_schedule(presses: Sequence[GarmentPress], team: Team) -> Schedule:
    """Return a schedule by one rule, which is there soon; of a job without work it is empty."""
    works = run_works(presses)
    phases = all_at_once(works)
    most = len(works) if phases else QUICK_IN_WORK
    slots = dispatch(works, team, rule="farthest", most_in_work=most, phases=phases)
    return Schedule(works, team, slots, 0)
