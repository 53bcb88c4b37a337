"""Findings of what must stay off: keep-outs under artwork or platen, food and lips, a baby's things."""

from collections.abc import Iterator
from functools import partial

import shapely

from zinnet.base.units import write_length
from zinnet.data.limits import limits
from zinnet.films.catalogue import kind_of
from zinnet.geometry.region import Region, common
from zinnet.job.edits import Edit, choose_place, place_at
from zinnet.placement.place import Placement, nearest_inside, places_on
from zinnet.plan.findings.model import Finding, found
from zinnet.plan.findings.subject import laid_designs, named, place_of
from zinnet.plan.fitted import FittedDesign, Garment
from zinnet.plan.fitting import platen_of
from zinnet.plan.model import Facts
from zinnet.pressing.platen_spot import is_padded, platen_spot

LEAST_MM2 = 0.5
MOST_PLACES = 2


def over_keep_out(facts: Facts) -> Iterator[Finding]:
    """Artwork or platen lies over a zip, button, fur, plastic, cord or thick seam."""
    for garment, design, placement, art in laid_designs(facts):
        met = [
            (keep_out.kind, common(art, keep_out.region)) for keep_out in design.panel.keep_outs if not keep_out.raised
        ]
        met = [(kind, over) for kind, over in met if over.area > LEAST_MM2]
        if met:
            names = ", ".join(dict.fromkeys(kind for kind, _ in met))
            area = sum(over.area for _, over in met) / 100
            yield found(
                "over-keep-out",
                f"{named(facts, garment, design)}{area:.1f} cm² of artwork over: {names}",
                "film holds on flat cloth only, and heat ruins plastic, fur and zips (common practice)",
                place=place_of(garment, design, met[0][1]),
                mend=_move_off(garment, design, placement, art),
                more=partial(_other_places, garment, design, placement),
            )
            continue
        yield from _platen_over(facts, garment, design, placement, art)


def _move_off(garment: Garment, design: FittedDesign, placement: Placement, art: Region) -> Edit | None:
    if len(placement.matrices) > 1:
        return None
    nearest = nearest_inside(design.spec, art, placement)
    if nearest is None:
        return None
    nearest = nearest.model_copy(update={"width_mm": design.word_width_mm})
    return place_at(nearest, "move it off", design=design.index, size=garment.size)


def _platen_over(
    facts: Facts, garment: Garment, design: FittedDesign, placement: Placement, art: Region
) -> Iterator[Finding]:
    """The artwork is clear, but no position of the platen is that covers it."""
    press = platen_of(facts.job, facts.workshop.presses)
    hard = [keep_out for keep_out in design.panel.keep_outs if not is_padded(keep_out)]
    left, top, right, bottom = art.bounds
    if press is None or not hard or right - left > press.width_mm or bottom - top > press.height_mm:
        return
    if platen_spot(press, art.bounds, design.panel) is not None:
        return
    nearest = min(hard, key=lambda keep_out: shapely.distance(keep_out.region, art))
    unit = facts.job.unit
    size = f"{write_length(press.width_mm, unit=unit, with_unit=False)} x {write_length(press.height_mm, unit=unit)}"
    yield found(
        "over-keep-out",
        f"{named(facts, garment, design)}wherever the platen of {size} covers it, it presses on: {nearest.kind}",
        "heat stays off zips, buttons, cords, fur and plastic; move the artwork, or use a smaller platen in parts",
        place=place_of(garment, design, nearest.region),
    )


def _other_places(garment: Garment, design: FittedDesign, placement: Placement) -> Iterator[Edit]:
    """Yield the edits that take artwork to a place on a panel that has nothing to keep off, the nearest like it."""
    free = {
        name: place
        for name, place in places_on(garment.blank).items()
        if place.panel != placement.place.panel
        and (panel := garment.blank.panel(place.panel)) is not None
        and not panel.keep_outs
    }
    for name, place in list(free.items())[:MOST_PLACES]:
        edit = choose_place(name, design=design.index, size=garment.size)
        yield Edit(f"use the {place.name.lower()}", edit.change)


def food_or_lips(facts: Facts) -> Iterator[Finding]:
    """Film or print lies where food, drink or lips touch."""
    for garment, design, placement, art in laid_designs(facts):
        if design.panel.touched is None:
            continue
        over = common(art, design.panel.touched)
        if over.area <= LEAST_MM2:
            continue
        yield found(
            "food-or-lips",
            f"{named(facts, garment, design)}{over.area / 100:.1f} cm² where food, drink or lips touch",
            "film and prints are not made for it; the film maker's sheet and local rules come first",
            place=place_of(garment, design, over),
            mend=_other_side(garment, design, placement, art),
        )


def _other_side(garment: Garment, design: FittedDesign, placement: Placement, art: Region) -> Edit | None:
    for name, place in places_on(garment.blank).items():
        panel = garment.blank.panel(place.panel)
        if panel is not None and panel.touched is None:
            edit = choose_place(name, design=design.index, size=garment.size)
            return Edit(f"use the {place.name.lower()}", edit.change)
    return _move_off(garment, design, placement, art)


def not_for_baby(facts: Facts) -> Iterator[Finding]:
    """Small parts or scented film on an infant's size."""
    small = limits()["baby"]["small_part_mm"]
    for garment, design, _, art in laid_designs(facts):
        if garment.blank.size_class != "infant":
            continue
        scented = [row.film.name for row in design.layers if row.film is not None and kind_of(row.film).not_for_baby]
        parts = sum(
            shapely.minimum_bounding_radius(part) * 2 < small
            for row in design.layers
            for part in row.layer.region.geoms
        )
        said = [f"film that is scented: {', '.join(scented)}"] if scented else []
        if parts:
            said.append(f"{parts} part{'s' if parts > 1 else ''} smaller than {small:g} mm")
        if said:
            yield found(
                "not-for-baby",
                f"{named(facts, garment, design)}{' and '.join(said)}",
                "a small part that comes off fits a small child's throat (small parts cylinder; typical, unsourced); "
                "the labels of film and cloth and local rules come first",
                place=place_of(garment, design, art),
            )


CHECKS = (over_keep_out, food_or_lips, not_for_baby)
