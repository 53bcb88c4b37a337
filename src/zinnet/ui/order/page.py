"""The page of the order: the sheet for the customer at the left, what only the workshop sees at the right."""

import datetime
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import (
    QBoxLayout,
    QFileDialog,
    QHBoxLayout,
    QInputDialog,
    QLabel,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from zinnet.output.papers.quote_sheet import quote_pdf
from zinnet.output.papers.shopping_list import shopping_csv, shopping_pdf
from zinnet.shop.quote import quote_csv
from zinnet.ui.card_page import CardPage
from zinnet.ui.language import tr
from zinnet.ui.order.price import PricePanel
from zinnet.ui.order.sheet import OrderSheet
from zinnet.ui.order.time import TimePanel
from zinnet.ui.order.worked_out import WorkedOut, work_out
from zinnet.ui.plain import Label
from zinnet.ui.rows import make_button, make_table, show_rows
from zinnet.ui.theme import PLAIN, font
from zinnet.workshop.blank_stock import BlankItem, BlankStock
from zinnet.workshop.prices import read_prices

if TYPE_CHECKING:
    from zinnet.shop.ordered import GarmentNeed
    from zinnet.ui.session import Session

NEEDS = ("What", "Needed", "In stock", "To buy")
BESIDE_PX = 760
"""So wide the page has room for both beside one another."""
LIST_FILTER = "Lists (*.pdf *.csv)"


class OrderPage(CardPage):
    """The order of the job on the table."""

    card_asked = Signal()

    def __init__(self, session: "Session") -> None:
        super().__init__("Order and price")
        self.session = session
        self.found: WorkedOut | None = None
        self.sheet = OrderSheet(session)
        self.needs = make_table("What it needs, and what is there", NEEDS, narrow=(1, 2), whole=True)
        self.needs.setToolTip(tr("Return or a double click on a garment says how many are there"))
        self.needs.itemActivated.connect(lambda item: self.ask_there(item.row()))
        self.time = TimePanel(session)
        self.price = PricePanel(session)
        self.card = make_button("Job card ...", "Counts, colours, for whom and until when (F7)", self.card_asked.emit)
        self.buy = make_button("Shopping list ...", "Write what is to be bought, as PDF or CSV", self.choose_shopping)
        self.quote = make_button("Quote ...", "Write what the customer pays, as PDF or CSV", self.choose_quote)
        self._lay_out()
        session.plan_changed.connect(self.follow)

    def _lay_out(self) -> None:
        """Lay the sheet for the customer at the left, or above, and what only the workshop sees beside it."""
        shop = QVBoxLayout()
        for widget in (
            _head("Time"),
            self.time,
            _head("Needed, in stock"),
            self.needs,
            _head("Costs"),
            self.price,
        ):
            shop.addWidget(widget)
        shop.addStretch(1)
        holder = QWidget()
        holder.setProperty("holder", True)
        self._body = QBoxLayout(QBoxLayout.Direction.LeftToRight, holder)
        self._body.setContentsMargins(0, 0, 8, 0)
        self._body.setSpacing(18)
        self._body.addWidget(self.sheet, 1)
        self._body.addLayout(shop, 1)
        area = QScrollArea()
        area.setWidgetResizable(True)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setAccessibleName(tr("The order, as the customer sees it, and what only the workshop sees"))
        area.viewport().setAutoFillBackground(False)
        area.setWidget(holder)
        row = QHBoxLayout()
        row.setSpacing(8)
        for button in (self.quote, self.card, self.buy):
            row.addWidget(button)
        row.addStretch(1)
        self.column.setContentsMargins(18, 46, 18, 14)
        self.column.addWidget(area, 1)
        self.column.addLayout(row)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Put the workshop's part below the sheet where there is no room beside it."""
        super().resizeEvent(event)
        way = QBoxLayout.Direction.LeftToRight if self.width() >= BESIDE_PX else QBoxLayout.Direction.TopToBottom
        self._body.setDirection(way)

    # showing it

    def look(self) -> object:
        """Return what the page depends on."""
        plan = self.session.plan
        return plan.job, plan.mats, self.session.workshop.garments, self.session.workshop.stock

    def show_plan(self) -> None:
        """Work the order out beside the window, then show it; what has changed meanwhile is worked out again."""
        plan, today = self.session.plan, datetime.date.today()
        self.sheet.show_order()

        def show(found: WorkedOut) -> None:
            if plan is self.session.plan:
                self._show(found)

        for timed in (False, True):
            self.session.background.run(
                partial(work_out, plan, read_prices, today, timed=timed),
                show,
                lambda error: self.session.said.emit(str(error)),
            )

    def _show(self, found: WorkedOut) -> None:
        self.found = found
        self.note.setText(" ".join(found.remarks) or "Counts, sizes and colours are those of the job card.")
        show_rows(self.needs, found.needs)
        self.time.show_times(found)
        self.sheet.show_price(found.priced, found.costing.prices.currency, found.due)
        self.price.show_price(found)
        self.quote.setEnabled(found.priced is not None)

    # what is there

    def ask_there(self, row: int) -> None:
        """Ask how many of the garments of a row are there."""
        need = self._garment(row)
        if need is None:
            return
        count, given = QInputDialog.getInt(self, need.in_words, "How many are there?", need.there, 0, 100_000)
        if given:
            self.say_there(row, count)

    def say_there(self, row: int, count: int) -> None:
        """Write down how many of the garments of a row are there."""
        need = self._garment(row)
        if need is not None:
            line = need.line
            item = BlankItem(kind=need.kind, size=line.size, colour=line.colour, name=line.name, count=count)
            self.session.books.use(lambda store: BlankStock(store).put(item))

    def _garment(self, row: int) -> "GarmentNeed | None":
        known = () if self.found is None else self.found.garments
        return known[row] if 0 <= row < len(known) else None

    # papers

    def choose_shopping(self) -> None:
        """Ask where to write the shopping list."""
        name, _ = QFileDialog.getSaveFileName(self, "The shopping list", "to-buy.pdf", LIST_FILTER)
        if name:
            self.write_shopping(Path(name))

    def write_shopping(self, path: Path) -> None:
        """Write the shopping list beside the window."""
        found = self.found
        if found is None:
            return
        title, money, as_csv = self.session.job.title, found.costing.prices.currency, path.suffix.lower() == ".csv"

        def make() -> bytes:
            if as_csv:
                return shopping_csv(found.shopping, money).encode()
            return shopping_pdf(title, found.shopping, money, found.due)

        self.session.exporter.write_file(path, make, f"The shopping list is in {path}.")

    def choose_quote(self) -> None:
        """Ask where to write the quote."""
        name, _ = QFileDialog.getSaveFileName(self, "The quote", "quote.pdf", LIST_FILTER)
        if name:
            self.write_quote(Path(name))

    def write_quote(self, path: Path) -> None:
        """Write the quote beside the window."""
        if self.found is None:
            return
        costing, as_csv = self.found.costing, path.suffix.lower() == ".csv"
        self.session.exporter.write_file(
            path,
            lambda: quote_csv(costing).encode() if as_csv else quote_pdf(costing),
            f"The quote is in {path}.",
        )


def _head(text: str) -> QLabel:
    head = Label(tr(text))
    head.setFont(font(PLAIN, bold=True))
    return head
