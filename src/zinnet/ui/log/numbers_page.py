"""What the log says: waste and minutes for each month as bars, and how each film and setting did."""

from collections.abc import Sequence
from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QHBoxLayout, QTableWidgetItem, QVBoxLayout, QWidget

from zinnet.base.units import write_area
from zinnet.pressing.pace import pace_cells, paces_of
from zinnet.ui.card_page import CardPage
from zinnet.ui.drawing import pen
from zinnet.ui.plain import plain
from zinnet.ui.rows import make_table
from zinnet.ui.theme import SMALL, colour, font
from zinnet.workshop.made import film_records, hand_times, months

if TYPE_CHECKING:
    from zinnet.ui.session import Session

COLUMNS = ("Film", "Setting", "Good", "Garments", "Lost")
PACE_COLUMNS = ("By hand", "Usual", "Here", "Half", "Cards")
PACE_TIP = (
    "The median of what the bench measured; half of all cards lie in the span. Plans go by it: it is usual until five "
    "cards of a kind are known."
)
MOST_MONTHS = 12
LEFT, FOOT, TOP = 12, 22, 34
MOST_BAR = 46


class Bars(QWidget):
    """A row of bars with a title, each with its name below and its value above."""

    def __init__(self, title: str) -> None:
        super().__init__()
        self.title = title
        self.rows: list[tuple[str, float | None, str]] = []
        self.setMinimumSize(QSize(230, 190))
        self.setAccessibleName(title)

    def show_rows(self, rows: Sequence[tuple[str, float | None, str]]) -> None:
        """Show bars: name, value, and the value in words; None where it is not known."""
        self.rows = list(rows)
        said = "; ".join(f"{name}: {words}" for name, _, words in rows)
        self.setAccessibleDescription(said)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw it."""
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.setPen(colour("ink"))
            painter.setFont(font(SMALL, bold=True))
            painter.drawText(QRectF(LEFT, 0, self.width() - LEFT, 20), Qt.AlignmentFlag.AlignVCenter, self.title)
            painter.setFont(font(SMALL))
            most = max((value or 0.0 for _, value, _ in self.rows), default=0.0)
            base = self.height() - FOOT
            painter.setPen(pen("card_line", 1))
            painter.drawLine(QPointF(LEFT, base), QPointF(self.width() - 6, base))
            each = (self.width() - LEFT - 6) / max(1, len(self.rows))
            for number, (name, value, words) in enumerate(self.rows):
                middle = LEFT + (number + 0.5) * each
                high = 0.0 if not value or not most else (base - TOP - 16) * value / most
                bar = QRectF(middle - min(MOST_BAR, each * 0.7) / 2, base - high, min(MOST_BAR, each * 0.7), high)
                painter.fillRect(bar, colour("accent" if number == len(self.rows) - 1 else "quiet_ink"))
                painter.setPen(colour("ink"))
                for at, text in ((base - high - 16, words), (base + 3, name)):
                    painter.drawText(QRectF(middle - each / 2, at, each, 16), Qt.AlignmentFlag.AlignHCenter, text)


class NumbersPage(CardPage):
    """The plots and the table of films."""

    def __init__(self, session: "Session") -> None:
        super().__init__("What the log says")
        self.session = session
        self.waste, self.minutes = Bars("Film thrown away"), Bars("Minutes for a garment")
        self.table = make_table("How each film and setting did", COLUMNS)
        self.paces = make_table("One's own pace at the press", PACE_COLUMNS, (1, 2, 3, 4))
        plots = QHBoxLayout()
        plots.addWidget(self.waste)
        plots.addWidget(self.minutes)
        body = QVBoxLayout()
        body.addLayout(plots, 2)
        tables = QHBoxLayout()
        tables.addWidget(self.table, 1)
        tables.addWidget(self.paces, 1)
        body.addLayout(tables, 3)
        self.column.addLayout(body, 1)
        session.plan_changed.connect(self.follow)

    def look(self) -> object:
        """Return what the page depends on."""
        return self.session.workshop.made, self.session.job.unit

    def show_plan(self) -> None:
        """Draw the months, and fill the table."""
        made, unit = self.session.workshop.made, self.session.job.unit
        rows = months(made)[-MOST_MONTHS:]
        self.note.setText(
            "By month, the last one in red; a film with its setting, over the jobs that have a verdict."
            if made
            else "Nothing is written down yet; with the first jobs in the log their numbers show here."
        )
        self.waste.show_rows([(row.month, row.waste_mm2, write_area(row.waste_mm2, unit=unit)) for row in rows])
        self.minutes.show_rows(
            [
                (row.month, row.minutes_each, "" if row.minutes_each is None else f"{row.minutes_each:.0f} min")
                for row in rows
            ]
        )
        films = film_records(made)
        self.table.setRowCount(len(films))
        for number, one in enumerate(films):
            name = film.name if (film := self.session.workshop.film(one.film)) is not None else one.film
            cells = (name, one.setting, f"{one.good} of {one.jobs}", str(one.garments), str(one.spoiled))
            for column, text in enumerate(cells):
                self.table.setItem(number, column, QTableWidgetItem(text))
        paces = paces_of(hand_times(made))
        self.paces.setRowCount(len(paces))
        for number, pace in enumerate(paces):
            for column, text in enumerate(pace_cells(pace)):
                item = QTableWidgetItem(text)
                item.setToolTip(plain(PACE_TIP))
                self.paces.setItem(number, column, item)
