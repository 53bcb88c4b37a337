"""Answers as sentences."""

from typing import TYPE_CHECKING

from zinnet.base.units import Unit, write_area, write_length
from zinnet.films.catalogue import in_words
from zinnet.shop.film_need import missing, missing_said
from zinnet.shop.questions import (
    films_that_do,
    largest_for,
    mats_that_do,
    more_garments,
    scraps_that_do,
)

if TYPE_CHECKING:
    from zinnet.nesting.questions import GoesOn
    from zinnet.plan.model import Facts


def more(facts: "Facts", goes_on: "GoesOn", unit: Unit) -> str:
    """For how many more garments there is film."""
    rows = more_garments(facts, goes_on=goes_on)
    if not rows:
        return "There is no film of this job on the shelf."
    least = min(row.more for row in rows)
    on = "the shelf" if facts.job.nesting.from_shelf else "the mats in use"
    each = ", ".join(f"{row.film} {row.more}" for row in rows)
    return f"{least} more garment{'' if least == 1 else 's'} on {on}: {each}."


def largest(facts: "Facts", goes_on: "GoesOn", unit: Unit) -> str:
    """How large the designs may be on the film that there is."""
    factor = largest_for(facts, goes_on=goes_on)
    word = "larger" if factor >= 1 else "smaller"
    sizes = [
        f"{design.placement.width_mm * factor:.1f} mm"
        if unit == "mm"
        else write_length(design.placement.width_mm * factor, unit=unit)
        for garment in facts.garments[:1]
        for design in garment.designs
        if design.placement is not None
    ]
    change = "as it is" if abs(factor - 1) < 0.001 else f"{abs(factor - 1):.1%} {word}"
    return f"All pieces fit {change}: {', '.join(sizes)} wide."


def missing_film(facts: "Facts", goes_on: "GoesOn", unit: Unit) -> str:
    """How much roll is missing."""
    rows = missing(facts)
    if not rows:
        return "Nothing is missing: every piece has its place."
    return " ".join(f"{row.film.name}: {missing_said(row, unit)}." for row in rows)


def scraps(facts: "Facts", goes_on: "GoesOn", unit: Unit) -> str:
    """What each scrap holds."""
    rows = list(scraps_that_do(facts, goes_on=goes_on))
    if not rows:
        return "There is no scrap of these films on the shelf."
    return "\n".join(
        f"{row.film}: scrap {row.item.number} holds "
        + ("all pieces." if row.holds == row.wanted else f"{row.holds} of {row.wanted} pieces.")
        for row in rows
    )


def films(facts: "Facts", goes_on: "GoesOn", unit: Unit) -> str:
    """Which films of the shelf are near and enough."""
    rows = list(films_that_do(facts, goes_on=goes_on))
    if not rows:
        return "There is no film of these kinds on the shelf."
    return "\n".join(
        f"For {row.instead_of}: {row.film.name}, {in_words(row.difference)} ({row.difference:.1f} away), "
        + ("there is enough." if row.enough else "too little.")
        for row in rows
    )


def mats(facts: "Facts", goes_on: "GoesOn", unit: Unit) -> str:
    """What the job takes on every mat."""
    rows = list(mats_that_do(facts, goes_on=goes_on))
    return "\n".join(
        f"{row.mat.name}: "
        + (
            f"{row.loads} load{'' if row.loads == 1 else 's'}, {write_area(row.taken_mm2, unit=unit)}"
            if row.fits
            else "too small"
        )
        + ("" if row.cost is None or not row.fits else f", film for {row.cost:,.2f}")
        + "."
        for row in rows
    )
