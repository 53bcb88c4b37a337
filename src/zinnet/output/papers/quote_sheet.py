"""The quote on paper: what the customer gets, for how much; nothing of what it costs."""

from zinnet.output.papers.pages import Paper
from zinnet.shop.costing import Costing


def quote_pdf(costing: Costing) -> bytes:
    """Return the quote of a job."""
    priced, money = costing.priced, costing.prices.currency
    sheet = Paper(f"Quote: {costing.facts.job.title}")
    sheet.head(f"Quote: {costing.facts.job.title}")
    if costing.not_whole:
        sheet.say(costing.not_whole)
    count = sum(line.count for line in costing.lines)
    films = ", ".join(nest.film.name for nest in costing.facts.nests)
    sheet.say(f"{count} garments; films: {films}.")
    sheet.table(
        ("What", "Count", f"Each, {money}", f"Together, {money}"),
        [(one.line.name, str(one.line.count), f"{one.price:.2f}", f"{one.total:.2f}") for one in priced.lines],
        widths=(290, 60, 80, 90),
    )
    sheet.room(6)
    sheet.table(
        ("", money),
        [
            ("Net", f"{priced.net:.2f}"),
            (f"Tax, {priced.tax_percent:f} %", f"{priced.tax:.2f}"),
            ("To pay", f"{priced.gross:.2f}"),
        ],
        widths=(430, 90),
    )
    return sheet.pdf()
