"""Where a job begins in the window: its card, and what a station says that has no artwork yet."""

from typing import TYPE_CHECKING

from zinnet.ui.card.page import JobCardPage
from zinnet.ui.empty_station import EmptyStation
from zinnet.ui.new_designs import new_text

if TYPE_CHECKING:
    from zinnet.ui.menus import Desk


def make_card(window: "Desk") -> JobCardPage:
    """Return the job card of a window, its buttons joined to what they do."""
    card = JobCardPage(window.session, window.session.automatic_copy.left_behind())
    card.begin.open_job.connect(window.files.choose_job)
    card.begin.open_demo.connect(window.files.open_demo)
    card.begin.open_recent.connect(window.files.opener.open_path)
    card.begin.restore.connect(window.files.opener.restore)
    card.way.chosen.connect(window.go_to)
    card.form.artwork.clicked.connect(window.files.choose_artwork)
    card.form.words.clicked.connect(lambda: window.begin_design(new_text(window.session)))
    card.form.names.clicked.connect(lambda: window.open_page("names"))
    card.form.order.clicked.connect(window.files.choose_order)
    card.form.next.clicked.connect(lambda: window.strip.go_on())
    return card


def make_empty(window: "Desk") -> EmptyStation:
    """Return what a station shows while there is no artwork, its buttons joined to what they do."""
    empty = EmptyStation()
    empty.open_artwork.connect(window.files.choose_artwork)
    empty.write_words.connect(lambda: window.begin_design(new_text(window.session)))
    empty.list_names.connect(lambda: window.open_page("names"))
    empty.show_card.connect(lambda: window.show_page("card"))
    return empty
