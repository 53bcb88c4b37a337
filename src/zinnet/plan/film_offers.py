"""Which film a layer could be cut from: how near each comes to the drawn colour, and whether the shelf has enough."""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from zinnet.films.catalogue import Film, by_nearness, kind_of
from zinnet.nesting.model import NestTask, Piece
from zinnet.nesting.shelf import shelf_nest
from zinnet.plan.film_edges import edges_of
from zinnet.plan.model import Facts
from zinnet.plan.nests import ALONG
from zinnet.workshop.stock import StockItem
from zinnet.workshop.stock_sheets import sheets_from

Enough = Literal["enough", "tight", "short", "none"]


@dataclass(frozen=True, eq=False)
class FilmOffer:
    """A film that could be chosen.

    ``difference`` is how far its colour is from the drawn one (CIEDE2000), None where no colour is asked for;
    ``there_mm2`` is what is on the shelf.
    """

    film: Film
    difference: float | None
    there_mm2: float


def film_offers(
    films: tuple[Film, ...], shelf: Collection[StockItem], colour: str | None = None
) -> tuple[FilmOffer, ...]:
    """Return the films as they could be chosen, those nearest to a colour first, else in their own order."""
    pairs = [(film, None) for film in films] if colour is None else by_nearness(colour, films)
    there: dict[str, float] = {}
    for item in shelf:
        there[item.film] = there.get(item.film, 0.0) + item.area_mm2
    return tuple(FilmOffer(film, difference, there.get(film.id, 0.0)) for film, difference in pairs)


def enough_of(facts: Facts, keys: Collection[str]) -> Mapping[str, Enough]:
    """Return for each film whether the shelf has enough of it for some layers, were they cut from it.

    What other layers take of a film is not there for these. "enough" is shown by plain rows of boxes that hold all
    pieces; "short" by their area; between the two it is "tight", and only a nest can tell.

    Parameters
    ----------
    facts
        The job as it is cut now.
    keys
        The keys of the layers that the film is for.
    """
    cut = [
        (nest.film.id, part.layer.key in keys, piece)
        for nest in facts.nests
        for part, piece in zip(nest.parts, nest.task.pieces, strict=False)
    ]
    found: dict[str, Enough] = {}
    for film in facts.workshop.films:
        if kind_of(film).bond == "print":
            continue
        pieces = [piece for its, wanted, piece in cut if wanted or its == film.id]
        items = [item for item in facts.workshop.stock if item.film == film.id]
        found[film.id] = _enough(facts, film, items, pieces) if items else "none"
    return found


def _enough(facts: Facts, film: Film, items: Sequence[StockItem], pieces: Sequence[Piece]) -> Enough:
    if sum(item.area_mm2 for item in items) < sum(piece.region.area * piece.copies for piece in pieces):
        return "short"
    mat = facts.workshop.machines.mat(facts.job.nesting.mat)
    edge = edges_of(facts.job, facts.workshop).kept_mm
    directed = kind_of(film).direction
    turns = ALONG if directed else facts.job.nesting.turns
    task = NestTask(
        pieces=tuple(Piece(piece.name, piece.region, piece.copies, turns) for piece in pieces),
        sheets=tuple(sheet for sheet, _ in sheets_from(items, mat, edge_mm=edge, directed=directed)),
        gap_mm=max((nest.task.gap_mm for nest in facts.nests), default=0.0),
    )
    return "tight" if shelf_nest(task).unplaced else "enough"
