"""The weed map as a drawing: waste with its numbers, small parts that stay, weed lines, and what is out already."""

from dataclasses import dataclass
from typing import TYPE_CHECKING

import shapely
from PySide6.QtCore import QLineF, QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QColor, QPainter, QPen, QTransform

from zinnet.ui.drawing import pen
from zinnet.ui.films import layer_brush
from zinnet.ui.region_paths import region_path
from zinnet.ui.split.flat import draw_bubble
from zinnet.ui.theme import SMALL, colour

if TYPE_CHECKING:
    from zinnet.layers.stack import FilmLayer
    from zinnet.layers.weeding import Island, WeedMap

CARRIER = QColor("#c9cfd2")
WASTE_OPACITY = 0.5
MOST_NUMBERS = 250
ARROW_PX = 26.0


@dataclass(frozen=True)
class WeedState:
    """What is out already, by number, and which island is looked at."""

    out: frozenset[int]
    current: int | None

    @classmethod
    def of(cls, weed: "WeedMap", spots: tuple[tuple[float, float], ...], width_mm: float) -> "WeedState":
        """Return the state from the ticks of the job; the current island is the first that is not out."""
        if not weed.islands:
            return cls(frozenset(), None)
        tree = shapely.STRtree([island.region for island in weed.islands])
        points = shapely.points([(x * width_mm, y * width_mm) for x, y in spots]) if spots else []
        hits = tree.query(points, predicate="intersects")[1].tolist() if spots else []
        out = frozenset(weed.islands[int(hit)].number for hit in hits)
        current = next((island.number for island in weed.islands if island.number not in out), None)
        return cls(out, current)


def draw_weed_map(
    painter: QPainter, world: QTransform, weed: "WeedMap", row: "FilmLayer", state: WeedState, *, large: bool = False
) -> None:
    """Draw a layer in its frame. What is out shows the carrier; numbers stand on what is still to come out."""
    painter.save()
    painter.setTransform(world, combine=True)
    left, top, right, bottom = weed.frame
    painter.setPen(pen("ink", 1.5))
    painter.setBrush(CARRIER)
    painter.drawRect(QRectF(left, top, right - left, bottom - top))
    film = layer_brush(row)
    waste_edge = pen("ink", 0.8, alpha=110)
    for island in weed.islands:
        if island.number in state.out:
            continue
        path = region_path(island.region, painter)
        painter.setPen(waste_edge)
        painter.setBrush(film)
        painter.setOpacity(WASTE_OPACITY)
        painter.drawPath(path)
        painter.setOpacity(1)
        current = island.number == state.current
        painter.setBrush(colour("accent", 70) if current else _waste_hatch(painter, row))
        painter.drawPath(path)
    painter.setPen(pen("ink", 1.8))
    painter.setBrush(film)
    painter.drawPath(region_path(row.layer.region, painter))
    stays = QPen(colour("good"), 2.6)
    stays.setCosmetic(True)
    painter.setPen(stays)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for part in weed.small_parts:
        painter.drawPath(region_path(part, painter))
    line = pen("stop", 1.6, dashed=True)
    painter.setPen(line)
    for cut in weed.lines:
        (x1, y1), (x2, y2) = cut.coords
        painter.drawLine(QLineF(x1, y1, x2, y2))
    painter.restore()
    for island in weed.islands[:MOST_NUMBERS]:
        if island.number not in state.out:
            _draw_number(painter, world, island, island.number == state.current, large)


def _waste_hatch(painter: QPainter, row: "FilmLayer") -> QBrush:
    base = QColor(row.film.colour if row.film else row.layer.colour)
    line = QColor(255, 255, 255, 110) if base.lightnessF() < 0.4 else QColor(0, 0, 0, 70)
    brush = QBrush(line, Qt.BrushStyle.BDiagPattern)
    inverse, can = painter.transform().inverted()
    if can:
        brush.setTransform(QTransform(inverse.m11(), inverse.m12(), inverse.m21(), inverse.m22(), 0, 0))
    return brush


def _draw_number(painter: QPainter, world: QTransform, island: "Island", current: bool, large: bool) -> None:
    at, to = world.map(QPointF(*island.at)), world.map(QPointF(*island.lift))
    way = QLineF(at, to)
    if way.length() > 1:
        way.setLength(ARROW_PX)
        painter.setPen(QPen(colour("accent") if current else colour("ink", 130), 2.2 if current else 1.2))
        painter.drawLine(way)
        for turn in (150, -150):
            head = QLineF(way.p2(), way.p2() + QPointF(way.dx(), way.dy()))
            head.setAngle(way.angle() + turn)
            head.setLength(7)
            painter.drawLine(head)
    draw_bubble(painter, at, str(island.number), strong=current, pixels=17 if large else SMALL)
