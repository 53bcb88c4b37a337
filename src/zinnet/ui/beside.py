"""What works out beside the window what becomes of the open document."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, Signal

if TYPE_CHECKING:
    from zinnet.bench.document import Document
    from zinnet.plan.ahead import Ahead
    from zinnet.ui.background import Background


class Beside(QObject):
    """Derives in the background; what comes first of a plan is told :attr:`ahead` of it."""

    ahead = Signal(object)
    """What comes first of the plan: the picture."""
    refused = Signal(str)
    _seen = Signal(object, object)

    def __init__(
        self, background: "Background", document: Callable[[], "Document"], parent: QObject | None = None
    ) -> None:
        super().__init__(parent)
        self._background, self._document = background, document
        self.prepare: Callable[[Ahead], object] = lambda ahead: None
        """What makes ready, beside the window, that a look ahead is drawn."""
        self._seen.connect(self._look)

    def _show(self, ahead: "Ahead", document: "Document") -> None:
        """Let the window see what comes first, from the thread that works; its drawing is made ready there."""
        self.prepare(ahead)
        self._seen.emit(ahead, document)

    def _look(self, ahead: "Ahead", document: "Document") -> None:
        self._background.turns.take()
        if document is self._document() and self._is_shown(ahead):
            self.ahead.emit(ahead)

    def _is_shown(self, ahead: "Ahead") -> bool:
        """Tell whether what was seen ahead is still what is waited for."""
        return True
