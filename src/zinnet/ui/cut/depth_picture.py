"""How deep a cut goes, in section: film on its carrier, the blade's groove in them."""

from PySide6.QtCore import QPointF, QRect, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QIcon, QPainter, QPen, QPixmap, QPolygonF

from zinnet.cutting.settings import OUTCOMES, Outcome
from zinnet.ui.theme import colour

DEPTHS = dict(zip(OUTCOMES, (0.28, 0.46, 0.56, 0.76, 1.0), strict=True))
"""How deep each result is drawn, as a share of film and carrier together; the film is the upper half."""
CARRIER = "#d9d3c2"


def draw_section(painter: QPainter, box: QRectF, outcome: Outcome, film_colour: str) -> None:
    """Draw a film (upper half) on its carrier with a groove as deep as a result says."""
    film = QRectF(box.left(), box.top(), box.width(), box.height() / 2)
    carrier = QRectF(box.left(), box.center().y(), box.width(), box.height() / 2)
    painter.setPen(QPen(colour("ink"), 1))
    painter.setBrush(QColor(CARRIER))
    painter.drawRect(carrier)
    painter.setBrush(QColor(film_colour))
    painter.drawRect(film)
    middle, depth = box.center().x(), box.height() * DEPTHS[outcome]
    half = 3.0 + depth * 0.1
    groove = [QPointF(middle - half, box.top()), QPointF(middle + half, box.top()), QPointF(middle, box.top() + depth)]
    painter.setPen(QPen(colour("ink"), 1.2))
    painter.setBrush(colour("card_light"))
    painter.drawPolygon(QPolygonF(groove))


def section_icon(outcome: Outcome, film_colour: str, size: QSize, ratio: float = 1.0) -> QIcon:
    """Return the section as an icon."""
    picture = QPixmap(size * ratio)
    picture.setDevicePixelRatio(ratio)
    picture.fill(Qt.GlobalColor.transparent)
    with QPainter(picture) as painter:
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        draw_section(painter, QRectF(QRect(QPointF(2, 2).toPoint(), size - QSize(4, 4))), outcome, film_colour)
    return QIcon(picture)
