"""The order of what is still to press: planned anew from where one is, two garments swapped, one put aside."""

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

from zinnet.bench.press_run import PressRun
from zinnet.blanks.cloth_colours import colour_called
from zinnet.plan.press_cards import Card
from zinnet.pressing.schedule.model import GarmentWork, Need, Schedule, Task
from zinnet.pressing.schedule.tasks import tasks_of


def swapped(run: PressRun, one: int, other: int) -> tuple[Card, ...]:
    """Return the cards to come with those of two garments in the place of one another."""
    to_come = run.cards[run.at :]
    mine = {number: [card for card in to_come if card.is_of(number)] for number in (one, other)}
    found: list[Card] = []
    for card in to_come:
        if not (card.is_of(one) or card.is_of(other)):
            found.append(card)
            continue
        first, second = (other, one) if card.number == one else (one, other)
        found.append((mine[first] or mine[second]).pop(0))
    return tuple(found)


def put_aside(run: PressRun, number: int) -> tuple[Card, ...]:
    """Return the cards to come with those of a garment after all others."""
    return _last(run.cards[run.at :], lambda card: card.is_of(number))


def taken_first(run: PressRun, number: int) -> tuple[Card, ...]:
    """Return the cards to come with those of a garment before all others that are not for the whole run."""
    return _last(run.cards[run.at :], lambda card: not card.is_of(number) and not card.step.once)


def _last(cards: Sequence[Card], is_last: Callable[[Card], bool]) -> tuple[Card, ...]:
    care = [card for card in cards if card.step.kind == "care"]
    rest = [card for card in cards if card.step.kind != "care"]
    return (*(card for card in rest if not is_last(card)), *(card for card in rest if is_last(card)), *care)


def works_left(run: PressRun) -> tuple[GarmentWork, ...]:
    """Return the work that is left of a run: of each garment the cards to come, after what still cools."""
    now = run.clock()
    found = []
    for number in dict.fromkeys(card.number for card in run.cards[run.at :]):
        mine = [card for card in run.cards[run.at :] if card.number == number and not card.step.once]
        steps = [step for card in mine for step in card.own_steps if step.kind != "care"]
        if not steps:
            continue
        tasks = tasks_of(steps)
        timer = run.awaited(mine[0])
        if timer is not None:
            left = math.ceil(timer.left_s(now))
            tasks = (Task(timer.name, left, (Need("cooling", 0, left),)), *tasks)
        found.append(GarmentWork(str(number), number, tasks))
    return tuple(found)


def cards_left(run: PressRun, schedule: Schedule) -> tuple[Card, ...]:
    """Return the cards to come in the order of a schedule of the work that is left."""
    to_come = run.cards[run.at :]
    mine: dict[str, list[Card]] = {}
    for card in to_come:
        if not card.step.once and card.step.kind != "care":
            mine.setdefault(str(card.number), []).append(card)
    found = [card for card in to_come if card.step.once]
    for slot in sorted(schedule.slots, key=lambda one: (one.start, one.garment)):
        first, last = schedule.task(slot).steps
        cards = mine[schedule.works[slot.garment].name]
        owners = [card for card in cards for _ in card.own_steps]
        found += owners[first:last]
    ordered = dict.fromkeys(found)
    missed = (card for cards in mine.values() for card in cards if card not in ordered)
    return (*ordered, *missed, *(card for card in to_come if card.step.kind == "care"))


def card_beside(run: PressRun) -> Card | None:
    """Return the card that a second person can do while the card that is due is done.

    It is the next one of another garment that waits for nothing, and for which a press is free.
    """
    due = run.card
    if due is None or due.is_for_all:
        return None
    seen = {due.number}
    wanted = int(due.seconds > 0 and run.timer(due) is None)
    for card in run.cards[run.at + 1 :]:
        if card.is_for_all or card.number in seen:
            continue
        seen.add(card.number)
        has_press = not card.seconds or run.timer(card) is not None or len(run.in_press()) + wanted < run.presses
        if has_press and run.blocked_by(card) is None:
            return card
    return None


def keep_sides(run: PressRun, beside: Card | None) -> None:
    """Let the second person keep a card: where it became due for the first, another one takes its place."""
    if beside is None or run.card is not beside:
        return
    other = card_beside(run)
    if other is not None:
        run.take_order((other, *(card for card in run.cards[run.at :] if card is not other)))


def do_beside(run: PressRun, card: Card) -> bool:
    """Let the second person go on with a card; return whether anything was done. The card that is due stays so."""
    rest = [one for one in run.cards[run.at :] if one is not card]
    due = run.card
    run.side = 1
    try:
        run.take_order((card, *rest))
        did = run.confirm() if card.step.gate else run.go_on()
        if run.card is not due:
            to_come = list(run.cards[run.at :])
            run.take_order(sorted(to_come, key=lambda one: one is not due))
    finally:
        run.side = 0
    return did


@dataclass(frozen=True)
class GarmentState:
    """A garment of a run: whose it is, and how many of its cards are done. ``lost`` says what happened to it."""

    number: int
    name: str
    cloth: str
    done: int
    cards: int
    lost: str = ""

    @property
    def state(self) -> str:
        """How far it is, in words."""
        if self.lost:
            return f"lost: {self.lost}"
        if self.done >= self.cards:
            return "done"
        return f"in work, {self.done} of {self.cards} cards" if self.done else "to come"


def garments_of(run: PressRun) -> tuple[GarmentState, ...]:
    """Return the garments of a run in the order in which they are done: by their next card, what is done first."""
    at = {card.id: place for place, card in enumerate(run.cards)}
    found = []
    for number in dict.fromkeys(card.number for card in run.all_cards if not card.is_for_all):
        mine = [card for card in run.all_cards if card.is_of(number)]
        places = [at[card.id] for card in mine if card.id in at]
        done = sum(place < run.at for place in places)
        upcoming = min((place for place in places if place >= run.at), default=-1)
        gone = run.spoiled.get(number)
        cloth = colour_called(mine[0].press.garment.blank.colour)
        lost = "" if gone is None else gone.what
        found.append((upcoming, GarmentState(number, mine[0].garment, cloth, done, len(mine), lost)))
    return tuple(state for _, state in sorted(found, key=lambda row: row[0]))
