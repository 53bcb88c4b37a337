"""The real window on a virtual screen."""

import pytest
from PySide6.QtCore import QSettings

from zinnet.demo import demo_document
from zinnet.ui.session import Session
from zinnet.ui.theme import NIGHT, use_theme
from zinnet.ui.window import MainWindow


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
