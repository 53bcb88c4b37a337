"""The ways to cut a film apart on a line: minutes of laying to the right, film upwards; one is chosen by pointing."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPolygonF
from PySide6.QtWidgets import QWidget

from zinnet.base.units import Unit, write_area
from zinnet.ui.drawing import pen
from zinnet.ui.language import tr
from zinnet.ui.theme import SMALL, colour, font

if TYPE_CHECKING:
    from zinnet.plan.parted import FilmWays

LEFT, TOP, RIGHT, BOTTOM = 74, 12, 22, 30
DOT, NEAR_PX = 5.0, 16.0
MINUTE_S = 60.0


class WaysLine(QWidget):
    """Each way as a dot: hollow while its film is reckoned roughly, full once nested, ringed where it is in use."""

    way_asked = Signal(int)

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName(tr("The ways to cut the film apart: film against minutes"))
        self.setToolTip(tr("Point at a way, or use the arrow keys, to cut the film so"))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setFixedHeight(150)
        self._ways: FilmWays | None = None
        self._nested: dict[int, float] = {}
        self._unit: Unit = "mm"

    def show_ways(self, ways: "FilmWays | None", nested: dict[int, float], unit: Unit) -> None:
        """Show the ways of a film; ``nested`` is what some of them really take, in mm2."""
        self._ways, self._nested, self._unit = ways, nested, unit
        self.update()

    def film_mm2(self, place: int) -> float:
        """Return what a way takes: as nested, else roughly."""
        assert self._ways is not None
        return self._nested.get(place, self._ways.ways[place].film_mm2)

    def spots(self) -> list[QPointF]:
        """Return where each way lies, in pixels."""
        if self._ways is None:
            return []
        ways = self._ways.ways
        areas = [self.film_mm2(place) for place in range(len(ways))]
        most = max((area for area in areas if area != float("inf")), default=1.0)
        last = max(way.seconds for way in ways)
        wide, high = self.width() - LEFT - RIGHT, self.height() - TOP - BOTTOM
        return [
            QPointF(LEFT + wide * way.seconds / last, TOP + high * (1 - min(area, most) / most))
            for way, area in zip(ways, areas, strict=True)
        ]

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the axes with their ends in numbers, the line, and the dots."""
        if self._ways is None:
            return
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.setFont(font(SMALL))
            self._draw_axes(painter)
            spots = self.spots()
            painter.setPen(pen("quiet_ink", 1.5))
            painter.drawPolyline(QPolygonF(spots))
            for place, spot in enumerate(spots):
                painter.setPen(pen("ink", 1.5))
                painter.setBrush(colour("ink") if place in self._nested else colour("card_light"))
                painter.drawEllipse(spot, DOT, DOT)
                if place == self._ways.chosen:
                    painter.setPen(pen("accent", 2.5))
                    painter.setBrush(Qt.BrushStyle.NoBrush)
                    painter.drawEllipse(spot, DOT + 4, DOT + 4)
                if place == self._ways.proposed:
                    painter.setPen(colour("quiet_ink"))
                    above = spot.y() > self.height() / 2
                    box = QRectF(spot.x() - 60, spot.y() + (-26 if above else 12), 120, 14)
                    box.moveRight(min(box.right(), self.width() - 4.0))
                    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, tr("proposed"))

    def _draw_axes(self, painter: QPainter) -> None:
        assert self._ways is not None
        foot, right = self.height() - BOTTOM, self.width() - RIGHT
        painter.setPen(pen("card_line", 1))
        painter.drawLine(LEFT, TOP, LEFT, foot)
        painter.drawLine(LEFT, foot, right, foot)
        painter.setPen(colour("quiet_ink"))
        most = max(self.film_mm2(place) for place in range(len(self._ways.ways)))
        last = max(way.seconds for way in self._ways.ways) / MINUTE_S
        ends = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
        said = tr("no room") if most == float("inf") else write_area(most, unit=self._unit)
        painter.drawText(QRectF(0, TOP - 8, LEFT - 8, 16), ends, said)
        painter.drawText(QRectF(0, foot - 8, LEFT - 8, 16), ends, "0")
        minutes = tr("{minutes:.0f} min of laying").format(minutes=last)
        painter.drawText(QRectF(right - 160, foot + 6, 160, 16), ends, minutes)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Take the way that is pointed at."""
        self.setFocus()
        spots = self.spots()
        if not spots:
            return
        offs = [(event.position() - spot).manhattanLength() for spot in spots]
        place = offs.index(min(offs))
        if offs[place] <= NEAR_PX:
            self.way_asked.emit(place)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Take the next way with more pieces, or with fewer."""
        step = {Qt.Key.Key_Right: 1, Qt.Key.Key_Left: -1}.get(Qt.Key(event.key()), 0)
        if self._ways is None or not step:
            super().keyPressEvent(event)
            return
        place = self._ways.chosen + step
        if 0 <= place < len(self._ways.ways):
            self.way_asked.emit(place)
