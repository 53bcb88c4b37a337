"""The real window on a virtual screen."""

from dataclasses import replace

import pytest
from PySide6.QtCore import QPoint, QSettings
from pytestqt.qtbot import QtBot

from zinnet.demo import demo_document
from zinnet.nesting.running import NestRun
from zinnet.ui import nester
from zinnet.ui.session import Session
from zinnet.ui.theme import NIGHT, use_theme
from zinnet.ui.window import MainWindow

MOST_WAIT_MS = 120_000
"""No test is about how long anything takes: a wait that ends earlier on a busy machine would say nothing."""


@pytest.fixture(autouse=True)
def patience(monkeypatch):
    """Let every wait for the window last long enough for a machine that is busy with other work."""
    for name in ("waitUntil", "waitSignal"):
        usual = getattr(QtBot, name)

        def patient(self, *args, usual=usual, timeout=0, **more):
            return usual(self, *args, timeout=max(timeout, MOST_WAIT_MS), **more)

        monkeypatch.setattr(QtBot, name, patient)


@pytest.fixture
def window(qtbot, tmp_path):
    use_theme(NIGHT)
    session = Session(tmp_path / "copies")
    window = MainWindow(session, QSettings(str(tmp_path / "settings.ini"), QSettings.Format.IniFormat))
    window.resize(1280, 800)
    qtbot.addWidget(window, before_close_func=leave)
    window.show()
    return window


def leave(window):
    """Close without being asked about changes."""
    window.session.document.saved = window.session.job
    window.session.close()


@pytest.fixture
def demo(window, qtbot):
    window.session.show_document(demo_document())
    qtbot.wait(30)
    return window


@pytest.fixture
def narrow_nests(monkeypatch):
    """Let the window's nests be found by the narrowest search, where a test is about what follows them."""
    monkeypatch.setattr(nester, "NestRun", lambda task: NestRun(replace(task, steps=1)))


def point_at(qtbot, view, x, y):
    """Move the mouse to a spot until the view has been laid out and shown what lies there; return that."""
    selection = view.session.selection

    def is_pointed():
        spot = view.to_pixels(x, y).toPoint()
        for place in (spot + QPoint(1, 0), spot):
            qtbot.mouseMove(view, place)
        return selection.pointed is not None

    qtbot.waitUntil(is_pointed)
    return selection.pointed
