"""What the page of an order shows, worked out beside the window."""

import datetime
from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING

from zinnet.shop.costing import Costing
from zinnet.shop.ordered import (
    Bought,
    GarmentNeed,
    Ordered,
    Span,
    needs_table,
)
from zinnet.shop.quote import Saving, savings

if TYPE_CHECKING:
    from zinnet.plan.model import Plan
    from zinnet.shop.sums import Priced
    from zinnet.workshop.price_list import PriceList

NOT_NESTED = "Time and price are known once the pieces are nested."
WORKING = "Time and price are being worked out ..."


@dataclass(frozen=True)
class WorkedOut:
    """An order in rows and sentences. ``priced`` is None before the job is nested, and while it is worked out."""

    costing: Costing
    garments: tuple[GarmentNeed, ...]
    needs: tuple[tuple[str, str, str, str], ...]
    shopping: tuple[Bought, ...]
    spans: tuple[Span, ...]
    due: str
    remarks: tuple[str, ...]
    priced: "Priced | None"
    savings: tuple[Saving, ...]


def work_out(plan: "Plan", prices: Callable[[], "PriceList"], today: datetime.date, *, timed: bool) -> WorkedOut:
    """Return all that is shown of an order; what takes long, times and prices, only where ``timed`` asks for it."""
    ordered = Ordered(Costing(plan, prices()))
    nested = plan.is_nested and timed
    waiting = WORKING if plan.is_nested else NOT_NESTED
    return WorkedOut(
        costing=ordered.costing,
        garments=ordered.garments,
        needs=tuple(needs_table(ordered)),
        shopping=ordered.shopping,
        spans=ordered.spans if nested else (),
        due=ordered.due_said(today) if nested else waiting,
        remarks=ordered.remarks,
        priced=ordered.costing.priced if nested else None,
        savings=savings(ordered.costing) if nested else (),
    )
