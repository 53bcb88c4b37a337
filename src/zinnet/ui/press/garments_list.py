"""The garments of a run, in the order in which they are pressed: swapped, put aside, given up, added."""

from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog, QHBoxLayout, QListWidget, QPushButton, QVBoxLayout, QWidget

from zinnet.bench.run_order import GarmentState, garments_of, put_aside, swapped, taken_first
from zinnet.ui.language import tr
from zinnet.ui.plain import Wrapped, plain
from zinnet.ui.press.cut_again import CutAgainDialog
from zinnet.ui.theme import LARGE, font

if TYPE_CHECKING:
    from collections.abc import Callable

    from zinnet.bench.press_run import PressRun
    from zinnet.ui.press.control import PressControl

WIDTH, HEIGHT, BUTTON = 860, 560, 56
TOLD = "In the order in which they are pressed. What was begun goes on with its own cards, whatever its place."


class GarmentsList(QDialog):
    """The list with large buttons below it."""

    def __init__(self, parent: QWidget, control: "PressControl") -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Garments of the run"))
        self.resize(WIDTH, HEIGHT)
        self.control = control
        told = Wrapped()
        told.setText(tr(TOLD))
        self.list = QListWidget()
        self.list.setFont(font(LARGE))
        self.list.setAccessibleName(tr("Garments of the run"))
        self.list.currentRowChanged.connect(self._follow_row)
        self.buttons: dict[str, QPushButton] = {}
        row = QHBoxLayout()
        for name, text, tip, do in (
            ("earlier", "Earlier", "Swap it with the one before it (Ctrl+Up)", lambda: self._swap(-1)),
            ("later", "Later", "Swap it with the one after it (Ctrl+Down)", lambda: self._swap(1)),
            ("now", "Now", "Take it as the next one", self._now),
            ("aside", "Put aside", "Take it when all others are done", self._aside),
            ("lost", "Lost …", "It came to grief: say what happened, and what is cut again", self._lost),
            ("more", "One more", "Add a garment that is made like it", self._more),
            ("close", "Close", "Back to the card (Esc)", self.accept),
        ):
            self.buttons[name] = self._button(text, tip, do)
            row.addWidget(self.buttons[name])
        self.buttons["earlier"].setShortcut("Ctrl+Up")
        self.buttons["later"].setShortcut("Ctrl+Down")
        column = QVBoxLayout(self)
        column.addWidget(told)
        column.addWidget(self.list, 1)
        column.addLayout(row)
        self.show_run()

    def _button(self, text: str, tip: str, do: "Callable[[], None]") -> QPushButton:
        button = QPushButton(tr(text))
        button.setToolTip(plain(tr(tip)))
        button.setMinimumHeight(BUTTON)
        button.setFont(font(LARGE))
        button.setAutoDefault(False)
        button.clicked.connect(lambda checked=False: do())
        return button

    @property
    def run(self) -> "PressRun":
        """The run."""
        assert self.control.run is not None
        return self.control.run

    @property
    def chosen(self) -> GarmentState | None:
        """The garment that is selected."""
        row = self.list.currentRow()
        return self.states[row] if 0 <= row < len(self.states) else None

    def show_run(self, number: int | None = None) -> None:
        """Fill the list; a garment stays selected, at first the one whose card is due."""
        due = self.run.card
        kept = number if number is not None else due.number if due is not None and not due.is_for_all else None
        self.states = garments_of(self.run)
        self.list.clear()
        for state in self.states:
            self.list.addItem(plain(f"No. {state.number}   {state.name}, {state.cloth}   ·   {state.state}"))
        rows = [one.number for one in self.states]
        self.list.setCurrentRow(rows.index(kept) if kept in rows else 0)

    def _follow_row(self) -> None:
        one = self.chosen
        is_left = one is not None and not one.lost and one.done < one.cards
        open_rows = [state.number for state in self.states if not state.lost and state.done < state.cards]
        at = open_rows.index(one.number) if one is not None and one.number in open_rows else -1
        self.buttons["earlier"].setEnabled(at > 0)
        self.buttons["later"].setEnabled(0 <= at < len(open_rows) - 1)
        self.buttons["now"].setEnabled(is_left)
        self.buttons["aside"].setEnabled(is_left)
        self.buttons["lost"].setEnabled(one is not None and not one.lost)
        self.buttons["more"].setEnabled(one is not None)

    def _swap(self, step: int) -> None:
        one = self.chosen
        open_rows = [state.number for state in self.states if not state.lost and state.done < state.cards]
        if one is None or one.number not in open_rows:
            return
        other = open_rows.index(one.number) + step
        if 0 <= other < len(open_rows):
            self.run.take_order(swapped(self.run, one.number, open_rows[other]))
            self._changed(one.number)

    def _now(self) -> None:
        if self.chosen is not None:
            number = self.chosen.number
            self.run.take_order(taken_first(self.run, number))
            self._changed(number)

    def _aside(self) -> None:
        if self.chosen is not None:
            number = self.chosen.number
            self.run.take_order(put_aside(self.run, number))
            self._changed(number)

    def _lost(self) -> None:
        one = self.chosen
        if one is None:
            return
        press = next(card.press for card in self.run.all_cards if card.is_of(one.number))
        asked = CutAgainDialog.of_lost(self, self.control, press, self.run.lost_of(one.number), one.name)
        if asked.exec():
            self.run.spoil(one.number, asked.what, again=asked.again.isChecked())
            self._changed(one.number)
        asked.deleteLater()

    def _more(self) -> None:
        if self.chosen is not None:
            self._changed(self.run.add(self.chosen.number))

    def _changed(self, number: int) -> None:
        self.show_run(number)
        self.list.setFocus(Qt.FocusReason.OtherFocusReason)
        self.control.changed.emit()
