"""What the page of an order shows, worked out beside the window."""

import datetime
from dataclasses import dataclass

from zinnet.costing import Costing
from zinnet.ordered import Bought, GarmentNeed, Ordered, Span, needs_table
from zinnet.plan import Plan
from zinnet.pricing.model import PriceList
from zinnet.pricing.sums import Priced
from zinnet.quote import Saving, savings


@dataclass(frozen=True)
class WorkedOut:
    """An order in rows and sentences. ``priced`` is None before the job is nested."""

    costing: Costing
    garments: tuple[GarmentNeed, ...]
    needs: tuple[tuple[str, str, str, str], ...]
    shopping: tuple[Bought, ...]
    spans: tuple[Span, ...]
    due: str
    remarks: tuple[str, ...]
    priced: Priced | None
    savings: tuple[Saving, ...]


def work_out(plan: Plan, prices: PriceList, today: datetime.date) -> WorkedOut:
    """Return all that is shown of an order."""
    ordered = Ordered(Costing(plan, prices))
    nested = plan.is_nested
    return WorkedOut(
        costing=ordered.costing,
        garments=ordered.garments,
        needs=tuple(needs_table(ordered)),
        shopping=ordered.shopping,
        spans=ordered.spans if nested else (),
        due=ordered.due_said(today) if nested else "The time is known once the pieces are nested.",
        remarks=ordered.remarks,
        priced=ordered.costing.priced if nested else None,
        savings=savings(ordered.costing) if nested else (),
    )
