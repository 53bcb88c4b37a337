"""A card of lines: each a button with what is said of it in small below."""

from collections.abc import Callable

from PySide6.QtWidgets import QFrame, QPushButton, QVBoxLayout, QWidget

from zinnet.ui.plain import Label
from zinnet.ui.theme import SMALL, font

INDENT = 24


class LinesCard(QFrame):
    """A head, and lines below it that are added as they are needed."""

    def __init__(self, title: str, head_px: int, edge_px: int, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setProperty("card", "plain")
        head = Label(title)
        head.setFont(font(head_px, bold=True))
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(edge_px, edge_px, edge_px, edge_px)
        self.column.setSpacing(0)
        self.column.addWidget(head)

    def add_line(self, pressed: Callable[[], object], *, gap_px: int = 0) -> tuple[QPushButton, Label]:
        """Add a line, and return its button and what is said below it."""
        button, said = QPushButton(), Label()
        button.setProperty("line", True)
        button.clicked.connect(lambda checked=False: pressed())
        said.setFont(font(SMALL))
        said.setProperty("quiet", True)
        said.setWordWrap(True)
        said.setIndent(INDENT)
        self.column.addWidget(button)
        self.column.addWidget(said)
        self.column.addSpacing(gap_px)
        return button, said
