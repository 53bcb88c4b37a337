"""Beside the blank on the Measure table: the sizes of the job, each with what is still typical of it."""

from typing import TYPE_CHECKING

from PySide6.QtWidgets import QFrame, QPushButton, QVBoxLayout, QWidget

from zinnet.ui.language import tr
from zinnet.ui.plain import Label, plain
from zinnet.ui.sizes_view import in_order
from zinnet.ui.theme import PLAIN, SMALL, font

if TYPE_CHECKING:
    from zinnet.plan.fitted import Garment
    from zinnet.ui.session import Session

WIDTH = 148
LEFT, TOP = 14, 62
MEASURED, TYPICAL = "✓", "~"


class MeasureSizes(QFrame):
    """A line for each size that is made; a press brings it to the table."""

    def __init__(self, session: "Session", parent: QWidget) -> None:
        super().__init__(parent)
        self._session = session
        self.setProperty("card", "plain")
        self.setAccessibleName(tr("The sizes of the job"))
        self.setFixedWidth(WIDTH)
        self.move(LEFT, TOP)
        head = Label(tr("Sizes"))
        head.setFont(font(PLAIN, bold=True))
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(12, 10, 8, 10)
        self._column.setSpacing(0)
        self._column.addWidget(head)
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
            self._add_line()
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

    def _add_line(self) -> None:
        button, said, number = QPushButton(), Label(), len(self.lines)
        button.setProperty("line", True)
        button.clicked.connect(lambda checked=False: self._look(number))
        said.setFont(font(SMALL))
        said.setProperty("quiet", True)
        said.setIndent(22)
        self.lines.append((button, said))
        self._column.addWidget(button)
        self._column.addWidget(said)

    def _look(self, number: int) -> None:
        self._session.selection.look_at(size=in_order(self._session)[number].size)
