"""The shopping list, on paper and as CSV."""

from collections.abc import Sequence
from decimal import Decimal

from zinnet.base.csv_text import written_csv
from zinnet.output.papers.pages import Paper
from zinnet.shop.ordered import Bought


def shopping_csv(rows: Sequence[Bought], currency: str) -> str:
    """Return the list as CSV."""
    head = ("what", "how much", f"about, {currency}")
    return written_csv([head, *((one.what, one.amount, one.cost) for one in rows)])


def shopping_pdf(title: str, rows: Sequence[Bought], currency: str, said: str) -> bytes:
    """Return the list on paper, each line with a box to tick."""
    sheet = Paper(f"{title}: to buy")
    sheet.head(f"To buy for: {title}")
    sheet.say(said)
    if not rows:
        sheet.say("Everything is there.")
        return sheet.pdf()
    sheet.table(
        ("What", "How much", f"About, {currency}"),
        [(one.what, one.amount, f"{one.cost:.2f}") for one in rows],
        widths=(200, 215, 90),
        ticks=True,
        right=(2,),
    )
    total = sum((one.cost for one in rows), Decimal(0))
    sheet.say(f"About {total:.2f} {currency} in all.")
    return sheet.pdf()
