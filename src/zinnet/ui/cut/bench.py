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
from zinnet.ui.large_keys import BACKWARD, ONWARD, LargeKey, LargeKeys
from zinnet.ui.theme import colour

if TYPE_CHECKING:
    from zinnet.plan.loading import LoadedMat
    from zinnet.ui.cut.control import CutterControl

HUGE, BIG, MIDDLE = 46, 32, 24
CAUTION = "Hands off the cutter while it has power; the blade points away from hands. Its manual comes first."


class CutBench(QWidget):
    """The mats one after the other, read from two metres away."""

    left = Signal()

    def __init__(self, control: "CutterControl") -> None:
        super().__init__()
        self.control = control
        self._layers = MatLayers()
        self.keys = LargeKeys(
            (
                LargeKey("back", tr("Mat before"), BACKWARD, lambda: control.go_on(-1), "Backspace, page up"),
                LargeKey("onward", tr("Go on"), ONWARD, self.go_on, "space bar, page down", main=True),
                LargeKey("same", tr("That film is still on it"), (Qt.Key.Key_F,), control.same_film, "F", main=True),
                LargeKey("other", tr("Other film is on it"), (Qt.Key.Key_O,), control.forget, "O", main=True),
                LargeKey("again", tr("Cut them again"), (Qt.Key.Key_A,), lambda: control.send(True), "A", main=True),
                LargeKey("leave", tr("Leave them"), (Qt.Key.Key_L,), lambda: control.send(False), "L", main=True),
                LargeKey("pause", tr("Pause"), (Qt.Key.Key_P,), control.pause, "P", main=True),
                LargeKey("stop", tr("Stop"), (Qt.Key.Key_Escape,), control.stop, "Esc"),
                LargeKey("next", tr("Next mat"), (Qt.Key.Key_N,), control.go_on, "N"),
            )
        )
        self.keys.put_below(self)
        self.setAccessibleName(tr("Cutting at the bench"))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        control.changed.connect(self._follow)

    def begin(self) -> None:
        """Show the mat that is next."""
        self.setFocus()
        self._follow()

    def _follow(self) -> None:
        if self.isVisible():
            self.keys.show_these(self._shown())
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
            control.session.said.emit("Lay other film on the mat first, then say that it is on.")
        elif broken is not None and broken.of:
            control.session.said.emit("Look at the mat first: is that film still on it, or other film?")
        elif broken is not None and broken.doubtful:
            control.session.said.emit("Look at the mat first: are the lines in doubt cut again, or left?")
        else:
            control.send()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the card."""
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.fillRect(self.rect(), colour("felt"))
            card = QRectF(28, 28, self.width() - 56, self.height() - self.keys.height() - 38)
            draw_card(painter, card)
            load = self.control.load
            if load is None:
                draw_words(painter, card.adjusted(42, 60, -42, 0), HUGE, "Nothing to cut yet", bold=True)
            else:
                self._draw(painter, card, load)

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
            large = number < 2
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
            ]
        if broken is not None and not broken.is_readable:
            return "Begun before", [UNREADABLE, "Lay other film on it."]
        if broken is not None and broken.of:
            return "Begun before?", [
                f"The very lines of this mat were begun for {broken.of}.",
                "Look at the mat.",
            ]
        if broken is not None and broken.doubtful:
            return "Broken off", [
                f"In doubt: {', '.join(broken.doubtful)}",
                "Look at the mat: are they cut?",
            ]
        if load.is_loaded:
            return "Ready to cut", [load.settings_said, self._duration(load)]
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
        return f"Load mat {load.numbers}", lines

    def _duration(self, load: "LoadedMat") -> str:
        return "" if self.control.sheet_of(load) is None else self.control.duration_of(load).in_words()

    def _bar(self, painter: QPainter, box: QRectF, share: float) -> None:
        painter.setPen(pen("ink", 1.5))
        painter.setBrush(colour("card_light"))
        painter.drawRoundedRect(box, 5, 5)
        painter.setBrush(colour("tape"))
        painter.drawRoundedRect(QRectF(box.topLeft(), QPointF(box.left() + box.width() * share, box.bottom())), 5, 5)

    def _shown(self) -> dict[str, str]:
        """Return which of the large keys are there now, and what each says."""
        control, load = self.control, self.control.load
        if load is None:
            return {}
        if control.is_running:
            paused = control.run is not None and control.run.sending.state == "paused"
            return {"pause": tr("Go on") if paused else tr("Pause"), "stop": tr("Stop")}
        broken, moving = control.broken(load), {"back": tr("Mat before"), "next": tr("Next mat")}
        if load.key in control.finished:
            return {"back": moving["back"], "onward": tr("Next mat")}
        if broken is not None and (broken.of or not broken.is_readable):
            same = {"same": tr("That film is still on it")} if broken.is_readable else {}
            return moving | same | {"other": tr("Other film is on it")}
        if load.is_loaded and broken is not None and broken.doubtful:
            return moving | {"again": tr("Cut them again"), "leave": tr("Leave them")}
        return moving | {"onward": tr("Send it to the cutter") if load.is_loaded else tr("It is loaded like this")}

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Do what a large key does; leave the bench."""
        key, running = event.key(), self.control.is_running
        if key == Qt.Key.Key_F11 or (key == Qt.Key.Key_Escape and not running):
            self.left.emit()
        elif key == Qt.Key.Key_Space and not running and not self.keys.take(event):
            self.go_on()  # says why it can't go on
        elif key == Qt.Key.Key_Space or not self.keys.take(event):
            super().keyPressEvent(event)
