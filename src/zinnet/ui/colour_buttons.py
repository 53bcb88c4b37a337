"""Buttons that show a colour and let another one be picked."""

from collections.abc import Callable
from functools import partial
from typing import Any

from PySide6.QtGui import QColor
from PySide6.QtWidgets import QColorDialog, QHBoxLayout, QPushButton, QWidget

from zinnet.ui.theme import colour

MOST = 6


class ColourButton(QPushButton):
    """One colour; a click picks another. An optional one begins with none."""

    def __init__(self, take: Callable[[str | None], None], *, optional: bool = False) -> None:
        super().__init__()
        self._take, self._optional = take, optional
        self.value: str | None = None
        self.setFixedHeight(24)
        self.clicked.connect(self.pick)

    def show_value(self, value: str | None) -> None:
        """Show a colour."""
        self.value = value
        plain = value or colour("card_light").name()
        ink = "#000000" if QColor(plain).lightnessF() > 0.5 else "#ffffff"
        self.setText(value or "by itself")
        self.setStyleSheet(f"QPushButton {{ background: {plain}; color: {ink}; padding: 1px 8px; min-height: 16px; }}")

    def pick(self) -> None:
        """Ask for a colour."""
        chosen = QColorDialog.getColor(QColor(self.value or "#ffffff"), self, "Choose a colour")
        if chosen.isValid():
            self._take(chosen.name())


class ColourRow(QWidget):
    """Several colours in a row, with one more or one less."""

    def __init__(self, take: Callable[[tuple[str, ...]], None]) -> None:
        super().__init__()
        self._take = take
        self.values: tuple[str, ...] = ()
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(0, 0, 0, 0)
        self._row.setSpacing(4)

    def show_value(self, values: Any) -> None:
        """Show the colours."""
        if tuple(values) == self.values:
            return
        self.values = tuple(values)
        while self._row.count():
            item = self._row.takeAt(0)
            widget = item.widget() if item is not None else None
            if widget is not None:
                widget.hide()
                widget.deleteLater()
        for index, value in enumerate(self.values):
            button = ColourButton(partial(self._change, index))
            button.show_value(value)
            button.setText("")
            button.setAccessibleName(f"Colour {index + 1}, {value}")
            self._row.addWidget(button, 1)
        for sign, can, longer in (("+", len(self.values) < MOST, True), ("−", len(self.values) > 1, False)):
            small = QPushButton(sign)
            small.setFixedSize(24, 24)
            small.setStyleSheet("QPushButton { padding: 0; min-height: 16px; }")
            small.setEnabled(can)
            small.setAccessibleName("One more" if longer else "One less")
            small.clicked.connect(lambda checked=False, longer=longer: self._lengthen(longer))
            self._row.addWidget(small)

    def _lengthen(self, longer: bool) -> None:
        self._take((*self.values, self.values[-1]) if longer else self.values[:-1])

    def _change(self, index: int, chosen: str | None) -> None:
        if chosen is not None:
            self._take((*self.values[:index], chosen, *self.values[index + 1 :]))
