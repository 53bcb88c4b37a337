"""Ways out where a film can't hold what is drawn: making it larger by the least that helps, and other films."""

import math
from collections.abc import Callable, Iterator
from functools import partial

from zinnet.artwork.source import is_sized
from zinnet.base.units import write_length
from zinnet.data.limits import limits
from zinnet.films.catalogue import Film, FilmKind, by_nearness, kind_of
from zinnet.job.edits import Edit, choose_film, set_placement, set_recipe
from zinnet.layers.stack import FilmLayer
from zinnet.plan.drawn_anew import rows_that_hold, width_that_holds
from zinnet.plan.findings.subject import several
from zinnet.plan.fitted import FittedDesign
from zinnet.plan.fitting import fitting_of
from zinnet.plan.model import Facts

FINE = 1 / 50
SURE = 1.045
"""What is measured is looked at in steps of 4 %."""
STEP_MM = 0.5
MOST_FILMS = 2


def least_times(holds_at: Callable[[float], bool]) -> float | None:
    """Return how many times as large is enough, within a fiftieth; None where no size up to the most is.

    Parameters
    ----------
    holds_at : function of a factor
        Whether the film holds everything at that size.
    """
    low, high = 1.0, float(limits()["mends"]["most_times"])
    if not holds_at(high):
        return None
    while high - low > FINE:
        middle = (low + high) / 2
        low, high = (low, middle) if holds_at(middle) else (middle, high)
    return high * SURE


def larger(facts: Facts, design: FittedDesign, times: float | None) -> Iterator[Edit]:
    """Yield the edit that makes a design so many times as large, unless its place asks for a smaller one.

    There is none for several that are composed together. What is set in mm, like an outline, is drawn anew at every
    width: for that, it is the least width at which all of it holds, and fewer rows of a word.
    """
    if len(design.made_of) > 1 or design.words is not None:
        return
    if is_sized(facts.job.designs[design.index].source):
        yield from _drawn_anew(facts, design)
    elif times is not None:
        width = math.ceil(design.word_width_mm * times / STEP_MM) * STEP_MM
        if _may_be(design, width):
            yield _enlarge(facts, design, width)


def _may_be(design: FittedDesign, width_mm: float) -> bool:
    """Tell whether a design's place takes it at a width, or takes it no better as it is."""
    proposal = design.proposal
    return proposal is None or not proposal.holds(design.word_width_mm) or proposal.holds(width_mm)


def _enlarge(facts: Facts, design: FittedDesign, width_mm: float) -> Edit:
    more = width_mm / design.word_width_mm - 1
    said = f"enlarge by {math.ceil(more * 100)} %, to {write_length(width_mm, unit=facts.job.unit)}"
    return set_placement(said, design=design.index, size=facts.garments[0].size, width_mm=width_mm, height_mm=None)


def _drawn_anew(facts: Facts, design: FittedDesign) -> Iterator[Edit]:
    fitting, garment = fitting_of(facts.job, facts.workshop), facts.garments[0]
    width = width_that_holds(fitting, garment, design, may_be=partial(_may_be, design))
    if width is not None:
        yield _enlarge(facts, design, width)
        return
    rows = rows_that_hold(fitting, garment, design)
    if rows is not None:
        yield set_recipe(f"take {several(rows, 'row', 'rows')}", "word", design.index, rows=rows)


def other_films(facts: Facts, row: FilmLayer, holds: Callable[[FilmKind], bool]) -> Iterator[Edit]:
    """Yield the edits that cut a layer from the nearest other films that hold it, none that is used already."""
    if row.film is None:
        return
    bond = kind_of(row.film).bond
    used = used_films(facts)
    fit = tuple(
        film
        for film in facts.workshop.films
        if film.id not in used and kind_of(film).bond == bond and holds(kind_of(film))
    )
    for film, off in by_nearness(row.film.colour, fit)[:MOST_FILMS]:
        yield use_film(row, film, off)


def same_finish(facts: Facts, row: FilmLayer, holds: Callable[[Film], bool]) -> Iterator[Edit]:
    """Yield the edits that cut a layer from the nearest films that look alike and do, none that is used already."""
    if row.film is None:
        return
    used, old = used_films(facts), kind_of(row.film)
    alike = tuple(
        film
        for film in facts.workshop.films
        if film.id not in used and (kind_of(film).finish, kind_of(film).bond) == (old.finish, old.bond) and holds(film)
    )
    for film, off in by_nearness(row.film.colour, alike)[:MOST_FILMS]:
        yield use_film(row, film, off)


def used_films(facts: Facts) -> set[str]:
    """Return the films that the job is cut from."""
    return {row.film.id for design in facts.garments[0].compositions for row in design.layers if row.film is not None}


def use_film(row: FilmLayer, film: Film, off: float) -> Edit:
    """Return the edit that cuts a layer from a film; its name says what else changes."""
    edit = choose_film(row.colours[0], film.id, *row.colours[1:])
    old, new = row.film and kind_of(row.film).finish, kind_of(film).finish
    finish = "" if old == new else f", {new}"
    return Edit(f"use {film.name}{finish}, {off:.0f} away", edit.make)
