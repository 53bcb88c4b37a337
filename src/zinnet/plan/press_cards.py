"""The cards of a run at the bench: what one does in one go at one garment, in the order of a schedule.

What is done once for the run is one card, what makes a garment ready another; each piece in hand has a card of its own,
which ends with shutting the press where that follows.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import groupby

from zinnet.plan.presses import GarmentPress
from zinnet.plan.run_garments import Pressed
from zinnet.pressing.schedule.dispatch import dispatch
from zinnet.pressing.schedule.model import GarmentWork, Schedule, Team
from zinnet.pressing.schedule.phases import all_at_once
from zinnet.pressing.schedule.tasks import works_of
from zinnet.pressing.steps import PressStep

TIMED = ("press", "preheat")
WAITS = ("wait", "cool")
ENDS = ("press", "preheat", "peel", "burnish", "gate", "turn over")
"""With these a card ends: the press is shut, film comes off its carrier, something can't be taken back."""
QUICK_IN_WORK = 3
"""With so many garments in work the rule of the quick cards does well for all that cools."""


@dataclass(frozen=True)
class Hand:
    """The piece in hand: its key among what is pressed, and which of its places it is for, from 0."""

    piece: str
    place: int


@dataclass(frozen=True)
class Card:
    """One card: some steps of one garment. ``number`` counts all garments of the job from 1.

    ``indices`` are its steps among those of the garment, the last of which it is named and timed by; ``hand`` is the
    piece that it lays. ``waits`` are the steps that begin by themselves when it is done: what cools needs nobody.
    """

    number: int
    garment: str
    press: GarmentPress
    indices: tuple[int, ...]
    hand: Hand | None = None
    waits: tuple[int, ...] = ()

    @property
    def step_index(self) -> int:
        """The step by which it is timed."""
        return self.indices[-1]

    @property
    def step(self) -> PressStep:
        """That step: of several the last, which is the press where one is shut."""
        return self.press.steps[self.step_index]

    @property
    def steps(self) -> tuple[PressStep, ...]:
        """All its steps."""
        return tuple(self.press.steps[index] for index in self.indices)

    @property
    def is_for_all(self) -> bool:
        """Whether it is about the whole run: what is done once, and what is said at its end."""
        return self.step.once or self.step.kind == "care"

    def is_of(self, number: int) -> bool:
        """Tell whether it is about one garment."""
        return self.number == number and not self.is_for_all

    @property
    def dry_fit(self) -> PressStep | None:
        """The step that lays all film of a side out, where it is on this card."""
        return next((step for step in self.steps if step.kind == "dry fit"), None)

    @property
    def own_steps(self) -> tuple[PressStep, ...]:
        """The steps that are done with this card: one that lays several pieces is done with the last of them."""
        own = self.indices if self.ends_with_step else self.indices[:-1]
        return tuple(self.press.steps[k] for k in (*own, *self.waits))

    @cached_property
    def title(self) -> str:
        """What it is called: by the piece in hand, else by what it ends with."""
        if self.hand is None:
            return self.step.title if self.dry_fit is None else self.dry_fit.title
        work = next(work for work in self.press.works if any(one.key == self.hand.piece for one in work.pieces))
        piece = work.piece(self.hand.piece)
        place = f", {self.hand.place + 1} of {len(piece.each)}" if len(piece.each) > 1 else ""
        return f"Lay {piece.name}{place}"

    @property
    def id(self) -> str:
        """By what its timer and its entry are known."""
        return f"{self.number}.{self.step_index}" + ("" if self.ends_with_step else f"-{self._hand_id}")

    @property
    def ends_with_step(self) -> bool:
        """Whether its last step is done with it; a step that lays several pieces is done with the last of them."""
        return self.hand is None or self.step.kind != "lay" or self.hand == hands_at(self.press, self.step_index)[-1]

    @property
    def _hand_id(self) -> str:
        assert self.hand is not None
        return f"{self.hand.piece}-{self.hand.place}"

    @property
    def seconds(self) -> float:
        """How long its timer runs; 0 where it has none."""
        return self.step.seconds if self.step.kind in TIMED else 0.0


def run_works(presses: Pressed) -> tuple[GarmentWork, ...]:
    """Return the work of all garments of a run, one after another."""
    return works_of([(name, press.garment.copies, press.steps) for name, press in presses])


def cards_of(presses: Pressed, schedule: Schedule) -> tuple[Card, ...]:
    """Return the cards in the order of the schedule: what is done once first, then what begins first.

    Who works alone lays a piece when the press is free for it: laying it and shutting the press is one card.
    """
    rows = [press for _, press in presses for _ in range(press.garment.copies) if press.steps]
    names = [work.name for work in schedule.works]
    if not names:
        return ()
    found = list(_once(names[0], rows[0]))
    laid: dict[int, list[int]] = {}
    for slot in sorted(schedule.slots, key=lambda one: (one.start, one.garment)):
        first, last = schedule.task(slot).steps
        press = rows[slot.garment]
        steps = [*laid.pop(slot.garment, ()), *(k for k in range(first, last) if not press.steps[k].once)]
        now, later = (steps, []) if schedule.team.people > 1 else _until_its_press(press, steps)
        if later:
            laid[slot.garment] = later
        _add_cards(found, slot.garment + 1, names[slot.garment], press, now)
    for garment, steps in laid.items():
        _add_cards(found, garment + 1, names[garment], rows[garment], steps)
    care = next((k for k, step in enumerate(rows[-1].steps) if step.kind == "care"), None)
    if found and care is not None:
        found.append(Card(len(rows), names[-1], rows[-1], (care,)))
    return tuple(found)


def _once(name: str, press: GarmentPress) -> Iterator[Card]:
    """Yield what is done once for the run: what can't be taken back by itself, all else as one card."""
    once = [k for k, step in enumerate(press.steps) if step.once]
    for alone, indices in groupby(once, key=lambda k: press.steps[k].gate or bool(press.steps[k].hours)):
        if alone:
            yield from (Card(1, name, press, (k,)) for k in indices)
        else:
            yield Card(1, name, press, tuple(indices))


def _until_its_press(press: GarmentPress, steps: Sequence[int]) -> tuple[list[int], list[int]]:
    """Return which of a stretch of steps are done now, and which wait for the press that follows them."""
    ends = [at for at, k in enumerate(steps) if press.steps[k].kind in (*ENDS, *WAITS)]
    cut = ends[-1] + 1 if ends else 0
    later = list(steps[cut:])
    following = next((step for step in press.steps[steps[-1] + 1 :] if step.kind != "cover"), None)
    if not later or following is None or following.heat is None:
        return list(steps), []
    return list(steps[:cut]), later


def _add_cards(found: list[Card], number: int, name: str, press: GarmentPress, steps: Sequence[int]) -> None:
    """Add the cards of a stretch of steps of one garment; what cools begins with the end of the card before it."""
    waiting: list[int] = []

    def put(*indices: int, hand: Hand | None) -> None:
        if indices:
            found.append(Card(number, name, press, indices, hand))
        waiting.clear()

    for k in steps:
        step = press.steps[k]
        if step.kind == "lay":
            if any(press.steps[one].kind == "lay" for one in waiting):
                put(*waiting, hand=_hand_of(press, waiting))
            for hand in hands_at(press, k)[:-1]:
                put(*waiting, k, hand=hand)
            waiting.append(k)
        elif step.kind in WAITS:
            put(*waiting, hand=_hand_of(press, waiting))
            _begin_with(found, number, k)
        elif step.kind in ENDS or (step.kind == "dry fit" and not _is_preheated(press, k)):
            if step.gate:
                put(*waiting, hand=_hand_of(press, waiting))
            put(*waiting, k, hand=_hand_of(press, waiting))
        else:
            waiting.append(k)
    put(*waiting, hand=_hand_of(press, waiting))


def _is_preheated(press: GarmentPress, dry_fit: int) -> bool:
    """Tell whether the cloth is preheated after its film was laid out: that is one card then."""
    panel = press.steps[dry_fit].panel
    return any(step.kind == "preheat" and step.panel == panel for step in press.steps[dry_fit:])


def _begin_with(found: list[Card], number: int, wait: int) -> None:
    """Let a wait begin with the end of the last card of its garment."""
    for at in range(len(found) - 1, -1, -1):
        if found[at].number == number and not found[at].step.once:
            found[at] = replace(found[at], waits=(*found[at].waits, wait))
            return


def hands_at(press: GarmentPress, lay: int) -> list[Hand]:
    """Return the pieces of a step that lays, each with each of its places."""
    keys = press.steps[lay].pieces
    pieces = {piece.key: piece for work in press.works for piece in work.pieces}
    return [Hand(key, place) for key in keys for place in range(len(pieces[key].each))]


def _hand_of(press: GarmentPress, steps: Sequence[int]) -> Hand | None:
    """Return the piece that steps lay last, if they lay one."""
    lay = next((k for k in reversed(steps) if press.steps[k].kind == "lay"), None)
    return None if lay is None else hands_at(press, lay)[-1]


def quick_cards(presses: Pressed, team: Team) -> tuple[Card, ...]:
    """Return the cards of a schedule by one rule, which is there soon."""
    return cards_of(presses, quick_schedule(presses, team)) if run_works(presses) else ()


def quick_schedule(presses: Pressed, team: Team) -> Schedule:
    """Return a schedule by one rule, which is there soon; of a job without work it is empty."""
    works = run_works(presses)
    phases = all_at_once(works)
    most = len(works) if phases else QUICK_IN_WORK
    slots = dispatch(works, team, rule="farthest", most_in_work=most, phases=phases)
    return Schedule(works, team, slots, 0)
