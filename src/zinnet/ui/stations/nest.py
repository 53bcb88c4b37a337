"""Nest: the mats as cut or as worn, their use in numbers, and the nest's progress."""

import math
import time
from dataclasses import dataclass
from typing import TYPE_CHECKING

import shapely
from PySide6.QtCore import QPointF, QRectF, Qt, QTimer
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QTransform

from zinnet.ui.drawing import draw_chalk_text
from zinnet.ui.nest.after_cut_page import AfterCutPage
from zinnet.ui.nest.apart_page import ApartPage
from zinnet.ui.nest.bar import NestBar
from zinnet.ui.nest.film_page import FilmPage
from zinnet.ui.nest.hand import HandWork, Lying
from zinnet.ui.nest.mat_pictures import EDGE, HEAD, MatPictures, MatView
from zinnet.ui.nest.questions_page import QuestionsPage
from zinnet.ui.nest.shelf_page import ShelfPage
from zinnet.ui.nest.trim_page import TrimPage
from zinnet.ui.page_bar import Page, PageBar
from zinnet.ui.table import TableView

if TYPE_CHECKING:
    from zinnet.plan.nests import NestedMat
    from zinnet.ui.card_page import CardPage
    from zinnet.ui.session import Session

PAGES: tuple[Page, ...] = (
    ("mats", "Mats", "The mats with their pieces (1)"),
    ("apart", "Cut apart", "How layers are cut apart to save film (2)"),
    ("film", "Film", "Where the film goes, and ways out where it is short (3)"),
    ("trims", "Trim list", "What to cut from which film, in the order of cutting (4)"),
    ("shelf", "Shelf", "The film in stock (5)"),
    ("questions", "Questions", "How many, how large, what is missing, what would do (6)"),
    ("leftovers", "After the cut", "What is left, and what of it goes back on the shelf (7)"),
)
PAGE_TOP = 52
ROOM_MM, TITLE_MM = 40.0, 52.0
DRAW_S = 0.01


@dataclass(frozen=True)
class _Spot:
    """Where a mat lies on the table, in mm."""

    mat: "NestedMat"
    x: float
    y: float


class NestStation(TableView):
    """All mats of the job, side by side."""

    def __init__(self, session: "Session") -> None:
        super().__init__(session, "The mats with their pieces")
        self.as_worn = False
        self.page = "mats"
        self.hand = HandWork(session)
        self._taken = False
        self._pictures = MatPictures(session)
        self.bar = NestBar(session, self.hand, self)
        self.bar.side.toggled.connect(self.set_as_worn)
        self.pages: dict[str, CardPage] = {
            "apart": ApartPage(session),
            "film": FilmPage(session),
            "trims": TrimPage(session),
            "shelf": ShelfPage(session),
            "questions": QuestionsPage(session),
            "leftovers": AfterCutPage(session),
        }
        for page in self.pages.values():
            page.setParent(self)
            page.hide()
            session.plan_changed.connect(page.follow)
        self.page_bar = PageBar(self, PAGES)
        self.page_bar.chosen.connect(self.show_page)
        self.page_bar.select("mats")
        session.plan_changed.connect(self.bar.follow)
        session.nester.progressed.connect(self.bar.follow)
        session.nester.progressed.connect(self.update)

    def resizeEvent(self, event: object) -> None:
        """Keep the bar at the foot of the table, and the pages over all of it."""
        super().resizeEvent(event)  # type: ignore[arg-type]
        self.bar.setGeometry(20, self.height() - 50, self.width() - 40, 40)
        for page in self.pages.values():
            page.setGeometry(16, PAGE_TOP, self.width() - 32, self.height() - PAGE_TOP - 16)

    def show_page(self, page: str) -> None:
        """Show the mats, or one of the pages beside them."""
        self.page = page
        self.page_bar.select(page)
        for name, widget in self.pages.items():
            widget.setVisible(name == page)
        self.bar.setVisible(page == "mats")
        self.update()

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

    @property
    def mat_view(self) -> MatView:
        """How the mats are looked at."""
        return MatView(round(self.pixels_per_mm, 6), self.as_worn, self.devicePixelRatioF())

    def _to_table(self, spot: _Spot) -> QTransform:
        """Return the transform from sheet mm to table mm."""
        return self.mat_view.turned_over(spot.mat) * QTransform.fromTranslate(spot.x, spot.y)

    def paint_table(self, painter: QPainter) -> None:
        """Draw the mats."""
        if self.page != "mats":
            return
        spots = self.spots()
        side = "as worn" if self.as_worn else "as cut, seen from the blade's side"
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
        for spot in spots:
            self.hand.paint(painter, self._to_table(spot) * self.world, spot.mat)

    def _draw_mat(self, painter: QPainter, spot: _Spot, deadline: float) -> None:
        picture = self._pictures.picture_of(spot.mat, self.mat_view, deadline)
        corner = self.to_pixels(spot.x, spot.y)
        if picture is not None:
            painter.drawPixmap(corner - QPointF(EDGE, HEAD), picture)

    def show_mat_place(self, number: int, box: tuple[float, float, float, float]) -> None:
        """Frame a place on one mat."""
        for spot in self.spots():
            if spot.mat.number == number:
                place = self._to_table(spot).mapRect(QRectF(QPointF(*box[:2]), QPointF(*box[2:])))
                self.shown_box = (place.left(), place.top(), place.right(), place.bottom())
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Go to a page by its number, or work on the chosen piece."""
        number = event.key() - Qt.Key.Key_1
        if 0 <= number < len(PAGES) and not event.modifiers():
            self.show_page(PAGES[number][0])
        elif self.page == "mats" and self.hand.key(event):
            self._hand_moved()
        else:
            super().keyPressEvent(event)

    def _hand_moved(self) -> None:
        self.bar.follow()
        self.update()

    def _on_sheet(self, point: QPointF) -> tuple["NestedMat", QPointF] | None:
        """Return the mat under a point of the widget, and the point on its sheet."""
        for spot in self.spots():
            inverse, _ = self._to_table(spot).inverted()
            at = inverse.map(self.to_mm(point))
            if 0 <= at.x() <= spot.mat.sheet.width_mm and 0 <= at.y() <= spot.mat.sheet.height_mm:
                return spot.mat, at
        return None

    def _piece_at(self, mat: "NestedMat", at: QPointF) -> Lying | None:
        for placed in mat.layout.placed:
            to_piece, _ = QTransform(*placed.matrix.T.ravel()).inverted()
            as_cut = to_piece.map(at)
            if shapely.contains_xy(mat.nest.part(placed.piece).region, as_cut.x(), as_cut.y()):
                return Lying(mat, placed)
        return None

    def is_dragging(self) -> bool:
        """Whether a piece is being dragged."""
        return self._taken

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Choose the piece under the pointer, and take it up; a nest that runs ends, so that nothing moves below it."""
        super().mousePressEvent(event)
        if event.button() != Qt.MouseButton.LeftButton:
            return
        under = self._on_sheet(event.position())
        piece = None if under is None else self._piece_at(*under)
        if piece is not None and self.session.nester.is_running:
            self.session.nester.settle(piece.mat.nest.key)
            under = self._on_sheet(event.position())
            piece = None if under is None else self._piece_at(*under)
        if piece is None or under is None:
            self.hand.chosen = None
        else:
            self.hand.press(piece, under[1])
            self._taken = True
        self._hand_moved()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Drag the piece that is taken up, or light up the one under the pointer."""
        super().mouseMoveEvent(event)
        under = self._on_sheet(event.position())
        if self._taken:
            if under is not None:
                self.hand.drag(*under, snap=not event.modifiers() & Qt.KeyboardModifier.AltModifier)
                self._hand_moved()
            return
        piece = None if under is None else self._piece_at(*under)
        self.session.selection.point_at(None if piece is None else piece.placed.piece)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Put the piece down."""
        super().mouseReleaseEvent(event)
        if self._taken:
            self._taken = False
            self.hand.release()
            self._hand_moved()
