"""Lists of names in the real window: pasted, fitted, looked at, and ticked on paper."""

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QGuiApplication

from tests.names.bags import NAMES, bags
from zinnet.demo import demo_document
from zinnet.demo.walk import LANTERN_MAKERS
from zinnet.job.edits import drop_names

TABLE = "name\tcount\n" + "\n".join(f"{name}\t{1 + k % 2}" for k, name in enumerate(NAMES))


@pytest.fixture
def page(window, qtbot):
    document = bags()
    document.apply(drop_names())
    window.session.show_document(document)
    window.open_page("names")
    yield window.full_pages["names"]
    window.session.document.saved = window.session.job


def settled(window, qtbot):
    qtbot.waitUntil(lambda: not window.session.is_working and not window.session.background.is_busy, timeout=30_000)


def test_without_a_list_it_says_what_to_do(page, window):
    assert page.isVisible()
    assert page.paste.isVisible()
    assert not page.table.isVisible()


def test_a_pasted_table_becomes_names_in_their_field(page, window, qtbot):
    QGuiApplication.clipboard().setText(TABLE)
    qtbot.keyClick(page, Qt.Key.Key_V, Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier)
    settled(window, qtbot)
    assert page.table.rowCount() == len(NAMES)
    assert [page.table.item(k, 1).text() for k in range(len(NAMES))] == list(NAMES)
    assert [page.table.item(k, 2).text() for k in range(2)] == ["1", "2"]
    assert f"{len(NAMES)} names read from what was copied." in window.message.text()
    assert window.session.plan.garments[0].copies == 9


def test_a_wrong_table_is_said_and_nothing_changes(page, window, qtbot):
    before = window.session.job
    QGuiApplication.clipboard().setText("name,count\nAda,many")
    qtbot.mouseClick(page.paste, Qt.MouseButton.LeftButton)
    settled(window, qtbot)
    assert "what was copied: Line 2 of the list: the count “many”" in window.message.text()
    assert window.session.job == before


def test_the_field_is_typed_and_the_letters_chosen(page, window, qtbot):
    page.read(TABLE, "a table")
    settled(window, qtbot)
    page.width_field.selectAll()
    qtbot.keyClicks(page.width_field, "150 mm")
    qtbot.keyClick(page.width_field, Qt.Key.Key_Return)
    settled(window, qtbot)
    words = window.session.plan.garments[0].designs[0].words
    assert words.width_mm == 150.0
    assert len(set(words.ems.values())) == 1
    page.sizing.setCurrentIndex(1)
    page.sizing.activated.emit(1)
    settled(window, qtbot)
    assert len(set(window.session.plan.garments[0].designs[0].words.ems.values())) > 1
    window.session.undo()
    window.session.undo()
    window.session.undo()
    assert window.session.plan.named == ()


def test_a_card_and_its_row_are_chosen_together(page, window, qtbot):
    page.read(TABLE, "a table")
    settled(window, qtbot)
    middle = page.previews.card(3).center()
    qtbot.mouseClick(page.previews, Qt.MouseButton.LeftButton, pos=QPoint(int(middle.x()), int(middle.y())))
    assert page.table.selectionModel().selectedRows()[0].row() == 3
    page.table.selectRow(1)
    assert page.previews.row == 1


@pytest.mark.parametrize("name", ["names.pdf", "names.csv"])
def test_the_check_list_is_written(page, window, qtbot, tmp_path, name):
    page.read(TABLE, "a table")
    settled(window, qtbot)
    page.write_check_list(tmp_path / name)
    settled(window, qtbot)
    written = (tmp_path / name).read_bytes()
    assert written.startswith(b"%PDF") or b"Donnatella" in written


def test_a_list_comes_from_a_file_too(page, window, qtbot, tmp_path):
    (tmp_path / "crew.csv").write_text(TABLE.replace("\t", ","), encoding="utf-8")
    page.open_list(tmp_path / "crew.csv")
    settled(window, qtbot)
    assert page.table.rowCount() == len(NAMES)
    page.open_list(tmp_path / "missing.csv")
    assert "There is no file" in window.message.text()


def test_with_a_long_list_every_edit_is_worked_out_beside_the_window(window, qtbot):
    window.session.show_document(demo_document(name="names"))
    window.open_page("names")
    settled(window, qtbot)
    assert window.full_pages["names"].table.rowCount() == len(LANTERN_MAKERS) == 24
    qtbot.mouseClick(window.full_pages["names"].drop, Qt.MouseButton.LeftButton)
    assert window.session.is_working
    settled(window, qtbot)
    assert window.session.plan.named == ()
    window.session.document.saved = window.session.job
