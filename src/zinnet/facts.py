"""The facts of a job: every stage of the work, derived from the job and the workshop, nothing judged yet."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache

from zinnet.artwork.model import Artwork
from zinnet.artwork.svg import read_svg
from zinnet.blanks.model import Blank
from zinnet.blanks.tee import build_blank
from zinnet.geometry.region import Region, union
from zinnet.geometry.transform import IDENTITY, MIRROR, Matrix, moved, shift, turn
from zinnet.job import Job
from zinnet.layers.assign import FilmLayer, assign_films
from zinnet.layers.films import Film
from zinnet.layers.split import ColourLayer, Split, split_artwork
from zinnet.nesting.mats import gap_of, mat_sheet
from zinnet.nesting.model import Layout, NestSpec, NestTask, Piece, Sheet, SheetLayout
from zinnet.nesting.verify import Fault, count_faults, faults
from zinnet.placement.place import Placement, PlacementSpec, place_artwork, proposed_width
from zinnet.workshop import Workshop

ANY_WIDTH_MM = 256.0


@dataclass(frozen=True, eq=False)
class CutPart:
    """What is cut of one layer as one rigid piece: as cut, about the artwork's centre."""

    name: str
    layer: FilmLayer
    region: Region
    drawn: tuple[Region, ...]


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
    blank: Blank
    artwork: Artwork | None = None
    split: Split | None = None
    placement: Placement | None = None
    layers: tuple[FilmLayer, ...] = ()
    art: Region | None = None
    nests: tuple[FilmNest, ...] = ()
    mats: tuple[Mat, ...] = ()

    @property
    def is_nested(self) -> bool:
        """Whether every film's pieces have their nest."""
        return bool(self.nests) and all(nest.layout is not None for nest in self.nests)

    def panel_to_cut(self, mirrored: bool) -> Matrix:
        """The matrix from the panel to a piece as cut: the artwork's centre to the origin, then the side."""
        assert self.placement is not None
        x, y = self.placement.centre
        return (MIRROR if mirrored else IDENTITY) @ shift(-x, -y)


def gather(job: Job, workshop: Workshop, layouts: Mapping[str, Layout]) -> Facts:
    """Return the facts of a job; ``layouts`` holds the nests made so far by their key.

    Raises a :class:`ZinnetError` where the job can't be made sense of.
    """
    blank = build_blank(job.blank)
    sheet = mat_sheet(job.nesting.mat)
    if job.artwork is None:
        return Facts(job=job, workshop=workshop, blank=blank)
    artwork = read_svg(job.artwork.data, job.artwork.name)
    if not artwork.shapes:
        return Facts(job=job, workshop=workshop, blank=blank, artwork=artwork)
    split, placement = _fitted(job, artwork, blank)
    layers = assign_films(split.layers, job.layers, workshop.films, seen=blank.seen)
    nests = tuple(
        _with_layout(nest, _Same(layouts.get(nest.key)))
        for nest in _nests(layers, split, placement.turn_deg, job.nesting, job.copies, sheet, job.layers.join_outlines)
    )
    return Facts(
        job=job,
        workshop=workshop,
        blank=blank,
        artwork=artwork,
        split=split,
        placement=placement,
        layers=layers,
        art=moved(_silhouette(split), placement.matrix),
        nests=nests,
        mats=_mats(nests),
    )


def _fitted(job: Job, artwork: Artwork, blank: Blank) -> tuple[Split, Placement]:
    """Return the layers at their size, and their place on the panel."""
    spec = job.placement
    width = spec.width_mm
    if width is None:
        any_size = split_artwork(artwork, width_mm=ANY_WIDTH_MM, method=job.layers.method)
        bare = PlacementSpec(place=spec.place, school=spec.school)
        aspect = any_size.height_mm / any_size.width_mm
        width = min(_proposed_width(bare, blank, aspect), _widest_on(mat_sheet(job.nesting.mat), aspect))
    split = split_artwork(artwork, width_mm=width, method=job.layers.method)
    return split, place_artwork(spec, blank, width_mm=width, height_mm=split.height_mm)


@lru_cache(maxsize=32)
def _proposed_width(spec: PlacementSpec, blank: Blank, aspect: float) -> float:
    return proposed_width(spec, blank, aspect=aspect)


def _widest_on(sheet: Sheet, aspect: float) -> float:
    """Return the largest whole 5 mm of width at which artwork of ``aspect`` fits the mat, upright or lying."""
    across, down = sheet.width_mm - 2 * sheet.margin_mm, sheet.height_mm - 2 * sheet.margin_mm
    widest = max(min(across, down / aspect), min(down, across / aspect))
    return max(widest // 5 * 5, min(widest, 5.0))


@lru_cache(maxsize=16)
def _silhouette(split: Split) -> Region:
    return union(layer.region for layer in split.layers)


@lru_cache(maxsize=16)
def _nests(
    layers: tuple[FilmLayer, ...],
    split: Split,
    turn_deg: float,
    spec: NestSpec,
    copies: int,
    sheet: Sheet,
    joined: bool,
) -> tuple[FilmNest, ...]:
    """Return what is cut from each film, in the order of the layers, not nested yet."""
    upright = turn(turn_deg) @ shift(-split.width_mm / 2, -split.height_mm / 2)
    by_film: dict[str, list[FilmLayer]] = {}
    for layer in layers:
        if layer.film is not None:
            by_film.setdefault(layer.film.id, []).append(layer)
    found = []
    for film_layers in by_film.values():
        film, side = film_layers[0].film, film_layers[0].side
        assert film is not None
        assert side is not None
        to_cut = (MIRROR if side.mirrored else IDENTITY) @ upright
        parts = tuple(part for layer in film_layers for part in _parts(layer, to_cut, spec.keep_together, joined))
        task = NestTask(
            pieces=tuple(Piece(part.name, part.region, copies, part.layer.turns) for part in parts),
            sheet=sheet,
            gap_mm=gap_of(spec),
            seconds=spec.seconds,
            seed=spec.seed,
        )
        found.append(FilmNest(film, side.mirrored, parts, task))
    return tuple(found)


def _parts(layer: FilmLayer, to_cut: Matrix, together: bool, joined: bool) -> list[CutPart]:
    """Return the rigid pieces of a layer: all of it, or each part that hangs together."""
    colour: ColourLayer = layer.layer
    region = moved(colour.region, to_cut)
    drawn = (region,) if joined else tuple(moved(one, to_cut) for one in colour.drawn)
    if together or len(region.geoms) == 1:
        return [CutPart(f"layer-{colour.order}", layer, region, drawn)]
    found = []
    for number, part in enumerate(region.geoms, start=1):
        own = tuple(one for one in drawn if one.intersects(part)) if not joined else (Region([part]),)
        found.append(CutPart(f"layer-{colour.order}-part-{number}", layer, Region([part]), own))
    return found


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
            found.append(Mat(len(found) + 1, nest, nest.task.sheet, on_sheet))
    return tuple(found)
