"""Beside the blank on the Measure table: the sizes of the job, each with what is still typical of it."""

from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QPushButton, QWidget

from zinnet.ui.language import tr
from zinnet.ui.lines_card import LinesCard
from zinnet.ui.plain import Label, plain
from zinnet.ui.sizes_view import in_order
from zinnet.ui.theme import PLAIN

if TYPE_CHECKING:
    from zinnet.plan.fitted import Garment
    from zinnet.ui.session import Session

WIDTH, EDGE_PX = 148, 10
LEFT, TOP = 14, 62
MEASURED, TYPICAL = "✓", "~"


class MeasureSizes(LinesCard):
    """A line for each size that is made; a press brings it to the table."""

    def __init__(self, session: "Session", parent: QWidget) -> None:
        super().__init__(tr("Sizes"), PLAIN, EDGE_PX, parent)
        self._session = session
        self.setAccessibleName(tr("The sizes of the job"))
        self.setFixedWidth(WIDTH)
        self.move(LEFT, TOP)
        self.lines: list[tuple[QPushButton, Label]] = []
        session.plan_changed.connect(self.follow)
        self.follow()

    def follow(self) -> None:
        """Show the sizes, where there are several."""
        garments = in_order(self._session) if self._session.is_begun else []
        self.setVisible(len(garments) > 1)
        if len(garments) < 2:
            return
        while len(self.lines) < len(garments):
            self.lines.append(self.add_line(partial(self._look, len(self.lines))))
        for number, (button, said) in enumerate(self.lines):
            there = number < len(garments)
            button.setVisible(there)
            said.setVisible(there)
            if there:
                self._show(button, said, garments[number])
        self.adjustSize()

    def _show(self, button: QPushButton, said: Label, garment: "Garment") -> None:
        blank = garment.blank
        name, left = blank.name.rpartition(", ")[2], len(blank.measures) - len(blank.measured)
        button.setText(f"{TYPICAL if left else MEASURED}  {name}")
        button.setCheckable(True)
        button.setChecked(garment is self._session.selection.garment)
        button.setToolTip(plain(f"Measure {name}; {garment.copies} are made"))
        said.setText(f"{left} of {len(blank.measures)} typical" if left else tr("all measured"))

    def _look(self, number: int) -> None:
        self._session.selection.look_at(size=in_order(self._session)[number].size)
