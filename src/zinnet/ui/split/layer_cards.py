"""One card per layer: its number and hatch, its film, how it lies to the others, and the side that is cut."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QPainter, QPaintEvent, QTransform
from PySide6.QtWidgets import QComboBox, QFrame, QHBoxLayout, QScrollArea, QToolButton, QVBoxLayout, QWidget

from zinnet.job.edits import (
    choose_film,
    choose_pairs,
    derive_pair,
    press_in_order,
)
from zinnet.layers.spec import PairChoice
from zinnet.plan.composed import sources_said
from zinnet.ui.drawing import hatch, pen
from zinnet.ui.film_picker import FilmButton
from zinnet.ui.films import film_brush, layer_brush, match_said
from zinnet.ui.language import tr
from zinnet.ui.plain import Label, plain
from zinnet.ui.split.pointing import order_of_piece, piece_of_layer
from zinnet.ui.theme import PLAIN, SMALL, colour, font

if TYPE_CHECKING:
    from zinnet.layers.stack import FilmLayer, Pair
    from zinnet.ui.session import Session

WAYS = (("", "by the films' rules"), ("on-top", "on top"), ("lap", "with a lap"), ("side-by-side", "side by side"))
MOST_PAIRS = 3


class LayerCards(QScrollArea):
    """One card per layer, the one that is pressed last above."""

    def __init__(self, session: "Session") -> None:
        super().__init__()
        self.session = session
        self.setAccessibleName(tr("The layers with their films"))
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.viewport().setAutoFillBackground(False)
        self._list = QWidget()
        self._list.setProperty("holder", True)
        self._layout = QVBoxLayout(self._list)
        self._layout.setContentsMargins(0, 0, 6, 8)
        self._layout.setSpacing(10)
        self.setWidget(self._list)
        self.cards: list[LayerCard] = []
        self.follow()

    def follow(self) -> None:
        """Show the layers of the plan; cards are kept where the number of layers stays."""
        stack = self.session.selection.stack
        rows = list(reversed(stack.in_press_order)) if stack is not None else []
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
            pairs = [pair for pair in (stack.pairs if stack is not None else ()) if pair.over is row]
            card.show_layer(row, pairs, len(rows))

    def light(self) -> None:
        """Mark the card of the layer that is pointed at."""
        order = order_of_piece(self.session)
        for card in self.cards:
            card.set_lit(card.order == order)


class LayerCard(QFrame):
    """One layer: its number and hatch, its film, on what it lies and why, the side that is cut."""

    def __init__(self, session: "Session") -> None:
        super().__init__()
        self.session = session
        self.order = 0
        self.row: FilmLayer | None = None
        self.pairs: list[Pair] = []
        self.swatch = Swatch()
        self.name, self.facts, self.side = Label(), Label(), Label()
        self.name.setFont(font(PLAIN, bold=True))
        for label in (self.facts, self.side):
            label.setFont(font(SMALL))
            label.setProperty("quiet", True)
            label.setWordWrap(True)
        self.film = FilmButton(session, tr("The film that this layer is cut from"))
        self.film.clicked.connect(self._choose)
        self.earlier, self.later = QToolButton(), QToolButton()
        for button, said, tip, by in (
            (self.later, "▲", "Press this layer one later", 1),
            (self.earlier, "▼", "Press this layer one earlier", -1),
        ):
            button.setText(said)
            button.setToolTip(plain(tip))
            button.setAccessibleName(tip)
            button.setAutoRaise(True)
            button.setFixedSize(20, 18)
            button.clicked.connect(lambda checked=False, by=by: self._press(by))
        head = QHBoxLayout()
        head.setSpacing(0)
        head.addWidget(self.name, 1)
        head.addWidget(self.earlier)
        head.addWidget(self.later)
        texts = QVBoxLayout()
        texts.setSpacing(4)
        texts.addLayout(head)
        for widget in (self.film, self.facts):
            texts.addWidget(widget)
        self.ways: list[PairRow] = []
        self._ways = QVBoxLayout()
        self._ways.setSpacing(4)
        texts.addLayout(self._ways)
        texts.addWidget(self.side)
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 10, 12, 10)
        row.setSpacing(12)
        row.addWidget(self.swatch, 0, Qt.AlignmentFlag.AlignTop)
        row.addLayout(texts, 1)
        self.set_lit(False)

    def set_lit(self, lit: bool) -> None:
        """Frame the card in the accent colour while its layer is pointed at."""
        card = "lit" if lit else "plain"
        if self.property("card") != card:
            self.setProperty("card", card)
            self.style().unpolish(self)
            self.style().polish(self)

    def show_layer(self, row: "FilmLayer", pairs: list["Pair"], count: int) -> None:
        """Show a layer's facts."""
        layer = row.layer
        self.row, self.order, self.pairs = row, layer.order, pairs
        self.swatch.show_layer(row)
        self.name.setText(f"Layer {layer.order}" + (" · pressed first" if layer.order == 1 and count > 1 else ""))
        self.earlier.setVisible(count > 1)
        self.later.setVisible(count > 1)
        self.earlier.setEnabled(layer.order > 1)
        self.later.setEnabled(layer.order < count)
        self._show_film(row)
        parts = "1 part" if layer.pieces == 1 else f"{layer.pieces} parts"
        composed = self.session.selection.composed
        whose = sources_said(composed, row) if composed is not None and len(composed.made_of) > 1 else ""
        said = f"{whose}{': ' if whose else ''}{parts}, {layer.area_mm2 / 100:.0f} cm² of film"
        if row.difference is not None:
            said += f"\ndrawn as {layer.colour}: {match_said(row.difference)}"
        if len(row.colours) > 1:
            said += f"\nshared by {len(row.colours)} colours"
        self.facts.setText(said)
        self._show_pairs(pairs[:MOST_PAIRS])
        self.side.setText(row.side.reason.capitalize() + "." if row.side else "Choose a film for this colour.")
        self.setAccessibleName(f"Layer {layer.order}, {row.film.name if row.film else 'no film'}")

    def _show_pairs(self, pairs: list["Pair"]) -> None:
        """Show how the layer lies to others; rows are made as they are needed."""
        while len(self.ways) < len(pairs):
            self.ways.append(PairRow(self))
            self._ways.addWidget(self.ways[-1])
        for number, way in enumerate(self.ways):
            way.show_pair(pairs[number] if number < len(pairs) else None)

    def _show_film(self, row: "FilmLayer") -> None:
        """Show the film with how near it comes to the drawn colour."""
        self.film.show_film(row.film, "" if row.difference is None else f" · {match_said(row.difference)}")
        self.film.setAccessibleName(f"Film of layer {row.layer.order}")

    def _choose(self) -> None:
        """Ask for another film."""
        row = self.row
        taken = None if row is None else self.film.ask(colour=row.layer.colour, colours=row.colours[:1])
        if row is not None and taken is not None:
            self.session.apply(choose_film(row.colours[0], taken, *row.colours[1:]))

    def _press(self, by: int) -> None:
        """Press this layer one earlier or later."""
        stack = self.session.selection.stack
        if stack is None or self.row is None:
            return
        keys = [row.key for row in stack.in_press_order]
        at = keys.index(self.row.key)
        keys[at], keys[at + by] = keys[at + by], keys[at]
        derived = list(stack.derived_order)
        self.session.apply(press_in_order(() if keys == derived else tuple(keys)))

    def enterEvent(self, event: object) -> None:
        """Light up the layer everywhere."""
        self.session.selection.point_at(piece_of_layer(self.session, self.order))

    def leaveEvent(self, event: object) -> None:
        """Light up nothing."""
        self.session.selection.point_at(None)


class PairRow(QWidget):
    """How a layer lies to one that is pressed before it: the method, with the reason as its tip."""

    def __init__(self, card: LayerCard) -> None:
        super().__init__()
        self.card = card
        self.pair: Pair | None = None
        self.label = Label()
        self.label.setFont(font(SMALL))
        self.way = QComboBox()
        self.way.setFont(font(SMALL))
        self.way.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.way.setMinimumContentsLength(6)
        for name, said in WAYS:
            self.way.addItem(said, name)
        self.way.setAccessibleName(tr("How the layers lie to each other"))
        self.way.activated.connect(self._choose)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(6)
        row.addWidget(self.label)
        row.addWidget(self.way, 1)

    def show_pair(self, pair: "Pair | None") -> None:
        """Show a pair, or hide where there is none."""
        self.pair = pair
        self.setVisible(pair is not None)
        if pair is None:
            return
        self.label.setText(f"to {pair.under.layer.order}")
        names = dict(WAYS)
        self.way.setItemText(0, f"{names[pair.rule.method]}, by the rules")
        self.way.setCurrentIndex(self.way.findData(pair.rule.method if pair.rule.chosen else ""))
        if not pair.rule.chosen:
            self.way.setItemText(0, f"{names[pair.rule.method]}")
        self.way.setToolTip(plain(f"{pair.rule.reason[0].upper()}{pair.rule.reason[1:]}."))
        self.way.setAccessibleName(f"How layer {pair.over.layer.order} lies to layer {pair.under.layer.order}")

    def _choose(self) -> None:
        pair, method = self.pair, self.way.currentData()
        if pair is None:
            return
        if method:
            choice = PairChoice(lower=pair.lower.key, upper=pair.upper.key, method=method)
            self.card.session.apply(choose_pairs("choose how the pair lies", [choice]))
        else:
            self.card.session.apply(derive_pair(pair.lower.key, pair.upper.key))


class Swatch(QWidget):
    """A chip of film with the layer's hatch and number."""

    def __init__(self) -> None:
        super().__init__()
        self.setFixedSize(40, 52)
        self._order, self._colour, self._brush = 1, "#ffffff", QBrush()

    def show_layer(self, row: "FilmLayer") -> None:
        """Show a layer's film."""
        self._order, self._colour = row.layer.order, row.film.colour if row.film else row.layer.colour
        self._brush = QBrush(layer_brush(row) if row.film is None else film_brush(row.film))
        self._brush.setTransform(QTransform())
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the chip."""
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            chip = QRectF(1, 1, 38, 50)
            painter.setPen(pen("ink", 1))
            painter.setBrush(self._brush)
            painter.drawRoundedRect(chip, 5, 5)
            painter.setBrush(hatch(self._order, self._colour))
            painter.drawRoundedRect(chip, 5, 5)
            painter.setBrush(colour("card_light"))
            painter.drawEllipse(QPointF(20, 26), 10, 10)
            painter.setFont(font(PLAIN, bold=True))
            painter.drawText(QRectF(10, 16, 20, 20), Qt.AlignmentFlag.AlignCenter, str(self._order))
