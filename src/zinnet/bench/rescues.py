"""Rescues of a job whose film is short: each is a whole job that was nested and looked at, not only a proposal."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from decimal import Decimal

from zinnet.base.errors import ZinnetError
from zinnet.bench.document import Document
from zinnet.bench.nesting import nest_document
from zinnet.bench.ways_out import WayKind, WayOut, resized, ways_out
from zinnet.job.edits import Edit
from zinnet.nesting.model import Layout
from zinnet.plan.ledger import film_ledger
from zinnet.plan.model import Plan
from zinnet.plan.proof import key_of
from zinnet.shop.costing import Costing
from zinnet.shop.film_cost import film_costs
from zinnet.workshop.price_list import PriceList

NEST_S = 1.5
"""How long each film is nested for a rescue."""
LEAST_FACTOR, FINE_FACTOR = 0.5, 0.01
MINUTE_S = 60.0
Nest = Callable[[Document], None]
GoesOn = Callable[[], bool]


@dataclass(frozen=True, eq=False)
class Rescue:
    """A job that needs no more film than there is, and what it comes to.

    ``difference`` is how far a colour is from what it was (CIEDE2000), ``kept_mm2`` what goes back on the shelf,
    ``minutes`` of hands, ``film_cost`` what the film costs, ``said`` what changes. ``layouts`` are its nests.
    """

    kind: WayKind
    edit: Edit
    plan: Plan
    layouts: Mapping[str, Layout]
    difference: float | None
    kept_mm2: float
    minutes: float
    film_cost: Decimal
    said: tuple[str, ...]

    def keep_nests(self, document: Document) -> None:
        """Let a document know the nests that were made for it, before its edit is carried out."""
        for key, layout in self.layouts.items():
            document.keep_layout(key, layout)


def nested(document: Document) -> None:
    """Nest what a rescue changes, for a while."""
    nest_document(document, NEST_S)


def rescues(plan: Plan, prices: PriceList, *, nest: Nest = nested, goes_on: GoesOn = lambda: True) -> Iterator[Rescue]:
    """Yield the rescues of a job whose film is short, one after the other as they are found.

    Parameters
    ----------
    plan
        Nested on the shelf, with pieces that found no room.
    prices
        What things and hours cost.
    nest
        Nests what of a document is not nested yet.
    goes_on
        Asked before each; False ends the search.
    """
    for way in ways_out(plan):
        if not goes_on():
            return
        found = rescue_by(plan, way, prices, nest)
        if found is not None:
            yield found
    if goes_on() and any(one.layout is not None and one.layout.unplaced for one in plan.nests):
        found = _least_smaller(plan, prices, nest, goes_on)
        if found is not None:
            yield found


def rescue_by(plan: Plan, way: WayOut, prices: PriceList, nest: Nest = nested) -> Rescue | None:
    """Return the job that a change makes, where it is whole and nothing stops it that did not stop it before."""
    try:
        document = Document(plan.workshop, way.edit.change(plan.job), plan.layouts)
        nest(document)
    except ZinnetError:
        return None
    after = document.plan
    before = {key_of(one) for one in plan.open_stops if one.id != "film-short"}
    if not after.is_nested or any(one.layout is not None and one.layout.unplaced for one in after.nests):
        return None
    if any(key_of(one) not in before for one in after.open_stops):
        return None
    costing = Costing(after, prices)
    return Rescue(
        way.kind,
        way.edit,
        after,
        {key: layout for key, layout in after.layouts.items() if key not in plan.layouts},
        way.difference,
        film_ledger(after).kept_mm2,
        sum(stage.seconds for stage in costing.stages) / MINUTE_S,
        sum((one.amount for one in film_costs(after, prices)), Decimal(0)),
        (*way.said, *_new_findings(plan, after)),
    )


def _new_findings(plan: Plan, after: Plan) -> Iterator[str]:
    """Yield what it is warned of that was not warned of before."""
    known = {key_of(one) for one in plan.findings}
    for one in after.findings:
        if key_of(one) not in known and one.level == "warn":
            yield f"{one.title}: {one.measured}"


def _least_smaller(plan: Plan, prices: PriceList, nest: Nest, goes_on: GoesOn) -> Rescue | None:
    """Return the job at the largest size that was found to fit, by halving."""
    low, high, best = LEAST_FACTOR, 1.0, None
    factor = 0.9
    while high - low > FINE_FACTOR and goes_on():
        way = resized(plan, factor)
        if way is None:
            return None
        found = rescue_by(plan, way, prices, nest)
        if found is None:
            high = factor
        else:
            low, best = factor, found
        factor = (low + high) / 2
    return best
