"""The mats as they are loaded and cut: what lies on each, with which settings, in which order its lines are cut."""

import hashlib
import re
from collections.abc import Sequence
from dataclasses import dataclass

from zinnet.base.stages import stage
from zinnet.cutting.duration import Duration, duration_of
from zinnet.cutting.hpgl import Program, Setup, program_of
from zinnet.cutting.knife import Knife
from zinnet.cutting.paths import CutPath, CutSheet
from zinnet.cutting.settings import Blade, CutSettings, CutTest, Known, known_settings
from zinnet.cutting.spec import CutSpec
from zinnet.cutting.tolerances import grip
from zinnet.films.catalogue import Film, kind_of
from zinnet.geometry.region import Region
from zinnet.geometry.transform import moved, shift
from zinnet.job.model import Job
from zinnet.machines.cutters import (
    Machine,
    Mat,
)
from zinnet.plan.cut_lines import (
    MatContent,
    drawn_lines,
    ordered_lines,
    test_cut_lines,
)
from zinnet.plan.nests import TEST_CUT, NestedMat
from zinnet.plan.trims import Trim
from zinnet.workshop.model import Workshop


@dataclass(frozen=True)
class Cutting:
    """What all mats of a job are cut by; ``machine`` is the name of the ``device`` in the catalogue."""

    spec: CutSpec
    machine: str
    device: Machine
    joined: bool
    framed: bool
    title: str
    tests: tuple[CutTest, ...]
    blades: tuple[Blade, ...]

    @property
    def blade(self) -> Blade | None:
        """The blade that is in the machine."""
        return next((blade for blade in reversed(self.blades) if blade.machine == self.machine), None)

    def known(self, film: Film) -> Known:
        """Return the best known settings of a film, or the job's own."""
        own = self.spec.settings_of(film.id)
        known = known_settings(film, self.machine, self.device, self.tests)
        return known if own is None or own == known.settings else Known(settings=own, source="set for this job")

    @property
    def knife(self) -> Knife:
        """The knife, by the machine where the user says nothing else."""
        spec, device = self.spec, self.device
        return Knife(
            device.knife_offset_mm if spec.knife_offset_mm is None else spec.knife_offset_mm,
            device.overcut_mm if spec.overcut_mm is None else spec.overcut_mm,
        )

    def setup(self, settings: CutSettings) -> Setup:
        """Return how the machine is told to cut: force and speed only where it takes them."""
        told = self.device.takes_settings
        force, speed = (settings.force_g, settings.speed_mm_s) if told else (None, None)
        return Setup(self.knife, force, speed, settings.passes)


@dataclass(frozen=True, eq=False)
class LoadedMat:
    """One mat as it goes into the machine, or one length of roll: what is on it, in the order of cutting.

    ``number`` is that of the first of its films on the table. ``before`` is the one that was cut before it.
    """

    number: int
    trims: tuple[Trim, ...]
    bed: Mat
    cutting: Cutting
    before: "LoadedMat | None" = None

    @property
    def mats(self) -> tuple[NestedMat, ...]:
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
        return _key(self.mats, tuple((trim.stuck_at, trim.source) for trim in self.trims))

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
        """The best known settings of its film, or the job's own; of several films those of the first."""
        return self.cutting.known(self.mats[0].nest.film)

    @property
    def set_otherwise(self) -> tuple[str, ...]:
        """The films on it that would be set otherwise than the first, by their names."""
        films = {mat.nest.film.id: mat.nest.film for mat in self.mats}.values()
        return tuple(film.name for film in films if self.cutting.known(film).settings != self.settings)

    @property
    def settings_said(self) -> str:
        """The settings in the machine's own words."""
        return self.settings.in_words(self.cutting.device)

    @property
    def settings_subject(self) -> str | None:
        """What a change of settings since the mat before is called; None where there is none."""
        if self.is_printed or self.before is None or self.before.is_printed or self.settings == self.before.settings:
            return None
        return f"settings {self.before.key} {self.key}"

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
        return not self.bed.fed and (len(self.trims) > 1 or self.trims[0].stuck_at != (0.0, 0.0))

    def stuck_at(self, trim: Trim) -> tuple[float, float]:
        """Return where the film's corner lies in the coordinates of the cut."""
        return trim.stuck_at if self._on_bed else (0.0, 0.0)

    def drawn_lines(self) -> tuple[CutPath, ...]:
        """Return its lines in the order in which the nest gives them, no line twice."""
        return drawn_lines(self._content)

    def cut_sheet(self) -> CutSheet:
        """Return all that is cut on it, in the order of cutting. The head comes from the mat's lower left corner."""
        width, height = self.size
        return CutSheet(self.stem, width, height, ordered_lines(self._content, height))

    @property
    def content_key(self) -> tuple[object, ...]:
        """What its lines depend on."""
        return self._content, self.size, self.setup

    @property
    def _content(self) -> MatContent:
        cutting = self.cutting
        corners = tuple(self.stuck_at(trim) for trim in self.trims)
        return MatContent(self.mats, corners, cutting.joined, cutting.framed, cutting.spec.weed_lines)

    @property
    def setup(self) -> Setup:
        """How the machine is told to cut it."""
        return self.cutting.setup(self.settings)

    def program(self) -> Program:
        """Return the HP-GL program that cuts it."""
        return _program(self._content, self.size, self.setup)

    def duration(self) -> Duration:
        """Return how long it takes to cut."""
        return _duration(self._content, self.size[1], self.settings)

    def lines_key(self) -> str:
        """Return what a record of lines that are cut is about: these very lines of this very mat."""
        return f"{self.key}-{_lines_digest(self._content, self.size[1])}"

    @property
    def test_spots(self) -> tuple[Region, ...]:
        """Where test cuts are made on it."""
        return tuple(
            moved(mat.test_spot, shift(*self.stuck_at(trim)))
            for trim, mat in zip(self.trims, self.mats, strict=True)
            if mat.test_spot is not None
        )

    def test_program(self, settings: CutSettings) -> Program | None:
        """Return the program of the test cut in the spot that is kept for it, or None where none is."""
        spots, (width, height) = self.test_spots, self.size
        if not spots:
            return None
        lines = test_cut_lines(self.mats[0].nest.film.id, spots[0], height)
        return program_of(CutSheet(TEST_CUT, width, height, lines), self.cutting.setup(settings))

    @property
    def curls(self) -> bool:
        """Whether its film is a scrap or the end of a roll that may lift at the edges."""
        return any(trim.item is not None and trim.item.kind != "roll" for trim in self.trims)

    @property
    def grip(self) -> str:
        """Which mat and how strong its grip should be, in words."""
        if self.is_printed:
            return f"printed on {self.bed.name}, no mat"
        if self.bed.fed:
            return f"{self.bed.name}: fed straight, no mat"
        thick = max(kind_of(mat.nest.film).thickness_um for mat in self.mats)
        strong = self.curls or thick >= grip().stiff_um
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
            found.append(f"{self.settings_said}; it was {earlier.settings_said}")
        if self.films != earlier.films:
            found.append(f"{self.films} after {earlier.films}")
        return tuple(found)


@stage(most=64)
def _program(content: MatContent, size: tuple[float, float], setup: Setup) -> Program:
    return program_of(CutSheet("", *size, ordered_lines(content, size[1])), setup)


@stage(most=256)
def _duration(content: MatContent, height_mm: float, settings: CutSettings) -> Duration:
    return duration_of(ordered_lines(content, height_mm), settings, (0.0, height_mm))


@stage(most=256)
def _lines_digest(content: MatContent, height_mm: float) -> str:
    found = hashlib.sha256()
    for path in ordered_lines(content, height_mm):
        found.update(path.name.encode() + path.points.round(3).tobytes())
    return found.hexdigest()[:16]


@stage(most=256)
def _key(mats: tuple[NestedMat, ...], films: tuple[tuple[tuple[float, float], str], ...]) -> str:
    said = [f"{films}"]
    for mat in mats:
        said.append(f"{mat.nest.key} {mat.nest.film.id} {mat.nest.mirrored} {mat.position}")
        said += [f"{one.piece} {one.copy_number} {one.matrix.round(4).tolist()}" for one in mat.layout.placed]
    return hashlib.sha256("|".join(said).encode()).hexdigest()[:20]


MOST_LETTERS = 120


def safe_name(text: str) -> str:
    """Return text as a file name: no folders, no odd signs."""
    kept = "".join(letter if letter.isalnum() or letter in "-_. " else "-" for letter in text)
    return re.sub(r"[-\s]+", "-", kept).strip(".-")[:MOST_LETTERS] or "mat"


def loaded_mats(trims: Sequence[Trim], cutting: Cutting) -> tuple[LoadedMat, ...]:
    """Return the mats in the order in which they are loaded."""
    found: list[LoadedMat] = []
    for number in dict.fromkeys(trim.load for trim in trims):
        together = tuple(trim for trim in trims if trim.load == number)
        before = found[-1] if found else None
        found.append(LoadedMat(together[0].mat.number, together, together[0].mat.nest.bed, cutting, before))
    return tuple(found)


def cutting_of(job: Job, workshop: Workshop) -> Cutting:
    """Return what the mats of a job are cut by. Raises :class:`NestError` where there is no such machine."""
    machine = workshop.machines.cutter_name(job.cutting.machine, job.nesting.mat)
    return Cutting(
        spec=job.cutting,
        machine=machine,
        device=workshop.machines.cutter(machine),
        joined=job.layers.join_outlines,
        framed=job.nesting.weed_frame == "mat",
        title=job.title,
        tests=workshop.tests,
        blades=workshop.blades,
    )
