"""The ruler's readings of a piece that was laid: what each length really is, and where the piece lies by that."""

import math
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QDialog, QDialogButtonBox, QGridLayout, QLineEdit, QVBoxLayout, QWidget

from zinnet.base.errors import ZinnetError
from zinnet.base.units import read_length
from zinnet.placement.slips import Slip, located
from zinnet.ui.language import tr
from zinnet.ui.plain import Label, Wrapped
from zinnet.ui.theme import LARGE, colour, font

if TYPE_CHECKING:
    from zinnet.base.units import Unit
    from zinnet.plan.in_hand import InHand

WIDTH = 620


class Readings(QDialog):
    """Asks for the four lengths as they are; :attr:`slip` is how the piece lies by them."""

    def __init__(self, parent: QWidget, hand: "InHand", unit: "Unit") -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Where does it lie?"))
        self.setMinimumWidth(WIDTH)
        self._hand, self._unit = hand, unit
        self.slip: Slip | None = None
        self.fields: list[QLineEdit] = []
        grid = QGridLayout()
        for row, (letter, length, said) in enumerate(hand.rows(unit)):
            mark, about, field = Label(letter), Wrapped(), QLineEdit()
            mark.setFont(font(LARGE, bold=True))
            about.setText(said)
            field.setFont(font(LARGE))
            field.setPlaceholderText(f"planned {length}")
            field.setAccessibleName(f"{letter}: {said}")
            for column, widget in enumerate((mark, about, field)):
                grid.addWidget(widget, row, column)
            self.fields.append(field)
        grid.setColumnStretch(1, 1)
        self.wrong = Wrapped()
        self.wrong.setStyleSheet(f"QLabel {{ color: {colour('stop').name()}; }}")
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Cancel)
        self.take = buttons.addButton(tr("It lies like this"), QDialogButtonBox.ButtonRole.AcceptRole)
        self.take.setProperty("strong", True)
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        column_of = QVBoxLayout(self)
        column_of.addLayout(grid)
        column_of.addWidget(self.wrong)
        column_of.addWidget(buttons)

    def accept(self) -> None:
        """Work out where the piece lies; what makes no sense is said, and the dialog stays. Empty is as planned."""
        readings = []
        for field, length in zip(self.fields, self._hand.laying.lengths, strict=True):
            text = field.text().strip()
            try:
                read = read_length(text, unit=self._unit) if text else abs(length.mm)
            except ZinnetError as error:
                self.wrong.setText(str(error))
                field.setFocus()
                return
            readings.append(math.copysign(read, length.mm))
        try:
            self.slip = located(self._hand.laying, readings, self._hand.region)
        except ZinnetError as error:
            self.wrong.setText(str(error))
            return
        super().accept()
