"""Edits: each makes a new job from an old one and has the name that the undo menu shows."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from zinnet.blanks.model import Measure
from zinnet.job import ArtworkFile, Job, Override
from zinnet.layers.assign import FilmChoice, SideOverride
from zinnet.layers.split import Method
from zinnet.placement.place import PlacementSpec


@dataclass(frozen=True)
class Edit:
    """A named change. Edits that follow one another with the same ``merge`` are undone as one."""

    name: str
    change: Callable[[Job], Job]
    merge: str = ""


def _with[T: Any](value: T, **fields: Any) -> T:
    """Return a validated copy with some fields replaced."""
    kept = {name: getattr(value, name) for name in type(value).model_fields}
    return type(value)(**{**kept, **fields})  # type: ignore[no-any-return]


def open_artwork(name: str, data: bytes) -> Edit:
    """Take new artwork; its place is proposed anew, the blank stays."""

    def change(job: Job) -> Job:
        title = name.rpartition(".")[0] or name
        return _with(
            job,
            title=title if job.title == "Untitled" else job.title,
            artwork=ArtworkFile.of(name, data),
            placement=PlacementSpec(place=job.placement.place, school=job.placement.school),
            layers=_with(job.layers, films=(), sides=()),
            overrides=(),
        )

    return Edit(f"open {name}", change)


def set_measure(measure: str, mm: float) -> Edit:
    """Set one measure of the blank to what was measured."""

    def change(job: Job) -> Job:
        others = tuple(one for one in job.blank.measured if one.name != measure)
        measured = (*others, Measure(name=measure, mm=mm))
        return _with(job, blank=_with(job.blank, measured=measured))

    return Edit(f"measure {measure.replace('_', ' ')}", change)


def set_blank_colour(colour: str) -> Edit:
    """Set the colour of the blank."""
    return Edit("colour of the blank", lambda job: _with(job, blank=_with(job.blank, colour=colour)))


def place_at(placement: PlacementSpec, name: str, *, merge: str = "") -> Edit:
    """Put the artwork elsewhere."""
    return Edit(name, lambda job: _with(job, placement=placement), merge)


def set_placement(name: str, *, merge: str = "", **fields: Any) -> Edit:
    """Change some fields of the placement."""
    return Edit(name, lambda job: _with(job, placement=_with(job.placement, **fields)), merge)


def choose_film(colour: str, film: str) -> Edit:
    """Cut a colour from another film."""

    def change(job: Job) -> Job:
        others = tuple(choice for choice in job.layers.films if choice.colour != colour)
        return _with(job, layers=_with(job.layers, films=(*others, FilmChoice(colour=colour, film=film))))

    return Edit("choose film", change)


def set_method(method: Method) -> Edit:
    """Split the colours side by side or stacked."""
    return Edit("cut away or stack", lambda job: _with(job, layers=_with(job.layers, method=method)))


def join_outlines(join: bool) -> Edit:
    """Join crossing outlines of one colour, or keep every line."""
    return Edit("join outlines", lambda job: _with(job, layers=_with(job.layers, join_outlines=join)))


def override_side(film: str, mirrored: bool, reason: str) -> Edit:
    """Cut a film from the other side than the one that was derived."""

    def change(job: Job) -> Job:
        others = tuple(side for side in job.layers.sides if side.film != film)
        side = SideOverride(film=film, mirrored=mirrored, reason=reason)
        return _with(job, layers=_with(job.layers, sides=(*others, side)))

    return Edit("cut from the other side", change)


def derive_side(film: str) -> Edit:
    """Go back to the side that follows from the film."""

    def change(job: Job) -> Job:
        others = tuple(side for side in job.layers.sides if side.film != film)
        return _with(job, layers=_with(job.layers, sides=others))

    return Edit("derive the cut side", change)


def set_nesting(name: str, **fields: Any) -> Edit:
    """Change how pieces are nested."""
    return Edit(name, lambda job: _with(job, nesting=_with(job.nesting, **fields)))


def set_copies(copies: int) -> Edit:
    """Set how many garments the job is for."""
    return Edit("number of garments", lambda job: _with(job, copies=copies), "copies")


def set_unit(unit: str) -> Edit:
    """Show lengths in another unit."""
    return Edit("unit", lambda job: _with(job, unit=unit))


def set_title(title: str) -> Edit:
    """Give the job a name."""
    return Edit("name of the job", lambda job: _with(job, title=title))


def pass_finding(finding: str, reason: str) -> Edit:
    """Pass a finding with a reason."""

    def change(job: Job) -> Job:
        others = tuple(one for one in job.overrides if one.finding != finding)
        return _with(job, overrides=(*others, Override(finding=finding, reason=reason)))

    return Edit("pass a finding", change)


def take_back_pass(finding: str) -> Edit:
    """Take back that a finding was passed."""

    def change(job: Job) -> Job:
        return _with(job, overrides=tuple(one for one in job.overrides if one.finding != finding))

    return Edit("take back a pass", change)
