"""The large keys below a bench: for a hand that is hot, a finger on the screen, a foot switch or a presenter's keys."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from zinnet.ui.language import tr
from zinnet.ui.plain import plain
from zinnet.ui.theme import colour, font

SIDE = 28
WIDE, NARROW = 210, 104
"""Two thirds of a hand on a usual screen, and the least for a finger."""
ONWARD = (Qt.Key.Key_Space, Qt.Key.Key_Right, Qt.Key.Key_PageDown)
BACKWARD = (Qt.Key.Key_Backspace, Qt.Key.Key_Left, Qt.Key.Key_PageUp)
"""Also those of a presenter, and of a foot switch that is set to the space bar."""


@dataclass(frozen=True)
class LargeKey:
    """One of them: its name, what it says, which keys do the same, and what it does.

    The keys of one that ``always`` works do so while it is not shown, too.
    """

    name: str
    text: str
    keys: tuple[Qt.Key, ...]
    do: Callable[[], object]
    hint: str = ""
    main: bool = False
    always: bool = False


class LargeKeys(QWidget):
    """A row of large keys, the main one two thirds of a hand wide; they leave the keyboard to the bench."""

    def __init__(self, keys: Sequence[LargeKey]) -> None:
        super().__init__()
        self._keys = {one.name: one for one in keys}
        self.buttons = {one.name: QPushButton() for one in keys}
        row = QHBoxLayout(self)
        row.setContentsMargins(SIDE, 0, SIDE, 6)
        row.setSpacing(10)
        for name, button in self.buttons.items():
            key = self._keys[name]
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            button.setMinimumWidth(WIDE if key.main else NARROW)
            button.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
            button.setFont(font(26 if key.main else 18, bold=True))
            button.setProperty("large", True)
            if key.main:
                button.setProperty("strong", True)
            button.clicked.connect(key.do)
            row.addWidget(button, 3 if key.main else 1)
        self.show_these({})

    def put_below(self, bench: QWidget) -> None:
        """Lie at the foot of a bench that draws its card above them."""
        column = QVBoxLayout(bench)
        column.setContentsMargins(0, 0, 0, 0)
        column.addStretch(1)
        column.addWidget(self)

    def show_these(self, said: Mapping[str, str]) -> None:
        """Show those of these names, each saying what it does now."""
        for name, button in self.buttons.items():
            shown = name in said
            button.setVisible(shown)
            if shown and button.text() != said[name]:
                key = self._keys[name]
                button.setText(said[name])
                button.setAccessibleName(said[name])
                button.setToolTip(plain(f"{said[name]} ({tr(key.hint)})" if key.hint else said[name]))

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the felt below them."""
        with QPainter(self) as painter:
            painter.fillRect(self.rect(), colour("felt"))

    def take(self, event: QKeyEvent) -> bool:
        """Do what a key asks for; return whether one that is shown, or always works, answers to it."""
        pressed = Qt.Key(event.key())
        for name, key in self._keys.items():
            if pressed in key.keys and (key.always or not self.buttons[name].isHidden()):
                key.do()
                return True
        return False
