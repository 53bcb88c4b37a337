"""Split: the layers lifted apart above the garment, and one card per layer with its film."""

from collections.abc import Iterator

import shapely
from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QIcon, QMouseEvent, QPainter, QPaintEvent, QPixmap, QTransform
from PySide6.QtWidgets import QComboBox, QFrame, QHBoxLayout, QLabel, QScrollArea, QVBoxLayout, QWidget

from zinnet.edits import choose_film
from zinnet.facts import CutPart
from zinnet.layers.films import colour_difference, in_words
from zinnet.layers.stack import FilmLayer
from zinnet.ui.drawing import draw_chalk_text, hatch, lit_pen, pen, region_path
from zinnet.ui.session import Session
from zinnet.ui.table import TableView
from zinnet.ui.theme import LARGE, PLAIN, SMALL, colour, font

CARDS_WIDTH = 292
SLANT = 0.32
SQUASH = 0.52


def piece_of_layer(session: Session, order: int) -> str | None:
    """Return the first piece that is cut of a layer of the selected design."""
    for part in _parts(session):
        if part.layer.layer.order == order:
            return part.name
    return None


def order_of_piece(session: Session) -> int | None:
    """Return the layer of the piece that is pointed at."""
    for part in _parts(session):
        if part.name == session.pointed:
            return part.layer.layer.order
    return None


def _parts(session: Session) -> Iterator[CutPart]:
    """Yield the pieces of the selected design on the size that is looked at."""
    number = session.plan.garments.index(session.garment)
    design = session.design.index if session.design is not None else 0
    for nest in session.plan.nests:
        for part in nest.parts:
            if (part.garment, part.design) == (number, design):
                yield part


class SplitStation(TableView):
    """The layers as a stack that is lifted apart, in the order in which they are pressed."""

    def __init__(self, session: Session) -> None:
        super().__init__(session, "The layers of the artwork")
        self.cards = LayerCards(session)
        self.cards.setParent(self)
        session.plan_changed.connect(self.cards.follow)
        session.pointed_changed.connect(self.cards.light)

    def resizeEvent(self, event: object) -> None:
        """Keep the cards at the right edge of the table."""
        super().resizeEvent(event)  # type: ignore[arg-type]
        self.cards.setGeometry(self.width() - CARDS_WIDTH - 14, 64, CARDS_WIDTH, self.height() - 78)

    def wheelEvent(self, event: object) -> None:
        """The stack has no scale of its own."""

    def _plate(self, index: int, count: int) -> QTransform:
        """Return the transform from artwork mm to the plate of a layer; plate 0 is the garment."""
        design = self.session.design
        assert design is not None
        assert design.placement is not None
        wide, high = design.placement.width_mm, design.placement.height_mm
        room_x, room_y = self.width() - CARDS_WIDTH - 90.0, self.height() - 130.0
        across = wide + SLANT * high
        steps = count * 0.42
        scale = min(room_x / across, room_y / (high * SQUASH * (1 + steps)))
        lift = high * SQUASH * 0.42 * scale
        left = 40 + (room_x - across * scale) / 2
        bottom = 84 + (room_y + high * SQUASH * (1 + steps) * scale) / 2
        top = bottom - high * SQUASH * scale - index * lift
        return QTransform(scale, 0, -SLANT * scale, SQUASH * scale, left + SLANT * high * scale, top)

    def paint_table(self, painter: QPainter) -> None:
        """Draw the garment's plate and above it one plate per layer."""
        plan = self.session.plan
        draw_chalk_text(
            painter, QPointF((self.width() - CARDS_WIDTH) / 2, 26), "Layers, lifted apart", bold=True, pixels=LARGE
        )
        design = self.session.design
        if design is None or design.placement is None:
            return
        method = "side by side" if plan.job.layers.method == "cut-away" else "stacked"
        count = len(design.layers)
        films = "1 layer" if count == 1 else f"{count} layers"
        draw_chalk_text(
            painter,
            QPointF((self.width() - CARDS_WIDTH) / 2, 47),
            f"{films}, {method}; the lowest is pressed first",
            name="quiet_chalk",
        )
        lit = order_of_piece(self.session)
        plate = QRectF(0, 0, design.placement.width_mm, design.placement.height_mm).adjusted(-8, -8, 8, 8)
        for index in range(count + 1):
            painter.save()
            transform = self._plate(index, count)
            painter.setTransform(transform)
            if index == 0:
                painter.setPen(pen("chalk", 1, alpha=120))
                painter.setBrush(QColor(plan.blank.colour))
                painter.drawRoundedRect(plate, 6, 6)
            else:
                self._draw_layer(painter, design.layers[index - 1], plate, lit)
            painter.restore()
            corner = transform.map(QPointF(plate.left(), plate.bottom()))
            name = plan.blank.name if index == 0 else str(design.layers[index - 1].layer.order)
            draw_chalk_text(painter, corner + QPointF(-4 if index else 34, 13), name, bold=index > 0, pixels=PLAIN)

    def _draw_layer(self, painter: QPainter, row: FilmLayer, plate: QRectF, lit: int | None) -> None:
        film = row.film.colour if row.film else row.layer.colour
        painter.setPen(pen("chalk", 1, dashed=True, alpha=90))
        painter.setBrush(QColor(255, 255, 255, 14))
        painter.drawRoundedRect(plate, 6, 6)
        path = region_path(row.layer.region)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(0, 0, 0, 60))
        painter.drawPath(path.translated(2, 5))
        painter.setBrush(QColor(film))
        painter.setPen(lit_pen() if lit == row.layer.order else Qt.PenStyle.NoPen)
        painter.drawPath(path)
        painter.setPen(Qt.PenStyle.NoPen)
        brush = hatch(row.layer.order, film)
        inverse, can = painter.transform().inverted()
        if can:
            brush.setTransform(QTransform(inverse.m11(), inverse.m12(), inverse.m21(), inverse.m22(), 0, 0))
        painter.setBrush(brush)
        painter.drawPath(path)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Light up the layer under the pointer, the topmost first."""
        super().mouseMoveEvent(event)
        layers = self.session.design.layers if self.session.design is not None else ()
        for index in range(len(layers), 0, -1):
            inverse, can = self._plate(index, len(layers)).inverted()
            spot = inverse.map(event.position())
            layer = layers[index - 1].layer
            if can and shapely.contains_xy(layer.region, spot.x(), spot.y()):
                self.session.point_at(piece_of_layer(self.session, layer.order))
                return
        self.session.point_at(None)


class LayerCards(QScrollArea):
    """One card per layer, the topmost above, as they lie on one another."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.viewport().setAutoFillBackground(False)
        self._list = QWidget()
        self._list.setObjectName("layers")
        self._list.setStyleSheet("QWidget#layers { background: transparent }")
        self._layout = QVBoxLayout(self._list)
        self._layout.setContentsMargins(0, 0, 6, 8)
        self._layout.setSpacing(10)
        self.setWidget(self._list)
        self.cards: list[LayerCard] = []
        self.follow()

    def follow(self) -> None:
        """Show the layers of the plan; cards are kept where the number of layers stays."""
        rows = list(reversed(self.session.design.layers)) if self.session.design is not None else []
        if len(rows) != len(self.cards):
            while self._layout.count():
                item = self._layout.takeAt(0)
                widget = item.widget() if item is not None else None
                if widget is not None:
                    widget.deleteLater()
            self.cards = [LayerCard(self.session) for _ in rows]
            for card in self.cards:
                self._layout.addWidget(card)
            self._layout.addStretch(1)
        for card, row in zip(self.cards, rows, strict=True):
            card.show_layer(row)

    def light(self) -> None:
        """Mark the card of the layer that is pointed at."""
        order = order_of_piece(self.session)
        for card in self.cards:
            card.set_lit(card.order == order)


class LayerCard(QFrame):
    """One layer: its number and hatch, its film, the side that is cut, and why."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.order = 0
        self.colour = ""
        self.setObjectName("layer-card")
        self.swatch = Swatch()
        self.name, self.facts, self.side = QLabel(), QLabel(), QLabel()
        self.name.setFont(font(PLAIN, bold=True))
        for label in (self.facts, self.side):
            label.setFont(font(SMALL))
            label.setProperty("quiet", True)
            label.setWordWrap(True)
        self.film = QComboBox()
        self.film.setToolTip("The film that this colour is cut from")
        self.film.setIconSize(QSize(16, 16))
        self.film.activated.connect(self._choose)
        texts = QVBoxLayout()
        texts.setSpacing(4)
        for widget in (self.name, self.film, self.facts, self.side):
            texts.addWidget(widget)
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 10, 12, 10)
        row.setSpacing(12)
        row.addWidget(self.swatch, 0, Qt.AlignmentFlag.AlignTop)
        row.addLayout(texts, 1)
        self.set_lit(False)

    def set_lit(self, lit: bool) -> None:
        """Frame the card in the accent colour while its layer is pointed at."""
        edge = f"2px solid {colour('accent').name()}" if lit else f"1px solid {colour('card_line').name()}"
        self.setStyleSheet(
            f"QFrame#layer-card {{ background: {colour('card').name()}; border: {edge}; border-radius: 7px; }}"
        )

    def show_layer(self, row: FilmLayer) -> None:
        """Show a layer's facts."""
        layer = row.layer
        self.order, self.colour = layer.order, layer.colour
        self.swatch.show_colour(layer.order, row.film.colour if row.film else layer.colour)
        self.name.setText(f"Layer {layer.order}" + (" · at the bottom" if layer.order == 1 else ""))
        if self.film.count() == 0:
            for film in self.session.workshop.films:
                self.film.addItem(_chip(film.colour), film.name, film.id)
        self.film.setAccessibleName(f"Film of layer {layer.order}")
        self.film.setCurrentIndex(self.film.findData(row.film.id) if row.film else -1)
        self.film.setPlaceholderText("no film yet")
        parts = "1 part" if layer.pieces == 1 else f"{layer.pieces} parts"
        said = f"{parts}, {layer.area_mm2 / 100:.0f} cm² of film"
        if row.film is not None:
            difference = colour_difference(layer.colour, row.film.colour)
            said += f"\ndrawn as {layer.colour}: {in_words(difference)} ({difference:.1f})"
        self.facts.setText(said)
        self.side.setText(row.side.reason.capitalize() + "." if row.side else "Choose a film for this colour.")
        self.setAccessibleName(f"Layer {layer.order}, {row.film.name if row.film else 'no film'}")

    def _choose(self) -> None:
        self.session.apply(choose_film(self.colour, self.film.currentData()))

    def enterEvent(self, event: object) -> None:
        """Light up the layer everywhere."""
        self.session.point_at(piece_of_layer(self.session, self.order))

    def leaveEvent(self, event: object) -> None:
        """Light up nothing."""
        self.session.point_at(None)


class Swatch(QWidget):
    """A chip of film with the layer's hatch and number."""

    def __init__(self) -> None:
        super().__init__()
        self.setFixedSize(40, 52)
        self._order, self._colour = 1, "#ffffff"

    def show_colour(self, order: int, film_colour: str) -> None:
        """Show a layer's film."""
        self._order, self._colour = order, film_colour
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the chip."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        chip = QRectF(1, 1, 38, 50)
        painter.setPen(pen("ink", 1))
        painter.setBrush(QColor(self._colour))
        painter.drawRoundedRect(chip, 5, 5)
        painter.setBrush(hatch(self._order, self._colour))
        painter.drawRoundedRect(chip, 5, 5)
        painter.setBrush(colour("card_light"))
        painter.drawEllipse(QPointF(20, 26), 10, 10)
        painter.setFont(font(PLAIN, bold=True))
        painter.drawText(QRectF(10, 16, 20, 20), Qt.AlignmentFlag.AlignCenter, str(self._order))
        painter.end()


def _chip(film_colour: str) -> QIcon:
    pixmap = QPixmap(16, 16)
    pixmap.fill(QColor(film_colour))
    return QIcon(pixmap)
