"""The real window on a virtual screen."""

import gc

import pytest
from PySide6.QtCore import QEvent, QPointF, QSettings, Qt
from PySide6.QtGui import QMouseEvent
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from tests.helpers import NestHere
from zinnet.base.parcel import unpacked
from zinnet.bench import from_strangers
from zinnet.bench.bounded import Bounded
from zinnet.bench.bounded_worker import TASKS
from zinnet.demo import demo_document
from zinnet.nesting import running
from zinnet.ui.offers import Offers
from zinnet.ui.session import Session
from zinnet.ui.theme import NIGHT, use_theme
from zinnet.ui.window import MainWindow

MOST_WAIT_MS = 900_000
"""No test is about how long anything takes: a wait that ends earlier on a busy machine would say nothing."""


@pytest.fixture(autouse=True)
def collects_here():
    """Let the garbage of a test go in the thread of its windows, when they are closed; see ``ui.collecting``."""
    gc.disable()
    yield
    gc.collect(0)  # nothing of the test has grown older while it was off
    gc.enable()


@pytest.fixture(autouse=True)
def patience(monkeypatch):
    """Let every wait for the window last long enough for a machine that is busy with other work."""
    for name in ("waitUntil", "waitSignal"):
        usual = getattr(QtBot, name)

        def patient(self, *args, usual=usual, timeout=0, **more):
            return usual(self, *args, timeout=max(timeout, MOST_WAIT_MS), **more)

        monkeypatch.setattr(QtBot, name, patient)


class BoundedHere(Bounded):
    """A task for a process of its own, done in this one: most tests are about what follows."""

    def answer(self):
        """Do the task."""
        self._patience.begun(self)
        task, given, _ = unpacked(self._order)
        return TASKS[task](*given)


@pytest.fixture(autouse=True)
def reads_here(monkeypatch, request):
    """Read files in this process; a test marked ``apart`` reads them as the program does."""
    if request.node.get_closest_marker("apart") is None:
        monkeypatch.setattr(from_strangers, "Bounded", BoundedHere)


@pytest.fixture(autouse=True)
def proves_where_asked(monkeypatch, request):
    """Prove no mends beside the window: most tests are about something else; one marked ``proven`` waits for them."""
    if request.node.get_closest_marker("proven") is None:
        monkeypatch.setattr(Offers, "look_at", lambda self, plan, findings: None)


@pytest.fixture(autouse=True)
def plans_are_waited_for(monkeypatch, request):
    """Derive every edit at once; a test marked ``beside`` has plans follow beside the window, as the program does."""
    monkeypatch.setattr(Session, "beside", request.node.get_closest_marker("beside") is not None)


@pytest.fixture
def window(qtbot, tmp_path):
    use_theme(NIGHT)
    session = Session(tmp_path / "copies")
    window = MainWindow(session, QSettings(str(tmp_path / "settings.ini"), QSettings.Format.IniFormat))
    window.resize(1280, 800)
    qtbot.addWidget(window, before_close_func=leave)
    window.show()
    qtbot.waitUntil(window.isActiveWindow)
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
    """Let the window's nests be found by the narrowest search in this process, where a test is about what follows."""
    monkeypatch.setattr(running, "NestRun", NestHere)


def move_mouse(view, spot, button=Qt.MouseButton.NoButton):
    """Tell a view that the mouse is moved to a spot in it, whatever window of another test lies on top there."""
    at, buttons = QPointF(spot), Qt.MouseButton(button)
    event = QMouseEvent(
        QEvent.Type.MouseMove,
        at,
        QPointF(view.mapToGlobal(spot)),
        Qt.MouseButton.NoButton,
        buttons,
        Qt.KeyboardModifier.NoModifier,
    )
    QApplication.sendEvent(view, event)


def point_at(qtbot, view, x, y):
    """Move the mouse to a spot until the view has been laid out and shows what lies there; return that."""
    selection = view.session.selection

    def is_pointed():
        move_mouse(view, view.to_pixels(x, y).toPoint())
        return selection.pointed is not None

    qtbot.waitUntil(is_pointed)
    return selection.pointed


def offered(qtbot, window, finding_id):
    """Return the button of the first mend of a finding, once it is proven that it holds."""

    def button():
        card = window.findings.card(finding_id)
        return None if card is None else card.mend

    qtbot.waitUntil(lambda: button() is not None)
    return button()
