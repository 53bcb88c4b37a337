"""The ledger of film: all that is taken is on a garment, kept for another job, or lost, and what is lost has its kind.

This is the one place where film is counted: window, papers, prices, the log and the commands read it from here.
"""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal, get_args

import shapely

from zinnet.base.stages import stage
from zinnet.geometry.region import EMPTY, Region, as_region, common, union, without
from zinnet.geometry.transform import IDENTITY, Matrix, moved
from zinnet.machines.cutters import room
from zinnet.nesting.model import Layout, NestTask
from zinnet.nesting.sheet import Sheet, film_of
from zinnet.nesting.shelf import shelf_nest
from zinnet.plan.model import Facts
from zinnet.plan.nests import FilmNest, NestedMat
from zinnet.plan.run_garments import owners_of
from zinnet.plan.trims import loads_cut
from zinnet.pressing.heat_values import press_numbers
from zinnet.workshop.after_cut import CutLoad, Leftover, leftovers
from zinnet.workshop.stock_sheets import to_film

Loss = Literal["miscut", "spare", "test cut", "counters", "spoiled", "margins", "between pieces", "around them"]
LOSSES: tuple[Loss, ...] = get_args(Loss)
"""The kinds of loss, in the order in which film is counted to them.

Pieces that were cut again; spare copies; the spot of the test cut; counters of pieces; spots that were no good before;
the margins of the film;
what lies among the pieces of a mat, within their hull; what lies around them and is too narrow to be used again.
"""


@dataclass(frozen=True)
class FilmLedger:
    """Where the film of one kind goes, in mm2: ``taken_mm2`` is the sum of all the rest.

    ``whole_mm2`` of what is taken was no scrap. ``used_up`` is what is taken and not kept, by what a square metre
    of it cost (None where that is not known). ``rows_mm2`` is what the pieces take in rows of their boxes, as most
    people lay them; None where they do not fit so.
    """

    film: str
    name: str
    taken_mm2: float
    whole_mm2: float
    on_garments_mm2: float
    kept_mm2: float
    lost: Mapping[Loss, float]
    used_up: tuple[tuple[float | None, float], ...]
    rows_mm2: float | None

    @property
    def lost_mm2(self) -> float:
        """What is thrown away."""
        return sum(self.lost.values())

    @property
    def used_up_mm2(self) -> float:
        """What is taken and not kept: it is on garments, or lost."""
        return self.taken_mm2 - self.kept_mm2


@dataclass(frozen=True)
class JobLedger:
    """The ledgers of all films of a job for so many garments; ``short`` pieces have found no room."""

    films: tuple[FilmLedger, ...]
    garments: int
    short: int

    @property
    def taken_mm2(self) -> float:
        """The film taken for the whole job."""
        return sum(film.taken_mm2 for film in self.films)

    @property
    def whole_mm2(self) -> float:
        """The film taken that was no scrap."""
        return sum(film.whole_mm2 for film in self.films)

    @property
    def on_garments_mm2(self) -> float:
        """The film that ends on garments."""
        return sum(film.on_garments_mm2 for film in self.films)

    @property
    def kept_mm2(self) -> float:
        """What goes back on the shelf."""
        return sum(film.kept_mm2 for film in self.films)

    @property
    def lost(self) -> dict[Loss, float]:
        """What is thrown away, by its kind."""
        return {kind: sum(film.lost[kind] for film in self.films) for kind in LOSSES}

    @property
    def lost_mm2(self) -> float:
        """What is thrown away."""
        return sum(film.lost_mm2 for film in self.films)

    @property
    def rows_mm2(self) -> float | None:
        """What rows of boxes would take, where that is known of every film."""
        return _all_known([film.rows_mm2 for film in self.films])


def film_ledger(facts: Facts) -> JobLedger:
    """Return where the film of a job goes."""
    nests: dict[str, list[FilmNest]] = {}
    for nest in facts.nests:
        nests.setdefault(nest.film.id, []).append(nest)
    worn = frozenset(owners_of(facts))
    films = (
        _with_miscuts(
            _film(tuple(same), tuple(mat for mat in facts.mats if mat.nest.film.id == film), worn),
            sum(one.taken_mm2 for one in facts.job.miscuts if one.film == film),
        )
        for film, same in nests.items()
    )
    short = sum(len(nest.layout.unplaced) for nest in facts.nests if nest.layout is not None)
    return JobLedger(tuple(films), facts.copies, short)


def _with_miscuts(ledger: FilmLedger, miscut_mm2: float) -> FilmLedger:
    """Return the ledger of a film with what went for pieces that were cut again."""
    if not miscut_mm2:
        return ledger
    return replace(
        ledger,
        taken_mm2=ledger.taken_mm2 + miscut_mm2,
        whole_mm2=ledger.whole_mm2 + miscut_mm2,
        lost={**ledger.lost, "miscut": miscut_mm2},
        used_up=(*ledger.used_up, (None, miscut_mm2)),
    )


@stage(most=64)
def left_of_mats(mats: tuple[NestedMat, ...]) -> tuple[Leftover, ...]:
    """Return what is left of the film from the shelf that is on the mats, once they are cut."""
    return left_of(loads_cut(mats))


def left_of(loads: Sequence[CutLoad]) -> tuple[Leftover, ...]:
    """Return what can be used again of the film of some loads, their pieces cut out with trimmed carriers."""
    return leftovers(loads, least_mm=room().least_kept_mm, trim_mm=press_numbers().trim.carrier_mm)


@dataclass(frozen=True, eq=False)
class _Film:
    """One piece of film and what was done to it: the mats that it lay on, each with the matrix to its coordinates."""

    taken: Region
    kept: Region
    spoiled: Region
    mats: tuple[tuple[NestedMat, Matrix], ...]
    price_m2: float | None
    scrap: bool


@stage(most=32)
def _film(nests: tuple[FilmNest, ...], mats: tuple[NestedMat, ...], worn: frozenset[tuple[str, int]]) -> FilmLedger:
    pieces = list(_pieces_of_film(mats))
    worn_mm2 = 0.0
    lost: dict[Loss, float] = dict.fromkeys(LOSSES, 0.0)
    used_up: dict[float | None, float] = {}
    for piece in pieces:
        on_garments = _cut_of(piece, worn, spare=False)
        area = float(sum(region.area for region in on_garments))
        worn_mm2 += area
        for kind, size in _lost(piece, on_garments, worn):
            lost[kind] += size
        used_up[piece.price_m2] = used_up.get(piece.price_m2, 0.0) + piece.taken.area - piece.kept.area
    return FilmLedger(
        film=nests[0].film.id,
        name=nests[0].film.name,
        taken_mm2=sum(piece.taken.area for piece in pieces),
        whole_mm2=sum(piece.taken.area for piece in pieces if not piece.scrap),
        on_garments_mm2=worn_mm2,
        kept_mm2=sum(piece.kept.area for piece in pieces),
        lost=lost,
        used_up=tuple(used_up.items()),
        rows_mm2=_all_known([_rows_mm2(nest.task) for nest in nests]),
    )


def _pieces_of_film(mats: tuple[NestedMat, ...]) -> Iterator[_Film]:
    """Yield each piece of film; of a mat that is full of film all is used up, since nothing of it is on the shelf."""
    from_shelf = tuple(mat for mat in mats if mat.item is not None)
    loads = loads_cut(from_shelf)
    by_load = dict(zip(map(id, loads), from_shelf, strict=True))
    for left in left_of(loads):
        item = left.item
        yield _Film(
            left.taken,
            left.region if left.usual == "as it is" else EMPTY,
            EMPTY if item.spoiled is None else common(left.taken, item.spoiled),
            tuple((by_load[id(load)], to_film(load.sheet, item)) for load in left.loads),
            item.price_m2,
            item.kind == "scrap",
        )
    for mat in mats:
        if mat.item is None:
            whole = as_region(shapely.box(0, 0, mat.reach_mm, mat.sheet.height_mm))
            yield _Film(whole, EMPTY, EMPTY, ((mat, IDENTITY),), None, False)


def _cut_of(piece: _Film, worn: frozenset[tuple[str, int]], *, spare: bool) -> list[Region]:
    """Return what is cut of a piece of film for garments, or as a spare copy."""
    return [
        moved(region, matrix)
        for mat, matrix in piece.mats
        for placed, region in zip(mat.layout.placed, mat.regions, strict=True)
        if ((placed.piece, placed.copy_number) not in worn) == spare
    ]


def _lost(piece: _Film, on_garments: list[Region], worn: frozenset[tuple[str, int]]) -> Iterator[tuple[Loss, float]]:
    """Yield how much of a piece of film is lost in which way; each spot is counted once, to the first kind it is of."""
    rest = without(without(piece.taken, union(on_garments)), piece.kept)
    mats = piece.mats
    where: dict[Loss, Region] = {
        "spare": union(_cut_of(piece, worn, spare=True)),
        "test cut": union([moved(mat.test_spot, by) for mat, by in mats if mat.test_spot is not None]),
        "counters": union(
            [moved(shapely.Polygon(hole), by) for mat, by in mats for hole in _counters(mat)],
        ),
        "spoiled": piece.spoiled,
        "margins": union([moved(_margin(mat.sheet), by) for mat, by in mats]),
        "between pieces": union(
            [moved(as_region(shapely.convex_hull(shapely.union_all(mat.rooms))), by) for mat, by in mats]
        ),
    }
    for kind, region in where.items():
        yield kind, float(common(rest, region).area)
        rest = without(rest, region)
    yield "around them", float(rest.area)


def _counters(mat: NestedMat) -> Iterator[shapely.LinearRing]:
    return (hole for region in mat.regions for part in region.geoms for hole in part.interiors)


def _margin(sheet: Sheet) -> Region:
    """Return the film along the edges of a load that is kept free."""
    film = film_of(sheet)
    return without(film, shapely.buffer(film, -sheet.margin_mm, quad_segs=16)) if sheet.margin_mm else EMPTY


def _rows_mm2(task: NestTask) -> float | None:
    """Return the film that rows of boxes take on full mats of the first plain kind of sheet."""
    plain = next((index for index, sheet in enumerate(task.sheets) if sheet.is_plain and sheet.kind != "scrap"), None)
    if plain is None:
        return None
    sheet = task.sheets[plain].model_copy(update={"copies": None})
    layout: Layout = shelf_nest(
        NestTask(pieces=task.pieces, sheets=(sheet,), gap_mm=task.gap_mm, inside_counters=False)
    )
    if layout.unplaced:
        return None
    return taken_by(replace(task, sheets=(sheet,)), layout)


def taken_by(task: NestTask, layout: Layout) -> float:
    """Return how much film a layout takes: of each sheet up to its last piece and margin."""
    return sum(
        sheet.height_mm * min(sheet.width_mm, one.used_length_mm + sheet.margin_mm)
        for one in layout.sheets
        for sheet in (task.sheets[one.sheet],)
    )


def _all_known(numbers: Sequence[float | None]) -> float | None:
    known = [number for number in numbers if number is not None]
    return sum(known) if len(known) == len(numbers) else None
