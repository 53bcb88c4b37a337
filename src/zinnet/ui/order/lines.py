"""What is ordered: a line for each size and colour, for whom, and until when."""

import datetime
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtWidgets import (
    QComboBox,
    QDoubleSpinBox,
    QFileDialog,
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QSpinBox,
    QVBoxLayout,
    QWidget,
)

from zinnet.base.errors import ZinnetError
from zinnet.base.files import read_file
from zinnet.blanks.catalogue import blank_kind, size_of, sizes
from zinnet.job.edits import set_order, set_order_lines
from zinnet.job.order import OrderLine
from zinnet.job.order_csv import MOST_BYTES, read_order_csv
from zinnet.ui.colour_buttons import ColourButton
from zinnet.ui.language import tr
from zinnet.ui.rows import make_button, make_table

if TYPE_CHECKING:
    from zinnet.ui.session import Session

COLUMNS = ("Size", "Colour", "Called", "Count")
LIST_FILTER = "Orders (*.csv *.tsv *.txt)"


class LineFields(QComboBox):
    """What a line is changed with: its size, and beside that the colour, what that is called, and the count."""

    def __init__(self, known: Sequence[str], row: int, change: Callable[..., None]) -> None:
        super().__init__()
        self.known = known
        for one in known:
            self.addItem(sizes()[one].name, one)
        self.activated.connect(lambda index: change(row, size=self.currentData()))
        self.colour = ColourButton(lambda value: change(row, colour=value))
        self.name = QLineEdit()
        self.name.editingFinished.connect(lambda: change(row, name=self.name.text().strip()))
        self.count_box = QSpinBox()
        self.count_box.setRange(1, 1000)
        self.count_box.setKeyboardTracking(False)
        self.count_box.valueChanged.connect(lambda value: change(row, count=value))
        self.fields: tuple[QWidget, ...] = (self, self.colour, self.name, self.count_box)
        for widget, said in zip(self.fields, ("Size", "Colour", "Name of the colour", "Count"), strict=True):
            widget.setAccessibleName(f"{said}, line {row + 1}")

    def show_line(self, line: OrderLine) -> None:
        """Show a line."""
        self.count_box.blockSignals(True)
        self.setCurrentIndex(self.findData(line.size))
        self.colour.show_value(line.colour)
        if not self.name.hasFocus():
            self.name.setText(line.name)
        self.count_box.setValue(line.count)
        self.count_box.blockSignals(False)


class OrderLines(QWidget):
    """The lines of the order, and what holds for all of them."""

    def __init__(self, session: "Session") -> None:
        super().__init__()
        self.session = session
        self.table = make_table("What is ordered", COLUMNS)
        self.table.verticalHeader().setDefaultSectionSize(34)
        self.customer = QLineEdit()
        self.customer.setAccessibleName(tr("For whom the order is"))
        self.customer.setToolTip(tr("For whom the order is"))
        self.customer.editingFinished.connect(lambda: self._set("customer", customer=self.customer.text().strip()))
        self.due = QLineEdit()
        self.due.setAccessibleName(tr("Due date"))
        self.due.setToolTip(tr("When it must be done, such as 2026-12-01; empty for no date"))
        self.due.setPlaceholderText("2026-12-01")
        self.due.editingFinished.connect(self._take_due)
        self.hours = QDoubleSpinBox()
        self.hours.setRange(0.5, 24)
        self.hours.setSingleStep(0.5)
        self.hours.setDecimals(1)
        self.hours.setSuffix(" h a day")
        self.hours.setKeyboardTracking(False)
        self.hours.setAccessibleName(tr("Hours of work a day"))
        self.hours.setToolTip(tr("How many hours of a day are worked at it"))
        self.hours.valueChanged.connect(lambda hours: self._set("hours", day_h=hours))
        buttons = QHBoxLayout()
        for button in (
            make_button("Add a line", "Order another size or colour", self.add_line),
            make_button("Remove", "Take the selected line out of the order", self.drop_line),
            make_button("Read CSV ...", "Read the order from a table: size, colour, name, count", self.choose_list),
        ):
            buttons.addWidget(button)
        buttons.addStretch(1)
        fields = QFormLayout()
        fields.addRow("&For", self.customer)
        when = QHBoxLayout()
        when.addWidget(self.due, 1)
        when.addWidget(self.hours, 1)
        fields.addRow("&Due", when)
        due = fields.labelForField(when)
        if isinstance(due, QLabel):
            due.setBuddy(self.due)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.table, 1)
        column.addLayout(buttons)
        column.addLayout(fields)

    # showing it

    def show_order(self) -> None:
        """Show the order; what is being typed stays."""
        order = self.session.job.order
        for field, text in ((self.customer, order.customer), (self.due, order.due.isoformat() if order.due else "")):
            if not field.hasFocus():
                field.setText(text)
        self.table.setRowCount(len(order.lines))
        known = blank_kind(self.session.job.blank.kind).sizes
        for row, line in enumerate(order.lines):
            shown = self.table.cellWidget(row, 0)
            if not isinstance(shown, LineFields) or shown.known != known:
                shown = LineFields(known, row, self._change)
                for column, widget in enumerate(shown.fields):
                    self.table.setCellWidget(row, column, widget)
            shown.show_line(line)

    def show_hours(self, day_h: float) -> None:
        """Show how long a day is; ``day_h`` holds where the order says nothing of its own."""
        self.hours.blockSignals(True)
        self.hours.setValue(self.session.job.order.day_h or day_h)
        self.hours.blockSignals(False)

    # changing it

    def add_line(self) -> None:
        """Order another line: the next size in the colour of the last line."""
        lines, job = self.session.job.order.lines, self.session.job
        if not lines:
            own = size_of(job.blank)
            counts = [(one.size or own, one.copies) for one in self.session.plan.garments if one.copies]
            colour = self.session.plan.blank.colour
            added = tuple(OrderLine(size=size, colour=colour, count=count) for size, count in counts)
        else:
            known = blank_kind(job.blank.kind).sizes
            after = known[(known.index(lines[-1].size) + 1) % len(known)]
            added = (*lines, lines[-1].model_copy(update={"size": after, "count": 1}))
        self.session.apply_later(set_order_lines(added))

    def drop_line(self) -> None:
        """Take the selected line out, else the last one."""
        lines, row = self.session.job.order.lines, self.table.currentRow()
        at = row if 0 <= row < len(lines) else len(lines) - 1
        if lines:
            self.session.apply_later(set_order_lines((*lines[:at], *lines[at + 1 :])))

    def _change(self, row: int, **fields: Any) -> None:
        lines = self.session.job.order.lines
        if row >= len(lines) or all(getattr(lines[row], name) == value for name, value in fields.items()):
            return
        changed = lines[row].model_copy(update=fields)
        self.session.apply_later(set_order_lines((*lines[:row], changed, *lines[row + 1 :])))

    def _set(self, name: str, **fields: Any) -> None:
        order = self.session.job.order
        if any(getattr(order, field) != value for field, value in fields.items()):
            self.session.apply(set_order(name, **fields))

    def _take_due(self) -> None:
        text = self.due.text().strip()
        try:
            due = datetime.date.fromisoformat(text) if text else None
        except ValueError:
            self.session.said.emit(f"“{text}” is no date; type it like 2026-12-01.")
            return
        self._set("due date", due=due)

    def choose_list(self) -> None:
        """Ask for a table, and order what stands in it."""
        name, _ = QFileDialog.getOpenFileName(self, "Read an order", "", LIST_FILTER)
        if name:
            self.read(Path(name))

    def read(self, path: Path) -> None:
        """Order what stands in a table; what is wrong with it is said."""
        try:
            lines = read_order_csv(read_file(path, MOST_BYTES), path.name)
        except ZinnetError as error:
            self.session.said.emit(str(error))
        else:
            self.session.apply_later(set_order_lines(lines))
