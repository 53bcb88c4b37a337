"""The shopping list on paper."""

from collections.abc import Sequence
from decimal import Decimal

from zinnet.reports.pages import Sheet

Row = tuple[str, str, Decimal]


def shopping_pdf(title: str, rows: Sequence[Row], currency: str, said: str) -> bytes:
    """Return the list of (what, how much, about what it costs), each with a box to tick."""
    sheet = Sheet(f"{title}: to buy")
    sheet.head(f"To buy for: {title}")
    sheet.say(said)
    if not rows:
        sheet.say("Everything is there.")
        return sheet.pdf()
    sheet.table(
        ("What", "How much", f"About, {currency}"),
        [(what, amount, f"{cost:.2f}") for what, amount, cost in rows],
        widths=(200, 215, 90),
        ticks=True,
        right=(2,),
    )
    total = sum((cost for _, _, cost in rows), Decimal(0))
    sheet.say(f"About {total:.2f} {currency} in all.")
    return sheet.pdf()
