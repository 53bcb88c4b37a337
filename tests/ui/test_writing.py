"""Files are written beside the window: it is said how far that is, and it can be left off."""

import pytest
from PySide6.QtCore import Qt

from tests.helpers import RED_AND_BLUE, document_of, nested
from zinnet.job.edits import set_copies
from zinnet.output import cut_files

pytestmark = pytest.mark.usefixtures("narrow_nests")


@pytest.fixture
def said(window):
    found = []
    window.session.show_document(nested(document_of(RED_AND_BLUE, set_copies(3))))
    window.session.exporter.said.connect(found.append)
    return found


def export(window, folder):
    session = window.session
    session.exporter.export(session.plan, session.books.store, folder, ("svg",))


def test_it_is_said_mat_by_mat_how_far_it_is(window, said, qtbot, tmp_path):
    export(window, tmp_path / "cut")
    qtbot.waitUntil(lambda: bool(said) and "files of" in said[-1])
    count = len(window.session.plan.loads)
    assert [one for one in said if one.startswith("Writing")] == [
        f"Writing mat {number} of {count} to cut ... Esc leaves off." for number in range(1, count + 1)
    ]
    assert not window.leave_off.isEnabled()


def test_escape_leaves_off_and_what_is_written_stays(window, said, qtbot, tmp_path, monkeypatch):
    usual = cut_files.content_of
    written = []

    def content(load, *rest):
        written.append(load.number)
        window.session.exporter.leave_off()
        return usual(load, *rest)

    monkeypatch.setattr(cut_files, "content_of", content)
    assert len(window.session.plan.loads) > 1
    export(window, tmp_path / "cut")
    assert window.leave_off.isEnabled()
    qtbot.waitUntil(lambda: bool(said) and "left off" in said[-1])
    assert written == [window.session.plan.loads[0].number]
    assert len(list((tmp_path / "cut").glob("*.svg"))) == 1


def test_escape_reaches_the_exporter_only_while_files_are_written(window, said, qtbot, monkeypatch):
    left = []
    monkeypatch.setattr(window.session.exporter, "leave_off", lambda: left.append(True))
    window.leave_off.activated.disconnect()
    window.leave_off.activated.connect(window.session.exporter.leave_off)
    qtbot.keyClick(window.view, Qt.Key.Key_Escape)
    assert left == []
    window.session.exporter.writing_changed.emit(True)
    qtbot.keyClick(window.view, Qt.Key.Key_Escape)
    assert left == [True]
