"""The worked example of the guide to prices: ten tote bags with one rectangle, cut from a roll on the shelf."""

from decimal import Decimal

from tests.helpers import document_of, nested
from zinnet.job.edits import (
    set_blank,
    set_copies,
    set_nesting,
    set_placement,
)
from zinnet.workshop.price_list import usual_prices
from zinnet.workshop.stock import StockItem

BAR = '<rect width="100" height="50" fill="#f4ead5"/>'


def ten_bags():
    """Return the nested document of the example."""
    document = document_of(
        BAR,
        set_blank("tote", kind="tote", size="one", measured=()),
        set_placement("width", width_mm=100.0),
        set_copies(10),
        set_nesting("from the shelf", from_shelf=True),
    )
    roll = StockItem(number=1, film="cream", kind="roll", width_mm=305, length_mm=5000, price_m2=24.5)
    document.use_workshop(document.workshop.model_copy(update={"stock": (roll,)}))
    return nested(document)


def prices():
    """Return the prices of the example: the usual ones, with a mark-up of 50 % and a tax of 19 %."""
    return usual_prices().model_copy(update={"mark_up_percent": Decimal(50), "tax_percent": Decimal(19)})
