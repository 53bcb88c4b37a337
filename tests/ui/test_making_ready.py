"""What is made before it is looked at shows the same as what is made then."""

import pytest
from PySide6.QtCore import QSettings
from PySide6.QtWidgets import QAbstractButton, QApplication, QComboBox, QLabel

from zinnet.demo import demo_document
from zinnet.ui.making_ready import MakingReady
from zinnet.ui.session import Session
from zinnet.ui.window import MainWindow


def read(window, qtbot):
    """Return all that is written on each station and page."""
    found = {}
    window.session.show_document(demo_document())
    window.session.nester.stop()
    for name in (*window.stations, *window.full_pages):
        if name in window.stations:
            window.go_to(name)
        else:
            window.open_page(name)
        QApplication.processEvents()
        qtbot.waitUntil(lambda: not window.session.background.is_busy)
        QApplication.processEvents()
        shown = window.table.currentWidget()
        places = [*shown.findChildren(QLabel), *shown.findChildren(QAbstractButton)]
        boxes = [box.currentText() for box in shown.findChildren(QComboBox) if box.isVisible()]
        found[name] = sorted([one.text() for one in places if one.isVisible()] + boxes)
    return found


@pytest.mark.long
def test_what_is_made_ahead_shows_the_same_as_what_is_made_when_it_is_looked_at(window, qtbot, tmp_path):
    ready = MakingReady(window)
    with qtbot.waitSignal(ready.ended):
        ready.begin()
    assert len(window.stations.made) == len(window.stations)
    assert len(window.full_pages.made) == len(window.full_pages)
    other = MainWindow(Session(tmp_path / "other"), QSettings(str(tmp_path / "other.ini"), QSettings.Format.IniFormat))
    qtbot.addWidget(other)
    other.show()
    ahead, later = read(window, qtbot), read(other, qtbot)
    for name, said in later.items():
        assert ahead[name] == said, name


def test_nothing_is_made_ahead_while_an_edit_is_worked_out(window, qtbot, monkeypatch):
    ready, made = MakingReady(window), len(window.stations.made)
    monkeypatch.setattr(Session, "is_working", property(lambda session: True))
    ready.begin()
    qtbot.wait(100)
    assert len(window.stations.made) == made
    monkeypatch.undo()
    qtbot.waitSignal(ready.ended).wait()
    assert len(window.stations.made) == len(window.stations)
