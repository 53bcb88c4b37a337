"""Edits: each makes a new job from an old one and has the name that the undo menu shows."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError

from zinnet.blanks.build import build_blank
from zinnet.blanks.model import BlankSpec, DrawnKeepOut, Measure
from zinnet.errors import ZinnetError
from zinnet.job import ArtworkFile, Design, FamilyMember, Job, LaidPiece, Override, SetApart
from zinnet.layers.assign import FilmChoice, SideOverride
from zinnet.layers.split import Method
from zinnet.placement.as_laid import Readings
from zinnet.placement.place import PlacementSpec, places_on


@dataclass(frozen=True)
class Edit:
    """A named change. Edits that follow one another with the same ``merge`` are undone as one."""

    name: str
    change: Callable[[Job], Job]
    merge: str = ""


def _with[T: Any](value: T, **fields: Any) -> T:
    """Return a validated copy with some fields replaced."""
    kept = {name: getattr(value, name) for name in type(value).model_fields}
    try:
        return type(value)(**{**kept, **fields})  # type: ignore[no-any-return]
    except ValidationError as error:
        first = error.errors()[0]
        where = " ".join(str(part) for part in first["loc"]).replace("_mm", "").replace("_", " ")
        raise ZinnetError(f"That can't be: {where}: {first['msg'].lower()}; choose another value.") from None


def open_artwork(name: str, data: bytes, design: int = 0) -> Edit:
    """Take new artwork for a design; its size and place are proposed anew, the blank stays."""

    def change(job: Job) -> Job:
        title = name.rpartition(".")[0] or name
        kept = job.designs[design].placement if design < len(job.designs) else PlacementSpec()
        placement = PlacementSpec(place=kept.place, school=kept.school, arrangement=kept.arrangement)
        made = Design(artwork=ArtworkFile.of(name, data), placement=placement)
        family = tuple(_without_apart(member, design) for member in job.family)
        only = len(job.designs) <= 1
        return _with(
            job,
            title=title if job.title == "Untitled" else job.title,
            designs=(*job.designs[:design], made, *job.designs[design + 1 :]),
            family=family,
            layers=_with(job.layers, films=(), sides=()) if only else job.layers,
            overrides=(),
        )

    return Edit(f"open {name}", change)


def add_design(name: str, data: bytes, place: str | None = None) -> Edit:
    """Add another design at a place of its own."""

    def change(job: Job) -> Job:
        made = Design(artwork=ArtworkFile.of(name, data), placement=PlacementSpec(place=place))
        return _with(job, designs=(*job.designs, made))

    return Edit(f"add {name}", change)


def remove_design(design: int) -> Edit:
    """Take a design out of the job."""

    def change(job: Job) -> Job:
        designs = (*job.designs[:design], *job.designs[design + 1 :])
        family = tuple(
            _with(
                member,
                apart=tuple(
                    _with(one, design=one.design - (one.design > design))
                    for one in member.apart
                    if one.design != design
                ),
            )
            for member in job.family
        )
        return _with(job, designs=designs, family=family)

    return Edit("remove a design", change)


def _without_apart(member: FamilyMember, design: int) -> FamilyMember:
    return _with(member, apart=tuple(one for one in member.apart if one.design != design))


# the blank


def choose_blank(spec: BlankSpec, name: str = "choose the blank") -> Edit:
    """Take another blank: designs go to its usual places where theirs are not on it, sizes of other kinds go."""

    def change(job: Job) -> Job:
        known = places_on(build_blank(spec))
        designs = tuple(
            design
            if design.placement.place in known
            else _with(design, placement=PlacementSpec(school=design.placement.school))
            for design in job.designs
        )
        if spec.kind == job.blank.kind:
            family = tuple(member for member in job.family if member.size != spec.size)
        else:
            family = ()
        return _with(job, blank=spec, designs=designs, family=family, platen=None, laid=())

    return Edit(name, change)


def set_blank(name: str, **fields: Any) -> Edit:
    """Change some fields of the blank."""
    return Edit(name, lambda job: _with(job, blank=_with(job.blank, **fields)))


def set_measure(measure: str, mm: float, size: str | None = None) -> Edit:
    """Set one measure of the blank, or of the family member of a size, to what was measured."""

    def taken(measured: tuple[Measure, ...]) -> tuple[Measure, ...]:
        return (*(one for one in measured if one.name != measure), Measure(name=measure, mm=mm))

    def change(job: Job) -> Job:
        if job.member(size) is None:
            return _with(job, blank=_with(job.blank, measured=taken(job.blank.measured)))
        return _with_member(job, size, lambda member: _with(member, measured=taken(member.measured)))

    return Edit(f"measure {measure.replace('_', ' ')}", change)


def set_blank_colour(colour: str) -> Edit:
    """Set the colour of the blank."""
    return set_blank("colour of the blank", colour=colour)


def keep_off(keep_out: DrawnKeepOut) -> Edit:
    """Draw a spot on a panel where nothing may be pressed."""
    return Edit(
        "keep off a spot", lambda job: _with(job, blank=_with(job.blank, keep_outs=(*job.blank.keep_outs, keep_out)))
    )


def drop_keep_out(index: int) -> Edit:
    """Take a drawn spot away again."""

    def change(job: Job) -> Job:
        drawn = job.blank.keep_outs
        return _with(job, blank=_with(job.blank, keep_outs=(*drawn[:index], *drawn[index + 1 :])))

    return Edit("take a kept-off spot away", change)


# sizes


def add_size(size: str, copies: int = 1) -> Edit:
    """Make the job for another size too."""
    return Edit(
        f"add size {size}", lambda job: _with(job, family=(*job.family, FamilyMember(size=size, copies=copies)))
    )


def set_sizes(counts: tuple[tuple[str, int], ...]) -> Edit:
    """Make the job for these sizes besides its own; what is known of a size that stays is kept."""

    def change(job: Job) -> Job:
        kept = {member.size: member for member in job.family}
        family = tuple(
            _with(kept[size], copies=copies) if size in kept else FamilyMember(size=size, copies=copies)
            for size, copies in counts
        )
        return _with(job, family=family)

    return Edit("sizes", change)


def remove_size(size: str) -> Edit:
    """Take a size out of the job."""
    return Edit(
        f"remove size {size}",
        lambda job: _with(job, family=tuple(member for member in job.family if member.size != size)),
    )


def follow_family(size: str, design: int) -> Edit:
    """Let a design on a size that was set apart follow the others again."""
    return Edit(
        "follow the other sizes",
        lambda job: _with_member(job, size, lambda member: _without_apart(member, design)),
    )


def _with_member(job: Job, size: str | None, change: Callable[[FamilyMember], FamilyMember]) -> Job:
    family = tuple(change(member) if member.size == size else member for member in job.family)
    return _with(job, family=family)


# places


def place_at(placement: PlacementSpec, name: str, *, design: int = 0, size: str | None = None, merge: str = "") -> Edit:
    """Put a design elsewhere; on another size than the job's own, that sets it apart."""

    def change(job: Job) -> Job:
        if job.member(size) is None:
            made = _with(job.designs[design], placement=placement)
            return _with(job, designs=(*job.designs[:design], made, *job.designs[design + 1 :]))

        def apart(member: FamilyMember) -> FamilyMember:
            others = _without_apart(member, design).apart
            return _with(member, apart=(*others, SetApart(design=design, placement=placement)))

        return _with_member(job, size, apart)

    return Edit(name, change, merge and f"{merge}-{design}-{size}")


def set_placement(name: str, *, design: int = 0, size: str | None = None, merge: str = "", **fields: Any) -> Edit:
    """Change some fields of a design's placement."""

    def change(job: Job) -> Job:
        if design >= len(job.designs):
            return job
        member = job.member(size)
        spec = member.apart_for(design) if member is not None else job.designs[design].placement
        spec = spec or job.designs[design].placement
        return place_at(_with(spec, **fields), name, design=design, size=size).change(job)

    return Edit(name, change, merge and f"{merge}-{design}-{size}")


def choose_place(place: str, *, design: int = 0, size: str | None = None) -> Edit:
    """Put a design at another place; its size and distances are proposed anew."""

    def change(job: Job) -> Job:
        spec = PlacementSpec(place=place, school=job.designs[design].placement.school)
        return place_at(spec, "choose the place", design=design, size=size).change(job)

    return Edit("choose the place", change)


def choose_platen(platen: str | None) -> Edit:
    """Press with another platen; None: the one that is usual for the blank."""
    return Edit("choose the platen", lambda job: _with(job, platen=platen))


def record_readings(readings: Readings | None, *, design: int = 0, size: str | None = None) -> Edit:
    """Keep what the ruler said of a laid piece; None forgets it."""

    def change(job: Job) -> Job:
        where = None if job.member(size) is None else size
        others = tuple(one for one in job.laid if (one.design, one.size) != (design, where))
        own = () if readings is None else (LaidPiece(design=design, size=where, readings=readings),)
        return _with(job, laid=(*others, *own))

    return Edit("ruler readings", change)


# films


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
