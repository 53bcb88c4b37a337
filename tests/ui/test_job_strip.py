"""The job on one line: its name, what was asked for, and the button that goes on with it."""

import datetime

import pytest
from PySide6.QtCore import Qt

from tests.helpers import RED_AND_BLUE, document_of
from zinnet.bench.nesting import nest_document
from zinnet.job.edits import record_cut, set_order, set_sizes


def test_there_is_no_strip_over_a_clear_table(window):
    assert not window.strip.isVisible()
    window.session.show_document(document_of(RED_AND_BLUE))
    assert window.strip.isVisible()


def test_the_job_is_named_there_and_keeps_its_name(demo, qtbot):
    title = demo.strip.title
    title.selectAll()
    qtbot.keyClicks(title, "Reed band")
    qtbot.keyClick(title, Qt.Key.Key_Return)
    assert demo.session.job.title == "Reed band"
    demo.session.undo()
    assert title.text() == demo.session.job.title != "Reed band"
    title.clear()
    qtbot.keyClick(title, Qt.Key.Key_Return)
    assert title.text() == demo.session.job.title


def test_what_is_typed_stays_while_the_plan_changes(demo, qtbot):
    title = demo.strip.title
    title.setFocus()
    title.selectAll()
    qtbot.keyClicks(title, "Half a na")
    demo.session.plan_changed.emit()
    assert title.text() == "Half a na"


def test_a_name_that_is_half_typed_is_not_given_to_another_job(demo, qtbot):
    title = demo.strip.title
    title.setFocus()
    title.selectAll()
    qtbot.keyClicks(title, "Half a na")
    other = document_of(RED_AND_BLUE)
    demo.session.show_document(other)
    assert title.text() == other.job.title
    qtbot.keyClick(title, Qt.Key.Key_Return)
    assert demo.session.job.title == other.job.title != "Half a na"


def test_it_says_what_was_asked_for(demo):
    demo.session.apply(set_sizes((("adult-l", 3),)))
    demo.session.apply(set_order("customer", customer="the parade", due=datetime.date(2026, 12, 5)))
    said = demo.strip.asked.whole
    assert (
        said == f"Tee: adult M {demo.session.plan.garments[0].copies}, adult L 3  ·  for the parade  ·  due 5 December"
    )


def test_many_sizes_are_counted(demo):
    more = ("youth-l", "adult-s", "adult-l", "adult-xl")
    demo.session.apply(set_sizes(tuple((size, 2) for size in more)))
    own = demo.session.plan.garments[0].copies
    assert demo.strip.asked.whole.startswith(f"Tee: {own + 8} in 5 sizes")


def test_next_goes_through_the_stations_that_are_not_done(demo, qtbot):
    nest_document(demo.session.document)
    demo.session.plan_changed.emit()
    assert demo.strip.button.text() == "Next: Cut"
    assert demo.strip.missing.text().endswith("mats to cut")
    qtbot.mouseClick(demo.strip.button, Qt.MouseButton.LeftButton)
    assert demo.station == "cut"
    assert demo.strip.button.text() == "Next: Press"
    demo.strip.go_on()
    demo.strip.go_on()
    assert demo.station == "log"
    assert demo.strip.button.text() == "Next: Cut"


def test_a_station_that_is_done_is_marked(demo):
    nest_document(demo.session.document)
    demo.session.plan_changed.emit()
    tags = demo.tags.tags
    assert not tags["nest"].missing
    assert tags["cut"].missing
    assert "mats to cut" in tags["cut"].toolTip()
    demo.session.apply(record_cut(1, ()))
    assert not tags["cut"].missing
    assert tags["cut"].accessibleDescription() == "done"


@pytest.mark.beside
def test_next_waits_while_an_edit_is_worked_out(demo, qtbot):
    qtbot.waitUntil(lambda: bool(demo.strip.way))
    demo.session.apply(set_order("customer", customer="the parade"))
    assert demo.session.is_working
    assert not demo.strip.button.isEnabled()
    assert demo.strip.missing.text() == "checking ..."
    qtbot.waitUntil(lambda: not demo.session.is_working and not demo.session.background.turns.is_waiting)
    assert demo.strip.button.isEnabled()
    assert "for the parade" in demo.strip.asked.whole


def test_a_long_order_makes_the_window_no_wider(demo, qtbot):
    wide = demo.minimumSizeHint().width()
    demo.session.apply(set_order("customer", customer="the stewards of the parade and their many helpers " * 3))
    assert demo.minimumSizeHint().width() <= wide
    assert demo.width() == 1280
    assert demo.strip.asked.text().endswith("…")
    assert demo.strip.asked.whole in demo.strip.asked.toolTip()
