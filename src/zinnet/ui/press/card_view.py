"""The card that is due at the press's bench, as it is drawn: read from two metres away, its timers always in sight."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QFontMetricsF, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from zinnet.base.units import write_temperature
from zinnet.plan.presses import degrees_of
from zinnet.ui.drawing import draw_card, draw_sign, draw_words, fitting_size, pen, words_height
from zinnet.ui.press.card_words import CardWords
from zinnet.ui.press.clock import clock_said
from zinnet.ui.press.drawing import draw_step
from zinnet.ui.press.dry_card import draw_counts, draw_laid_out
from zinnet.ui.press.lay_card import draw_hand, draw_lengths
from zinnet.ui.theme import colour, font

if TYPE_CHECKING:
    from zinnet.bench.timers import Timer
    from zinnet.plan.press_cards import Card
    from zinnet.ui.press.control import PressControl

HUGE, BIG, LESS, MIDDLE, SAID = 56, 38, 27, 22, 19
CLOCK, LESS_CLOCK = 150, 100
STRIP = 78
FOOT = 92
NARROW = 800
BOLD_WIDER = 8
"""Bold words are wider by such a part."""
LEAST_PICTURE, LEAST_NUMBERED = 110, 260
"""A card that is not as wide has its picture below its words."""
MOST_SHOWN = 5
FINAL = "This can't be taken back"
CAUTION = "Hot platen and base: burns. Gloves; nothing left switched on alone. Its manual and the labels come first."


class CardView(QWidget):
    """The card, and below it the timers that are not on it; or the card of a second person, ``beside`` it."""

    def __init__(self, control: "PressControl", *, beside: bool = False) -> None:
        super().__init__()
        self.control, self._beside = control, beside
        self.words = CardWords(control)
        self._display = QRectF()

    @property
    def due(self) -> "Card | None":
        """The card that is shown."""
        run = self.control.run
        return self.control.beside if self._beside else None if run is None else run.card

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the card."""
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.fillRect(self.rect(), colour("felt"))
            run = self.control.run
            strip = STRIP if self._others() and not self._beside else 0
            card = QRectF(28, 24, self.width() - 56, self.height() - 34 - strip)
            draw_card(painter, card)
            if run is None or not run.cards:
                said = "Laying out the cards ..." if self.control.works else "Nothing to press yet"
                draw_words(painter, card.adjusted(42, 60, -42, 0), HUGE, said, bold=True)
            elif self.due is None:
                draw_words(painter, card.adjusted(42, 40, -42, 0), HUGE, "All pressed", bold=True)
                said = "Did it hold, on every one?\nIt is written down with the times that it took."
                draw_words(painter, card.adjusted(42, 130, -42, 0), BIG, said)
            else:
                self._draw_due(painter, card, self.due)
            if strip:
                self._draw_timers(painter, QRectF(28, card.bottom() + 10, card.width(), strip - 12))

    def _others(self) -> list["Timer"]:
        """Return the timers that are not on the card."""
        run = self.control.run
        if run is None:
            return []
        due = run.card
        shown = None if due is None else run.blocked_by(due) or run.timer(due)
        return [timer for timer in run.timers.all if shown is None or timer.id != shown.id]

    def _draw_due(self, painter: QPainter, card: QRectF, due: "Card") -> None:
        """Draw words to the left and the picture to the right; on a narrow card the picture has what words leave."""
        foot = card.bottom() - FOOT - 8
        if card.width() >= NARROW:
            picture = QRectF(card.left() + card.width() * 0.6, card.top() + 64, card.width() * 0.4 - 26, 0)
            picture.setBottom(foot - 2)
            self._draw_picture(painter, picture, due)
            wide = picture.left() - card.left() - 74
            self._draw_words(painter, QRectF(card.left() + 42, card.top() + 24, wide, foot - card.top() - 24), due)
        else:
            words = QRectF(card.left() + 30, card.top() + 24, card.width() - 60, foot - card.top() - 24)
            y = self._draw_words(painter, words, due)
            if foot - y >= LEAST_PICTURE:
                self._draw_picture(painter, QRectF(words.left(), y + 4, words.width(), foot - y - 6), due)
        self._draw_foot(painter, card, due)

    def _draw_picture(self, painter: QPainter, box: QRectF, due: "Card") -> None:
        hand, laid = self.words.hand(due), self.words.laid_out(due)
        if hand is not None:
            draw_hand(painter, box, due.press.garment.blank, hand)
        elif laid is not None and box.height() >= LEAST_NUMBERED:
            draw_laid_out(painter, box, due.press.garment.blank, laid)
        else:
            draw_step(painter, box, due.press, due.step_index)

    def _draw_words(self, painter: QPainter, box: QRectF, due: "Card") -> float:
        """Draw whose it is, what it is, its clock, its lengths or counts, and what to do; return where that ends."""
        run = self.control.run
        assert run is not None
        hand, laid = self.words.hand(due), self.words.laid_out(due)
        wide, narrow, foot = box.width(), self.width() < NARROW, box.bottom()
        place = self.words.head(due)
        owner = QRectF(box.left(), box.top() - 4, wide if narrow else wide * 1.5, 36)
        bold = owner.adjusted(0, 0, -owner.width() / BOLD_WIDER, 0)
        draw_words(painter, owner, fitting_size(place, bold, (LESS, MIDDLE, SAID, 16, 14, 12)), place, bold=True)
        y = box.top() + 34
        if due.step.gate:
            y += draw_words(painter, QRectF(box.left(), y, wide, 40), MIDDLE, FINAL, bold=True, ink="stop") + 2
        title = due.title if hand is not None or laid is not None else due.step.title
        size = LESS + 3 if narrow else BIG if hand is not None else HUGE if laid is None else 44
        y += draw_words(painter, QRectF(box.left(), y, wide, 200), size, title, bold=True) + 8
        waiting, timer = run.blocked_by(due), run.timer(due)
        shown = waiting or timer
        if shown is not None:
            clock = QRectF(box.left(), y, wide, CLOCK if hand is None and not narrow else LESS_CLOCK)
            y = self._draw_clock(painter, clock, shown, due, waits=waiting is not None) + 6
        if hand is not None:
            unit = self.control.session.job.unit
            y = draw_lengths(painter, QRectF(box.left(), y, wide, foot - y), hand, unit) + 8
        elif laid is not None:
            y = draw_counts(painter, QRectF(box.left(), y, wide, foot - y - 40), laid) + 4
        for number, line in enumerate(self.words.lines(due)):
            first = number == 0 and laid is None
            sizes = (BIG, LESS, MIDDLE, SAID) if first and not narrow else (LESS, MIDDLE, SAID)
            fits = next((one for one in sizes if words_height(one, line, wide) <= foot - y), None)
            if fits is None:
                break
            left = QRectF(box.left(), y, wide, foot - y)
            y += draw_words(painter, left, fits, line, bold=first and shown is None) + 9
        return y

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
        painter.setFont(font(round(box.height() * 0.79), bold=True))
        painter.drawText(box.adjusted(20, 0, 0, 0), Qt.AlignmentFlag.AlignVCenter, clock_said(left))
        word = (
            "OPEN NOW"
            if over and not waits
            else "READY"
            if over
            else "paused"
            if paused
            else "cooling"
            if waits and not run.is_heating(timer)
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
        then = "Then: all done" if following is None else f"Then: {following.garment}: {following.title}"
        then = f"Card {run.at + 1} of {len(run.cards)}. {then}"
        narrow = card.width() < NARROW
        if said:
            draw_sign(painter, "warn", QRectF(card.left() + 42, y + 4, 28, 26), "!")
            words = QRectF(card.left() + 82, y + 2, card.width() - 110 if narrow else card.width() * 0.5, FOOT - 8)
            draw_words(painter, words, fitting_size(said, words, (SAID, 17, 15, 13)), said)
        if not (narrow and said) and not self._beside:
            words = QRectF(card.left() + card.width() * 0.62, y + 2, card.width() * 0.36, 52)
            draw_words(painter, words, fitting_size(then, words, (SAID, 17, 15)), then)
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

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Pull the handle of the stand-in press, where it is shown."""
        if self.control.stand_in is not None and self._display.contains(event.position()):
            self.control.pull_handle()
        else:
            super().mousePressEvent(event)
