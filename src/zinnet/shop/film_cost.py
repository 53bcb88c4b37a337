"""What the film of a job costs: what is used up of it, at what that very film cost, else at its usual price."""

from dataclasses import dataclass
from decimal import Decimal

from zinnet.films.catalogue import Film
from zinnet.plan.ledger import FilmLedger, film_ledger
from zinnet.plan.model import Facts
from zinnet.workshop.price_list import PriceList, to_cent

MM2_OF_M2 = 1_000_000


@dataclass(frozen=True)
class FilmCost:
    """What one film of a job costs, and how that was reckoned, in words."""

    ledger: FilmLedger
    amount: Decimal
    basis: str


def film_costs(facts: Facts, prices: PriceList) -> tuple[FilmCost, ...]:
    """Return what each film of a job costs, in the order of its ledger."""
    return tuple(_cost(facts, ledger, prices) for ledger in film_ledger(facts).films)


def film_price_m2(film: Film, prices: PriceList) -> Decimal:
    """Return what a square metre of a film costs: as its own row says, else as films usually do."""
    return prices.film_m2 if film.price_m2 is None else Decimal(str(film.price_m2))


def _cost(facts: Facts, ledger: FilmLedger, prices: PriceList) -> FilmCost:
    film = next(nest.film for nest in facts.nests if nest.film.id == ledger.film)
    usual = film_price_m2(film, prices)
    amount = sum(
        (
            (usual if price is None else Decimal(str(price))) * Decimal(repr(float(area))) / MM2_OF_M2
            for price, area in ledger.used_up
        ),
        Decimal(0),
    )
    own = [price for price, _ in ledger.used_up if price is not None]
    each = f"at {usual:.2f} a m²" if not own else "at what it cost" if len(own) == len(ledger.used_up) else "by price"
    used, lost = ledger.used_up_mm2 / 100, ledger.lost_mm2 / 100
    return FilmCost(ledger, to_cent(amount), f"{used:.0f} cm² used up, {lost:.0f} cm² of it lost, {each}")


def not_whole(facts: Facts) -> str:
    """Return what is missing of a job that is not planned whole, in a sentence that comes first; else nothing.

    What is counted of it, film, time or money, is only what found room.
    """
    short = film_ledger(facts).short
    if not facts.is_nested:
        return "Not all of the job is nested yet: what follows counts only what is."
    if short:
        return (
            f"The job is not whole: {short} {'piece has' if short == 1 else 'pieces have'} found no room on the film. "
            "What follows counts only what is placed."
        )
    return ""
