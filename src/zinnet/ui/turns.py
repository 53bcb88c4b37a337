"""Whose turn it is: the window's while it has something to do, one thing at a time, else the work's beside it."""

import threading
import time
from collections import deque
from collections.abc import Callable, Iterator
from contextlib import contextmanager

from PySide6.QtCore import QAbstractEventDispatcher, QObject, QTimer

from zinnet.base.stages import standing_back

WAIT_S = 0.150
"""So long a stage beside the window waits at most for the window to be idle."""
LOOK_S = 0.004
"""So often it looks whether it may go on."""
WORK_S = 0.005
"""So long work goes on between two events of a window that has more to do, and after it waited in vain."""


class Turns(QObject):
    """Holds back work in other threads, from one stage to the next, as long as the window handles an event.

    Threads share one interpreter: while two of them want it, a window that draws waits a fraction of a millisecond
    for each of some hundred calls.
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
            dispatcher.awake.connect(self._wake)
            dispatcher.aboutToBlock.connect(self._idle.set)

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

    def _wake(self) -> None:
        if not self._idle.is_set():
            self._unasked_until = time.monotonic() + WORK_S
        self._idle.clear()

    def _stand_back(self) -> None:
        begun = time.monotonic()
        while not self._idle.is_set():
            now = time.monotonic()
            if now < self._unasked_until:
                return
            if now > begun + WAIT_S:
                self._unasked_until = now + WORK_S
                return
            self._idle.wait(LOOK_S)
