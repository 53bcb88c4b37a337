"""The job: one frozen value that holds all that the user decided."""

from hashlib import sha256
from typing import Self

from pydantic import Field

from zinnet.blanks.model import BlankSpec, Measure
from zinnet.layers.assign import LayersSpec
from zinnet.model import Frozen
from zinnet.nesting.model import NestSpec
from zinnet.placement.as_laid import Readings
from zinnet.placement.place import PlacementSpec
from zinnet.units import Unit

SCHEMA = 2
MOST_DESIGNS = 40


class ArtworkFile(Frozen):
    """The original artwork, byte for byte; in a job file the bytes lie beside ``job.json``."""

    name: str
    sha256: str
    data: bytes = Field(repr=False, exclude=True)

    @classmethod
    def of(cls, name: str, data: bytes) -> Self:
        """Return the artwork file of these bytes."""
        return cls(name=name, sha256=sha256(data).hexdigest(), data=data)


class Design(Frozen):
    """One piece of artwork with its place on the blank."""

    artwork: ArtworkFile
    placement: PlacementSpec = PlacementSpec()


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


class LaidPiece(Frozen):
    """What the ruler said of a design that was laid on a garment; size None is the job's own."""

    design: int = Field(ge=0, lt=MOST_DESIGNS)
    size: str | None = None
    readings: Readings


class Override(Frozen):
    """The user's word that a finding may be passed, with the reason."""

    finding: str
    reason: str = Field(min_length=3)


class Job(Frozen):
    """Everything that the user decided; all else is derived from it."""

    schema_version: int = SCHEMA
    title: str = "Untitled"
    unit: Unit = "mm"
    blank: BlankSpec = BlankSpec()
    designs: tuple[Design, ...] = Field(default=(), max_length=MOST_DESIGNS)
    family: tuple[FamilyMember, ...] = ()
    layers: LayersSpec = LayersSpec()
    nesting: NestSpec = NestSpec()
    platen: str | None = None
    copies: int = Field(default=1, ge=1, le=1000)
    laid: tuple[LaidPiece, ...] = ()
    overrides: tuple[Override, ...] = ()

    def member(self, size: str | None) -> FamilyMember | None:
        """Return the family member of a size; None for the job's own size."""
        return next((member for member in self.family if member.size == size), None)
