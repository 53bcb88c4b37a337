"""Pressing at the bench: one card after another in the order of the schedule, with timers, and what was really done.

How far each run got is kept in the state folder, so that it goes on where it was after the program or the machine went
down, or after another job was pressed in between. Timers belong to their run, and ring whatever run is at the bench.
"""

import contextlib
import hashlib
import json
import math
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import platformdirs

from zinnet.base.errors import ZinnetError
from zinnet.base.files import read_file, write_whole
from zinnet.base.json_file import read_json
from zinnet.base.locks import held
from zinnet.bench.timers import (
    TIMERS,
    Clock,
    Timer,
    Timers,
    machine_clock,
)
from zinnet.placement.slips import Slip
from zinnet.plan.press_cards import Card, Hand
from zinnet.pressing.cooling import temperature_after
from zinnet.pressing.heat_values import press_numbers
from zinnet.pressing.schedule.model import GarmentWork, Need, Schedule, Task
from zinnet.pressing.schedule.tasks import tasks_of

MOST_BYTES = 5_000_000
MOST_RUNS = 20
ONCE = {1: "once", 2: "twice"}
"""So many runs are kept; the one that was not gone on with longest is forgotten first."""


@dataclass(frozen=True)
class Done:
    """What was really done: which card, how long it took by its timer, and how often film lifted."""

    card: str
    seconds: float | None = None
    lifted: int = 0


class PressRun:
    """A run of pressing over time. It knows nothing of windows."""

    def __init__(self, cards: Sequence[Card], folder: Path | None = None, clock: Clock = machine_clock) -> None:
        self.cards = tuple(cards)
        self.key = _key_of(self.cards)
        self.clock = clock
        folder = folder or platformdirs.user_state_path("zinnet")
        self.path = folder / "pressing.json"
        self.timers = Timers(folder / TIMERS, clock)
        self.at = 0
        self.done: dict[str, Done] = {}
        self._lifted: dict[str, int] = {}
        self._slips: dict[str, Slip] = {}
        self._resume()

    @property
    def card(self) -> Card | None:
        """The card that is due, or None when all is done."""
        return self.cards[self.at] if self.at < len(self.cards) else None

    @property
    def following(self) -> Card | None:
        """The card after it."""
        return self.cards[self.at + 1] if self.at + 1 < len(self.cards) else None

    @property
    def is_over(self) -> bool:
        """Whether all cards are done."""
        return bool(self.cards) and self.at >= len(self.cards)

    def timer(self, card: Card) -> Timer | None:
        """Return the timer of a card, where it runs."""
        return self.timers.get(self.timer_id(card))

    def timer_id(self, card: Card) -> str:
        """Return by what the timer of a card is known among those of all runs."""
        return f"{self.key}/{card.id}"

    @property
    def own_timers(self) -> tuple[Timer, ...]:
        """The timers of this run, the one that rings first first."""
        return tuple(timer for timer in self.timers.all if timer.id.startswith(f"{self.key}/"))

    def awaited(self, card: Card) -> Timer | None:
        """Return the timer that a card has to wait for: the one of the same garment that has not rung."""
        now = self.clock()
        return next((timer for timer in self._earlier(card) if timer.left_s(now) > 0), None)

    def is_heating(self, card: Card, timer: Timer) -> bool:
        """Tell whether a timer of a card's garment is that of a press, not of what cools."""
        step = timer.id.rpartition(".")[2]
        return step.isdigit() and card.press.steps[int(step)].heat is not None

    def go_on(self) -> bool:
        """Do what the space bar asks for: start the card's timer, or end it when it rang, and go on.

        Returns whether anything was done: a card that waits for a timer stays, and so does one that can't be taken
        back, until it is confirmed.
        """
        card = self.card
        if card is None or self.awaited(card) is not None or card.step.gate:
            return False
        timer = self.timer(card)
        if card.step.kind in ("press", "preheat") and card.seconds:
            if timer is None:
                self.timers.start(self.timer_id(card), self._timer_name(card), card.seconds)
                if card.step.kind == "preheat":
                    self._step_on(card)
                self._write()
                return True
            if timer.left_s(self.clock()) > 0:
                return False
        self._finish(card)
        return True

    def confirm(self) -> bool:
        """Confirm what can't be taken back, and go on; return whether such a card was due."""
        card = self.card
        if card is None or not card.step.gate or self.awaited(card) is not None:
            return False
        self._finish(card)
        return True

    def take_order(self, to_come: Sequence[Card]) -> None:
        """Take another order of the cards to come; one that is not about the same cards is left."""
        if sorted(card.id for card in to_come) == sorted(card.id for card in self.cards[self.at :]):
            self.cards = (*self.cards[: self.at], *to_come)
            self._write()

    def end_early(self) -> None:
        """End the card that is due whatever its timer says: the press was opened, or it is cool enough.

        What can't be taken back is not passed like this.
        """
        if self.card is not None and not self.card.step.gate:
            self._finish(self.card)

    def _finish(self, card: Card) -> None:
        """Take the timers of the garment up to this card away, note how long they ran, and go on to the next card.

        What cools needs nobody: its timer is started, and the card after it is due.
        """
        self._note(card.id, self.timers.stop(self.timer_id(card)))
        for timer in self._earlier(card):
            self._note(timer.id.partition("/")[2], self.timers.stop(timer.id))
        self._step_on(card)
        self._write()

    def _step_on(self, card: Card) -> None:
        """Go on to the next card; a bare garment that is preheated is awaited by the card after it."""
        self.done.setdefault(card.id, Done(card.id))
        self.at += 1
        for wait in card.waits:
            step = card.press.steps[wait]
            said, known = f"{card.number}.{wait}", f"{self.key}/{card.number}.{wait}"
            if step.seconds:
                self.timers.start(known, f"{card.garment}: {step.title}", step.seconds)
            self.done.setdefault(said, Done(said))

    def _earlier(self, card: Card) -> list[Timer]:
        """Return the timers of earlier steps of the same garment."""
        found = []
        for timer in self.own_timers:
            number, _, step = timer.id.partition("/")[2].partition(".")
            if number == str(card.number) and step.isdigit() and int(step) < card.step_index:
                found.append(timer)
        return found

    def _note(self, card_id: str, seconds: float | None) -> None:
        self.done[card_id] = Done(card_id, seconds, self._lifted.get(card_id, 0))

    def back(self) -> None:
        """Look at the card before."""
        if self.at > 0:
            self.at -= 1
            self._write()

    def lifts(self) -> None:
        """Film lifts with its carrier: press it again for a little."""
        card = self.card
        if card is not None and card.step.kind == "peel":
            self._lifted[card.id] = self._lifted.get(card.id, 0) + 1
            self.timers.start(
                f"{self.timer_id(card)}-again", f"{card.garment}: press again", press_numbers().times.lifts_s
            )
            self._note(card.id, None)
            self._write()

    def slipped(self, card: Card, slip: Slip) -> None:
        """Note where the piece of a card really lies; what is laid on its garment after it follows."""
        if card.hand is not None:
            self._slips[_slip_key(card.number, card.hand)] = slip
            self._write()

    def slips_of(self, card: Card) -> dict[Hand, Slip]:
        """Return how the pieces of a card's garment lie that were measured, but for the card's own."""
        hands = {one.hand for one in self.cards if one.number == card.number and one.hand not in (None, card.hand)}
        keys = {hand: _slip_key(card.number, hand) for hand in hands if hand is not None}
        return {hand: self._slips[key] for hand, key in keys.items() if key in self._slips}

    def longer(self, seconds: float) -> None:
        """Let the timer of the card that is due run longer, or the one that it waits for."""
        card = self.card
        timer = None if card is None else self.timer(card) or self.awaited(card)
        if timer is not None:
            self.timers.add(timer.id, seconds)

    def pause(self) -> bool:
        """Stop the time of all timers of the run, or let it go on; return whether it stands now."""
        running = [timer for timer in self.own_timers if timer.since is not None]
        for timer in running or self.own_timers:
            self.timers.pause(timer.id)
        return bool(running)

    def dismiss(self) -> None:
        """Take away timers that rang and that nothing waits for."""
        now = self.clock()
        for timer in self.timers.all:
            if timer.left_s(now) <= 0 and timer.id.endswith("-again"):
                self.timers.stop(timer.id)

    def cooled_c(self, card: Card) -> float | None:
        """Return how hot a garment is about now that cools, by an estimate, in degC."""
        waiting = next(
            (k for k in range(card.step_index, -1, -1) if card.press.steps[k].kind in ("wait", "cool")), None
        )
        if waiting is None:
            return None
        heats = [step.heat for step in card.press.steps[:waiting] if step.heat is not None]
        timer = self.timers.get(f"{self.key}/{card.number}.{waiting}")
        if timer is None or not heats or heats[-1].heat_c is None:
            return None
        work = card.press.works[0]
        return temperature_after(heats[-1].heat_c, timer.gone_s(self.clock()), cold_plate=work.spec.cold_plate)

    def begin_anew(self) -> None:
        """Forget how far it got."""
        self.at = 0
        self.done.clear()
        self._lifted.clear()
        self._slips.clear()
        for timer in self.own_timers:
            self.timers.stop(timer.id)
        self._write()

    def in_words(self) -> str:
        """Return what was really done, in a few words for the log."""
        by_id = {card.id: card for card in self.cards}
        rows = []
        for done in self.done.values():
            card = by_id.get(done.card)
            if card is None or card.step.heat is None or done.seconds is None:
                continue
            rows.append(f"{card.garment}: {card.step.title.lower()} {done.seconds:.0f} s of {card.seconds:.0f} s")
        lifted = sum(done.lifted for done in self.done.values())
        rows += [f"film lifted {ONCE.get(lifted, f'{lifted} times')}"] if lifted else []
        return "; ".join(rows)

    def lifted_films(self) -> dict[str, int]:
        """Return how often each film came up with its carrier, on the garment where it did so most."""
        by_id = {card.id: card for card in self.cards}
        found: dict[str, int] = {}
        for done in self.done.values():
            card = by_id.get(done.card)
            pieces = [] if card is None else [piece for work in card.press.works for piece in work.pieces]
            for piece in pieces:
                if card is not None and done.lifted and piece.key in card.step.pieces:
                    found[piece.film.id] = max(found.get(piece.film.id, 0), done.lifted)
        return found

    def _timer_name(self, card: Card) -> str:
        return f"{card.garment}: {card.step.title}"

    def _write(self) -> None:
        row = {
            "at": self.at,
            "order": [card.id for card in self.cards],
            "done": [[done.card, done.seconds, done.lifted] for done in self.done.values()],
            "slips": {key: [slip.right_mm, slip.down_mm, slip.turn_deg] for key, slip in self._slips.items()},
        }
        with held(self.path.with_suffix(".lock")):
            others = [(key, kept) for key, kept in _kept_runs(self.path).items() if key != self.key]
            write_whole(self.path, json.dumps(dict([*others[-MOST_RUNS + 1 :], (self.key, row)])).encode())

    def _resume(self) -> None:
        """Take up a run that was broken off, where it was about the very same cards."""
        with contextlib.suppress(ValueError, KeyError, TypeError, IndexError):
            row = _kept_runs(self.path)[self.key]
            by_id = {card.id: card for card in self.cards}
            cards = tuple(by_id[str(one)] for one in row["order"])
            done = {str(one[0]): Done(str(one[0]), one[1], int(one[2])) for one in row["done"]}
            self.at = min(max(int(row["at"]), 0), len(self.cards))
            self.cards, self.done = cards, done
            self._lifted = {one.card: one.lifted for one in done.values() if one.lifted}
            self._slips = {str(key): Slip(*map(float, one)) for key, one in row.get("slips", {}).items()}


def _slip_key(number: int, hand: Hand) -> str:
    return f"{number}/{hand.piece}/{hand.place}"


def _key_of(cards: Sequence[Card]) -> str:
    """Return what a kept run is about, in whatever order: other cards are another run."""
    said = sorted(f"{card.id} {card.garment} {card.step.title} {card.step.seconds:.0f}" for card in cards)
    return hashlib.sha256("|".join(said).encode()).hexdigest()[:20]


def _kept_runs(path: Path) -> dict[str, Any]:
    """Return how far each run got, the latest last; a file that can't be read is as if there was none."""
    try:
        rows = read_json(read_file(path, MOST_BYTES), path.name, most_values=MOST_BYTES)
    except ZinnetError:
        return {}
    return rows if isinstance(rows, dict) else {}


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
