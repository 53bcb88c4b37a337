"""Findings of measuring and fitting."""

from collections.abc import Iterator

import numpy as np
import shapely

from zinnet.checks.model import Finding, Place, found
from zinnet.data import read_toml
from zinnet.edits import place_at, set_placement
from zinnet.facts import Facts
from zinnet.geometry.region import without
from zinnet.geometry.transform import moved, scale
from zinnet.placement.guides import place, school
from zinnet.placement.place import edge_distances, largest_width, nearest_inside
from zinnet.units import write_length

LEAST_OVERHANG_MM = 0.1


def blank_not_measured(facts: Facts) -> Iterator[Finding]:
    """The blank still has catalogue values."""
    missing = [name for name in facts.blank.measures if name not in facts.blank.measured]
    if missing:
        yield found(
            "blank-not-measured",
            f"typical values for {', '.join(name.replace('_', ' ') for name in missing)}",
            "two tees of one size differ by more than a finger; measure yours",
            level="warn" if facts.mats else "note",
        )


def outside_usable_area(facts: Facts) -> Iterator[Finding]:
    """Artwork leaves the outline less seams, hem and collar."""
    if facts.art is None or facts.placement is None or facts.split is None:
        return
    usable = facts.blank.usable
    if shapely.covers(usable, facts.art):
        return
    outside = without(facts.art, usable)
    if outside.is_empty:
        return
    over = shapely.hausdorff_distance(shapely.union(outside, usable), usable)
    if over < LEAST_OVERHANG_MM:
        return
    unit = facts.job.unit
    spec = facts.job.placement
    nearest = nearest_inside(spec, facts.blank, facts.art, facts.placement)
    mend = None
    if nearest is not None:
        mend = place_at(nearest, "move to the nearest place that fits")
    else:
        unit_art = moved(facts.art, scale(1 / facts.placement.width_mm) @ np.linalg.inv(facts.placement.matrix))
        aspect = facts.placement.height_mm / facts.placement.width_mm
        largest = largest_width(
            spec.model_copy(update={"turn_deg": 0.0}), facts.blank, unit_art=unit_art, aspect=aspect
        )
        if largest > 10:
            mend = set_placement("use the largest size that fits", width_mm=int(largest * 10) / 10)
    yield found(
        "outside-usable-area",
        f"reaches {write_length(over, unit=unit)} beyond the usable area",
        "the usable area keeps off collar, seams and hem (common practice)",
        place=Place("fit", outside.bounds),
        mend=mend,
    )


def size_unusual(facts: Facts) -> Iterator[Finding]:
    """The width is outside the range for this place."""
    if facts.placement is None:
        return
    guide, unit = place(facts.job.placement.place), facts.job.unit
    width = facts.placement.width_mm
    if guide.width_low_mm - 0.05 <= width <= guide.width_high_mm + 0.05:
        return
    usual = min(max(guide.width_usual_mm, guide.width_low_mm), guide.width_high_mm)
    yield found(
        "size-unusual",
        f"{write_length(width, unit=unit)} wide",
        f"{guide.name.lower()}: {write_length(guide.width_low_mm, unit=unit, with_unit=False)} to "
        f"{write_length(guide.width_high_mm, unit=unit)} (common practice)",
        place=_art_place(facts),
        mend=set_placement(f"use {write_length(usual, unit=unit)}", width_mm=usual),
    )


def off_centre(facts: Facts) -> Iterator[Finding]:
    """A centred place, and the artwork's centre is beside the centre line."""
    if facts.placement is None or not place(facts.job.placement.place).centred:
        return
    tolerance = read_toml("limits")["centre"]["tolerance_mm"]
    off, unit = facts.placement.from_centre_mm, facts.job.unit
    if abs(off) <= tolerance:
        return
    distances = edge_distances(facts.placement, facts.blank)
    edges = (
        f"; left edge {write_length(distances[0], unit=unit)}, right edge {write_length(distances[1], unit=unit)}"
        if distances
        else ""
    )
    yield found(
        "off-centre",
        f"{write_length(abs(off), unit=unit)} {'right' if off > 0 else 'left'} of the centre line{edges}",
        f"tolerance {write_length(tolerance, unit=unit)} (common practice)",
        place=_art_place(facts),
        mend=set_placement("centre it", from_centre_mm=0.0),
    )


def tilted(facts: Facts) -> Iterator[Finding]:
    """The artwork is turned at a place that asks for level."""
    if facts.placement is None or not place(facts.job.placement.place).level:
        return
    tolerance = read_toml("limits")["tilt"]["tolerance_deg"]
    angle = (facts.placement.turn_deg + 180) % 360 - 180
    if abs(angle) <= tolerance:
        return
    yield found(
        "tilted",
        f"turned by {angle:.1f}°",
        f"tolerance {tolerance:g}° (common practice)",
        place=_art_place(facts),
        mend=set_placement("level it", turn_deg=0.0),
    )


def collar_distance(facts: Facts) -> Iterator[Finding]:
    """The top edge is outside the chosen school's range under the collar."""
    if facts.placement is None:
        return
    guide, unit = school(facts.placement.school), facts.job.unit
    slack = read_toml("limits")["collar"]["tolerance_mm"]
    below = facts.placement.below_collar_mm
    if guide.low_mm - slack <= below <= guide.high_mm + slack:
        return
    yield found(
        "collar-distance",
        f"top edge {write_length(below, unit=unit)} below the collar",
        f"{guide.name}: {write_length(guide.low_mm, unit=unit, with_unit=False)} to "
        f"{write_length(guide.high_mm, unit=unit)} (common practice)",
        place=_art_place(facts),
        mend=set_placement(f"use {guide.name}", below_collar_mm=None),
    )


def _art_place(facts: Facts) -> Place | None:
    return Place("fit", facts.art.bounds) if facts.art is not None else None


CHECKS = (blank_not_measured, outside_usable_area, size_unusual, off_centre, tilted, collar_distance)
