"""Drawing a blank as it lies on the table: shadow, cloth, collar, seams, and what must be kept off."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QColor, QImage, QLinearGradient, QPainter, QPen, QPolygonF, QTransform

from zinnet.ui.drawing import mark_pen, pen
from zinnet.ui.films import layer_brushes
from zinnet.ui.pictures import clear_picture, png_of
from zinnet.ui.region_paths import region_path
from zinnet.ui.theme import colour

if TYPE_CHECKING:
    from zinnet.blanks.model import Blank, Panel
    from zinnet.camera.backdrop import Backdrop
    from zinnet.plan.fitted import FittedDesign, Garment

FIXED = {
    "panel": "#efe6d2",
    "wood": "#c8a46c",
    "metal": "#c3c8cb",
    "metal-rim": "#9ba1a6",
    "zip": "#3f4347",
    "button": "#ece5d6",
    "cord": "#e6dfcd",
    "fur": "#f6f2ea",
}
SHADES = {"inside": -38, "rib": 12, "collar": 14, "hood": -6, "pocket": 5, "placket": 6, "strap": 10, "brim": -10}
CLEAR = {"glass": QColor(206, 226, 229, 120), "glass-flat": QColor(226, 240, 241, 150)}


def shade(cloth: QColor, percent: int) -> QColor:
    """Return cloth lightened, or darkened where the percentage is below zero."""
    return cloth.lighter(100 + percent) if percent >= 0 else cloth.darker(100 - percent)


def draw_panel(painter: QPainter, world: QTransform, blank: "Blank", panel: "Panel") -> None:
    """Draw one side of a blank; ``world`` leads from the panel's mm to pixels."""
    cloth = QColor(blank.colour)
    painter.save()
    painter.setTransform(world, combine=True)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(0, 0, 0, 48))
    _, top, _, bottom = panel.bounds
    offset = min(7.0 / max(world.m11(), 1e-6), 0.014 * (bottom - top))
    for part in panel.cloth:
        painter.drawPath(region_path(part.region).translated(offset, offset * 1.2))
    left, top, right, bottom = panel.bounds
    for part in panel.cloth:
        painter.setBrush(_fill(part.role, cloth, QRectF(left, top, right - left, bottom - top)))
        edge = pen("ink", 1.1)
        edge.setColor(_edge(part.role, cloth))
        painter.setPen(edge)
        painter.drawPath(region_path(part.region))
    fine = pen("ink", 1.0, alpha=60)
    fine.setColor(QColor(0, 0, 0, 46) if cloth.lightnessF() > 0.25 else QColor(255, 255, 255, 40))
    painter.setPen(fine)
    for one in panel.lines:
        painter.drawPolyline(QPolygonF([QPointF(x, y) for x, y in one.coords]))
    stitch = pen("chalk", 1.0, dashed=True)
    stitch.setDashPattern([4, 3])
    stitch.setColor(cloth.darker(150) if cloth.lightnessF() > 0.25 else cloth.lighter(190))
    painter.setPen(stitch)
    for seam in panel.seams:
        painter.drawPolyline(QPolygonF([QPointF(x, y) for x, y in seam.coords]))
    painter.restore()


def draw_photo(painter: QPainter, world: QTransform, backdrop: "Backdrop") -> None:
    """Draw a photo that is laid below a panel."""
    (a, c, e), (b, d, f), _ = backdrop.matrix.tolist()
    rows, columns, _ = backdrop.photo.picture.shape
    pixels = backdrop.photo.picture.tobytes()
    image = QImage(pixels, columns, rows, 3 * columns, QImage.Format.Format_RGB888)
    painter.save()
    painter.setTransform(QTransform(a, b, c, d, e, f) * world, combine=True)
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
    painter.drawImage(QPointF(0, 0), image)
    painter.restore()


def _fill(role: str, cloth: QColor, box: QRectF) -> QBrush:
    if role in FIXED:
        return QBrush(QColor(FIXED[role]))
    if role in CLEAR:
        return QBrush(CLEAR[role])
    base = shade(cloth, SHADES.get(role, 0))
    if role == "satin":
        sheen = QLinearGradient(box.topLeft(), box.bottomLeft())
        for at, percent in ((0, -12), (0.3, 6), (0.45, 26), (0.6, 4), (1, -14)):
            sheen.setColorAt(at, shade(cloth, percent))
        return QBrush(sheen)
    light = QLinearGradient(box.topLeft(), box.bottomRight())
    light.setColorAt(0, base.lighter(109))
    light.setColorAt(0.5, base)
    light.setColorAt(1, base.darker(110))
    return QBrush(light)


def _edge(role: str, cloth: QColor) -> QColor:
    if role in FIXED:
        return QColor(FIXED[role]).darker(140)
    if role in CLEAR:
        return QColor(150, 178, 182, 220)
    return cloth.darker(155)


def draw_keep_outs(painter: QPainter, world: QTransform, blank: "Blank", panel: "Panel") -> None:
    """Hatch what must be kept off."""
    painter.save()
    painter.setTransform(world, combine=True)
    for keep_out in panel.keep_outs:
        hatch = QBrush(colour("stop" if not keep_out.raised else "warn", 120), Qt.BrushStyle.BDiagPattern)
        inverse, can = painter.transform().inverted()
        if can:
            hatch.setTransform(QTransform(inverse.m11(), 0, 0, inverse.m22(), 0, 0))
        painter.setPen(pen("stop" if not keep_out.raised else "warn", 1.1, alpha=150))
        painter.setBrush(hatch)
        painter.drawPath(region_path(keep_out.region))
    painter.restore()


def draw_usable(painter: QPainter, world: QTransform, blank: "Blank", panel: "Panel") -> None:
    """Draw the edge of the usable area in chalk."""
    painter.save()
    painter.setTransform(world, combine=True)
    painter.setPen(mark_pen(blank.colour, dashed=True, alpha=150))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawPath(region_path(panel.usable))
    painter.restore()


def draw_centre_line(
    painter: QPainter, world: QTransform, blank: "Blank", panel: "Panel", *, lit: bool = False
) -> None:
    """Draw the centre line along the panel."""
    _, top, _, bottom = panel.region.bounds
    if "collar" in panel.references:
        top = panel.references["collar"][1]
    if "brim" in panel.references:
        bottom = panel.references["brim"][1]
    line = pen("accent", 2) if lit else mark_pen(blank.colour)
    line.setDashPattern([9, 4, 2, 4])
    painter.setPen(line)
    painter.drawLine(world.map(QPointF(0, top)), world.map(QPointF(0, bottom)))


def draw_layers(
    painter: QPainter, world: QTransform, design: "FittedDesign", lit: frozenset[int] = frozenset()
) -> None:
    """Draw all copies of a design where they are pressed; the layers whose order is in ``lit`` light up."""
    if design.placement is None:
        return
    for matrix in design.placement.matrices:
        painter.save()
        painter.setTransform(QTransform(*matrix.T.ravel()) * world, combine=True)
        for row in design.layers:
            path = region_path(row.layer.region, painter)
            painter.setPen(Qt.PenStyle.NoPen)
            for brush, part in layer_brushes(design, row):
                painter.setBrush(brush)
                painter.drawPath(region_path(part, painter))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            if row.film is None:
                painter.setPen(pen("stop", 2, dashed=True))
                painter.drawPath(path)
            if row.layer.order in lit:
                made = QPen(colour("accent"), 2.5)
                made.setCosmetic(True)
                painter.setPen(made)
                painter.drawPath(path)
        painter.restore()


def fit_into(box: QRectF, bounds: tuple[float, float, float, float]) -> QTransform:
    """Return the transform that shows a box of mm as large as it goes in a box of pixels."""
    left, top, right, bottom = bounds
    scale = min(box.width() / max(right - left, 1e-6), box.height() / max(bottom - top, 1e-6))
    x = box.center().x() - (left + right) / 2 * scale
    y = box.center().y() - (top + bottom) / 2 * scale
    return QTransform(scale, 0, 0, scale, x, y)


def garment_picture(garment: "Garment", panel: "Panel", side: int) -> QImage:
    """Return a picture of a panel with what is on it, its longer side so many pixels, with nothing around it."""
    image, _ = clear_picture(panel.bounds, side)
    with QPainter(image) as painter:
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        draw_small(painter, QRectF(image.rect()), garment.blank, panel, garment.composed_on(panel.id))
    return image


def small_picture(garment: "Garment", side: int = 120) -> bytes:
    """Return a small picture of a garment's main panel, as a PNG whose longer side is ``side``."""
    return png_of(garment_picture(garment, garment.blank.main, side))


def draw_small(
    painter: QPainter, box: QRectF, blank: "Blank", panel: "Panel", designs: tuple["FittedDesign", ...]
) -> QTransform:
    """Draw a panel with its designs as a small picture, and return the transform from mm to pixels."""
    world = fit_into(box, panel.bounds)
    draw_panel(painter, world, blank, panel)
    for design in designs:
        draw_layers(painter, world, design)
    return world
