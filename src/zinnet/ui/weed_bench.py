"""Weeding at the bench: the weed map on one large card, ticked off with the space bar, from the front or the back."""

import math
from typing import TYPE_CHECKING

import shapely
from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QTransform
from PySide6.QtWidgets import QWidget

from zinnet.layers.weeding import Island, weed_summary
from zinnet.ui.drawing import draw_card, draw_sign
from zinnet.ui.garment import fit_into
from zinnet.ui.language import tr
from zinnet.ui.split.weed import draw_weed_map
from zinnet.ui.split.weed_panel import CAUTION, Weeding, WeedMaps
from zinnet.ui.theme import colour, font

if TYPE_CHECKING:
    from zinnet.ui.session import Session

HUGE, BIG, MIDDLE = 84, 30, 20
WAYS = ("right", "upper right", "up", "upper left", "left", "lower left", "down", "lower right")
KEYS = "space: out      backspace: back in      B: turn over      N: next layer      F11: leave the bench"


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
        self._maps.found.connect(self.update)
        session.plan_changed.connect(self.update)

    def begin(self, index: int = 0) -> None:
        """Show a layer, in order of pressing, from the back: as it comes off the mat."""
        self.index, self.from_back = index, True
        self.setFocus()
        self.update()

    @property
    def weeding(self) -> Weeding | None:
        """The weeding of the layer that is shown."""
        stack = self.session.selection.stack
        if stack is None or not stack.layers:
            return None
        rows = stack.in_press_order
        return self._maps.weeding(rows[self.index % len(rows)])

    def _card(self) -> QRectF:
        return QRectF(28, 28, self.width() - 56, self.height() - 92)

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
            painter.setPen(colour("chalk"))
            painter.setFont(font(17))
            painter.drawText(QRectF(30, self.height() - 52, self.width() - 60, 40), Qt.AlignmentFlag.AlignVCenter, KEYS)

    def _draw_text(self, painter: QPainter, weeding: Weeding) -> None:
        card = self._card()
        x = card.left() + card.width() * 0.6 + 60
        wide = card.right() - x - 24
        row, state, total = weeding.row, weeding.state, len(weeding.map.islands)
        side = "from the back" if self.from_back else "from the front"
        film = row.film.name if row.film is not None else "no film"

        def write(y: float, height: float, pixels: int, said: str, *, bold: bool = False, ink: str = "ink") -> None:
            painter.setPen(colour(ink))
            painter.setFont(font(pixels, bold=bold))
            painter.drawText(QRectF(x, card.top() + y, wide, height), Qt.TextFlag.TextWordWrap, said)

        write(34, 60, MIDDLE, f"Weed · layer {row.layer.order}, {film} · {side}", ink="quiet_ink")
        if state.current is None:
            write(92, 140, 46, "All is out", bold=True)
            write(170, 220, BIG, "Turn it over and look it over from the front, against the light.")
        else:
            island = weeding.map.islands[state.current - 1]
            write(78, 110, HUGE, str(island.number), bold=True)
            write(184, 120, BIG, _how(island, self.from_back))
            if island.near_small:
                write(304, 90, MIDDLE, "A small part beside it must stay: hold it down with the hook.", bold=True)
        write(396, 40, MIDDLE, f"{len(state.out)} of {total} out")
        write(430, 110, 17, f"{weed_summary(weeding.map)}.", ink="quiet_ink")
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

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Tick with the space bar, take back with backspace, turn over with B, go on with N, leave with F11."""
        weeding = self.weeding
        if event.key() in (Qt.Key.Key_F11, Qt.Key.Key_Escape):
            self.left.emit()
        elif event.key() == Qt.Key.Key_B:
            self.from_back = not self.from_back
        elif event.key() == Qt.Key.Key_N:
            self.index += 1
        elif weeding is not None and event.key() == Qt.Key.Key_Space:
            weeding.tick_next()
        elif weeding is not None and event.key() == Qt.Key.Key_Backspace:
            weeding.take_back()
        else:
            super().keyPressEvent(event)
        self.update()


def _how(island: Island, from_back: bool) -> str:
    """Return in words what the island is and where it is lifted to, as it is seen."""
    dx, dy = island.lift[0] - island.at[0], island.at[1] - island.lift[1]
    if from_back:
        dx = -dx
    way = WAYS[round(math.degrees(math.atan2(dy, dx)) / 45) % 8]
    what = "open waste" if island.kind == "open" else "counter"
    return f"{what}: lift it to the {way}" if " " in way or way in ("left", "right") else f"{what}: lift it {way}wards"
