"""The job: one frozen value that holds all that the user decided."""

from typing import Annotated, Self

from pydantic import Field

from zinnet.artwork.source import Source, source_of
from zinnet.base.frozen import Frozen
from zinnet.base.units import Unit
from zinnet.base.words import has_words
from zinnet.blanks.model import BlankSpec, Measure
from zinnet.cutting.spec import CutSpec
from zinnet.job.names.model import NameList
from zinnet.job.order import Order, OrderLine
from zinnet.job.price import PriceSpec
from zinnet.layers.spec import LayersSpec
from zinnet.nesting.model import NestSpec
from zinnet.placement.as_laid import Readings
from zinnet.placement.place import PlacementSpec
from zinnet.pressing.spec import PressSpec
from zinnet.steps.model import Step
from zinnet.workshop.stock import StockItem

SCHEMA = 17
MOST_DESIGNS = 40
MOST_STEPS = 60
MOST_GROUPS = 5
MOST_KEPT = 100
GroupName = Annotated[str, Field(min_length=1, max_length=60)]


class Design(Frozen):
    """One piece of artwork: where it comes from, what is done to it, and its place on the blank.

    ``group`` names the groups that it is in, the outermost first.
    """

    source: Source
    steps: tuple[Step, ...] = Field(default=(), max_length=MOST_STEPS)
    placement: PlacementSpec = PlacementSpec()
    group: tuple[GroupName, ...] = Field(default=(), max_length=MOST_GROUPS)

    @classmethod
    def of(cls, name: str, data: bytes, placement: PlacementSpec | None = None) -> Self:
        """Return the design of a file: a drawing, or a picture to be traced."""
        return cls(source=source_of(name, data), placement=placement or PlacementSpec())


class SetApart(Frozen):
    """The placement of one design on one size that does not follow the others."""

    design: int = Field(ge=0, lt=MOST_DESIGNS)
    placement: PlacementSpec


class FamilyMember(Frozen):
    """The same designs on the same kind of blank in another size."""

    size: str
    copies: int = Field(default=1, ge=1, le=1000)
    measured: tuple[Measure, ...] = ()
    apart: tuple[SetApart, ...] = ()

    def apart_for(self, design: int) -> PlacementSpec | None:
        """Return the placement of a design that was set apart, if it was."""
        return next((one.placement for one in self.apart if one.design == design), None)


class Kept(Frozen):
    """What was typed of a kind of blank; it stays while another kind is on the table, or a size is not made.

    ``sizes`` has what was measured on each and set apart for it, ``lines`` what was asked for when the kind was left;
    nobody typed those that were only ``carried`` over from another kind.
    """

    blank: BlankSpec
    sizes: tuple[FamilyMember, ...] = ()
    lines: tuple[OrderLine, ...] = ()
    carried: bool = False

    def member(self, size: str) -> FamilyMember | None:
        """Return what is known of a size."""
        return next((member for member in self.sizes if member.size == size), None)


class LaidPiece(Frozen):
    """What the ruler said of a design that was laid on a garment; size None is the job's own."""

    design: int = Field(ge=0, lt=MOST_DESIGNS)
    size: str | None = None
    readings: Readings


class Weeded(Frozen):
    """The waste of a layer that is out already, by points in it in shares of the design's width."""

    design: int = Field(ge=0, lt=MOST_DESIGNS)
    layer: str
    spots: tuple[tuple[float, float], ...] = Field(default=(), max_length=20_000)


class CutRecord(Frozen):
    """That the job was cut from the shelf: the cut's number in the workshop, and the film as it was before."""

    number: int = Field(ge=1)
    items: tuple[StockItem, ...]


class Miscut(Frozen):
    """Film that went for a piece which was cut again, in mm2."""

    film: str
    taken_mm2: float = Field(ge=0)


class Override(Frozen):
    """The user's word that a finding may be passed, with the reason; about one ``subject``, or whatever it is about."""

    finding: str
    reason: str = Field(min_length=3)
    subject: str | None = None

    def passes(self, finding: str, subject: str | None) -> bool:
        """Tell whether the word is about a finding, and a word at all."""
        return self.finding == finding and self.subject in (None, subject) and has_words(self.reason)


class Job(Frozen):
    """Everything that the user decided; all else is derived from it."""

    schema_version: int = SCHEMA
    from_schema: int | None = Field(default=None, ge=1, exclude=True)
    """The schema in which it was last saved, where that is an older one; it is not written."""
    title: str = "Untitled"
    unit: Unit = "mm"
    blank: BlankSpec = BlankSpec()
    designs: tuple[Design, ...] = Field(default=(), max_length=MOST_DESIGNS)
    family: tuple[FamilyMember, ...] = ()
    names: NameList = NameList()
    layers: LayersSpec = LayersSpec()
    nesting: NestSpec = NestSpec()
    cutting: CutSpec = CutSpec()
    pressing: PressSpec = PressSpec()
    price: PriceSpec = PriceSpec()
    order: Order = Order()
    cut: CutRecord | None = None
    miscuts: tuple[Miscut, ...] = Field(default=(), max_length=10_000)
    platen: str | None = None
    copies: int = Field(default=1, ge=1, le=1000)
    laid: tuple[LaidPiece, ...] = ()
    weeded: tuple[Weeded, ...] = ()
    overrides: tuple[Override, ...] = ()
    kept: tuple[Kept, ...] = Field(default=(), max_length=MOST_KEPT)

    def weeded_spots(self, design: int, layer: str) -> tuple[tuple[float, float], ...]:
        """Return the points in the waste of a layer that is out already."""
        return next((one.spots for one in self.weeded if (one.design, one.layer) == (design, layer)), ())

    def member(self, size: str | None) -> FamilyMember | None:
        """Return the family member of a size; None for the job's own size."""
        return next((member for member in self.family if member.size == size), None)
