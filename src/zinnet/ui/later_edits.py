"""Edits that take long to derive: worked out beside the window, then applied at once."""

from collections.abc import Callable
from typing import NamedTuple

from PySide6.QtCore import QObject, Signal

from zinnet.base.errors import ZinnetError
from zinnet.job.edits import Edit
from zinnet.job.model import Job
from zinnet.plan.derive import derive
from zinnet.ui.background import Background
from zinnet.workshop.model import Workshop


class _Asked(NamedTuple):
    edit: Edit
    then: Callable[[], None] | None


class LaterEdits(QObject):
    """A queue of edits. While one batch is worked out, what is asked for meanwhile waits and goes as the next.

    The plan is derived in the background; its stages are kept, so that applying the edits afterwards costs little.
    """

    ready = Signal(object)
    refused = Signal(str)

    def __init__(
        self, background: Background, now: Callable[[], tuple[Job, Workshop]], parent: QObject | None = None
    ) -> None:
        super().__init__(parent)
        self._background, self._now = background, now
        self._waiting: list[_Asked] = []
        self._running = False

    @property
    def is_busy(self) -> bool:
        """Whether an edit is being worked out."""
        return self._running

    def ask(self, edit: Edit, then: Callable[[], None] | None = None) -> None:
        """Work out an edit of the open job; :attr:`ready` follows with what to apply, and ``then`` is called last."""
        self._waiting.append(_Asked(edit, then))
        if not self._running:
            self._start()

    def _start(self) -> None:
        batch, self._waiting = self._waiting, []
        edits, (job, workshop) = [one.edit for one in batch], self._now()
        self._running = True

        def work() -> list[Edit]:
            changed = job
            for edit in edits:
                changed = edit.change(changed)
            derive(changed, workshop)
            return edits

        def done(edits: list[Edit]) -> None:
            self._running = False
            self.ready.emit(edits)
            for one in batch:
                if one.then is not None:
                    one.then()
            self._go_on()

        self._background.run(work, done, self._refuse)

    def _refuse(self, error: ZinnetError) -> None:
        self._running = False
        self.refused.emit(str(error))
        self._go_on()

    def _go_on(self) -> None:
        if self._waiting and not self._running:
            self._start()
