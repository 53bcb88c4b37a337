"""The one way to do slow work beside the window: a function in a pool, its result back as a signal."""

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QObject, QRunnable, QThreadPool, Signal

from zinnet.base.errors import ZinnetError
from zinnet.base.stages import carried


class _Answer(QObject):
    """Carries a result from the pool to the window's thread."""

    done = Signal(object, object)


class _Work(QRunnable):
    def __init__(self, function: Callable[[], Any], answer: _Answer) -> None:
        super().__init__()
        self._function, self._answer = function, answer

    def run(self) -> None:
        """Work, in a thread of the pool."""
        try:
            result, error = self._function(), None
        except ZinnetError as raised:
            result, error = None, raised
        self._answer.done.emit(result, error)


class Background(QObject):
    """Slow functions, one after another; what is asked for later wins over what waits."""

    busy_changed = Signal(bool)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._pool = QThreadPool(self)
        self._pool.setMaxThreadCount(1)
        self._running: dict[int, _Answer] = {}
        self._next = 0

    @property
    def is_busy(self) -> bool:
        """Whether anything is still being worked on."""
        return bool(self._running)

    def run(
        self, function: Callable[[], Any], on_done: Callable[[Any], None], on_error: Callable[[ZinnetError], None]
    ) -> None:
        """Call ``function`` in the pool, then one of the two others in the window's thread."""
        answer, number = _Answer(), self._next
        self._next += 1
        self._running[number] = answer

        def finish(result: Any, error: ZinnetError | None) -> None:
            del self._running[number]
            self.busy_changed.emit(self.is_busy)
            if error is not None:
                on_error(error)
            else:
                on_done(result)

        answer.done.connect(finish)
        self.busy_changed.emit(True)
        self._pool.start(_Work(carried(function), answer))

    def wait(self) -> None:
        """Wait until the pool is empty, for closing the window."""
        self._pool.waitForDone(5000)
