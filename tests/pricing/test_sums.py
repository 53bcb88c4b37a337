"""The sums of a price: to the cent, shared fairly, nothing lost."""

from decimal import ROUND_HALF_UP, Decimal
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from zinnet.shop.sums import Item, Line, price
from zinnet.workshop.price_list import to_cent

amounts = st.integers(0, 500_000).map(lambda cents: Decimal(cents) / 100)


@st.composite
def orders(draw):
    counts = draw(st.lists(st.integers(1, 200), min_size=1, max_size=8))
    items = [
        Item("x", f"item {k}", "", draw(amounts), tuple(Fraction(draw(st.integers(0, 1000))) for _ in counts))
        for k in range(draw(st.integers(1, 10)))
    ]
    percents = st.integers(0, 2000).map(lambda tenths: Decimal(tenths) / 10)
    return items, [Line(f"line {k}", count) for k, count in enumerate(counts)], draw(percents), draw(percents)


@given(orders())
def test_the_shares_of_all_lines_are_the_cost_and_the_order_the_sum_of_its_lines(order):
    items, lines, mark_up, tax = order
    priced = price(items, lines, mark_up, tax)
    assert sum(one.cost * one.line.count for one in priced.lines) == Fraction(sum(item.amount for item in items))
    assert priced.cost == sum(item.amount for item in items)
    assert priced.net == sum(one.price * one.line.count for one in priced.lines)
    assert priced.gross == priced.net + (priced.net * tax / 100).quantize(Decimal("0.01"), ROUND_HALF_UP)
    garments = sum(line.count for line in lines)
    exact = priced.cost * (100 + mark_up) / 100
    assert abs(priced.net - exact) <= Decimal("0.005") * garments
    assert all(one.price == one.price.quantize(Decimal("0.01")) for one in priced.lines)


def test_half_a_cent_is_rounded_up():
    assert to_cent(Decimal("1.225")) == Decimal("1.23")
    assert to_cent(Decimal("1.2249")) == Decimal("1.22")


def test_an_item_without_weights_is_shared_equally():
    item = Item("x", "preparing", "", Decimal("9.00"), (Fraction(0), Fraction(0), Fraction(0)))
    lines = [Line("a", 1), Line("b", 1), Line("c", 1)]
    assert [one.price for one in price([item], lines, Decimal(0), Decimal(0)).lines] == [Decimal("3.00")] * 3
