"""Nothing is cut off and nothing reaches out of its place, on every station and page, in windows of three sizes."""

import pytest
from PySide6.QtWidgets import QApplication, QLabel, QPushButton, QWidget

from tests.ui.fitting import misfits
from zinnet.demo import demo_document
from zinnet.job.edits import set_order, set_title, set_unit
from zinnet.ui.theme import DAYLIGHT, NIGHT, use_theme

LONG = "Stewards of the lower meadow and the mill lane, second row, with lanterns"
ROUNDS = 100
"""So often a page that does not fit is looked at again: something may be about to be laid out."""
WINDOWS = ((1024, 700), (1280, 800), (1920, 1080))
PAGES = ("card", "sizes", "names", "order", "compare", "photo", "guide")


def pages_of(view):
    """Return the names of the pages of a station."""
    bar = getattr(view, "page_bar", None) or getattr(view, "pages", None)
    return list(getattr(bar, "buttons", {}))


def rest():
    """Let all that was asked for be laid out: a text that is wider now asks for it only then."""
    for _ in range(4):
        QApplication.processEvents()
        QApplication.sendPostedEvents()


def lasting(window, qtbot):
    """Return what does not fit, once what is worked out beside the window has come and been laid out."""
    found = []
    for _ in range(ROUNDS):
        rest()
        found = list(misfits(window))
        if not found:
            break
        qtbot.wait(20)
    return found


def all_misfits(window, qtbot):
    """Walk through all stations and pages, and yield what does not fit there."""
    qtbot.waitUntil(lambda: window.session.plan.is_nested and not window.session.background.is_busy)
    for station in window.stations:
        window.go_to(station)
        for page in pages_of(window.view) or [""]:
            if page:
                window.view.show_page(page)
            yield from (f"{station} {page}: {said}" for said in lasting(window, qtbot))
    for page in PAGES:
        window.go_to("fit")
        window.show_page(page)
        yield from (f"{page}: {said}" for said in lasting(window, qtbot))


@pytest.mark.parametrize("size", WINDOWS, ids=str)
def test_nothing_is_cut_off_in_millimetres(window, qtbot, size):
    window.session.show_document(demo_document(name="stewards"))
    window.resize(*size)
    assert list(all_misfits(window, qtbot)) == []
    assert window.size().toTuple() == size


@pytest.mark.parametrize("size", WINDOWS[:2], ids=str)
def test_nothing_is_cut_off_in_inches_by_daylight_with_long_names(window, qtbot, size):
    use_theme(DAYLIGHT)
    window.session.show_document(demo_document(name="names"))
    for edit in (set_unit("in"), set_title(LONG), set_order("customer", customer=LONG)):
        window.session.apply(edit)
    window.resize(*size)
    found = list(all_misfits(window, qtbot))
    use_theme(NIGHT)
    assert found == []
    assert window.size().toTuple() == size


def test_what_is_cut_off_or_reaches_out_is_found(qtbot):
    outer = QWidget()
    qtbot.addWidget(outer)
    outer.resize(200, 100)
    label, button, high = (
        QLabel("far too long for its room", outer),
        QPushButton("Much too long", outer),
        QWidget(outer),
    )
    label.setGeometry(0, 0, 40, 20)
    button.setGeometry(0, 30, 30, 24)
    high.setGeometry(150, 50, 30, 80)
    outer.show()
    found = list(misfits(outer))
    assert [said.partition(" ")[0] for said in found] == ["QLabel", "QPushButton", "QWidget"]
    for widget, box in ((label, (0, 0, 190, 20)), (button, (0, 30, 190, 30)), (high, (150, 50, 30, 40))):
        widget.setGeometry(*box)
    assert list(misfits(outer)) == []
