"""What was asked for: title, for whom, until when, on what, how many, and what is put on it."""

import datetime
from typing import TYPE_CHECKING, Any

from PySide6.QtWidgets import QComboBox, QFrame, QGridLayout, QHBoxLayout, QLineEdit, QPushButton, QVBoxLayout, QWidget

from zinnet.base.days import read_day
from zinnet.base.errors import ZinnetError
from zinnet.ui.card.grid import AskedGrid
from zinnet.ui.language import tr
from zinnet.ui.plain import Elided, Label, plain
from zinnet.ui.theme import SMALL, font

if TYPE_CHECKING:
    from zinnet.job.model import Job
    from zinnet.ui.session import Session

TITLE_PX, LINE_PX, KIND_PX = 26, 30, 260
UNTITLED = "Untitled"
MOST_LETTERS = 200


class JobForm(QFrame):
    """The card itself. Everything on it is typed here and read everywhere else."""

    def __init__(self, session: "Session") -> None:
        super().__init__()
        self._session = session
        self.setProperty("card", "plain")
        self.title = self._line("title", "What the job is called", "What is it called?")
        self.title.setFont(font(TITLE_PX, bold=True))
        self.customer = self._line("customer", "For whom it is", "a name or a group")
        self.due = self._line("due", "Due date", "2026-12-01")
        self.due.setToolTip(plain(tr("When it must be done, such as 2026-12-01 or 1 Dec; empty for no date")))
        self.kind = QComboBox()
        self.kind.setAccessibleName(tr("Kind of blank"))
        self.kind.setToolTip(tr("What it is made on"))
        self.kind.setMinimumWidth(KIND_PX)
        self.kind.activated.connect(self._take_kind)
        self.grid = AskedGrid(session)
        self.artwork = self._button("Open artwork ...", "A drawing (SVG, DXF) or a picture (Ctrl+Shift+O)", strong=True)
        self.words = self._button("Write words", "A text in one of Zinnet's fonts (Ctrl+Shift+T)")
        self.names = self._button("A list of names ...", "Each name on a garment of its own (Ctrl+M)")
        self.order = self._button("Read counts ...", "Read an order from a table: size, colour, name, count")
        self.put_on = Elided()
        self.missing = Label()
        self.missing.setWordWrap(True)
        self.next = self._button("Next", "Go on with what is missing (F8)", strong=True)
        self._kinds: tuple[str, ...] = ()
        self._lay_out()
        self.put_on.show_whole(tr("Nothing yet; it can come later."))

    def _lay_out(self) -> None:
        rows = QGridLayout()
        rows.setHorizontalSpacing(12)
        rows.setVerticalSpacing(12)
        who = QHBoxLayout()
        who.addWidget(self.customer, 3)
        who.addWidget(_quiet("&Due", self.due))
        who.addWidget(self.due, 2)
        on = QHBoxLayout()
        on.addWidget(self.kind)
        on.addStretch(1)
        on.addWidget(self.order)
        put = QHBoxLayout()
        for button in (self.artwork, self.words, self.names):
            put.addWidget(button)
        put.addSpacing(6)
        put.addWidget(self.put_on, 1)
        counts = QHBoxLayout()
        counts.addWidget(self.grid)
        named: tuple[tuple[str, QWidget, QHBoxLayout], ...] = (
            ("&For", self.customer, who),
            ("Made &on", self.kind, on),
            ("How &many", self.grid, counts),
            ("&Put on it", self.artwork, put),
        )
        for number, (name, buddy, row) in enumerate(named):
            rows.addWidget(_quiet(name, buddy), number, 0)
            rows.addLayout(row, number, 1)
        rows.setColumnStretch(1, 1)
        foot = QHBoxLayout()
        foot.addWidget(self.missing, 1)
        foot.addWidget(self.next)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 18, 24, 20)
        column.setSpacing(14)
        column.addWidget(self.title)
        column.addLayout(rows)
        column.addStretch(1)
        column.addLayout(foot)

    def _line(self, field: str, name: str, hint: str) -> QLineEdit:
        line = QLineEdit()
        line.setAccessibleName(tr(name))
        line.setToolTip(plain(tr(name)))
        line.setPlaceholderText(tr(hint))
        line.setMaxLength(MOST_LETTERS)
        line.setMinimumHeight(LINE_PX)
        line.editingFinished.connect(lambda: self._take(field, line))
        return line

    def _button(self, text: str, tip: str, *, strong: bool = False) -> QPushButton:
        button = QPushButton(tr(text))
        button.setToolTip(plain(tr(tip)))
        button.setProperty("strong", strong)
        button.setMinimumHeight(LINE_PX)
        return button

    # showing it

    def follow(self) -> None:
        """Show the job; what is being typed stays."""
        from zinnet.blanks.catalogue import blank_kinds

        job, kinds = self._session.job, blank_kinds()
        if tuple(kinds) != self._kinds:
            self._kinds = tuple(kinds)
            fill_kinds(self.kind)
        self.kind.setCurrentIndex(self.kind.findData(job.blank.kind))
        due = job.order.due.isoformat() if job.order.due else ""
        title = "" if job.title == UNTITLED else job.title
        for line, text in ((self.title, title), (self.customer, job.order.customer), (self.due, due)):
            if not (line.hasFocus() and line.isModified()):
                line.setText(text)
                line.setCursorPosition(0)
        self.grid.follow()
        self.put_on.show_whole(_put_on(job))

    def begin(self) -> None:
        """Show another job; what is half typed was meant for the one before."""
        for line in (self.title, self.customer, self.due):
            line.setModified(False)
        self.follow()

    # taking what is typed

    def _take(self, field: str, line: QLineEdit) -> None:
        if not line.isModified():
            return
        line.setModified(False)
        from zinnet.job.edits import set_title

        text = line.text().strip()
        if field == "title":
            if text and text != self._session.job.title:
                self._session.apply(set_title(text))
        elif field == "customer":
            self._order("customer", customer=text)
        else:
            try:
                self._order("due date", due=read_day(text, datetime.date.today()) if text else None)
            except ZinnetError as error:
                self._session.said.emit(str(error))
        if self._session.is_begun:
            self.follow()

    def _order(self, name: str, **fields: Any) -> None:
        from zinnet.job.edits import set_order

        order = self._session.job.order
        if any(getattr(order, field) != value for field, value in fields.items()):
            self._session.apply(set_order(name, **fields))

    def _take_kind(self) -> None:
        from zinnet.job.edits import change_kind

        kind = self.kind.currentData()
        if kind != self._session.job.blank.kind:
            self._session.selection.size = None
            self._session.selection.choose_panel(None)
            self._session.apply(change_kind(kind))


def fill_kinds(combo: QComboBox) -> None:
    """Offer the kinds of blanks, group by group."""
    from zinnet.blanks.catalogue import blank_kinds

    combo.clear()
    groups: dict[str, list[tuple[str, str]]] = {}
    for name, kind in blank_kinds().items():
        groups.setdefault(kind.group, []).append((name, kind.name))
    for number, rows in enumerate(groups.values()):
        if number:
            combo.insertSeparator(combo.count())
        for name, said in rows:
            combo.addItem(said, name)


def _put_on(job: "Job") -> str:
    """Return in words what is put on the blanks."""
    from zinnet.artwork.source import source_name

    said = ", ".join(source_name(design.source) for design in job.designs)
    if job.names.rows:
        said = f"{len(job.names.rows)} names in {said}"
    return said or tr("Nothing yet; it can come later.")


def _quiet(text: str, buddy: QWidget) -> Label:
    label = Label(tr(text))
    label.setFont(font(SMALL))
    label.setProperty("quiet", True)
    label.setBuddy(buddy)
    return label
