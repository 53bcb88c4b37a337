"""What the pages over the table share: a card that fills it, cards in a list, and a small drawing of a film."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QTransform
from PySide6.QtWidgets import QFrame, QScrollArea, QVBoxLayout, QWidget

from zinnet.ui.drawing import pen
from zinnet.ui.language import tr
from zinnet.ui.plain import Label
from zinnet.ui.region_paths import region_path
from zinnet.ui.theme import LARGE, SMALL, Theme, font, theme

if TYPE_CHECKING:
    from zinnet.geometry.region import Region

Box = tuple[float, float, float, float]


class CardPage(QFrame):
    """A titled card over the table. It follows the plan while it is seen."""

    def __init__(self, title: str) -> None:
        super().__init__()
        self.setProperty("card", "plain")
        head = Label(tr(title))
        head.setFont(font(LARGE, bold=True))
        self.note = Label()
        self.note.setFont(font(SMALL))
        self.note.setProperty("quiet", True)
        self.note.setWordWrap(True)
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(18, 14, 18, 14)
        self.column.setSpacing(8)
        self.column.addWidget(head)
        self.column.addWidget(self.note)
        self._shown_for: tuple[Theme, object] | None = None

    def follow(self) -> None:
        """Show the plan, if the page is seen and anything changed."""
        if not self.isVisible():
            return
        look = (theme(), self.look())
        if look == self._shown_for:
            return
        self._shown_for = look
        self.show_plan()

    def look(self) -> object:
        """Return all that the page shows depends on."""
        return None

    def show_plan(self) -> None:
        """Show the plan."""

    def showEvent(self, event: object) -> None:
        """Show what changed while the page was not seen."""
        super().showEvent(event)  # type: ignore[arg-type]
        self.follow()


class CardList(QScrollArea):
    """Cards one below the other, as many as there are."""

    def __init__(self, name: str) -> None:
        super().__init__()
        self.setWidgetResizable(True)
        self.setAccessibleName(name)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.viewport().setAutoFillBackground(False)

    def show_cards(self, cards: list[QWidget]) -> None:
        """Show these cards."""
        holder = QWidget()
        holder.setProperty("holder", True)
        column = QVBoxLayout(holder)
        column.setContentsMargins(0, 0, 8, 0)
        column.setSpacing(8)
        for card in cards:
            column.addWidget(card)
        column.addStretch(1)
        self.setWidget(holder)


def light_card() -> QFrame:
    """Return a card of the list."""
    card = QFrame()
    card.setProperty("card", "light")
    return card


def small(text: str) -> Label:
    """Return a line of small, quiet text."""
    label = Label(text)
    label.setFont(font(SMALL))
    label.setProperty("quiet", True)
    label.setWordWrap(True)
    return label


class FilmPicture(QWidget):
    """A piece of film, what is cut out of it or spoiled, and a rectangle on it; lengths in mm."""

    def __init__(
        self,
        film_colour: str,
        region: "Region",
        *,
        size: QSize,
        box: Box | None = None,
        spoiled: "Region | None" = None,
        inside: Box | None = None,
    ) -> None:
        super().__init__()
        self._colour, self._region, self._box, self._spoiled = film_colour, region, box, spoiled
        self._inside = inside or region.bounds
        self.setFixedSize(size)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the film as large as it goes, its length along x."""
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            left, top, right, bottom = self._inside
            scale = min((self.width() - 4) / max(right - left, 1.0), (self.height() - 4) / max(bottom - top, 1.0))
            middle = QPointF(self.width() / 2, self.height() / 2)
            shift = middle - QPointF((left + right) / 2, (top + bottom) / 2) * scale
            painter.setTransform(QTransform(scale, 0, 0, scale, shift.x(), shift.y()))
            painter.setPen(pen("ink", 1))
            painter.setBrush(QColor(self._colour))
            painter.drawPath(region_path(self._region))
            if self._spoiled is not None:
                painter.setPen(pen("stop", 1))
                painter.setBrush(Qt.BrushStyle.BDiagPattern)
                painter.drawPath(region_path(self._spoiled))
            if self._box is not None:
                painter.setPen(pen("accent", 2, dashed=True))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawRect(QRectF(QPointF(*self._box[:2]), QPointF(*self._box[2:])))
