"""The order as a sheet for the customer: what it is, for whom, in which colours and sizes, and what is to be paid."""

from collections.abc import Sequence
from typing import TYPE_CHECKING

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QPixmap, QResizeEvent
from PySide6.QtWidgets import QFrame, QGridLayout, QHBoxLayout, QVBoxLayout, QWidget

from zinnet.blanks.catalogue import sizes
from zinnet.blanks.cloth_colours import colour_called
from zinnet.job.asked import asked
from zinnet.ui.card.cloth import swatch
from zinnet.ui.garment import small_picture
from zinnet.ui.plain import Label, Wrapped, plain
from zinnet.ui.rows import make_table, show_rows
from zinnet.ui.theme import LARGE, PLAIN, font

if TYPE_CHECKING:
    from zinnet.job.model import Job
    from zinnet.job.order import OrderLine
    from zinnet.shop.sums import Priced
    from zinnet.ui.session import Session

COLUMNS = ("What", "Count", "Each", "Together")
PICTURE_PX, SMALL_PX, CHIP_PX = 150, 64, 16
ROOMY_PX = 340
WAITING = "What is to be paid is known once the pieces are nested."


class OrderSheet(QFrame):
    """What the customer sees."""

    def __init__(self, session: "Session") -> None:
        super().__init__()
        self.session = session
        self.setProperty("card", "light")
        self.title, self.whom = Wrapped(), Wrapped()
        self.title.setFont(font(LARGE, bold=True))
        self.picture = Label()
        self._picture = QPixmap()
        self.picture.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignTop)
        self._colours = QWidget()
        self._grid = QGridLayout(self._colours)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setHorizontalSpacing(8)
        self._grid.setColumnStretch(2, 1)
        self.lines = make_table("What is to be paid", COLUMNS, narrow=(1, 2, 3), whole=True)
        self.sums = Wrapped()
        self.sums.setFont(font(PLAIN, bold=True))
        self.sums.setAlignment(Qt.AlignmentFlag.AlignRight)
        texts = QVBoxLayout()
        texts.addWidget(self.title)
        texts.addWidget(self.whom)
        texts.addSpacing(6)
        texts.addWidget(self._colours)
        texts.addStretch(1)
        top = QHBoxLayout()
        top.addLayout(texts, 1)
        top.addWidget(self.picture)
        column = QVBoxLayout(self)
        column.setContentsMargins(20, 16, 20, 16)
        column.setSpacing(10)
        column.addLayout(top)
        column.addWidget(self.lines)
        column.addWidget(self.sums)
        column.addStretch(1)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Leave the room to the words where there is little."""
        super().resizeEvent(event)
        self._show_picture()

    def _show_picture(self) -> None:
        side = PICTURE_PX if self.width() >= ROOMY_PX else SMALL_PX
        if not self._picture.isNull():
            shown = self._picture.scaled(
                QSize(side, side) * self.devicePixelRatioF(),
                Qt.AspectRatioMode.KeepAspectRatio,
                Qt.TransformationMode.SmoothTransformation,
            )
            shown.setDevicePixelRatio(self.devicePixelRatioF())
            self.picture.setPixmap(shown)

    def show_order(self) -> None:
        """Show what was asked for."""
        job = self.session.job
        self.title.setText(job.title)
        self.whom.setText(_whom(job))
        whole = round(PICTURE_PX * self.devicePixelRatioF())
        self._picture.loadFromData(small_picture(self.session.plan.garments[0], whole))
        self._show_picture()
        self._show_colours(asked(job))

    def _show_colours(self, lines: "Sequence[OrderLine]") -> None:
        """Show each colour of cloth with how many of which size."""
        while self._grid.count():
            item = self._grid.takeAt(0)
            widget = item.widget() if item is not None else None
            if widget is not None:
                widget.setParent(None)
                widget.deleteLater()
        for row, (colour, called, said) in enumerate(by_colour(lines)):
            chip, name, counts = Label(), Label(called), Wrapped()
            chip.setPixmap(swatch(colour).pixmap(QSize(CHIP_PX, CHIP_PX)))
            chip.setToolTip(plain(f"{called} ({colour})"))
            counts.setText(said)
            for place, widget in enumerate((chip, name, counts)):
                self._grid.addWidget(widget, row, place, Qt.AlignmentFlag.AlignTop)

    def show_price(self, priced: "Priced | None", money: str, waiting: str) -> None:
        """Show what is to be paid."""
        self.lines.setVisible(priced is not None)
        if priced is None:
            self.sums.setText(waiting)
            return
        rows = [(one.line.name, str(one.line.count), f"{one.price:.2f}", f"{one.total:.2f}") for one in priced.lines]
        show_rows(self.lines, rows)
        tax = f"Tax, {priced.tax_percent:f} %: {priced.tax:.2f}\n" if priced.tax else ""
        net = f"Net: {priced.net:.2f}\n" if priced.tax else ""
        self.sums.setText(f"{net}{tax}To pay: {priced.gross:.2f} {money}")


def by_colour(lines: "Sequence[OrderLine]") -> list[tuple[str, str, str]]:
    """Return each colour of an order with its name and, in words, how many of which size."""
    found: dict[tuple[str, str], list[tuple[int, str]]] = {}
    for line in lines:
        key = (line.colour, line.name or colour_called(line.colour))
        found.setdefault(key, []).append((line.count, sizes()[line.size].name))
    several = len({line.size for line in lines}) > 1
    return [
        (colour, called, ", ".join(f"{count} {size}" if several else str(count) for count, size in counts))
        for (colour, called), counts in found.items()
    ]


def _whom(job: "Job") -> str:
    due = f"due {job.order.due:%-d %B %Y}" if job.order.due else "no due date yet"
    return f"For {job.order.customer}, {due}." if job.order.customer else f"{due[0].upper()}{due[1:]}."
