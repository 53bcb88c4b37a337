"""The way through, by hand, its clicks and keys counted: from the first start to the cut files of six tees."""

from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QFileDialog, QLineEdit

from tests.helpers import svg
from zinnet.ui.making_ready import MakingReady

MOST_CLICKS, MOST_KEYS = 18, 40
TWO_FILMS = (
    '<path d="M8 64 C8 8 92 8 92 64 L70 64 C70 34 30 34 30 64 Z" fill="#f4ead5"/>'
    '<circle cx="50" cy="52" r="9" fill="#e8b23a"/>'
)
FILE = "reed.svg"
SIX = {"adult-s": 2, "adult-m": 2, "adult-l": 2}
NAMES = "name\n" + "\n".join(
    ("Odile", "Bram", "Tamsin", "Per", "Ysolde", "Corin", "Maud", "Anselm", "Fern", "Jory", "Linnet", "Wat")
)


class Hand:
    """A hand at the window: all that it does goes through the mouse and the keys, and is counted."""

    def __init__(self, qtbot, window):
        self.qtbot, self.window = qtbot, window
        self.clicks = self.keys = 0
        self.typed: list[str] = []

    def click(self, widget) -> None:
        """Click on a widget that is seen."""
        assert widget.isVisible(), widget.accessibleName() or widget.text()
        assert widget.isEnabled(), widget.text()
        self.clicks += 1
        self.qtbot.mouseClick(widget, Qt.MouseButton.LeftButton)
        self.rest()

    def type(self, text: str) -> None:
        """Type a text where the keyboard is."""
        self.typed.append(text)
        self.keys += len(text)
        QTest.keyClicks(self.window.focusWidget(), text)
        self.rest()

    def press(self, key, held=Qt.KeyboardModifier.NoModifier) -> None:
        """Press a key where the keyboard is."""
        self.keys += 1
        QTest.keyClick(self.window.focusWidget() or self.window, key, held)
        self.rest()

    def rest(self) -> None:
        """Wait until all that follows is shown."""
        QApplication.processEvents()
        session = self.window.session
        self.qtbot.waitUntil(lambda: not session.is_working and not session.later.is_busy)
        QApplication.processEvents()


@pytest.fixture
def hand(window, qtbot):
    """A hand at a window that has just been started for the first time."""
    ready = MakingReady(window)
    with qtbot.waitSignal(ready.ended):
        ready.begin()
    return Hand(qtbot, window)


@pytest.fixture
def dialogs(monkeypatch, tmp_path):
    """Let the dialogs of files answer; what is done in them is counted where they are asked for."""
    (tmp_path / FILE).write_bytes(svg(TWO_FILMS))
    (tmp_path / "out").mkdir()
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a, **k: (str(tmp_path / FILE), ""))
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *a, **k: str(tmp_path / "out"))
    return tmp_path


def is_nested(window):
    return window.session.plan.is_nested and not window.session.background.is_busy


def written(folder: Path, mats: int) -> bool:
    return len(list((folder / "out").glob("mat-*.svg"))) == mats


def made(window) -> dict[str, int]:
    return {one.size: one.copies for one in window.session.plan.garments}


def loaded(window) -> int:
    return sum(load.is_loaded for load in window.session.plan.loads)


def is_within_bounds(hand) -> bool:
    """Whether it took no more than it may, and no text of more than a count was typed twice."""
    long = [text for text in hand.typed if len(text) > 1]
    return hand.clicks <= MOST_CLICKS and hand.keys <= MOST_KEYS and len(long) == len(set(long))


@pytest.mark.usefixtures("narrow_nests")
def test_six_tees_in_three_sizes_by_mouse(hand, dialogs, qtbot):
    window, form = hand.window, hand.window.card.form
    assert window.table.currentWidget() is window.card
    assert form.title.hasFocus()
    hand.type("Reed band")
    hand.click(form.grid.rows[0].counts["adult-s"])
    for number in range(3):
        hand.type("2")
        if number < 2:
            hand.press(Qt.Key.Key_Tab)
    hand.click(form.artwork)
    hand.clicks += 1  # the file, in the dialog
    qtbot.waitUntil(lambda: window.session.has_artwork and window.station == "fit" and window.page == "table")
    assert made(window) == SIX
    assert len({nest.film.id for nest in window.session.plan.nests}) == 2
    hand.click(window.strip.button)
    assert window.station == "nest"
    qtbot.waitUntil(lambda: is_nested(window))
    hand.rest()
    hand.click(window.strip.button)
    assert window.station == "cut"
    page = window.stations["cut"].pages["loading"]
    mats = len(window.session.plan.loads)
    for _ in range(mats):
        hand.click(page.yes)
    assert loaded(window) == mats
    hand.click(window.properties.sheets["cut"].write)
    hand.clicks += 1  # the folder, in the dialog
    qtbot.waitUntil(lambda: written(dialogs, mats))
    assert window.session.job.title == "Reed band"
    assert is_within_bounds(hand), (hand.clicks, hand.keys)


@pytest.mark.usefixtures("narrow_nests")
def test_six_tees_in_three_sizes_by_keyboard_alone(hand, dialogs, qtbot):
    window = hand.window
    hand.type("Reed band")
    hand.press(Qt.Key.Key_M, Qt.KeyboardModifier.AltModifier)
    hand.type("2")
    hand.press(Qt.Key.Key_Right)
    hand.type("2")
    hand.press(Qt.Key.Key_Left)
    hand.press(Qt.Key.Key_Left)
    hand.type("2")
    hand.press(Qt.Key.Key_O, Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier)
    hand.keys += len(FILE) + 1  # its name and Return, in the dialog
    qtbot.waitUntil(lambda: window.session.has_artwork and window.page == "table")
    assert made(window) == SIX
    hand.press(Qt.Key.Key_F8)
    assert window.station == "nest"
    qtbot.waitUntil(lambda: is_nested(window))
    hand.rest()
    hand.press(Qt.Key.Key_F8)
    assert window.station == "cut"
    mats = len(window.session.plan.loads)
    for number in range(mats):
        hand.press(Qt.Key.Key_Y)
        qtbot.waitUntil(lambda number=number: loaded(window) == number + 1)
    assert loaded(window) == mats
    hand.press(Qt.Key.Key_E, Qt.KeyboardModifier.ControlModifier)
    hand.keys += 1  # Return, in the dialog
    qtbot.waitUntil(lambda: written(dialogs, mats))
    assert hand.clicks == 0
    assert is_within_bounds(hand), (hand.clicks, hand.keys)


def test_twelve_names_without_artwork(hand, dialogs, qtbot):
    window, form = hand.window, hand.window.card.form
    hand.type("Lantern crew")
    hand.click(form.names)
    QApplication.clipboard().setText(NAMES)
    hand.click(window.full_pages["names"].paste)
    qtbot.waitUntil(lambda: len(window.session.plan.named) == 12)
    assert window.session.plan.copies == 12
    hand.rest()
    assert window.session.job.title == "Lantern crew"
    hand.click(window.strip.button)
    qtbot.waitUntil(lambda: window.session.plan.is_nested)
    hand.rest()
    if window.station == "nest":  # it was not nested yet, and Next leads there first
        hand.click(window.strip.button)
    assert window.station == "cut"
    mats = len(window.session.plan.loads)
    for _ in range(mats):
        hand.click(window.stations["cut"].pages["loading"].yes)
    assert loaded(window) == mats
    hand.click(window.properties.sheets["cut"].write)
    hand.clicks += 1
    qtbot.waitUntil(lambda: written(dialogs, mats))
    assert is_within_bounds(hand), (hand.clicks, hand.keys)


def test_counts_that_are_half_typed_stay_while_the_job_is_shown_anew(hand):
    box = hand.window.card.form.grid.rows[0].counts["adult-l"]
    hand.click(box)
    hand.type("1")
    hand.window.session.plan_changed.emit()
    hand.type("2")
    assert isinstance(box, QLineEdit)
    hand.press(Qt.Key.Key_Tab)
    assert hand.window.session.job.order.counts() == {"adult-l": 12}
