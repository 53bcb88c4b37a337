"""What is cut: the layers of every design on every size as rigid pieces, as cut."""

import math
from collections import Counter
from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import shapely

from zinnet.artwork.model import Group
from zinnet.base.stages import stage
from zinnet.films.catalogue import kind_of
from zinnet.geometry.region import EMPTY, Region
from zinnet.geometry.transform import IDENTITY, MIRROR, Matrix, moved, shift, turn
from zinnet.layers.marks import Marks, frame_box, marks_of
from zinnet.layers.parting import Parts
from zinnet.layers.split import ColourLayer
from zinnet.layers.stack import FilmLayer
from zinnet.plan.fitted import FittedDesign, Garment
from zinnet.plan.named import NamedGarment


@dataclass(frozen=True, eq=False)
class CutPart:
    """What is cut of one layer as one rigid piece: as cut, about the artwork's centre.

    ``garment`` and ``composition`` say where it belongs, ``designs`` of what that is made, ``places`` for which of its
    places it is cut, ``row`` whose it is of the list of names. As cut it is the artwork moved by ``to_cut``.
    """

    name: str
    layer: FilmLayer
    region: Region
    drawn: tuple[Region, ...]
    garment: int
    composition: int
    designs: tuple[int, ...]
    places: tuple[int, ...]
    to_cut: Matrix
    marks: Marks | None = None
    row: int | None = None
    part: int = 0
    """Which piece of its layer it is, counted from 0."""

    @cached_property
    def room(self) -> Region:
        """What the piece takes on the mat: its weed frame where it has one."""
        return self.region if self.marks is None else Region([self.marks.frame])


@dataclass(frozen=True)
class CutRequest:
    """What is cut of one composition on one size: its layers, and how each of its places is turned (degrees)."""

    prefix: str
    garment: int
    composition: int
    designs: tuple[int, ...]
    layers: tuple[FilmLayer, ...]
    middle: tuple[float, float]
    groups: tuple[Group, ...]
    turns: tuple[float, ...]
    copies: int
    marks: Marks | None
    row: int | None = None


def cut_requests(
    garments: Sequence[Garment], named: Sequence[NamedGarment], marked: bool, had: Collection[str] = ()
) -> tuple[CutRequest, ...]:
    """Return what is cut of every design on every size, and of the words of every name.

    ``marked`` asks for register marks and their frame; ``had`` are the layers that are cut already, by their keys.
    """
    found: list[CutRequest] = []
    for number, garment in enumerate(garments):
        size = f"{garment.size}-" if len(garments) > 1 else ""
        taken = Counter(k for one in named if one.garment == number for k in one.taken for _ in range(one.names.count))
        for index, composed in enumerate(garment.same):
            copies = garment.copies - taken[index]
            if copies > 0:
                found.append(_request(composed, size, number, index, copies, marked, had))
    for one in named:
        for index, composed in enumerate(one.compositions):
            found.append(_request(composed, one.key, one.garment, index, one.names.count, marked, had, one.row))
    return tuple(found)


def _request(
    composed: FittedDesign,
    prefix: str,
    garment: int,
    number: int,
    copies: int,
    marked: bool,
    had: Collection[str],
    row: int | None = None,
) -> CutRequest:
    assert composed.placement is not None
    return CutRequest(
        prefix=prefix + composed.key,
        garment=garment,
        composition=number,
        designs=composed.indices,
        layers=tuple(row for row in composed.layers if row.key not in had),
        middle=(composed.placement.width_mm / 2, composed.placement.height_mm / 2),
        groups=composed.groups,
        turns=tuple(_turn_of(matrix) for matrix in composed.placement.matrices),
        copies=copies,
        marks=marks_of(composed.stack) if marked and composed.stack is not None else None,
        row=row,
    )


def _turn_of(matrix: Matrix) -> float:
    """Return by how many degrees a similarity turns, clockwise on screen."""
    return round(math.degrees(math.atan2(matrix[1, 0], matrix[0, 0])), 6) % 360


@stage(most=4096)
def cut_parts(
    request: CutRequest, layer: FilmLayer, parts: Parts, *, joined: bool, framed: bool
) -> tuple[CutPart, ...]:
    """Return the rigid pieces of a layer, each of so many of its parts; ``framed`` by weed frames.

    Film with a direction lies the way it is worn: places that are turned otherwise are pieces of their own.
    """
    assert layer.film is not None
    assert layer.side is not None
    groups: dict[float, list[int]] = {}
    for index, angle in enumerate(request.turns):
        groups.setdefault(angle if kind_of(layer.film).direction else request.turns[0], []).append(index)
    side = MIRROR if layer.side.mirrored else IDENTITY
    found: list[CutPart] = []
    for number, (angle, places) in enumerate(groups.items()):
        to_cut = side @ turn(angle) @ shift(-request.middle[0], -request.middle[1])
        suffix = f"-turn-{number + 1}" if number else ""
        found += _pieces(request, layer, to_cut, tuple(places), suffix, parts, joined)
    return tuple(_framed(part) for part in found) if framed else tuple(found)


def _framed(part: CutPart) -> CutPart:
    """Return the part with a plain weed frame, unless it has one with marks."""
    if part.marks is not None:
        return part
    return replace(part, marks=Marks(shapely.box(*frame_box(part.region.bounds)), EMPTY))


def _pieces(
    request: CutRequest,
    layer: FilmLayer,
    to_cut: Matrix,
    places: tuple[int, ...],
    suffix: str,
    pieces: Parts,
    joined: bool,
) -> Iterator[CutPart]:
    colour: ColourLayer = layer.layer
    name = f"{request.prefix}layer-{colour.order}{suffix}"
    region = moved(colour.region, to_cut)
    drawn = (region,) if joined else tuple(moved(one, to_cut) for one in colour.drawn)

    def part(part_name: str, part_region: Region, own: tuple[Region, ...], number: int = 0) -> CutPart:
        whole = len(pieces) == 1 and request.marks is not None
        marks = request.marks.moved(to_cut) if whole and request.marks is not None else None
        return CutPart(
            name=part_name,
            layer=layer,
            region=part_region,
            drawn=own,
            garment=request.garment,
            composition=request.composition,
            designs=request.designs,
            places=places,
            to_cut=to_cut,
            marks=marks,
            row=request.row,
            part=number,
        )

    if len(pieces) == 1:
        yield part(name, region, drawn)
        return
    for number, piece in enumerate(pieces, start=1):
        one = Region([region.geoms[index] for index in piece])
        own = tuple(shape for shape in drawn if shape.intersects(one)) if not joined else (one,)
        yield part(f"{name}-part-{number}", one, own, number - 1)
