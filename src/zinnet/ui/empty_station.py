"""What a station says while there is nothing on the table for it: what is missing, and the buttons for it."""

from collections.abc import Callable

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QBrush, QPainter, QPaintEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from zinnet.ui.drawing import felt_tile
from zinnet.ui.language import tr
from zinnet.ui.plain import Label, plain
from zinnet.ui.theme import font

HEAD_PX, WIDTH = 22, 500
SAID = {
    "artwork": "Here a drawing is cleaned, thickened, lettered and joined.",
    "fit": "Here it is sized and placed on the blank, and held against the guides.",
    "split": "Here it becomes one layer for each film, and you choose the films.",
    "nest": "Here the pieces of all garments are laid on mats, so that little film is wasted.",
    "cut": "Here each mat is loaded, tried and sent to the cutter, or written as a cut file.",
    "press": "Here the layers are pressed in their order, each at its heat and time.",
}
"""What a station is for, by its name."""


class EmptyStation(QWidget):
    """Says that there is no artwork yet, what the station is for, and offers the ways to bring some."""

    open_artwork = Signal()
    write_words = Signal()
    list_names = Signal()
    show_card = Signal()

    def __init__(self) -> None:
        super().__init__()
        card = QFrame()
        card.setProperty("card", "plain")
        card.setFixedWidth(WIDTH)
        head = Label(tr("No artwork yet"))
        head.setFont(font(HEAD_PX, bold=True))
        self.said = Label()
        self.said.setWordWrap(True)
        self.artwork = self._button("Open artwork ...", "A drawing or a picture (Ctrl+Shift+O)", self.open_artwork.emit)
        self.artwork.setProperty("strong", True)
        words = self._button("Write words", "A text in one of Zinnet's fonts (Ctrl+Shift+T)", self.write_words.emit)
        names = self._button("A list of names ...", "Each name on a garment of its own (Ctrl+M)", self.list_names.emit)
        back = self._button("Job card", "What was asked for (F7)", self.show_card.emit)
        row = QHBoxLayout()
        for button in (self.artwork, words, names, back):
            row.addWidget(button)
        column = QVBoxLayout(card)
        column.setContentsMargins(26, 22, 26, 22)
        column.setSpacing(14)
        column.addWidget(head)
        column.addWidget(self.said)
        column.addLayout(row)
        outer = QVBoxLayout(self)
        outer.addWidget(card, 0, Qt.AlignmentFlag.AlignCenter)

    def _button(self, text: str, tip: str, do: Callable[[], object]) -> QPushButton:
        button = QPushButton(tr(text))
        button.setToolTip(plain(tr(tip)))
        button.clicked.connect(lambda checked=False: do())
        return button

    def show_station(self, station: str) -> None:
        """Say what a station waits for."""
        self.said.setText(tr(SAID.get(station, SAID["fit"])))

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the felt."""
        with QPainter(self) as painter:
            painter.fillRect(self.rect(), QBrush(felt_tile()))
