"""Film in numbers: what is taken, what ends on garments, what is kept, and what rows of boxes would have taken."""

from dataclasses import dataclass, replace

from zinnet.base.stages import stage
from zinnet.machines.cutters import room
from zinnet.nesting.model import Layout, NestTask
from zinnet.nesting.shelf import shelf_nest
from zinnet.plan.model import Facts
from zinnet.plan.nests import FilmNest, NestedMat
from zinnet.plan.trims import loads_cut
from zinnet.workshop.after_cut import Leftover, leftovers


@dataclass(frozen=True)
class FilmUse:
    """The use of one film, in mm2, and in money where all prices are known.

    ``whole_mm2`` of what is taken is film that was no scrap; ``kept_mm2`` goes back on the shelf. ``rows_mm2`` is what
    the pieces take in rows of their boxes, as most people lay them; None where they do not fit so.
    """

    film: str
    taken_mm2: float
    whole_mm2: float
    pieces_mm2: float
    kept_mm2: float
    rows_mm2: float | None
    cost: float | None

    @property
    def waste_mm2(self) -> float:
        """What is thrown away."""
        return max(0.0, self.taken_mm2 - self.pieces_mm2 - self.kept_mm2)


@dataclass(frozen=True)
class JobUse:
    """The use of all films of a job for so many garments."""

    films: tuple[FilmUse, ...]
    garments: int

    @property
    def taken_mm2(self) -> float:
        """The film taken for the whole job."""
        return sum(film.taken_mm2 for film in self.films)

    @property
    def whole_mm2(self) -> float:
        """The film taken that was no scrap."""
        return sum(film.whole_mm2 for film in self.films)

    @property
    def pieces_mm2(self) -> float:
        """The film that ends on garments."""
        return sum(film.pieces_mm2 for film in self.films)

    @property
    def kept_mm2(self) -> float:
        """What goes back on the shelf."""
        return sum(film.kept_mm2 for film in self.films)

    @property
    def waste_mm2(self) -> float:
        """What is thrown away."""
        return sum(film.waste_mm2 for film in self.films)

    @property
    def rows_mm2(self) -> float | None:
        """What rows of boxes would take, where that is known of every film."""
        rows = [film.rows_mm2 for film in self.films]
        return None if None in rows else sum(row for row in rows if row is not None)

    @property
    def cost(self) -> float | None:
        """What the film that is used up costs, where every price is known."""
        costs = [film.cost for film in self.films]
        return None if not costs or None in costs else sum(cost for cost in costs if cost is not None)


def film_use(facts: Facts) -> JobUse:
    """Return the use of film of a job."""
    rows = (_use(nest, tuple(mat for mat in facts.mats if mat.nest is nest)) for nest in facts.nests)
    return JobUse(tuple(rows), facts.copies)


@stage(most=64)
def left_of_mats(mats: tuple[NestedMat, ...]) -> tuple[Leftover, ...]:
    """Return what is left of the film from the shelf that is on the mats, once they are cut."""
    return leftovers(loads_cut(mats), least_mm=room().least_kept_mm)


@stage(most=32)
def _use(nest: FilmNest, mats: tuple[NestedMat, ...]) -> FilmUse:
    left = left_of_mats(mats)
    whole = sum(one.taken_mm2 for one in left if one.item.kind != "scrap") + sum(
        mat.sheet.height_mm * _length(mat.sheet.width_mm, mat.layout.used_length_mm, mat.sheet.margin_mm)
        for mat in mats
        if mat.item is None
    )
    taken = whole + sum(one.taken_mm2 for one in left if one.item.kind == "scrap")
    kept = sum(one.kept_mm2(one.usual) for one in left)
    prices = [one.item.price_m2 for one in left]
    known = bool(left) and None not in prices and all(mat.item is not None for mat in mats)
    cost = sum((one.taken_mm2 - one.kept_mm2(one.usual)) / 1e6 * (one.item.price_m2 or 0.0) for one in left)
    pieces = sum(mat.film_mm2 for mat in mats)
    return FilmUse(nest.film.id, taken, whole, pieces, kept, _rows_mm2(nest.task), cost if known else None)


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
        sheet.height_mm * _length(sheet.width_mm, one.used_length_mm, sheet.margin_mm)
        for one in layout.sheets
        for sheet in (task.sheets[one.sheet],)
    )


def _length(width_mm: float, reach_mm: float, margin_mm: float) -> float:
    return min(width_mm, reach_mm + margin_mm)
