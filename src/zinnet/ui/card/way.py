"""Beside the card of a job: what is done, and what is still missing, station by station."""

from collections.abc import Sequence
from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QPushButton

from zinnet.ui.language import tr
from zinnet.ui.lines_card import LinesCard
from zinnet.ui.plain import Label, plain
from zinnet.ui.theme import LARGE

if TYPE_CHECKING:
    from zinnet.plan.progress import Point

DONE, OPEN = "✓", "·"
EDGE_PX, GAP_PX = 18, 7


class WayCard(LinesCard):
    """A line for each station: done, or what is missing there. A press goes there."""

    chosen = Signal(str)

    def __init__(self) -> None:
        super().__init__(tr("The way through"), LARGE, EDGE_PX)
        self.column.addSpacing(GAP_PX)
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
            self.lines[point.station] = self.add_line(partial(self.chosen.emit, point.station), gap_px=GAP_PX)
        self.column.addStretch(1)
