"""After the window is up: what it will need is imported beside it, then what was asked for is opened."""

import gc
import threading
from collections import deque
from importlib import import_module

from PySide6.QtCore import QObject, QTimer, Signal

TO_OPEN = (
    "zinnet.bench.document",
    "zinnet.workshop.opening",
    "zinnet.bench.from_strangers",
    "zinnet.demo",
    "zinnet.plan.changes",
    "zinnet.plan.safe",
)
"""What opening a job needs, imported in a thread. Nothing of it uses Qt, whose types may be made in one thread only."""
TO_GO_ON = (
    "zinnet.bench.press_run",
    "zinnet.bench.cutting_run",
    "zinnet.cutting.stand_in.port",
    "zinnet.output.cut_files",
    "zinnet.workshop.cutbook",
    "zinnet.nesting.by_hand",
)
"""What the stations need besides."""
STATIONS = (
    "stations.fit",
    "sheets.placement",
    "sheets.blank",
    *(f"stations.{name}" for name in ("measure", "artwork", "split", "nest", "cut", "press", "log")),
)
"""What is likely to be looked at next, imported by the window itself, one in each turn of its loop."""
TURN_MS = 20


class WarmUp(QObject):
    """Imports beside the window. Whoever asks for a module meanwhile waits for that one and for no other."""

    opens = Signal()
    """All is there that a job needs to be opened."""
    ended = Signal()
    """All is there that the stations are made of."""
    _imported = Signal()

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._left = deque(STATIONS)
        self._timer = QTimer(self, interval=TURN_MS)
        self._timer.timeout.connect(self._import_next)
        self._imported.connect(self._timer.start)
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
        self._imported.emit()
        prepare()

    def _import_next(self) -> None:
        import_module(f"zinnet.ui.{self._left.popleft()}")
        if not self._left:
            self._timer.stop()
            self.ended.emit()


def keep_for_good() -> None:
    """Look no more at what was imported when garbage is collected: it stays, and looking at it takes a tenth of a s."""
    gc.freeze()


def prepare() -> None:
    """Start the processes that the next file and the next nest will need."""
    from zinnet.bench.bounded import prepare_reader
    from zinnet.nesting.running import prepare_workers

    prepare_reader()
    prepare_workers(1)
