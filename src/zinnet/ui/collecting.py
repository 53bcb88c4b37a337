"""What Python's garbage collector takes away, taken away by the window's own thread.

Widgets and other things of Qt may only go in the thread that they belong to; the collector runs in whichever thread
makes the next object, also in one that works beside the window, and the program would crash there.
"""

import gc

from PySide6.QtCore import QObject, QTimer

EVERY_MS = 500


class Collecting(QObject):
    """Collects in the thread of its parent, as often as Python would, and never elsewhere."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        gc.disable()
        self._timer = QTimer(self, interval=EVERY_MS)
        self._timer.timeout.connect(collect)
        self._timer.start()


def collect() -> None:
    """Collect the oldest generation that has become too large, and those younger than it."""
    due = [
        generation
        for generation, (count, most) in enumerate(zip(gc.get_count(), gc.get_threshold(), strict=True))
        if count > most
    ]
    if due:
        gc.collect(max(due))
