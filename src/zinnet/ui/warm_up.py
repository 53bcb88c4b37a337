"""After the window is up: what it will need is imported beside it, then what was asked for is opened."""

import gc
import threading
from importlib import import_module

from PySide6.QtCore import QObject, QTimer, Signal

TO_OPEN = (
    "zinnet.bench.document",
    "zinnet.workshop.opening",
    "zinnet.bench.from_strangers",
    "zinnet.demo",
    "zinnet.ui.stations.fit",
    "zinnet.ui.sheets.placement",
)
"""What opening a job needs."""
TO_GO_ON = (
    "zinnet.ui.sheets.blank",
    *(f"zinnet.ui.stations.{name}" for name in ("measure", "artwork", "split", "nest", "cut", "press", "log")),
    "zinnet.ui.press.control",
    "zinnet.ui.cut.control",
)
"""What is likely to be looked at next."""


class WarmUp(QObject):
    """Imports beside the window. Whoever asks for a module meanwhile waits for that one and for no other."""

    opens = Signal()
    """All is there that a job needs to be opened."""
    ended = Signal()
    """All is there that the stations are made of."""

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.ended.connect(keep_for_good)

    def begin(self) -> None:
        """Begin, once the window is drawn."""
        QTimer.singleShot(0, threading.Thread(target=self._run, name="warm-up", daemon=True).start)

    def _run(self) -> None:
        for module in TO_OPEN:
            import_module(module)
        self.opens.emit()
        for module in TO_GO_ON:
            import_module(module)
        self.ended.emit()
        prepare()


def keep_for_good() -> None:
    """Look no more at what was imported when garbage is collected: it stays, and looking at it takes a tenth of a s."""
    gc.freeze()


def prepare() -> None:
    """Start the processes that the next file and the next nest will need."""
    from zinnet.bench.bounded import prepare_reader
    from zinnet.nesting.running import prepare_workers

    prepare_reader()
    prepare_workers(1)
