"""Cutting apart: which piece on a mat is whose, how its carrier is trimmed, and what is written on it."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

from zinnet.films.catalogue import Film
from zinnet.geometry.region import Region
from zinnet.geometry.transform import moved, shift
from zinnet.nesting.sheet import film_of
from zinnet.plan.loading import LoadedMat
from zinnet.plan.model import Facts
from zinnet.plan.presses import GarmentPress, piece_key
from zinnet.plan.run_garments import Owner, owners_of
from zinnet.pressing.at_once import groups_of, trim_mm
from zinnet.pressing.heat_values import press_numbers

Box = tuple[float, float, float, float]
EDGE_MM = 0.11
"""So near to the film's edge a side is that edge: margins are rounded down to tenths."""
ROW_MM = 20.0
"""Pieces whose upper edges are no farther apart are read as one row."""


@dataclass(frozen=True, eq=False)
class CutOff:
    """One piece that is cut off a mat: where it lies there, and its carrier trimmed to a rectangle, all in mm.

    ``trim`` is left, top, right, bottom on the mat; ``margins_mm`` are how far its four sides lie from the film, in
    that order; where ``own_edges`` says so one is the film's own edge: nothing is cut. ``owner`` is None for a spare.
    One that is ``tangled`` has a neighbour in its rectangle: it is cut free between the two first.
    """

    number: int
    layer: str
    film: Film
    region: Region
    trim: Box
    margins_mm: tuple[float, float, float, float]
    owner: Owner | None
    own_edges: tuple[bool, bool, bool, bool] = (False, False, False, False)
    tangled: bool = False

    @property
    def size_mm(self) -> tuple[float, float]:
        """How wide and how high the carrier is, trimmed."""
        left, top, right, bottom = self.trim
        return right - left, bottom - top

    @property
    def mark(self) -> str:
        """What is written on its carrier, outside the film."""
        return "spare" if self.owner is None else f"No. {self.owner.number}"


@dataclass(frozen=True, eq=False)
class MatApart:
    """A mat that is cut apart: its pieces in rows, as one reads."""

    load: LoadedMat
    pieces: tuple[CutOff, ...]


def mats_apart(facts: Facts) -> tuple[MatApart, ...]:
    """Return how each mat of film is cut apart, in the order of cutting; a print is trimmed by its own lines."""
    owners, trims = owners_of(facts), trims_of(facts.presses)
    return tuple(_apart(facts, load, owners, trims) for load in facts.loads if not load.is_printed)


def _apart(
    facts: Facts, load: LoadedMat, owners: dict[tuple[str, int], Owner], trims: dict[tuple[int, str], float]
) -> MatApart:
    usual = facts.job.pressing.trim_mm or press_numbers().trim.carrier_mm
    rows: list[tuple[Region, str, Film, Owner | None, float, Box]] = []
    for on_mat, mat in zip(load.trims, load.mats, strict=True):
        by = shift(*load.stuck_at(on_mat))
        edges = moved(film_of(mat.sheet), by).bounds
        for placed, region in zip(mat.layout.placed, mat.regions, strict=True):
            part = mat.nest.part(placed.piece)
            layer = f"layer {part.layer.layer.order}, {mat.nest.film.name}"
            key = part.garment, piece_key(facts.composition_of(part), part.layer)
            owner = owners.get((placed.piece, placed.copy_number))
            rows.append((moved(region, by), layer, mat.nest.film, owner, trims.get(key, usual), edges))
    boxes = [row[0].bounds for row in rows]
    order = sorted(range(len(rows)), key=lambda k: (round(boxes[k][1] / ROW_MM), boxes[k][0]))
    found = []
    for number, k in enumerate(order, start=1):
        region, layer, film, owner, wanted, edge = rows[k]
        box, others = boxes[k], [one for j, one in enumerate(boxes) if j != k]
        margins = _margins(box, others, wanted, edge)
        trim = (box[0] - margins[0], box[1] - margins[1], box[2] + margins[2], box[3] + margins[3])
        left, top, right, bottom = (abs(a - b) < EDGE_MM for a, b in zip(trim, edge, strict=True))
        tangled = any(_overlap(box, other) for other in others)
        found.append(CutOff(number, layer, film, region, trim, margins, owner, (left, top, right, bottom), tangled))
    return MatApart(load, tuple(found))


def trims_of(presses: Sequence[GarmentPress]) -> dict[tuple[int, str], float]:
    """Return how close each piece's carrier is trimmed, by its size and its key: so that none lies on other film."""
    found: dict[tuple[int, str], float] = {}
    for size, press in enumerate(presses):
        for work in press.works:
            for group in groups_of(work.pieces, together=work.spec.together):
                trim = trim_mm(group, work.spec.trim_mm)
                found |= {(size, piece.key): trim for piece in group}
    return found


def _overlap(one: Box, other: Box) -> bool:
    return one[0] < other[2] and other[0] < one[2] and one[1] < other[3] and other[1] < one[3]


def _margins(box: Box, others: list[Box], wanted_mm: float, edge: Box) -> tuple[float, float, float, float]:
    """Return how far from a piece's box its four sides lie when its carrier is trimmed.

    As wanted, or half of what is free to a neighbour, or at the film's own edge, which needs no cut.
    """
    left, top = min(wanted_mm, box[0] - edge[0]), min(wanted_mm, box[1] - edge[1])
    right, bottom = min(wanted_mm, edge[2] - box[2]), min(wanted_mm, edge[3] - box[3])
    for other in others:
        beside = other[1] < box[3] + wanted_mm and other[3] > box[1] - wanted_mm
        above = other[0] < box[2] + wanted_mm and other[2] > box[0] - wanted_mm
        if beside and other[2] <= box[0] + 1e-9:
            left = min(left, (box[0] - other[2]) / 2)
        if beside and other[0] >= box[2] - 1e-9:
            right = min(right, (other[0] - box[2]) / 2)
        if above and other[3] <= box[1] + 1e-9:
            top = min(top, (box[1] - other[3]) / 2)
        if above and other[1] >= box[3] - 1e-9:
            bottom = min(bottom, (other[1] - box[3]) / 2)
    down = [max(0.0, math.floor(one * 10 + 1e-6) / 10) for one in (left, top, right, bottom)]
    return down[0], down[1], down[2], down[3]
