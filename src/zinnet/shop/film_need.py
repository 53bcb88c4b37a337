"""What a job needs of each film, what of it is on the shelf, and how much is missing: asked here by everyone."""

import math
from dataclasses import dataclass

from zinnet.base.stages import stage
from zinnet.base.units import Unit, write_length
from zinnet.films.catalogue import Film
from zinnet.machines.cutters import room
from zinnet.nesting.questions import missing_length
from zinnet.nesting.shelf import least_width
from zinnet.plan.ledger import film_ledger
from zinnet.plan.model import Facts
from zinnet.plan.nests import TEST_CUT, FilmNest

ROUND_MM = 10.0
"""Film is bought in lengths rounded up to so much."""


@dataclass(frozen=True)
class FilmNeed:
    """A film: what the mats take and what is on the shelf (mm2), and how much of a roll of a width is missing.

    ``exact`` says that pieces were nested on the shelf itself, of which ``pieces`` found no room; else areas are
    compared.
    """

    film: Film
    taken_mm2: float
    there_mm2: float
    width_mm: float
    missing_mm: float
    pieces: int
    exact: bool


def film_needs(facts: Facts) -> tuple[FilmNeed, ...]:
    """Return each film of a nested job against the shelf."""
    if not facts.is_nested:
        return ()
    exact = facts.job.nesting.from_shelf
    taken = {ledger.film: ledger.taken_mm2 for ledger in film_ledger(facts).films}
    found = []
    for film in dict.fromkeys(nest.film for nest in facts.nests):
        there = sum(item.area_mm2 for item in facts.shelf if item.film == film.id)
        width = _roll_mm(facts, film)
        nests = tuple(nest for nest in facts.nests if nest.film.id == film.id)
        length, pieces = _unplaced(nests, width) if exact else (max(0.0, taken[film.id] - there) / width, 0)
        rounded = math.ceil(length / ROUND_MM - 1e-9) * ROUND_MM
        found.append(FilmNeed(film, taken[film.id], there, width, rounded, pieces, exact))
    return tuple(found)


def missing(facts: Facts) -> tuple[FilmNeed, ...]:
    """Return the films of which something is missing."""
    return tuple(need for need in film_needs(facts) if need.missing_mm)


def missing_said(need: FilmNeed, unit: Unit) -> str:
    """Return how much of a roll is missing, in words."""
    length, width = write_length(need.missing_mm, unit=unit), write_length(need.width_mm, unit=unit)
    pieces = f", for {need.pieces} piece{'' if need.pieces == 1 else 's'}" if need.pieces else ""
    return f"{length} of a roll {width} wide{pieces if need.exact else ' (by area)'}"


@stage(most=32)
def _unplaced(nests: tuple[FilmNest, ...], width_mm: float) -> tuple[float, int]:
    """Return the length of roll that the pieces need that found no room, and how many they are."""
    length, count = 0.0, 0
    for nest in nests:
        if nest.layout is not None and nest.layout.unplaced:
            length += missing_length(nest.task, nest.layout, width_mm, margin_mm=room().edge_mm)
            count += sum(name != TEST_CUT for name in nest.layout.unplaced)
    return length, count


def _roll_mm(facts: Facts, film: Film) -> float:
    """Return how wide the film is bought: as its widest roll on the shelf, else as it is sold, else as the mat.

    Where a piece is wider than that: the first of them that takes every piece, else as wide as the widest piece.
    """
    mat = facts.workshop.machines.mat(facts.job.nesting.mat)
    rolls = [one.width_mm for one in facts.shelf if one.film == film.id and one.kind == "roll"]
    widths = [*sorted(rolls)[-1:], *([film.roll_mm] if film.roll_mm else []), min(mat.width_mm, mat.height_mm)]
    pieces = [piece for nest in facts.nests if nest.film.id == film.id for piece in nest.task.pieces]
    least = max(least_width(piece) for piece in pieces) + 2 * room().edge_mm
    return next((width for width in widths if width >= least - 1e-6), math.ceil(least))
