"""What fitting reads of a job and a workshop, with what is left to the blank settled."""

from dataclasses import dataclass

from zinnet.artwork.source import TextArt, settled_picture
from zinnet.blanks.build import build_blank
from zinnet.blanks.catalogue import BlankKind, blank_kind
from zinnet.blanks.model import Blank, BlankSpec
from zinnet.films.catalogue import Film
from zinnet.job.model import Design, FamilyMember, Job
from zinnet.job.names.model import NameList
from zinnet.layers.spec import LayersSpec
from zinnet.machines.platens import Platen, Presses
from zinnet.nesting.mat_sheets import sheet_on
from zinnet.nesting.sheet import Sheet
from zinnet.placement.arrange import DEFAULTS, Arc
from zinnet.placement.place import Habits, blank_panel, place_on
from zinnet.pressing.reach import is_heated, reaching
from zinnet.workshop.model import Workshop


@dataclass(frozen=True)
class Fitting:
    """All that fitting reads of a job and a workshop.

    ``copies`` is the count of the job's own size, ``bed`` the film that covers a mat, ``platen`` what presses it.
    """

    blank: BlankSpec
    kind: BlankKind
    designs: tuple[Design, ...]
    family: tuple[FamilyMember, ...]
    names: NameList
    layers: LayersSpec
    copies: int
    bed: Sheet
    platen: Platen | None
    films: tuple[Film, ...]
    habits: Habits


def fitting_of(job: Job, workshop: Workshop) -> Fitting:
    """Return what fitting reads. Raises :class:`NestError` for a mat, :class:`ZinnetError` for a platen not there."""
    blank = build_blank(job.blank)
    return Fitting(
        blank=job.blank,
        kind=blank_kind(job.blank.kind),
        designs=tuple(as_laid(design, blank) for design in job.designs),
        family=job.family,
        names=job.names,
        layers=job.layers,
        copies=job.copies,
        bed=sheet_on(workshop.machines.mat(job.nesting.mat)),
        platen=platen_of(job, workshop.presses),
        films=workshop.films,
        habits=workshop.habits,
    )


def as_laid(design: Design, blank: Blank) -> Design:
    """Return a design as its place asks for it.

    A picture stays one where it is printed; a text whose letters the place sets on an arc is straight before: it is
    bent once.
    """
    if isinstance(design.source, TextArt):
        arrangement = design.placement.arrangement or DEFAULTS[place_on(design.placement, blank).arrangement]
        if not isinstance(arrangement, Arc) or not design.source.text.bend_deg:
            return design
        straight = design.source.text.model_copy(update={"bend_deg": 0.0})
        return design.model_copy(update={"source": design.source.model_copy(update={"text": straight})})
    if design.source.kind != "picture":
        return design
    printed = blank_panel(design.placement, blank).holds[0] == "print"
    source = settled_picture(design.source, printed=printed, stepped=bool(design.steps))
    return design if source is design.source else design.model_copy(update={"source": source})


def platen_of(job: Job, presses: Presses) -> Platen | None:
    """Return what the job is pressed with: what the user chose, else the first that gets to it; None without heat."""
    blank = build_blank(job.blank)
    if not is_heated(blank):
        return None
    known = dict(presses.platens)
    if job.platen in known:
        return known[job.platen]
    found = reaching(presses, blank, blank_kind(job.blank.kind).platen)
    return found[0][1] if found else None
