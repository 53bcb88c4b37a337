"""The card of the dry fit: every part and counter of the film numbered on the cloth, and what is asked about it."""

import math
from collections.abc import Sequence
from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter

from zinnet.ui.drawing import draw_words, fitting_size, pen
from zinnet.ui.films import film_brush, ink_brush
from zinnet.ui.garment import draw_panel, fit_into
from zinnet.ui.region_paths import region_path
from zinnet.ui.theme import colour, font

if TYPE_CHECKING:
    from zinnet.blanks.model import Blank
    from zinnet.plan.dry_fit import LaidOut
    from zinnet.pressing.dry_fit import Spot

NAME, COUNT, ASKED = 26, 36, 30
ROW, SWATCH = 74, 40
ROOM = 0.06
BADGES = (13.0, 10.5, 8.0)
"""Half the width of a number, in pixels: of few parts, of more, of many."""
STEPS, RINGS = 12, 9
SMALL_TIMES = 3.2
"""A part whose shorter side is less than so many times half a number has its number beside it."""


def draw_counts(painter: QPainter, box: QRectF, laid: "LaidOut") -> float:
    """Draw the pieces in a column with how many parts each has, then what is asked; return where it ends."""
    y, pieces = box.top(), laid.fit.rows
    asked = sum(1.4 * ASKED * (1 + len(said) // 44) + 8 for said in laid.asked)
    row = min(ROW, max(34.0, (box.height() - asked) / max(1, len(pieces))))
    shown = max(1, min(len(pieces), int((box.height() - asked) / row)))
    for piece, counted in pieces[:shown]:
        side = min(SWATCH, row - 8)
        painter.setPen(pen("ink", 1.2))
        painter.setBrush(film_brush(piece.film))
        painter.drawRect(QRectF(box.left(), y + (row - side) / 2 - 2, side, side))
        wide = box.width() - side - 18
        name = QRectF(box.left() + side + 18, y, wide, row * 0.42)
        draw_words(painter, name, fitting_size(piece.name, name, (NAME, 20, 17, 14)), piece.name, ink="quiet_ink")
        count = QRectF(name.left(), y + row * 0.38, wide, row * 0.6)
        draw_words(painter, count, fitting_size(counted, count, (COUNT, 28, 22, 17, 14)), counted, bold=True)
        y += row
    if shown < len(pieces):
        y += draw_words(painter, QRectF(box.left(), y, box.width(), 30), 18, f"and {len(pieces) - shown} more layers")
    for number, said in enumerate(laid.asked):
        left = QRectF(box.left(), y + 4, box.width(), box.bottom() - y)
        size = fitting_size(said, left, (ASKED, 26, 22, 18) if number < 2 else (22, 18, 15))
        y += draw_words(painter, left, size, said, bold=number == 0) + 6
    return y


def draw_laid_out(painter: QPainter, box: QRectF, blank: "Blank", laid: "LaidOut") -> None:
    """Draw the film as it will lie on its cloth, each part and each counter with its number."""
    bounds = [one.region.bounds for one in laid.fit.pieces]
    if not bounds:
        return
    left, top = min(one[0] for one in bounds), min(one[1] for one in bounds)
    right, bottom = max(one[2] for one in bounds), max(one[3] for one in bounds)
    room = ROOM * max(right - left, bottom - top)
    world = fit_into(box, (left - room, top - room, right + room, bottom + room))
    painter.save()
    painter.setClipRect(box)
    draw_panel(painter, world, blank, laid.works[0].panel)
    painter.setTransform(world, True)
    for one in laid.fit.pieces:
        painter.setPen(pen("accent", 1.4) if one in laid.like_cloth else Qt.PenStyle.NoPen)
        painter.setBrush(film_brush(one.piece.film))
        painter.drawPath(region_path(one.region, painter))
        painter.setPen(Qt.PenStyle.NoPen)
        for ink in one.piece.inks:
            painter.setBrush(ink_brush(ink))
            painter.drawPath(region_path(ink.region))
    painter.resetTransform()
    spots = laid.fit.spots
    half = BADGES[0] if len(spots) <= 40 else BADGES[1] if len(spots) <= 120 else BADGES[2]
    points = [world.map(QPointF(*spot.at)) for spot in spots]
    small = [spot.side_mm * world.m11() < SMALL_TIMES * half for spot in spots]
    at = _badges(points, small, half, box)
    for point, centre in zip(points, at, strict=True):
        if centre != point:
            painter.setPen(pen("ink", 1.4))
            painter.drawLine(point, centre)
            painter.setBrush(colour("ink"))
            painter.drawEllipse(point, 2, 2)
    for spot, centre in zip(spots, at, strict=True):
        _draw_badge(painter, centre, half, spot)
    painter.restore()


def _badges(points: Sequence[QPointF], small: Sequence[bool], half: float, box: QRectF) -> list[QPointF]:
    """Return where numbers stand: on their parts, beside small ones, or as near as the others leave room."""
    taken: list[QPointF] = []
    inside = box.adjusted(half, half, -half, -half)
    for point, is_small in zip(points, small, strict=True):
        tries = [] if is_small else [point]
        for ring in range(1, RINGS):
            for step in range(STEPS):
                angle = 2 * math.pi * step / STEPS
                reach = ring * 1.7 * half
                tries.append(point + QPointF(math.cos(angle) * reach, math.sin(angle) * reach))
        free = (
            one
            for one in tries
            if inside.contains(one)
            and all((one - other).manhattanLength() >= 2.5 * half for other in taken)
            and all((one - other).manhattanLength() >= 1.5 * half for other in points if other != point)
        )
        taken.append(next(free, point))
    return taken


def _draw_badge(painter: QPainter, centre: QPointF, half: float, spot: "Spot") -> None:
    """Draw the number of a part in a circle, that of a counter in a square."""
    painter.setPen(pen("ink", 1.2))
    painter.setBrush(colour("tape" if spot.is_counter else "card_light"))
    badge = QRectF(centre.x() - half, centre.y() - half, 2 * half, 2 * half)
    if spot.is_counter:
        painter.drawRect(badge)
    else:
        painter.drawEllipse(badge)
    painter.setPen(colour("ink"))
    painter.setFont(font(round(half * (1.15 if spot.number < 100 else 0.9)), bold=True))
    painter.drawText(badge, Qt.AlignmentFlag.AlignCenter, str(spot.number))
