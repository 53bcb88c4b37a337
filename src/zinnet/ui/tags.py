"""The left edge: a thread on which the tags of the stations hang, each with its number of findings."""

from collections import Counter
from collections.abc import Sequence
from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QVBoxLayout, QWidget

from zinnet.plan.findings.levels import LEVELS, Station
from zinnet.ui.dimmed import FAINT
from zinnet.ui.drawing import draw_sign
from zinnet.ui.in_turn import InTurn
from zinnet.ui.language import tr
from zinnet.ui.plain import plain
from zinnet.ui.theme import PLAIN, SMALL, colour, font

if TYPE_CHECKING:
    from zinnet.plan.progress import Point
    from zinnet.ui.session import Session

STATIONS: tuple[tuple[Station, str], ...] = (
    ("measure", "Measure"),
    ("artwork", "Artwork"),
    ("fit", "Fit"),
    ("split", "Split"),
    ("nest", "Nest"),
    ("cut", "Cut"),
    ("press", "Press"),
    ("log", "Log"),
)
WIDTH = 124


class StationTag(QWidget):
    """One manila tag. It shows the gravest open finding of its station and how many there are."""

    pressed = Signal(str)

    def __init__(self, station: Station, name: str, number: int) -> None:
        super().__init__()
        self.station, self.name, self.number = station, tr(name), number
        self.selected = False
        self.counts: Counter[str] = Counter()
        self.faint = False
        self.missing = "not looked at yet"
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setAccessibleName(f"{name} station")
        self.setToolTip(plain(f"Go to {name} (Ctrl+{number})"))

    def sizeHint(self) -> QSize:
        """Return the size of a tag."""
        return QSize(WIDTH, 78)

    def show_counts(self, counts: Counter[str]) -> None:
        """Show how many findings of each level are open."""
        if counts != self.counts:
            self.counts = counts
            self.update()

    def show_done(self, point: "Point") -> None:
        """Show whether the work of the station is done, and in a tooltip what is missing."""
        if point.missing != self.missing:
            self.missing = point.missing
            said = "done" if point.is_done else f"{point.missing[0].upper()}{point.missing[1:]}"
            self.setToolTip(plain(f"{self.name}: {said} (Ctrl+{self.number})"))
            self.setAccessibleDescription(said)
            self.update()

    def select(self, selected: bool) -> None:
        """Mark the tag as the one whose station is on the table."""
        self.selected = selected
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the tag, its name and its sign."""
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            reach = 118.0 if self.selected else 106.0
            shape = QPolygonF(
                [QPointF(x, y) for x, y in ((26, 8), (reach, 8), (reach, 70), (26, 70), (14, 56), (14, 22))]
            )
            painter.setPen(QPen(colour("accent"), 2) if self.hasFocus() else QPen(colour("card_line"), 1))
            painter.setBrush(colour("card_light" if self.selected else "card_line"))
            painter.drawPolygon(shape)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(colour("good" if not self.missing else "felt"))
            radius = 7.5 if not self.missing else 4.5
            painter.drawEllipse(QPointF(28, 39), radius, radius)
            if not self.missing:
                painter.setPen(QPen(colour("card_light"), 1.8, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
                painter.drawPolyline([QPointF(24.6, 39.2), QPointF(27.2, 42), QPointF(31.6, 36)])
            painter.setPen(colour("ink"))
            painter.setFont(font(PLAIN + 2 if self.selected else PLAIN, bold=self.selected))
            painter.drawText(QRectF(41, 18, 74, 22), Qt.AlignmentFlag.AlignVCenter, self.name)
            painter.setPen(colour("quiet_ink") if self.selected else colour("ink"))
            painter.setFont(font(SMALL))
            painter.drawText(QRectF(41, 40, 74, 18), Qt.AlignmentFlag.AlignVCenter, f"Ctrl+{self.number}")
            level = next((level for level in LEVELS if self.counts[level]), None)
            if level is not None:
                painter.setOpacity(FAINT if self.faint else 1.0)
                draw_sign(painter, level, QRectF(reach - 20, 0, 22, 22), str(sum(self.counts.values())))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Go to the station."""
        self.pressed.emit(self.station)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Go to the station with space or Enter."""
        if event.key() in (Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.pressed.emit(self.station)
        else:
            super().keyPressEvent(event)


class TagThread(QWidget):
    """The thread with all its tags."""

    chosen = Signal(str)

    def __init__(self, session: "Session") -> None:
        super().__init__()
        self.session = session
        self.setFixedWidth(WIDTH)
        self.tags: dict[str, StationTag] = {}
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 22, 0, 0)
        column.setSpacing(6)
        for number, (station, name) in enumerate(STATIONS, start=1):
            tag = StationTag(station, name, number)
            tag.pressed.connect(self.chosen)
            self.tags[station] = tag
            column.addWidget(tag)
        column.addStretch(1)
        InTurn(session, self.follow, self)
        self.follow()

    def select(self, station: str) -> None:
        """Mark one tag."""
        for name, tag in self.tags.items():
            tag.select(name == station)

    def show_done(self, way: Sequence["Point"]) -> None:
        """Mark the stations at which nothing is missing."""
        for point in way:
            self.tags[point.station].show_done(point)

    def draw_faintly(self, faint: bool) -> None:
        """Draw the counts faintly while they are worked out anew."""
        for tag in self.tags.values():
            tag.faint = faint
            if tag.counts:
                tag.update()

    def follow(self) -> None:
        """Count the open findings of each station."""
        findings = self.session.plan.findings if self.session.has_artwork else ()
        for station, tag in self.tags.items():
            tag.show_counts(Counter(one.level for one in findings if one.station == station and one.passed is None))

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the felt and the thread."""
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.fillRect(self.rect(), colour("felt"))
            thread = QPen(colour("accent"), 2)
            thread.setDashPattern([3, 3])
            painter.setPen(thread)
            painter.drawLine(QPointF(30, 0), QPointF(27, self.height()))
