"""Press: the steps, where the platen goes, the recipes, and the timeline."""

from typing import TYPE_CHECKING

from zinnet.ui.press.hem_page import HemPage
from zinnet.ui.press.places_page import PlacesPage
from zinnet.ui.press.recipes_page import RecipesPage
from zinnet.ui.press.steps_page import StepsPage
from zinnet.ui.press.timeline_page import TimelinePage
from zinnet.ui.stations.paged import PagedStation

if TYPE_CHECKING:
    from zinnet.ui.page_bar import Page
    from zinnet.ui.press.control import PressControl
    from zinnet.ui.session import Session

PAGES: tuple["Page", ...] = (
    ("steps", "Steps", "What is done in which order (1)"),
    ("places", "Positions", "Where the platen goes, and how long each point is at heat (2)"),
    ("recipes", "Recipes", "What is known of each film on this fabric (3)"),
    ("timeline", "Timeline", "Who does what when, and how long it takes (4)"),
    ("hem", "Hem test", "Small bars on a hem: which heat and time this cloth and film bear (5)"),
)


class PressStation(PagedStation):
    """The pages of pressing."""

    def __init__(self, session: "Session", control: "PressControl") -> None:
        self.control = control
        pages = {
            "steps": StepsPage(self.control),
            "places": PlacesPage(self.control),
            "recipes": RecipesPage(self.control),
            "timeline": TimelinePage(self.control),
            "hem": HemPage(self.control),
        }
        super().__init__(session, "Pressing", "Press", PAGES, pages)
