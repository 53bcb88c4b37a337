"""A run as the log keeps it: what was really done, garment by garment, beside what was planned."""

import datetime
from collections.abc import Iterator, Sequence

from zinnet.bench.press_run import PressRun
from zinnet.bench.timers import Moment
from zinnet.blanks.cloth_colours import colour_called
from zinnet.plan.press_cards import Card, Hand, hands_at
from zinnet.plan.presses import GarmentPress
from zinnet.pressing.hand_time import HandTime
from zinnet.pressing.heat_values import press_numbers
from zinnet.pressing.pace import usual_hands
from zinnet.pressing.steps import PressStep
from zinnet.workshop.run_made import GarmentMade, PressMade, Recut, RunMade

ONCE = {1: "once", 2: "twice"}
NOT_LEARNED = ("heat up", "care", "gate")
"""What these take says nothing of hands: the press warms up, somebody thinks."""


def record_of(run: PressRun, who: str = "", *, people: int = 1) -> RunMade:
    """Return the record of a run: what each garment took, who was at it, what paused, and what hands took.

    Where several people work at once, a card's time says nothing of hands, and nothing is learned from it.
    """
    now, cards = run.clock(), run.all_cards
    done = [card for card in cards if card.id in run.done]
    return RunMade(
        began=_iso(run.time.began or now),
        ended=_iso(run.time.ended or now),
        who=who,
        planned_s=round(sum(planned_s(card) for card in done), 1),
        real_s=round(sum(_real_s(run, card) for card in done), 1),
        elapsed_s=round(run.time.elapsed_s(now), 1),
        paused_s=round(run.time.all_paused_s, 1),
        garments=tuple(_garment(run, cards, number) for number in numbers_of(run)),
        hands=tuple(hand_times(run, done)) if people == 1 else (),
    )


def numbers_of(run: PressRun) -> tuple[int, ...]:
    """Return the garments of a run in the order of their cards."""
    due = [card.number for card in run.cards if not card.is_for_all]
    given_up = [number for number in run.spoiled if number not in due]
    return tuple(dict.fromkeys((*due, *given_up)))


def planned_s(card: Card) -> float:
    """Return how long hands and press are at a card by the plan, in s; what cools needs neither."""
    return sum(step.seconds * share for step, share in _shares(card) if step.place != "cooling")


def hand_times(run: PressRun, cards: Sequence[Card]) -> Iterator[HandTime]:
    """Yield what hands did with each card, in the order of the garments; what was passed over is left out.

    A press is loaded with its own card, and unloaded with the garment's next one: a card ends when the press opens.
    """
    hands = press_numbers().hands
    load = hands.load_s / (hands.load_s + hands.cover_s)
    inside: dict[int, PressStep] = {}
    for card in cards:
        done = run.done.get(card.id)
        if done is None or done.skipped or any(step.kind in NOT_LEARNED for step in card.steps):
            continue
        shares = [(step, load if step.heat is not None else share) for step, share in _shares(card)]
        opened = inside.pop(card.number, None)
        if opened is not None:
            shares.append((opened, 1 - load))
        if card.seconds:
            inside[card.number] = card.step
        usual = usual_hands(shares)
        if usual and done.hands_s > 0:
            rows = tuple((kind, round(seconds, 2)) for kind, seconds in sorted(usual.items()))
            yield HandTime(usual_s=rows, real_s=round(done.hands_s, 2))


def _shares(card: Card) -> list[tuple[PressStep, float]]:
    """Return the steps of a card, each with the share of it that is done with this card."""
    return [
        (card.press.steps[k], 1 / max(1, len(hands_at(card.press, k))) if card.press.steps[k].kind == "lay" else 1.0)
        for k in card.indices
    ]


def _real_s(run: PressRun, card: Card) -> float:
    done = run.done[card.id]
    return done.hands_s + (done.seconds or 0.0)


def _garment(run: PressRun, cards: Sequence[Card], number: int) -> GarmentMade:
    mine = [card for card in cards if card.is_of(number)]
    done = [card for card in mine if card.id in run.done]
    gone = run.spoiled.get(number)
    presses = [card for card in done if card.seconds and not run.done[card.id].skipped]
    again = next((more.like for more in run.added if more.number == number and more.again), None)
    return GarmentMade(
        number=number,
        name=mine[0].garment,
        colour=colour_called(mine[0].press.garment.blank.colour),
        presses=tuple(
            PressMade(
                title=card.step.title,
                planned_s=round(card.seconds, 1),
                real_s=round(run.done[card.id].seconds or 0.0, 1),
            )
            for card in presses
        ),
        planned_s=round(sum(planned_s(card) for card in done), 1),
        real_s=round(sum(_real_s(run, card) for card in done), 1),
        lifted=sum(run.done[card.id].lifted for card in done),
        skipped=tuple(card.title for card in done if run.done[card.id].skipped),
        spoiled="" if gone is None else gone.what,
        recut=() if gone is None else tuple(recut_of(mine[0].press, hand) for hand in gone.lost),
        again=again,
    )


def recut_of(press: GarmentPress, hand: Hand) -> Recut:
    """Return what has to be cut again for a piece."""
    work = next(work for work in press.works if any(piece.key == hand.piece for piece in work.pieces))
    piece = work.piece(hand.piece)
    left, top, right, bottom = piece.each[hand.place].bounds
    return Recut(
        film=piece.film.id, piece=piece.name, width_mm=round(right - left, 1), height_mm=round(bottom - top, 1)
    )


def in_words(record: RunMade) -> str:
    """Return what was really done, in a few words for the log."""
    rows = [
        f"{garment.name}: {one.title.lower()} {one.real_s:.0f} s of {one.planned_s:.0f} s"
        for garment in record.garments
        for one in garment.presses
    ]
    lifted = sum(garment.lifted for garment in record.garments)
    rows += [f"film lifted {ONCE.get(lifted, f'{lifted} times')}"] if lifted else []
    rows += [f"{garment.name} was lost: {garment.spoiled}" for garment in record.garments if garment.spoiled]
    return "; ".join(rows)


def lifted_films(run: PressRun) -> dict[str, int]:
    """Return how often each film came up with its carrier, on the garment where it did so most."""
    by_id = {card.id: card for card in run.all_cards}
    found: dict[str, int] = {}
    for done in run.done.values():
        card = by_id.get(done.card)
        pieces = [] if card is None else [piece for work in card.press.works for piece in work.pieces]
        for piece in pieces:
            if card is not None and done.lifted and piece.key in card.step.pieces:
                found[piece.film.id] = max(found.get(piece.film.id, 0), done.lifted)
    return found


def _iso(moment: Moment) -> str:
    at = datetime.datetime.fromtimestamp(moment.calendar_s, datetime.UTC).astimezone()
    return at.isoformat(timespec="seconds")
