"""The timers of the press, over whatever is shown, from their start until what waits for them goes on."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QFontMetricsF, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from zinnet.ui.language import tr
from zinnet.ui.plain import plain
from zinnet.ui.press.clock import clock_said
from zinnet.ui.theme import LARGE, PLAIN, colour, font

if TYPE_CHECKING:
    from zinnet.bench.timers import Timer
    from zinnet.ui.press.control import PressControl

HIGH, MOST, GAP = 38, 4, 8


class TimerBar(QWidget):
    """A slim bar; it is hidden where no timer runs, and at the bench of the press, which shows them large."""

    chosen = Signal()

    def __init__(self, is_at_press: Callable[[], bool]) -> None:
        super().__init__()
        self._is_at_press = is_at_press
        self._control: PressControl | None = None
        self.setFixedHeight(HIGH)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setToolTip(plain(tr("Timers of the press; a click goes to its bench")))
        self.hide()

    def watch(self, control: "PressControl") -> None:
        """Show the timers of the press from now on, and ring where its bench is not in sight."""
        self._control = control
        control.changed.connect(self.follow)
        control.rang.connect(self._ring)
        self.follow()

    @property
    def timers(self) -> "tuple[Timer, ...]":
        """The timers, the one that rings first first."""
        return () if self._control is None else self._control.timers.all

    def follow(self) -> None:
        """Show how much is left."""
        shown = bool(self.timers) and not self._is_at_press()
        if shown == self.isHidden():
            self.setVisible(shown)
        if shown:
            self.setAccessibleName("; ".join(self.said()))
            self.update()

    def said(self) -> list[str]:
        """Return each timer in words."""
        assert self._control is not None
        now = self._control.timers.clock()
        found = []
        for timer in self.timers[:MOST]:
            left = timer.left_s(now)
            state = "rang" if left <= 0 else "paused" if timer.since is None else "left"
            found.append(f"{clock_said(left)} {state}: {timer.name}")
        more = len(self.timers) - MOST
        return [*found, f"and {more} more"] if more > 0 else found

    def _ring(self, name: str) -> None:
        if self._is_at_press():
            return
        from zinnet.ui.press.notify import notify

        said = f"The timer rings: {name}."
        if self._control is not None:
            self._control.habits.ring()
            self._control.session.said.emit(said)
        if not self.isActiveWindow():
            notify(tr("The press"), said)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the timers side by side, those that rang in red."""
        if self._control is None:
            return
        now, timers = self._control.timers.clock(), self.timers[:MOST]
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.fillRect(self.rect(), colour("felt"))
            wide = (self.width() - GAP * (len(timers) + 1)) / max(1, len(timers))
            for column, timer in enumerate(timers):
                self._draw(painter, QRectF(GAP + column * (wide + GAP), 4, wide, HIGH - 8), timer, timer.left_s(now))

    def _draw(self, painter: QPainter, box: QRectF, timer: "Timer", left: float) -> None:
        over = left <= 0
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("stop" if over else "card_line" if timer.since is None else "tape"))
        painter.drawRoundedRect(box, 5, 5)
        painter.setPen(colour("card_light" if over else "ink"))
        painter.setFont(font(LARGE, bold=True))
        clock = clock_said(left)
        taken = QFontMetricsF(painter.font()).horizontalAdvance(clock) + 22
        painter.drawText(box.adjusted(10, 0, 0, 0), Qt.AlignmentFlag.AlignVCenter, clock)
        painter.setFont(font(PLAIN))
        name = f"rang: {timer.name}" if over else timer.name
        room = box.width() - taken - 8
        shown = QFontMetricsF(painter.font()).elidedText(name, Qt.TextElideMode.ElideRight, room)
        painter.drawText(box.adjusted(taken, 0, -8, 0), Qt.AlignmentFlag.AlignVCenter, shown)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Go to the bench of the press."""
        self.chosen.emit()
