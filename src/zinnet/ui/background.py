"""The one way to do slow work beside the window: a function in a pool, its result back as a signal."""

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
        self._answers: dict[int, _Answer] = {}
        """What carries results, until these have come: an object of Qt goes in its own thread."""
        self._next = 0

    @property
    def is_busy(self) -> bool:
        """Whether anything is still being worked on."""
        return bool(self._answers) or self.turns.is_waiting

    def run(
        self,
        function: Callable[[], Any],
        on_done: Callable[[Any], None],
        on_refused: Callable[[str], None],
        *,
        books: bool = False,
        is_edit: bool = False,
    ) -> None:
        """Call ``function`` in the pool, then one of the two others in the window's thread.

        ``on_refused`` is told in a sentence what was wrong, whatever the function raised. What is for the ``books`` is
        done before the window closes, whatever else is under way; what ``is_edit`` waits for no other work.
        """
        answer, number = _Answer(), self._next
        self._next += 1
        self._answers[number] = answer

        def finish(result: Any, refused: str | None) -> None:
            self.turns.take()
            del self._answers[number]
            self.busy_changed.emit(self.is_busy)
            if refused is not None:
                on_refused(refused)
            else:
                on_done(result)

        answer.done.connect(finish)
        self.busy_changed.emit(True)
        pool = self._books if books else self._edits if is_edit else self._pool
        within = self._within()

        def work() -> Any:
            with self.turns.taken(), within:
                return function()

        pool.start(_Work(carried(work), answer))

    def wait(self) -> bool:
        """Wait for what is written into the books, and a little for other work; tell whether all of it is done.

        For closing the window: what waits for its turn is not begun any more, but for the books.
        """
        with self.turns.given():
            kept = self._books.waitForDone(KEEP_MS)
            self._pool.clear()
            self._edits.clear()
            return self._edits.waitForDone(LEAVE_MS) and self._pool.waitForDone(LEAVE_MS) and kept
