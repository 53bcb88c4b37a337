"""Beside the job card of a new job: how a job goes, the demo, and the jobs that were open last."""

import datetime
from collections.abc import Sequence
from typing import TYPE_CHECKING

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtGui import QIcon
from PySide6.QtWidgets import QFrame, QMenu, QPushButton, QVBoxLayout, QWidget

from zinnet.bench.recent import picture_of, recent_jobs
from zinnet.data import read_toml
from zinnet.ui.language import tr
from zinnet.ui.plain import Label, plain
from zinnet.ui.theme import LARGE, font

if TYPE_CHECKING:
    from zinnet.bench.automatic_copy import LeftBehind

HOW = (
    "Say on this card what is asked for, and bring artwork, words or names.",
    "Go on with Next: measure, fit, split, nest. Zinnet works out the rest, and says what is wrong with it.",
    "At the bench, cut, weed and press card by card; then it goes into the log.",
)
MOST_RECENT = 3
NAME_PX = 190
PICTURE_PX = 44


class BeginCard(QFrame):
    """Three lines on how a job goes, and other ways to begin."""

    open_job = Signal()
    open_demo = Signal(str)
    open_recent = Signal(object)
    restore = Signal(object)

    def __init__(self, left_behind: Sequence["LeftBehind"]) -> None:
        super().__init__()
        self.setProperty("card", "plain")
        self.demo = QPushButton(tr("Open the demo"))
        self.demo.setToolTip(tr("An evening parade in seven jobs, with a workshop of its own"))
        self.demo.clicked.connect(lambda: self.open_demo.emit(read_toml("demos")["first"]))
        self.others = QPushButton(tr("Another job of the demo"))
        self.others.setToolTip(tr("The other jobs of the demo's parade"))
        self.others.setMenu(self._other_demos())
        self.job = QPushButton(tr("Open a job ..."))
        self.job.setToolTip(tr("Open a job that was saved (Ctrl+O)"))
        self.job.clicked.connect(self.open_job)
        column = QVBoxLayout(self)
        column.setContentsMargins(18, 16, 18, 16)
        column.setSpacing(8)
        column.addWidget(_head("How a job goes"))
        for number, text in enumerate(HOW, start=1):
            line = Label(f"{number}.  {tr(text)}")
            line.setWordWrap(True)
            column.addWidget(line)
        column.addSpacing(6)
        column.addWidget(self.demo)
        column.addWidget(self.others)
        column.addSpacing(6)
        column.addWidget(self.job)
        for button in self._left_behind(left_behind), *self._recent():
            if button is not None:
                column.addWidget(button)
        column.addStretch(1)

    def _other_demos(self) -> QMenu:
        menu = QMenu(self)
        for name, said in read_toml("demos")["walk"].items():
            menu.addAction(said).triggered.connect(lambda checked=False, name=name: self.open_demo.emit(name))
        return menu

    def _left_behind(self, left_behind: Sequence["LeftBehind"]) -> QPushButton | None:
        """Return what brings a job back that was open when Zinnet ended; one of several is chosen from a list."""
        if not left_behind:
            return None
        button = QPushButton(tr("Bring back the job that was open"))
        button.setToolTip(tr("It was open when Zinnet ended and was not saved; this is the automatic copy of it"))
        button.setProperty("strong", True)
        if len(left_behind) == 1:
            button.clicked.connect(lambda: self.restore.emit(left_behind[0].path))
            return button
        button.setText(f"Bring back one of {len(left_behind)} jobs that were open")
        choices = QMenu(button)
        choices.setStyleSheet("QMenu { menu-scrollable: 1 }")
        for copy in left_behind:
            at = datetime.datetime.fromtimestamp(copy.at_s)
            action = choices.addAction(f"{copy.title}, {at:%d %b %Y, %H:%M}".replace("&", "&&"))
            action.triggered.connect(lambda checked=False, copy=copy: self.restore.emit(copy.path))
        button.setMenu(choices)
        return button

    def _recent(self) -> list[QPushButton]:
        found = []
        for path in recent_jobs()[:MOST_RECENT]:
            button = QPushButton(
                self.fontMetrics().elidedText(path.stem, Qt.TextElideMode.ElideRight, NAME_PX).replace("&", "&&")
            )
            button.setStyleSheet("text-align: left")
            button.setIcon(QIcon(str(picture_of(path))))
            button.setIconSize(QSize(PICTURE_PX, PICTURE_PX))
            button.setToolTip(plain(str(path)))
            button.clicked.connect(lambda checked=False, path=path: self.open_recent.emit(path))
            found.append(button)
        return found


def _head(text: str) -> QWidget:
    head = Label(tr(text))
    head.setFont(font(LARGE, bold=True))
    return head
