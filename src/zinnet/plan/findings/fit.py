"""Findings of measuring and fitting."""

from collections.abc import Callable, Iterator
from dataclasses import replace
from typing import Any

import numpy as np
import shapely

from zinnet.base.units import Unit, write_length
from zinnet.blanks.catalogue import blank_kind, measure_kinds
from zinnet.data.limits import limits
from zinnet.geometry.region import Region, without
from zinnet.geometry.transform import moved, scale
from zinnet.job.edits import Edit, place_at, set_placement
from zinnet.job.model import Job
from zinnet.placement.arrange import Arc, One
from zinnet.placement.as_laid import locate, sides_of
from zinnet.placement.guides import school
from zinnet.placement.place import Placement, edge_distances, field_of, largest_width, nearest_inside
from zinnet.plan.blocks import Block, blocks_of
from zinnet.plan.findings.levels import Level
from zinnet.plan.findings.model import Finding, found
from zinnet.plan.findings.subject import (
    home,
    laid_designs,
    named,
    place_of,
)
from zinnet.plan.fitted import FittedDesign, Garment
from zinnet.plan.fitting import fitting_of
from zinnet.plan.model import Facts

LEAST_OVERHANG_MM = 0.1
LEAST_WIDTH_MM = 10.0
SAME_MM = 0.05


def between(low_mm: float, high_mm: float, unit: Unit) -> str:
    """Return a range in words."""
    return f"{write_length(low_mm, unit=unit, with_unit=False)} to {write_length(high_mm, unit=unit)}"


def blank_not_measured(facts: Facts) -> Iterator[Finding]:
    """The blank still has catalogue values; sizes of which nothing was measured are named together."""
    level: Level = "warn" if facts.mats else "note"
    limit = "two blanks of one size differ by more than a finger; measure yours"
    own, *others = facts.garments
    kinds = measure_kinds(own.blank.kind)
    bare = [one for one in facts.garments if others and not one.blank.measured]
    for garment in (one for one in facts.garments if one not in bare):
        missing = [kinds[name].name.lower() for name in kinds if name not in garment.blank.measured]
        if missing:
            size = f"{_size_name(garment)}: " if others else ""
            yield found("blank-not-measured", f"{size}typical values for {', '.join(missing)}", limit, level=level)
    if bare:
        names = ", ".join(map(_size_name, bare))
        said = f"{names}: all values are typical" if len(bare) == 1 else f"{len(bare)} sizes: {names}"
        yield found("blank-not-measured", said, limit, level=level)


def _size_name(garment: Garment) -> str:
    return garment.blank.name.rpartition(", ")[2]


def outside_usable_area(facts: Facts) -> Iterator[Finding]:
    """Artwork leaves the outline less seams, hem, collar and pocket."""
    for garment, design, placement, art in laid_designs(facts):
        allowed = home(design)
        if blank_kind(garment.blank.kind).form == "canvas" or shapely.covers(allowed, art):
            continue
        outside = without(art, allowed)
        if outside.is_empty:
            continue
        over = shapely.hausdorff_distance(shapely.union(outside, allowed), allowed)
        if over < LEAST_OVERHANG_MM:
            continue
        yield found(
            "outside-usable-area",
            f"{named(facts, garment, design)}reaches {write_length(over, unit=facts.job.unit)} beyond the usable area",
            "the usable area keeps off collar, seams, pocket and hem (common practice)",
            place=place_of(garment, design, outside),
            mend=_inside(facts, garment, design, placement, art),
        )


def _inside(
    facts: Facts, garment: Garment, design: FittedDesign, placement: Placement, art: Region, field: Region | None = None
) -> Edit | None:
    """Return the edit that moves a design to the nearest place that fits, else that makes it as large as fits."""
    one = len(placement.matrices) == 1
    if one and field is None:
        nearest = nearest_inside(design.spec, art, placement)
        if nearest is not None:
            nearest = nearest.model_copy(update={"width_mm": design.word_width_mm})
            said = "move to the nearest place that fits"
            return place_at(nearest, said, design=design.index, size=garment.size)
    if design.split is None or not one or isinstance(placement.arrangement, Arc):
        return None
    unit_art = moved(art, scale(1 / placement.width_mm) @ np.linalg.inv(placement.matrix))
    largest = largest_width(
        design.spec.model_copy(update={"turn_deg": 0.0}),
        garment.blank,
        facts.workshop.habits,
        unit_art=unit_art,
        aspect=placement.height_mm / placement.width_mm,
        field=field,
    )
    if largest <= LEAST_WIDTH_MM:
        return None
    width = int(largest * 10) / 10
    return _mended(garment, design, "use the largest size that fits", width_mm=width, height_mm=None)


def _mended(garment: Garment, design: FittedDesign, name: str, **fields: Any) -> Edit:
    """Return the edit that mends the placement of one design on one garment."""
    return set_placement(name, design=design.index, size=garment.size, **fields)


def _blocks(facts: Facts) -> Iterator[Block]:
    """Yield what lies on every size, what belongs together as one."""
    fitting = fitting_of(facts.job, facts.workshop)
    for garment in facts.garments:
        yield from blocks_of(garment, fitting)


def _said(facts: Facts, block: Block) -> str:
    """Return what is meant, as the beginning of a sentence: a design, or how many together."""
    before = named(facts, block.garment, block.first)
    return before if len(block.designs) == 1 else f"{before}{len(block.designs)} designs together are "


def _sized(block: Block, name: str, width_mm: float) -> Edit:
    """Return the edit that makes what belongs together so wide."""
    if len(block.designs) == 1:
        return _mended(block.garment, block.first, name, width_mm=width_mm, height_mm=None)
    return block.moved(name, factor=width_mm / block.width_mm)


def size_unusual(facts: Facts) -> Iterator[Finding]:
    """The width is outside the range for this place; names that are short in a room of usual width are none."""
    unit = facts.job.unit
    for block in _blocks(facts):
        garment, design, placement, art = block.garment, block.first, block.placement, block.art
        proposal, width = block.proposal, block.width_mm
        if proposal is None or proposal.holds(width) or (len(block.designs) == 1 and design.spec.is_measured):
            continue
        if proposal.limit is not None and abs(width - proposal.width_mm) < SAME_MM:
            continue
        if design.words is not None and width < design.words.width_mm and proposal.holds(design.words.width_mm):
            continue
        low, high = proposal.low_mm or 0.0, proposal.high_mm or width
        usual = min(max(proposal.usual_mm, low), high)
        yield found(
            "size-unusual",
            f"{_said(facts, block)}{write_length(width, unit=unit)} wide",
            f"{placement.place.name.lower()}, {proposal.look.in_words}: {between(low, high, unit)} (common practice)",
            place=place_of(garment, design, art),
            mend=_sized(block, f"use {write_length(usual, unit=unit)}", usual),
        )


def off_centre(facts: Facts) -> Iterator[Finding]:
    """The artwork's middle is beside the centre line, or beside where the place has it."""
    tolerance, unit = limits()["centre"]["tolerance_mm"], facts.job.unit
    for block in _blocks(facts):
        garment, design, placement, art = block.garment, block.first, block.placement, block.art
        across, off = placement.across, placement.from_centre_mm
        if not isinstance(placement.arrangement, One | Arc) or across.holds(off, tolerance):
            continue
        distances = edge_distances(placement)
        edges = (
            f"; left edge {write_length(distances[0], unit=unit)}, right edge {write_length(distances[1], unit=unit)}"
            if distances
            else ""
        )
        limit = f"tolerance {write_length(tolerance, unit=unit)}"
        if not placement.place.centred:
            low, high = sorted((abs(across.low_mm), abs(across.high_mm)))
            limit = f"{placement.place.name.lower()}: {between(low, high, unit)} from the centre line"
        name = "centre it" if placement.place.centred else "use the usual distance"
        yield found(
            "off-centre",
            f"{_said(facts, block)}{write_length(abs(off), unit=unit)} "
            f"{'right' if off > 0 else 'left'} of the centre line{edges}",
            f"{limit} (common practice)",
            place=place_of(garment, design, art),
            mend=_mended(garment, design, name, from_centre_mm=across.target_mm)
            if len(block.designs) == 1
            else block.moved(name, across_mm=across.target_mm - off),
        )


def tilted(facts: Facts) -> Iterator[Finding]:
    """The artwork is turned at a place that asks for level."""
    tolerance = limits()["tilt"]["tolerance_deg"]
    for garment, design, placement, art in laid_designs(facts):
        angle = (placement.turn_deg + 180) % 360 - 180
        if not isinstance(placement.arrangement, One | Arc) or abs(angle) <= tolerance:
            continue
        yield found(
            "tilted",
            f"{named(facts, garment, design)}turned by {angle:.1f}°",
            f"tolerance {tolerance:g}° (common practice)",
            place=place_of(garment, design, art),
            mend=_mended(garment, design, "level it", turn_deg=0.0),
        )


def collar_distance(facts: Facts) -> Iterator[Finding]:
    """The distance from collar, seam or edge is outside the range of the school or the place."""
    slack, unit = limits()["collar"]["tolerance_mm"], facts.job.unit
    for block in _blocks(facts):
        garment, design, placement, art = block.garment, block.first, block.placement, block.art
        distance, down = placement.from_reference_mm, placement.down
        if not isinstance(placement.arrangement, One | Arc) or down.holds(distance, slack):
            continue
        side = {"top": "top edge {} below", "middle": "middle {} below", "bottom": "lower edge {} above"}
        said = side[placement.place.anchor].format(write_length(distance, unit=unit))
        school = f"{_school_name(placement)}: " if placement.school else ""
        name = f"use {_school_name(placement) or write_length(down.target_mm, unit=unit)}"
        yield found(
            "collar-distance",
            f"{_said(facts, block)}{said} the {placement.place.reference_name}",
            f"{school}{between(down.low_mm, down.high_mm, unit)} (common practice)",
            place=place_of(garment, design, art),
            mend=_mended(garment, design, name, from_reference_mm=None)
            if len(block.designs) == 1
            else block.moved(name, down_mm=down.target_mm - distance),
        )


def _school_name(placement: Placement) -> str:
    return school(placement.school).name if placement.school else ""


def stretched(facts: Facts) -> Iterator[Finding]:
    """Width and height are scaled differently."""
    most = limits()["stretch"]["most_share"]
    for garment, design, _, art in laid_designs(facts):
        stretch = design.split.stretch if design.split is not None else 1.0
        if abs(stretch - 1) <= most:
            continue
        yield found(
            "stretched",
            f"{named(facts, garment, design)}{abs(stretch - 1) * 100:.0f} % too {'tall' if stretch > 1 else 'flat'} "
            "for its width",
            f"at most {most * 100:.0f} % (common practice)",
            place=place_of(garment, design, art),
            mend=_mended(garment, design, "restore the proportions", height_mm=None),
        )


def wraps_round_body(facts: Facts) -> Iterator[Finding]:
    """Words are longer than what is seen from the front; on what is round, any motif."""
    unit = facts.job.unit
    for garment, design, placement, art in laid_designs(facts):
        visible, word = design.panel.visible_mm, design.proposal is not None and design.proposal.look.letters > 0
        left, _, right, _ = art.bounds
        if visible is None or not (word or placement.place.within_visible or design.panel.is_round):
            continue
        if design.panel.is_round and len(placement.matrices) > 1:
            left, right = -placement.width_mm / 2, placement.width_mm / 2
        beyond = max(-visible / 2 - left, right - visible / 2)
        if beyond <= LEAST_OVERHANG_MM:
            continue
        mend = None
        if design.split is not None:
            width = int(design.word_width_mm * visible / (right - left) * 10) / 10
            if right - left > visible:
                change = {"width_mm": width, "height_mm": None, "from_centre_mm": None}
                mend = _mended(garment, design, "limit the length", **change)
            else:
                mend = _mended(garment, design, "move it to where it is seen", from_centre_mm=None)
        yield found(
            "wraps-round-body",
            f"{named(facts, garment, design)}{write_length(right - left, unit=unit)} long, "
            f"{write_length(beyond, unit=unit)} of it goes round",
            f"{write_length(visible, unit=unit)} are seen from the front"
            + ("" if design.panel.is_round else "; try it on"),
            place=place_of(garment, design, art),
            mend=mend,
        )


def frame_hides_art(facts: Facts) -> Iterator[Finding]:
    """A framed canvas shows less than the artwork."""
    unit = facts.job.unit
    for garment, design, placement, art in laid_designs(facts):
        opening = design.panel.region
        if blank_kind(garment.blank.kind).form != "canvas":
            continue
        hidden = without(art, shapely.buffer(opening, LEAST_OVERHANG_MM))
        if hidden.is_empty:
            continue
        left, top, right, bottom = opening.bounds
        field = field_of(placement.place, design.panel)
        mend = _inside(facts, garment, _centred(design), placement, art, field)
        yield found(
            "frame-hides-art",
            f"{named(facts, garment, design)}{write_length(placement.width_mm, unit=unit, with_unit=False)} x "
            f"{write_length(placement.height_mm, unit=unit)}",
            f"the opening is {write_length(right - left, unit=unit, with_unit=False)} x "
            f"{write_length(bottom - top, unit=unit)}",
            place=place_of(garment, design, hidden),
            mend=mend and Edit("fit to the opening", _then_centre(mend, design.index, garment.size)),
        )


def _centred(design: FittedDesign) -> FittedDesign:
    spec = design.spec.model_copy(update={"from_centre_mm": None, "from_reference_mm": None})
    return replace(design, spec=spec)


def _then_centre(mend: Edit, design: int, size: str | None) -> Callable[[Job], Job]:
    centre = set_placement("", design=design, size=size, from_centre_mm=None, from_reference_mm=None)
    return lambda job: centre.change(mend.change(job))


def as_laid_off(facts: Facts) -> Iterator[Finding]:
    """Ruler readings at the bench differ from the plan."""
    for laid in facts.job.laid:
        for number, garment in enumerate(facts.garments):
            own = laid.size is None and number == 0
            if not (own or garment.size == laid.size) or laid.design >= len(garment.designs):
                continue
            design = garment.designs[laid.design]
            if design.placement is None or design.art is None:
                continue
            answer = locate(laid.readings, design.placement)
            if answer.is_good:
                continue
            numbers = limits()["as_laid"]
            yield found(
                "as-laid-off",
                f"{named(facts, garment, design)}{answer.advice(sides_of(design.placement), facts.job.unit)}".rstrip(
                    "."
                ),
                f"tolerance {write_length(numbers['shift_mm'], unit=facts.job.unit)} and {numbers['tilt_deg']:g}° "
                "(common practice)",
                place=place_of(garment, design, design.art),
            )


CHECKS = (
    blank_not_measured,
    outside_usable_area,
    frame_hides_art,
    size_unusual,
    off_centre,
    tilted,
    collar_distance,
    stretched,
    wraps_round_body,
    as_laid_off,
)
