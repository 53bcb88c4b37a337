"""The guides of Fit in chalk: where the held edge belongs, the guide square, the fold lines."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QFontMetricsF, QPainter

from zinnet.base.units import write_length
from zinnet.placement.arrange import Arc, One
from zinnet.placement.guides import guide_square_mm, school
from zinnet.ui.drawing import draw_chalk_text, mark_pen, pen
from zinnet.ui.theme import SMALL, font

if TYPE_CHECKING:
    from zinnet.blanks.model import Panel
    from zinnet.placement.place import Placement
    from zinnet.ui.table import TableView


def draw_target(painter: QPainter, view: "TableView", placement: "Placement", *, square: bool) -> None:
    """Draw where the held edge belongs, the guide square, and how far off the artwork is."""
    if not isinstance(placement.arrangement, One | Arc):
        return
    blank, down = view.session.selection.garment.blank, placement.down
    x, y = placement.reference
    x += placement.across.target_mm
    half = max(placement.width_mm * 0.62, 24.0)
    sign = -1 if placement.place.anchor == "bottom" else 1
    painter.setPen(mark_pen(blank.colour, dashed=True, alpha=190))
    arc = placement.panel.arc if isinstance(placement.arrangement, Arc) else None
    for mm in (down.low_mm, down.high_mm):
        if arc is not None and arc.radius > 0:
            middle, radius = view.to_pixels(*arc.centre), (arc.radius + mm) * view.pixels_per_mm
            box = QRectF(middle.x() - radius, middle.y() - radius, 2 * radius, 2 * radius)
            spread = min(80.0, half / arc.radius * 57.3 * 1.3)
            painter.drawArc(box, round((90 - spread) * 16), round(2 * spread * 16))
        else:
            painter.drawLine(view.to_pixels(x - half, y + sign * mm), view.to_pixels(x + half, y + sign * mm))
    if not placement.place.centred:
        for mm in (placement.across.low_mm, placement.across.high_mm):
            at = placement.reference[0] + mm
            painter.drawLine(view.to_pixels(at, y + down.low_mm - 26), view.to_pixels(at, y + down.high_mm + 26))
    _name_guide(painter, view, placement, half)
    if square:
        side = guide_square_mm(blank.size_class)
        top = y + down.target_mm if placement.place.anchor == "top" else placement.centre[1] - side / 2
        frame = QRectF(view.to_pixels(x - side / 2, top), view.to_pixels(x + side / 2, top + side))
        painter.setPen(mark_pen(blank.colour, 1.6, dashed=True))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(frame)
        where = frame.bottomRight() + QPointF(-50, -12)
        draw_chalk_text(painter, where, f"square, {blank.size_class}", pixels=SMALL, cloth=blank.colour)


def _name_guide(painter: QPainter, view: "TableView", placement: "Placement", half_mm: float) -> None:
    """Write beside the guide's lines whose guide they are."""
    if placement.place.reference == "middle":
        return
    name = school(placement.school).name if placement.school else f"from the {placement.place.reference_name}"
    sign = -1 if placement.place.anchor == "bottom" else 1
    x, y = placement.reference[0] + placement.across.target_mm, placement.reference[1]
    edge = view.to_pixels(x + sign * half_mm, y + sign * (placement.down.low_mm + placement.down.high_mm) / 2)
    wide = painter.fontMetrics().horizontalAdvance(name) / 2
    cloth: str | None = view.session.selection.garment.blank.colour
    if isinstance(placement.arrangement, Arc):
        edge, cloth = QPointF(view.to_pixels(*placement.panel.bounds[:2]).x(), edge.y()), None
    at = QPointF(max(edge.x() + sign * (wide + 8), wide + 12), edge.y())
    if not placement.place.centred:
        left = view.to_pixels(x - half_mm, y + placement.down.low_mm)
        at = QPointF(left.x() - wide - 8, left.y() - 12)
    elif placement.place.anchor == "middle":
        at.setY(at.y() - 18)
    draw_chalk_text(painter, at, name, pixels=SMALL, cloth=cloth)


def draw_folds(painter: QPainter, view: "TableView", placement: "Placement") -> None:
    """Draw the creases: shoulder to shoulder, neck to neck, and the artwork's own that are matched to them."""
    left, top, right, bottom = placement.panel.region.bounds
    painter.setPen(mark_pen(view.session.selection.garment.blank.colour, 1.0, dashed=True, alpha=230))
    middle = (top + bottom) / 2
    painter.drawLine(view.to_pixels(left, middle), view.to_pixels(right, middle))
    painter.drawLine(view.to_pixels(0, top), view.to_pixels(0, bottom))
    a, b, c, d = placement.corners
    painter.setPen(pen("accent", 1.2, dashed=True))
    for (x1, y1), (x2, y2), (x3, y3), (x4, y4) in ((a, b, d, c), (a, d, b, c)):
        start, end = view.to_pixels((x1 + x2) / 2, (y1 + y2) / 2), view.to_pixels((x3 + x4) / 2, (y3 + y4) / 2)
        painter.drawLine(start, end)


def draw_ends(painter: QPainter, view: "TableView", panel: "Panel", *, words: bool = False) -> None:
    """Name what is at both ends of a strip; ``words`` says from which end words are read."""
    left, right = panel.ends
    x0, top, x1, _ = panel.region.bounds
    for x, said, side in ((x0, left, 1), (x1, right, -1)):
        if said:
            text = f"{said}; words begin at this end" if words and side == 1 else said
            width = QFontMetricsF(font(SMALL)).horizontalAdvance(text) / 2 + 4
            draw_chalk_text(painter, view.to_pixels(x, top) + QPointF(side * width, -44), text, pixels=SMALL)


def draw_visible(painter: QPainter, view: "TableView", panel: "Panel") -> None:
    """Draw between which lines a strip is seen from the front."""
    if panel.visible_mm is None or not (any(panel.ends) or panel.is_round):
        return
    half = panel.visible_mm / 2
    _, top, _, bottom = panel.region.bounds
    painter.setPen(mark_pen(view.session.selection.garment.blank.colour, 1.4, dashed=True))
    for x in (-half, half):
        painter.drawLine(view.to_pixels(x, top), view.to_pixels(x, bottom))
    start, end = view.to_pixels(-half, bottom) + QPointF(0, 26), view.to_pixels(half, bottom) + QPointF(0, 26)
    painter.setPen(pen("chalk", 1.2))
    painter.drawLine(start, end)
    for point in (start, end):
        painter.drawLine(point - QPointF(0, 6), point + QPointF(0, 6))
    said = f"{write_length(panel.visible_mm, unit=view.session.job.unit)} are seen from the front"
    draw_chalk_text(painter, QPointF((start.x() + end.x()) / 2, start.y() + 16), said, pixels=SMALL)
