"""Drawing a blank as it lies on the table: shadow, cloth, collar, seams."""

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QColor, QLinearGradient, QPainter, QPolygonF

from zinnet.blanks.model import Blank
from zinnet.ui.drawing import mark_pen, pen, region_path
from zinnet.ui.table import TableView


def draw_blank(painter: QPainter, view: TableView, blank: Blank) -> None:
    """Draw the blank in the view's scale."""
    cloth = QColor(blank.colour)
    painter.save()
    painter.setTransform(view.world)
    outline = region_path(blank.outline)
    left, top, right, bottom = blank.outline.bounds
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(0, 0, 0, 60))
    painter.drawPath(outline.translated(7, 9))
    shade = QLinearGradient(left, top, right, bottom)
    shade.setColorAt(0, cloth.lighter(108))
    shade.setColorAt(0.5, cloth)
    shade.setColorAt(1, cloth.darker(108))
    painter.setBrush(shade)
    edge = pen("ink", 1.2)
    edge.setColor(cloth.darker(150))
    painter.setPen(edge)
    painter.drawPath(outline)
    painter.setBrush(cloth.lighter(125))
    painter.drawPath(region_path(blank.collar))
    stitch = pen("chalk", 1.0, dashed=True)
    stitch.setColor(cloth.darker(145) if cloth.lightnessF() > 0.25 else cloth.lighter(190))
    painter.setPen(stitch)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for seam in blank.seams:
        painter.drawPolyline(QPolygonF([QPointF(x, y) for x, y in seam.coords]))
    painter.restore()


def draw_centre_line(painter: QPainter, view: TableView, blank: Blank, *, lit: bool = False) -> None:
    """Draw the centre line from the collar to the hem."""
    top, bottom = blank.collar_point[1], blank.outline.bounds[3]
    line = pen("accent", 2) if lit else mark_pen(blank.colour)
    line.setDashPattern([9, 4, 2, 4])
    painter.setPen(line)
    painter.drawLine(view.to_pixels(0, top), view.to_pixels(0, bottom))
