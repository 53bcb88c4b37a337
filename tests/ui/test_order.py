"""The page of the order in the real window: lines, what is there, time and price, and its papers."""

import csv
import datetime
from decimal import Decimal

import pypdfium2
import pytest

from zinnet.job.edits import set_order, set_order_lines
from zinnet.job.order import OrderLine
from zinnet.shop.costing import Costing
from zinnet.ui.plain import Label
from zinnet.workshop.price_list import usual_prices
from zinnet.workshop.store import WorkshopStore


@pytest.fixture
def page(demo, qtbot, tmp_path):
    demo.session.books.open(WorkshopStore(tmp_path / "workshop.sqlite"))
    demo.open_page("order")
    qtbot.waitUntil(
        lambda: demo.full_pages["order"].found is not None and demo.full_pages["order"].found.priced is not None
    )
    return demo.full_pages["order"]


def settled(page, qtbot, test):
    qtbot.waitUntil(lambda: page.found is not None and test(page.found), timeout=8000)


def test_it_shows_what_the_costing_says(page):
    priced = Costing(page.session.plan, usual_prices()).priced
    amounts = [page.price.table.item(row, 2).text() for row in range(page.price.table.rowCount())]
    assert amounts == [f"{item.amount:.2f}" for item in priced.items]
    assert f"Costs {priced.cost:.2f}, sold for {priced.net:.2f}" in page.price.total.text()
    assert "no due date" in page.time.due.text()
    sheet = page.sheet
    together = [sheet.lines.item(row, 3).text() for row in range(sheet.lines.rowCount())]
    assert together == [f"{one.total:.2f}" for one in priced.lines]
    assert sum(map(Decimal, together)) == priced.net
    assert sheet.sums.text().endswith(f"To pay: {priced.gross:.2f} EUR")
    spans = dict(zip((one.name for one in page.found.spans), page.time.spans.accessibleName().split("; "), strict=True))
    assert all(said.startswith(name) for name, said in spans.items())


def test_it_shows_what_the_job_card_asks_for_and_leads_there(page, qtbot):
    forest = OrderLine(size="adult-l", colour="#1f4d3a", name="forest", count=6)
    page.session.apply(set_order_lines((forest, forest.model_copy(update={"size": "adult-s", "count": 2}))))
    page.session.apply(set_order("customer", customer="the reed band"))
    qtbot.waitUntil(lambda: "reed band" in page.sheet.whom.text())
    shown = [label.text() for label in page.sheet.findChildren(Label) if label.text().startswith("6 adult")]
    assert shown == ["6 adult L, 2 adult S"]
    assert page.sheet.whom.text() == "For the reed band, no due date yet."
    page.card.click()
    assert page.window().page == "card"


def test_what_is_there_is_written_down_and_what_is_missing_bought(page, qtbot, tmp_path):
    page.say_there(0, 3)
    settled(page, qtbot, lambda found: found.garments[0].there == 3)
    assert [page.needs.item(0, column).text() for column in (1, 2, 3)] == ["4", "3", "1"]
    for name in ("buy.csv", "buy.pdf"):
        page.write_shopping(tmp_path / name)
        qtbot.waitUntil((tmp_path / name).exists, timeout=8000)
    rows = list(csv.reader((tmp_path / "buy.csv").open()))
    assert rows[1][1:] == ["1", "4.50"]
    assert rows[1][0] in pypdfium2.PdfDocument(tmp_path / "buy.pdf")[0].get_textpage().get_text_range()


def test_due_date_and_prices_are_typed_and_wrong_ones_refused(page, qtbot, tmp_path):
    heard = []
    page.session.said.connect(heard.append)
    due = page.window().card.form.due
    for text in ("the day after", "2999-12-01"):
        due.setText(text)
        due.setModified(True)
        due.editingFinished.emit()
    assert "is no day" in heard[-1]
    assert page.session.job.order.due == datetime.date(2999, 12, 1)
    settled(page, qtbot, lambda found: "done by 2999-12-01" in found.due)
    field = page.price.fields["mark_up_percent"]
    field.setText("100")
    field.editingFinished.emit()
    settled(page, qtbot, lambda found: found.priced is not None and found.priced.mark_up_percent == Decimal(100))
    page.write_quote(tmp_path / "quote.csv")
    qtbot.waitUntil((tmp_path / "quote.csv").exists, timeout=8000)
    assert str(page.found.priced.gross) in (tmp_path / "quote.csv").read_text()
    field.setText("a lot")
    field.editingFinished.emit()
    assert "is no amount" in heard[-1]
    (tmp_path / "order.csv").write_text("size,colour,name,count\nadult-l,#1f2a44,navy,2\n")
    page.window().files.read_order(tmp_path / "order.csv")
    settled(
        page,
        qtbot,
        lambda found: (
            page.session.job.order.lines == (OrderLine(size="adult-l", colour="#1f2a44", name="navy", count=2),)
        ),
    )
    page.window().files.read_order(tmp_path / "none.csv")
    assert "There is no file" in heard[-1]


def test_the_job_sheet_and_the_tags_are_written_from_the_menu(page, qtbot, tmp_path):
    papers = page.window().papers
    papers.write(tmp_path / "sheet.pdf", papers.job_sheet())
    papers.write(tmp_path / "tags.pdf", papers.care_tags_on("a4-3x8", 2))
    qtbot.waitUntil(lambda: (tmp_path / "sheet.pdf").exists() and (tmp_path / "tags.pdf").exists(), timeout=8000)
    assert page.session.job.title in pypdfium2.PdfDocument(tmp_path / "sheet.pdf")[0].get_textpage().get_text_range()
    assert "Wait 24 hours" in pypdfium2.PdfDocument(tmp_path / "tags.pdf")[0].get_textpage().get_text_range()
