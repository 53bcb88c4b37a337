"""The sums: what each thing costs, how it is shared among the garments, and the price of each of them.

Every item is rounded to the cent as it stands in the list, so that the list adds up to the cost. Prices of single
garments are rounded, and the order is the sum of them.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from fractions import Fraction

from zinnet.workshop.price_list import to_cent

HUNDRED = Decimal(100)


@dataclass(frozen=True)
class Item:
    """One thing that costs: what it is, how it was reckoned, to the cent; and each line's weight in sharing it."""

    kind: str
    name: str
    basis: str
    amount: Decimal
    weights: tuple[Fraction, ...]


@dataclass(frozen=True)
class Line:
    """So many equal garments."""

    name: str
    count: int


@dataclass(frozen=True)
class PricedLine:
    """Garments of a line with what one of them costs and is sold for, to the cent."""

    line: Line
    cost: Fraction
    price: Decimal

    @property
    def total(self) -> Decimal:
        """What all of them are sold for."""
        return self.price * self.line.count


@dataclass(frozen=True)
class Priced:
    """A job in money. ``net`` is before tax."""

    items: tuple[Item, ...]
    lines: tuple[PricedLine, ...]
    mark_up_percent: Decimal
    tax_percent: Decimal

    @property
    def cost(self) -> Decimal:
        """What it costs in all."""
        return sum((item.amount for item in self.items), Decimal(0))

    @property
    def net(self) -> Decimal:
        """What it is sold for."""
        return sum((line.total for line in self.lines), Decimal(0))

    @property
    def tax(self) -> Decimal:
        """The tax on it."""
        return to_cent(self.net * self.tax_percent / HUNDRED)

    @property
    def gross(self) -> Decimal:
        """What the customer pays."""
        return self.net + self.tax

    @property
    def profit(self) -> Decimal:
        """What is left of the price."""
        return self.net - self.cost

    def of_kind(self, kind: str) -> Decimal:
        """Return what all items of a kind cost."""
        return sum((item.amount for item in self.items if item.kind == kind), Decimal(0))


def price(items: Sequence[Item], lines: Sequence[Line], mark_up_percent: Decimal, tax_percent: Decimal) -> Priced:
    """Return the price of every line: its share of every item, the mark-up, rounded to the cent for one garment."""
    shares = [sum((_share(item, row) for item in items), Fraction(0)) for row in range(len(lines))]
    factor = Fraction(HUNDRED + mark_up_percent) / 100
    priced = []
    for line, share in zip(lines, shares, strict=True):
        cost = share / line.count
        exact = cost * factor
        priced.append(PricedLine(line, cost, to_cent(Decimal(exact.numerator) / Decimal(exact.denominator))))
    return Priced(tuple(items), tuple(priced), mark_up_percent, tax_percent)


def _share(item: Item, row: int) -> Fraction:
    """Return a line's share of an item, by weight; with no weight at all, equal shares."""
    whole = sum(item.weights, Fraction(0))
    weight = item.weights[row] / whole if whole else Fraction(1, len(item.weights))
    return Fraction(item.amount) * weight
