"""The flat view of the layers: how many films lie where and how thick, and the small detail that films can't hold."""

from typing import TYPE_CHECKING

import shapely
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen, QTransform

from zinnet.ui.drawing import draw_chalk_text, draw_label, pen
from zinnet.ui.films import layer_brush
from zinnet.ui.region_paths import region_path
from zinnet.ui.split.apart import ROOM, draw_hatch
from zinnet.ui.theme import SMALL, colour, font

if TYPE_CHECKING:
    from zinnet.layers.depth import Spot
    from zinnet.layers.detail import Detail
    from zinnet.layers.stack import FilmLayer, LayerStack
    from zinnet.plan.fitted import FittedDesign

SHADES = ("#e9e2cf", "#b9c6cc", "#6f94ab", "#3f5f78")
"""The colours of one film, two, three, and more, as long as they are not too many."""
LEGEND_PX = 26.0
LEAST_LABEL_PX = 16.0


def draw_cloth(painter: QPainter, world: QTransform, design: "FittedDesign", cloth: str) -> None:
    """Draw a piece of the garment under the artwork."""
    assert design.placement is not None
    placement = design.placement
    box = QRectF(0, 0, placement.width_mm, placement.height_mm).adjusted(-ROOM, -ROOM, ROOM, ROOM)
    painter.setPen(pen("chalk", 1, alpha=120))
    painter.setBrush(QColor(cloth))
    painter.drawRoundedRect(world.mapRect(box), 8, 8)


def draw_films(
    painter: QPainter, world: QTransform, rows: tuple["FilmLayer", ...], *, opacity: float = 1.0, hatched: bool = False
) -> None:
    """Draw layers flat, the first one lowest."""
    painter.save()
    painter.setTransform(world, combine=True)
    painter.setOpacity(opacity)
    for row in rows:
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(layer_brush(row))
        painter.drawPath(region_path(row.layer.region, painter))
        if hatched:
            draw_hatch(painter, row)
    painter.restore()


def draw_thickness(painter: QPainter, world: QTransform, stack: "LayerStack") -> None:
    """Draw where how many films lie on one another: darker where more, with the number where there is room."""
    painter.save()
    painter.setTransform(world, combine=True)
    for spot in stack.spots:
        depth = len(spot.layers)
        painter.setPen(pen("ink", 1))
        painter.setBrush(_shade(depth, stack.most_films))
        painter.drawPath(region_path(spot.region, painter))
    painter.restore()
    for spot in stack.spots:
        _label_spot(painter, world, spot)


def _shade(depth: int, most: int) -> QColor:
    return colour("accent") if depth > most else QColor(SHADES[min(depth, len(SHADES)) - 1])


def draw_legend(painter: QPainter, at: QPointF, stack: "LayerStack") -> None:
    """Draw which shade is how many films and how thick, beginning at a point in pixels."""
    thick: dict[int, list[float]] = {}
    for spot in stack.spots:
        thick.setdefault(len(spot.layers), []).append(spot.thickness_um / 1000)
    x = at.x()
    painter.setFont(font())
    for depth, found in sorted(thick.items()):
        painter.setPen(QPen(colour("ink"), 1))
        painter.setBrush(_shade(depth, stack.most_films))
        painter.drawRoundedRect(QRectF(x, at.y(), LEGEND_PX, 18), 3, 3)
        low, high = min(found), max(found)
        films = "1 film" if depth == 1 else f"{depth} films"
        said = f"{films}, {low:.2f} mm" if high - low < 0.005 else f"{films}, {low:.2f} to {high:.2f} mm"
        painter.setPen(colour("chalk"))
        painter.drawText(QPointF(x + LEGEND_PX + 8, at.y() + 14), said)
        x += LEGEND_PX + 32 + painter.fontMetrics().horizontalAdvance(said)


def _label_spot(painter: QPainter, world: QTransform, spot: "Spot") -> None:
    part = max(spot.region.geoms, key=lambda one: one.area)
    line = shapely.maximum_inscribed_circle(part, tolerance=max(0.05, part.length / 500))
    if line.length * world.m11() < LEAST_LABEL_PX:
        return
    at = world.map(QPointF(*line.coords[0]))
    draw_label(painter, at, f"{len(spot.layers)} · {spot.thickness_um / 1000:.2f} mm")


def draw_details(painter: QPainter, world: QTransform, found: list[tuple["FilmLayer", "Detail"]], chosen: int) -> None:
    """Draw every place that a film can't hold, its edge in the accent colour, and its number."""
    painter.save()
    painter.setTransform(world, combine=True)
    for index, (_, detail) in enumerate(found):
        edge = QPen(colour("accent"), 3.0 if index == chosen else 1.8)
        edge.setCosmetic(True)
        painter.setPen(edge)
        painter.setBrush(colour("accent", 150))
        painter.drawPath(region_path(detail.region))
    painter.restore()
    for index, (_, detail) in enumerate(found):
        at = world.map(QPointF(*detail.at))
        draw_bubble(painter, at + QPointF(16, -14), str(index + 1), strong=index == chosen, tail=at)


def draw_bubble(
    painter: QPainter,
    at: QPointF,
    text: str,
    *,
    strong: bool = False,
    tail: QPointF | None = None,
    pixels: int = SMALL,
) -> None:
    """Draw a number in a small disc in pixels, with a line to what it is about."""
    if tail is not None:
        painter.setPen(QPen(colour("ink"), 1.4))
        painter.drawLine(tail, at)
    radius = pixels + (2 if strong else 0) + max(0, len(text) - 2) * 3
    painter.setPen(QPen(colour("ink"), 1.2))
    painter.setBrush(colour("tape" if strong else "card_light"))
    painter.drawEllipse(at, radius, radius)
    painter.setPen(colour("ink"))
    painter.setFont(font(pixels, bold=True))
    painter.drawText(QRectF(at.x() - 30, at.y() - 12, 60, 24), Qt.AlignmentFlag.AlignCenter, text)


def draw_caption(painter: QPainter, centre_x: float, title: str, said: str) -> None:
    """Write the heading of the table."""
    draw_chalk_text(painter, QPointF(centre_x, 54), title, bold=True, pixels=17)
    draw_chalk_text(painter, QPointF(centre_x, 75), said, name="quiet_chalk")
