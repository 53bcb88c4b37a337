"""How a sash is worn, in chalk: its drape from the shoulder to the hip, with what lies on it."""

import math
from collections.abc import Sequence
from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRect, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath, QTransform

from zinnet.blanks.build import build_blank
from zinnet.blanks.model import Blank, BlankSpec, Shoulder
from zinnet.ui.drawing import draw_chalk_text, mark_pen, pen
from zinnet.ui.garment import draw_layers, fit_into
from zinnet.ui.region_paths import region_path
from zinnet.ui.theme import SMALL

if TYPE_CHECKING:
    from zinnet.plan.fitted import FittedDesign

PIXELS = 150
SHOULDER, HIP = (1.35, 12.0), (235.0, 640.0)
"""Where the middle of the ribbon comes over the shoulder (in half neck widths across), and reaches the hip, in mm."""
CHEST_SHARE = 0.45
"""So far down the drape the middle of the chest lies."""


def draw_worn_sash(
    painter: QPainter,
    room: QRect,
    blank: Blank,
    shoulder: Shoulder,
    designs: Sequence["FittedDesign"] = (),
    *,
    above: int,
    pixels: int = PIXELS,
) -> None:
    """Draw how a sash is worn, from the front: the wearer's right shoulder is at the viewer's left.

    The figure is an adult M; ribbon and words are in its scale, and end where they go round the body. ``above`` is
    the room left free at the lower edge.
    """
    body = build_blank(BlankSpec()).main
    box = QRectF(room.width() / 2 - pixels / 2, room.height() - above - pixels, pixels, pixels)
    world = fit_into(box, body.bounds)
    painter.save()
    outline = QPainterPath()
    for part in body.cloth:
        outline = outline.united(region_path(part.region))
    painter.setTransform(world, combine=True)
    painter.setPen(pen("chalk", 1.2, dashed=True, alpha=150))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawPath(outline)
    painter.restore()
    sign = -1 if shoulder == "right" else 1
    top = QPointF(sign * body.marks[1][0] * SHOULDER[0], SHOULDER[1])
    low = QPointF(-sign * HIP[0], HIP[1])
    _draw_ribbon(painter, world, blank, (top, low), designs)
    said = f"over the wearer's {shoulder} shoulder"
    draw_chalk_text(painter, QPointF(room.width() / 2, box.bottom() + 10), said, pixels=SMALL, name="quiet_chalk")


def _draw_ribbon(
    painter: QPainter,
    world: QTransform,
    blank: Blank,
    ends: tuple[QPointF, QPointF],
    designs: Sequence["FittedDesign"],
) -> None:
    """Draw the ribbon between its ends, with what lies on it and the lines between which it is seen from the front."""
    panel = blank.main
    left, right = sorted(ends, key=lambda point: point.x())
    along = right - left
    angle = math.degrees(math.atan2(along.y(), along.x()))
    share = CHEST_SHARE if left.y() < right.y() else 1 - CHEST_SHARE
    middle = left + along * share
    there = QTransform().translate(middle.x(), middle.y()).rotate(angle) * world
    length, half = math.hypot(along.x(), along.y()), panel.region.bounds[3]
    painter.save()
    painter.setTransform(there, combine=True)
    painter.setPen(pen("chalk", 1.0))
    painter.setBrush(QColor(blank.colour))
    ribbon = QRectF(-length * share, -half, length, 2 * half)
    painter.drawRect(ribbon)
    if panel.visible_mm is not None:
        painter.setPen(mark_pen(blank.colour, 1.0, dashed=True))
        for x in (-panel.visible_mm / 2, panel.visible_mm / 2):
            painter.drawLine(QPointF(x, -half), QPointF(x, half))
    painter.restore()
    painter.save()
    clip = QPainterPath()
    clip.addRect(ribbon)
    painter.setClipPath(there.map(clip))
    for design in designs:
        draw_layers(painter, there, design, frozenset())
    painter.restore()
