"""Drawing with the table's own things: chalk, cloth tape, card and the signs of findings."""

import math
from collections.abc import Sequence
from functools import lru_cache

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QColor, QFont, QFontMetricsF, QPainter, QPainterPath, QPen, QPixmap, QPolygonF

from zinnet.ui.theme import DAYLIGHT, NIGHT, PLAIN, SMALL, colour, font, theme

HATCHES = (
    Qt.BrushStyle.BDiagPattern,
    Qt.BrushStyle.HorPattern,
    Qt.BrushStyle.FDiagPattern,
    Qt.BrushStyle.VerPattern,
    Qt.BrushStyle.CrossPattern,
    Qt.BrushStyle.Dense6Pattern,
    Qt.BrushStyle.DiagCrossPattern,
)

EDGE = 4
"""The width of the soft edge round text on the table, in pixels."""


def felt_tile() -> QPixmap:
    """Return a tile of felt: the table's colour with the faintest weave."""
    tile = QPixmap(6, 6)
    tile.fill(colour("felt"))
    with QPainter(tile) as painter:
        painter.setPen(QPen(colour("felt_line"), 1))
        painter.drawLine(0, 0, 0, 6)
        painter.drawLine(3, 1, 3, 4)
    return tile


def mark_on(cloth: str) -> QColor:
    """Return chalk for dark cloth and pencil for light cloth, whatever the theme."""
    return QColor(NIGHT.chalk if QColor(cloth).lightnessF() < 0.55 else DAYLIGHT.chalk)


def mark_pen(cloth: str, width: float = 1.2, *, dashed: bool = False, alpha: int = 255) -> QPen:
    """Return the pen for lines on cloth."""
    made = pen("chalk", width, dashed=dashed)
    ink = mark_on(cloth)
    ink.setAlpha(alpha)
    made.setColor(ink)
    return made


def pen(name: str, width: float = 1.0, *, dashed: bool = False, alpha: int = 255) -> QPen:
    """Return a pen whose width stays in pixels, whatever the scale."""
    made = QPen(colour(name, alpha), width)
    made.setCosmetic(True)
    made.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
    if dashed:
        made.setDashPattern([5, 4])
    return made


def draw_label(painter: QPainter, centre: QPointF, text: str, *, bold: bool = True, fill: str = "card_light") -> QRectF:
    """Draw text on a small card around a point in pixels and return the card."""
    painter.setFont(font(PLAIN, bold=bold))
    size = QFontMetricsF(painter.font()).boundingRect(text)
    card = QRectF(0, 0, size.width() + 14, 22)
    card.moveCenter(centre)
    painter.setPen(QPen(colour("ink"), 1))
    painter.setBrush(colour(fill))
    painter.drawRoundedRect(card, 4, 4)
    painter.drawText(card, Qt.AlignmentFlag.AlignCenter, text)
    return card


def draw_tape(
    painter: QPainter,
    start: QPointF,
    end: QPointF,
    text: str,
    *,
    typical: bool = False,
    card_at: QPointF | None = None,
) -> QRectF:
    """Draw a cloth tape between two points in pixels, its value on it or at ``card_at``; return the value's card."""
    length = math.hypot(end.x() - start.x(), end.y() - start.y())
    painter.save()
    painter.translate(start)
    painter.rotate(math.degrees(math.atan2(end.y() - start.y(), end.x() - start.x())))
    band = QRectF(0, -7, length, 14)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(0, 0, 0, 60))
    painter.drawRect(band.translated(2, 2))
    painter.setBrush(colour("tape", 205 if typical else 255))
    painter.drawRect(band)
    painter.setPen(QPen(colour("tape_line"), 1))
    for k in range(1, int(length // 8) + 1):
        painter.drawLine(QPointF(k * 8, -7), QPointF(k * 8, -1 if k % 5 == 0 else -4))
    painter.setPen(QPen(colour("tape_line"), 2))
    painter.drawLine(QPointF(0, -7), QPointF(0, 7))
    painter.drawLine(QPointF(length, -7), QPointF(length, 7))
    painter.restore()
    middle = QPointF((start.x() + end.x()) / 2, (start.y() + end.y()) / 2)
    return draw_label(painter, card_at or middle, text, bold=not typical, fill="card" if typical else "card_light")


def draw_distance(painter: QPainter, start: QPointF, end: QPointF, text: str, *, at: QPointF, cloth: str) -> None:
    """Draw a distance on cloth between two points in pixels, its value centred at a third."""
    painter.setPen(mark_pen(cloth, 1.4))
    painter.drawLine(start, end)
    for point in (start, end):
        painter.drawLine(QPointF(point.x(), point.y() - 5), QPointF(point.x(), point.y() + 5))
    draw_chalk_text(painter, at, text, bold=True, cloth=cloth)


def draw_chalk_text(
    painter: QPainter,
    centre: QPointF,
    text: str,
    *,
    bold: bool = False,
    pixels: int = PLAIN,
    name: str = "chalk",
    cloth: str | None = None,
    most_pixels: float | None = None,
) -> None:
    """Write around a point, on the felt or on ``cloth``, with a soft edge so that it reads over lines.

    Text longer than ``most_pixels`` is cut off with an ellipsis.
    """
    if most_pixels is not None:
        text = QFontMetricsF(font(pixels, bold=bold)).elidedText(text, Qt.TextElideMode.ElideRight, most_pixels)
    edge = QColor(cloth) if cloth else colour("felt")
    ink = mark_on(cloth) if cloth else colour(name)
    picture = _written(text, font(pixels, bold=bold), edge.name(), ink.name(), painter.device().devicePixelRatioF())
    size = picture.deviceIndependentSize()
    painter.drawPixmap(QPointF(centre.x() - size.width() / 2, centre.y() - size.height() / 2), picture)


@lru_cache(maxsize=200)
def _written(text: str, chosen: QFont, edge: str, ink: str, ratio: float) -> QPixmap:
    """Return text with its soft edge as a picture."""
    metrics = QFontMetricsF(chosen)
    picture = _clear(metrics.horizontalAdvance(text), chosen, ratio)
    with QPainter(picture) as painter:
        for place, letter in enumerate(text):
            if not letter.isspace():
                painter.drawPixmap(
                    round(metrics.horizontalAdvance(text[:place])), 0, _edge(letter, chosen, edge, ratio)
                )
        painter.setRenderHint(QPainter.RenderHint.TextAntialiasing)
        painter.setFont(chosen)
        painter.setPen(QColor(ink))
        painter.drawText(QPointF(EDGE, _base(chosen)), text)
    return picture


@lru_cache(maxsize=1000)
def _edge(letter: str, chosen: QFont, edge: str, ratio: float) -> QPixmap:
    """Return the soft edge of one letter as a picture: it takes long to draw, and a distance changes all the time."""
    picture = _clear(QFontMetricsF(chosen).horizontalAdvance(letter), chosen, ratio)
    path = QPainterPath()
    path.addText(EDGE, _base(chosen), chosen, letter)
    soft = QColor(edge)
    soft.setAlpha(225)
    with QPainter(picture) as painter:
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.strokePath(path, QPen(soft, EDGE, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
        painter.fillPath(path, soft)
    return picture


def _clear(wide: float, chosen: QFont, ratio: float) -> QPixmap:
    """Return an empty picture for so much text with its edge."""
    picture = QPixmap(math.ceil((wide + 2 * EDGE) * ratio), math.ceil(chosen.pixelSize() * 2.0 * ratio))
    picture.setDevicePixelRatio(ratio)
    picture.fill(Qt.GlobalColor.transparent)
    return picture


def _base(chosen: QFont) -> float:
    return chosen.pixelSize() * 1.36


def fitting_size(said: str, box: QRectF, sizes: Sequence[int]) -> int:
    """Return the first of some sizes, in pixels, at which words fit a box over several lines; else the last."""
    for size in sizes[:-1]:
        high = QFontMetricsF(font(size)).boundingRect(QRectF(0, 0, box.width(), 4000), Qt.TextFlag.TextWordWrap, said)
        if high.height() <= box.height():
            return size
    return sizes[-1]


def words_height(pixels: int, said: str, wide: float, *, bold: bool = False) -> float:
    """Return how high words are that are set in so many pixels, within a width."""
    metrics = QFontMetricsF(font(pixels, bold=bold))
    return float(metrics.boundingRect(QRectF(0, 0, wide, 4000), Qt.TextFlag.TextWordWrap, said).height())


def draw_words(
    painter: QPainter, box: QRectF, pixels: int, said: str, *, bold: bool = False, ink: str = "ink"
) -> float:
    """Write in a box, over several lines where need be, and return how high it came out."""
    painter.setPen(colour(ink))
    painter.setFont(font(pixels, bold=bold))
    flags = Qt.TextFlag.TextWordWrap
    painter.drawText(box, flags, said)
    return float(painter.boundingRect(box, flags, said).height())


def draw_card(painter: QPainter, card: QRectF, *, light: bool = False) -> None:
    """Draw a manila card with its shadow."""
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(0, 0, 0, 50))
    painter.drawRoundedRect(card.translated(2, 3), 6, 6)
    painter.setPen(QPen(colour("card_line"), 1))
    painter.setBrush(colour("card_light" if light else "card"))
    painter.drawRoundedRect(card, 6, 6)


def draw_sign(painter: QPainter, level: str, box: QRectF, text: str = "") -> None:
    """Draw the sign of a level: stop an octagon, warn a triangle, note a disc, confirm a square."""
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(colour(level if level in ("stop", "warn", "note") else "good"))
    centre, radius = box.center(), box.width() / 2
    if level == "stop":
        corners = [math.pi / 8 + k * math.pi / 4 for k in range(8)]
        painter.drawPolygon(QPolygonF([centre + QPointF(math.cos(a), math.sin(a)) * radius for a in corners]))
    elif level == "warn":
        painter.drawPolygon(
            QPolygonF([QPointF(centre.x(), box.top()), box.bottomRight(), QPointF(box.left(), box.bottom())])
        )
        box = box.translated(0, radius * 0.25)
    elif level == "note":
        painter.drawEllipse(box)
    else:
        painter.drawRect(box)
    if text:
        painter.setPen(QColor("#ffffff") if level != "warn" else QColor("#1c1a16"))
        painter.setFont(font(SMALL, bold=True))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)


def hatch(order: int, over: str) -> QBrush:
    """Return the hatch of a layer, drawn so that it shows over a film's colour."""
    base = QColor(over)
    line = QColor(0, 0, 0, 50) if base.lightnessF() > 0.45 else QColor(255, 255, 255, 80)
    return QBrush(line, HATCHES[(order - 1) % len(HATCHES)])


def lit_pen() -> QPen:
    """Return the pen that lights up what is pointed at."""
    made = QPen(QColor(theme().accent), 2.5)
    made.setCosmetic(True)
    return made
