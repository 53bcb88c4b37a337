"""What the order costs: what goes into it, the rates that are taken, and what would lower the cost."""

from decimal import Decimal, InvalidOperation
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QGridLayout, QLineEdit, QVBoxLayout, QWidget

from zinnet.job.edits import set_price
from zinnet.ui.plain import Label, Wrapped, plain
from zinnet.ui.rows import make_table, show_rows
from zinnet.ui.theme import SMALL, font

if TYPE_CHECKING:
    from zinnet.shop.costing import Costing
    from zinnet.shop.sums import Priced
    from zinnet.ui.order.worked_out import WorkedOut
    from zinnet.ui.session import Session

FIELDS = (
    ("blank", "Cost per blank"),
    ("hour", "Hourly rate"),
    ("mark_up_percent", "Mark-up, %"),
    ("tax_percent", "Tax, %"),
)
COLUMNS = ("What", "Basis", "Amount")
MOST_SAVINGS = 3


class PricePanel(QWidget):
    """Cost and price of the order."""

    def __init__(self, session: "Session") -> None:
        super().__init__()
        self.session = session
        self.table = make_table("What it costs, and what it is sold for", COLUMNS, narrow=(2,), whole=True)
        self.total, self.cheaper = Wrapped(), Wrapped()
        self.cheaper.setFont(font(SMALL))
        self.cheaper.setProperty("quiet", True)
        self.fields: dict[str, QLineEdit] = {}
        grid = QGridLayout()
        grid.setColumnStretch(1, 1)
        grid.setColumnStretch(3, 1)
        for number, (name, said) in enumerate(FIELDS):
            field = QLineEdit()
            field.setAccessibleName(said)
            field.setToolTip(plain(f"{said}: for this job; empty for what the price list says"))
            field.editingFinished.connect(lambda name=name, said=said: self._take(name, said))
            label = Label(said)
            label.setProperty("quiet", True)
            label.setBuddy(field)
            row, place = divmod(number, 2)
            grid.addWidget(label, row, 2 * place)
            grid.addWidget(field, row, 2 * place + 1)
            self.fields[name] = field
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.table)
        column.addWidget(self.total)
        column.addLayout(grid)
        column.addWidget(self.cheaper)

    def show_price(self, found: "WorkedOut") -> None:
        """Show cost and price."""
        costing, priced = found.costing, found.priced
        self._show_fields(costing)
        self.table.setVisible(priced is not None)
        self.cheaper.setText("")
        if priced is None:
            self.total.setText("")
            return
        rows = [(item.name, item.basis, f"{item.amount:.2f}") for item in priced.items]
        show_rows(self.table, rows)
        said = _said(priced, costing.prices.currency)
        self.total.setText(f"{costing.not_whole} {said}" if costing.not_whole else said)
        self.cheaper.setText(
            "\n".join(f"Cheaper by {one.amount:.2f}: {one.said}." for one in found.savings[:MOST_SAVINGS])
        )

    def _show_fields(self, costing: "Costing") -> None:
        spec, prices = self.session.job.price, costing.prices
        usual = {
            "blank": prices.blank_price(self.session.job.blank.kind),
            "hour": prices.hour,
            "mark_up_percent": prices.mark_up_percent,
            "tax_percent": prices.tax_percent,
        }
        for name, field in self.fields.items():
            field.setPlaceholderText(f"{usual[name]:f}")
            if not field.hasFocus():
                asked = getattr(spec, name)
                field.setText("" if asked is None else f"{asked:f}")

    def _take(self, name: str, said: str) -> None:
        text = self.fields[name].text().strip().replace(",", ".")
        try:
            amount = Decimal(text) if text else None
        except InvalidOperation:
            amount = Decimal("NaN")
        if amount is not None and (not amount.is_finite() or amount < 0):
            self.session.said.emit(f"{said}: “{text}” is no amount; type it like 12.50.")
            return
        if getattr(self.session.job.price, name) != amount:
            self.session.apply(set_price(said.removesuffix(", %").lower(), **{name: amount}))


def _said(priced: "Priced", money: str) -> str:
    return f"Costs {priced.cost:.2f}, sold for {priced.net:.2f} {money}: {priced.profit:.2f} are left."
