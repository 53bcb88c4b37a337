"""Every name in its field, as small cards in a grid; only those in sight are drawn."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QMouseEvent, QPainter, QPainterPath, QPaintEvent, QPen, QTransform
from PySide6.QtWidgets import QWidget

from zinnet.ui.drawing import pen
from zinnet.ui.language import tr
from zinnet.ui.region_paths import region_path
from zinnet.ui.theme import SMALL, colour, font

if TYPE_CHECKING:
    from zinnet.plan.fitted import FittedDesign
    from zinnet.plan.named import NamedGarment
    from zinnet.ui.session import Session

LEAST_WIDTH, HEIGHT = 176, 92
GAP, FOOT = 8, 20


class NamePreviews(QWidget):
    """The grid. ``index`` is the design that is shown."""

    chosen = Signal(int)

    def __init__(self, session: "Session") -> None:
        super().__init__()
        self.session = session
        self.index, self.row = 0, -1
        self.setAccessibleName(tr("All names in their fields"))

    @property
    def columns(self) -> int:
        """How many cards lie side by side."""
        return max(1, (self.width() + GAP) // (LEAST_WIDTH + GAP))

    def follow(self) -> None:
        """Be as high as the names ask for."""
        rows = -(-len(self.session.plan.named) // self.columns)
        self.setMinimumHeight(rows * (HEIGHT + GAP))
        self.update()

    def resizeEvent(self, event: object) -> None:
        """Lay the cards anew."""
        super().resizeEvent(event)  # type: ignore[arg-type]
        self.follow()

    def card(self, number: int) -> QRectF:
        """Return where a card is."""
        down, across = divmod(number, self.columns)
        wide = (self.width() - (self.columns - 1) * GAP) / self.columns
        return QRectF(across * (wide + GAP), down * (HEIGHT + GAP), wide, HEIGHT)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the cards in sight."""
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.setFont(font(SMALL))
            for number, one in enumerate(self.session.plan.named):
                card = self.card(number)
                if card.intersects(QRectF(event.rect())):
                    self._draw(painter, card, one)

    def _draw(self, painter: QPainter, card: QRectF, one: "NamedGarment") -> None:
        cloth = QColor(self.session.plan.garments[one.garment].blank.colour)
        whole = card.adjusted(1, 1, -1, -1)
        shape = QPainterPath()
        shape.addRoundedRect(whole, 6, 6)
        painter.fillPath(shape, cloth)
        design = one.design(self.index)
        if design is not None:
            self._draw_words(painter, card.adjusted(8, 6, -8, -FOOT - 4), design, one)
        foot = QRectF(whole.left(), whole.bottom() - FOOT, whole.width(), FOOT)
        painter.save()
        painter.setClipPath(shape)
        painter.fillRect(foot, colour("card"))
        painter.restore()
        painter.setPen(colour("ink"))
        words = f"{one.number}  {one.words}" + (f" × {one.names.count}" if one.names.count > 1 else "")
        said = painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, int(foot.width()) - 14)
        painter.drawText(foot.adjusted(7, 0, -7, 0), Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, said)
        painter.setPen(pen("accent", 2) if one.row == self.row else pen("card_line", 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(shape)

    def _draw_words(self, painter: QPainter, box: QRectF, design: "FittedDesign", one: "NamedGarment") -> None:
        garment = self.session.plan.garments[one.garment]
        words = next((shown.words for shown in garment.designs if shown.index == self.index), None)
        if words is None or design.split is None:
            return
        scale = min(box.width() / words.width_mm, box.height() / words.height_mm)
        wide, high = words.width_mm * scale, words.height_mm * scale
        field = QRectF(box.center().x() - wide / 2, box.center().y() - high / 2, wide, high)
        pale = QColor(garment.blank.colour).lightnessF() > 0.5
        painter.setPen(QPen(QColor(40, 40, 40, 150) if pale else QColor(255, 255, 255, 150), 1, Qt.PenStyle.DashLine))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(field)
        left, top, right, bottom = design.split.bounds
        middle = field.center() - QPointF((left + right) / 2, (top + bottom) / 2) * scale
        painter.save()
        painter.setTransform(QTransform(scale, 0, 0, scale, middle.x(), middle.y()), True)
        painter.setPen(Qt.PenStyle.NoPen)
        for row in design.layers:
            painter.setBrush(QColor(row.film.colour if row.film is not None else row.layer.colour))
            painter.drawPath(region_path(row.layer.region, painter))
        painter.restore()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Choose a name."""
        for number, one in enumerate(self.session.plan.named):
            if self.card(number).contains(event.position()):
                self.chosen.emit(one.row)
                return
