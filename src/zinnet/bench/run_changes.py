"""What becomes of garments at the bench besides being pressed: one is given up, one is added."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from zinnet.plan.press_cards import Card, Hand


@dataclass(frozen=True)
class Spoiled:
    """A garment that was lost: what happened, and which pieces lay on it."""

    what: str
    lost: tuple[Hand, ...] = ()


@dataclass(frozen=True)
class Added:
    """A garment that was added at the bench: its number, like which it is made, and whether it is made for that one."""

    number: int
    like: int
    again: bool


def cards_of(more: Added, cards: Sequence[Card]) -> tuple[Card, ...]:
    """Return the cards of a garment that was added, made from those of the one that it is like."""
    mine = [card for card in cards if card.is_of(more.like)]
    name = f"{mine[0].garment}, {'again' if more.again else 'one more'}"
    return tuple(replace(card, number=more.number, garment=name) for card in mine)


def with_added(planned: Sequence[Card], added: Iterable[Added]) -> tuple[Card, ...]:
    """Return the cards of a plan with those of what was added."""
    found = list(planned)
    for more in added:
        found += cards_of(more, found)
    return tuple(found)
