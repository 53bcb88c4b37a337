"""Beside the card of a job: what is done, and what is still missing, station by station."""

from collections.abc import Sequence
from typing import TYPE_CHECKING

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QFrame, QPushButton, QVBoxLayout

from zinnet.ui.language import tr
from zinnet.ui.plain import Label, plain
from zinnet.ui.theme import LARGE, SMALL, font

if TYPE_CHECKING:
    from zinnet.plan.progress import Point

DONE, OPEN = "✓", "·"


class WayCard(QFrame):
    """A line for each station: done, or what is missing there. A press goes there."""

    chosen = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.setProperty("card", "plain")
        head = Label(tr("The way through"))
        head.setFont(font(LARGE, bold=True))
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(18, 16, 18, 16)
        self._column.setSpacing(0)
        self._column.addWidget(head)
        self._column.addSpacing(6)
        self.lines: dict[str, tuple[QPushButton, Label]] = {}

    def show_way(self, way: "Sequence[Point]") -> None:
        """Show what is done and what is missing."""
        if not self.lines:
            if not way:
                return
            self._make(way)
        for point in way:
            button, missing = self.lines[point.station]
            name = tr(point.station.capitalize())
            button.setText(f"{DONE if point.is_done else OPEN}  {name}")
            button.setToolTip(plain(f"Go to {name}: {point.missing or 'done'}"))
            missing.setText(tr("done") if point.is_done else point.missing)

    def _make(self, way: "Sequence[Point]") -> None:
        for point in way:
            button, missing = QPushButton(), Label()
            button.setProperty("line", True)
            button.clicked.connect(lambda checked=False, station=point.station: self.chosen.emit(station))
            missing.setFont(font(SMALL))
            missing.setProperty("quiet", True)
            missing.setWordWrap(True)
            missing.setIndent(24)
            self.lines[point.station] = button, missing
            self._column.addWidget(button)
            self._column.addWidget(missing)
            self._column.addSpacing(7)
        self._column.addStretch(1)
