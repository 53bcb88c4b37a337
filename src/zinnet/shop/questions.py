"""Answers about the open job: how many more, at what size, what is missing, which scraps, film and mat would do."""

from collections import Counter
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace

import shapely

from zinnet.base.errors import NestError
from zinnet.films.catalogue import Film, by_nearness, kind_of
from zinnet.geometry.region import Region
from zinnet.machines.cutters import Mat
from zinnet.nesting.mat_sheets import sheet_on
from zinnet.nesting.model import NestTask, Piece
from zinnet.nesting.questions import GoesOn, Largest, all_fit, always, how_many_more, largest_size
from zinnet.nesting.running import NestRun
from zinnet.plan.film_edges import edges_of
from zinnet.plan.ledger import taken_by
from zinnet.plan.model import Facts
from zinnet.plan.nests import TEST_CUT, FilmNest
from zinnet.workshop.stock import StockItem
from zinnet.workshop.stock_sheets import sheets_from

MOST_FILMS = 6
SAME_SHAPE_MM = 0.01
TRIAL_S = 2.0


@dataclass(frozen=True)
class MoreGarments:
    """How many more garments one film holds on the mats in use, or on all of it that is on the shelf.

    ``proved`` where no more can go; else so many were found, and there may be room for more.
    """

    film: str
    more: int
    proved: bool


@dataclass(frozen=True)
class ScrapAnswer:
    """How many of a film's pieces one scrap holds, of how many."""

    film: str
    item: StockItem
    holds: int
    wanted: int


@dataclass(frozen=True)
class FilmAnswer:
    """A film of the shelf instead of another: how far its colour is from it, and whether there is enough."""

    film: Film
    instead_of: Film
    difference: float
    enough: bool


@dataclass(frozen=True)
class MatAnswer:
    """What a mat would take of the job: how many loads, how much film, in money where the price is known."""

    name: str
    mat: Mat
    fits: bool
    loads: int
    taken_mm2: float
    cost: float | None


def more_garments(facts: Facts, *, goes_on: GoesOn = always) -> tuple[MoreGarments, ...]:
    """Return for each film for how many more garments it holds pieces, in the proportion in which sizes are made.

    Spare copies stay as they are. Garments of a list of names have words of their own, so that no more of them are
    counted.
    """
    found = []
    for nest in facts.nests:
        rounds = _rounds(facts, nest)
        if nest.layout is not None and nest.task.sheets and rounds:
            task, names = _merged(_limited(nest))
            more = [_by_shape(one, names) for one in rounds]
            held = how_many_more(task, more, goes_on=goes_on)
            found.append(MoreGarments(nest.film.name, held.count, held.proved))
    return tuple(found)


def garments_in_turn(facts: Facts) -> list[int]:
    """Return the sizes by their place, one for each garment made, spread evenly: sizes made often come often."""
    turns = [
        ((copy + 0.5) / garment.copies, place)
        for place, garment in enumerate(facts.garments)
        for copy in range(garment.copies)
    ]
    return [place for _, place in sorted(turns)]


def _rounds(facts: Facts, nest: FilmNest) -> list[dict[str, int]]:
    """Return the pieces of one more garment after the other: sizes that are made often come often."""
    pieces: dict[int, dict[str, int]] = {}
    for part in nest.parts:
        if part.row is None:
            pieces.setdefault(part.garment, {})[part.name] = len(part.places)
    return [pieces[garment] for garment in garments_in_turn(facts) if garment in pieces]


def _merged(task: NestTask) -> tuple[NestTask, dict[str, str]]:
    """Return the task with pieces of one shape as one piece, and under which name each of its pieces counts."""
    kept: list[Piece] = []
    names: dict[str, str] = {}
    for piece in task.pieces:
        twin = next(
            (k for k, one in enumerate(kept) if one.turns == piece.turns and _same_shape(one.region, piece.region)),
            None,
        )
        if twin is None:
            kept.append(piece)
            names[piece.name] = piece.name
        else:
            kept[twin] = replace(kept[twin], copies=kept[twin].copies + piece.copies)
            names[piece.name] = kept[twin].name
    return replace(task, pieces=tuple(kept)), names


def _by_shape(pieces: Mapping[str, int], names: Mapping[str, str]) -> Counter[str]:
    """Return how many of each shape a garment's pieces are."""
    found: Counter[str] = Counter()
    for name, count in pieces.items():
        found[names[name]] += count
    return found


def _same_shape(one: Region, other: Region) -> bool:
    return bool(shapely.equals_exact(shapely.normalize(one), shapely.normalize(other), SAME_SHAPE_MM))


def _limited(nest: FilmNest) -> NestTask:
    """Return the task with its endless mats cut down to those in use."""
    assert nest.layout is not None
    in_use = max(1, len(nest.layout.sheets))
    sheets = tuple(
        sheet if sheet.copies is not None else sheet.model_copy(update={"copies": in_use}) for sheet in nest.task.sheets
    )
    return replace(nest.task, sheets=sheets, pinned=())


def _pieces(nest: FilmNest) -> tuple[Piece, ...]:
    return tuple(piece for piece in nest.task.pieces if piece.name != TEST_CUT)


def largest_for(facts: Facts, *, goes_on: GoesOn = always) -> Largest:
    """Return by what factor the job's artwork may grow, or must shrink, so that each film holds all its pieces.

    The test cut stays as large as it is.
    """
    nests = [nest for nest in facts.nests if nest.task.sheets]
    found = [largest_size(_limited(nest), fixed=(TEST_CUT,), goes_on=goes_on) for nest in nests]
    if not found:
        raise NestError("There is no film to ask about; open artwork, or put film on the shelf.")
    return min(found, key=lambda one: one.factor)


def scraps_that_do(facts: Facts, *, goes_on: GoesOn = always) -> Iterator[ScrapAnswer]:
    """Yield each scrap of the films of the job with how many of the pieces it holds, the smallest scrap first."""
    mat = facts.workshop.machines.mat(facts.job.nesting.mat)
    kept = edges_of(facts.job, facts.workshop).kept_mm
    for nest in facts.nests:
        scraps = [item for item in facts.shelf if item.film == nest.film.id and item.kind == "scrap"]
        pieces = _pieces(nest)
        wanted = sum(piece.copies for piece in pieces)
        for item in sorted(scraps, key=lambda item: item.area_mm2):
            if not goes_on():
                return
            loads = sheets_from([item], mat, edge_mm=kept, directed=kind_of(nest.film).direction)
            sheets = tuple(sheet for sheet, _ in loads)
            task = replace(nest.task, pieces=pieces, sheets=sheets, seconds=TRIAL_S, pinned=())
            best = NestRun(task).wait()
            yield ScrapAnswer(nest.film.name, item, wanted - len(best.unplaced), wanted)


def films_that_do(facts: Facts, *, goes_on: GoesOn = always) -> Iterator[FilmAnswer]:
    """Yield for each film of the job the nearest films of its kind on the shelf, and whether they hold its pieces."""
    mat, stock = facts.workshop.machines.mat(facts.job.nesting.mat), facts.shelf
    on_shelf = {item.film for item in stock}
    kept = edges_of(facts.job, facts.workshop).kept_mm
    for nest in facts.nests:
        alike = tuple(film for film in facts.workshop.films if film.id in on_shelf and film.kind == nest.film.kind)
        for film, difference in by_nearness(nest.film.colour, alike)[:MOST_FILMS]:
            if not goes_on():
                return
            items = [item for item in stock if item.film == film.id]
            loads = sheets_from(items, mat, edge_mm=kept, directed=kind_of(nest.film).direction)
            task = replace(nest.task, pieces=_pieces(nest), sheets=tuple(sheet for sheet, _ in loads), pinned=())
            enough = all_fit(task, seconds=TRIAL_S, goes_on=goes_on)
            yield FilmAnswer(film, nest.film, difference, enough)


def mats_that_do(facts: Facts, *, goes_on: GoesOn = always) -> Iterator[MatAnswer]:
    """Yield what the job takes on every mat of the catalogue that holds its largest piece."""
    for name, mat in facts.workshop.machines.mats:
        if not goes_on():
            return
        tasks = [
            replace(nest.task, sheets=(sheet_on(mat),), pinned=(), pieces=_pieces(nest), seconds=TRIAL_S)
            for nest in facts.nests
        ]
        nests = [NestRun(task).wait() for task in tasks]
        taken = [taken_by(task, layout) for task, layout in zip(tasks, nests, strict=True)]
        prices = [_price_m2(facts, nest.film) for nest in facts.nests]
        costs = [mm2 / 1e6 * price for mm2, price in zip(taken, prices, strict=True) if price is not None]
        yield MatAnswer(
            name,
            mat,
            fits=not any(layout.unplaced for layout in nests),
            loads=sum(len(layout.sheets) for layout in nests),
            taken_mm2=sum(taken),
            cost=sum(costs) if costs and len(costs) == len(taken) else None,
        )


def _price_m2(facts: Facts, film: Film) -> float | None:
    """Return what a square metre of a film cost on average, where a price is known."""
    prices = [item.price_m2 for item in facts.shelf if item.film == film.id and item.price_m2 is not None]
    return sum(prices) / len(prices) if prices else None
