"""The card of a piece in hand: its picture on the garment drawn so far, and the four lengths, read from two metres."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QFontMetricsF, QPainter, QTransform

from zinnet.ui.drawing import draw_words, fitting_size, mark_on, pen
from zinnet.ui.films import film_brush, ink_brush
from zinnet.ui.garment import draw_centre_line, draw_panel, fit_into
from zinnet.ui.region_paths import region_path
from zinnet.ui.theme import colour, font

if TYPE_CHECKING:
    from zinnet.base.units import Unit
    from zinnet.blanks.model import Blank
    from zinnet.films.catalogue import Film
    from zinnet.geometry.region import Region
    from zinnet.plan.in_hand import InHand

LENGTH, NEAR, POINT, WAY = 44, 28, 17, 22
ROW = 64.0
BADGE = 17
SHORT_PX = 70
ROOM = 0.08
"""How much of the panel is shown around all that is measured, as a share of that."""


def draw_lengths(painter: QPainter, box: QRectF, hand: "InHand", unit: "Unit") -> float:
    """Draw the four lengths in a column, and return where it ends."""
    y = box.top()
    row = min(ROW, (box.height() - 40) / 4)
    for (letter, shown, _), length in zip(hand.rows(unit), hand.laying.lengths, strict=True):
        _draw_badge(painter, QPointF(box.left() + BADGE, y + 30), letter)
        painter.setFont(font(LENGTH, bold=True))
        painter.setPen(colour("ink"))
        wide = QFontMetricsF(painter.font()).horizontalAdvance(shown)
        painter.drawText(QPointF(box.left() + 48, y + 45), shown)
        left = box.left() + 48 + max(wide, 175.0) + 16
        near = QRectF(left, y + 2, box.right() - left, 34)
        said = hand.near(length)
        draw_words(painter, near, fitting_size(said, near, (NEAR, 24, 20, 17, 14)), said)
        point = f"from its film's {length.point}"
        draw_words(painter, QRectF(left, y + 34, box.right() - left, 26), POINT, point, ink="quiet_ink")
        y += row
    y += 6
    way, rest = hand.way(unit), QRectF(box.left(), y, box.width(), box.bottom() - y)
    return y + draw_words(painter, rest, fitting_size(way, rest, (WAY, 19, 16, 14)), way)


def draw_hand(painter: QPainter, box: QRectF, blank: "Blank", hand: "InHand") -> None:
    """Draw the garment with what lies there, the piece lit up, and the lengths as tapes."""
    panel = hand.work.panel
    world = fit_into(box, _seen(hand))
    painter.save()
    painter.setClipRect(box)
    draw_panel(painter, world, blank, panel)
    draw_centre_line(painter, world, blank, panel)
    for piece, region in hand.under:
        _fill(painter, world, piece.film, region)
    painter.setTransform(world, True)
    painter.setBrush(film_brush(hand.piece.film))
    painter.setPen(pen("accent", 3))
    painter.drawPath(region_path(hand.region, painter))
    for ink in hand.piece.inks:
        painter.setBrush(ink_brush(ink))
        painter.drawPath(region_path(ink.region))
    painter.resetTransform()
    for letter, length in zip("ABCD", hand.laying.lengths, strict=True):
        start, end = world.map(QPointF(*length.start)), world.map(QPointF(*length.end))
        edge = pen("ink", 7)
        edge.setColor(mark_on(blank.colour))
        painter.setPen(edge)
        painter.drawLine(start, end)
        painter.setPen(pen("tape", 4))
        painter.drawLine(start, end)
        painter.setPen(pen("ink", 1.5))
        painter.setBrush(colour("tape"))
        painter.drawEllipse(start, 5, 5)
        _draw_badge(painter, _inside(box, _beside(start, end)), letter)
    painter.restore()


def _seen(hand: "InHand") -> tuple[float, float, float, float]:
    """Return what of the panel is shown: the piece and all that its lengths go to, with room around."""
    spots = [spot for length in hand.laying.lengths for spot in (length.start, length.end)]
    left, top, right, bottom = hand.region.bounds
    xs, ys = [left, right, *(x for x, _ in spots)], [top, bottom, *(y for _, y in spots)]
    room = ROOM * max(max(xs) - min(xs), max(ys) - min(ys))
    return min(xs) - room, min(ys) - room, max(xs) + room, max(ys) + room


def _beside(start: QPointF, end: QPointF) -> QPointF:
    """Return where the letter of a tape stands: on its middle, or beyond the end of one that is too short."""
    way = end - start
    length = float((way.x() ** 2 + way.y() ** 2) ** 0.5)
    if length >= SHORT_PX:
        return (start + end) / 2
    return end + (way / length if length else QPointF(0.0, -1.0)) * (BADGE + 8)


def _fill(painter: QPainter, world: QTransform, film: "Film", region: "Region") -> None:
    painter.setTransform(world, True)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(film_brush(film))
    painter.drawPath(region_path(region, painter))
    painter.resetTransform()


def _inside(box: QRectF, at: QPointF) -> QPointF:
    return QPointF(
        min(max(at.x(), box.left() + BADGE), box.right() - BADGE),
        min(max(at.y(), box.top() + BADGE), box.bottom() - BADGE),
    )


def _draw_badge(painter: QPainter, centre: QPointF, letter: str) -> None:
    painter.setPen(pen("ink", 1.5))
    painter.setBrush(colour("card_light"))
    painter.drawEllipse(centre, BADGE, BADGE)
    painter.setPen(colour("ink"))
    painter.setFont(font(20, bold=True))
    painter.drawText(
        QRectF(centre.x() - BADGE, centre.y() - BADGE, 2 * BADGE, 2 * BADGE), Qt.AlignmentFlag.AlignCenter, letter
    )
