"""Pressing at the bench: one card after another in the order of the schedule, with timers, and what was really done.

How far each run got is kept in the state folder, so that it goes on where it was after the program or the machine went
down, or after another job was pressed in between. Timers belong to their run, and ring whatever run is at the bench.
"""

import contextlib
from collections.abc import Sequence
from dataclasses import asdict, astuple, replace
from pathlib import Path

import platformdirs

from zinnet.bench.press_journal import (
    Done,
    done_of,
    keep_run,
    keep_seen,
    kept_runs,
    key_of,
    last_seen,
    row_of_slip,
    slip_key,
)
from zinnet.bench.run_changes import Added, Spoiled, cards_of, with_added
from zinnet.bench.run_clock import RunClock
from zinnet.bench.timers import (
    TIMERS,
    Clock,
    Timer,
    Timers,
    machine_clock,
)
from zinnet.placement.slips import Slip
from zinnet.plan.press_cards import Card, Hand
from zinnet.pressing.heat_values import press_numbers


class PressRun:
    """A run of pressing over time. It knows nothing of windows."""

    def __init__(
        self, cards: Sequence[Card], folder: Path | None = None, clock: Clock = machine_clock, presses: int = 1
    ) -> None:
        self.planned = self.cards = tuple(cards)
        self.presses = presses
        self.key = key_of(self.cards)
        self.clock = clock
        folder = folder or platformdirs.user_state_path("zinnet")
        self.path = folder / "pressing.json"
        self.timers = Timers(folder / TIMERS, clock)
        self._times = (RunClock(), RunClock())
        self.side = 0
        """Who is at it now: 0, or 1 for a second person, whose time runs by itself."""
        self.at = 0
        self.done: dict[str, Done] = {}
        self.spoiled: dict[int, Spoiled] = {}
        self.added: list[Added] = []
        self._slips: dict[str, Slip] = {}
        self._resume()

    @property
    def time(self) -> RunClock:
        """The time of whoever is at it now."""
        return self._times[self.side]

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

    def in_press(self) -> list[Timer]:
        """Return the timers of the presses that are shut and have not rung."""
        now = self.clock()
        return [timer for timer in self.own_timers if self.is_heating(timer) and timer.left_s(now) > 0]

    def is_heating(self, timer: Timer) -> bool:
        """Tell whether a timer is that of a press, not of what cools."""
        number, _, step = timer.id.rpartition("/")[2].partition(".")
        press = next((card.press for card in self.cards if str(card.number) == number), None)
        return press is not None and step.isdigit() and press.steps[int(step)].heat is not None

    def blocked_by(self, card: Card) -> Timer | None:
        """Return the timer that a card has to wait for: of its own garment, or of the one in the only press left."""
        awaited = self.awaited(card)
        if awaited is not None or not card.seconds or self.timer(card) is not None:
            return awaited
        shut = self.in_press()
        return shut[0] if len(shut) >= self.presses else None

    def go_on(self) -> bool:
        """Do what the space bar asks for: start the card's timer, or end it when it rang, and go on.

        Returns whether anything was done: a card that waits for a timer stays, and so does one that can't be taken
        back, until it is confirmed.
        """
        card = self.card
        if card is None or self.blocked_by(card) is not None or card.step.gate:
            return False
        timer = self.timer(card)
        self.time.start(self.clock())
        if card.step.kind in ("press", "preheat") and card.seconds:
            if timer is None:
                self.time.go_on(self.clock())
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

    def opened(self) -> None:
        """Follow the press that was opened: the card that heats is done, or what was preheated is ready."""
        card = self.card
        shut = self.in_press()
        if card is not None and self.timer(card) is not None:
            self.end_early()
        elif shut:
            self._note(shut[0].id.partition("/")[2], seconds=self.timers.stop(shut[0].id))
            self._write()

    def skip(self) -> None:
        """Pass over the card that is due: it is not done. What can't be taken back is not passed like this."""
        card = self.card
        if card is not None and not card.step.gate:
            self.timers.stop(self.timer_id(card))
            self._step_on(card)
            self._note(card.id, skipped=True)
            self._write()

    def _finish(self, card: Card) -> None:
        """Take the timers of the garment up to this card away, note how long they ran, and go on to the next card.

        What cools needs nobody: its timer is started, and the card after it is due.
        """
        now = self.clock()
        timer, earlier = self.timer(card), self._earlier(card)
        heated = 0.0 if timer is None else min(timer.gone_s(now), timer.seconds)
        rang_s = min((-one.left_s(now) for one in earlier), default=None)
        self._note(card.id, seconds=self.timers.stop(self.timer_id(card)))
        for one in earlier:
            gone = self.timers.stop(one.id) or 0.0
            self._note(one.id.partition("/")[2], seconds=min(gone, one.seconds))
        self._step_on(card, heated_s=heated, rang_s=rang_s)
        self._write()

    def _step_on(self, card: Card, *, heated_s: float = 0.0, rang_s: float | None = None) -> None:
        """Go on to the next card; a bare garment that is preheated is awaited by the card after it.

        ``heated_s`` of the time the press was at it by itself, and what the card waited for rang ``rang_s`` ago.
        """
        spent = self.time.lap(self.clock())
        waited = 0.0 if rang_s is None else max(0.0, spent - max(0.0, rang_s))
        before = self.done.get(card.id, Done(card.id))
        hands = max(0.0, spent - waited - heated_s)
        self._note(card.id, spent_s=before.spent_s + spent, hands_s=before.hands_s + hands, skipped=False)
        self.at += 1
        for wait in card.waits:
            step = card.press.steps[wait]
            said, known = f"{card.number}.{wait}", f"{self.key}/{card.number}.{wait}"
            if step.seconds:
                self.timers.start(known, f"{card.garment}: {step.title}", step.seconds)
            self.done.setdefault(said, Done(said))
        if self.is_over:
            self._times[0].ended = self.clock()

    def _earlier(self, card: Card) -> list[Timer]:
        """Return the timers of earlier steps of the same garment."""
        found = []
        for timer in self.timers_of(card.number):
            step = timer.id.rpartition(".")[2]
            if step.isdigit() and int(step) < card.step_index:
                found.append(timer)
        return found

    def timers_of(self, number: int) -> list[Timer]:
        """Return the timers of a garment."""
        return [timer for timer in self.own_timers if timer.id.startswith(f"{self.key}/{number}.")]

    def _note(self, card_id: str, **fields: object) -> None:
        self.done[card_id] = replace(self.done.get(card_id, Done(card_id)), **fields)  # type: ignore[arg-type]

    def back(self) -> None:
        """Look at the card before."""
        if self.at > 0:
            self.at -= 1
            self._write()

    def lifts(self) -> None:
        """Film lifts with its carrier: press it again for a little."""
        card = self.card
        if card is not None and card.step.kind == "peel":
            self.timers.start(
                f"{self.timer_id(card)}-again", f"{card.garment}: press again", press_numbers().times.lifts_s
            )
            self._note(card.id, lifted=self.done.get(card.id, Done(card.id)).lifted + 1)
            self._write()

    def slipped(self, card: Card, slip: Slip) -> None:
        """Note where the piece of a card really lies; what is laid on its garment after it follows."""
        if card.hand is not None:
            self._slips[slip_key(card.number, card.hand)] = slip
            self._write()

    def slips_of(self, card: Card) -> dict[Hand, Slip]:
        """Return how the pieces of a card's garment lie that were measured, but for the card's own."""
        hands = {one.hand for one in self.cards if one.number == card.number and one.hand not in (None, card.hand)}
        keys = {hand: slip_key(card.number, hand) for hand in hands if hand is not None}
        return {hand: self._slips[key] for hand, key in keys.items() if key in self._slips}

    def longer(self, seconds: float) -> None:
        """Let the timer of the card that is due run longer, or the one that it waits for."""
        card = self.card
        timer = None if card is None else self.timer(card) or self.awaited(card)
        if timer is not None:
            self.timers.add(timer.id, seconds)

    def pause(self) -> bool:
        """Stop the time of the run and of all its timers, or let it go on; return whether it stands now."""
        running = [timer for timer in self.own_timers if timer.since is not None]
        stands = bool(running) if self.own_timers else not self.time.stands
        for timer in running if stands else self.own_timers:
            self.timers.pause(timer.id)
        for time in self._times:
            if stands:
                time.stop(self.clock())
            else:
                time.go_on(self.clock())
        self._write()
        return stands

    def come(self) -> None:
        """Begin the run, or come back to it: the time away is a pause, but for that in which a timer ran."""
        now, seen = self.clock(), last_seen(self._seen_path, self.key)
        for time in self._times:
            if seen is not None and time.began is not None and not time.stands:
                time.was_away(seen, now, self.own_timers)
            time.start(now)
        self.stay()
        self._write()

    def stay(self) -> None:
        """Note that somebody is at the bench now."""
        keep_seen(self._seen_path, self.key, self.clock())

    @property
    def _seen_path(self) -> Path:
        return self.path.with_name("pressing-seen.json")

    # garments

    def spoil(self, number: int, what: str, *, again: bool) -> None:
        """Give a garment up: what is left of it is not done, and it is made once more where that is asked for."""
        here, lost = self.at, self.lost_of(number)
        due = self.card
        if due is not None and due.number == number and not due.is_for_all:
            self._note(due.id, seconds=self.timers.stop(self.timer_id(due)), spent_s=self.time.lap(self.clock()))
        for timer in self.timers_of(number):
            self.timers.stop(timer.id)
        kept = [card for card in self.cards[here:] if card.number != number or card.is_for_all]
        self.cards = (*self.cards[:here], *kept)
        self.spoiled[number] = Spoiled(what, lost)
        if again:
            self.add(number, again=True)
        self._write()

    def add(self, like: int, *, again: bool = False) -> int:
        """Add a garment that is made like another, and return its number."""
        cards = self.all_cards
        more = Added(max(card.number for card in cards) + 1, like, again)
        self.added.append(more)
        before_care = [card for card in self.cards if card.step.kind != "care"]
        care = [card for card in self.cards if card.step.kind == "care"]
        self.cards = (*before_care, *cards_of(more, cards), *care)
        self._write()
        return more.number

    @property
    def all_cards(self) -> tuple[Card, ...]:
        """The cards of the plan and of what was added, also of what was given up."""
        return with_added(self.planned, self.added)

    def lost_of(self, number: int) -> tuple[Hand, ...]:
        """Return the pieces that lie on a garment, or under the press: they are lost with it."""
        laid = [card for card in self.cards[: self.at] if card.number == number and card.hand is not None]
        due = self.card
        if due is not None and due.number == number and due.hand is not None and self.timer(due) is not None:
            laid.append(due)
        return tuple(card.hand for card in laid if card.hand is not None and not self._is_skipped(card))

    def _is_skipped(self, card: Card) -> bool:
        return card.id in self.done and self.done[card.id].skipped

    def dismiss(self) -> None:
        """Take away timers that rang and that nothing waits for."""
        now = self.clock()
        for timer in self.timers.all:
            if timer.left_s(now) <= 0 and timer.id.endswith("-again"):
                self.timers.stop(timer.id)

    def begin_anew(self) -> None:
        """Forget how far it got."""
        self.at = 0
        self.cards = self.planned
        self.done.clear()
        self._slips.clear()
        self.spoiled.clear()
        self.added.clear()
        self._times, self.side = (RunClock(), RunClock()), 0
        for timer in self.own_timers:
            self.timers.stop(timer.id)
        self._write()

    def _timer_name(self, card: Card) -> str:
        return f"{card.garment}: {card.step.title}"

    def _write(self) -> None:
        row = {
            "at": self.at,
            "order": [card.id for card in self.cards],
            "done": [list(astuple(done)) for done in self.done.values()],
            "slips": {key: row_of_slip(slip) for key, slip in self._slips.items()},
            "times": [time.row() for time in self._times],
            "spoiled": {str(number): asdict(one) for number, one in self.spoiled.items()},
            "added": [list(astuple(one)) for one in self.added],
        }
        keep_run(self.path, self.key, row)

    def _resume(self) -> None:
        """Take up a run that was broken off, where it was about the very same cards."""
        with contextlib.suppress(ValueError, KeyError, TypeError, IndexError, AttributeError):
            row = kept_runs(self.path)[self.key]
            added = [Added(int(number), int(like), bool(again)) for number, like, again in row["added"]]
            spoiled = {
                int(number): Spoiled(str(one["what"]), tuple(Hand(**hand) for hand in one["lost"]))
                for number, one in row["spoiled"].items()
            }
            by_id = {card.id: card for card in with_added(self.planned, added)}
            cards = tuple(by_id[str(one)] for one in row["order"])
            done = {str(one[0]): done_of(one) for one in row["done"]}
            mine, theirs = (RunClock.of(one) for one in row["times"])
            at = min(max(int(row["at"]), 0), len(cards))
            slips = {str(key): Slip(*map(float, one)) for key, one in row["slips"].items()}
            self.cards, self.done, self.at, self._times = cards, done, at, (mine, theirs)
            self.added, self.spoiled, self._slips = added, spoiled, slips
