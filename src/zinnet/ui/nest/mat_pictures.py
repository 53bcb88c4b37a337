"""Pictures of mats as they are cut or worn, drawn once per look and a few pieces at a time."""

import math
import time
from dataclasses import dataclass
from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPixmap, QTransform

from zinnet.base.units import MM_PER_INCH, write_length
from zinnet.nesting.sheet import film_of, room_of
from zinnet.ui.drawing import draw_card, hatch, lit_pen, pen
from zinnet.ui.region_paths import region_path
from zinnet.ui.theme import PLAIN, colour, font, theme

if TYPE_CHECKING:
    from zinnet.nesting.model import Placed
    from zinnet.plan.nests import NestedMat
    from zinnet.ui.session import Session

WIDE_PIXELS, NARROW_PIXELS = 140, 44
MOST_PICTURES = 300
PIECES_AT_ONCE = 2
EDGE, HEAD = 6.0, 26.0
"""Room in pixels around a mat's card in its picture, and above it for the title."""


@dataclass(frozen=True)
class MatView:
    """How mats are looked at: the scale, as cut or as worn, and the screen's pixels per point."""

    pixels_per_mm: float
    as_worn: bool
    ratio: float

    def turned_over(self, mat: "NestedMat") -> QTransform:
        """Return the transform of a mat in itself: as worn, mirrored mats are turned over."""
        if self.as_worn and mat.nest.mirrored:
            return QTransform(-1, 0, 0, 1, mat.sheet.width_mm, 0)
        return QTransform()


@dataclass
class _Picture:
    """A mat's picture, and how many of its pieces are drawn so far."""

    mat: "NestedMat"
    pixmap: QPixmap
    view: MatView
    drawn: int = 0


class MatPictures:
    """The pictures that were drawn, by their look."""

    def __init__(self, session: "Session") -> None:
        self.session = session
        self._pictures: dict[tuple[object, ...], _Picture] = {}

    def _look(self, mat: "NestedMat", view: MatView) -> tuple[object, ...]:
        """Return all that a mat's picture depends on."""
        pointed = self.session.selection.pointed
        lit = pointed if any(placed.piece == pointed for placed in mat.layout.placed) else None
        return (
            id(mat.layout),
            (mat.number, mat.nest.film.id),
            view,
            lit,
            theme(),
            self.session.job.unit,
        )

    def picture_of(self, mat: "NestedMat", view: MatView, deadline: float) -> QPixmap | None:
        """Return the picture of a mat with its pieces, drawn once per look, as far as the time goes."""
        look = self._look(mat, view)
        if look not in self._pictures:
            if time.monotonic() > deadline:
                return None
            if len(self._pictures) >= MOST_PICTURES:
                self._pictures.clear()
            self._pictures[look] = self._blank_picture(mat, view)
        picture = self._pictures[look]
        while picture.drawn < len(mat.layout.placed) and time.monotonic() < deadline:
            with self._sheet_painter(picture) as painter:
                for placed in mat.layout.placed[picture.drawn : picture.drawn + PIECES_AT_ONCE]:
                    self._draw_piece(painter, mat, placed)
            picture.drawn += PIECES_AT_ONCE
        return picture.pixmap

    def _blank_picture(self, mat: "NestedMat", view: MatView) -> _Picture:
        """Return the picture of a mat's card with its title and rulings, still without pieces."""
        ratio, scale = view.ratio, view.pixels_per_mm
        card = QRectF(EDGE, HEAD, mat.sheet.width_mm * scale, mat.sheet.height_mm * scale)
        pixmap = QPixmap(math.ceil((card.right() + EDGE) * ratio), math.ceil((card.bottom() + EDGE) * ratio))
        pixmap.setDevicePixelRatio(ratio)
        pixmap.fill(Qt.GlobalColor.transparent)
        picture = _Picture(mat, pixmap, view)
        with QPainter(pixmap) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            draw_card(painter, card, light=True)
            self._draw_title(painter, mat, card)
        with self._sheet_painter(picture) as painter:
            self._draw_sheet(painter, mat)
        return picture

    def _sheet_painter(self, picture: _Picture) -> QPainter:
        """Return a painter on a mat's picture, in sheet mm."""
        painter = QPainter(picture.pixmap)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        scale = picture.view.pixels_per_mm
        to_card = QTransform(scale, 0, 0, scale, EDGE, HEAD)
        painter.setTransform(picture.view.turned_over(picture.mat) * to_card)
        return painter

    def _draw_title(self, painter: QPainter, mat: "NestedMat", card: QRectF) -> None:
        reaches = write_length(mat.layout.used_length_mm, unit=self.session.job.unit)
        source = "" if mat.item is None else f", {mat.item.kind} {mat.item.number}"
        name = f"{mat.number}  {mat.nest.film.name}{source}"
        head = QRectF(card.left(), card.top() - 22, card.width(), 18)
        painter.setPen(colour("chalk"))
        painter.setFont(font(PLAIN, bold=True))
        taken = painter.fontMetrics().horizontalAdvance(name)
        middle = Qt.AlignmentFlag.AlignVCenter
        painter.drawText(head, Qt.AlignmentFlag.AlignLeft | middle, name)
        said = f"{mat.use:.0%} used of {reaches}" if card.width() - taken > WIDE_PIXELS else f"{mat.use:.0%}"
        if card.width() - taken < NARROW_PIXELS:
            return
        painter.setFont(font(PLAIN))
        painter.setPen(colour("quiet_chalk"))
        painter.drawText(head, Qt.AlignmentFlag.AlignRight | middle, said)

    def _draw_sheet(self, painter: QPainter, mat: "NestedMat") -> None:
        """Draw a mat's rulings, margin and reach; the painter is in sheet mm."""
        sheet, margin = mat.sheet, mat.sheet.margin_mm
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(pen("card_line", 1))
        for k in range(1, math.ceil(sheet.width_mm / MM_PER_INCH)):
            painter.drawLine(QPointF(k * MM_PER_INCH, 0), QPointF(k * MM_PER_INCH, sheet.height_mm))
        for k in range(1, math.ceil(sheet.height_mm / MM_PER_INCH)):
            painter.drawLine(QPointF(0, k * MM_PER_INCH), QPointF(sheet.width_mm, k * MM_PER_INCH))
        if sheet.is_plain:
            painter.setPen(pen("quiet_ink", 1, dashed=True))
            painter.drawRect(QRectF(margin, margin, sheet.width_mm - 2 * margin, sheet.height_mm - 2 * margin))
        else:
            self._draw_scrap(painter, mat)
        if mat.test_spot is not None:
            painter.setPen(pen("ink", 1, dashed=True))
            painter.setBrush(Qt.BrushStyle.BDiagPattern)
            painter.drawPath(region_path(mat.test_spot))
            painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(pen("accent", 1.4, dashed=True))
        reach = mat.layout.used_length_mm + margin
        painter.drawLine(QPointF(reach, 0), QPointF(reach, sheet.height_mm))

    def _draw_scrap(self, painter: QPainter, mat: "NestedMat") -> None:
        """Draw where there is film, where pieces may lie on it, and what is spoiled."""
        film = QColor(mat.nest.film.colour)
        film.setAlpha(64)
        painter.setPen(pen("ink", 1.2))
        painter.setBrush(film)
        painter.drawPath(region_path(film_of(mat.sheet)))
        painter.setPen(pen("quiet_ink", 1, dashed=True))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(region_path(room_of(mat.sheet)))
        if mat.sheet.keep_out is not None:
            painter.setPen(pen("stop", 1))
            painter.setBrush(Qt.BrushStyle.BDiagPattern)
            painter.drawPath(region_path(mat.sheet.keep_out))
            painter.setBrush(Qt.BrushStyle.NoBrush)

    def _draw_piece(self, painter: QPainter, mat: "NestedMat", placed: "Placed") -> None:
        """Draw one piece where it lies: the path is the part's own, the same for all its copies."""
        part, film = mat.nest.part(placed.piece), mat.nest.film.colour
        path = region_path(part.region, painter)
        painter.save()
        painter.setTransform(QTransform(*placed.matrix.T.ravel()) * painter.transform())
        if part.marks is not None:
            painter.setPen(pen("ink", 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawPath(region_path(part.room, painter))
            painter.drawPath(region_path(part.marks.registers))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(film))
        painter.drawPath(path)
        brush = hatch(part.layer.layer.order, film)
        inverse, _ = painter.transform().inverted()
        brush.setTransform(QTransform(inverse.m11(), inverse.m12(), inverse.m21(), inverse.m22(), 0, 0))
        painter.setBrush(brush)
        painter.setPen(lit_pen() if placed.piece == self.session.selection.pointed else pen("ink", 0.8, alpha=200))
        painter.drawPath(path)
        painter.restore()
