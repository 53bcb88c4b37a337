"""The page of the job card: the card on the felt, and beside it how a job goes, or how far this one is."""

import json
from collections.abc import Sequence
from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QPainter, QPaintEvent, QPolygonF, QResizeEvent, QShowEvent
from PySide6.QtWidgets import QBoxLayout, QScrollArea, QVBoxLayout, QWidget

from zinnet.data import read_bytes
from zinnet.ui.card.begin import BeginCard
from zinnet.ui.card.form import JobForm
from zinnet.ui.card.way import WayCard
from zinnet.ui.drawing import felt_tile, pen
from zinnet.ui.in_turn import InTurn
from zinnet.ui.language import tr

if TYPE_CHECKING:
    from zinnet.bench.automatic_copy import LeftBehind
    from zinnet.plan.progress import Point
    from zinnet.ui.session import Session

FORM_PX, SIDE_PX, GAP_PX, EDGE_PX = 860, 260, 14, 18


class JobCardPage(QScrollArea):
    """The job card with what stands beside it."""

    def __init__(self, session: "Session", left_behind: Sequence["LeftBehind"]) -> None:
        super().__init__()
        self._session = session
        self._told: tuple[Sequence[Point], str, str] = ((), "", tr("Next"))
        self.setWidgetResizable(True)
        self.setAccessibleName(tr("The job card"))
        self.form, self.begin, self.way = JobForm(session), BeginCard(left_behind), WayCard()
        self.form.setMaximumWidth(FORM_PX)
        for side in (self.begin, self.way):
            side.setFixedWidth(SIDE_PX)
        self.way.hide()
        self._cards = QBoxLayout(QBoxLayout.Direction.LeftToRight)
        self._cards.setSpacing(GAP_PX)
        self._cards.addStretch(1)
        self._cards.addWidget(self.form, 100)
        self._cards.addWidget(self.begin)
        self._cards.addWidget(self.way)
        self._cards.addStretch(1)
        felt = _Felt()
        column = QVBoxLayout(felt)
        column.setContentsMargins(EDGE_PX, EDGE_PX, EDGE_PX, EDGE_PX)
        column.addStretch(1)
        column.addLayout(self._cards)
        column.addStretch(2)
        self.setWidget(felt)
        InTurn(session, self.follow, self)
        session.busy_changed.connect(self.follow)
        session.job_opened.connect(self.form.begin)

    def ready(self) -> None:
        """Offer what can be asked for; that is read when the window is up."""
        self._session.document  # noqa: B018  it is made when it is first asked for
        self.follow()

    def follow(self) -> None:
        """Show the job, where there is one and the card is seen."""
        if not (self.isVisible() and self._session.is_begun):
            return
        self.form.follow()
        is_new = not self._session.has_artwork and not self._session.document.is_changed
        self.begin.setVisible(is_new)
        self.way.setVisible(not is_new)
        self._show_way()

    def show_way(self, way: "Sequence[Point]", said: str, goes_to: str) -> None:
        """Show how far the job is, what comes next in words, and what the button says that goes there."""
        self._told = way, said, goes_to
        if self.isVisible():
            self._show_way()

    def _show_way(self) -> None:
        way, said, goes_to = self._told
        self.way.show_way(way)
        self.form.missing.setText(said)
        self.form.next.setText(goes_to)

    def showEvent(self, event: QShowEvent) -> None:
        """Show the job as it is now."""
        super().showEvent(event)
        self.follow()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Put the cards side by side where there is room, else one below the other."""
        super().resizeEvent(event)
        needed = self.form.minimumSizeHint().width() + SIDE_PX + GAP_PX + 2 * EDGE_PX
        wide = self.viewport().width() >= needed
        direction = QBoxLayout.Direction.LeftToRight if wide else QBoxLayout.Direction.TopToBottom
        self._cards.setDirection(direction)
        for side in (self.begin, self.way):
            side.setMaximumWidth(SIDE_PX if wide else FORM_PX)
            side.setMinimumWidth(SIDE_PX)


class _Felt(QWidget):
    """The felt with a tee in chalk."""

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the felt, and a tee in chalk as large as there is room."""
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.fillRect(self.rect(), QBrush(felt_tile()))
            room = QRectF(self.rect()).adjusted(20, 30, -20, -30)
            tee = json.loads(read_bytes("desktop", "chalk-tee.json"))
            left, top, right, bottom = tee["bounds_mm"]
            scale = min(room.width() / (right - left), room.height() / (bottom - top))
            painter.translate(room.center().x() - (left + right) / 2 * scale, room.top() - top * scale)
            painter.scale(scale, scale)
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(pen("chalk", 1.4, dashed=True, alpha=90))
            for ring in tee["rings_mm"]:
                painter.drawPolygon(QPolygonF([QPointF(x, y) for x, y in ring]))
