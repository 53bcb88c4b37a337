"""The plan follows the job beside the window: first what the picture shows, then all else."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QTimer, Signal

from zinnet.ui.beside import Beside

if TYPE_CHECKING:
    from zinnet.bench.document import Document
    from zinnet.plan.ahead import Ahead
    from zinnet.plan.model import Plan
    from zinnet.ui.background import Background


class Following(Beside):
    """Brings the plan of the open document after its job; a newer edit ends older work.

    The job is changed at once, so that the next edit builds on it. Where it can't be made sense of, the job goes back
    to the one of the plan, and that is said.
    """

    followed = Signal()

    def __init__(
        self, background: "Background", document: Callable[[], "Document"], parent: QObject | None = None
    ) -> None:
        super().__init__(background, document, parent)
        self._wanted = 0
        self._running = self._is_edit = self._is_pictured = False
        self._waiting: list[tuple[Callable[[], bool], Callable[[], object]]] = []

    @property
    def is_busy(self) -> bool:
        """Whether the plan of an edit is being worked out."""
        return self._running and self._is_edit

    def follow(self) -> None:
        """Work out the plan of the job as it is now."""
        self._is_edit, self._is_pictured = True, False
        self._begin()

    def renew(self) -> None:
        """Work out the plan anew, where no more than a nest of it is new."""
        self._begin()

    def when_pictured(self, action: Callable[[], object]) -> None:
        """Do something that goes by what the picture shows, once that is the job as it is now."""
        self._waiting.append((lambda: self._is_pictured, action))
        self._go_on()

    def when_followed(self, action: Callable[[], object]) -> None:
        """Do something that goes by the plan, once that is of the job as it is now."""
        self._waiting.append((lambda: False, action))
        self._go_on()

    def _go_on(self) -> None:
        """Do what was waiting, in its order, as far as it may be done."""
        while self._waiting and (not self.is_busy or self._waiting[0][0]()):
            self._waiting.pop(0)[1]()

    def _begin(self) -> None:
        self._wanted += 1
        if not self._running:
            self._start()

    def _start(self) -> None:
        from zinnet.base.stages import LeftOff, while_wanted
        from zinnet.plan.ahead import look_ahead
        from zinnet.plan.derive import derive

        document, number = self._document(), self._wanted
        job, workshop, layouts = document.job, document.workshop, dict(document.layouts)
        self._running = True

        def work() -> "Plan | None":
            try:
                with (
                    document.stages.in_use(),
                    workshop.blanks.in_use(),
                    while_wanted(lambda: self._wanted == number),
                ):
                    self._show(look_ahead(job, workshop), document)
                    return derive(job, workshop, layouts)
            except LeftOff:
                return None

        def refuse(why: str) -> None:
            self._running = self._is_edit = False
            if document is self._document():
                document.fall_back()
            self.refused.emit(why)
            self._go_on()

        self._background.run(work, lambda plan: self._done(document, number, plan), refuse, is_edit=True)

    def _is_shown(self, ahead: "Ahead") -> bool:
        self._is_pictured = self.is_busy and ahead.job == self._document().job
        if self._is_pictured:
            QTimer.singleShot(0, self._go_on)
        return self._is_pictured

    def _done(self, document: "Document", number: int, plan: "Plan | None") -> None:
        self._running = False
        is_last = number == self._wanted
        self._is_edit = self._is_edit and not is_last
        if document is not self._document():
            self._waiting.clear()
        elif plan is not None:
            document.follow(plan)
        if is_last:
            self.followed.emit()
        if not is_last or self._document().is_behind:
            self._start()
        self._go_on()
