"""The pieces that a film is cut into, as worn: each in a colour of its own with its number, chosen by pointing."""

from typing import TYPE_CHECKING

import shapely
from PySide6.QtCore import QPointF, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QTransform
from PySide6.QtWidgets import QWidget

from zinnet.geometry.region import Region, hull_box
from zinnet.ui.drawing import draw_label, pen
from zinnet.ui.films import layer_brush
from zinnet.ui.language import tr
from zinnet.ui.region_paths import region_path

if TYPE_CHECKING:
    from zinnet.layers.parting import Parts
    from zinnet.layers.stack import FilmLayer
    from zinnet.plan.fitted import FittedDesign

TINTS = ("#3a7ca5", "#d98a1f", "#2f7d5b", "#8a5a9e", "#b4442f", "#5d7f1f", "#a3477a", "#2f8f8f")
"""Colours that stand apart on a pale card; the numbers tell pieces apart where these come again."""
ROOM_PX, BESIDE_PX = 30, 14
OTHERS = 0.4


class PiecesPicture(QWidget):
    """The layer of one film on one composition, piece by piece, over the pale rest of the artwork."""

    chosen_changed = Signal()
    asked = Signal(bool)
    """To join the chosen pieces, or to part them."""

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName(tr("The pieces of the film, as worn"))
        self.setToolTip(tr("Choose pieces by pointing, or by the arrow keys and the space bar; J joins, P parts them"))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumSize(240, 240)
        self.chosen: set[int] = set()
        self._at = 0
        self._composed: FittedDesign | None = None
        self._row: FilmLayer | None = None
        self._pieces: tuple[Region, ...] = ()

    def show_pieces(self, composed: "FittedDesign | None", row: "FilmLayer | None", parts: "Parts") -> None:
        """Show the pieces of a layer."""
        if row is not self._row or len(parts) != len(self._pieces):
            self.chosen, self._at = set(), 0
        self._composed, self._row = composed, row
        shapes = () if row is None else row.layer.region.geoms
        self._pieces = tuple(Region([shapes[part] for part in piece]) for piece in parts) if row is not None else ()
        self.update()

    @property
    def count(self) -> int:
        """How many pieces there are."""
        return len(self._pieces)

    def _to_pixels(self) -> QTransform:
        assert self._composed is not None
        box = hull_box(layer.layer.region for layer in self._composed.layers)
        left, top, right, bottom = box
        wide, high = self.width() - 2 * ROOM_PX, self.height() - 2 * ROOM_PX
        scale = min(wide / max(right - left, 1.0), high / max(bottom - top, 1.0))
        middle = QPointF(self.width() / 2, self.height() / 2) - QPointF((left + right) / 2, (top + bottom) / 2) * scale
        return QTransform(scale, 0, 0, scale, middle.x(), middle.y())

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the rest pale, then each piece in its colour, then the numbers."""
        if self._composed is None or self._row is None:
            return
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            world = self._to_pixels()
            painter.save()
            painter.setTransform(world)
            painter.setPen(pen("quiet_ink", 1.0, alpha=140))
            painter.setOpacity(OTHERS)
            for other in self._composed.layers:
                if other is not self._row:
                    painter.setBrush(layer_brush(other))
                    painter.drawPath(region_path(other.layer.region, painter))
            painter.setOpacity(1.0)
            for number, piece in enumerate(self._pieces):
                several = len(self._pieces) > 1
                painter.setBrush(QColor(TINTS[number % len(TINTS)]) if several else layer_brush(self._row))
                painter.setPen(pen("ink", 3.0) if number in self.chosen else pen("quiet_ink", 1.0))
                painter.drawPath(region_path(piece, painter))
            painter.restore()
            for number, piece in enumerate(self._pieces):
                left, top, _, bottom = piece.bounds
                spot = world.map(QPointF(left, (top + bottom) / 2)) - QPointF(BESIDE_PX, 0)
                fill = "tape" if number in self.chosen else "card_light"
                card = draw_label(painter, spot, str(number + 1), fill=fill)
                if number == self._at and self.hasFocus():
                    painter.setPen(pen("accent", 2))
                    painter.setBrush(Qt.BrushStyle.NoBrush)
                    painter.drawRoundedRect(card.adjusted(-3, -3, 3, 3), 5, 5)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Choose the piece under the pointer, or give it up."""
        self.setFocus()
        if self._composed is None or not self._pieces:
            return
        inverse, _ = self._to_pixels().inverted()
        at = inverse.map(event.position())
        spot = shapely.Point(at.x(), at.y())
        number = min(range(len(self._pieces)), key=lambda k: shapely.distance(self._pieces[k], spot))
        if shapely.distance(self._pieces[number], spot) * self._to_pixels().m11() <= ROOM_PX:
            self.toggle(number)

    def toggle(self, number: int) -> None:
        """Choose a piece, or give it up."""
        self._at = number
        self.chosen ^= {number}
        self.chosen_changed.emit()
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Go from piece to piece by the arrows, and choose by the space bar."""
        way = {Qt.Key.Key_Right: 1, Qt.Key.Key_Down: 1, Qt.Key.Key_Left: -1, Qt.Key.Key_Up: -1}
        key = Qt.Key(event.key())
        if key in way and self._pieces:
            self._at = (self._at + way[key]) % len(self._pieces)
            self.update()
        elif key == Qt.Key.Key_Space and self._pieces:
            self.toggle(self._at)
        elif key in (Qt.Key.Key_J, Qt.Key.Key_P):
            self.asked.emit(key == Qt.Key.Key_P)
        else:
            super().keyPressEvent(event)

    def focusInEvent(self, event: object) -> None:
        """Show where the keys are."""
        super().focusInEvent(event)  # type: ignore[arg-type]
        self.update()

    def focusOutEvent(self, event: object) -> None:
        """Show that the keys are elsewhere."""
        super().focusOutEvent(event)  # type: ignore[arg-type]
        self.update()
