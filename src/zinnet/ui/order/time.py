"""How long an order takes: the parts of the work as bars of one length, and when it must be begun."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QDoubleSpinBox, QHBoxLayout, QVBoxLayout, QWidget

from zinnet.base.units import write_seconds
from zinnet.job.edits import set_order
from zinnet.ui.drawing import pen
from zinnet.ui.language import tr
from zinnet.ui.plain import Wrapped
from zinnet.ui.theme import SMALL, colour, font

if TYPE_CHECKING:
    from zinnet.shop.ordered import Span
    from zinnet.ui.order.worked_out import WorkedOut
    from zinnet.ui.session import Session

ROW_PX, NAME_PX, TIME_PX = 20, 130, 76


class TimePanel(QWidget):
    """The time of an order, and how many hours of a day are worked at it."""

    def __init__(self, session: "Session") -> None:
        super().__init__()
        self.session = session
        self.spans = SpanBars()
        self.due = Wrapped()
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
        foot.addWidget(self.due, 1)
        foot.addWidget(self.hours, 0, Qt.AlignmentFlag.AlignTop)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.spans)
        column.addLayout(foot)

    def show_times(self, found: "WorkedOut") -> None:
        """Show the parts of the work, and when it is done."""
        self.spans.show_spans(found.spans)
        self.due.setText(found.due)
        self.hours.blockSignals(True)
        self.hours.setValue(self.session.job.order.day_h or found.costing.prices.time.day_h)
        self.hours.blockSignals(False)

    def _set_hours(self, hours: float) -> None:
        if self.session.job.order.day_h != hours:
            self.session.apply(set_order("hours", day_h=hours))


class SpanBars(QWidget):
    """Each part of the work: its name, a bar, its time."""

    def __init__(self) -> None:
        super().__init__()
        self.spans: tuple[Span, ...] = ()

    def show_spans(self, spans: "tuple[Span, ...]") -> None:
        """Show the parts of the work."""
        self.spans = spans
        self.setFixedHeight(ROW_PX * len(spans))
        said = "; ".join(f"{span.name} {write_seconds(span.seconds)}" for span in spans)
        self.setAccessibleName(said)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the bars, all to one scale."""
        most = max((span.seconds for span in self.spans), default=0.0)
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.setFont(font(SMALL))
            wide = self.width() - NAME_PX - TIME_PX
            middle, right = Qt.AlignmentFlag.AlignVCenter, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
            for row, span in enumerate(self.spans):
                y = row * ROW_PX
                painter.setPen(colour("ink"))
                painter.drawText(QRectF(0, y, NAME_PX - 8, ROW_PX), middle, span.name)
                painter.drawText(QRectF(self.width() - TIME_PX, y, TIME_PX, ROW_PX), right, write_seconds(span.seconds))
                painter.setPen(pen("ink", 0.8))
                painter.setBrush(colour("tape"))
                length = max(2.0, wide * span.seconds / most) if most else 0.0
                painter.drawRoundedRect(QRectF(NAME_PX, y + 5, length, ROW_PX - 10), 3, 3)
