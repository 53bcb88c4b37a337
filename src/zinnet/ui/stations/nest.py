"""Nest: the mats as cut or as worn, their use in numbers, and the nest's progress."""

import math
import time
from dataclasses import dataclass

import shapely
from PySide6.QtCore import QPointF, QRectF, Qt, QTimer
from PySide6.QtGui import QColor, QMouseEvent, QPainter, QPixmap, QTransform
from PySide6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QWidget

from zinnet.edits import nest_again
from zinnet.nested import Mat
from zinnet.nesting.model import Placed
from zinnet.ui.drawing import draw_card, draw_chalk_text, hatch, lit_pen, pen, region_path
from zinnet.ui.session import Session
from zinnet.ui.table import TableView
from zinnet.ui.theme import LARGE, PLAIN, colour, font, theme
from zinnet.units import MM_PER_INCH, write_length

ROOM_MM, TITLE_MM = 40.0, 52.0
WIDE_PIXELS = 190
MOST_PICTURES = 300
DRAW_S = 0.01
PIECES_AT_ONCE = 2
EDGE, HEAD = 6.0, 26.0
"""Room in pixels around a mat's card in its picture, and above it for the title."""


@dataclass(frozen=True)
class _Spot:
    """Where a mat lies on the table, in mm."""

    mat: Mat
    x: float
    y: float


@dataclass
class _Picture:
    """A mat's picture, and how many of its pieces are drawn so far."""

    mat: Mat
    pixmap: QPixmap
    drawn: int = 0


class NestStation(TableView):
    """All mats of the job, side by side."""

    def __init__(self, session: Session) -> None:
        super().__init__(session, "The mats with their pieces")
        self.as_worn = False
        self._pictures: dict[tuple[object, ...], _Picture] = {}
        self.bar = NestBar(session, self)
        session.plan_changed.connect(self.bar.follow)
        session.nester.progressed.connect(self.bar.follow)
        session.nester.progressed.connect(self.update)

    def resizeEvent(self, event: object) -> None:
        """Keep the bar at the foot of the table."""
        super().resizeEvent(event)  # type: ignore[arg-type]
        self.bar.setGeometry(20, self.height() - 50, self.width() - 40, 40)

    def margins(self) -> tuple[int, int, int, int]:
        """Keep room for the title and the bar."""
        return (24, 66, 24, 62)

    def spots(self) -> list[_Spot]:
        """Return where each mat lies: in rows that suit the shape of the table."""
        mats = self.session.plan.mats
        if not mats:
            return []
        width = max(mat.sheet.width_mm for mat in mats) + ROOM_MM
        height = max(mat.sheet.height_mm for mat in mats) + TITLE_MM
        room_x, room_y = max(self.width() - 48, 1), max(self.height() - 128, 1)
        columns = max(
            range(1, len(mats) + 1),
            key=lambda n: min(room_x / (n * width), room_y / (math.ceil(len(mats) / n) * height)),
        )
        return [_Spot(mat, (k % columns) * width, (k // columns) * height) for k, mat in enumerate(mats)]

    def content_box(self) -> tuple[float, float, float, float]:
        """Return the box around all mats and their titles."""
        spots = self.spots()
        if not spots:
            return (0, 0, 300, 300)
        right = max(spot.x + spot.mat.sheet.width_mm for spot in spots)
        bottom = max(spot.y + spot.mat.sheet.height_mm for spot in spots)
        return (0, -TITLE_MM + 16, right, bottom)

    def set_as_worn(self, as_worn: bool) -> None:
        """Show the pieces as they are worn, or as they are cut."""
        self.as_worn = as_worn
        self.update()

    def _to_table(self, spot: _Spot) -> QTransform:
        """Return the transform from sheet mm to table mm; as worn, mirrored mats are turned over."""
        if self.as_worn and spot.mat.nest.mirrored:
            return QTransform(-1, 0, 0, 1, spot.x + spot.mat.sheet.width_mm, spot.y)
        return QTransform(1, 0, 0, 1, spot.x, spot.y)

    def paint_table(self, painter: QPainter) -> None:
        """Draw the mats."""
        spots = self.spots()
        side = "as worn" if self.as_worn else "as cut, seen from the blade's side"
        draw_chalk_text(painter, QPointF(self.width() / 2, 26), "Mats", bold=True, pixels=LARGE)
        if not spots:
            said = "The pieces are being nested ..." if self.session.nester.is_running else "Nothing is nested yet."
            if not self.session.has_artwork:
                said = "Open artwork first: its pieces are nested here."
            draw_chalk_text(painter, QPointF(self.width() / 2, 47), said, name="quiet_chalk")
            return
        count = "1 mat" if len(spots) == 1 else f"{len(spots)} mats"
        draw_chalk_text(painter, QPointF(self.width() / 2, 47), f"{count}, {side}", name="quiet_chalk")
        deadline = time.monotonic() + DRAW_S
        for spot in spots:
            self._draw_mat(painter, spot, deadline)
        if time.monotonic() > deadline:
            QTimer.singleShot(0, self.update)

    def _look(self, mat: Mat) -> tuple[object, ...]:
        """Return all that a mat's picture depends on."""
        pointed = self.session.pointed
        lit = pointed if any(placed.piece == pointed for placed in mat.layout.placed) else None
        return (
            id(mat.layout),
            mat.stem,
            round(self.pixels_per_mm, 6),
            self.as_worn,
            lit,
            theme(),
            self.session.job.unit,
        )

    def _picture_of(self, mat: Mat, deadline: float) -> QPixmap | None:
        """Return the picture of a mat with its pieces, drawn once per look, as far as the time goes."""
        look = self._look(mat)
        if look not in self._pictures:
            if time.monotonic() > deadline:
                return None
            if len(self._pictures) >= MOST_PICTURES:
                self._pictures.clear()
            self._pictures[look] = self._blank_picture(mat)
        picture = self._pictures[look]
        while picture.drawn < len(mat.layout.placed) and time.monotonic() < deadline:
            painter = self._sheet_painter(picture)
            for placed in mat.layout.placed[picture.drawn : picture.drawn + PIECES_AT_ONCE]:
                self._draw_piece(painter, mat, placed)
            painter.end()
            picture.drawn += PIECES_AT_ONCE
        return picture.pixmap

    def _blank_picture(self, mat: Mat) -> _Picture:
        """Return the picture of a mat's card with its title and rulings, still without pieces."""
        ratio, scale = self.devicePixelRatioF(), self.pixels_per_mm
        card = QRectF(EDGE, HEAD, mat.sheet.width_mm * scale, mat.sheet.height_mm * scale)
        pixmap = QPixmap(math.ceil((card.right() + EDGE) * ratio), math.ceil((card.bottom() + EDGE) * ratio))
        pixmap.setDevicePixelRatio(ratio)
        pixmap.fill(Qt.GlobalColor.transparent)
        picture = _Picture(mat, pixmap)
        painter = QPainter(pixmap)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        draw_card(painter, card, light=True)
        self._draw_title(painter, mat, card)
        painter.end()
        painter = self._sheet_painter(picture)
        self._draw_sheet(painter, mat)
        painter.end()
        return picture

    def _sheet_painter(self, picture: _Picture) -> QPainter:
        """Return a painter on a mat's picture, in sheet mm."""
        painter = QPainter(picture.pixmap)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        to_card = QTransform(self.pixels_per_mm, 0, 0, self.pixels_per_mm, EDGE, HEAD)
        painter.setTransform(self._to_table(_Spot(picture.mat, 0.0, 0.0)) * to_card)
        return painter

    def _draw_mat(self, painter: QPainter, spot: _Spot, deadline: float) -> None:
        picture = self._picture_of(spot.mat, deadline)
        corner = self.to_pixels(spot.x, spot.y)
        if picture is not None:
            painter.drawPixmap(corner - QPointF(EDGE, HEAD), picture)

    def _draw_title(self, painter: QPainter, mat: Mat, card: QRectF) -> None:
        reaches = write_length(mat.layout.used_length_mm, unit=self.session.job.unit)
        said = f"{mat.use:.0%} used of {reaches}" if card.width() > WIDE_PIXELS else f"{mat.use:.0%}"
        head = QRectF(card.left(), card.top() - 22, card.width(), 18)
        painter.setPen(colour("chalk"))
        painter.setFont(font(PLAIN, bold=True))
        middle = Qt.AlignmentFlag.AlignVCenter
        painter.drawText(head, Qt.AlignmentFlag.AlignLeft | middle, f"{mat.number}  {mat.nest.film.name}")
        painter.setFont(font(PLAIN))
        painter.setPen(colour("quiet_chalk"))
        painter.drawText(head, Qt.AlignmentFlag.AlignRight | middle, said)

    def _draw_sheet(self, painter: QPainter, mat: Mat) -> None:
        """Draw a mat's rulings, margin and reach; the painter is in sheet mm."""
        sheet, margin = mat.sheet, mat.sheet.margin_mm
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(pen("card_line", 1))
        for k in range(1, math.ceil(sheet.width_mm / MM_PER_INCH)):
            painter.drawLine(QPointF(k * MM_PER_INCH, 0), QPointF(k * MM_PER_INCH, sheet.height_mm))
        for k in range(1, math.ceil(sheet.height_mm / MM_PER_INCH)):
            painter.drawLine(QPointF(0, k * MM_PER_INCH), QPointF(sheet.width_mm, k * MM_PER_INCH))
        painter.setPen(pen("quiet_ink", 1, dashed=True))
        painter.drawRect(QRectF(margin, margin, sheet.width_mm - 2 * margin, sheet.height_mm - 2 * margin))
        painter.setPen(pen("accent", 1.4, dashed=True))
        reach = mat.layout.used_length_mm + margin
        painter.drawLine(QPointF(reach, 0), QPointF(reach, sheet.height_mm))

    def _draw_piece(self, painter: QPainter, mat: Mat, placed: Placed) -> None:
        """Draw one piece where it lies: the path is the part's own, the same for all its copies."""
        part, film = mat.nest.part(placed.piece), mat.nest.film.colour
        path = region_path(part.region)
        painter.save()
        painter.setTransform(QTransform(*placed.matrix.T.ravel()) * painter.transform())
        if part.marks is not None:
            painter.setPen(pen("ink", 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawPath(region_path(part.room))
            painter.drawPath(region_path(part.marks.registers))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(film))
        painter.drawPath(path)
        brush = hatch(part.layer.layer.order, film)
        inverse, _ = painter.transform().inverted()
        brush.setTransform(QTransform(inverse.m11(), inverse.m12(), inverse.m21(), inverse.m22(), 0, 0))
        painter.setBrush(brush)
        painter.setPen(lit_pen() if placed.piece == self.session.pointed else pen("ink", 0.8, alpha=200))
        painter.drawPath(path)
        painter.restore()

    def show_mat_place(self, number: int, box: tuple[float, float, float, float]) -> None:
        """Frame a place on one mat."""
        for spot in self.spots():
            if spot.mat.number == number:
                place = self._to_table(spot).mapRect(QRectF(QPointF(*box[:2]), QPointF(*box[2:])))
                self.shown_box = (place.left(), place.top(), place.right(), place.bottom())
        self.update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Light up the piece under the pointer."""
        super().mouseMoveEvent(event)
        point = self.to_mm(event.position())
        for spot in self.spots():
            inverse, _ = self._to_table(spot).inverted()
            on_sheet = inverse.map(point)
            if not (0 <= on_sheet.x() <= spot.mat.sheet.width_mm and 0 <= on_sheet.y() <= spot.mat.sheet.height_mm):
                continue
            for placed in spot.mat.layout.placed:
                to_piece, _ = QTransform(*placed.matrix.T.ravel()).inverted()
                as_cut = to_piece.map(on_sheet)
                if shapely.contains_xy(spot.mat.nest.part(placed.piece).region, as_cut.x(), as_cut.y()):
                    self.session.point_at(placed.piece)
                    return
        self.session.point_at(None)


class NestBar(QWidget):
    """The foot of the nest: how much film is used, how the nest goes on, and what can be done."""

    def __init__(self, session: Session, station: NestStation) -> None:
        super().__init__(station)
        self.session, self.station = session, station
        self.said = QLabel()
        self.said.setProperty("chalk", True)
        self.side = QPushButton("Show as worn")
        self.side.setCheckable(True)
        self.side.setToolTip("Turn the pieces over to how they are worn (W)")
        self.side.setShortcut("W")
        self.side.toggled.connect(station.set_as_worn)
        self.again = QPushButton("Nest again")
        self.again.setToolTip("Look for another nest, with another order of pieces")
        self.again.clicked.connect(self._nest_again)
        self.stop = QPushButton("Stop, keep the best")
        self.stop.setToolTip("End the nest now; the best so far stays")
        self.stop.clicked.connect(session.nester.stop)
        row = QHBoxLayout(self)
        row.setContentsMargins(4, 0, 4, 0)
        row.addWidget(self.said, 1)
        for button in (self.stop, self.again, self.side):
            row.addWidget(button)
        self.follow()

    def follow(self) -> None:
        """Show where the nest stands."""
        plan, running = self.session.plan, self.session.nester.is_running
        self.stop.setVisible(running)
        self.again.setVisible(not running and bool(plan.mats))
        self.side.setVisible(bool(plan.mats))
        texts = []
        if plan.mats:
            film = sum(mat.film_mm2 for mat in plan.mats) / 100
            taken = sum(mat.layout.used_length_mm * mat.sheet.height_mm for mat in plan.mats) / 100
            texts.append(f"{film:.0f} cm² of {taken:.0f} cm² film end on garments, {1 - film / taken:.0%} is waste")
        if running:
            texts.append(f"looking for better, {self.session.nester.share:.0%} of the time")
        self.said.setText("  ·  ".join(texts))

    def _nest_again(self) -> None:
        self.session.apply(nest_again(self.session.plan.held))
