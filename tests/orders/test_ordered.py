"""Orders: counts by size and colour, what is there, what is to be bought, and the calendar."""

import csv
import datetime
import io
import json
from decimal import Decimal

import pypdfium2
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.helpers import RED_AND_BLUE, document_of, nested, run_command
from zinnet.base.errors import ZinnetError
from zinnet.base.frozen import with_fields
from zinnet.bench.document import Document
from zinnet.job.edits import (
    Edit,
    set_copies,
    set_nesting,
    set_order,
    set_order_lines,
    set_placement,
    set_pressing,
)
from zinnet.job.order import OrderLine
from zinnet.job.order_csv import read_order_csv
from zinnet.output.papers.shopping_list import shopping_csv
from zinnet.plan.ledger import film_ledger
from zinnet.shop.costing import Costing
from zinnet.shop.ordered import Ordered, needs_table
from zinnet.workshop.blank_stock import BlankItem, BlankStock
from zinnet.workshop.price_list import usual_prices
from zinnet.workshop.stock import StockItem
from zinnet.workshop.store import WorkshopStore

pytestmark = pytest.mark.usefixtures("nests_here")

NAVY, SAND = "#1f2a44", "#d8c7a3"
TODAY = datetime.date(2026, 11, 2)
LINES = (
    OrderLine(size="adult-m", colour=NAVY, name="navy", count=3),
    OrderLine(size="adult-m", colour=SAND, name="sand", count=2),
    OrderLine(size="youth-m", colour=NAVY, name="navy", count=4),
)


def ordered(*edits, garments=(), stock=(), seconds=None) -> tuple[Document, Ordered]:
    """Return a nested document with an order, and the order against the shelf."""
    document = document_of(RED_AND_BLUE, set_placement("x", width_mm=120.0), set_order_lines(LINES), *edits)
    document.use_workshop(document.workshop.model_copy(update={"garments": tuple(garments), "stock": tuple(stock)}))
    nested(document, seconds)
    return document, Ordered(Costing(document.plan, usual_prices()))


def there(size, colour, count, kind="tee"):
    return BlankItem(kind=kind, size=size, colour=colour, count=count)


# counts


def test_sizes_counts_and_colour_follow_the_lines():
    document, order = ordered()
    assert {one.size: one.copies for one in document.plan.garments} == {"adult-m": 5, "youth-m": 4}
    assert document.plan.blank.colour == NAVY
    assert sum(line.count for line in order.costing.lines) == 9
    assert not order.remarks


def test_an_order_without_the_jobs_own_size_takes_another_one():
    document = document_of(RED_AND_BLUE, set_order_lines((OrderLine(size="toddler", colour=SAND, count=2),)))
    assert [(one.size, one.copies) for one in document.plan.garments] == [("toddler", 2)]


def test_counts_that_are_changed_afterwards_change_what_is_ordered():
    document, order = ordered(set_copies(7))
    assert not order.remarks
    assert document.job.order.counts() == {"adult-m": 7, "youth-m": 4}


def test_a_job_that_does_not_make_what_was_ordered_says_so():
    _, order = ordered(Edit("by hand", lambda job: with_fields(job, copies=7)))
    assert order.remarks == ("Size adult M: 5 ordered, the job makes 7.",)


def test_a_size_that_there_is_not_is_refused_with_those_that_there_are():
    with pytest.raises(ZinnetError, match=r"no size giant.*adult-m"):
        document_of(RED_AND_BLUE, set_order_lines((OrderLine(size="giant", colour=NAVY, count=1),)))


def test_taking_the_lines_out_leaves_the_counts():
    document, _ = ordered(set_order_lines(()))
    assert document.plan.garments[0].copies == 5
    assert document.undo() is None or document.job.order.lines == LINES


def test_every_colour_of_the_order_is_judged_for_contrast():
    red = OrderLine(size="adult-m", colour="#c9302c", name="red", count=1)
    document, _ = ordered(set_order_lines((*LINES, red)))
    said = [one.measured for one in document.plan.findings if one.id == "hard-to-read"]
    assert any("garments in #c9302c" in one for one in said)


# garments and film


def test_garments_are_counted_against_the_shelf():
    _, order = ordered(
        garments=(there("adult-m", NAVY, 1), there("youth-m", NAVY, 9), there("adult-m", SAND, 9, "cap"))
    )
    assert [(one.there, one.to_buy) for one in order.garments] == [(1, 2), (0, 2), (4, 0)]
    rows = needs_table(order)
    assert rows[0] == ("Tee, adult M, navy", "3", "1", "2")
    assert rows[2] == ("Tee, youth M, navy", "4", "4", "")


@given(counts=st.lists(st.integers(1, 30), min_size=1, max_size=5), shelf=st.integers(0, 60))
def test_lines_that_ask_for_the_same_share_what_is_there(counts, shelf):
    lines = tuple(OrderLine(size="adult-m", colour=NAVY, count=count) for count in counts)
    document = document_of(RED_AND_BLUE, set_order_lines(lines))
    document.use_workshop(document.workshop.model_copy(update={"garments": (there("adult-m", NAVY, shelf),)}))
    order = Ordered(Costing(document.plan, usual_prices()))
    assert sum(one.there for one in order.garments) == min(shelf, sum(counts))
    assert sum(one.to_buy for one in order.garments) == max(0, sum(counts) - shelf)


def test_film_that_is_missing_is_a_length_of_roll():
    roll = StockItem(number=1, film="scarlet", kind="roll", width_mm=305, length_mm=200)
    document, order = ordered(stock=(roll,))
    red, blue = order.films
    use = {one.film: one.taken_mm2 for one in film_ledger(document.plan).films}
    assert red.there_mm2 == pytest.approx(305 * 200)
    assert red.width_mm == 305
    assert red.missing_mm * 305 + red.there_mm2 >= use["scarlet"]
    assert (red.missing_mm - 10) * 305 + red.there_mm2 < use["scarlet"]
    assert not red.exact
    assert blue.there_mm2 == 0
    assert blue.missing_mm > 0


def test_nested_on_the_shelf_what_is_missing_is_what_found_no_room():
    rolls = [
        StockItem(number=k, film=film, kind="roll", width_mm=305, length_mm=length)
        for k, (film, length) in enumerate((("scarlet", 60), ("blue", 5000)), start=1)
    ]
    few = set_order_lines((OrderLine(size="adult-m", colour=NAVY, count=4),))
    document, order = ordered(few, set_nesting("from the shelf", from_shelf=True), stock=rolls)
    for film, nest in zip(order.films, document.plan.nests, strict=True):
        assert film.exact
        assert bool(film.missing_mm) == bool(nest.layout.unplaced)
    assert any(film.missing_mm for film in order.films)


def test_the_shopping_list_prices_what_is_missing():
    _, order = ordered(garments=(there("adult-m", NAVY, 3),))
    tees = [one for one in order.shopping if one.what.startswith("Tee")]
    assert [(one.what, one.amount, one.cost) for one in tees] == [
        ("Tee, adult M, sand", "2", Decimal("9.00")),
        ("Tee, youth M, navy", "4", Decimal("18.00")),
    ]
    rows = list(csv.reader(io.StringIO(shopping_csv(order.shopping, "EUR"))))
    assert rows[0] == ["what", "how much", "about, EUR"]
    assert [tuple(row) for row in rows[1:]] == [(one.what, one.amount, str(one.cost)) for one in order.shopping]


# the calendar


def test_the_work_is_the_sum_of_its_parts_by_the_clock():
    document, order = ordered()
    stages = {stage.name: stage.seconds for stage in order.costing.stages}
    spans = {span.name: span.seconds for span in order.spans}
    assert spans["Preparing"] == stages["Preparing"]
    assert spans["Weeding"] == stages["Weeding"]
    cut = sum(load.duration().seconds for load in document.plan.loads)
    assert spans["Loading and cutting"] == pytest.approx(cut + 90 * len(document.plan.loads))
    assert spans["Pressing"] >= 9 * max(step.seconds for step in document.plan.presses[0].presses)
    assert order.total_s == pytest.approx(sum(spans.values()))


def test_a_second_person_and_press_shorten_the_work():
    _, alone = ordered()
    _, two = ordered(set_pressing("team", presses=2, people=2))
    assert two.total_s < alone.total_s


@pytest.mark.parametrize(
    ("due", "spare", "said"),
    [
        (None, None, "no due date"),
        (datetime.date(2026, 11, 30), 27, "begun on 2026-11-29"),
        (datetime.date(2026, 11, 3), 0, "begun today"),
        (datetime.date(2026, 11, 1), -2, "2 days too late"),
    ],
)
def test_the_due_date_is_judged_from_today(due, spare, said):
    _, order = ordered(set_order("due", due=due, day_h=24.0))
    assert order.days == 1
    assert order.spare_days(TODAY) == spare
    assert said in order.due_said(TODAY)


@pytest.mark.parametrize("day", [datetime.date.min, datetime.date.max])
def test_a_day_beyond_all_calendars_is_refused(day):
    with pytest.raises(ZinnetError, match="due"):
        document_of(RED_AND_BLUE, set_order("due", due=day))


def test_short_days_take_more_of_them():
    _, order = ordered(set_order("hours", day_h=0.5))
    assert (order.days - 1) * 0.5 * 3600 < order.total_s <= order.days * 0.5 * 3600


# reading, the shelf and the commands


def test_a_table_is_read_whatever_its_commas_and_capitals():
    text = "Size;Colour;Name;Count\nadult-m;#1F2A44;navy;3\n\nyouth-m;;;2\n"
    assert read_order_csv(text.encode(), "walk.csv") == (
        OrderLine(size="adult-m", colour=NAVY, name="navy", count=3),
        OrderLine(size="youth-m", colour="#ffffff", count=2),
    )


@pytest.mark.parametrize(
    ("data", "said"),
    [
        (b"size,colour\nadult-m,#ffffff\n", "columns"),
        (b"size,count\nadult-m,many\n", "line 2: count"),
        (b"size,count\nadult-m,0\n", "line 2: count"),
        (b"size,colour,count\nadult-m,blue,1\n", "line 2: colour"),
        (b"size,count\n", "orders nothing"),
        (b"\xff\xfe\x00", "UTF-8"),
        (b"size,count\n" + b"adult-m,1\n" * 201, "200 lines"),
        (b"x" * 300_000, "far smaller"),
    ],
)
def test_a_bad_table_is_refused_with_its_line(data, said):
    with pytest.raises(ZinnetError, match=said):
        read_order_csv(data, "walk.csv")


def test_what_is_said_last_of_the_same_garments_holds(tmp_path):
    stock = BlankStock(WorkshopStore(tmp_path / "w.sqlite"))
    item = stock.put(there("adult-m", NAVY, 5))
    assert stock.put(there("adult-m", NAVY, 7)).number == item.number
    assert stock.put(there("adult-m", SAND, 2)).number != item.number
    assert [(one.colour, one.count) for one in stock.items()] == [(NAVY, 7), (SAND, 2)]


def test_the_commands_order_count_and_list(tmp_path):
    job, lines, buy = tmp_path / "walk.zinnet", tmp_path / "lines.csv", tmp_path / "buy.pdf"
    document_of(RED_AND_BLUE).save(job)
    lines.write_text("size,colour,name,count\nadult-m,#1f2a44,navy,3\n")
    run_command("stock", "garments", "--kind", "tee", "--size", "adult-m", "--colour", NAVY, "--count", 1)
    assert json.loads(run_command("stock", "garments", "--json").stdout)[0]["count"] == 1
    told = run_command(
        "order", job, "--lines", lines, "--due", "2999-01-01", "--for", "the band", "--out", job, "--buy", buy, "--json"
    )
    data = json.loads(told.stdout)
    assert data["customer"] == "the band"
    assert data["garments"][0]["to_buy"] == 2
    assert data["due"] == "2999-01-01"
    text = " ".join(pypdfium2.PdfDocument(buy)[0].get_textpage().get_text_range().split())
    for one in data["shopping"]:
        assert one["what"] in text
        assert one["cost"] in text
    assert Document.open(job, document_of(RED_AND_BLUE).workshop).job.copies == 3
    assert "navy" in run_command("order", job).stdout
    assert "no day" in run_command("order", job, "--due", "soon").stderr
    assert "rename it" in run_command("order", job, "--buy", tmp_path / "x.doc").stderr
