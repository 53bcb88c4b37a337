"""The facts of a job and its plan: what every stage of the work made, side by side."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from zinnet.blanks.model import Blank
from zinnet.geometry.transform import Matrix
from zinnet.job.model import Job
from zinnet.nesting.model import Layout
from zinnet.plan.cut_parts import CutPart
from zinnet.plan.findings.model import Finding
from zinnet.plan.fitted import FittedDesign, Garment
from zinnet.plan.loading import Cutting, LoadedMat
from zinnet.plan.named import NamedGarment
from zinnet.plan.nests import FilmNest, NestedMat
from zinnet.plan.parted import FilmWays
from zinnet.plan.presses import GarmentPress
from zinnet.plan.trims import Trim
from zinnet.workshop.model import Workshop
from zinnet.workshop.stock import StockItem


@dataclass(frozen=True, eq=False, kw_only=True)
class Facts:
    """What every stage of one job made, nothing judged yet. What can't be known yet is empty.

    ``garments`` are the sizes, the job's own first; ``shelf`` is the film that the job is cut from; ``ways`` are those
    in which each film can be cut apart, ``trials`` what is nested only to choose among them. ``ahead`` is set where
    only a look ahead is asked for: mends that must be tried are left out.
    """

    job: Job
    workshop: Workshop
    garments: tuple[Garment, ...]
    named: tuple[NamedGarment, ...] = ()
    shelf: tuple[StockItem, ...] = ()
    ways: tuple[FilmWays, ...] = ()
    nests: tuple[FilmNest, ...] = ()
    trials: tuple[FilmNest, ...] = ()
    mats: tuple[NestedMat, ...] = ()
    trims: tuple[Trim, ...] = ()
    cutting: Cutting
    loads: tuple[LoadedMat, ...] = ()
    presses: tuple[GarmentPress, ...] = ()
    ahead: bool = False

    @property
    def is_nested(self) -> bool:
        """Whether every film's pieces have their nest."""
        return bool(self.nests) and all(nest.layout is not None for nest in self.nests)

    @property
    def layouts(self) -> dict[str, Layout]:
        """The nests of the job that are made, by their key, and those that its ways were chosen by."""
        return {nest.key: nest.layout for nest in (*self.trials, *self.nests) if nest.layout is not None}

    @property
    def to_nest(self) -> tuple[FilmNest, ...]:
        """All that is nested for the job: what is cut first, then what is tried beside it."""
        known = {nest.key for nest in self.nests}
        return (*self.nests, *(nest for nest in self.trials if nest.key not in known))

    @property
    def copies(self) -> int:
        """How many garments the job makes."""
        return sum(garment.copies for garment in self.garments)

    @property
    def blank(self) -> Blank:
        """The blank of the job's own size."""
        return self.garments[0].blank

    @property
    def fitted(self) -> Iterator[tuple[Garment, FittedDesign]]:
        """Every design on every size."""
        return ((garment, design) for garment in self.garments for design in garment.designs)

    @property
    def composed(self) -> Iterator[tuple[Garment, FittedDesign]]:
        """Every composition on every size."""
        return ((garment, composed) for garment in self.garments for composed in garment.compositions)

    def composition_of(self, part: CutPart) -> FittedDesign:
        """Return what a part is cut for: designs that lie together on a size, or a name's own."""
        if part.row is None:
            return self.garments[part.garment].same[part.composition]
        return self.named[part.row].compositions[part.composition]

    def place_of(self, part: CutPart, copy_number: int) -> Matrix:
        """Return the matrix from artwork mm to the panel for one copy of a part."""
        placement = self.composition_of(part).placement
        assert placement is not None
        return placement.matrices[part.places[(copy_number - 1) % len(part.places)]]

    def panel_to_cut(self, part: CutPart, copy_number: int = 1) -> Matrix:
        """Return the matrix from the panel to a piece as cut: back to the artwork, to its centre, then to the side."""
        return np.asarray(part.to_cut @ np.linalg.inv(self.place_of(part, copy_number)))


@dataclass(frozen=True, eq=False, kw_only=True)
class Plan(Facts):
    """The facts of a job and what there is to say about them."""

    findings: tuple[Finding, ...] = ()

    @property
    def open_stops(self) -> tuple[Finding, ...]:
        """The findings past which nothing may be cut."""
        return tuple(finding for finding in self.findings if finding.is_open_stop)
