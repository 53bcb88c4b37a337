"""The three ways to look at a fit: on the table, on all sizes, side by side with another choice."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QWidget

PAGES = (("table", "On the blank"), ("sizes", "Sizes"), ("compare", "Side by side"))
TIPS = {
    "table": "The design on the blank (Ctrl+3)",
    "sizes": "The design on every size of the job (Ctrl+K)",
    "compare": "Two widths, schools or sizes side by side (Ctrl+J)",
}


class PageBar(QWidget):
    """Three small buttons at the upper left of the table."""

    chosen = Signal(str)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
        self.buttons: dict[str, QPushButton] = {}
        for name, said in PAGES:
            button = QPushButton(said)
            button.setCheckable(True)
            button.setToolTip(TIPS[name])
            button.setStyleSheet("QPushButton { padding: 2px 8px; min-height: 16px; }")
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
