"""A station whose table is covered by pages: one is shown, chosen by its button or its number."""

from collections.abc import Mapping, Sequence
from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QKeyEvent, QPainter

from zinnet.ui.drawing import draw_chalk_text
from zinnet.ui.page_bar import Page, PageBar
from zinnet.ui.table import TableView
from zinnet.ui.theme import LARGE

if TYPE_CHECKING:
    from zinnet.ui.card_page import CardPage
    from zinnet.ui.session import Session

PAGE_TOP = 52


class PagedStation(TableView):
    """Pages over the table, below a row of buttons."""

    def __init__(self, session: "Session", name: str, title: str, bar: Sequence[Page], pages: Mapping[str, "CardPage"]):
        super().__init__(session, name)
        self._title, self._bar = title, tuple(bar)
        self.pages = dict(pages)
        for page in self.pages.values():
            page.setParent(self)
        self.page_bar = PageBar(self, bar)
        self.page_bar.chosen.connect(self.show_page)
        self.page = bar[0][0]
        self.show_page(self.page)

    def resizeEvent(self, event: object) -> None:
        """Keep the pages over all of the table."""
        super().resizeEvent(event)  # type: ignore[arg-type]
        for page in self.pages.values():
            page.setGeometry(16, PAGE_TOP, self.width() - 32, self.height() - PAGE_TOP - 16)

    def show_page(self, page: str) -> None:
        """Show one of the pages."""
        self.page = page
        self.page_bar.select(page)
        for name, widget in self.pages.items():
            widget.setVisible(name == page)

    def paint_table(self, painter: QPainter) -> None:
        """Write what the table is about, beside the buttons."""
        middle = max(self.width() / 2, self.page_bar.geometry().right() + 60)
        draw_chalk_text(painter, QPointF(middle, 26), self._title, bold=True, pixels=LARGE)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Go to a page by its number."""
        number = event.key() - Qt.Key.Key_1
        if 0 <= number < len(self._bar) and not event.modifiers():
            self.show_page(self._bar[number][0])
        else:
            super().keyPressEvent(event)
