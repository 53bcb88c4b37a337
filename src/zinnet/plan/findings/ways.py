"""Ways out where a film can't hold what is drawn: making it larger by the least that helps, and other films."""

import math
from collections.abc import Callable, Iterator

from zinnet.artwork.source import is_sized
from zinnet.base.units import write_length
from zinnet.data import read_toml
from zinnet.films.catalogue import Film, FilmKind, by_nearness, kind_of
from zinnet.job.edits import Edit, choose_film, set_placement
from zinnet.layers.stack import FilmLayer
from zinnet.plan.fitted import FittedDesign
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
    low, high = 1.0, float(read_toml("limits")["mends"]["most_times"])
    if not holds_at(high):
        return None
    while high - low > FINE:
        middle = (low + high) / 2
        low, high = (low, middle) if holds_at(middle) else (middle, high)
    return high * SURE


def larger(facts: Facts, design: FittedDesign, times: float | None) -> Iterator[Edit]:
    """Yield the edit that makes a design so many times as large, unless its place asks for a smaller one.

    There is none for several that are composed together. What is set in mm, like an outline, is drawn anew at every
    width: it is not made larger by that.
    """
    members = design.made_of
    if times is None or len(members) > 1 or design.words is not None or _is_sized(facts, design):
        return
    width = math.ceil(design.word_width_mm * times / STEP_MM) * STEP_MM
    proposal = design.proposal
    if proposal is not None and proposal.holds(design.word_width_mm) and not proposal.holds(width):
        return
    more = width / design.word_width_mm - 1
    size = facts.garments[0].size
    said = f"enlarge by {math.ceil(more * 100)} %, to {write_length(width, unit=facts.job.unit)}"
    yield set_placement(said, design=design.index, size=size, width_mm=width, height_mm=None)


def _is_sized(facts: Facts, design: FittedDesign) -> bool:
    return is_sized(facts.job.designs[design.index].source)


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
