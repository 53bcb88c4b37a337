"""Cut: the mats as they are loaded, the cutter at work, and test cuts."""

from typing import TYPE_CHECKING

from zinnet.ui.cut.cutter_page import CutterPage
from zinnet.ui.cut.loading_page import LoadingPage
from zinnet.ui.cut.trial_page import TrialPage
from zinnet.ui.stations.paged import PagedStation

if TYPE_CHECKING:
    from zinnet.ui.cut.control import CutterControl
    from zinnet.ui.page_bar import Page
    from zinnet.ui.session import Session

PAGES: tuple["Page", ...] = (
    ("loading", "Loading", "What goes on each mat, and how (1)"),
    ("cutter", "Cutter", "Send a mat, and follow the cutter (2)"),
    ("trial", "Test cut", "What to set for a film, and what to try next (3)"),
)


class CutStation(PagedStation):
    """The pages of cutting."""

    def __init__(self, session: "Session", control: "CutterControl") -> None:
        self.control = control
        pages = {
            "loading": LoadingPage(self.control),
            "cutter": CutterPage(self.control),
            "trial": TrialPage(self.control),
        }
        super().__init__(session, "Cutting", "Cut", PAGES, pages)
