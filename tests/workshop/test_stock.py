"""Film on the shelf: found, corrected, cut and put back, and its history."""

import contextlib
import csv
import io

import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from zinnet.base.errors import WorkshopError
from zinnet.geometry.region import as_region
from zinnet.workshop.stock import Change, Stock, StockItem
from zinnet.workshop.stock_csv import read_stock_csv, stock_csv
from zinnet.workshop.store import WorkshopStore

ROLL = StockItem(film="white", kind="roll", width_mm=305, length_mm=5000, price_m2=24.0, place="rack, left")
SHEETS = StockItem(film="sand", kind="sheet", width_mm=305, length_mm=305, count=4, place="drawer 2")
OUTLINE = as_region(shapely.box(0, 0, 200, 150).difference(shapely.Point(60, 60).buffer(30)))
SCRAP = StockItem(film="white", kind="scrap", width_mm=150, length_mm=200, outline=OUTLINE, note="after the moths")


@pytest.fixture
def stock(tmp_path):
    return Stock(WorkshopStore(tmp_path / "workshop.sqlite"))


def test_items_are_given_labels_and_come_back_as_they_were(stock):
    roll, sheets, scrap = stock.add([ROLL, SHEETS, SCRAP])
    assert [roll.number, sheets.number, scrap.number] == [1, 2, 3]
    assert stock.items() == [roll, sheets, scrap]
    assert stock.item(3).outline.equals(OUTLINE)
    assert scrap.area_mm2 == pytest.approx(OUTLINE.area)
    assert roll.worth == pytest.approx(305 * 5000 / 1e6 * 24)
    assert scrap.worth is None


def test_items_are_found_by_film_kind_and_words(stock):
    stock.add([ROLL, SHEETS, SCRAP])
    assert [item.number for item in stock.items(film="white")] == [1, 3]
    assert [item.number for item in stock.items(kind="scrap")] == [3]
    assert [item.number for item in stock.items(words="Drawer")] == [2]
    assert [item.number for item in stock.items(words="moths white")] == [3]
    assert stock.items(words="purple") == []


def test_a_correction_is_written_down_with_its_reason(stock):
    stock.add([ROLL])
    stock.correct(1, "measured again", length_mm=4800.0, place="rack, right")
    assert stock.item(1).length_mm == 4800
    added, corrected = stock.history(1)
    assert (added.what, corrected.what, corrected.said) == ("added", "corrected", "measured again")
    assert (corrected.before.length_mm, corrected.after.length_mm) == (5000, 4800)


def test_what_makes_no_sense_is_refused_and_nothing_changes(stock):
    stock.add([ROLL])
    with pytest.raises(WorkshopError, match="length_mm"):
        stock.correct(1, "slip", length_mm=-5)
    with pytest.raises(WorkshopError, match="can't be changed"):
        stock.correct(1, "slip", number=7)
    with pytest.raises(WorkshopError, match="no film 9"):
        stock.take_out(9, "slip")
    assert stock.items() == [ROLL.model_copy(update={"number": 1})]
    assert len(stock.history(1)) == 1


def test_what_is_taken_out_keeps_its_history_and_its_label_is_never_given_again(stock):
    stock.add([ROLL, SHEETS])
    stock.take_out(2, "used up")
    assert [item.number for item in stock.items()] == [1]
    assert [event.what for event in stock.history(2)] == ["added", "taken out"]
    assert stock.add([SCRAP])[0].number == 3


def cut_of(stock):
    roll, _, scrap = stock.add([ROLL, SHEETS, SCRAP])
    left = SCRAP.model_copy(update={"note": "left of the roll"})
    return stock.cut(
        "lantern tees",
        [
            Change(number=roll.number, after=roll.model_copy(update={"length_mm": 4700.0}), leftovers=(left,)),
            Change(number=scrap.number),
        ],
    )


def test_a_cut_takes_film_and_puts_leftovers_on_the_shelf(stock):
    cut = cut_of(stock)
    assert [(item.number, item.kind) for item in stock.items()] == [(1, "roll"), (2, "sheet"), (4, "scrap")]
    assert stock.item(1).length_mm == 4700
    assert [number for number, _, job in stock.open_cuts() if job == "lantern tees"] == [cut]


def test_a_cut_is_undone_until_it_is_confirmed(stock):
    cut = cut_of(stock)
    stock.undo(cut)
    assert [(item.number, item.length_mm) for item in stock.items()] == [(1, 5000), (2, 305), (3, 200)]
    assert stock.open_cuts() == []
    with pytest.raises(WorkshopError, match="not open"):
        stock.undo(cut)
    again = stock.cut("again", [Change(number=3)])
    stock.confirm(again)
    with pytest.raises(WorkshopError, match="not open"):
        stock.undo(again)
    assert [item.number for item in stock.items()] == [1, 2]


def test_a_cut_is_not_undone_over_a_later_change(stock):
    cut = cut_of(stock)
    stock.correct(1, "measured again", length_mm=4650.0)
    with pytest.raises(WorkshopError, match="changed after the cut"):
        stock.undo(cut)
    assert stock.item(1).length_mm == 4650
    assert [number for number, _, _ in stock.open_cuts()] == [cut]


def test_a_cut_that_fails_half_way_changes_nothing(stock):
    stock.add([ROLL, SHEETS])
    with pytest.raises(WorkshopError, match="no film 9"):
        stock.cut("job", [Change(number=1), Change(number=9)])
    assert [item.number for item in stock.items()] == [1, 2]
    assert stock.open_cuts() == []


@pytest.mark.parametrize("note", ["=1+1", "+49", "-3", "@moth", "'=1+1", "'quoted", "5 = 5", "''-"])
def test_a_spreadsheet_works_nothing_out_of_what_is_noted(stock, note):
    stock.add([ROLL.model_copy(update={"note": note})])
    text = stock_csv(stock.items())
    (row,) = csv.DictReader(io.StringIO(text))
    assert not row["note"].startswith(("=", "+", "-", "@"))
    assert [item.note for item in read_stock_csv(text.encode(), "shelf.csv")] == [note]


def test_the_stock_goes_out_as_csv_and_comes_back(stock):
    items = stock.add([ROLL, SHEETS, SCRAP])
    again = read_stock_csv(stock_csv(items).encode(), "stock.csv")
    for item, read in zip(items, again, strict=True):
        assert read.model_copy(update={"outline": None, "number": item.number}) == item.model_copy(
            update={"outline": None}
        )
    assert again[2].outline.symmetric_difference(OUTLINE).area < 0.1


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("film,kind,width_mm,length_mm\nx,roll,305,-4\n", "row 2: length_mm"),
        ("film,kind,width_mm,length_mm\nx,rope,305,4\n", "row 2: kind"),
        ("film,kind,width_mm,length_mm,outline\nx,scrap,305,4,POLYGON((0 0\n", "row 2: an outline"),
        ("film,kind,width_mm,length_mm,outline\nx,scrap,305,4,POINT(1 1)\n", "row 2: an outline"),
        ("film,kind,width_mm,length_mm\nx,scrap,nan,4\n", "row 2: width_mm"),
        ("film,kind\nx,roll\n", "no rows with the columns"),
        ("", "no rows with the columns"),
        ("film,kind,width_mm,length_mm\n\x00,roll,305\xff", "row 2|no CSV"),
    ],
)
def test_a_bad_csv_is_said_with_its_row(text, said):
    with pytest.raises(WorkshopError, match=said):
        read_stock_csv(text.encode("latin-1"), "stock.csv")


@given(st.binary(max_size=300))
def test_any_bytes_are_items_or_one_sentence(data):
    with contextlib.suppress(WorkshopError):
        assert read_stock_csv(data, "stock.csv")
