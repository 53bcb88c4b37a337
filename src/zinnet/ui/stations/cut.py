"""Cut: the mats as they are loaded, the cutter at work, and test cuts."""

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QKeyEvent, QPainter

from zinnet.ui.card_page import CardPage
from zinnet.ui.cut.control import CutterControl
from zinnet.ui.cut.cutter_page import CutterPage
from zinnet.ui.cut.loading_page import LoadingPage
from zinnet.ui.cut.trial_page import TrialPage
from zinnet.ui.drawing import draw_chalk_text
from zinnet.ui.page_bar import Page, PageBar
from zinnet.ui.session import Session
from zinnet.ui.table import TableView
from zinnet.ui.theme import LARGE

PAGES: tuple[Page, ...] = (
    ("loading", "Loading", "What goes on each mat, and how (1)"),
    ("cutter", "Cutter", "Send a mat, and follow the cutter (2)"),
    ("trial", "Test cut", "What to set for a film, and what to try next (3)"),
)
PAGE_TOP = 52


class CutStation(TableView):
    """The pages of cutting."""

    def __init__(self, session: Session) -> None:
        super().__init__(session, "Cutting")
        self.control = CutterControl(session)
        self.page = "loading"
        self.pages: dict[str, CardPage] = {
            "loading": LoadingPage(self.control),
            "cutter": CutterPage(self.control),
            "trial": TrialPage(self.control),
        }
        for page in self.pages.values():
            page.setParent(self)
        self.page_bar = PageBar(self, PAGES)
        self.page_bar.chosen.connect(self.show_page)
        self.show_page("loading")

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
        """Write what the table is about."""
        draw_chalk_text(painter, QPointF(self.width() / 2, 26), "Cut", bold=True, pixels=LARGE)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Go to a page by its number."""
        number = event.key() - Qt.Key.Key_1
        if 0 <= number < len(PAGES) and not event.modifiers():
            self.show_page(PAGES[number][0])
        else:
            super().keyPressEvent(event)
