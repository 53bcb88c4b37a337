"""The guide in the window: the chapters at the left, the chosen one beside them."""

import re

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent, QTextBlockFormat, QTextCursor
from PySide6.QtWidgets import QHBoxLayout, QListWidget, QTextBrowser

from zinnet.desktop.guide import PICTURES, chapter, title_of
from zinnet.ui.card_page import CardPage
from zinnet.ui.language import tr
from zinnet.ui.theme import LARGE, colour, font

LIST_WIDTH, BELOW = 210, 7
LINK = re.compile(r"\[([^\]]+)\]\([^)]+\)")
"""Links lead to other pages of the documentation, which are not in the window."""


class GuidePage(CardPage):
    """The user guide."""

    left = Signal()

    def __init__(self) -> None:
        super().__init__("Guide")
        self.note.setText(tr("Esc or F1 goes back to the work."))
        self.chapters = QListWidget()
        self.chapters.setAccessibleName(tr("Chapters of the guide"))
        self.chapters.setFixedWidth(LIST_WIDTH)
        self.chapters.addItems([title_of(name) for name in PICTURES])
        self.chapters.currentRowChanged.connect(lambda row: self._show(list(PICTURES)[row]))
        self.text = QTextBrowser()
        self.text.setAccessibleName(tr("The chapter"))
        self.text.setFont(font(LARGE - 2))
        self.text.setOpenLinks(False)
        self.text.setTabChangesFocus(True)
        row = QHBoxLayout()
        row.setSpacing(16)
        row.addWidget(self.chapters)
        row.addWidget(self.text, 1)
        self.column.addLayout(row, 1)

    def open_at(self, name: str) -> None:
        """Show a chapter."""
        self.chapters.setCurrentRow(list(PICTURES).index(name))
        self._show(name)
        self.chapters.setFocus()

    def _show(self, name: str) -> None:
        self.text.setStyleSheet(
            f"QTextBrowser {{ background: {colour('card_light').name()}; color: {colour('ink').name()}; "
            "border-radius: 6px; padding: 8px 14px; border: none }"
        )
        self.text.setMarkdown(LINK.sub(r"\1", chapter(name)))
        cursor = QTextCursor(self.text.document())
        cursor.select(QTextCursor.SelectionType.Document)
        spaced = QTextBlockFormat()
        spaced.setBottomMargin(BELOW)
        cursor.mergeBlockFormat(spaced)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Leave with Escape."""
        if event.key() == Qt.Key.Key_Escape:
            self.left.emit()
        else:
            super().keyPressEvent(event)
