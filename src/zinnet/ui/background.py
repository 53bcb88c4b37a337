"""The one way to do slow work beside the window: a function in a pool, its result back as a signal."""

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QObject, QRunnable, QThreadPool, Signal

from zinnet.base.errors import ZinnetError
from zinnet.base.log import log_error, unexpected
from zinnet.base.stages import carried


class _Answer(QObject):
    """Carries a result from the pool to the window's thread."""

    done = Signal(object, object)


class _Work(QRunnable):
    def __init__(self, function: Callable[[], Any], answer: _Answer) -> None:
        super().__init__()
        self._function, self._answer = function, answer

    def run(self) -> None:
        """Work, in a thread of the pool. Whatever is raised becomes a sentence: somebody waits for the answer."""
        result: Any = None
        refused: str | None = None
        try:
            result = self._function()
        except ZinnetError as error:
            refused = str(error)
        except BaseException as error:  # noqa: BLE001 - whoever waits must hear of it, and the log has the rest
            log_error("Work beside the window failed", error)
            refused = unexpected(error)
        self._answer.done.emit(result, refused)


LEAVE_MS = 1000
KEEP_MS = 5000
"""How long is waited at the end for work that may be left, and for what is being written into the books."""


class Background(QObject):
    """Slow functions, one after another; what is written into the books waits for no other work."""

    busy_changed = Signal(bool)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._pool = QThreadPool(self)
        self._pool.setMaxThreadCount(1)
        self._books = QThreadPool(self)
        self._books.setMaxThreadCount(1)
        self._running: dict[int, _Answer] = {}
        self._next = 0

    @property
    def is_busy(self) -> bool:
        """Whether anything is still being worked on."""
        return bool(self._running)

    def run(
        self,
        function: Callable[[], Any],
        on_done: Callable[[Any], None],
        on_refused: Callable[[str], None],
        *,
        books: bool = False,
    ) -> None:
        """Call ``function`` in the pool, then one of the two others in the window's thread.

        ``on_refused`` is told in a sentence what was wrong, whatever the function raised. What is for the ``books`` is
        done before the window closes, whatever else is under way.
        """
        answer, number = _Answer(), self._next
        self._next += 1
        self._running[number] = answer

        def finish(result: Any, refused: str | None) -> None:
            del self._running[number]
            self.busy_changed.emit(self.is_busy)
            if refused is not None:
                on_refused(refused)
            else:
                on_done(result)

        answer.done.connect(finish)
        self.busy_changed.emit(True)
        (self._books if books else self._pool).start(_Work(carried(function), answer))

    def wait(self) -> bool:
        """Wait for what is written into the books, and a little for other work; tell whether all of it is done.

        For closing the window: what waits for its turn is not begun any more, but for the books.
        """
        kept = self._books.waitForDone(KEEP_MS)
        self._pool.clear()
        return self._pool.waitForDone(LEAVE_MS) and kept
