"""What is ordered, as the job card says it: so many of each size and colour, for whom, and until when."""

from typing import TYPE_CHECKING

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QDoubleSpinBox, QHBoxLayout, QTableWidgetItem, QVBoxLayout, QWidget

from zinnet.blanks.catalogue import sizes
from zinnet.blanks.cloth_colours import colour_called
from zinnet.job.asked import asked
from zinnet.job.edits import set_order
from zinnet.ui.card.cloth import swatch
from zinnet.ui.language import tr
from zinnet.ui.plain import Label, plain
from zinnet.ui.rows import make_button, make_table

if TYPE_CHECKING:
    from zinnet.ui.session import Session

COLUMNS = ("Colour", "Size", "Count")


class OrderLines(QWidget):
    """The lines of the order. They are typed on the job card; how long a day is, is said here."""

    card_asked = Signal()

    def __init__(self, session: "Session") -> None:
        super().__init__()
        self.session = session
        self.table = make_table("What is ordered", COLUMNS, narrow=(2,))
        self.said = Label()
        self.said.setWordWrap(True)
        self.card = make_button("Job card ...", "Counts, colours, for whom and until when (F7)", self.card_asked.emit)
        self.hours = QDoubleSpinBox()
        self.hours.setRange(0.5, 24)
        self.hours.setSingleStep(0.5)
        self.hours.setDecimals(1)
        self.hours.setSuffix(" h a day")
        self.hours.setKeyboardTracking(False)
        self.hours.setAccessibleName(tr("Hours of work a day"))
        self.hours.setToolTip(tr("How many hours of a day are worked at it"))
        self.hours.valueChanged.connect(self._set_hours)
        foot = QHBoxLayout()
        foot.addWidget(self.card)
        foot.addStretch(1)
        foot.addWidget(self.hours)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.said)
        column.addWidget(self.table, 1)
        column.addLayout(foot)

    def show_order(self) -> None:
        """Show the order."""
        order, lines = self.session.job.order, asked(self.session.job)
        due = f"due {order.due:%-d %B %Y}" if order.due else "no due date yet"
        self.said.setText(f"For {order.customer}, {due}." if order.customer else f"{due[0].upper()}{due[1:]}.")
        self.table.setRowCount(len(lines))
        for row, line in enumerate(lines):
            called = line.name or colour_called(line.colour)
            colour = QTableWidgetItem(swatch(line.colour), called)
            colour.setToolTip(plain(f"{called} ({line.colour})"))
            self.table.setItem(row, 0, colour)
            self.table.setItem(row, 1, QTableWidgetItem(sizes()[line.size].name))
            self.table.setItem(row, 2, QTableWidgetItem(str(line.count)))

    def show_hours(self, day_h: float) -> None:
        """Show how long a day is; ``day_h`` holds where the order says nothing of its own."""
        self.hours.blockSignals(True)
        self.hours.setValue(self.session.job.order.day_h or day_h)
        self.hours.blockSignals(False)

    def _set_hours(self, hours: float) -> None:
        if self.session.job.order.day_h != hours:
            self.session.apply(set_order("hours", day_h=hours))
