"""The first look: a friendly empty table with the two ways to begin, and the jobs opened last."""

import datetime
import json
from collections.abc import Sequence
from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QBrush, QPainter, QPaintEvent, QPolygonF
from PySide6.QtWidgets import QFrame, QGridLayout, QHBoxLayout, QMenu, QPushButton, QVBoxLayout, QWidget

from zinnet.bench.recent import recent_jobs
from zinnet.data import read_bytes, read_toml
from zinnet.ui.drawing import draw_chalk_text, draw_tape, felt_tile, pen
from zinnet.ui.language import tr
from zinnet.ui.plain import Label, plain
from zinnet.ui.theme import LARGE, SMALL, colour, font

if TYPE_CHECKING:
    from zinnet.bench.automatic_copy import LeftBehind


class Welcome(QWidget):
    """What is on the table while no job is open."""

    open_artwork = Signal()
    open_job = Signal()
    open_demo = Signal(str)
    open_recent = Signal(object)
    restore = Signal(object)

    def __init__(self, left_behind: Sequence["LeftBehind"]) -> None:
        super().__init__()
        card = QFrame()
        card.setObjectName("welcome")
        card.setStyleSheet(
            f"QFrame#welcome {{ background: {colour('card').name()}; border-radius: 10px;"
            f" border: 1px solid {colour('card_line').name()}; }}"
        )
        card.setFixedWidth(440)
        title = Label(tr("Start a job"))
        title.setFont(font(28, bold=True))
        said = Label(
            "Bring a design as SVG, DXF or a picture: drop it here, or open it. Zinnet fits it to the blank, splits "
            "it into films, and nests what is to be cut. A text or a name begins in the Job menu."
        )
        said.setWordWrap(True)
        self.artwork = QPushButton(tr("Open artwork ..."))
        self.artwork.setProperty("strong", True)
        self.artwork.clicked.connect(self.open_artwork)
        self.demo = QPushButton(tr("Open the demo"))
        self.demo.clicked.connect(lambda: self.open_demo.emit(read_toml("demos")["first"]))
        self.job = QPushButton(tr("Open a job ..."))
        self.job.clicked.connect(self.open_job)
        buttons = QHBoxLayout()
        for button in (self.artwork, self.demo, self.job):
            button.setMinimumHeight(34)
            buttons.addWidget(button)
        column = QVBoxLayout(card)
        column.setContentsMargins(30, 26, 30, 26)
        column.setSpacing(14)
        for widget in (title, said):
            column.addWidget(widget)
        column.addLayout(buttons)
        column.addLayout(self._walk())
        if left_behind:
            column.addWidget(self._restore_row(left_behind))
        self._add_recent(column)
        outer = QVBoxLayout(self)
        outer.addWidget(card, 0, Qt.AlignmentFlag.AlignCenter)

    def _walk(self) -> QVBoxLayout:
        """Return the jobs of the demo, each with a button."""
        column, grid = QVBoxLayout(), QGridLayout()
        column.setSpacing(6)
        grid.setSpacing(4)
        head = Label(tr("The demo: an evening parade in seven jobs"))
        head.setFont(font(SMALL))
        head.setProperty("quiet", True)
        column.addWidget(head)
        for number, (name, said) in enumerate(read_toml("demos")["walk"].items()):
            button = QPushButton(said)
            button.setToolTip(plain(f"Open the demo: {said}"))
            button.setStyleSheet(f"QPushButton {{ font-size: {SMALL}px; padding: 2px 6px; text-align: left; }}")
            button.clicked.connect(lambda checked=False, name=name: self.open_demo.emit(name))
            grid.addWidget(button, number // 2, number % 2)
        column.addLayout(grid)
        return column

    def _restore_row(self, left_behind: Sequence["LeftBehind"]) -> QPushButton:
        """Return what brings a job back that was open when Zinnet ended; one of several is chosen from a list."""
        button = QPushButton(tr("Bring back the job that was open when Zinnet ended"))
        button.setToolTip(tr("It was not saved; this is the automatic copy of it"))
        if len(left_behind) == 1:
            button.clicked.connect(lambda: self.restore.emit(left_behind[0].path))
            return button
        button.setText(f"Bring back one of {len(left_behind)} jobs that were open when Zinnet ended")
        choices = QMenu(button)
        choices.setStyleSheet("QMenu { menu-scrollable: 1 }")
        for copy in left_behind:
            at = datetime.datetime.fromtimestamp(copy.at_s)
            action = choices.addAction(f"{copy.title}, {at:%d %b %Y, %H:%M}".replace("&", "&&"))
            action.triggered.connect(lambda checked=False, copy=copy: self.restore.emit(copy.path))
        button.setMenu(choices)
        return button

    def _add_recent(self, column: QVBoxLayout) -> None:
        recent = recent_jobs()[:4]
        if not recent:
            return
        head = Label(tr("Opened last"))
        head.setFont(font(LARGE, bold=True))
        column.addWidget(head)
        for path in recent:
            button = QPushButton(path.stem)
            button.setToolTip(plain(str(path)))
            button.clicked.connect(lambda checked=False, path=path: self.open_recent.emit(path))
            column.addWidget(button)
        small = Label(tr("Press Ctrl+O for any other job."))
        small.setFont(font(SMALL))
        small.setProperty("quiet", True)
        column.addWidget(small)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the felt, chalk lines and a tape that waits."""
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.fillRect(self.rect(), QBrush(felt_tile()))
            middle, bottom = self.width() / 2, self.height() - 70.0
            self._draw_chalk_tee(painter, QRectF(40, 66, self.width() - 80, self.height() - 160))
            draw_tape(painter, QPointF(middle - 220, bottom), QPointF(middle + 220, bottom), "measure twice, cut once")
            draw_chalk_text(painter, QPointF(middle, 34), "Zinnet", bold=True, pixels=LARGE)

    def _draw_chalk_tee(self, painter: QPainter, room: QRectF) -> None:
        """Draw the outline of a tee in chalk, as large as the room allows."""
        tee = json.loads(read_bytes("desktop", "chalk-tee.json"))
        left, top, right, bottom = tee["bounds_mm"]
        scale = min(room.width() / (right - left), room.height() / (bottom - top))
        painter.save()
        painter.translate(room.center().x() - (left + right) / 2 * scale, room.top() - top * scale)
        painter.scale(scale, scale)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(pen("chalk", 1.4, dashed=True, alpha=130))
        for ring in tee["rings_mm"]:
            painter.drawPolygon(QPolygonF([QPointF(x, y) for x, y in ring]))
        line = pen("chalk", 1.2, alpha=110)
        line.setDashPattern([9, 4, 2, 4])
        painter.setPen(line)
        painter.drawLine(QPointF(*tee["collar_mm"]), QPointF(0, bottom))
        painter.restore()
