"""The job card: counts by size and colour, typed in cells, and what else is said there."""

import datetime

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from zinnet.blanks.cloth_colours import cloth_colours
from zinnet.job.edits import set_order_lines, set_title
from zinnet.job.order import OrderLine

FOREST = cloth_colours()["forest"]


@pytest.fixture
def card(window):
    window.card.ready()
    return window.card


def type_into(line, text):
    line.setFocus()
    line.selectAll()
    QTest.keyClicks(line, text)
    QTest.keyClick(line, Qt.Key.Key_Return)


def counts(session):
    return {(line.name, line.size): line.count for line in session.job.order.lines}


def settle(card, qtbot):
    session = card._session
    qtbot.waitUntil(lambda: not session.is_working and not session.background.is_busy)


def test_a_new_job_asks_for_nothing_yet(card):
    assert all(not box.text() for box in card.form.grid.rows[0].counts.values())
    assert card.begin.isVisible()
    assert not card.way.isVisible()


def test_title_customer_and_day_are_typed_once(card, window):
    form, job = card.form, lambda: window.session.job
    type_into(form.title, "Reed band")
    type_into(form.customer, "the reed players")
    type_into(form.due, "24 December 2026")
    assert (job().title, job().order.customer, job().order.due) == (
        "Reed band",
        "the reed players",
        datetime.date(2026, 12, 24),
    )
    assert form.due.text() == "2026-12-24"
    type_into(form.due, "some day")
    assert "is no day" in window.message.text()
    assert job().order.due == datetime.date(2026, 12, 24)
    assert card.way.isVisible()


def test_two_colours_have_rows_of_their_own(card, qtbot):
    grid, session = card.form.grid, card._session
    type_into(grid.rows[0].counts["adult-m"], "4")
    settle(card, qtbot)
    grid.more.click()
    assert len(grid.rows) == 2
    second = grid.rows[1].cloth
    index = second.findText("night")
    second.setCurrentIndex(index)
    second.activated.emit(index)
    type_into(grid.rows[1].counts["adult-l"], "2")
    settle(card, qtbot)
    assert counts(session) == {("spruce", "adult-m"): 4, ("night", "adult-l"): 2}
    assert [row.total.text() for row in grid.rows] == ["4", "2"]
    type_into(grid.rows[1].counts["adult-l"], "0")
    settle(card, qtbot)
    assert counts(session) == {("spruce", "adult-m"): 4}
    assert len(grid.rows) == 2, "an emptied row stays, so that it can be typed into again"


def test_many_colours_are_all_shown_and_none_is_lost_by_typing(card, qtbot):
    session = card._session
    lines = tuple(
        OrderLine(size="adult-m", colour=colour, name=name, count=1)
        for name, colour in list(cloth_colours().items())[:9]
    )
    session.apply(set_order_lines(lines))
    settle(card, qtbot)
    assert len(card.form.grid.rows) == 9
    type_into(card.form.grid.rows[0].counts["adult-l"], "3")
    settle(card, qtbot)
    assert sum(counts(session).values()) == 12


def test_arrows_lead_from_cell_to_cell_and_count_up_and_down(card, qtbot):
    row = card.form.grid.rows[0]
    row.counts["adult-m"].setFocus()
    QTest.keyClick(row.counts["adult-m"], Qt.Key.Key_Right)
    assert row.counts["adult-l"].hasFocus()
    for _ in range(3):
        QTest.keyClick(row.counts["adult-l"], Qt.Key.Key_Up)
    QTest.keyClick(row.counts["adult-l"], Qt.Key.Key_Down)
    settle(card, qtbot)
    assert counts(card._session) == {("spruce", "adult-l"): 2}


def test_letters_are_no_count(card):
    box = card.form.grid.rows[0].counts["adult-m"]
    type_into(box, "a2b")
    assert box.text() == "2"
    box.selectAll()
    QTest.keyClicks(box, "20000")
    assert box.value <= 1000


def test_a_row_of_a_colour_that_there_is_already_goes_into_that_one(card, qtbot):
    grid = card.form.grid
    type_into(grid.rows[0].counts["adult-m"], "6")
    settle(card, qtbot)
    grid.more.click()
    second = grid.rows[1].cloth
    index = second.findText("spruce")
    second.setCurrentIndex(index)
    second.activated.emit(index)
    assert len(grid.rows) == 1
    assert counts(card._session) == {("spruce", "adult-m"): 6}


def test_a_new_job_takes_nothing_half_typed_of_the_one_before(card, window, qtbot):
    window.session.apply(set_title("First"))
    window.session.document.saved = window.session.job
    card.form.title.setFocus()
    QTest.keyClicks(card.form.title, "Half")
    window.begin_job()
    assert window.session.job.title == "Untitled"
    assert card.form.title.text() == ""
