"""The job: one frozen value that holds all that the user decided."""

from hashlib import sha256
from typing import Self

from pydantic import Field

from zinnet.blanks.model import BlankSpec
from zinnet.layers.assign import LayersSpec
from zinnet.model import Frozen
from zinnet.nesting.model import NestSpec
from zinnet.placement.place import PlacementSpec
from zinnet.units import Unit

SCHEMA = 1


class ArtworkFile(Frozen):
    """The original artwork, byte for byte; in a job file the bytes lie beside ``job.json``."""

    name: str
    sha256: str
    data: bytes = Field(repr=False, exclude=True)

    @classmethod
    def of(cls, name: str, data: bytes) -> Self:
        """Return the artwork file of these bytes."""
        return cls(name=name, sha256=sha256(data).hexdigest(), data=data)


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
    artwork: ArtworkFile | None = None
    placement: PlacementSpec = PlacementSpec()
    layers: LayersSpec = LayersSpec()
    nesting: NestSpec = NestSpec()
    copies: int = Field(default=1, ge=1, le=1000)
    overrides: tuple[Override, ...] = ()
