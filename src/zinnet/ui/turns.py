"""Whose turn it is: the window's while it has something to do, one thing at a time, else the work's beside it."""

import threading
import time
from collections import deque
from collections.abc import Callable, Iterator
from contextlib import contextmanager

from PySide6.QtCore import QAbstractEventDispatcher, QEvent, QObject, QTimer
from PySide6.QtWidgets import QWidget

from zinnet.base.stages import standing_back

WAIT_S = 0.150
"""So long a stage beside the window waits at most for the window to be idle."""
WORK_S = 0.005
"""So long work goes on after it waited in vain: a window that is never idle doesn't bring it to a halt."""
TAKES = frozenset(
    {
        QEvent.Type.UpdateRequest,
        QEvent.Type.KeyPress,
        QEvent.Type.MouseButtonPress,
        QEvent.Type.MouseButtonRelease,
        QEvent.Type.MouseMove,
        QEvent.Type.Wheel,
        QEvent.Type.Resize,
        QEvent.Type.Expose,
    }
)
"""What the window has something to do with: it is drawn, or a hand is at it."""


class Turns(QObject):
    """Holds back work in other threads, from one stage to the next, as long as the window handles an event.

    Threads share one interpreter: while two of them want it, a window that draws waits a fraction of a millisecond
    for each of some hundred calls. A turn that is taken ends as the event loop turns.
    """

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._idle = threading.Event()
        self._idle.set()
        self._unasked_until = 0.0
        self._asked: deque[Callable[[], object]] = deque()
        self._next = QTimer(self, interval=0)
        self._next.timeout.connect(self._do_next)
        dispatcher = QAbstractEventDispatcher.instance()
        if dispatcher is not None:
            dispatcher.awake.connect(self._idle.set)
            dispatcher.aboutToBlock.connect(self._idle.set)

    def watch(self, window: QWidget) -> None:
        """Take the turn for a window whenever it is drawn or a hand is at it."""
        window.installEventFilter(self)
        window.winId()  # there is no handle before
        window.windowHandle().installEventFilter(self)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Look at what a window is told."""
        if event.type() in TAKES:
            self.take()
        return False

    def take(self) -> None:
        """Let work beside the window stand back until the event that is handled now is done with."""
        self._idle.clear()

    @property
    def is_taken(self) -> bool:
        """Whether work beside the window stands back."""
        return not self._idle.is_set()

    @property
    def is_waiting(self) -> bool:
        """Whether anything waits for a turn of the loop."""
        return bool(self._asked)

    def do(self, action: Callable[[], object]) -> None:
        """Do something in a turn of the event loop of its own; what waits for its turn already is not asked twice."""
        if action not in self._asked:
            self._asked.append(action)
            self._next.start()

    def _do_next(self) -> None:
        self.take()
        action = self._asked.popleft()
        if not self._asked:
            self._next.stop()
        action()

    @contextmanager
    def taken(self) -> Iterator[None]:
        """Let every stage within the block, in a thread beside the window, take its turn."""
        with standing_back(self._stand_back):
            yield

    @contextmanager
    def given(self) -> Iterator[None]:
        """Leave the turn to the work beside the window within the block, in which the window waits for it."""
        was_idle = self._idle.is_set()
        self._idle.set()
        try:
            yield
        finally:
            if not was_idle:
                self._idle.clear()

    def _stand_back(self) -> None:
        if self._idle.is_set() or time.monotonic() < self._unasked_until:
            return
        if not self._idle.wait(WAIT_S):
            self._unasked_until = time.monotonic() + WORK_S
