"""The facts of a job: every stage of the work, derived from the job and the workshop, nothing judged yet."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from zinnet.artwork.model import Artwork
from zinnet.blanks.model import Blank
from zinnet.geometry.region import Region
from zinnet.geometry.transform import Matrix
from zinnet.job.edits import held_copies
from zinnet.job.model import Job
from zinnet.layers.split import Split
from zinnet.layers.stack import FilmLayer
from zinnet.nesting.model import Layout, Pin
from zinnet.placement.place import Placement
from zinnet.plan.cut_parts import CutPart, cut_requests
from zinnet.plan.film_use import JobUse, use_of
from zinnet.plan.fitted import FittedDesign, Garment, garments_of
from zinnet.plan.loading import (
    Cutting,
    LoadedMat,
    cutting_of,
    loads_of,
)
from zinnet.plan.named import NamedGarment, named_garments
from zinnet.plan.nests import (
    FilmNest,
    Mat,
    film_nests,
    mats_of,
    pin_of,
    with_layout,
)
from zinnet.plan.presses import GarmentPress, presses_of
from zinnet.plan.trims import Trim, trims_of
from zinnet.workshop.model import Workshop
from zinnet.workshop.stock import StockItem


@dataclass(frozen=True, eq=False, kw_only=True)
class Facts:
    """Every stage of one job. What can't be known yet is None or empty."""

    job: Job
    workshop: Workshop
    garments: tuple[Garment, ...]
    named: tuple[NamedGarment, ...] = ()
    nests: tuple[FilmNest, ...] = ()
    mats: tuple[Mat, ...] = ()

    @property
    def is_nested(self) -> bool:
        """Whether every film's pieces have their nest."""
        return bool(self.nests) and all(nest.layout is not None for nest in self.nests)

    @property
    def layouts(self) -> dict[str, Layout]:
        """The nests of the job that are made, by their key."""
        return {nest.key: nest.layout for nest in self.nests if nest.layout is not None}

    @cached_property
    def use(self) -> JobUse:
        """The film of the job in numbers."""
        return use_of(self.nests, self.mats, sum(garment.copies for garment in self.garments))

    @property
    def shelf(self) -> tuple[StockItem, ...]:
        """The film that the job is cut from."""
        return shelf_of(self.job, self.workshop)

    @cached_property
    def held(self) -> tuple[Pin, ...]:
        """The copies that stay where they are when the rest is nested again."""
        held = held_copies(self.job.nesting)
        return tuple(
            pin_of(mat, placed, held=True)
            for mat in self.mats
            for placed in mat.layout.placed
            if (placed.piece, placed.copy_number) in held
        )

    @cached_property
    def trims(self) -> tuple[Trim, ...]:
        """The trim list."""
        return trims_of(self.mats, self.job.nesting.mat, share=self.job.nesting.share_mats)

    @cached_property
    def cutting(self) -> Cutting:
        """What the mats are cut by."""
        job = self.job
        return cutting_of(
            job.cutting,
            mat=job.nesting.mat,
            joined=job.layers.join_outlines,
            framed=job.nesting.weed_frame == "mat",
            title=job.title,
            tests=self.workshop.tests,
            blades=self.workshop.blades,
        )

    @cached_property
    def loads(self) -> tuple[LoadedMat, ...]:
        """The mats as they are loaded and cut, in that order."""
        return loads_of(self.trims, self.job.nesting.mat, self.cutting)

    @cached_property
    def presses(self) -> tuple[GarmentPress, ...]:
        """How every size is pressed."""
        return presses_of(self.job, self.workshop, self.garments)

    @property
    def blank(self) -> Blank:
        """The blank of the job's own size."""
        return self.garments[0].blank

    @property
    def fitted(self) -> Iterator[tuple[Garment, FittedDesign]]:
        """Every design on every size."""
        return ((garment, design) for garment in self.garments for design in garment.designs)

    @property
    def first(self) -> FittedDesign | None:
        """The first design on the job's own size."""
        return next(iter(self.garments[0].designs), None)

    @property
    def artwork(self) -> Artwork | None:
        """The artwork of the first design."""
        return self.first.artwork if self.first is not None else None

    @property
    def split(self) -> Split | None:
        """The layers of the first design, at their size."""
        return self.first.split if self.first is not None else None

    @property
    def placement(self) -> Placement | None:
        """The place of the first design."""
        return self.first.placement if self.first is not None else None

    @property
    def layers(self) -> tuple[FilmLayer, ...]:
        """The layers of the first design, with their films."""
        return self.first.layers if self.first is not None else ()

    @property
    def art(self) -> Region | None:
        """The first design on its panel."""
        return self.first.art if self.first is not None else None

    def design_of(self, part: CutPart) -> FittedDesign:
        """The design that a part is cut for: that of a size, or a name's own."""
        if part.row is None:
            return self.garments[part.garment].designs[part.design]
        design = self.named[part.row].design(part.design)
        assert design is not None
        return design

    def place_of(self, part: CutPart, copy_number: int) -> Matrix:
        """The matrix from artwork mm to the panel for one copy of a part."""
        placement = self.design_of(part).placement
        assert placement is not None
        return placement.matrices[part.places[(copy_number - 1) % len(part.places)]]

    def panel_to_cut(self, part: CutPart, copy_number: int = 1) -> Matrix:
        """The matrix from the panel to a piece as cut: back to the artwork, to its centre, then to the side."""
        return np.asarray(part.to_cut @ np.linalg.inv(self.place_of(part, copy_number)))


def shelf_of(job: Job, workshop: Workshop) -> tuple[StockItem, ...]:
    """Return what is on the shelf; for a job that was cut, what was on it before."""
    return workshop.stock if job.cut is None else job.cut.items


def gather(job: Job, workshop: Workshop, layouts: Mapping[str, Layout]) -> Facts:
    """Return the facts of a job; ``layouts`` holds the nests made so far by their key.

    Raises a :class:`ZinnetError` where the job can't be made sense of.
    """
    garments = garments_of(job, workshop)
    named = named_garments(job, workshop, garments)
    requests = tuple(cut_requests(garments, named, job.layers.marks))
    nests = tuple(
        with_layout(nest, layouts.get(nest.key), job.nesting.moved)
        for nest in film_nests(requests, job.nesting, job.layers.join_outlines, shelf_of(job, workshop))
    )
    return Facts(job=job, workshop=workshop, garments=garments, named=named, nests=nests, mats=mats_of(nests))
