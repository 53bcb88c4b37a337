"""A new user's walk through the real window with the keyboard alone: from a new job to its entry in the log."""

import pytest
from PySide6.QtCore import Qt, QTimer
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QComboBox, QFileDialog, QLineEdit

from tests.helpers import RED_AND_BLUE, first_of, outlines_in_hpgl, svg
from zinnet.workshop.madebook import MadeBook
from zinnet.workshop.store import WorkshopStore

CTRL, SHIFT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier
MOST_TABS = 150


class Keyboard:
    """Types to whatever has the focus, as a keyboard does."""

    def __init__(self, window, qtbot):
        self.window, self.qtbot = window, qtbot

    def press(self, key, held=Qt.KeyboardModifier.NoModifier):
        target = QApplication.activeModalWidget() or QApplication.activePopupWidget() or self.window
        QTest.keyClick(target.focusWidget() or target, key, held)
        self.window.activateWindow()  # as a desktop does once a dialog is gone
        self.qtbot.wait(10)  # what is pressed is seen before the next key

    def type(self, text):
        QTest.keyClicks(QApplication.focusWidget(), text)

    def tab_to(self, name):
        """Press Tab until what is called so has the focus."""
        for _ in range(MOST_TABS):
            focused = QApplication.focusWidget()
            if focused is not None and name in (focused.accessibleName(), getattr(focused, "text", str)()):
                return focused
            self.press(Qt.Key.Key_Tab)
        raise AssertionError(f"Tab does not lead to “{name}”")

    def answer(self, path):
        """Type a path into the file dialog that opens next, and press Return."""

        def type_path():
            dialog = QApplication.activeModalWidget()
            field = dialog.findChild(QLineEdit) if isinstance(dialog, QFileDialog) else None
            if field is None or dialog.focusWidget() is not field:
                QTimer.singleShot(100, type_path)  # the dialog is not open yet
                return
            field.setCompleter(None)  # what it proposes meanwhile depends on how busy the machine is
            field.selectAll()
            QTest.keyClicks(field, str(path))
            if dialog.selectedFiles() != [str(path)]:
                QTimer.singleShot(100, type_path)  # it was still reading a folder, and chose that
                return
            QTest.keyClick(field, Qt.Key.Key_Return)

        QTimer.singleShot(300, type_path)

    def choose(self, name, said):
        """Go to a box with choices and type the beginning of one."""
        box = self.tab_to(name)
        assert isinstance(box, QComboBox)
        self.press(Qt.Key.Key_Home)
        for _ in range(box.count()):
            if box.currentText() == said:
                return
            self.press(Qt.Key.Key_Down)
        raise AssertionError(f"{name} has no choice “{said}”")


def focus_ring(keyboard):
    """Return the names of all that Tab leads to, until it comes round."""
    first, found = QApplication.focusWidget(), []
    for _ in range(MOST_TABS):
        focused = QApplication.focusWidget()
        text = getattr(focused, "text", str)
        found.append((type(focused).__name__, focused.accessibleName() or (text() if callable(text) else "")))
        keyboard.press(Qt.Key.Key_Tab)
        if QApplication.focusWidget() is first:
            return found
    raise AssertionError(f"Tab does not come round; it stays at {found[-1]}")


@pytest.fixture
def keyboard(window, qtbot, tmp_path):
    window.session.books.open(WorkshopStore(tmp_path / "workshop.sqlite"))
    window.activateWindow()
    qtbot.waitUntil(lambda: QApplication.activeWindow() is window)
    return Keyboard(window, qtbot)


@pytest.mark.usefixtures("narrow_nests")
def test_from_a_new_job_to_the_log_without_a_mouse(keyboard, window, qtbot, tmp_path):
    session, artwork, out = window.session, tmp_path / "lantern.svg", tmp_path / "cut"
    artwork.write_bytes(svg(RED_AND_BLUE))
    out.mkdir()

    keyboard.press(Qt.Key.Key_N, CTRL)
    assert window.page == "card"
    keyboard.choose("Kind of blank", "Tote bag")
    assert session.plan.blank.kind == "tote"
    keyboard.press(Qt.Key.Key_1, CTRL)
    keyboard.press(Qt.Key.Key_F2)
    for _ in session.plan.blank.measures:
        if window.view.editor.accessibleName() == "Whole bag, width":
            break
        keyboard.press(Qt.Key.Key_F2)
    assert window.view.editor.accessibleName() == "Whole bag, width"
    keyboard.type("24 cm")
    keyboard.press(Qt.Key.Key_Return)
    assert session.plan.blank.measures["width"] == 240

    keyboard.answer(artwork)
    keyboard.press(Qt.Key.Key_O, CTRL | SHIFT)
    qtbot.waitUntil(lambda: session.has_artwork, timeout=8000)

    keyboard.press(Qt.Key.Key_3, CTRL)
    field = keyboard.tab_to("Width")
    field.selectAll()
    keyboard.type("12 cm")
    keyboard.press(Qt.Key.Key_Return)
    assert first_of(session.plan).placement.width_mm == pytest.approx(120)
    keyboard.press(Qt.Key.Key_3, CTRL)
    before = first_of(session.plan).placement.from_reference_mm
    keyboard.press(Qt.Key.Key_Down, SHIFT)
    assert first_of(session.plan).placement.from_reference_mm == pytest.approx(before + 10)

    keyboard.press(Qt.Key.Key_4, CTRL)
    assert window.station == "split"
    keyboard.choose("How films lie", "side by side with a lap")
    assert session.job.layers.method == "lap"

    keyboard.press(Qt.Key.Key_5, CTRL)
    qtbot.waitUntil(lambda: session.plan.is_nested, timeout=60_000)
    assert session.plan.open_stops == ()

    heard = []
    session.said.connect(heard.append)
    keyboard.answer(out)
    keyboard.press(Qt.Key.Key_E, CTRL)
    qtbot.waitUntil(lambda: bool(heard) and not heard[-1].startswith("Writing"))
    assert (out / "job-sheet.pdf").exists(), heard
    lines = [line for path in out.glob("*.plt") for line in outlines_in_hpgl(path.read_text())]
    assert len(lines) >= 2

    keyboard.press(Qt.Key.Key_7, CTRL)
    assert window.station == "press"
    keyboard.press(Qt.Key.Key_F11)
    assert window.middle.currentWidget() is window.benches["press"]
    control = window.benches["press"].control
    qtbot.waitUntil(lambda: control.run is not None and control.run.card is not None, timeout=20_000)
    first = control.run.card.id
    keyboard.press(Qt.Key.Key_Space)
    assert control.run.card is None or control.run.card.id != first
    keyboard.press(Qt.Key.Key_Escape)
    assert window.middle.currentIndex() == 0

    keyboard.press(Qt.Key.Key_8, CTRL)
    keyboard.tab_to("Add to the log")
    keyboard.press(Qt.Key.Key_Space)
    qtbot.waitUntil(lambda: bool(session.workshop.made), timeout=8000)
    keyboard.choose("Verdict", "good")
    qtbot.waitUntil(lambda: session.workshop.made[0].verdict == "good", timeout=8000)
    (made,) = MadeBook(session.books.store).entries()
    assert (made.garments, made.verdict, made.has_job) == (1, "good", True)
    assert {film.film for film in made.films} == {nest.film.id for nest in session.plan.nests}
    session.document.saved = session.job


def test_tab_leads_round_every_station_and_all_that_it_meets_has_a_name(keyboard, demo):
    for station in range(1, 9):
        keyboard.press(getattr(Qt.Key, f"Key_{station}"), CTRL)
        ring = focus_ring(keyboard)
        assert len(ring) > 10
        assert [kind for kind, name in ring if not name] == []
        assert sum(kind == "StationTag" for kind, _ in ring) == 8


def test_tab_leads_round_every_page(keyboard, demo):
    for key in (Qt.Key.Key_K, Qt.Key.Key_M, Qt.Key.Key_B, Qt.Key.Key_J, Qt.Key.Key_U):
        keyboard.press(key, CTRL)
        assert [kind for kind, name in focus_ring(keyboard) if not name] == []


def test_a_new_job_clears_the_table_and_asks_about_changes_first(keyboard, demo, monkeypatch):
    demo.session.document.saved = demo.session.job
    keyboard.press(Qt.Key.Key_N, CTRL)
    assert not demo.session.has_artwork
    assert demo.table.currentWidget() is demo.card
    assert demo.card.form.title.hasFocus()
    demo.session.undo()
    assert not demo.session.has_artwork


def test_the_guide_opens_at_the_station_and_closes_again(keyboard, demo):
    for station, title in ((4, "Split"), (7, "Press")):
        keyboard.press(getattr(Qt.Key, f"Key_{station}"), CTRL)
        keyboard.press(Qt.Key.Key_F1)
        assert demo.table.currentWidget() is demo.full_pages["guide"]
        assert demo.full_pages["guide"].chapters.currentItem().text() == title
        assert title in demo.full_pages["guide"].text.toPlainText()
        keyboard.press(Qt.Key.Key_Down)
        assert demo.full_pages["guide"].chapters.currentItem().text() != title
        assert [kind for kind, name in focus_ring(keyboard) if not name] == []
        keyboard.press(Qt.Key.Key_Escape)
        assert demo.table.currentWidget() is demo.view


def test_without_a_job_the_guide_begins_at_the_beginning(keyboard, window):
    keyboard.press(Qt.Key.Key_F1)
    assert window.full_pages["guide"].chapters.currentItem().text() == "Beginning"
    keyboard.press(Qt.Key.Key_F1)
    assert window.table.currentWidget() is window.card
