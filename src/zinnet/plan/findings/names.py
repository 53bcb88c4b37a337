"""Findings of a list of names: words that can't be set, do not fit, or stand twice."""

import statistics
from collections import Counter
from collections.abc import Iterator, Sequence

import shapely

from zinnet.artwork.lettering.fonts import font_family, fonts_that_have
from zinnet.artwork.source import OutlinedNameArt, TextArt
from zinnet.base.stages import stage
from zinnet.base.units import write_length
from zinnet.data.limits import limits
from zinnet.geometry.region import Region
from zinnet.job.edits import Edit, add_sizes, set_recipe
from zinnet.plan.findings.model import Finding, found
from zinnet.plan.model import Facts
from zinnet.plan.named import NamedGarment

MOST_SAID = 4
EPS_MM = 0.02


def _said(rows: Sequence[NamedGarment]) -> str:
    """Return names in words, the first few of many."""
    some = ", ".join(f"“{one.words}” (no. {one.number})" for one in rows[:MOST_SAID])
    return some + (f" and {len(rows) - MOST_SAID} more" if len(rows) > MOST_SAID else "")


def missing_glyph(facts: Facts) -> Iterator[Finding]:
    """A font lacks a character of a name."""
    for index in range(len(facts.job.designs)):
        rows = [
            one
            for one in facts.named
            if (design := one.design(index)) is not None
            and any(remark.code == "missing-glyph" for remark in design.artwork.remarks)
        ]
        if rows:
            yield found(
                "missing-glyph",
                f"{_said(rows)}: the font lacks a letter",
                "a letter that the font lacks is not cut",
                mend=_other_font(facts, index),
                subject=f"names {index}",
            )


def _other_font(facts: Facts, index: int) -> Edit | None:
    """Return the change to a font that has the letters of all names."""
    source = facts.job.designs[index].source
    if not isinstance(source, (TextArt, OutlinedNameArt)):
        return None
    part = "text" if isinstance(source, TextArt) else "name"
    letters = {letter for row in facts.job.names.rows for value in row.values for letter in value}
    others = fonts_that_have("".join(sorted(letters)))
    if not others:
        return None
    return set_recipe(f"set in {font_family(others[0]).name}", part, index, font=others[0], style=None)


def name_without_size(facts: Facts) -> Iterator[Finding]:
    """A name asks for a size that the job is not made in: nothing would be cut for it."""
    own = facts.garments[0].size
    made = {garment.size for garment in facts.garments}
    rows = [one for one in facts.named if (one.names.size or own) not in made]
    if rows:
        sizes = tuple(dict.fromkeys(one.names.size for one in rows if one.names.size))
        yield found(
            "name-without-size",
            f"{_said(rows)}: the job is not made in {', '.join(sizes)}",
            "nothing is cut for a name whose size the job does not have",
            mend=add_sizes(sizes),
            subject="names",
        )


def name_too_long(facts: Facts) -> Iterator[Finding]:
    """A name gets far smaller letters than the others, or makes all of them small."""
    least = float(limits()["names"]["least_share"])
    for index in range(len(facts.job.designs)):
        largest = {
            row: em
            for garment in facts.garments
            for design in garment.designs
            if design.index == index and design.words is not None
            for row, em in design.words.largest.items()
        }
        if len(largest) < 2:
            continue
        usual = statistics.median(largest.values())
        long = [one for one in facts.named if largest.get(one.row, usual) < least * usual]
        if long:
            smallest = min(largest[one.row] for one in long)
            all_small = facts.job.names.field(index).sizing == "one size"
            yield found(
                "name-too-long",
                f"{_said(long)}: letters of {smallest / usual:.0%} of the usual size"
                + (", and with one size for all every name gets them" if all_small else ""),
                f"under {least:.0%} a name looks odd beside the others (typical, unsourced); "
                "give it a wider field, two lines, or a short form",
                subject=f"names {index}",
            )


def name_twice(facts: Facts) -> Iterator[Finding]:
    """The same words stand twice for the same size."""
    seen = Counter((one.names.values, one.names.size, one.names.colour) for one in facts.named)
    twice = [one for one in facts.named if seen.pop((one.names.values, one.names.size, one.names.colour), 0) > 1]
    if twice:
        yield found(
            "name-twice",
            _said(twice) + (" stand" if len(twice) > 1 else " stands") + " more than once",
            "two people of one name, or one line too many; a count of 2 says the same",
        )


def outside_usable_area(facts: Facts) -> Iterator[Finding]:
    """A name other than the widest, which is judged by itself, leaves the usable area."""
    rows = _outside(facts.named, tuple(design.panel.usable for _, design in facts.fitted if design.words is not None))
    shown = {
        (number, design.index): design.words.widest
        for number, garment in enumerate(facts.garments)
        for design in garment.designs
        if design.words is not None
    }
    outside = [one for one, index in rows if shown.get((one.garment, index)) != one.row]
    if outside:
        field = write_length(max(design.split.width_mm for one in outside for design in one.designs if design.split))
        yield found(
            "outside-usable-area",
            f"{_said(outside)}: up to {field} wide, over the usable area",
            "film holds between seams, hem and edge only; give the names a smaller field",
            subject="names",
        )


@stage(most=8)
def _outside(named: tuple[NamedGarment, ...], usable: tuple[Region, ...]) -> tuple[tuple[NamedGarment, int], ...]:
    """Return the rows, and their designs, that leave the usable area of their panel."""
    for region in usable:
        shapely.prepare(region)
    return tuple(
        (one, design.index)
        for one in named
        for design in one.designs
        if design.art is not None
        and not design.art.is_empty
        and not shapely.covers(shapely.buffer(design.panel.usable, EPS_MM), design.art)
    )


CHECKS = (name_without_size, missing_glyph, name_too_long, name_twice, outside_usable_area)
