"""The price of one job: what the user asks for besides the price list."""

from zinnet.base.frozen import Frozen
from zinnet.workshop.price_list import Money, Percent


class PriceSpec(Frozen):
    """What the user asks for in one job; None where the price list holds."""

    blank: Money | None = None
    hour: Money | None = None
    mark_up_percent: Percent | None = None
    tax_percent: Percent | None = None
    misprint_percent: Percent | None = None
