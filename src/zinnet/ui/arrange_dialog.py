"""Arranging designs to one another: groups, alignment, equal gaps, words set apart."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDialog,
    QFormLayout,
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from zinnet.artwork.source import source_name
from zinnet.base.errors import ZinnetError
from zinnet.base.units import read_length
from zinnet.plan.arranging import aligned, grouped, spread, ungrouped
from zinnet.plan.words import words_apart
from zinnet.ui.language import tr
from zinnet.ui.plain import Label, plain

if TYPE_CHECKING:
    from zinnet.job.edits import Edit
    from zinnet.ui.session import Session

BY = (
    ("left", "left edges"),
    ("centre", "middles, across"),
    ("right", "right edges"),
    ("top", "upper edges"),
    ("middle", "middles, down"),
    ("bottom", "lower edges"),
)
TO = (
    ("first", "to the first one"),
    ("each-other", "to one another"),
    ("panel", "to the usable area"),
    ("centre-line", "to the centre line"),
)
ALONG = (("across", "beside each other"), ("down", "below each other"))


class ArrangeDialog(QDialog):
    """Which designs, and how they lie to one another; every button is one step of undo."""

    def __init__(self, session: "Session", parent: QWidget) -> None:
        super().__init__(parent)
        self.session = session
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setWindowTitle(tr("Arrange designs"))
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Designs to arrange"))
        self.list.setToolTip(plain(tr("Ticked designs are arranged; a group moves whole")))
        self.name = QLineEdit()
        self.name.setPlaceholderText(tr("what the group is called"))
        self.name.setAccessibleName(tr("Name of the group"))
        self.by, self.to, self.along = (self._combo(rows) for rows in (BY, TO, ALONG))
        self.at, self.gap = QLineEdit(), QLineEdit()
        self.at.setPlaceholderText(tr("exactly"))
        self.at.setAccessibleName(tr("So far beyond it"))
        self.gap.setPlaceholderText(tr("outer ones stay"))
        self.gap.setAccessibleName(tr("Gap"))
        self.over = QCheckBox(tr("over the whole usable area"))
        self.said = Label()
        self.said.setWordWrap(True)
        self.group_button = self._button("Make them a group", self._group)
        self.apart_button = self._button("Take the group apart", self._take_apart)
        self.align_button = self._button("Align", self._align)
        self.spread_button = self._button("Equal gaps", self._spread)
        self.words_button = self._button("Set the words apart", self._words)
        self._lay_out()
        session.plan_changed.connect(self._fill)
        self._fill()

    def _lay_out(self) -> None:
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 16, 16, 16)
        column.setSpacing(10)
        column.addWidget(self.list, 1)
        form = QFormLayout()
        form.setSpacing(8)
        for said, widgets in (
            ("Group", (self.name, self.group_button, self.apart_button)),
            ("Align", (self.by, self.to, self.at, self.align_button)),
            ("Gaps", (self.along, self.gap, self.over, self.spread_button)),
            ("Text", (self.words_button,)),
        ):
            row = QHBoxLayout()
            for widget in widgets:
                row.addWidget(widget)
            row.addStretch(1)
            form.addRow(tr(said), row)
        column.addLayout(form)
        column.addWidget(self.said)
        self.resize(760, 420)

    def _combo(self, rows: tuple[tuple[str, str], ...]) -> QComboBox:
        combo = QComboBox()
        for value, said in rows:
            combo.addItem(tr(said), value)
        return combo

    def _button(self, said: str, action: Callable[[], None]) -> QPushButton:
        button = QPushButton(tr(said))
        button.setAutoDefault(False)
        button.clicked.connect(action)
        return button

    def _fill(self) -> None:
        """List the designs of the panel that is looked at; those that were ticked stay so."""
        known = {self.list.item(row).data(Qt.ItemDataRole.UserRole) for row in range(self.list.count())}
        ticked = set(self.chosen)
        selection = self.session.selection
        self.list.clear()
        for design in selection.garment.on_panel(selection.panel.id):
            name = source_name(self.session.job.designs[design.index].source)
            group = f", in {' in '.join(reversed(design.group))}" if design.group else ""
            item = QListWidgetItem(f"{design.index + 1}  {name}{group}")
            item.setData(Qt.ItemDataRole.UserRole, design.index)
            is_on = design.index in ticked or design.index not in known
            item.setCheckState(Qt.CheckState.Checked if is_on else Qt.CheckState.Unchecked)
            self.list.addItem(item)

    @property
    def chosen(self) -> list[int]:
        """The numbers of the designs that are ticked, from 0."""
        items = [self.list.item(row) for row in range(self.list.count())]
        return [item.data(Qt.ItemDataRole.UserRole) for item in items if item.checkState() == Qt.CheckState.Checked]

    def _do(self, make: Callable[[], "Edit"], said: str) -> None:
        try:
            edit = make()
        except ZinnetError as error:
            self.said.setText(str(error))
            return
        self.said.setText(said if self.session.apply(edit) else "")

    def _group(self) -> None:
        name = self.name.text().strip() or f"group {len(self._groups) + 1}"
        self._do(lambda: grouped(self.session.selection.garment, self.chosen, name), f"{name} moves and grows as one.")

    def _take_apart(self) -> None:
        outer = [group for index in self.chosen for group in self.session.job.designs[index].group[:1]]
        if not outer:
            self.said.setText(tr("None of the ticked designs is in a group."))
            return
        self._do(lambda: ungrouped(self.session.job, outer[0]), f"{outer[0]} is no group any more.")

    @property
    def _groups(self) -> set[str]:
        return {group for design in self.session.job.designs for group in design.group}

    def _align(self) -> None:
        def make() -> "Edit":
            at_mm = read_length(self.at.text(), unit=self.session.job.unit) if self.at.text().strip() else 0.0
            by, to = self.by.currentData(), self.to.currentData()
            return aligned(self.session.selection.garment, self.chosen, by, to, at_mm)

        self._do(make, tr("They are in line."))

    def _spread(self) -> None:
        def make() -> "Edit":
            typed = self.gap.text().strip()
            gap_mm = read_length(typed, unit=self.session.job.unit) if typed else None
            along = self.along.currentData()
            over = self.over.isChecked()
            return spread(self.session.selection.garment, self.chosen, along, None if over else gap_mm, over_panel=over)

        self._do(make, tr("All gaps are equal."))

    def _words(self) -> None:
        design = next((one for one in self.session.selection.garment.designs if one.index in self.chosen), None)
        if design is None:
            self.said.setText(tr("Tick the text whose words are to be set apart."))
            return
        self._do(lambda: words_apart(self.session.job, design), tr("Every word is a design of its own."))
