"""The quote: what the customer pays, as a table; and what would make the job cheaper."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from decimal import Decimal
from fractions import Fraction
from typing import Any

from zinnet.base.csv_text import written_csv
from zinnet.shop.costing import Costing
from zinnet.shop.sums import Item, Line, price
from zinnet.workshop.price_list import to_cent

HEAD = ("what", "count", "price", "total")
ONCE = ("Preparing",)
"""What costs the same for however many garments."""


@dataclass(frozen=True)
class Saving:
    """Something that makes a job cheaper: what, and by how much in all, or for each garment."""

    said: str
    amount: Decimal
    each: bool = False


def savings(costing: Costing) -> tuple[Saving, ...]:
    """Return what would make the job cheaper, the most first."""
    found = [one for one in (*_of_material(costing), *_of_numbers(costing)) if one.amount > 0]
    return tuple(sorted(found, key=lambda one: -one.amount))


def _of_material(costing: Costing) -> Iterator[Saving]:
    for cost in costing.films:
        ledger = cost.ledger
        if ledger.used_up_mm2 <= 0:
            continue
        amount = to_cent(cost.amount * Decimal(repr(float(ledger.lost_mm2 / ledger.used_up_mm2))))
        yield Saving(f"{ledger.name}: film that is thrown away; nest longer, turn pieces, or keep what is left", amount)
    misprints = costing.priced.of_kind("misprints")
    yield Saving("half as many misprints: a test cut and a test press for each new film", to_cent(misprints / 2))


def _of_numbers(costing: Costing) -> Iterator[Saving]:
    """Twice as many garments share what costs the same for any number."""
    priced = costing.priced
    twice = [item if item.name in ONCE else replace(item, amount=item.amount * 2) for item in priced.items]
    lines = tuple(Line(line.name, 2 * line.count) for line in costing.lines)
    more = price(_weighted(twice), lines, priced.mark_up_percent, priced.tax_percent)
    count = sum(line.count for line in lines)
    each = to_cent(priced.net / (count // 2) - more.net / count)
    yield Saving(f"{count} garments instead of {count // 2}, for each of them", each, each=True)


def _weighted(items: list[Item]) -> tuple[Item, ...]:
    return tuple(replace(item, weights=tuple(Fraction(2) * weight for weight in item.weights)) for item in items)


def quote_csv(costing: Costing) -> str:
    """Return the quote as CSV: a line for each kind of garment, then net, tax and gross."""
    priced = costing.priced
    lines = [(one.line.name, one.line.count, one.price, one.total, "") for one in priced.lines]
    sums = (("net", priced.net), (f"tax {priced.tax_percent:f} %", priced.tax), ("gross", priced.gross))
    warned = [(costing.not_whole, "", "", "", "")] if costing.not_whole else []
    return written_csv(
        [*warned, (*HEAD, costing.prices.currency), *lines, *((name, "", "", amount, "") for name, amount in sums)]
    )


def quote_json(costing: Costing) -> dict[str, Any]:
    """Return cost and price as JSON; amounts are strings, exact to the cent."""
    priced = costing.priced
    return {
        "title": costing.facts.job.title,
        "not_whole": costing.not_whole,
        "currency": costing.prices.currency,
        "prices": costing.prices.source,
        "items": [
            {"kind": item.kind, "name": item.name, "basis": item.basis, "amount": str(item.amount)}
            for item in priced.items
        ],
        "cost": str(priced.cost),
        "mark_up_percent": str(priced.mark_up_percent),
        "lines": [
            {
                "name": one.line.name,
                "count": one.line.count,
                "cost": str(to_cent(Decimal(one.cost.numerator) / Decimal(one.cost.denominator))),
                "price": str(one.price),
                "total": str(one.total),
            }
            for one in priced.lines
        ],
        "net": str(priced.net),
        "tax_percent": str(priced.tax_percent),
        "tax": str(priced.tax),
        "gross": str(priced.gross),
        "profit": str(priced.profit),
        "cheaper": [{"what": one.said, "amount": str(one.amount), "each": one.each} for one in savings(costing)],
    }
