"""The layers lifted apart above the garment, and laid down one after another as they will be pressed."""

from typing import TYPE_CHECKING

import shapely
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QTransform

from zinnet.ui.drawing import draw_chalk_text, hatch, lit_pen, pen
from zinnet.ui.films import layer_brush
from zinnet.ui.region_paths import region_path
from zinnet.ui.theme import PLAIN

if TYPE_CHECKING:
    from zinnet.blanks.model import Blank
    from zinnet.layers.stack import FilmLayer
    from zinnet.plan.fitted import FittedDesign

SLANT, SQUASH, LIFT = 0.32, 0.52, 0.42
"""How the plates are seen: sheared and flattened; and how high each is lifted, as a share of its height."""
LAID_LIFT = 0.012
ROOM = 8.0


class ApartView:
    """Where the plates lie on the table; ``laid`` says how many layers lie on the garment, a part for one moving."""

    def __init__(self, design: "FittedDesign", box: QRectF, laid: float) -> None:
        assert design.placement is not None
        self.design, self.box, self.laid = design, box, laid
        self.wide, self.high = design.placement.width_mm, design.placement.height_mm
        assert design.stack is not None
        self.rows = design.stack.in_press_order

    def plate(self, index: int) -> QTransform:
        """Return the transform from artwork mm to the plate of a layer in order of pressing; plate 0 is the garment."""
        count = len(self.rows)
        across, steps = self.wide + SLANT * self.high, count * LIFT
        scale = min(self.box.width() / across, self.box.height() / (self.high * SQUASH * (1 + steps)))
        lift = self.high * SQUASH * LIFT * scale
        left = self.box.left() + (self.box.width() - across * scale) / 2
        bottom = self.box.center().y() + self.high * SQUASH * (1 + steps) * scale / 2
        down = min(max(self.laid - (index - 1), 0.0), 1.0) if index else 1.0
        up = index * (lift * (1 - down) + self.high * SQUASH * LAID_LIFT * scale * down)
        top = bottom - self.high * SQUASH * scale - up
        return QTransform(scale, 0, -SLANT * scale, SQUASH * scale, left + SLANT * self.high * scale, top)

    def paint(self, painter: QPainter, blank: "Blank", lit: int | None) -> None:
        """Draw the garment's plate and above it one plate per layer."""
        plate = QRectF(0, 0, self.wide, self.high).adjusted(-ROOM, -ROOM, ROOM, ROOM)
        for index in range(len(self.rows) + 1):
            painter.save()
            transform = self.plate(index)
            painter.setTransform(transform, combine=True)
            lifted = index > self.laid
            if index == 0:
                painter.setPen(pen("chalk", 1, alpha=120))
                painter.setBrush(QColor(blank.colour))
                painter.drawRoundedRect(plate, 6, 6)
            else:
                self._draw_layer(painter, self.rows[index - 1], plate, lit, lifted)
            painter.restore()
            if index and not lifted:
                continue
            corner = transform.map(QPointF(plate.left(), plate.bottom()))
            if index == 0:
                draw_chalk_text(painter, corner + QPointF(34, 13), blank.name, pixels=PLAIN)
            else:
                draw_chalk_text(painter, corner + QPointF(-6, 8), str(index), bold=True, pixels=PLAIN)

    def _draw_layer(self, painter: QPainter, row: "FilmLayer", plate: QRectF, lit: int | None, lifted: bool) -> None:
        if lifted:
            painter.setPen(pen("chalk", 1, dashed=True, alpha=90))
            painter.setBrush(QColor(255, 255, 255, 14))
            painter.drawRoundedRect(plate, 6, 6)
        path = region_path(row.layer.region, painter)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(0, 0, 0, 60))
        painter.drawPath(path.translated(2, 5) if lifted else path.translated(0.4, 0.8))
        painter.setBrush(layer_brush(row))
        painter.setPen(lit_pen() if lit == row.layer.order else Qt.PenStyle.NoPen)
        painter.drawPath(path)
        draw_hatch(painter, row)

    def layer_at(self, point: QPointF) -> "FilmLayer | None":
        """Return the topmost layer under a point in pixels."""
        for index in range(len(self.rows), 0, -1):
            inverse, can = self.plate(index).inverted()
            spot = inverse.map(point)
            row = self.rows[index - 1]
            if can and shapely.contains_xy(row.layer.region, spot.x(), spot.y()):
                return row
        return None


def draw_hatch(painter: QPainter, row: "FilmLayer") -> None:
    """Draw a layer's hatch over its film, as fine as the screen has it."""
    painter.setPen(Qt.PenStyle.NoPen)
    brush = hatch(row.layer.order, row.film.colour if row.film else row.layer.colour)
    inverse, can = painter.transform().inverted()
    if can:
        brush.setTransform(QTransform(inverse.m11(), inverse.m12(), inverse.m21(), inverse.m22(), 0, 0))
    painter.setBrush(brush)
    painter.drawPath(region_path(row.layer.region, painter))
