"""Nesting beside the window: starts when pieces change, shows the best so far, stops at once."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QTimer, Signal

if TYPE_CHECKING:
    from zinnet.nesting.model import Layout
    from zinnet.nesting.running import NestRun
    from zinnet.plan.nests import FilmNest

SETTLE_MS = 350
TICK_MS = 120
MOST_WAIT_MS = 4000
"""So long the search waits at most for what is seen before it: the mends of the findings that are shown."""
NO_RESULT = "A nest ended without a result: its process was stopped from outside. The job is as it was; nest again."


class Nester(QObject):
    """Keeps the nests of the open job up to date. All its signals come in the window's thread."""

    better = Signal(str, object)
    progressed = Signal()
    failed = Signal(str)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._waiting: list[FilmNest] = []
        self._runs: dict[str, NestRun] = {}
        self._shown: dict[str, Layout] = {}
        self._seconds = 0.0
        self._elapsed = 0.0
        self._held = False
        self._patience = QTimer(self, singleShot=True, interval=MOST_WAIT_MS)
        self._patience.timeout.connect(self._begin)
        self._settle = QTimer(self, singleShot=True, interval=SETTLE_MS)
        self._settle.timeout.connect(self._start)
        self._tick = QTimer(self, interval=TICK_MS)
        self._tick.timeout.connect(self._look)

    @property
    def is_running(self) -> bool:
        """Whether a nest is being made or about to be."""
        return bool(self._runs or self._waiting or self._settle.isActive())

    @property
    def share(self) -> float:
        """How much of the time allowed has passed, 0 to 1."""
        return min(1.0, self._elapsed / self._seconds) if self._seconds else 0.0

    def hold(self, held: bool) -> None:
        """Begin no nest while something is in the hand: its pieces change with every movement."""
        self._held = held
        self._begin()

    def stand_back(self, wanted: bool) -> None:
        """Begin no nest, for a while at most, as long as something is worked out that is seen before it."""
        if not wanted:
            self._patience.stop()
            self._begin()
        elif not self._patience.isActive():
            self._patience.start()

    def _begin(self) -> None:
        if self._waiting and not self._waits:
            self._settle.start()

    @property
    def _waits(self) -> bool:
        return self._held or self._patience.isActive()

    def follow(self, nests: tuple["FilmNest", ...]) -> None:
        """Nest what has no nest yet; runs that are no longer asked for are stopped."""
        wanted = {nest.key for nest in nests}
        for key in [key for key in self._runs if key not in wanted]:
            self._runs.pop(key).abandon()
        known = {*self._runs, *(nest.key for nest in self._waiting)}
        missing = [nest for nest in nests if nest.layout is None and not nest.waits and nest.key not in known]
        self._waiting = [nest for nest in self._waiting if nest.key in wanted] + missing
        self._begin()
        self.progressed.emit()

    def stop(self) -> None:
        """Stop at once; the best so far is kept."""
        self._settle.stop()
        self._waiting.clear()
        for key, run in list(self._runs.items()):
            best = run.cancel()
            if best is not None and self._shown.get(key) is not best:
                self.better.emit(key, best)
        self._runs.clear()
        self._tick.stop()
        self.progressed.emit()

    def settle(self, key: str) -> None:
        """End the search for one nest, so that nothing moves below the hand; its best is kept, all others go on."""
        run = self._runs.pop(key, None)
        if run is not None:
            best = run.cancel()
            if best is not None and self._shown.get(key) is not best:
                self.better.emit(key, best)
            self.progressed.emit()

    def _start(self) -> None:
        if self._waits:
            return
        self._seconds = max((nest.task.seconds for nest in self._waiting), default=0.0) + 0.5
        self._elapsed = 0.0
        self._tick.start()
        self._feed()

    def _feed(self) -> None:
        from zinnet.nesting.running import NestRun

        while self._waiting and not self._waits and len(self._runs) < 2:
            nest = self._waiting.pop(0)
            self._runs[nest.key] = NestRun(nest.task)

    def _look(self) -> None:
        """Pass on what became better since the last look."""
        self._elapsed += TICK_MS / 1000
        for key, run in list(self._runs.items()):
            best = run.best
            if best is not None and self._shown.get(key) is not best:
                self._shown[key] = best
                self.better.emit(key, best)
            if not run.is_running:
                self._runs.pop(key, None)
                if run.best is None:
                    self.failed.emit(NO_RESULT)
        if self._waiting and len(self._runs) < 2:
            self._elapsed = 0.0
            self._feed()
        if not self._runs and not self._waiting:
            self._tick.stop()
            self._shown.clear()
        self.progressed.emit()
