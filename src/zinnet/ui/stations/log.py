"""Log: what was made, and what it says."""

from typing import TYPE_CHECKING

from zinnet.ui.log.entries_page import EntriesPage
from zinnet.ui.log.numbers_page import NumbersPage
from zinnet.ui.stations.paged import PagedStation

if TYPE_CHECKING:
    from zinnet.ui.page_bar import Page
    from zinnet.ui.session import Session

PAGES: tuple["Page", ...] = (
    ("entries", "Entries", "What was made, to find, judge and do again (1)"),
    ("numbers", "Numbers", "Waste, minutes, and which film and setting worked (2)"),
)


class LogStation(PagedStation):
    """The pages of the log."""

    def __init__(self, session: "Session") -> None:
        self.entries = EntriesPage(session)
        pages = {"entries": self.entries, "numbers": NumbersPage(session)}
        super().__init__(session, "Log", "Log", PAGES, pages)
