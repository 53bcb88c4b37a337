"""The table: a felt surface in mm that every station draws on, with zoom, shift and tapes edited in place."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import (
    QBrush,
    QFocusEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPixmap,
    QResizeEvent,
    QShowEvent,
    QTransform,
    QWheelEvent,
)
from PySide6.QtWidgets import QLineEdit, QWidget

from zinnet.base.errors import UnitsError
from zinnet.base.units import read_length, write_length
from zinnet.ui.drawing import felt_tile, pen
from zinnet.ui.theme import theme

if TYPE_CHECKING:
    from zinnet.ui.session import Session

ZOOM_STEP = 1.2
LEAST_SCALE, MOST_SCALE = 0.05, 40.0


BY_HAND = (Qt.FocusReason.TabFocusReason, Qt.FocusReason.BacktabFocusReason, Qt.FocusReason.MouseFocusReason)


@dataclass(frozen=True)
class EditableLength:
    """A length shown on the table that is edited where it stands."""

    name: str
    card: QRectF
    mm: float
    set_mm: Callable[[float], bool]


class TapeEditor(QLineEdit):
    """The small editor on a tape: Escape gives up, leaving it takes what was typed."""

    given_up = Signal()
    left = Signal()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Give up with Escape."""
        if event.key() == Qt.Key.Key_Escape:
            self.given_up.emit()
        else:
            super().keyPressEvent(event)

    def focusOutEvent(self, event: QFocusEvent) -> None:
        """Tell that the keyboard went elsewhere by hand."""
        super().focusOutEvent(event)
        if event.reason() in BY_HAND:
            self.left.emit()


class TableView(QWidget):
    """A view of the table. Stations draw in :meth:`paint_table`; they hold nothing of the job."""

    pointer_moved = Signal(object)
    view_changed = Signal()

    def __init__(self, session: "Session", name: str) -> None:
        super().__init__()
        self.session = session
        self.setAccessibleName(name)
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.pixels_per_mm = 1.0
        self.offset = QPointF(0, 0)
        self.shown_box: tuple[float, float, float, float] | None = None
        self.lengths: list[EditableLength] = []
        self._fitted = True
        self._is_behind = False
        self._dragged_from: QPointF | None = None
        self._editor: QLineEdit | None = None
        self._edited: EditableLength | None = None
        self._picture: tuple[tuple[object, ...], QPixmap] | None = None
        session.plan_changed.connect(self._follow)
        session.selection.pointed_changed.connect(self.update)
        session.selection.pictured.connect(self.update)

    # what a station provides

    def content_box(self) -> tuple[float, float, float, float]:
        """Return the box in mm that the fitted view shows."""
        return (0, 0, 100, 100)

    def backdrop(self) -> object:
        """Return what the backdrop shows; it is drawn anew when this, the scale or the theme changes."""
        return None

    def paint_backdrop(self, painter: QPainter) -> None:
        """Draw what stays as it is while things are dragged; the painter is in pixels."""

    def paint_table(self, painter: QPainter) -> None:
        """Draw the station over its backdrop; the painter is in pixels."""

    def margins(self) -> tuple[int, int, int, int]:
        """Return the room in pixels (left, top, right, bottom) kept around the content."""
        return (30, 82, 30, 26)

    # from mm to pixels and back

    @property
    def world(self) -> QTransform:
        """The transform from mm to pixels."""
        return QTransform(self.pixels_per_mm, 0, 0, self.pixels_per_mm, self.offset.x(), self.offset.y())

    def to_pixels(self, x_mm: float, y_mm: float) -> QPointF:
        """Return where a point in mm lies on the widget."""
        return self.world.map(QPointF(x_mm, y_mm))

    def to_mm(self, point: QPointF) -> QPointF:
        """Return the point in mm under a point of the widget."""
        return QPointF(
            (point.x() - self.offset.x()) / self.pixels_per_mm, (point.y() - self.offset.y()) / self.pixels_per_mm
        )

    def fit_view(self) -> None:
        """Show all of the content, as large as it goes."""
        left, top, right, bottom = self.content_box()
        m_left, m_top, m_right, m_bottom = self.margins()
        room_x, room_y = self.width() - m_left - m_right, self.height() - m_top - m_bottom
        if right <= left or bottom <= top or room_x < 10 or room_y < 10:
            return
        self.pixels_per_mm = min(room_x / (right - left), room_y / (bottom - top))
        self.offset = QPointF(
            m_left + (room_x - (right - left) * self.pixels_per_mm) / 2 - left * self.pixels_per_mm,
            m_top + (room_y - (bottom - top) * self.pixels_per_mm) / 2 - top * self.pixels_per_mm,
        )
        self._fitted = True
        self._view_moved()

    def bring_into_view(self, box: tuple[float, float, float, float]) -> None:
        """Show all of the content, where a box of it (mm) is not wholly seen."""
        seen = QRectF(self.rect())
        if not seen.contains(self.world.mapRect(QRectF(QPointF(*box[:2]), QPointF(*box[2:])))):
            self.fit_view()

    def life_size(self) -> None:
        """Show the content at the size that it has in life, by the screen's own dots per inch."""
        self.zoom_to(self.logicalDpiX() / 25.4 if self.screen() is None else self.screen().physicalDotsPerInch() / 25.4)

    def zoom_to(self, pixels_per_mm: float, about: QPointF | None = None) -> None:
        """Set the scale; the point ``about`` (pixels) stays where it is."""
        about = about or QPointF(self.width() / 2, self.height() / 2)
        fixed = self.to_mm(about)
        self.pixels_per_mm = min(max(pixels_per_mm, LEAST_SCALE), MOST_SCALE)
        self.offset = about - fixed * self.pixels_per_mm
        self._fitted = False
        self._view_moved()

    def _view_moved(self) -> None:
        self.close_editor()
        self.view_changed.emit()
        self.update()

    def _follow(self) -> None:
        self._is_behind = not self.isVisible()
        if self._is_behind:
            return
        if self._fitted and self._dragged_from is None and not self.is_dragging():
            self.fit_view()
        self.update()

    def is_dragging(self) -> bool:
        """Whether something is being dragged, so that the view must hold still."""
        return False

    # events

    def showEvent(self, event: QShowEvent) -> None:
        """Follow what changed while the view was not seen."""
        super().showEvent(event)
        if self._is_behind:
            self._follow()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Keep a fitted view fitted."""
        super().resizeEvent(event)
        if self._fitted:
            self.fit_view()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the felt, the station, and the frame around a finding's place."""
        with QPainter(self) as painter, self.session.kept_stages():
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.drawPixmap(0, 0, self._backdrop_picture())
            self.lengths = []
            self.paint_table(painter)
            if self.shown_box is not None:
                left, top, right, bottom = self.shown_box
                painter.setPen(pen("accent", 2, dashed=True))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                frame = QRectF(self.to_pixels(left, top), self.to_pixels(right, bottom)).normalized()
                painter.drawRoundedRect(frame.adjusted(-6, -6, 6, 6), 6, 6)

    def _backdrop_picture(self) -> QPixmap:
        """Return the felt with the backdrop on it, drawn once per look."""
        offset = (self.offset.x(), self.offset.y())
        look = (self.backdrop(), self.pixels_per_mm, offset, self.size(), theme(), self.devicePixelRatioF())
        if self._picture is None or self._picture[0] != look:
            picture = QPixmap(self.size() * self.devicePixelRatioF())
            picture.setDevicePixelRatio(self.devicePixelRatioF())
            with QPainter(picture) as painter:
                painter.setRenderHint(QPainter.RenderHint.Antialiasing)
                painter.fillRect(self.rect(), QBrush(felt_tile()))
                self.paint_backdrop(painter)
            self._picture = (look, picture)
        return self._picture[1]

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Zoom about the pointer."""
        steps = event.angleDelta().y() / 120
        self.zoom_to(self.pixels_per_mm * ZOOM_STEP**steps, event.position())

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Edit a length, or begin to shift the view with the middle button."""
        self.shown_box = None
        if event.button() == Qt.MouseButton.LeftButton:
            for length in self.lengths:
                if length.card.contains(event.position()):
                    self.edit_length(length)
                    return
        if event.button() == Qt.MouseButton.MiddleButton:
            self._dragged_from = event.position()
        self.update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Shift the view, and tell where the pointer is."""
        if self._dragged_from is not None:
            self.offset += event.position() - self._dragged_from
            self._dragged_from = event.position()
            self._fitted = False
            self._view_moved()
        over = any(length.card.contains(event.position()) for length in self.lengths)
        self.setCursor(Qt.CursorShape.IBeamCursor if over else Qt.CursorShape.ArrowCursor)
        self.pointer_moved.emit(self.to_mm(event.position()))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """End a shift of the view."""
        self._dragged_from = None

    def leaveEvent(self, event: object) -> None:
        """Point at nothing."""
        self.pointer_moved.emit(None)
        self.session.selection.point_at(None)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Zoom with plus and minus, show all with Home, edit the lengths one after another with F2."""
        if event.key() in (Qt.Key.Key_Plus, Qt.Key.Key_Equal):
            self.zoom_to(self.pixels_per_mm * ZOOM_STEP)
        elif event.key() == Qt.Key.Key_Minus:
            self.zoom_to(self.pixels_per_mm / ZOOM_STEP)
        elif event.key() == Qt.Key.Key_Home:
            self.fit_view()
        elif event.key() == Qt.Key.Key_Escape:
            self.close_editor()
            self.shown_box = None
            self.setFocus()
            self.update()
        elif event.key() == Qt.Key.Key_F2 and self.lengths:
            self._edit_next()
        else:
            super().keyPressEvent(event)

    # lengths edited where they stand

    def edit_length(self, length: EditableLength) -> None:
        """Open the small editor on a length's card."""
        self.close_editor()
        editor = TapeEditor(self)
        editor.setText(write_length(length.mm, unit=self.session.job.unit))
        editor.setAccessibleName(length.name)
        editor.setAlignment(Qt.AlignmentFlag.AlignCenter)
        card = length.card
        editor.setGeometry(int(card.center().x() - 55), int(card.center().y() - 14), 110, 28)
        editor.selectAll()
        editor.returnPressed.connect(self._take_length)
        editor.given_up.connect(self._give_up)
        editor.left.connect(self._leave)
        editor.show()
        editor.setFocus()
        self._editor, self._edited = editor, length

    def _edit_next(self) -> None:
        """Take what was typed, and go to the next length."""
        names, before = [length.name for length in self.lengths], self._edited
        if self._editor is not None and self._editor.isModified() and not self._take_length():
            return
        after = names.index(before.name) + 1 if before is not None else 0
        self.edit_length(self.lengths[after % len(self.lengths)])

    def _give_up(self) -> None:
        self.close_editor()
        self.setFocus()

    def _leave(self) -> None:
        """Take what was typed where the keyboard went elsewhere; what is no length is said and given up."""
        if self._editor is not None and self._editor.isModified():
            self._take_length(refocus=False)
        self.close_editor()

    @property
    def editor(self) -> QLineEdit | None:
        """The editor that is open, if one is."""
        return self._editor

    def _take_length(self, *, refocus: bool = True) -> bool:
        """Take the length that was typed, and tell whether it could be."""
        editor, length = self._editor, self._edited
        if editor is None or length is None:
            return False
        try:
            mm = read_length(editor.text(), unit=self.session.job.unit)
        except UnitsError as error:
            self.session.said.emit(str(error))
            editor.selectAll()
            return False
        editor.setModified(False)
        if not length.set_mm(mm):
            editor.selectAll()
            return False
        self.close_editor()
        if refocus:
            self.setFocus()
        return True

    def close_editor(self) -> None:
        """Close the editor; what was typed and not taken is given up."""
        if self._editor is not None:
            editor, self._editor, self._edited = self._editor, None, None
            editor.deleteLater()
