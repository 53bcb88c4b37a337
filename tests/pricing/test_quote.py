"""The quote and what would make a job cheaper, on plain numbers."""

from decimal import Decimal
from fractions import Fraction

import pytest
from pydantic import ValidationError

from tests.helpers import RED_AND_BLUE, document_of, nested, run_command
from tests.pricing.example import prices, ten_bags
from zinnet.job.edits import set_copies, set_price
from zinnet.job.file import load_job, save_job
from zinnet.job.price import PriceSpec
from zinnet.shop.costing import Costing
from zinnet.shop.quote import quote_json
from zinnet.shop.sums import Item, Line, price
from zinnet.workshop.price_list import decimals, usual_prices


def test_numbers_of_a_price_list_are_as_they_are_written():
    read = decimals({"a": 0.1, "b": {"c": 2.675}, "d": 3, "e": "EUR"})
    assert read == {"a": Decimal("0.1"), "b": {"c": Decimal("2.675")}, "d": 3, "e": "EUR"}


@pytest.mark.parametrize("fields", [{"hour": Decimal(-1)}, {"tax_percent": Decimal(1001)}, {"colour": 3}])
def test_a_price_that_can_not_be_is_refused(fields):
    with pytest.raises(ValidationError):
        PriceSpec(**fields)


def test_a_jobs_own_prices_are_saved_with_it_to_the_cent(tmp_path):
    document = document_of(RED_AND_BLUE, set_price("price", hour=Decimal("21.35"), tax_percent=Decimal("7.7")))
    save_job(tmp_path / "job.zinnet", document.job, {})
    assert load_job(tmp_path / "job.zinnet")[0].price == document.job.price


def test_profit_is_what_is_left_of_the_price():
    item = Item("film", "Cream", "", Decimal("10.00"), (Fraction(1),))
    priced = price([item], [Line("bag", 4)], Decimal(50), Decimal(20))
    assert (priced.net, priced.tax, priced.gross) == (Decimal("15.00"), Decimal("3.00"), Decimal("18.00"))
    assert priced.profit == Decimal("5.00")
    assert priced.of_kind("film") == Decimal("10.00")
    assert priced.of_kind("time") == 0


def test_a_price_of_a_third_of_a_cent_is_rounded_for_each_garment():
    item = Item("film", "Cream", "", Decimal("1.00"), (Fraction(1), Fraction(2)))
    priced = price([item], [Line("small", 1), Line("large", 1)], Decimal(0), Decimal(0))
    assert [one.price for one in priced.lines] == [Decimal("0.33"), Decimal("0.67")]
    assert priced.net == Decimal("1.00")


def test_every_saving_is_an_amount_and_says_for_whom():
    data = quote_json(Costing(nested(document_of(RED_AND_BLUE, set_copies(2))).plan, usual_prices()))
    assert data["cheaper"]
    for saving in data["cheaper"]:
        assert Decimal(saving["amount"]) > 0
        assert len(saving["what"]) > 15
    assert sum(one["each"] for one in data["cheaper"]) == 1


def test_the_lines_of_the_json_make_up_the_net_and_the_items_the_cost():
    data = quote_json(Costing(ten_bags().plan, prices()))
    assert Decimal(data["net"]) == sum(Decimal(line["total"]) for line in data["lines"])
    assert Decimal(data["cost"]) == sum(Decimal(item["amount"]) for item in data["items"])
    assert Decimal(data["profit"]) == Decimal(data["net"]) - Decimal(data["cost"])
    assert all(Decimal(line["total"]) == Decimal(line["price"]) * line["count"] for line in data["lines"])


@pytest.mark.long
def test_another_price_list_is_taken_by_its_name(tmp_path):
    save_job(tmp_path / "job.zinnet", document_of(RED_AND_BLUE).job, {})
    (tmp_path / "dear.toml").write_text("hour = 300.0\ncurrency = 'CHF'\n", encoding="utf-8")
    found = run_command("quote", tmp_path / "job.zinnet", "--prices", tmp_path / "dear.toml")
    assert found.returncode == 0, found.stderr
    assert "at 300.00 an hour" in found.stdout
    assert "CHF (prices: from dear.toml)" in found.stdout
