"""What is likely to be looked at next is made while nobody waits: a first visit is no slower than others."""

from collections import deque
from collections.abc import Callable, Iterator
from functools import partial
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QObject, QTimer, Signal
from PySide6.QtWidgets import QWidget

if TYPE_CHECKING:
    from zinnet.ui.lazy import LazyWidgets
    from zinnet.ui.window import MainWindow

TURN_MS = 20


class MakingReady(QObject):
    """Makes the stations, their sheets and the whole pages of a window, one in each turn of its loop that is free."""

    ended = Signal()

    def __init__(self, window: "MainWindow") -> None:
        super().__init__(window)
        self._session = window.session
        self._left = deque(_parts(window))
        self._timer = QTimer(self, interval=TURN_MS)
        self._timer.timeout.connect(self._make_next)
        self._session.closing.connect(self._timer.stop)

    def begin(self) -> None:
        """Begin, once all is imported."""
        self._timer.start()

    def _make_next(self) -> None:
        if self._session.is_working or self._session.background.is_busy:
            return
        if self._left:
            self._left.popleft()()
            return
        self._timer.stop()
        self.ended.emit()


def _parts(window: "MainWindow") -> Iterator[Callable[[], object]]:
    """Yield what makes each part: the sheet of a station before it, since that is smaller; whole pages at the end."""
    yield window.card.ready
    for name in window.stations:
        yield partial(_make, window.properties.sheets, name)
        yield partial(_make, window.stations, name)
    for name in window.full_pages:
        yield partial(_make, window.full_pages, name)


def _make(widgets: "LazyWidgets[Any]", name: str) -> None:
    """Make a widget, and let it and all in it take their style, which they else do as they are shown."""
    widget: QWidget = widgets[name]
    for one in (widget, *widget.findChildren(QWidget)):
        one.ensurePolished()
