"""The straightened photo with two points on it, moved by mouse or keys, and a lens at the one that is moved."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from zinnet.ui.drawing import pen
from zinnet.ui.language import tr
from zinnet.ui.theme import colour

if TYPE_CHECKING:
    from zinnet.camera.measure import Spot, StraightPhoto

LENS, CLOSER, NEAR = 130.0, 4.0, 14.0
"""The lens in pixels, how much it enlarges beyond the picture's own pixels, and how near a click takes a point."""
ARROWS = {Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, -1), Qt.Key.Key_Down: (0, 1)}
LONG = 10


def image_of(photo: "StraightPhoto") -> QImage:
    """Return the pixels of a photo as an image of its own."""
    rows, columns, _ = photo.picture.shape
    return QImage(photo.picture.tobytes(), columns, rows, 3 * columns, QImage.Format.Format_RGB888).copy()


class PhotoPicture(QWidget):
    """A photo from straight above, and the two points between which is measured."""

    moved = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(tr("The photo, from straight above"))
        self.setMinimumSize(QSize(320, 240))
        self.image: QImage | None = None
        self.spots: list[Spot] = []
        self.active = 0

    def show_photo(self, photo: "StraightPhoto") -> None:
        """Show a photo, the points on a level line in its middle."""
        self.image = image_of(photo)
        wide, high = self.image.width(), self.image.height()
        self.spots, self.active = [(wide * 0.35, high * 0.5), (wide * 0.65, high * 0.5)], 0
        self.moved.emit()
        self.update()

    @property
    def _scale(self) -> float:
        assert self.image is not None
        return min(self.width() / self.image.width(), self.height() / self.image.height())

    @property
    def _corner(self) -> QPointF:
        assert self.image is not None
        wide, high = self.image.width() * self._scale, self.image.height() * self._scale
        return QPointF((self.width() - wide) / 2, (self.height() - high) / 2)

    def to_screen(self, spot: "Spot") -> QPointF:
        """Return where a pixel of the photo is on the widget."""
        return self._corner + QPointF(*spot) * self._scale

    def place(self, number: int, spot: "Spot") -> None:
        """Put a point on a pixel of the photo."""
        if self.image is None:
            return
        x, y = spot
        self.spots[number] = (min(max(x, 0.0), self.image.width() - 1.0), min(max(y, 0.0), self.image.height() - 1.0))
        self.active = number
        self.moved.emit()
        self.update()

    def _spot_at(self, where: QPointF) -> "Spot":
        at = (where - self._corner) / self._scale
        return at.x(), at.y()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Take the point that is near, else move the other one here."""
        if self.image is None:
            return
        away = [(self.to_screen(spot) - event.position()).manhattanLength() for spot in self.spots]
        nearest = away.index(min(away))
        number = nearest if away[nearest] <= NEAR else 1 - self.active
        self.place(number, self._spot_at(event.position()))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Drag the point."""
        if self.image is not None and event.buttons() & Qt.MouseButton.LeftButton:
            self.place(self.active, self._spot_at(event.position()))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Move the point by a pixel, with Shift by ten; the space bar takes the other one."""
        if self.image is not None and event.key() in ARROWS:
            far = LONG if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
            (x, y), (dx, dy) = self.spots[self.active], ARROWS[Qt.Key(event.key())]
            self.place(self.active, (x + dx * far, y + dy * far))
        elif self.image is not None and event.key() == Qt.Key.Key_Space:
            self.active = 1 - self.active
            self.update()
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the photo, the points with the line between them, and the lens."""
        if self.image is None:
            return
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            size = QPointF(self.image.width(), self.image.height()) * self._scale
            painter.drawImage(QRectF(self._corner, self._corner + size), self.image)
            first, second = (self.to_screen(spot) for spot in self.spots)
            for width, name in ((4, "ink"), (2, "tape")):
                painter.setPen(pen(name, width))
                painter.drawLine(first, second)
            for number, point in enumerate((first, second)):
                self._cross(painter, point, active=number == self.active)
            self._lens(painter)
            if self.hasFocus():
                painter.setPen(pen("accent", 2))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawRect(self.rect().adjusted(1, 1, -1, -1))

    def _cross(self, painter: QPainter, point: QPointF, *, active: bool) -> None:
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(pen("accent" if active else "tape", 2))
        painter.drawEllipse(point, 9, 9)
        for dx, dy in ((1, 0), (0, 1)):
            painter.drawLine(point - QPointF(dx, dy) * 5, point + QPointF(dx, dy) * 5)

    def _lens(self, painter: QPainter) -> None:
        """Draw what is around the active point, enlarged, in the corner that is farther from it."""
        assert self.image is not None
        x, y = self.spots[self.active]
        left = self.to_screen((x, y)).x() > self.width() / 2
        box = QRectF(8 if left else self.width() - LENS - 8, 8, LENS, LENS)
        seen = LENS / CLOSER
        painter.fillRect(box, colour("felt"))
        painter.drawImage(box, self.image, QRectF(x - seen / 2, y - seen / 2, seen, seen))
        painter.setPen(pen("accent", 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawLine(box.center() - QPointF(0, LENS / 2), box.center() + QPointF(0, LENS / 2))
        painter.drawLine(box.center() - QPointF(LENS / 2, 0), box.center() + QPointF(LENS / 2, 0))
        painter.setPen(pen("ink", 2))
        painter.drawRect(box)
