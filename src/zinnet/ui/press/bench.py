"""Pressing at the bench: one large card after another, with its timers, driven by one large key."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import QPoint, Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QHBoxLayout, QInputDialog, QWidget

from zinnet.bench.press_run import PressRun
from zinnet.plan.in_hand import slip_said
from zinnet.plan.press_cards import Hand
from zinnet.pressing.heat_values import press_numbers
from zinnet.ui.language import tr
from zinnet.ui.large_keys import BACKWARD, ONWARD, LargeKey, LargeKeys
from zinnet.ui.press import voice
from zinnet.ui.press.card_view import CardView
from zinnet.ui.press.cut_again import CutAgainDialog
from zinnet.ui.press.garments_list import GarmentsList
from zinnet.ui.press.more import More, MoreMenu
from zinnet.ui.press.readings import Readings
from zinnet.ui.rows import stacked

if TYPE_CHECKING:
    from zinnet.plan.press_cards import Card
    from zinnet.ui.press.control import PressControl

ROOM = ("back", "longer", "pause")
"""What gives way to the second person's card; their keys work all the same."""
ENTER = (Qt.Key.Key_Return, Qt.Key.Key_Enter)


class PressBench(QWidget):
    """The cards of the run, and the large keys below them."""

    left = Signal()

    def __init__(self, control: "PressControl") -> None:
        super().__init__()
        self.control = control
        self._spoken = ""
        self.view, self.second = CardView(control), CardView(control, beside=True)
        self.keys = LargeKeys(
            (
                LargeKey(
                    "back", tr("Back"), BACKWARD, lambda: self._let(PressRun.back), "Backspace, page up", always=True
                ),
                LargeKey("onward", tr("Go on"), ONWARD, self.go_on, "space bar, page down", main=True),
                LargeKey("yes", tr("Yes, all"), (Qt.Key.Key_Y,), self._yes, "Y", main=True),
                LargeKey("no", tr("No"), (Qt.Key.Key_N,), lambda: control.finish(worked=False), "N"),
                LargeKey("lifts", tr("It lifts"), (Qt.Key.Key_L,), lambda: self._let(PressRun.lifts), "L"),
                LargeKey("measure", tr("Measure"), (Qt.Key.Key_M,), self.measure, "M"),
                LargeKey("missing", tr("Missing"), (Qt.Key.Key_X,), self.say_missing, "X"),
                LargeKey(
                    "longer",
                    tr("+ 10 s"),
                    (Qt.Key.Key_Plus, Qt.Key.Key_Equal),
                    lambda: self._let(lambda run: run.longer(press_numbers().times.lifts_s)),
                    "+",
                    always=True,
                ),
                LargeKey("pause", tr("Pause"), (Qt.Key.Key_P,), lambda: self._let(PressRun.pause), "P", always=True),
                LargeKey("garments", tr("Garments"), (Qt.Key.Key_G,), self.show_garments, "G"),
                LargeKey("more", tr("More"), (Qt.Key.Key_Menu,), self.show_more, "menu key"),
            )
        )
        self.more = MoreMenu(
            self,
            (
                More(tr("End this step now"), Qt.Key.Key_E, self._end_step),
                More(tr("Pass over this card"), Qt.Key.Key_S, lambda: self._let(PressRun.skip)),
                More(tr("Take away what rang"), Qt.Key.Key_D, lambda: self._let(PressRun.dismiss)),
                More(tr("Plan the rest anew"), Qt.Key.Key_R, control.plan_rest),
                More(tr("The stand-in press, or none"), Qt.Key.Key_H, self._use_stand_in),
                More(tr("Who is at it …"), Qt.Key.Key_W, self._ask_who),
                More(tr("Leave the bench"), Qt.Key.Key_F11, self.end),
            ),
            control.habits,
            has_voice=voice.is_there(),
        )
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        self.second_keys = LargeKeys(
            (LargeKey("beside", tr("Go on"), ENTER, control.go_on_beside, "Enter: the second person", main=True),)
        )
        self.second_side = stacked(self.second, self.second_keys, grows=self.second)
        self.second_side.hide()
        row.addWidget(stacked(self.view, self.keys, grows=self.view), 3)
        row.addWidget(self.second_side, 2)
        self.setAccessibleName(tr("Pressing at the bench"))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        control.changed.connect(self._follow)
        control.rang.connect(self._ring)

    def begin(self) -> None:
        """Show the card that is due."""
        self.control.begin_run()
        self.setFocus()
        self._follow()

    def go_on(self) -> None:
        """Do what the space bar does."""
        self.control.go_on()
        self._follow()

    def end(self) -> None:
        """Leave the bench."""
        self.control.end_run()
        self.left.emit()

    @property
    def due(self) -> "Card | None":
        """The card that is due."""
        run = self.control.run
        return None if run is None else run.card

    def said(self) -> str:
        """Return what the card says, for whoever hears it instead of reading."""
        return "" if self.due is None else self.view.words.said(self.due)

    def _follow(self) -> None:
        if self.isVisible():
            self.keys.show_these(self._shown())
            self._speak()
            self.setAccessibleDescription(self.said())
            beside = self.control.beside
            self.second_side.setVisible(beside is not None)
            self.second_keys.show_these({} if beside is None else {"beside": self.second.words.onward(beside)})
            self.view.update()
            self.second.update()

    def _speak(self) -> None:
        """Speak a card when it becomes due."""
        due = self.due
        if due is not None and due.id != self._spoken:
            self._spoken = due.id
            if self.control.habits.is_spoken:
                self.control.habits.say(self.said())

    def _shown(self) -> dict[str, str]:
        """Return which of the large keys are there now, and what each says."""
        run, due = self.control.run, self.due
        if run is None or not run.cards:
            return {}
        if due is None:
            return {"yes": tr("Yes, all of them"), "no": tr("No"), "garments": tr("Garments"), "back": tr("Back")}
        words = self.view.words
        found = {"back": tr("Back")}
        found["yes" if due.step.gate else "onward"] = words.onward(due)
        if due.step.kind == "peel":
            found["lifts"] = tr("It lifts")
        if words.hand(due) is not None:
            found["measure"] = tr("Measure")
        if words.laid_out(due) is not None:
            found["missing"] = tr("Missing")
        if run.own_timers:
            found["longer"] = tr("+ 10 s")
        found["pause"] = tr("Resume") if run.time.stands else tr("Pause")
        if self.control.beside is not None:
            found = {name: text for name, text in found.items() if name not in ROOM}
        return found | {"garments": tr("Garments"), "more": tr("More")}

    def _ring(self, name: str) -> None:
        if self.isVisible():
            self.control.habits.ring()
            run, due = self.control.run, self.due
            is_due = run is not None and due is not None and run.timer(due) is not None
            self.control.habits.say(tr("Open now") if is_due else f"{name}: {tr('ready')}")

    # what the keys do

    def _yes(self) -> None:
        if self.due is None:
            self.control.finish(worked=True)
        else:
            self.control.confirm()
        self._follow()

    def _let(self, do: Callable[[PressRun], object]) -> None:
        """Let the run do something, and show what it made of it."""
        if self.control.run is not None:
            do(self.control.run)
            self._follow()

    def _back(self) -> None:
        self._let(PressRun.back)

    def measure(self) -> None:
        """Ask how the piece in hand really lies; what is laid after it follows."""
        run, due = self.control.run, self.due
        hand = None if due is None else self.view.words.hand(due)
        if run is None or due is None or hand is None:
            return
        asked = Readings(self, hand, self.control.session.job.unit)
        if asked.exec() and asked.slip is not None:
            run.slipped(due, asked.slip)
            self.control.session.said.emit(slip_said(asked.slip, self.control.session.job.unit))
        asked.deleteLater()
        self._follow()

    def say_missing(self) -> None:
        """Ask what is missing of the film that is laid out, and how it is cut again."""
        due = self.due
        laid = None if due is None else self.view.words.laid_out(due)
        if due is None or laid is None:
            return
        hands = [Hand(one.piece.key, one.place) for one in laid.fit.pieces]
        asked = CutAgainDialog.of_missing(self, self.control, due.press, hands)
        asked.exec()
        asked.deleteLater()

    def show_garments(self) -> None:
        """Show the garments of the run: their order, what is given up, what is added."""
        if self.control.run is not None:
            asked = GarmentsList(self, self.control)
            asked.exec()
            asked.deleteLater()
            self._follow()

    def show_more(self) -> None:
        """Show what else can be done."""
        button = self.keys.buttons["more"]
        self.more.show(button.mapToGlobal(QPoint(button.width(), 0)))

    def _end_step(self) -> None:
        control = self.control
        if control.run is not None:
            control.run.end_early()
            if control.stand_in is not None:
                control.stand_in.open()
            self._follow()

    def _use_stand_in(self) -> None:
        self.control.use_stand_in(self.control.stand_in is None)

    def _ask_who(self) -> None:
        habits = self.control.habits
        name, given = QInputDialog.getText(self, tr("Who is at it?"), tr("The log says it:"), text=habits.who)
        if given:
            habits.who = name

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Do what a large key does, or what is under More; leave."""
        if event.key() in (Qt.Key.Key_F11, Qt.Key.Key_Escape):
            self.end()
        elif not any(taker.take(event) for taker in (self.keys, self.second_keys, self.more)):
            super().keyPressEvent(event)
