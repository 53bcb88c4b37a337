"""Pressing at the bench: one large card after another, with its timers, driven by the space bar."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, QSizeF, Qt, Signal
from PySide6.QtGui import QFontMetricsF, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from zinnet.base.units import write_temperature
from zinnet.plan.in_hand import in_hand, slip_said
from zinnet.plan.presses import degrees_of
from zinnet.pressing.heat_values import press_numbers
from zinnet.ui.drawing import draw_card, draw_sign, draw_words, fitting_size, pen
from zinnet.ui.language import tr
from zinnet.ui.press.awake import Awake
from zinnet.ui.press.clock import clock_said
from zinnet.ui.press.drawing import draw_step
from zinnet.ui.press.lay_card import draw_hand, draw_lengths
from zinnet.ui.press.readings import Readings
from zinnet.ui.press.sound import ring
from zinnet.ui.theme import colour, font

if TYPE_CHECKING:
    from zinnet.bench.timers import Timer
    from zinnet.plan.in_hand import InHand
    from zinnet.plan.press_cards import Card
    from zinnet.ui.press.control import PressControl

HUGE, BIG, LESS, MIDDLE, SAID = 56, 38, 27, 22, 19
CLOCK = 150
STRIP = 78
FOOT = 92
MOST_SHOWN = 5
KEYS = (
    "space: go on    M: measure    L: it lifts    +: 10 s more    P: pause    E: end now    R: plan anew    "
    "H: stand-in press    backspace: back    F11: leave"
)
FINAL = "This can't be taken back"
CAUTION = "Hot platen and base: burns. Gloves; nothing left switched on alone. Its manual and the labels come first."


def _then(card: "Card") -> str:
    """Return what is done once the piece lies: look, cover, and shut the press."""
    if card.step.heat is None:
        return "space: it lies there"
    heat = card.step.lines[0]
    cover = [one.title for one in card.steps if one.kind == "cover"]
    return f"Step back and look. {''.join(f'{one}. ' for one in cover)}space: shut the press. {heat}"


class PressBench(QWidget):
    """The cards of the run, read from two metres away."""

    left = Signal()

    def __init__(self, control: "PressControl") -> None:
        super().__init__()
        self.control = control
        self.awake = Awake()
        self._display = QRectF()
        self._in_hand: tuple[object, InHand | None] | None = None
        self.setAccessibleName(tr("Pressing at the bench"))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        control.changed.connect(self._follow)
        control.rang.connect(self._ring)

    def begin(self) -> None:
        """Show the card that is due."""
        self.control.begin_run()
        self.awake.hold("pressing")
        self.setFocus()
        self.update()

    def go_on(self) -> None:
        """Do what the space bar does."""
        self.control.go_on()
        self.update()

    def end(self) -> None:
        """Leave the bench."""
        self.awake.release()
        self.control.end_run()
        self.left.emit()

    def _follow(self) -> None:
        if self.isVisible():
            self.setAccessibleDescription(self.said())
            self.update()

    def said(self) -> str:
        """Return what the card says, for whoever hears it instead of reading."""
        run = self.control.run
        due = None if run is None else run.card
        if due is None:
            return ""
        hand, unit = self._hand(due), self.control.session.job.unit
        if hand is None:
            return f"{due.garment}. {due.step.title}. {' '.join(self._lines(due))}"
        lengths = "; ".join(f"{letter}: {length} {goes}" for letter, length, goes in hand.rows(unit))
        return f"{due.garment}. {due.title}. {lengths}. {hand.way(unit)} {' '.join(self._lines(due))}"

    def _ring(self, name: str) -> None:
        if self.isVisible():
            ring()

    # drawing

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the card."""
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.fillRect(self.rect(), colour("felt"))
            run = self.control.run
            strip = STRIP if self._others() else 0
            card = QRectF(28, 24, self.width() - 56, self.height() - 82 - strip)
            draw_card(painter, card)
            if run is None or not run.cards:
                said = "Laying out the cards ..." if self.control.works else "Nothing to press yet"
                draw_words(painter, card.adjusted(42, 60, -42, 0), HUGE, said, bold=True)
            elif run.card is None:
                draw_words(painter, card.adjusted(42, 40, -42, 0), HUGE, "All pressed", bold=True)
                said = "Did it hold, on every one?   Y: yes   N: no\nIt is written down with the times that it took."
                draw_words(painter, card.adjusted(42, 130, -42, 0), BIG, said)
            else:
                self._draw_due(painter, card, run.card)
            if strip:
                self._draw_timers(painter, QRectF(28, card.bottom() + 10, card.width(), strip - 12))
            painter.setPen(colour("chalk"))
            keys = QRectF(30, self.height() - 48, self.width() - 60, 40)
            painter.setFont(
                font(fitting_size(KEYS, QRectF(keys.topLeft(), QSizeF(keys.width(), 30)), (SAID, 17, 15, 13)))
            )
            painter.drawText(keys, Qt.AlignmentFlag.AlignVCenter, KEYS)

    def _others(self) -> list["Timer"]:
        """Return the timers that are not on the card."""
        run = self.control.run
        if run is None:
            return []
        due = run.card
        shown = None if due is None else run.awaited(due) or run.timer(due)
        return [timer for timer in run.timers.all if shown is None or timer.id != shown.id]

    def _draw_due(self, painter: QPainter, card: QRectF, due: "Card") -> None:
        run = self.control.run
        assert run is not None
        picture = QRectF(
            card.left() + card.width() * 0.6, card.top() + 64, card.width() * 0.4 - 26, card.height() - FOOT - 74
        )
        hand = self._hand(due)
        if hand is None:
            draw_step(painter, picture, due.press, due.step_index)
        else:
            draw_hand(painter, picture, due.press.garment.blank, hand)
        wide = picture.left() - card.left() - 74
        text = QRectF(card.left() + 42, card.top() + 24, card.width() - 84, 30)
        place = f"{due.garment} · card {run.at + 1} of {len(run.cards)}"
        draw_words(painter, text, MIDDLE, place, ink="quiet_ink")
        y = card.top() + 52
        if due.step.gate:
            y += draw_words(painter, QRectF(text.left(), y, wide, 40), MIDDLE, FINAL, bold=True, ink="stop") + 2
        title = due.title if hand is not None else due.step.title
        y += draw_words(painter, QRectF(text.left(), y, wide, 200), HUGE if hand is None else BIG, title, bold=True) + 8
        waiting, timer = run.awaited(due), run.timer(due)
        shown = waiting or timer
        if shown is not None:
            y = (
                self._draw_clock(painter, QRectF(text.left(), y, wide, CLOCK), shown, due, waits=waiting is not None)
                + 6
            )
        foot = card.bottom() - FOOT - 8
        if hand is not None:
            y = draw_lengths(painter, QRectF(text.left(), y, wide, foot - y), hand, self.control.session.job.unit) + 8
        for number, line in enumerate(self._lines(due)):
            sizes = (BIG, LESS, MIDDLE, SAID) if number == 0 else (LESS, MIDDLE)
            size = next((one for one in sizes if self._height(one, line, wide) <= foot - y), None)
            if size is None:
                break
            box = QRectF(text.left(), y, wide, foot - y)
            y += draw_words(painter, box, size, line, bold=number == 0 and shown is None) + 9
        self._draw_foot(painter, card, due)

    def _hand(self, due: "Card") -> "InHand | None":
        """Return the piece in hand, until its press is shut; worked out once for each card."""
        run = self.control.run
        if due.hand is None or run is None or run.timer(due) is not None:
            return None
        slips, unit = run.slips_of(due), self.control.session.job.unit
        key = (due.id, tuple(slips.items()), unit)
        if self._in_hand is None or self._in_hand[0] != key:
            self._in_hand = key, in_hand(due, unit, slips)
        return self._in_hand[1]

    def measure(self) -> None:
        """Ask how the piece in hand really lies; what is laid after it follows."""
        run = self.control.run
        due = None if run is None else run.card
        hand = None if due is None else self._hand(due)
        if run is None or due is None or hand is None:
            return
        asked = Readings(self, hand, self.control.session.job.unit)
        if asked.exec() and asked.slip is not None:
            run.slipped(due, asked.slip)
            self.control.session.said.emit(slip_said(asked.slip, self.control.session.job.unit))
        asked.deleteLater()

    def _lines(self, due: "Card") -> list[str]:
        run, step = self.control.run, due.step
        assert run is not None
        if self._hand(due) is not None:
            return [_then(due)]
        said = list(step.lines)
        if len(due.indices) > 1:
            said = [*(f"{one.title}. {' '.join(one.lines[:1])}" for one in due.steps[:-1]), *said]
        if step.kind == "peel":
            cooled = run.cooled_c(due)
            if cooled is not None and step.peel in ("cool", "cold"):
                degrees = degrees_of(self.control.session.job)
                most = press_numbers().touch.minute_c
                enough = "cool to the touch" if cooled <= most else "not cool yet"
                said.insert(0, f"About {write_temperature(cooled, degrees=degrees)} by an estimate: {enough}.")
            if step.lifts:
                said.append(f"L, it lifts: {step.lifts[0].lower()}{step.lifts[1:]}")
        if step.hours:
            said.insert(0, f"The day before: about {step.hours:g} h.")
        if step.gate:
            said.append("Y: it is done, go on. The space bar does not pass it.")
        if step.kind in ("press", "preheat") and run.timer(due) is None and run.awaited(due) is None:
            said.append("space: shut the press, the timer runs")
        return said

    def _draw_clock(self, painter: QPainter, box: QRectF, timer: "Timer", due: "Card", *, waits: bool) -> float:
        """Draw the time that is left, very large, with a word for what it means; return where it ends."""
        run = self.control.run
        assert run is not None
        left = timer.left_s(run.clock())
        over = left <= 0
        paused = timer.since is None
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("stop" if over else "card_line" if paused else "tape"))
        painter.drawRoundedRect(box, 10, 10)
        if not over:
            painter.setBrush(colour("good", 70))
            share = min(1.0, timer.gone_s(run.clock()) / max(timer.seconds, 0.1))
            painter.drawRoundedRect(QRectF(box.left(), box.top(), box.width() * share, box.height()), 10, 10)
        painter.setPen(colour("card_light" if over else "ink"))
        painter.setFont(font(118, bold=True))
        painter.drawText(box.adjusted(20, 0, 0, 0), Qt.AlignmentFlag.AlignVCenter, clock_said(left))
        word = (
            "OPEN NOW"
            if over and not waits
            else "READY"
            if over
            else "paused"
            if paused
            else "cooling"
            if waits and not run.is_heating(due, timer)
            else "shut"
        )
        painter.setFont(font(40, bold=True))
        painter.drawText(box.adjusted(0, 0, -22, 0), Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, word)
        return box.bottom()

    def _draw_foot(self, painter: QPainter, card: QRectF, due: "Card") -> None:
        run = self.control.run
        assert run is not None
        following = run.following
        y = card.bottom() - FOOT
        painter.setPen(pen("card_line", 1.5))
        painter.drawLine(QPointF(card.left() + 42, y - 6), QPointF(card.right() - 42, y - 6))
        said = due.step.caution or (due.step.wrong and f"{due.step.wrong}") or (CAUTION if due.step.heat else "")
        if said:
            draw_sign(painter, "warn", QRectF(card.left() + 42, y + 4, 28, 26), "!")
            draw_words(painter, QRectF(card.left() + 82, y + 2, card.width() * 0.55, FOOT - 8), SAID, said)
        then = "Then: all done" if following is None else f"Then: {following.garment}: {following.title}"
        draw_words(painter, QRectF(card.left() + card.width() * 0.62, y + 2, card.width() * 0.36, 52), SAID, then)
        press = self.control.stand_in
        if press is not None:
            degrees = degrees_of(self.control.session.job)
            state = "shut" if press.is_shut else "open"
            shows = f"stand-in press: {write_temperature(press.display_c, degrees=degrees)}, {state}"
            self._display = QRectF(card.right() - 430, card.top() + 14, 404, 40)
            painter.setPen(pen("good" if press.is_ready else "stop", 2))
            painter.setBrush(colour("card_light"))
            painter.drawRoundedRect(self._display, 6, 6)
            painter.setFont(font(MIDDLE, bold=True))
            painter.drawText(self._display, Qt.AlignmentFlag.AlignCenter, shows)

    def _draw_timers(self, painter: QPainter, strip: QRectF) -> None:
        """Draw all timers side by side: what each is for, what is left, and in words when it rang."""
        run = self.control.run
        assert run is not None
        timers = self._others()[:MOST_SHOWN]
        gap = 10.0
        wide = (strip.width() - gap * (len(timers) - 1)) / len(timers)
        now = run.clock()
        for column, timer in enumerate(timers):
            box = QRectF(strip.left() + column * (wide + gap), strip.top(), wide, strip.height())
            left = timer.left_s(now)
            over = left <= 0
            draw_card(painter, box, light=True)
            if over:
                painter.setPen(Qt.PenStyle.NoPen)
                painter.setBrush(colour("stop"))
                painter.drawRoundedRect(box, 6, 6)
            painter.setPen(colour("card_light" if over else "ink"))
            painter.setFont(font(34, bold=True))
            painter.drawText(box.adjusted(12, 0, 0, 0), Qt.AlignmentFlag.AlignVCenter, clock_said(left))
            taken = QFontMetricsF(painter.font()).horizontalAdvance(clock_said(left)) + 24
            painter.setFont(font(SAID))
            name = f"rang: {timer.name}" if over else timer.name
            painter.drawText(
                box.adjusted(taken, 6, -8, -6), Qt.AlignmentFlag.AlignVCenter | Qt.TextFlag.TextWordWrap, name
            )

    def _height(self, pixels: int, said: str, wide: float) -> float:
        metrics = QFontMetricsF(font(pixels))
        return float(metrics.boundingRect(QRectF(0, 0, wide, 4000), Qt.TextFlag.TextWordWrap, said).height())

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Pull the handle of the stand-in press, where it is shown."""
        if self.control.stand_in is not None and self._display.contains(event.position()):
            self.control.pull_handle()
        else:
            super().mousePressEvent(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Go on with the space bar; timers, lifting film, leaving."""
        control, run, key = self.control, self.control.run, event.key()
        if key in (Qt.Key.Key_F11, Qt.Key.Key_Escape):
            self.end()
        elif run is None:
            super().keyPressEvent(event)
        elif run.is_over and key in (Qt.Key.Key_Y, Qt.Key.Key_N):
            control.finish(key == Qt.Key.Key_Y)
        elif key == Qt.Key.Key_Y:
            control.confirm()
        elif key in (Qt.Key.Key_Space, Qt.Key.Key_Right):
            control.go_on()
        elif key == Qt.Key.Key_L:
            run.lifts()
        elif key in (Qt.Key.Key_Plus, Qt.Key.Key_Equal):
            run.longer(press_numbers().times.lifts_s)
        elif key == Qt.Key.Key_M:
            self.measure()
        elif key == Qt.Key.Key_P:
            run.pause()
        elif key == Qt.Key.Key_E:
            run.end_early()
            if control.stand_in is not None:
                control.stand_in.open()
        elif key == Qt.Key.Key_H:
            control.use_stand_in(control.stand_in is None)
        elif key == Qt.Key.Key_R:
            control.plan_rest()
        elif key == Qt.Key.Key_D:
            run.dismiss()
        elif key in (Qt.Key.Key_Backspace, Qt.Key.Key_Left):
            run.back()
        else:
            super().keyPressEvent(event)
        self.update()
