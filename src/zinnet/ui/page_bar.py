"""Small buttons at the upper left of the table: the ways to look at one station."""

from collections.abc import Sequence

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from zinnet.ui.language import tr
from zinnet.ui.plain import plain

Page = tuple[str, str, str]
"""A page's name, what its button says, and its tip."""

FIT_PAGES: tuple[Page, ...] = (
    ("table", "Blank", "The design on the blank (Ctrl+3)"),
    ("sizes", "Sizes", "The design on every size of the job (Ctrl+K)"),
    ("names", "Names", "A list of names, each on a garment of its own (Ctrl+M)"),
    ("order", "Order", "What is ordered, what is there, when it is done and what it costs (Ctrl+B)"),
    ("compare", "Side by side", "Two widths, methods or sizes side by side (Ctrl+J)"),
)


class PageBar(QWidget):
    """A row of buttons of which one is pressed."""

    chosen = Signal(str)

    def __init__(self, parent: QWidget, pages: Sequence[Page]) -> None:
        super().__init__(parent)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
        self.buttons: dict[str, QPushButton] = {}
        for name, text, tip in pages:
            button = QPushButton(tr(text))
            button.setCheckable(True)
            button.setToolTip(plain(tr(tip)))
            button.setProperty("small", True)
            button.clicked.connect(lambda checked=False, name=name: self.chosen.emit(name))
            self.buttons[name] = button
            row.addWidget(button)
        self.move(10, 12)
        self.adjustSize()

    def select(self, page: str) -> None:
        """Mark the page that is shown."""
        for name, button in self.buttons.items():
            button.setChecked(name == page)
        self.adjustSize()
