"""Before and after: what a mend changes, as two pictures in one scale beside the findings, with its numbers."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QPoint, QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen, QTransform
from PySide6.QtWidgets import QFrame, QVBoxLayout, QWidget

from zinnet.plan.changes import Box, Change, garment_of
from zinnet.ui.drawing import draw_words, lit_pen
from zinnet.ui.garment import draw_centre_line, draw_layers, draw_panel, draw_usable
from zinnet.ui.language import tr
from zinnet.ui.plain import Label
from zinnet.ui.theme import PLAIN, SMALL, colour, font

if TYPE_CHECKING:
    from zinnet.plan.fitted import Garment
    from zinnet.plan.model import Plan
    from zinnet.ui.offers import Offer
    from zinnet.ui.session import Session

HALF = QSize(250, 250)
GAP = 12
ROOM_MM = 4.0
BESIDE = 10


class BeforeAfter(QFrame):
    """What a mend that is pointed at would change: it lies over a window while it is, never in the way of the mouse."""

    def __init__(self, session: "Session", parent: QWidget) -> None:
        super().__init__(parent)
        self._session = session
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self.setObjectName("before-after")
        self.pictures = _Pictures(self)
        self.name = Label()
        self.name.setFont(font(PLAIN, bold=True))
        self.changes = Label()
        self.changes.setFont(font(SMALL))
        for label in (self.name, self.changes):
            label.setWordWrap(True)
        column = QVBoxLayout(self)
        column.setContentsMargins(14, 12, 14, 12)
        column.setSpacing(8)
        for widget in (self.name, self.pictures, self.changes):
            column.addWidget(widget)

    def show_offer(self, offer: "Offer", beside: QWidget) -> None:
        """Show a mend at the left of a widget."""
        self.setStyleSheet(
            f"QFrame#before-after {{ background: {colour('card_light').name()};"
            f" border: 2px solid {colour('ink').name()}; }} QLabel {{ color: {colour('ink').name()}; }}"
        )
        self.name.setText(offer.mend.name[0].upper() + offer.mend.name[1:])
        self.changes.setText("\n".join(one[0].upper() + one[1:] for one in offer.proof.changes))
        if offer.change is not None and offer.proof.after is not None:
            self.pictures.show_plans(self._session.plan, offer.proof.after, offer.change, self._pixels_per_mm())
        self.pictures.setVisible(offer.change is not None)
        self.adjustSize()
        window = beside.window()
        at = beside.mapTo(window, QPoint(0, 0))
        self.move(max(0, at.x() - self.width() - BESIDE), max(0, min(at.y(), window.height() - self.height() - BESIDE)))
        self.show()
        self.raise_()

    def _pixels_per_mm(self) -> float:
        return (self.logicalDpiX() if self.screen() is None else self.screen().physicalDotsPerInch()) / 25.4


class _Pictures(QWidget):
    """The two pictures, in one scale: life size where what changes is no larger than the picture."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self._garments: tuple[Garment, Garment] | None = None
        self._change: Change | None = None
        self._middle = QPointF()
        self._scale = 1.0
        self.said = ""
        self.setFixedSize(2 * HALF.width() + GAP, HALF.height() + 42)
        self.setAccessibleName(tr("Before and after"))

    def show_plans(self, before: "Plan", after: "Plan", change: Change, life: float) -> None:
        """Take what is shown of two plans; ``life`` is how many pixels a mm has on this screen."""
        left, top, right, bottom = change.box
        spots = len(change.spots)
        if change.small and _scale(change.box, life) < life:
            left, top, right, bottom = change.spots[0]
            spots = 1
        self._change = change
        self._scale = _scale((left, top, right, bottom), life)
        self._middle = QPointF((left + right) / 2, (top + bottom) / 2)
        scale = "life size" if self._scale >= life * 0.999 else f"1 : {life / self._scale:.1f}"
        self.said = f"Both {scale}."
        if spots < len(change.spots):
            self.said = f"The largest change of {len(change.spots)} places; both {scale}."
        self._garments = garment_of(before, change.size), garment_of(after, change.size)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw both garments about the place that changes."""
        if self._garments is None or self._change is None:
            return
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            for number, (garment, said) in enumerate(zip(self._garments, ("Before", "After"), strict=True)):
                box = QRectF(number * (HALF.width() + GAP), 22, HALF.width(), HALF.height())
                draw_words(painter, QRectF(box.left(), 0, box.width(), 20), PLAIN, said, bold=True)
                self._draw(painter, box, garment, self._change)
            under = QRectF(0, 26 + HALF.height(), self.width(), 18)
            draw_words(painter, under, SMALL, self.said)

    def _draw(self, painter: QPainter, box: QRectF, garment: "Garment", change: Change) -> None:
        panel = garment.blank.panel(change.panel)
        if panel is None:
            return
        middle = box.center()
        at = middle - self._middle * self._scale
        world = QTransform(self._scale, 0, 0, self._scale, at.x(), at.y())
        painter.save()
        painter.setClipRect(box)
        painter.fillRect(box, colour("felt"))
        draw_panel(painter, world, garment.blank, panel)
        draw_usable(painter, world, garment.blank, panel)
        draw_centre_line(painter, world, garment.blank, panel)
        for design in garment.composed_on(panel.id):
            draw_layers(painter, world, design)
        if change.small:
            painter.setPen(lit_pen())
            painter.setBrush(Qt.BrushStyle.NoBrush)
            for left, top, right, bottom in change.spots:
                spot = QRectF(QPointF(left, top), QPointF(right, bottom))
                painter.drawRoundedRect(world.mapRect(spot).adjusted(-4, -4, 4, 4), 4, 4)
        painter.restore()
        painter.setPen(QPen(colour("card_line"), 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(box)


def _scale(box: Box, life: float) -> float:
    """Return how many pixels a mm gets so that a box has room in a picture, at most as many as life size."""
    left, top, right, bottom = box
    return min(life, HALF.width() / (right - left + 2 * ROOM_MM), HALF.height() / (bottom - top + 2 * ROOM_MM))
