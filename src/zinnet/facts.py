"""The facts of a job: every stage of the work, derived from the job and the workshop, nothing judged yet."""

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache

import numpy as np
import shapely

from zinnet.artwork.model import Artwork, Group
from zinnet.blanks.model import Blank
from zinnet.fitted import FittedDesign, Garment, garments_of
from zinnet.geometry.region import Region
from zinnet.geometry.transform import IDENTITY, MIRROR, Matrix, apply, moved, shift, turn
from zinnet.job import Job
from zinnet.layers.films import Film, kind_of
from zinnet.layers.marks import Marks, marks_of
from zinnet.layers.split import ColourLayer, Split
from zinnet.layers.stack import FilmLayer
from zinnet.nesting.mats import gap_of, mat_sheet
from zinnet.nesting.model import Layout, NestSpec, NestTask, Piece, SheetLayout
from zinnet.nesting.sheet import Sheet
from zinnet.nesting.verify import Fault, count_faults, faults
from zinnet.placement.place import Placement
from zinnet.workshop import Workshop


@dataclass(frozen=True, eq=False)
class CutPart:
    """What is cut of one layer as one rigid piece: as cut, about the artwork's centre.

    ``garment`` and ``design`` say where it belongs, ``places`` which of the design's places it is cut for. As cut it
    is the artwork moved by ``to_cut``.
    """

    name: str
    layer: FilmLayer
    region: Region
    drawn: tuple[Region, ...]
    garment: int
    design: int
    places: tuple[int, ...]
    to_cut: Matrix
    marks: Marks | None = None

    @cached_property
    def room(self) -> Region:
        """What the piece takes on the mat: its weed frame where it has one."""
        return self.region if self.marks is None else Region([self.marks.frame])


@dataclass(frozen=True, eq=False)
class FilmNest:
    """All that is cut from one film: the pieces, the task they make, and the nest where there is one."""

    film: Film
    mirrored: bool
    parts: tuple[CutPart, ...]
    task: NestTask
    layout: Layout | None = None

    @property
    def key(self) -> str:
        """What the nest depends on."""
        return self.task.key

    @cached_property
    def _by_name(self) -> dict[str, CutPart]:
        return {part.name: part for part in self.parts}

    def has(self, name: str) -> bool:
        """Tell whether a part of this name is cut from the film."""
        return name in self._by_name

    def part(self, name: str) -> CutPart:
        """Return one part by its name."""
        return self._by_name[name]


@dataclass(frozen=True, eq=False)
class Mat:
    """One mat as it is loaded: a film, and what is cut from it."""

    number: int
    nest: FilmNest
    sheet: Sheet
    layout: SheetLayout

    @cached_property
    def regions(self) -> tuple[Region, ...]:
        """What is cut, in the order of the layout's placements."""
        return tuple(moved(self.nest.part(one.piece).region, one.matrix) for one in self.layout.placed)

    @property
    def stem(self) -> str:
        """The name of its cut files, without ending."""
        return f"mat-{self.number:02d}-{self.nest.film.id}"

    @cached_property
    def film_mm2(self) -> float:
        """The film that the pieces are made of."""
        return float(sum(self.nest.part(one.piece).region.area for one in self.layout.placed))

    @property
    def use(self) -> float:
        """The share of the film up to the used length that ends on a garment."""
        return self.film_mm2 / (self.layout.used_length_mm * self.sheet.height_mm)


@dataclass(frozen=True, eq=False, kw_only=True)
class Facts:
    """Every stage of one job. What can't be known yet is None or empty."""

    job: Job
    workshop: Workshop
    garments: tuple[Garment, ...]
    nests: tuple[FilmNest, ...] = ()
    mats: tuple[Mat, ...] = ()

    @property
    def is_nested(self) -> bool:
        """Whether every film's pieces have their nest."""
        return bool(self.nests) and all(nest.layout is not None for nest in self.nests)

    @property
    def blank(self) -> Blank:
        """The blank of the job's own size."""
        return self.garments[0].blank

    @property
    def fitted(self) -> Iterator[tuple[Garment, FittedDesign]]:
        """Every design on every size."""
        return ((garment, design) for garment in self.garments for design in garment.designs)

    @property
    def first(self) -> FittedDesign | None:
        """The first design on the job's own size."""
        return next(iter(self.garments[0].designs), None)

    @property
    def artwork(self) -> Artwork | None:
        """The artwork of the first design."""
        return self.first.artwork if self.first is not None else None

    @property
    def split(self) -> Split | None:
        """The layers of the first design, at their size."""
        return self.first.split if self.first is not None else None

    @property
    def placement(self) -> Placement | None:
        """The place of the first design."""
        return self.first.placement if self.first is not None else None

    @property
    def layers(self) -> tuple[FilmLayer, ...]:
        """The layers of the first design, with their films."""
        return self.first.layers if self.first is not None else ()

    @property
    def art(self) -> Region | None:
        """The first design on its panel."""
        return self.first.art if self.first is not None else None

    def place_of(self, part: CutPart, copy_number: int) -> Matrix:
        """The matrix from artwork mm to the panel for one copy of a part."""
        placement = self.garments[part.garment].designs[part.design].placement
        assert placement is not None
        return placement.matrices[part.places[(copy_number - 1) % len(part.places)]]

    def panel_to_cut(self, part: CutPart, copy_number: int = 1) -> Matrix:
        """The matrix from the panel to a piece as cut: back to the artwork, to its centre, then to the side."""
        return np.asarray(part.to_cut @ np.linalg.inv(self.place_of(part, copy_number)))


def gather(job: Job, workshop: Workshop, layouts: Mapping[str, Layout]) -> Facts:
    """Return the facts of a job; ``layouts`` holds the nests made so far by their key.

    Raises a :class:`ZinnetError` where the job can't be made sense of.
    """
    garments = garments_of(job, workshop)
    sheet = mat_sheet(job.nesting.mat)
    requests = tuple(_requests(garments, job.layers.marks))
    nests = tuple(
        _with_layout(nest, _Same(layouts.get(nest.key)))
        for nest in _nests(requests, job.nesting, sheet, job.layers.join_outlines)
    )
    return Facts(job=job, workshop=workshop, garments=garments, nests=nests, mats=_mats(nests))


@dataclass(frozen=True)
class _Request:
    """What is cut of one design on one size: its layers, and how each of its places is turned (degrees)."""

    prefix: str
    garment: int
    design: int
    layers: tuple[FilmLayer, ...]
    middle: tuple[float, float]
    groups: tuple[Group, ...]
    turns: tuple[float, ...]
    copies: int
    marks: Marks | None


def _requests(garments: Sequence[Garment], marked: bool) -> Iterator[_Request]:
    for number, garment in enumerate(garments):
        size = f"{garment.size}-" if len(garments) > 1 else ""
        for design in garment.designs:
            if design.placement is None:
                continue
            yield _Request(
                prefix=size + (f"design-{design.index + 1}-" if design.index else ""),
                garment=number,
                design=design.index,
                layers=design.layers,
                middle=(design.placement.width_mm / 2, design.placement.height_mm / 2),
                groups=_groups_in_mm(design),
                turns=tuple(_turn_of(matrix) for matrix in design.placement.matrices),
                copies=garment.copies,
                marks=marks_of(design.stack) if marked and design.stack is not None else None,
            )


def _groups_in_mm(design: FittedDesign) -> tuple[Group, ...]:
    """Return the parts to be kept together or apart, by points in artwork mm."""
    if design.split is None or not design.artwork.groups:
        return ()
    to_mm = design.split.to_mm
    return tuple(
        replace(group, spots=tuple((x, y) for x, y in apply(to_mm, np.array(group.spots)).tolist()))
        for group in design.artwork.groups
        if group.spots
    )


def _turn_of(matrix: Matrix) -> float:
    """Return by how many degrees a similarity turns, clockwise on screen."""
    return round(math.degrees(math.atan2(matrix[1, 0], matrix[0, 0])), 6) % 360


@lru_cache(maxsize=32)
def _nests(requests: tuple[_Request, ...], spec: NestSpec, sheet: Sheet, joined: bool) -> tuple[FilmNest, ...]:
    """Return what is cut from each film and side, in the order of the layers, not nested yet."""
    by_film: dict[tuple[str, bool], list[CutPart]] = {}
    films: dict[tuple[str, bool], Film] = {}
    copies: dict[str, int] = {}
    for request in requests:
        for layer in request.layers:
            if layer.film is None or layer.side is None:
                continue
            key = (layer.film.id, layer.side.mirrored)
            films.setdefault(key, layer.film)
            for part in _parts(request, layer, spec.keep_together, joined):
                by_film.setdefault(key, []).append(part)
                copies[part.name] = request.copies * len(part.places)
    found = []
    for key, parts in by_film.items():
        task = NestTask(
            pieces=tuple(Piece(part.name, part.room, copies[part.name], part.layer.turns) for part in parts),
            sheets=(sheet,),
            gap_mm=gap_of(spec),
            seconds=spec.seconds,
            seed=spec.seed,
            inside_counters=spec.inside_counters,
        )
        found.append(FilmNest(films[key], key[1], tuple(parts), task))
    return tuple(found)


@lru_cache(maxsize=512)
def _parts(request: _Request, layer: FilmLayer, together: bool, joined: bool) -> tuple[CutPart, ...]:
    """Return the rigid pieces of a layer: all of it, or each part that hangs together.

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
        found += _pieces(request, layer, to_cut, tuple(places), suffix, together, joined)
    return tuple(found)


def _pieces(
    request: _Request,
    layer: FilmLayer,
    to_cut: Matrix,
    places: tuple[int, ...],
    suffix: str,
    together: bool,
    joined: bool,
) -> Iterator[CutPart]:
    colour: ColourLayer = layer.layer
    name = f"{request.prefix}layer-{colour.order}{suffix}"
    region = moved(colour.region, to_cut)
    drawn = (region,) if joined else tuple(moved(one, to_cut) for one in colour.drawn)

    pieces = _rigid(colour.region, together, request.groups)

    def part(part_name: str, part_region: Region, own: tuple[Region, ...]) -> CutPart:
        whole = len(pieces) == 1 and request.marks is not None
        marks = request.marks.moved(to_cut) if whole and request.marks is not None else None
        return CutPart(part_name, layer, part_region, own, request.garment, request.design, places, to_cut, marks)

    if len(pieces) == 1:
        yield part(name, region, drawn)
        return
    for number, piece in enumerate(pieces, start=1):
        one = Region([region.geoms[index] for index in piece])
        own = tuple(shape for shape in drawn if shape.intersects(one)) if not joined else (one,)
        yield part(f"{name}-part-{number}", one, own)


def _rigid(region: Region, together: bool, groups: tuple[Group, ...]) -> list[list[int]]:
    """Return which parts of a layer are cut as one piece: all or each by itself, but for the groups of the design."""
    count = len(region.geoms)
    belongs = [0] * count if together else list(range(count))
    fresh = count
    tree = shapely.STRtree(region.geoms) if groups else None
    for group in groups:
        assert tree is not None
        hit = sorted({int(k) for x, y in group.spots for k in tree.query(shapely.Point(x, y), predicate="intersects")})
        for index in hit:
            belongs[index] = fresh
            fresh += group.apart
        fresh += 1
    return [[k for k in range(count) if belongs[k] == label] for label in dict.fromkeys(belongs)]


class _Same:
    """A key that stands for one very object: looking into a nest of hundreds of pieces at every edit takes long."""

    def __init__(self, layout: Layout | None) -> None:
        self.layout = layout

    def __hash__(self) -> int:
        return id(self.layout)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Same) and self.layout is other.layout


@lru_cache(maxsize=64)
def _with_layout(nest: FilmNest, same: _Same) -> FilmNest:
    """Return the film with the nest made for its pieces; one that is not for all of them is as good as none."""
    layout = same.layout
    return replace(nest, layout=None if layout is None or count_faults(nest.task, layout) else layout)


@lru_cache(maxsize=64)
def faults_of(nest: FilmNest) -> tuple[Fault, ...]:
    """Return what is wrong with a film's nest, also with one that came out of a file."""
    if nest.layout is None or nest.layout.verified:
        return ()
    return tuple(faults(nest.task, nest.layout))


@lru_cache(maxsize=16)
def _mats(nests: tuple[FilmNest, ...]) -> tuple[Mat, ...]:
    found: list[Mat] = []
    for nest in nests:
        for on_sheet in nest.layout.sheets if nest.layout is not None else ():
            found.append(Mat(len(found) + 1, nest, nest.task.sheets[on_sheet.sheet], on_sheet))
    return tuple(found)
