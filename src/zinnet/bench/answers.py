"""Answers as sentences, each with the changes by which it is carried out."""

import math
from collections import Counter
from dataclasses import dataclass
from itertools import cycle, islice
from typing import TYPE_CHECKING

from zinnet.base.units import Unit, write_area, write_length
from zinnet.bench.nesting import nest_document
from zinnet.bench.rescues import Rescue, rescue_by
from zinnet.bench.ways_out import WayOut, bought, film_instead, on_mat, resized
from zinnet.films.catalogue import in_words
from zinnet.job.edits import one_step, set_copies, set_nesting, set_sizes
from zinnet.shop.film_need import missing, missing_said
from zinnet.shop.questions import (
    films_that_do,
    garments_in_turn,
    largest_for,
    mats_that_do,
    more_garments,
    scraps_that_do,
)

if TYPE_CHECKING:
    from zinnet.nesting.questions import GoesOn
    from zinnet.plan.model import Facts, Plan
    from zinnet.workshop.price_list import PriceList

SAME = 0.001
NEST_S = 5.0
"""How long each film is nested when an answer is carried out."""
COUNTED, PROVED = "Counted in straight rows.", "No more go: one more would need more film than there is."
FOUND = "Found by nesting: so much surely goes, a longer search may find a little more."


@dataclass(frozen=True)
class Answer:
    """An answer in words, and the changes that carry it out, the best first; each is still to be checked."""

    said: str
    offers: tuple[WayOut, ...] = ()


def carried_out(plan: "Plan", way: WayOut, prices: "PriceList") -> Rescue | None:
    """Return the job that an answer makes, nested; None where it turns out not to hold all that it is to hold."""
    found = rescue_by(plan, way, prices, lambda document: nest_document(document, NEST_S))
    if found is None or (way.kind == "more" and len(found.plan.mats) > len(plan.mats) and not _is_limited(plan)):
        return None
    return found


def _is_limited(facts: "Facts") -> bool:
    return facts.job.nesting.from_shelf


def more(facts: "Facts", goes_on: "GoesOn", unit: Unit) -> Answer:
    """For how many more garments there is film."""
    rows = more_garments(facts, goes_on=goes_on)
    if not rows:
        return Answer("There is no film of this job on the shelf.")
    least = min(row.more for row in rows)
    on = "the shelf" if _is_limited(facts) else "the mats in use"
    each = ", ".join(f"{row.film} {row.more}" for row in rows)
    sure = PROVED if any(row.proved for row in rows if row.more == least) else FOUND
    said = f"{least} more garment{'' if least == 1 else 's'} on {on}: {each}. {sure}"
    return Answer(said, (_made_more(facts, least),) if least and not facts.named else ())


def _made_more(facts: "Facts", count: int) -> WayOut:
    """Return the change that makes so many more garments, in the proportion in which the sizes are made."""
    added = Counter(islice(cycle(garments_in_turn(facts)), count))
    copies = [garment.copies + added[place] for place, garment in enumerate(facts.garments)]
    sizes = tuple(
        (garment.size, number)
        for garment, number in zip(facts.garments[1:], copies[1:], strict=True)
        if garment.size is not None and number
    )
    edits = [*([set_copies(copies[0])] if added[0] else []), *([set_sizes(sizes)] if sizes else [])]
    return WayOut("more", one_step(f"{count} more", edits), ("in the same proportion of sizes",))


def largest(facts: "Facts", goes_on: "GoesOn", unit: Unit) -> Answer:
    """How large the designs may be on the film that there is."""
    found = largest_for(facts, goes_on=goes_on)
    factor = found.factor
    word = "larger" if factor >= 1 else "smaller"
    sizes = [
        write_length(math.floor(design.placement.width_mm * factor * 10) / 10, unit=unit)
        for garment in facts.garments[:1]
        for design in garment.designs
        if design.placement is not None
    ]
    same = abs(factor - 1) < SAME
    change = "as it is" if same else f"{abs(factor - 1):.1%} {word}"
    said = f"All pieces fit {change}: {', '.join(sizes)} wide. {COUNTED if found.exact else FOUND}"
    way = None if same else resized(facts, factor)
    return Answer(said, () if way is None else (way,))


def missing_film(facts: "Facts", goes_on: "GoesOn", unit: Unit) -> Answer:
    """How much roll is missing."""
    rows = missing(facts)
    if not rows:
        return Answer("Nothing is missing: every piece has its place.")
    said = " ".join(f"{row.film.name}: {missing_said(row, unit)}." for row in rows)
    return Answer(said, tuple(bought(facts)) if _is_limited(facts) else ())


def scraps(facts: "Facts", goes_on: "GoesOn", unit: Unit) -> Answer:
    """What each scrap holds."""
    rows = list(scraps_that_do(facts, goes_on=goes_on))
    if not rows:
        return Answer("There is no scrap of these films on the shelf.")
    said = "\n".join(
        f"{row.film}: scrap {row.item.number} holds "
        + ("all pieces." if row.holds == row.wanted else f"{row.holds} of {row.wanted} pieces.")
        for row in rows
    )
    shelf = WayOut("shelf", set_nesting("cut from the shelf, scraps first", from_shelf=True))
    return Answer(said, () if _is_limited(facts) else (shelf,))


def films(facts: "Facts", goes_on: "GoesOn", unit: Unit) -> Answer:
    """Which films of the shelf are near and enough."""
    rows = list(films_that_do(facts, goes_on=goes_on))
    if not rows:
        return Answer("There is no film of these kinds on the shelf.")
    said = "\n".join(
        f"For {row.instead_of.name}: {row.film.name}, {in_words(row.difference)} ({row.difference:.1f} away), "
        + ("there is enough." if row.enough else "too little.")
        for row in rows
    )
    other = [row for row in rows if row.enough and row.film != row.instead_of]
    return Answer(said, tuple(film_instead(facts, row.instead_of, row.film, row.difference) for row in other))


def mats(facts: "Facts", goes_on: "GoesOn", unit: Unit) -> Answer:
    """What the job takes on every mat."""
    rows = list(mats_that_do(facts, goes_on=goes_on))
    said = "\n".join(
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
    here = next((row for row in rows if row.name == facts.job.nesting.mat), None)
    better = [
        row
        for row in sorted(rows, key=lambda row: row.taken_mm2)
        if row.fits and row is not here and (here is None or not here.fits or row.taken_mm2 < here.taken_mm2)
    ]
    return Answer(said, tuple(on_mat(row.name, row.mat) for row in better))
