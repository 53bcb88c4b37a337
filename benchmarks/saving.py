"""Film and money saved by cutting layers apart where Zinnet proposes it, against the same layers cut whole."""

import math
import statistics
import sys
from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal

import numpy as np
import shapely

from benchmarks.saved_designs import SavedDesign, designs
from tests.placement.test_lay_lengths import laid_by
from zinnet.base.units import read_length, write_length
from zinnet.bench.document import Document
from zinnet.bench.nesting import nest_document
from zinnet.geometry.region import union
from zinnet.job.edits import set_nesting
from zinnet.job.model import Design, Job
from zinnet.nesting.model import NestSpec
from zinnet.placement.lay_lengths import laying_of
from zinnet.placement.place import PlacementSpec
from zinnet.plan.ledger import film_ledger
from zinnet.plan.model import Facts
from zinnet.shop.film_cost import film_costs
from zinnet.workshop.model import standard_workshop

SECONDS = 2.0
MANY = (1, 12)
HOUR_S = 3600


@dataclass(frozen=True)
class Saved:
    """One design for so many garments: film and cost (film and the time of laying), whole and as proposed."""

    design: SavedDesign
    copies: int
    films: int
    parted: bool
    whole_mm2: float
    proposed_mm2: float
    whole_cost: float
    proposed_cost: float

    @property
    def film(self) -> float:
        """The film as a share of what whole layers take."""
        return self.proposed_mm2 / self.whole_mm2

    @property
    def counts(self) -> bool:
        """Whether it is of three films, or of scattered parts."""
        return self.films >= 3 or self.design.kind == "scattered"


def document_of(design: SavedDesign, copies: int) -> Document:
    """Return a job of a design for so many tees."""
    job = Job(
        title=design.name,
        designs=(Design(source=design.source, placement=PlacementSpec(width_mm=design.width_mm)),),
        nesting=NestSpec(seconds=SECONDS, mat="12x24in"),
        copies=copies,
    )
    return Document(standard_workshop(), job)


def cost_of(plan: Facts) -> float:
    """Return what film and the time of laying cost by the workshop's rates."""
    prices = plan.workshop.prices
    film = sum((one.amount for one in film_costs(plan, prices)), Decimal(0))
    laid = sum(
        press.garment.copies * step.seconds for press in plan.presses for step in press.steps if step.kind == "lay"
    )
    return float(film) + laid / HOUR_S * float(prices.hour)


def measure(design: SavedDesign, copies: int) -> Saved:
    """Return what a design takes whole and as proposed, in equal time."""
    document = document_of(design, copies)
    proposed, cost, parted = _nested(document)
    if parted:
        document.apply(set_nesting("whole", cut_apart="whole"))
        whole, whole_cost, _ = _nested(document)
    else:
        whole, whole_cost = proposed, cost
    return Saved(design, copies, len(document.plan.nests), parted, whole, proposed, whole_cost, cost)


def _nested(document: Document) -> tuple[float, float, bool]:
    nest_document(document, SECONDS)
    plan = document.plan
    assert all(nest.layout is not None and not nest.layout.unplaced for nest in plan.nests)
    return film_ledger(plan).taken_mm2, cost_of(plan), bool(plan.garments[0].apart)


def torn(design: SavedDesign, plan: Facts) -> Iterator[str]:
    """Yield what of a design was parted that belongs together: what lies in a counter of something else."""
    for nest in plan.nests:
        for part in nest.parts:
            for other in nest.parts:
                if part is other or part.layer is not other.layer:
                    continue
                filled = shapely.union_all([shapely.Polygon(one.exterior) for one in part.region.geoms])
                if filled.contains(other.region.representative_point()):
                    yield f"{design.name}: {other.name} lies in {part.name}"


def laid_off_mm(plan: Facts) -> float:
    """Return how far the worst piece lies off when it is laid by its card's four lengths, by a solver of its own."""
    worst = 0.0
    (press,) = plan.presses
    placed = press.garment.designs[0].placement
    assert placed is not None
    for work in press.works:
        pressed: list[shapely.MultiPolygon] = []
        for piece in work.pieces:
            for region in piece.each:
                film = union(pressed) if pressed else None
                laying = laying_of(region, work.panel, placed.reference, film)
                numbers = [math.copysign(read_length(write_length(abs(one.mm))), one.mm) for one in laying.lengths]
                box = region.bounds
                middle = np.array([(box[0] + box[2]) / 2, (box[1] + box[3]) / 2])
                off = laid_by(laying, numbers, middle, work.panel.region, placed.reference[1], film, [2.0, -2.0, 0.01])
                worst = max(worst, math.hypot(off[0], off[1]))
                pressed.append(region)
    return worst


def run() -> None:
    """Saving: film and cost of sixty designs cut apart as proposed, against whole layers, for 1 and 12 garments."""
    named = [word for word in sys.argv[1:] if "-" in word and not word.startswith("--")]
    found: list[Saved] = []
    worst = 0.0
    for design in designs():
        if named and design.name not in named:
            continue
        for copies in MANY:
            one = measure(design, copies)
            found.append(one)
            document = document_of(design, copies)
            for said in torn(design, document.plan):
                print("TORN", said)
            off = laid_off_mm(document.plan) if one.parted else 0.0
            worst = max(worst, off)
            print(
                f"{design.name:<20} {copies:>2} garments {one.films} films {'apart' if one.parted else 'whole'}  film "
                f"{one.whole_mm2 / 100:6.0f} -> {one.proposed_mm2 / 100:6.0f} cm2 {one.film:.2f}  cost "
                f"{one.whole_cost:6.2f} -> {one.proposed_cost:6.2f} {one.proposed_cost / one.whole_cost:.2f}  "
                f"laid within {off:.2f} mm",
                flush=True,
            )
    counted = [one.film for one in found if one.counts]
    if counted:
        print(f"three films or scattered: film at the median {statistics.median(counted):.2f} of whole layers")
    print(f"all: film at the median {statistics.median(one.film for one in found):.2f} of whole layers")
    dearer = [one.design.name for one in found if one.proposed_cost > one.whole_cost + 0.005]
    print(f"dearer in all: {', '.join(dearer) or 'none'}; worst laid {worst:.2f} mm off")
