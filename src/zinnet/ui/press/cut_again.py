"""Film that has to be cut again: for a garment that came to grief, or because a part was weeded away."""

from collections.abc import Sequence
from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QFileDialog,
    QListWidget,
    QListWidgetItem,
    QVBoxLayout,
    QWidget,
)

from zinnet.base.errors import ZinnetError
from zinnet.base.units import write_length
from zinnet.bench.recut import CutAgain, cut_again
from zinnet.bench.run_record import recut_of
from zinnet.job.edits import record_miscut
from zinnet.ui.language import tr
from zinnet.ui.plain import Wrapped, plain
from zinnet.ui.theme import LARGE, font
from zinnet.workshop.run_made import MOST_SAID

if TYPE_CHECKING:
    from zinnet.plan.model import Plan
    from zinnet.plan.press_cards import Hand
    from zinnet.plan.presses import GarmentPress
    from zinnet.ui.press.control import PressControl

WIDTH = 720
REASONS = (
    "scorched",
    "crooked",
    "cut the wrong way round",
    "film came up and tore",
    "the wrong garment",
    "stained",
)
HAND = Qt.ItemDataRole.UserRole


class CutAgainDialog(QDialog):
    """What is cut again, from which film, and its cut files."""

    def __init__(self, parent: QWidget, control: "PressControl", press: "GarmentPress", title: str, told: str) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self.setMinimumWidth(WIDTH)
        self.control, self.press = control, press
        self.found: dict[Hand, CutAgain] = {}
        self._is_open = True
        self.finished.connect(lambda result: self._close())
        self.told = Wrapped()
        self.told.setText(told)
        self.reason = QComboBox()
        self.reason.setEditable(True)
        self.reason.addItems([tr(reason) for reason in REASONS])
        self.reason.setFont(font(LARGE))
        self.reason.setAccessibleName(tr("What happened"))
        self.list = QListWidget()
        self.list.setFont(font(LARGE))
        self.list.setAccessibleName(tr("What is cut again"))
        self.again = QCheckBox(tr("One more like it, at the end of the run"))
        self.again.setChecked(True)
        self.again.setFont(font(LARGE))
        self.buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Cancel)
        self.files = self.buttons.addButton(tr("Write its cut files …"), QDialogButtonBox.ButtonRole.ActionRole)
        self.take = self.buttons.addButton(tr("It is lost"), QDialogButtonBox.ButtonRole.AcceptRole)
        self.take.setProperty("strong", True)
        self.files.clicked.connect(self._choose_folder)
        self.buttons.accepted.connect(self.accept)
        self.buttons.rejected.connect(self.reject)
        column = QVBoxLayout(self)
        for widget in (self.told, self.reason, self.list, self.again, self.buttons):
            column.addWidget(widget)
        self.list.itemChanged.connect(lambda item: self._look())

    @classmethod
    def of_lost(
        cls, parent: QWidget, control: "PressControl", press: "GarmentPress", hands: "Sequence[Hand]", name: str
    ) -> "CutAgainDialog":
        """Return the dialog about a garment that came to grief, with the pieces that lay on it."""
        told = f"{name}: what happened? What lay on it is lost with it." if hands else f"{name}: what happened?"
        dialog = cls(parent, control, press, tr("A garment is lost"), told)
        dialog.fill(hands, chosen=True)
        return dialog

    @classmethod
    def of_missing(
        cls, parent: QWidget, control: "PressControl", press: "GarmentPress", hands: "Sequence[Hand]"
    ) -> "CutAgainDialog":
        """Return the dialog about parts that are missing before anything is pressed."""
        told = tr("Tick what has to be cut again; it is cut by itself, from the nearest film that holds it.")
        dialog = cls(parent, control, press, tr("Something is missing"), told)
        dialog.reason.hide()
        dialog.again.hide()
        dialog.take.setText(tr("Close"))
        dialog.buttons.button(QDialogButtonBox.StandardButton.Cancel).hide()
        dialog.fill(hands, chosen=len(hands) == 1)
        return dialog

    @property
    def what(self) -> str:
        """What happened, in words."""
        return self.reason.currentText().strip()[:MOST_SAID] or tr("lost")

    @property
    def chosen(self) -> "list[Hand]":
        """What is to be cut again."""
        items = [self.list.item(row) for row in range(self.list.count())]
        return [item.data(HAND) for item in items if item.checkState() == Qt.CheckState.Checked]

    def fill(self, hands: "Sequence[Hand]", *, chosen: bool) -> None:
        """Fill the list with pieces; each says from what it is cut as soon as that is known."""
        self.list.blockSignals(True)
        for hand in hands:
            item = QListWidgetItem(plain(self._said(hand)))
            item.setData(HAND, hand)
            item.setFlags(item.flags() | Qt.ItemFlag.ItemIsUserCheckable)
            item.setCheckState(Qt.CheckState.Checked if chosen else Qt.CheckState.Unchecked)
            self.list.addItem(item)
        self.list.blockSignals(False)
        self.list.setVisible(bool(hands))
        self.list.setMinimumHeight(min(300, 44 * max(1, len(hands))))
        self._look()

    def _close(self) -> None:
        """Take no more answers: what is still being looked for comes too late."""
        self._is_open = False

    def _said(self, hand: "Hand") -> str:
        one, unit = recut_of(self.press, hand), self.control.session.job.unit
        wide, high = (write_length(mm, unit=unit) for mm in (one.width_mm, one.height_mm))
        found = self.found.get(hand)
        return f"{one.piece}: {wide} by {high}" + (f" · {found.said}" if found is not None else "")

    def _look(self) -> None:
        """Look beside the window from what each piece that is ticked is cut."""
        self.files.setEnabled(bool(self.chosen))
        plan, press = self.control.session.plan, self.press
        for hand in self.chosen:
            if hand not in self.found:
                self.control.session.background.run(partial(_found, plan, press, hand), self._take, self._refuse)

    def _take(self, row: "tuple[Hand, CutAgain]") -> None:
        if not self._is_open:
            return
        hand, found = row
        self.found[hand] = found
        self.list.blockSignals(True)
        for number in range(self.list.count()):
            item = self.list.item(number)
            if item.data(HAND) == hand:
                item.setText(plain(self._said(hand)))
        self.list.blockSignals(False)

    def _refuse(self, error: str) -> None:
        if not self._is_open:
            return
        self.told.setText(plain(str(error)))

    def _choose_folder(self) -> None:
        folder = QFileDialog.getExistingDirectory(self, tr("Folder for the cut files"))
        if folder:
            self.write(folder)

    def write(self, folder: str) -> None:
        """Write the cut files of what is ticked into a folder, and say which."""
        from pathlib import Path

        try:
            plan, press = self.control.session.plan, self.press
            found = [self.found.get(hand) or cut_again(plan, press, hand) for hand in self.chosen]
            paths = [path for one in found for path in one.write(Path(folder))]
        except ZinnetError as error:
            self.told.setText(plain(str(error)))
            return
        for one in found:
            self.control.session.apply(record_miscut(one.nest.film.id, one.taken_mm2))
        names = ", ".join(path.name for path in paths)
        self.told.setText(plain(f"Written to {folder}: {names}. Cut at 100 %; take what is cut off the shelf at Film."))


def _found(plan: "Plan", press: "GarmentPress", hand: "Hand") -> "tuple[Hand, CutAgain]":
    return hand, cut_again(plan, press, hand)
