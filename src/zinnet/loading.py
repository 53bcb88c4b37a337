"""The mats as they are loaded and cut: what lies on each, with which settings, in which order its lines are cut."""

import hashlib
import re
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import shapely

from zinnet.cutting.duration import Duration, duration_of
from zinnet.cutting.hpgl import Program, Setup, program_of
from zinnet.cutting.knife import Knife
from zinnet.cutting.once import cut_once
from zinnet.cutting.order import in_cutting_order
from zinnet.cutting.paths import CutPath, CutSheet, Shape, file_order, line_path
from zinnet.cutting.settings import Blade, CutSettings, CutTest, Known, known_settings
from zinnet.cutting.spec import CutSpec
from zinnet.geometry.region import Region, as_region, union
from zinnet.geometry.transform import moved, shift
from zinnet.layers.films import kind_of
from zinnet.layers.marks import frame_box
from zinnet.layers.weeding import weed_lines
from zinnet.nested import Mat
from zinnet.nesting.mats import Machine, machine_name, machine_of, mat_of, room
from zinnet.nesting.mats import Mat as Bed
from zinnet.trims import Trim


@dataclass(frozen=True)
class Cutting:
    """What all mats of a job are cut by."""

    spec: CutSpec
    machine: str
    joined: bool
    framed: bool
    title: str
    tests: tuple[CutTest, ...]
    blades: tuple[Blade, ...]

    @property
    def device(self) -> Machine:
        """The machine."""
        return machine_of(self.machine, "")

    @property
    def blade(self) -> Blade | None:
        """The blade that is in the machine."""
        return next((blade for blade in reversed(self.blades) if blade.machine == self.machine), None)

    @property
    def knife(self) -> Knife:
        """The knife, by the machine where the user says nothing else."""
        spec, device = self.spec, self.device
        return Knife(
            device.knife_offset_mm if spec.knife_offset_mm is None else spec.knife_offset_mm,
            device.overcut_mm if spec.overcut_mm is None else spec.overcut_mm,
        )


@dataclass(frozen=True, eq=False)
class LoadedMat:
    """One mat as it goes into the machine, or one length of roll: what is on it, in the order of cutting.

    ``number`` is that of the first of its films on the table. ``before`` is the one that was cut before it.
    """

    number: int
    trims: tuple[Trim, ...]
    bed: Bed
    cutting: Cutting
    before: "LoadedMat | None" = None

    @property
    def mats(self) -> tuple[Mat, ...]:
        """What of the nest is on it: one film, or several that share it."""
        return tuple(trim.mat for trim in self.trims)

    @property
    def numbers(self) -> str:
        """The numbers on the table of all that is on it."""
        return " and ".join(str(mat.number) for mat in self.mats)

    @property
    def films(self) -> str:
        """The names of its films."""
        return " and ".join(dict.fromkeys(mat.nest.film.name for mat in self.mats))

    @property
    def key(self) -> str:
        """What a yes to its loading is about: another nest, side or film asks again."""
        return _key(self.mats, tuple((trim.stick, trim.source) for trim in self.trims))

    @property
    def is_loaded(self) -> bool:
        """Whether the user said yes to its loading."""
        return self.key in self.cutting.spec.loaded

    @property
    def stem(self) -> str:
        """The name of its files, without ending."""
        number = "-".join(f"{mat.number:02d}" for mat in self.mats)
        films = "-".join(dict.fromkeys(mat.nest.film.id for mat in self.mats))
        text = self.cutting.spec.names
        for field, value in (("{mat}", number), ("{film}", films), ("{job}", self.cutting.title)):
            text = text.replace(field, value)
        return safe_name(text) if "{mat}" in self.cutting.spec.names else f"{safe_name(text)}-{number}"

    @property
    def is_printed(self) -> bool:
        """Whether its film is printed on."""
        return all(kind_of(mat.nest.film).bond == "print" for mat in self.mats)

    @property
    def known(self) -> Known:
        """The best known settings of its film, or the job's own."""
        film, cutting = self.mats[0].nest.film, self.cutting
        own = cutting.spec.settings_of(film.id)
        known = known_settings(film, cutting.machine, cutting.device, cutting.tests)
        return known if own is None or own == known.settings else Known(settings=own, source="set for this job")

    @property
    def settings(self) -> CutSettings:
        """What is set on the machine."""
        return self.known.settings

    @property
    def size(self) -> tuple[float, float]:
        """Width and height of what its coordinates run over: the mat, or the film where it is fed without one."""
        sheet = self.mats[0].sheet
        return (self.bed.width_mm, self.bed.height_mm) if self._on_bed else (sheet.width_mm, sheet.height_mm)

    @property
    def _on_bed(self) -> bool:
        """Whether films lie on a mat that is larger than they are, stuck to it somewhere."""
        return not self.bed.fed and (len(self.trims) > 1 or self.trims[0].stick != (0.0, 0.0))

    def stick(self, trim: Trim) -> tuple[float, float]:
        """Return where the film's corner lies in the coordinates of the cut."""
        return trim.stick if self._on_bed else (0.0, 0.0)

    @property
    def drawn(self) -> tuple[CutPath, ...]:
        """Its lines in the order in which the nest gives them, no line twice."""
        return _drawn(self._content)

    @property
    def sheet(self) -> CutSheet:
        """All that is cut on it, in the order of cutting. The head comes from the mat's lower left corner."""
        width, height = self.size
        return CutSheet(self.stem, width, height, _ordered(self._content, height))

    @property
    def content_key(self) -> tuple[object, ...]:
        """What its lines depend on."""
        return self._content, self.size, self.setup

    @property
    def _content(self) -> "_Content":
        cutting = self.cutting
        sticks = tuple(self.stick(trim) for trim in self.trims)
        return _Content(self.mats, sticks, cutting.joined, cutting.framed, cutting.spec.weed_lines)

    @property
    def setup(self) -> Setup:
        """How the machine is told to cut it."""
        settings, told = self.settings, self.cutting.device.takes_settings
        return Setup(
            self.cutting.knife,
            self.settings.force_g if told else None,
            settings.speed_mm_s if told else None,
            settings.passes,
        )

    @property
    def program(self) -> Program:
        """The HP-GL program that cuts it."""
        return _program(self._content, self.size, self.setup)

    @property
    def duration(self) -> Duration:
        """How long it takes to cut."""
        return _duration(self._content, self.size[1], self.settings)

    @property
    def lines_key(self) -> str:
        """What a record of lines that are cut is about: these very lines of this very mat."""
        return f"{self.key}-{_lines_digest(self._content, self.size[1])}"

    @property
    def test_spots(self) -> tuple[Region, ...]:
        """Where test cuts are made on it."""
        return tuple(
            moved(mat.test_spot, shift(*self.stick(trim)))
            for trim, mat in zip(self.trims, self.mats, strict=True)
            if mat.test_spot is not None
        )

    @property
    def curls(self) -> bool:
        """Whether its film is a scrap or the end of a roll that may lift at the edges."""
        return any(trim.item is not None and trim.item.kind != "roll" for trim in self.trims)

    @property
    def grip(self) -> str:
        """Which mat and how strong its grip should be, in words."""
        if self.bed.fed:
            return f"{self.bed.name}: fed straight, no mat"
        thick = max(kind_of(mat.nest.film).thickness_um for mat in self.mats)
        strong = self.curls or thick >= STIFF_UM
        return f"{self.bed.name}, {'a strong grip: it holds what curls' if strong else 'a usual grip'}"

    @property
    def changes(self) -> tuple[str, ...]:
        """What is other than on the mat before."""
        if self.before is None:
            return ()
        found, earlier = [], self.before
        if self.mats[0].nest.mirrored != earlier.mats[0].nest.mirrored:
            found.append(f"{self.trims[0].side_down}; it was {earlier.trims[0].side_down}")
        if self.settings != earlier.settings:
            found.append(f"{self.settings.said()}; it was {earlier.settings.said()}")
        if self.films != earlier.films:
            found.append(f"{self.films} after {earlier.films}")
        return tuple(found)


@dataclass(frozen=True)
class _Content:
    """All that the lines of a mat depend on: what is nested, where its films are stuck, what is cut beside it."""

    mats: tuple[Mat, ...]
    sticks: tuple[tuple[float, float], ...]
    joined: bool
    framed: bool
    weed_lines: bool


@lru_cache(maxsize=256)
def _drawn(content: _Content) -> tuple[CutPath, ...]:
    shapes: list[Shape] = []
    lines: list[CutPath] = []
    for mat, (x, y) in zip(content.mats, content.sticks, strict=True):
        found = _shapes(mat, joined=content.joined, framed=content.framed)
        shapes += [Shape(one.name, one.film, moved(one.region, shift(x, y)), one.kind) for one in found]
        if content.weed_lines:
            lines += [line.shifted(x, y) for line in _weed_lines(mat, framed=content.framed)]
    return cut_once(file_order(shapes, lines))


@lru_cache(maxsize=256)
def _ordered(content: _Content, height_mm: float) -> tuple[CutPath, ...]:
    return in_cutting_order(_drawn(content), (0.0, height_mm))


@lru_cache(maxsize=64)
def _program(content: _Content, size: tuple[float, float], setup: Setup) -> Program:
    return program_of(CutSheet("", *size, _ordered(content, size[1])), setup)


@lru_cache(maxsize=256)
def _duration(content: _Content, height_mm: float, settings: CutSettings) -> Duration:
    return duration_of(_ordered(content, height_mm), settings, (0.0, height_mm))


@lru_cache(maxsize=256)
def _lines_digest(content: _Content, height_mm: float) -> str:
    found = hashlib.sha256()
    for path in _ordered(content, height_mm):
        found.update(path.name.encode() + path.points.round(3).tobytes())
    return found.hexdigest()[:16]


@lru_cache(maxsize=256)
def _key(mats: tuple[Mat, ...], films: tuple[tuple[tuple[float, float], str], ...]) -> str:
    said = [f"{films}"]
    for mat in mats:
        said.append(f"{mat.nest.key} {mat.nest.film.id} {mat.nest.mirrored} {mat.position}")
        said += [f"{one.piece} {one.copy_number} {one.matrix.round(4).tolist()}" for one in mat.layout.placed]
    return hashlib.sha256("|".join(said).encode()).hexdigest()[:20]


MOST_LETTERS = 120
STIFF_UM = 200.0
"""Film of this thickness bends a mat's grip loose (from memory)."""


def safe_name(text: str) -> str:
    """Return text as a file name: no folders, no odd signs."""
    kept = "".join(letter if letter.isalnum() or letter in "-_. " else "-" for letter in text)
    return re.sub(r"[-\s]+", "-", kept).strip(".-")[:MOST_LETTERS] or "mat"


def loads_of(trims: Sequence[Trim], mat: str, cutting: Cutting) -> tuple[LoadedMat, ...]:
    """Return the mats in the order in which they are loaded."""
    bed = mat_of(mat)
    found: list[LoadedMat] = []
    for number in dict.fromkeys(trim.load for trim in trims):
        together = tuple(trim for trim in trims if trim.load == number)
        before = found[-1] if found else None
        found.append(LoadedMat(together[0].mat.number, together, bed, cutting, before))
    return tuple(found)


def _shapes(mat: Mat, *, joined: bool, framed: bool) -> list[Shape]:
    """Return what is cut on a mat, ``framed`` by one weed frame. Outlines that are not joined are cut as drawn."""
    found, film = [], mat.nest.film.id
    for placed, region in zip(mat.layout.placed, mat.regions, strict=True):
        name = f"{placed.piece}-copy-{placed.copy_number}"
        part = mat.nest.part(placed.piece)
        if part.marks is not None:
            marks = part.marks.moved(placed.matrix)
            if not marks.registers.is_empty:
                found.append(Shape(f"{name}-marks", film, marks.registers, "mark"))
            found.append(Shape(f"{name}-frame", film, Region([marks.frame]), "frame"))
        if joined:
            found.append(Shape(name, film, region))
        else:
            drawn = [moved(one, placed.matrix) for one in part.drawn]
            found += [Shape(f"{name}-{k}", film, one) for k, one in enumerate(drawn, start=1)]
    if framed:
        found.append(Shape(f"weed-frame-{mat.number}", film, mat.frame(), "frame"))
    return found


def _weed_lines(mat: Mat, *, framed: bool) -> list[CutPath]:
    """Return the lines that part the waste inside weed frames."""
    film, found = mat.nest.film.id, []
    if framed:
        frame = mat.frame().bounds
        inside = [("weed-line", union(mat.regions), frame)]
    else:
        inside = [
            (f"{placed.piece}-copy-{placed.copy_number}-line", region, frame_box(region.bounds))
            for placed, region in zip(mat.layout.placed, mat.regions, strict=True)
            if mat.nest.part(placed.piece).marks is not None
        ]
    for name, region, box in inside:
        lines = weed_lines(region, box)
        found += [line_path(f"{name}-{mat.number}-{k}", film, line) for k, line in enumerate(lines, start=1)]
    return found


def test_cut_sheet(film: str) -> CutSheet:
    """Return the test cut: a small square with a triangle inside, the triangle first."""
    side = room().test_cut_mm
    margin = side / 4
    triangle = shapely.Polygon([(side / 2, margin), (side - margin, side - margin), (margin, side - margin)])
    shapes = [
        Shape("test-cut-triangle", film, as_region(triangle)),
        Shape("test-cut-square", film, as_region(shapely.box(0, 0, side, side)), "frame"),
    ]
    paths = in_cutting_order(file_order(shapes), (0.0, side))
    return CutSheet("test-cut", side, side, paths)


def cutting_of(
    spec: CutSpec,
    *,
    mat: str,
    joined: bool,
    framed: bool,
    title: str,
    tests: tuple[CutTest, ...],
    blades: tuple[Blade, ...],
) -> Cutting:
    """Return what the mats of a job are cut by. Raises :class:`NestError` where there is no such machine."""
    return Cutting(spec, machine_name(spec.machine, mat), joined, framed, title, tests, blades)
