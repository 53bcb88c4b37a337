"""The job on one line, over all stations: what it is called, what was asked for, and what comes next."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLineEdit, QPushButton

from zinnet.ui.in_turn import InTurn
from zinnet.ui.language import tr
from zinnet.ui.plain import Elided, Label, plain
from zinnet.ui.theme import LARGE, font

if TYPE_CHECKING:
    from zinnet.plan.model import Plan
    from zinnet.plan.progress import Happened, Point
    from zinnet.ui.session import Session

LEAST_TITLE, TITLE_WIDTH = 190, 420
RENAME = "What the job is called; type another name here"
MOST_SIZES = 4
"""So many sizes are told one by one."""


class JobStrip(QFrame):
    """Title, counts and due date of the job, and the button that goes on with it."""

    chosen = Signal(str)
    """The station to go to."""
    went_on = Signal(object)
    """The way of the job, as it is told anew."""
    said = Signal(object, str, str)
    """The way of the job, in words what comes next, and what the button says."""
    card_asked = Signal()
    """The whole job card is asked for."""

    def __init__(self, session: "Session", station: Callable[[], str], happened: "Callable[[], Happened]") -> None:
        super().__init__()
        self._session, self._station, self._happened = session, station, happened
        self.way: tuple[Point, ...] = ()
        self._is_there = self._is_card = False
        self._next: Point | None = None
        self.where = ""
        """Where the button leads, in words."""
        self.setProperty("card", "top")
        self.title = QLineEdit()
        self.title.setObjectName("job-title")
        self.title.setFont(font(LARGE, bold=True))
        self.title.setMaximumWidth(TITLE_WIDTH)
        self.title.setMinimumWidth(LEAST_TITLE)
        self.title.setMaxLength(200)
        self.title.setAccessibleName(tr("What the job is called"))
        self.title.setToolTip(plain(tr(RENAME)))
        self.title.editingFinished.connect(self._rename)
        self.asked, self.missing = Elided(), Label()
        self.asked.setAccessibleName(tr("What was asked for"))
        self.missing.setProperty("quiet", True)
        self.card = QPushButton(tr("Job card"))
        self.card.setProperty("small", True)
        self.card.setToolTip(tr("The whole card: counts, sizes, colours, for whom, until when (F7)"))
        self.card.clicked.connect(self.card_asked)
        self.button = QPushButton()
        self.button.setProperty("strong", True)
        self.button.clicked.connect(self.go_on)
        row = QHBoxLayout(self)
        row.setContentsMargins(10, 4, 14, 4)
        row.setSpacing(14)
        row.addWidget(self.title, 4)
        row.addWidget(self.card)
        row.addWidget(self.asked, 5)
        row.addWidget(self.missing, 0, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        row.addWidget(self.button)
        InTurn(session, self.follow, self)
        session.busy_changed.connect(self.show_next)
        session.job_opened.connect(self._begin)
        self.hide()

    def follow(self) -> None:
        """Show the job, and what comes next."""
        session = self._session
        self._is_there = session.is_begun and (session.has_artwork or session.document.is_changed)
        self._show_where_it_belongs()
        if not self._is_there:
            return
        from zinnet.plan.progress import way_of

        plan = self._session.plan
        if not (self.title.hasFocus() and self.title.isModified()):
            self.title.setText(plan.job.title)
            self.title.setCursorPosition(0)
            self.title.setToolTip(plain(f"{plan.job.title}\n{tr(RENAME)}"))
        self.asked.show_whole(asked_for(plan))
        self.way = way_of(plan, self._happened())
        self.went_on.emit(self.way)
        self.show_next()

    def fold_out(self, is_card: bool) -> None:
        """Give way to the whole card, or come back."""
        self._is_card = is_card
        self._show_where_it_belongs()
        self.show_next()

    def _show_where_it_belongs(self) -> None:
        self.setVisible(self._is_there and not self._is_card)

    def _begin(self) -> None:
        """Show another job; a name that is half typed was meant for the one before."""
        self.title.setModified(False)
        self.follow()

    def show_next(self) -> None:
        """Show where to go on from the station that is on the table."""
        if not self.way:
            return
        from zinnet.plan.progress import next_of

        station = None if self._is_card else self._station()
        self._next = next_of(self.way, after=station)
        can = self._next is not None and not self._session.is_working
        self.button.setEnabled(can)
        if self._session.is_working:
            self._say(tr("checking ..."))
            return
        self.button.setText(tr("All is done") if self._next is None else f"Next: {self._next.station.capitalize()}")
        here = next((one.missing for one in self.way if one.station == station), "")
        after = "" if self._next is None else self._next.missing
        self.where = tr("Nothing is left to do") if self._next is None else f"Go on: {self._next.missing} (F8)"
        self.button.setToolTip(plain(self.where))
        self._say(f"Here: {here}" if here else after)

    def _say(self, text: str) -> None:
        self.missing.setText(text)
        self.said.emit(self.way, text, self.button.text())

    def go_on(self) -> None:
        """Go to the next station at which something is missing."""
        if self._next is not None:
            self.chosen.emit(self._next.station)

    def _rename(self) -> None:
        from zinnet.job.edits import set_title

        title = self.title.text().strip()
        self.title.setModified(False)
        if title and title != self._session.job.title:
            self._session.apply(set_title(title))
        else:
            self.title.setText(self._session.job.title)


def asked_for(plan: "Plan") -> str:
    """Return in words what was asked for: how many of which size, for whom, until when."""
    order = plan.job.order
    kind, count = plan.garments[0].blank.name.partition(", ")[0], len(plan.garments)
    sizes = ", ".join(f"{one.blank.name.rpartition(', ')[2]} {one.copies}" for one in plan.garments)
    if count == 1:
        said = [f"{plan.copies} x {plan.garments[0].blank.name}"]
    else:
        said = [f"{kind}: {sizes}" if count <= MOST_SIZES else f"{kind}: {plan.copies} in {count} sizes"]
    if order.customer:
        said.append(f"for {order.customer}")
    if order.due is not None:
        said.append(f"due {order.due:%-d %B}")
    return "  ·  ".join(said)
