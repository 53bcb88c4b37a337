"""Edits that take long to derive: worked out beside the window, then applied at once."""

from collections.abc import Callable
from typing import TYPE_CHECKING, NamedTuple

from PySide6.QtCore import QObject, Signal

from zinnet.ui.beside import Beside

if TYPE_CHECKING:
    from zinnet.bench.document import Document
    from zinnet.job.edits import Edit
    from zinnet.ui.background import Background


class _Asked(NamedTuple):
    document: "Document"
    edit: "Edit"
    then: Callable[[], None] | None
    commit: Callable[[], object] | None = None
    """What carries it out in the document, where it is no new edit: an undo."""


class LaterEdits(Beside):
    """A queue of edits. While one batch is worked out, what is asked for meanwhile waits and goes as the next.

    The plan is derived in the background; its stages are kept, so that applying the edits afterwards costs little.
    What comes first of the plan is told :attr:`ahead` of it; where more is asked for by then, the rest of the plan is
    left out, and the edits go with the next batch. An edit belongs to the document that was open when it was asked for:
    where another one is open by then, it is dropped, and that is said.
    """

    ready = Signal(object)

    def __init__(
        self, background: "Background", document: Callable[[], "Document"], parent: QObject | None = None
    ) -> None:
        super().__init__(background, document, parent)
        self._waiting: list[_Asked] = []
        self._running = False

    @property
    def is_busy(self) -> bool:
        """Whether an edit is being worked out."""
        return self._running

    def ask(
        self, edit: "Edit", then: Callable[[], None] | None = None, commit: Callable[[], object] | None = None
    ) -> None:
        """Work out an edit of the open job; :attr:`ready` follows with what to apply, and ``then`` is called last.

        ``commit`` carries it out in place of applying it.
        """
        self._waiting.append(_Asked(self._document(), edit, then, commit))
        if not self._running:
            self._start()

    def _start(self) -> None:
        from zinnet.plan.ahead import look_ahead
        from zinnet.plan.derive import derive

        batch, self._waiting = self._waiting, []
        document = self._document()
        edits = [one.edit for one in batch if one.document is document]
        job, workshop, layouts = document.job, document.workshop, dict(document.layouts)
        self._running = True

        def work() -> bool:
            changed = job
            with document.stages.in_use(), workshop.blanks.in_use():
                for edit in edits:
                    changed = edit.change(changed)
                self._show(look_ahead(changed, workshop), document)
                if self._waiting:
                    return False
                derive(changed, workshop, layouts)
            return True

        def done(whole: bool) -> None:
            if whole and (document is not self._document() or document.job is job):
                self._done(batch)
            else:
                self._again(batch)

        self._background.run(work, done, self._refuse)

    def _again(self, batch: list[_Asked]) -> None:
        self._waiting = [*batch, *self._waiting]
        self._start()

    def _done(self, batch: list[_Asked]) -> None:
        self._running = False
        document = self._document()
        own = [one for one in batch if one.document is document]
        self.ready.emit([(one.edit, one.commit) for one in own])
        if len(own) < len(batch):
            names = ", ".join(dict.fromkeys(one.edit.name for one in batch if one.document is not document))
            self.refused.emit(f"“{names}” was meant for a job that is no longer open; it was left out.")
        for one in own:
            if one.then is not None:
                one.then()
        self._go_on()

    def _refuse(self, sentence: str) -> None:
        self._running = False
        self.refused.emit(sentence)
        self._go_on()

    def _go_on(self) -> None:
        if self._waiting and not self._running:
            self._start()
