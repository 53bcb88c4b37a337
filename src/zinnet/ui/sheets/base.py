"""What all property sheets share: a titled form, and a field for lengths."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QComboBox, QFormLayout, QHBoxLayout, QLabel, QLineEdit, QPushButton, QVBoxLayout, QWidget

from zinnet.base.errors import UnitsError
from zinnet.base.units import read_length, write_length
from zinnet.ui.language import tr
from zinnet.ui.plain import Label, plain
from zinnet.ui.theme import LARGE, SMALL, font

if TYPE_CHECKING:
    from zinnet.ui.session import Session


AROUND_PX = 17
"""What a field has beside its text."""


class LengthField(QLineEdit):
    """A length that is typed in any unit; a wrong one is given back with the reason."""

    def __init__(self, session: "Session", name: str, take: Callable[[float], bool]) -> None:
        super().__init__()
        self.session, self._take, self._mm = session, take, 0.0
        self.setAccessibleName(name)
        self.setToolTip(plain(f"{name}; type it like 270 mm, 27 cm or 10 1/2 in"))
        self.setMaximumWidth(120)
        self.editingFinished.connect(self._finish)

    def show_mm(self, mm: float) -> None:
        """Show a length, unless one is being typed."""
        self._mm = mm
        if not (self.hasFocus() and self.isModified()):
            self._write()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Leave the unit out where there is no room for it."""
        super().resizeEvent(event)
        if not self.isModified() and self.text():
            self._write()

    def _write(self) -> None:
        """Write the length, with its unit where that has room; what is in front is seen in any case."""
        unit = self.session.job.unit
        said = write_length(self._mm, unit=unit)
        if self.fontMetrics().horizontalAdvance(said) > self.width() - AROUND_PX:
            said = write_length(self._mm, unit=unit, with_unit=False)
        self.setText(said)
        self.setCursorPosition(0)

    def _finish(self) -> None:
        if not self.isModified():
            return
        self.setModified(False)
        try:
            mm = read_length(self.text(), unit=self.session.job.unit)
        except UnitsError as error:
            self.session.said.emit(str(error))
        else:
            self._take(mm)
        self.show_mm(self._mm)


class MayLength(LengthField):
    """A length that may be left open; empty is none."""

    def __init__(self, session: "Session", name: str, take: Callable[[float | None], bool]) -> None:
        super().__init__(session, name, take)
        self._take_any, self._open = take, True
        self.setPlaceholderText(tr("any"))

    def show_length(self, mm: float | None) -> None:
        """Show a length, or that there is none, unless one is being typed."""
        self._open = mm is None
        self.show_mm(mm or 0.0)

    def show_mm(self, mm: float) -> None:
        """Show a length, unless one is being typed."""
        super().show_mm(mm)
        if self._open and not (self.hasFocus() and self.isModified()):
            self.setText("")

    def _finish(self) -> None:
        if self.isModified() and not self.text().strip():
            self.setModified(False)
            self._take_any(None)
        else:
            super()._finish()


def _share(widget: QWidget) -> int:
    """Return how much of the room of its row a widget takes."""
    if isinstance(widget, QComboBox):
        return 3
    return {QPushButton: 1, Label: 0}.get(type(widget), 2)


class PropertySheet(QWidget):
    """A titled form."""

    def __init__(self, session: "Session", title: str) -> None:
        super().__init__()
        self.session = session
        head = Label(tr(title))
        head.setFont(font(LARGE, bold=True))
        self.form = QFormLayout()
        self.form.setContentsMargins(0, 0, 0, 0)
        self.form.setVerticalSpacing(6)
        self.form.setHorizontalSpacing(10)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(head)
        column.addLayout(self.form)
        column.addStretch(1)

    def add_row(self, name: str, widget: QWidget) -> None:
        """Add a named row."""
        label = Label(tr(name))
        label.setProperty("quiet", True)
        label.setBuddy(widget)
        self.form.addRow(label, widget)

    def add_pair(self, name: str, *widgets: QWidget) -> QWidget:
        """Add a named row of several small widgets, and return it."""
        row = QWidget()
        line = QHBoxLayout(row)
        line.setContentsMargins(0, 0, 0, 0)
        line.setSpacing(6)
        for widget in widgets:
            line.addWidget(widget, _share(widget))
        self.add_row(name, row)
        return row

    def make_label(self, name: str) -> QLabel:
        """Return the name of a second field in a row."""
        label = Label(tr(name))
        label.setProperty("quiet", True)
        label.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        return label

    def make_combo(self, name: str, tip: str, chosen: Callable[[], None]) -> QComboBox:
        """Return a combo box that keeps within the sheet; ``chosen`` is called where the user picks an entry."""
        combo = QComboBox()
        combo.setAccessibleName(tr(name))
        combo.setToolTip(plain(tr(tip)))
        combo.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        combo.setMinimumContentsLength(5)
        combo.activated.connect(lambda index: chosen())
        return combo

    def add_note(self) -> QLabel:
        """Add a line of small text across the sheet."""
        note = Label()
        note.setFont(font(SMALL))
        note.setProperty("quiet", True)
        note.setWordWrap(True)
        self.form.addRow(note)
        return note

    def follow(self) -> None:
        """Show the plan."""
