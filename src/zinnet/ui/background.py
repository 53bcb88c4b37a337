"""The one way to do slow work beside the window: a function in a pool, its result back as a signal."""

import threading
from collections.abc import Callable
from contextlib import AbstractContextManager, nullcontext
from typing import Any

from PySide6.QtCore import QObject, QRunnable, QThreadPool, Signal

from zinnet.base.errors import ZinnetError
from zinnet.base.log import log_error, unexpected
from zinnet.base.stages import carried
from zinnet.ui.turns import Turns


class _Answer(QObject):
    """Carries a result from the pool to the window's thread."""

    done = Signal(object, object)

    def __init__(self) -> None:
        super().__init__()
        self.found: tuple[Any, str | None] = (None, None)
        self.ended = threading.Event()


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
        self._answer.found = result, refused
        self._answer.ended.set()
        self._answer.done.emit(result, refused)


LEAVE_MS = 1000
KEEP_MS = 5000
"""How long is waited at the end for work that may be left, and for what is being written into the books."""


class Background(QObject):
    """Slow functions, one after another; neither an edit nor what is written into the books waits for other work."""

    busy_changed = Signal(bool)

    def __init__(
        self, parent: QObject | None = None, within: Callable[[], AbstractContextManager[object]] = nullcontext
    ) -> None:
        super().__init__(parent)
        self.turns = Turns(self)
        self._within = within
        """In what functions are called, such as the open document's kept stages; asked for as each is begun."""
        self._pool = QThreadPool(self)
        self._pool.setMaxThreadCount(1)
        self._books = QThreadPool(self)
        self._books.setMaxThreadCount(1)
        self._edits = QThreadPool(self)
        self._edits.setMaxThreadCount(1)
        self._running: set[int] = set()
        self._answers: dict[int, _Answer] = {}
        """What carries results, until these have come: an object of Qt goes in its own thread."""
        self._next = 0

    @property
    def is_busy(self) -> bool:
        """Whether anything is still being worked on."""
        return bool(self._running) or self.turns.is_waiting

    def run(
        self,
        function: Callable[[], Any],
        on_done: Callable[[Any], None],
        on_refused: Callable[[str], None],
        *,
        books: bool = False,
        patience_s: float | None = None,
    ) -> None:
        """Call ``function`` in the pool, then one of the two others in the window's thread.

        ``on_refused`` is told in a sentence what was wrong, whatever the function raised. What is for the ``books`` is
        done before the window closes, whatever else is under way. With ``patience_s`` it is an edit: it waits for no
        other work, and its answer is waited for here for so long.
        """
        answer, number = _Answer(), self._next
        self._next += 1
        self._running.add(number)
        self._answers[number] = answer

        def deliver(result: Any, refused: str | None) -> None:
            if number not in self._running:
                return
            self._running.discard(number)
            self.busy_changed.emit(self.is_busy)
            if refused is not None:
                on_refused(refused)
            else:
                on_done(result)

        def finish(result: Any, refused: str | None) -> None:
            del self._answers[number]
            deliver(result, refused)

        answer.done.connect(finish)
        self.busy_changed.emit(True)
        pool = self._books if books else self._pool if patience_s is None else self._edits
        within = self._within()

        def work() -> Any:
            with self.turns.taken(), within:
                return function()

        pool.start(_Work(carried(work), answer))
        if patience_s is not None and self._is_soon(answer, patience_s):
            deliver(*answer.found)

    def _is_soon(self, answer: _Answer, patience_s: float) -> bool:
        with self.turns.given():
            return answer.ended.wait(patience_s)

    def wait(self) -> bool:
        """Wait for what is written into the books, and a little for other work; tell whether all of it is done.

        For closing the window: what waits for its turn is not begun any more, but for the books.
        """
        with self.turns.given():
            kept = self._books.waitForDone(KEEP_MS)
            self._pool.clear()
            self._edits.clear()
            return self._edits.waitForDone(LEAVE_MS) and self._pool.waitForDone(LEAVE_MS) and kept
