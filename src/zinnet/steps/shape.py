"""Steps that change outlines: joining, cutting away, outlines, thickness, gaps, smoothing, specks and counters."""

from collections.abc import Callable
from dataclasses import replace

import shapely

from zinnet.geometry.arrangement import simplify_shared
from zinnet.geometry.gaps import cut_open
from zinnet.geometry.region import EMPTY, Region, as_region, common, union, without
from zinnet.geometry.thickness import (
    closed,
    offset,
    rounded,
    thickened,
    thinned,
    without_holes,
    without_small,
)
from zinnet.steps import model
from zinnet.steps.areas import Area, Areas, choose, chosen_region, put_back

MOST_CUTS, NECK_SHARE = 8, 0.04
"""Necks are widened that are too narrow over this share of the gap: any that a film's own limit would find."""


def join(areas: Areas, step: model.Join) -> Areas:
    """Return the areas with the chosen parts of each colour as one area, where the topmost of them lay."""
    choices = choose(areas, step.which)
    last: dict[str, int] = {}
    for index, choice in enumerate(choices):
        if not choice.chosen.is_empty:
            last[choice.area.colour] = index
    changed: list[Region] = []
    for index, choice in enumerate(choices):
        colour = choice.area.colour
        if last.get(colour) != index:
            changed.append(EMPTY)
            continue
        changed.append(union(other.chosen for other in choices if other.area.colour == colour))
    return put_back(choices, changed)


def cut_away(areas: Areas, step: model.CutAway) -> Areas:
    """Return the areas with what lies under ``by``, and a gap round it, cut out of what is chosen."""
    tools = choose(areas, step.by)
    tool = offset(chosen_region(tools), step.gap_mm) if step.gap_mm else chosen_region(tools)
    choices = choose(areas, step.which)
    found = []
    for choice, by in zip(choices, tools, strict=True):
        region = union([without(without(choice.chosen, by.chosen), tool), choice.rest, by.chosen])
        if not step.keep:
            region = without(region, by.chosen)
        if not region.is_empty:
            found.append(replace(choice.area, region=region))
    return tuple(found)


def intersect(areas: Areas, step: model.Intersect) -> Areas:
    """Return the areas with only that of the chosen which lies under ``by``."""
    tools = choose(areas, step.by)
    tool, choices = chosen_region(tools), choose(areas, step.which)
    changed = [
        union([common(without(choice.chosen, by.chosen), tool), common(choice.chosen, by.chosen)])
        for choice, by in zip(choices, tools, strict=True)
    ]
    return put_back(choices, changed)


def exclude(areas: Areas, step: model.Exclude) -> Areas:
    """Return the areas with what an even number of the chosen ones cover taken out."""
    choices = choose(areas, step.which)
    odd = EMPTY
    for choice in choices:
        odd = as_region(shapely.symmetric_difference(odd, choice.chosen))
    return put_back(choices, [common(choice.chosen, odd) for choice in choices])


def outline(areas: Areas, step: model.Outline) -> Areas:
    """Return the areas over one more for each outline outside; an outline inside lies on top."""
    whole = chosen_region(choose(areas, step.which))
    if step.fill:
        whole = without_holes(whole)
    made = []
    for number, colour in enumerate(step.colours, start=1):
        region = offset(whole, step.width_mm * number, corners=step.corners)
        if step.fill:
            region = without_holes(region)
        if not region.is_empty:
            made.append(Area(colour, region, f"outline-{number}"))
    return (*reversed(made), *areas) if step.width_mm >= 0 else (*areas, *made)


def _each(change: Callable[[Region], Region]) -> Callable[[Areas, model.Which], Areas]:
    """Return a step that changes every chosen region by itself."""

    def apply(areas: Areas, which: model.Which) -> Areas:
        choices = choose(areas, which)
        return put_back(choices, [EMPTY if c.chosen.is_empty else change(c.chosen) for c in choices])

    return apply


def thicken(areas: Areas, step: model.Thicken) -> Areas:
    """Return the areas with thin strokes made wide enough."""
    return _each(lambda region: thickened(region, step.least_mm))(areas, step.which)


def thin(areas: Areas, step: model.Thin) -> Areas:
    """Return the areas with strokes made thinner, down to a limit."""
    return _each(lambda region: thinned(region, step.by_mm, least=step.least_mm))(areas, step.which)


def close_gaps(areas: Areas, step: model.CloseGaps) -> Areas:
    """Return the areas with narrow gaps filled, also those between parts of one colour."""
    return _each(lambda region: closed(region, step.gap_mm))(join(areas, model.Join(which=step.which)), step.which)


def widen_gaps(areas: Areas, step: model.WidenGaps) -> Areas:
    """Return the areas with narrow gaps within a colour cut wider, from both sides; what lies over what stays."""
    choices = choose(areas, step.which)
    cuts: dict[str, Region] = {}
    for colour in dict.fromkeys(choice.area.colour for choice in choices):
        whole = union(choice.chosen for choice in choices if choice.area.colour == colour)
        region = whole
        for _ in range(MOST_CUTS):
            wider = cut_open(region, step.gap_mm, step.gap_mm * NECK_SHARE)
            if wider is region:
                break
            region = wider
        cuts[colour] = EMPTY if region is whole else without(whole, region)
    changed = [without(choice.chosen, cuts[choice.area.colour]) for choice in choices]
    return put_back(choices, changed)


def smooth(areas: Areas, step: model.Smooth) -> Areas:
    """Return the areas with rounded corners."""
    return _each(lambda region: rounded(region, step.radius_mm))(areas, step.which)


def simplify(areas: Areas, step: model.Simplify) -> Areas:
    """Return the areas with fewer points; borders that two share stay shared."""
    simple = simplify_shared([area.region for area in areas], step.tolerance_mm)
    return tuple(
        replace(area, region=region) for area, region in zip(areas, simple, strict=True) if not region.is_empty
    )


def remove_specks(areas: Areas, step: model.RemoveSpecks) -> Areas:
    """Return the areas without small parts and without small counters."""

    def clean(region: Region) -> Region:
        if step.part_mm is not None or step.counter_mm is not None:
            return without_small(region, part=step.part_mm or 0.0, counter=step.counter_mm or 0.0)
        kept = [part for part in region.geoms if part.area >= step.least_mm2]
        return without_holes(Region(kept), most_area=step.least_mm2)

    return _each(clean)(areas, step.which)


def fill_counters(areas: Areas, step: model.FillCounters) -> Areas:
    """Return the areas with counters filled."""
    return _each(lambda region: without_holes(region, most_area=step.most_mm2))(areas, step.which)


def drop(areas: Areas, step: model.Drop) -> Areas:
    """Return the areas without what is chosen."""
    choices = choose(areas, step.which)
    return put_back(choices, [EMPTY] * len(choices))


def keep(areas: Areas, step: model.Keep) -> Areas:
    """Return only what is chosen."""
    return tuple(replace(c.area, region=c.chosen) for c in choose(areas, step.which) if not c.chosen.is_empty)
