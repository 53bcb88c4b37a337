"""The cutter at work: what is cut, what is next, and what can be done: pause, stop, go on after a break."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QProgressBar, QPushButton, QVBoxLayout, QWidget

from zinnet.bench.cut_journal import UNREADABLE
from zinnet.ui.card_page import CardPage, small
from zinnet.ui.cut.control import STAND_IN, CutterControl
from zinnet.ui.cut.mat_drawing import MatLayers, draw_bed, draw_head, draw_pieces, mat_world
from zinnet.ui.fold import Fold
from zinnet.ui.language import tr
from zinnet.ui.plain import Label, plain
from zinnet.ui.rows import put_text
from zinnet.ui.theme import PLAIN, font

if TYPE_CHECKING:
    from zinnet.cutting.stand_in.cutter import FailureKind
    from zinnet.plan.loading import LoadedMat

SPEEDS = (("as fast as a real one", 1.0), ("4 times as fast", 4.0), ("20 times as fast", 20.0))
FAILS: tuple[tuple[str, "FailureKind | None"], ...] = (
    ("nothing fails", None),
    ("the film jams", "jam"),
    ("the power fails", "power"),
    ("its buffer runs over", "buffer"),
    ("the line is noisy", "noise"),
    ("it does not answer", "silence"),
)


class CutterPicture(QWidget):
    """The mat with its lines, those that are cut strong, and the head where it is known."""

    def __init__(self, control: CutterControl) -> None:
        super().__init__()
        self.control = control
        self.setMinimumSize(QSize(230, 200))
        self._layers = MatLayers()
        self.setAccessibleName(tr("The cutter at work"))

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw it."""
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            draw_cutter(painter, self.control, QRectF(self.rect()).adjusted(10, 20, -10, -10), self._layers)


def draw_cutter(painter: QPainter, control: CutterControl, box: QRectF, layers: MatLayers) -> None:
    """Draw the mat that is cut, or that is looked at, into a box."""
    run = control.run
    load = run.load if run is not None and control.is_running else control.load
    if load is None:
        return
    width, height = load.size
    box.setHeight(min(box.height(), box.width() * height / width))
    world = mat_world(load, box)
    sheet = control.sheet_of(load)
    if sheet is None:
        draw_bed(painter, world, load)
        draw_pieces(painter, world, load)
        return
    done, doubtful, current = _state(control, load)
    layers.draw(painter, world, load, sheet, done=done, doubtful=doubtful, current=current)
    stand_in = control.stand_in
    if stand_in is not None and control.is_running:
        x, y = stand_in.head.at
        draw_head(painter, world, QPointF(x, sheet.height_mm - y), down=stand_in.head.down)


def _state(control: CutterControl, load: "LoadedMat") -> tuple[set[str], set[str], str | None]:
    """Return which lines of a mat are cut, which are under way or in doubt, and which one is under the knife."""
    run = control.run
    if run is not None and not run.is_test and run.load.key == load.key:
        names = {block.path.name for block in run.program.blocks}
        before = {block.path.name for block in load.program().blocks} - names
        report = run.sending.report
        current = run.sending.current if control.is_running else None
        return before | set(report.done), set(report.doubtful), current
    broken = control.broken(load)
    if broken is not None:
        return set(broken.done), set(broken.doubtful), None
    return (set(), set(), None)


class CutterPage(CardPage):
    """One mat on its way."""

    def __init__(self, control: CutterControl) -> None:
        super().__init__("Cutter")
        self.control = control
        self.picture = CutterPicture(control)
        self.port = _combo("Cutter", "What is sent to: the stand-in, or a serial port", self._set_port)
        self.port.addItem("the stand-in cutter", STAND_IN)
        self.look_again = QPushButton(tr("Look for ports"))
        self.look_again.setToolTip(tr("Look again which serial ports there are"))
        self.look_again.clicked.connect(self.fill_ports)
        self.speed = _combo("Speed of the stand-in", "How fast the stand-in moves", self._set_speed)
        for said, times in SPEEDS:
            self.speed.addItem(said, times)
        self.speed.setCurrentIndex(1)
        self.fails = _combo("What fails", "Let the stand-in fail on the next mat", self._set_failure)
        for name, kind in FAILS:
            self.fails.addItem(name, kind)
        self.head = Label()
        self.head.setFont(font(20, bold=True))
        self.head.setWordWrap(True)
        self.said = Label()
        self.said.setFont(font(PLAIN))
        self.said.setWordWrap(True)
        self.bar = QProgressBar()
        self.bar.setTextVisible(True)
        self.bar.setAccessibleName(tr("How much of the mat is cut"))
        self.send = _button("Send", "Send this mat to the cutter (S)", lambda: control.send(), strong=True, key="S")
        self.again = _button("Cut them again", "Cut the lines in doubt, then the rest", lambda: control.send(True))
        self.leave = _button("Leave them", "Leave the lines in doubt; cut the rest", lambda: control.send(False))
        self.pause = _button("Pause", "Wait after the line that is being cut, or go on (P)", control.pause, key="P")
        self.stop = _button("Stop", "Stop at once; the knife is lifted (Esc)", control.stop, key="Esc")
        self.same = _button(
            "That film is still on", "What was begun before is on this film: go on with it", control.same_film
        )
        self.forget = _button("Other film is on", "Forget what was cut of this mat: it begins anew", control.forget)
        self.next = _button("Next mat", "Look at the next mat (N)", lambda: control.go_on(), key="N")
        side = QVBoxLayout()
        side.setSpacing(8)
        side.addWidget(self.head)
        side.addWidget(self.bar)
        side.addWidget(self.said)
        side.addStretch(1)
        rows = ((self.send, self.pause, self.stop), (self.again, self.leave), (self.same,), (self.forget, self.next))
        for buttons in rows:
            row = QHBoxLayout()
            for button in buttons:
                row.addWidget(button)
            side.addLayout(row)
        side.addWidget(small("Hands off the cutter while it has power; blades point away from hands."))
        self.practice = Fold("Practice", "How the stand-in moves, and whether it fails", self.speed, self.fails)
        for widget in (self.port, self.look_again, self.practice):
            side.addWidget(widget)
        text = QWidget()
        text.setLayout(side)
        text.setFixedWidth(270)
        row = QHBoxLayout()
        row.setSpacing(14)
        row.addWidget(self.picture, 1)
        row.addWidget(text)
        self.column.addLayout(row, 1)
        control.changed.connect(self.follow)

    def look(self) -> object:
        """Return what the page depends on: while something moves, everything."""
        control = self.control
        load, run = control.load, control.run
        moves = object() if control.is_running else None
        return (
            control.session.plan.loads,
            control.session.job.cutting,
            load.key if load is not None else None,
            moves,
            run.report if run is not None else None,
            None if load is None else control.sheet_of(load) is not None,
            None if load is None else control.broken(load),
        )

    def show_plan(self) -> None:
        """Show how far the cutter is."""
        control = self.control
        load, run = control.load, control.run
        running = control.is_running
        self.picture.update()
        for button in (self.pause, self.stop):
            button.setVisible(running)
        self.note.setText(self._note())
        if load is None:
            for widget in (self.send, self.again, self.leave, self.same, self.forget, self.next, self.bar):
                widget.hide()
            self.head.setText(tr("Nothing to cut yet"))
            self.said.setText("")
            return
        broken = control.broken(load)
        in_doubt = broken is not None and bool(broken.doubtful)
        strange = broken is not None and bool(broken.of)
        in_doubt = in_doubt and not strange
        self.same.setVisible(strange and not running and broken is not None and broken.is_readable)
        self.send.setVisible(not running and not in_doubt and not strange and load.key not in control.finished)
        put_text(self.send, "Send the rest" if broken is not None else "Send")
        for button in (self.again, self.leave):
            button.setVisible(in_doubt and not running)
        self.forget.setVisible(not running and (broken is not None or load.key in control.finished))
        self.next.setVisible(not running and len(control.loads) > 1)
        self.practice.setVisible(self.port.currentData() == STAND_IN)
        for combo in (self.port, self.speed, self.fails, self.look_again):
            combo.setEnabled(not running)
        self.bar.show()
        if running and run is not None:
            self.bar.setValue(round(run.sending.share * 100))
            self._show_running(run.load, run.sending.state, run.sending.current)
            return
        self.head.setText(f"Mat {load.numbers}, {load.films}")
        self.bar.setValue(100 if load.key in control.finished else 0)
        if broken is not None and not broken.is_readable:
            self.said.setText(f"{UNREADABLE} Lay other film on the mat.")
        elif broken is not None and broken.of:
            self.said.setText(
                f"The very lines of this mat were begun before, for {broken.of}: {len(broken.done)} are cut, "
                f"{len(broken.doubtful)} in doubt. Is that film still on the mat, or other film?"
            )
        elif broken is not None:
            names = ", ".join(broken.doubtful)
            said = f"Broken off: {len(broken.done)} lines are cut. "
            said += f"In doubt: {names}. Look at the mat: are they cut?" if names else "The rest can be sent."
            self.said.setText(said)
            self.bar.setValue(round(100 * len(broken.done) / max(1, len(load.program().blocks))))
        elif load.is_printed:
            self.said.setText(tr("A print is not cut here: write the files, print it at 100 %, and trim it by hand."))
        elif load.key in control.finished:
            off = " Take the test cut off." if load.test_spots else ""
            bend = f"Cut. Bend the mat away from the film, not the film from the mat.{off}"
            self.said.setText(f"{bend}\n\n{control.finished[load.key]}")
        elif control.sheet_of(load) is None:
            self.said.setText(tr("Its lines are being put in order ..."))
        else:
            loaded = "" if load.is_loaded else " Say yes to its loading first."
            self.said.setText(f"{load.settings_said}; {self.control.duration_of(load).in_words()}.{loaded}")

    def _show_running(self, load: "LoadedMat", state: str, current: str | None) -> None:
        self.head.setText(f"Mat {load.numbers}, {load.films}")
        put_text(self.pause, "Go on" if state == "paused" else "Pause")
        if state == "paused":
            self.said.setText(tr("Paused: the knife is lifted."))
        else:
            whole = "All is cut; the head goes home." if self.bar.value() == self.bar.maximum() else "Sending ..."
            self.said.setText(f"Cutting {current}" if current else whole)

    def _note(self) -> str:
        if self.control.port == STAND_IN:
            return "The stand-in takes the place of a cutter: it reads the same commands, moves as fast, and can fail."
        return "Every line is asked back before it counts as cut; after a break the rest can be sent."

    def fill_ports(self) -> None:
        """Look which ports there are."""
        chosen = self.control.port
        self.port.clear()
        for name, said in self.control.ports():
            self.port.addItem(said, name)
        self.port.setCurrentIndex(max(0, self.port.findData(chosen)))
        self._set_port()

    def _set_port(self) -> None:
        self.control.port = self.port.currentData() or STAND_IN
        self.practice.setVisible(self.control.port == STAND_IN)
        self.note.setText(self._note())

    def _set_speed(self) -> None:
        self.control.times = float(self.speed.currentData())

    def _set_failure(self) -> None:
        self.control.failure = self.fails.currentData()


def _combo(name: str, tip: str, chosen: Callable[[], object]) -> QComboBox:
    combo = QComboBox()
    combo.setAccessibleName(name)
    combo.setToolTip(plain(tip))
    combo.activated.connect(lambda index: chosen())
    return combo


def _button(text: str, tip: str, action: Callable[[], object], *, strong: bool = False, key: str = "") -> QPushButton:
    button = QPushButton(text)
    button.setToolTip(plain(tip))
    if strong:
        button.setProperty("strong", True)
    if key:
        button.setShortcut(key)
    button.clicked.connect(lambda: action())
    button.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
    return button
