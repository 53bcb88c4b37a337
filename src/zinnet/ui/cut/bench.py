"""Cutting at the bench: one large card for each mat, driven by the space bar: load, look, send, unload."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from zinnet.base.units import write_length
from zinnet.bench.cut_journal import UNREADABLE
from zinnet.ui.cut.cutter_page import draw_cutter
from zinnet.ui.cut.loading_page import picture_box
from zinnet.ui.cut.mat_drawing import MatLayers, draw_bed, draw_film_corners, draw_pieces, mat_world
from zinnet.ui.drawing import draw_card, draw_sign, draw_words, pen
from zinnet.ui.language import tr
from zinnet.ui.theme import colour, font

if TYPE_CHECKING:
    from zinnet.plan.loading import LoadedMat
    from zinnet.ui.cut.control import CutterControl

HUGE, BIG, MIDDLE = 46, 28, 20
KEYS = "space: yes, go on      P: pause      Esc: stop      N, backspace: other mat      F11: leave the bench"
CAUTION = "Hands off the cutter while it has power; the blade points away from hands. Its manual comes first."


class CutBench(QWidget):
    """The mats one after the other, read from two metres away."""

    left = Signal()

    def __init__(self, control: "CutterControl") -> None:
        super().__init__()
        self.control = control
        self._layers = MatLayers()
        self.setAccessibleName(tr("Cutting at the bench"))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        control.changed.connect(self._follow)

    def begin(self) -> None:
        """Show the mat that is next."""
        self.setFocus()
        self.update()

    def _follow(self) -> None:
        if self.isVisible():
            self.update()

    def go_on(self) -> None:
        """Say yes to what the card asks, and go on: loaded, then sent, then the next mat."""
        control, load = self.control, self.control.load
        if load is None or control.is_running:
            return
        broken = control.broken(load)
        if load.key in control.finished:
            control.go_on()
        elif not load.is_loaded:
            control.say_loaded()
        elif broken is not None and not broken.is_readable:
            control.session.said.emit("Lay other film on the mat first; O says that it is on.")
        elif broken is not None and broken.of:
            control.session.said.emit("Look at the mat first: F says that film is still on, O that other film is.")
        elif broken is not None and broken.doubtful:
            control.session.said.emit("Look at the mat first: A cuts the lines in doubt again, L leaves them.")
        else:
            control.send()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the card."""
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.fillRect(self.rect(), colour("felt"))
            card = QRectF(28, 28, self.width() - 56, self.height() - 92)
            draw_card(painter, card)
            load = self.control.load
            if load is None:
                draw_words(painter, card.adjusted(42, 60, -42, 0), HUGE, "Nothing to cut yet", bold=True)
            else:
                self._draw(painter, card, load)
            painter.setPen(colour("chalk"))
            painter.setFont(font(17))
            painter.drawText(QRectF(30, self.height() - 52, self.width() - 60, 40), Qt.AlignmentFlag.AlignVCenter, KEYS)

    def _draw(self, painter: QPainter, card: QRectF, load: "LoadedMat") -> None:
        control = self.control
        picture = QRectF(
            card.left() + card.width() * 0.5, card.top() + 60, card.width() * 0.5 - 30, card.height() - 140
        )
        running, cut = control.is_running, load.key in control.finished
        broken = control.broken(load)
        if running or cut or broken is not None:
            draw_cutter(painter, control, picture, self._layers)
        else:
            world = mat_world(load, picture_box(picture, load))
            draw_bed(painter, world, load)
            draw_pieces(painter, world, load, control.sheet_of(load))
            draw_film_corners(painter, world, load, control.session.job.unit)
        loads = control.loads
        wide = picture.left() - card.left() - 80
        text = QRectF(card.left() + 42, card.top() + 34, wide, 30)
        place = f"Cut · mat {loads.index(load) + 1} of {len(loads)} in the order of cutting · {load.films}"
        draw_words(painter, text, MIDDLE, place, ink="quiet_ink")
        title, lines = self._said(load)
        draw_words(painter, QRectF(text.left(), card.top() + 62, wide, 120), HUGE, title, bold=True)
        y = card.top() + 146
        for number, line in enumerate(lines):
            box = QRectF(text.left(), y, wide, 200)
            large = number < 2 or line.startswith("space")
            y += draw_words(painter, box, BIG if large else MIDDLE, line[:1].upper() + line[1:], bold=not number) + 12
        if running and control.run is not None:
            self._bar(painter, QRectF(text.left(), card.bottom() - 130, wide, 26), control.run.sending.share)
        draw_sign(painter, "warn", QRectF(card.left() + 42, card.bottom() - 62, 32, 30), "!")
        draw_words(painter, QRectF(card.left() + 88, card.bottom() - 60, card.width() - 130, 40), 17, CAUTION)

    def _said(self, load: "LoadedMat") -> tuple[str, list[str]]:
        control, unit = self.control, self.control.session.job.unit
        run, broken = control.run, control.broken(load)
        if control.is_running and run is not None:
            state = "Paused" if run.sending.state == "paused" else f"Cutting mat {run.load.numbers}"
            return state, [f"{len(run.sending.done_names)} of {len(run.program.blocks)} lines"]
        if load.key in control.finished:
            return "It is cut", [
                "Bend the mat away from the film, not the film from the mat.",
                *(["Take the test cut off."] if load.test_spots else []),
                "space: the next mat",
            ]
        if broken is not None and not broken.is_readable:
            return "Begun before", [UNREADABLE, "Lay other film on it.", "O: other film is on it"]
        if broken is not None and broken.of:
            return "Begun before?", [
                f"The very lines of this mat were begun for {broken.of}.",
                "Look at the mat.",
                "F: that film is still on it",
                "O: other film is on it",
            ]
        if broken is not None and broken.doubtful:
            return "Broken off", [
                f"In doubt: {', '.join(broken.doubtful)}",
                "Look at the mat. A: cut them again, L: leave them.",
            ]
        if load.is_loaded:
            return "Ready to cut", [load.settings_said, self._duration(load), "space: send it to the cutter"]
        lines = [load.trims[0].side_down, load.grip]
        for trim in load.trims:
            left, top = load.stuck_at(trim)
            if left or top:
                where = f"{write_length(left, unit=unit)} from the left, {write_length(top, unit=unit)} from the top"
                lines.append(f"{trim.source}: {where}")
            else:
                lines.append(f"{trim.source}: corner on corner")
        if load.curls:
            lines.append("Tape the corners if they lift.")
        lines.append(load.settings_said)
        lines += [f"Other than before: {change}" for change in load.changes]
        lines.append("space: yes, it is loaded like this")
        return f"Load mat {load.numbers}", lines

    def _duration(self, load: "LoadedMat") -> str:
        return "" if self.control.sheet_of(load) is None else self.control.duration_of(load).in_words()

    def _bar(self, painter: QPainter, box: QRectF, share: float) -> None:
        painter.setPen(pen("ink", 1.5))
        painter.setBrush(colour("card_light"))
        painter.drawRoundedRect(box, 5, 5)
        painter.setBrush(colour("tape"))
        painter.drawRoundedRect(QRectF(box.topLeft(), QPointF(box.left() + box.width() * share, box.bottom())), 5, 5)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Go on with the space bar; pause, stop, other mats, leave."""
        control, load = self.control, self.control.load
        broken = None if load is None else control.broken(load)
        strange = broken is not None and bool(broken.of)
        doubtful = broken is not None and bool(broken.doubtful) and not strange
        key = event.key()
        if key == Qt.Key.Key_F11 or (key == Qt.Key.Key_Escape and not control.is_running):
            self.left.emit()
        elif key == Qt.Key.Key_Escape:
            control.stop()
        elif key == Qt.Key.Key_Space:
            self.go_on()
        elif key == Qt.Key.Key_P:
            control.pause()
        elif key == Qt.Key.Key_F and strange:
            control.same_film()
        elif key == Qt.Key.Key_O and strange:
            control.forget()
        elif key in (Qt.Key.Key_A, Qt.Key.Key_L) and doubtful:
            control.send(key == Qt.Key.Key_A)
        elif key in (Qt.Key.Key_N, Qt.Key.Key_Right) and not control.is_running:
            control.go_on()
        elif key in (Qt.Key.Key_Backspace, Qt.Key.Key_Left) and not control.is_running:
            control.go_on(-1)
        else:
            super().keyPressEvent(event)
