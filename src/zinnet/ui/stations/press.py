"""Press: the steps, where the platen goes, the recipes, and the timeline."""

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QKeyEvent, QPainter

from zinnet.ui.card_page import CardPage
from zinnet.ui.drawing import draw_chalk_text
from zinnet.ui.page_bar import Page, PageBar
from zinnet.ui.press.control import PressControl
from zinnet.ui.press.places_page import PlacesPage
from zinnet.ui.press.recipes_page import RecipesPage
from zinnet.ui.press.steps_page import StepsPage
from zinnet.ui.press.timeline_page import TimelinePage
from zinnet.ui.session import Session
from zinnet.ui.table import TableView
from zinnet.ui.theme import LARGE

PAGES: tuple[Page, ...] = (
    ("steps", "Steps", "What is done in which order (1)"),
    ("places", "Positions", "Where the platen goes, and how long each point is at heat (2)"),
    ("recipes", "Recipes", "What is known of each film on this fabric (3)"),
    ("timeline", "Timeline", "Who does what when, and how long it takes (4)"),
)
PAGE_TOP = 52


class PressStation(TableView):
    """The pages of pressing."""

    def __init__(self, session: Session) -> None:
        super().__init__(session, "Pressing")
        self.control = PressControl(session)
        self.page = "steps"
        self.pages: dict[str, CardPage] = {
            "steps": StepsPage(self.control),
            "places": PlacesPage(self.control),
            "recipes": RecipesPage(self.control),
            "timeline": TimelinePage(self.control),
        }
        for page in self.pages.values():
            page.setParent(self)
        self.page_bar = PageBar(self, PAGES)
        self.page_bar.chosen.connect(self.show_page)
        self.show_page("steps")

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
        draw_chalk_text(painter, QPointF(self.width() / 2 + 60, 26), "Press", bold=True, pixels=LARGE)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Go to a page by its number."""
        number = event.key() - Qt.Key.Key_1
        if 0 <= number < len(PAGES) and not event.modifiers():
            self.show_page(PAGES[number][0])
        else:
            super().keyPressEvent(event)
