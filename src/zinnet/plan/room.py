"""Where a new design has room: below what is there, above it, beside it, or at another place of the blank."""

from collections.abc import Iterator
from dataclasses import replace

import shapely

from zinnet.artwork.source import Source
from zinnet.base.frozen import with_fields
from zinnet.data.limits import limits
from zinnet.job.edits import Edit
from zinnet.job.model import Design, Job
from zinnet.placement.place import PlacementSpec, held_by, places_on
from zinnet.plan.blocks import Block, blocks_of
from zinnet.plan.fitted import FittedDesign, Garment, fit_design
from zinnet.plan.fitting import Fitting, fitting_of
from zinnet.plan.sizes import fit_garments
from zinnet.workshop.model import Workshop


def added(workshop: Workshop, name: str, source: Source, place: str | None = None) -> Edit:
    """Return the edit that adds a design where it has room; the first one gives the job its name."""

    def change(job: Job) -> Job:
        design = Design(source=source)
        spec = with_room(job, workshop, design, place) if job.designs else PlacementSpec(place=place)
        stem = name.rpartition(".")[0] or name if source.file is not None else name
        title = stem if job.title == "Untitled" else job.title
        return with_fields(job, title=title, designs=(*job.designs, with_fields(design, placement=spec)))

    return Edit(f"add {name}", change)


def with_room(job: Job, workshop: Workshop, design: Design, place: str | None = None) -> PlacementSpec:
    """Return where a design that is added has room on every size, on nothing that lies there.

    Tried are below, above and beside the designs of each place, the first one's first, then free places of the blank;
    beside only where the place does not ask for the middle.
    Where nothing has room it is the first free place, else the place that is asked for: the findings say what is wrong.

    Parameters
    ----------
    job, workshop
        What lies there already.
    design : Design
        The one that is added; its own placement does not count.
    place : str or None
        The only place to look at, where one is asked for.

    Returns
    -------
    PlacementSpec
        Widths and distances are given where the design stands beside another one.
    """
    fitting = fitting_of(job, workshop)
    with workshop.blanks.in_use():
        own = fit_garments(fitting)[0]
        if not own.designs:
            return PlacementSpec(place=place)
        taken = {one.placement.place.id for one in own.designs if one.placement is not None}
        free = [PlacementSpec(place=name) for name in places_on(own.blank) if name not in taken]
        asked = [PlacementSpec(place=place)] if place is not None else free
        beside = [
            spec
            for block in blocks_of(own, fitting)
            if place in (None, block.placement.place.id)
            for spec in _beside(fitting, own, block, design)
        ]
        tried = [*beside, *asked] if place is None or place in taken else asked
        for spec in tried:
            if _has_room(fitting, design, spec):
                return spec
    return next(iter(asked), PlacementSpec(place=place))


def _beside(fitting: Fitting, garment: Garment, block: Block, design: Design) -> Iterator[PlacementSpec]:
    """Yield the places below and above what lies at a place, and beside it where it need not be in the middle."""
    numbers = limits()["together"]
    gap = float(numbers["gap_mm"])
    whole, blank = block.placement, garment.blank
    left, top, right, bottom = whole.block
    across, down = (left + right) / 2, (top + bottom) / 2
    bare = PlacementSpec(place=whole.place.id, school=block.first.spec.school)
    proposed = fit_design(fitting, len(fitting.designs), design, bare, blank)
    if proposed.placement is None or proposed.split is None:
        return
    usual = proposed.word_width_mm
    aspect = proposed.placement.height_mm / proposed.placement.width_mm
    wide = min(usual, right - left, float(numbers["line_share"]) * (bottom - top) / aspect)
    beside = min(usual, (bottom - top) / aspect)
    found = [
        (wide, across, bottom + gap + wide * aspect / 2),
        (wide, across, top - gap - wide * aspect / 2),
    ]
    if not whole.place.centred:
        found += [(beside, right + gap + beside / 2, down), (beside, left - gap - beside / 2, down)]
    for width, middle_x, middle_y in found:
        high = width * aspect
        box = (middle_x - width / 2, middle_y - high / 2, middle_x + width / 2, middle_y + high / 2)
        held = {name: round(mm, 1) for name, mm in held_by(whole.place, whole.panel, box).items()}
        if width >= numbers["least_width_mm"]:
            yield bare.model_copy(update={"width_mm": round(width, 1), **held})


def _has_room(fitting: Fitting, design: Design, spec: PlacementSpec) -> bool:
    """Tell whether a design lies inside the usable area and on nothing else, on every size."""
    placed = design.model_copy(update={"placement": spec})
    trial = replace(fitting, designs=(*fitting.designs, placed))
    return all(_is_clear(garment) for garment in fit_garments(trial))


def _is_clear(garment: Garment) -> bool:
    *others, added = garment.designs
    if added.art is None or not shapely.covers(added.panel.usable, added.art):
        return False
    return not any(_touch(other, added) for other in others)


def _touch(other: FittedDesign, added: FittedDesign) -> bool:
    if other.art is None or added.art is None or other.panel.id != added.panel.id:
        return False
    least = float(limits()["together"]["least_gap_mm"])
    return bool(shapely.dwithin(other.art, added.art, least))
