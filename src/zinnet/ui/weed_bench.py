"""Weeding at the bench: the weed map on one large card, ticked off with the space bar, from the front or the back."""

import math
from typing import TYPE_CHECKING

import shapely
from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QTransform
from PySide6.QtWidgets import QWidget

from zinnet.layers.weeding import Island, hard_to_see, weed_summary
from zinnet.ui.drawing import draw_card, draw_sign, draw_words, words_height
from zinnet.ui.garment import fit_into
from zinnet.ui.language import tr
from zinnet.ui.large_keys import BACKWARD, ONWARD, LargeKey, LargeKeys
from zinnet.ui.split.weed import draw_weed_map
from zinnet.ui.split.weed_panel import CAUTION, Weeding, WeedMaps
from zinnet.ui.theme import colour, font

if TYPE_CHECKING:
    from zinnet.layers.stack import FilmLayer
    from zinnet.ui.session import Session

HUGE, BIG, MIDDLE = 96, 34, 22
FOOT = 108
WAYS = ("right", "upper right", "up", "upper left", "left", "lower left", "down", "lower right")


class WeedBench(QWidget):
    """One layer at a time, the next piece of waste in large letters."""

    left = Signal()

    def __init__(self, session: "Session") -> None:
        super().__init__()
        self.session = session
        self.setAccessibleName(tr("Weeding at the bench"))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.index = 0
        self.from_back = True
        self._maps = WeedMaps(session, self)
        self._maps.found.connect(self._follow)
        self.keys = LargeKeys(
            (
                LargeKey("back", tr("Back in"), BACKWARD, self._in_again, "Backspace, page up"),
                LargeKey("onward", tr("It is out"), ONWARD, self._out, "space bar, page down", main=True),
                LargeKey("turn", tr("Turn it over"), (Qt.Key.Key_B,), self.turn_over, "B"),
                LargeKey("next", tr("Next layer"), (Qt.Key.Key_N,), self.next_layer, "N"),
            )
        )
        self.keys.put_below(self)
        session.plan_changed.connect(self._follow)

    def begin(self, index: int = 0) -> None:
        """Show a layer, in order of pressing, from the back: as it comes off the mat."""
        self.index, self.from_back = index, True
        self.setFocus()
        self._follow()

    @property
    def weeding(self) -> Weeding | None:
        """The weeding of the layer that is shown."""
        stack = self.session.selection.stack
        if stack is None or not stack.layers:
            return None
        rows = stack.in_press_order
        return self._maps.weeding(rows[self.index % len(rows)])

    def _card(self) -> QRectF:
        return QRectF(28, 28, self.width() - 56, self.height() - self.keys.height() - 38)

    def _world(self, weeding: Weeding) -> QTransform:
        card = self._card()
        box = QRectF(card.left() + 24, card.top() + 24, card.width() * 0.6, card.height() - 48)
        left, top, right, bottom = weeding.map.frame
        world = fit_into(box, (left, top, right, bottom))
        mirror = QTransform(-1, 0, 0, 1, left + right, 0) if self.from_back else QTransform()
        return mirror * world

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the card."""
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.fillRect(self.rect(), colour("felt"))
            draw_card(painter, self._card())
            weeding = self.weeding
            if weeding is not None:
                draw_weed_map(painter, self._world(weeding), weeding.map, weeding.row, weeding.state, large=True)
                self._draw_text(painter, weeding)

    def _draw_text(self, painter: QPainter, weeding: Weeding) -> None:
        card = self._card()
        x = card.left() + card.width() * 0.6 + 60
        wide = card.right() - x - 24
        row, state, total = weeding.row, weeding.state, len(weeding.map.islands)
        side = "from the back" if self.from_back else "from the front"
        film = row.film.name if row.film is not None else "no film"

        y = card.top() + 30

        def write(pixels: int, said: str, *, bold: bool = False, ink: str = "ink", room: float = 6) -> None:
            nonlocal y
            left = card.bottom() - FOOT - y
            if said and left >= words_height(pixels, said, wide, bold=bold):
                y += draw_words(painter, QRectF(x, y, wide, left), pixels, said, bold=bold, ink=ink) + room

        parts = len(row.layer.region.geoms)
        stays = f"{parts} part{'s stay' if parts != 1 else ' stays'} on the carrier."
        write(MIDDLE, f"Weed · layer {row.layer.order}, {film} · {side}", ink="quiet_ink")
        if state.current is None:
            write(46, "All is out", bold=True)
            write(BIG, "Turn it over and look it over from the front, against the light.")
        else:
            island = weeding.map.islands[state.current - 1]
            write(HUGE, str(island.number), bold=True, room=0)
            write(BIG, _how(island, self.from_back), room=14)
            if island.near_small:
                write(MIDDLE, "A small part beside it must stay: hold it down with the hook.", bold=True, room=12)
        write(BIG, f"{len(state.out)} of {total} out", bold=True)
        write(MIDDLE + 4, stays, room=12)
        write(MIDDLE + 2, _hint(row), bold=True, room=12)
        write(17, f"{weed_summary(weeding.map)}.", ink="quiet_ink")
        draw_sign(painter, "warn", QRectF(x, card.bottom() - 92, 30, 28), "!")
        painter.setPen(colour("ink"))
        painter.setFont(font(15))
        painter.drawText(
            QRectF(x + 44, card.bottom() - 102, wide - 44, 80),
            Qt.TextFlag.TextWordWrap | Qt.AlignmentFlag.AlignVCenter,
            CAUTION,
        )

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Tick off the waste that is touched."""
        weeding = self.weeding
        if weeding is None:
            return
        inverse, can = self._world(weeding).inverted()
        spot = inverse.map(event.position())
        point = shapely.Point(spot.x(), spot.y())
        hit = next((one for one in weeding.map.islands if shapely.intersects(one.region, point)), None)
        if can and hit is not None:
            weeding.tick(hit)

    # what the keys do

    def _out(self) -> None:
        if self.weeding is not None:
            self.weeding.tick_next()

    def _in_again(self) -> None:
        if self.weeding is not None:
            self.weeding.take_back()

    def turn_over(self) -> None:
        """Show the layer from its other side."""
        self.from_back = not self.from_back
        self._follow()

    def next_layer(self) -> None:
        """Show the next layer."""
        self.index += 1
        self._follow()

    def _follow(self) -> None:
        """Show the keys that are of use now."""
        weeding = self.weeding
        said = {"turn": tr("Turn it over"), "next": tr("Next layer")}
        if weeding is not None:
            said["back"] = tr("Back in")
            if weeding.state.current is not None:
                said["onward"] = tr("It is out")
            self.setAccessibleDescription(" ".join(_said(weeding, self.from_back)))
        self.keys.show_these(said)
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Do what a large key does; leave with F11."""
        if event.key() in (Qt.Key.Key_F11, Qt.Key.Key_Escape):
            self.left.emit()
        elif not self.keys.take(event):
            super().keyPressEvent(event)


def _said(weeding: Weeding, from_back: bool) -> list[str]:
    """Return what comes out now, and what stays, in sentences."""
    island = weeding.map.islands[weeding.state.current - 1] if weeding.state.current is not None else None
    parts = len(weeding.row.layer.region.geoms)
    stays = f"{parts} part{'s stay' if parts != 1 else ' stays'} on the carrier."
    if island is None:
        return ["All is out.", stays]
    return [f"{island.number}: {_how(island, from_back)}.", stays]


def _hint(row: "FilmLayer") -> str:
    """Return how cuts are seen that are hard to see; empty where they are seen easily."""
    what = None if row.film is None else hard_to_see(row.film)
    return f"{what} on {what.lower()}: light from below, a gentle bend, or powder shows the cuts." if what else ""


def _how(island: Island, from_back: bool) -> str:
    """Return in words what the island is and where it is lifted to, as it is seen."""
    dx, dy = island.lift[0] - island.at[0], island.at[1] - island.lift[1]
    if from_back:
        dx = -dx
    way = WAYS[round(math.degrees(math.atan2(dy, dx)) / 45) % 8]
    what = "open waste" if island.kind == "open" else "counter"
    return f"{what}: lift it to the {way}" if " " in way or way in ("left", "right") else f"{what}: lift it {way}wards"
