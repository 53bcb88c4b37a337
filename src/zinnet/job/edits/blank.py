"""Edits of the blank: which one, its measures, its cloth, its keep-outs."""

from typing import Any

from zinnet.base.frozen import with_fields
from zinnet.blanks.build import build_blank
from zinnet.blanks.catalogue import blank_kind, size_of
from zinnet.blanks.model import BlankSpec, DrawnKeepOut, Measure
from zinnet.job.asked import asked, in_step, kept_of, merged, of_size, with_kept, with_lines
from zinnet.job.edits.edit import Edit
from zinnet.job.edits.sizes import with_member
from zinnet.job.model import FamilyMember, Job
from zinnet.placement.place import PlacementSpec, places_on

USUAL_SIZE = "adult-m"


def choose_blank(spec: BlankSpec, name: str = "choose the blank") -> Edit:
    """Take another blank: designs go to its usual places where theirs are not on it.

    What was typed of another kind or size is kept, and is there again with it. Counts go along where the kind has the
    same sizes; where it has not, they are those of last time, else all are of the blank's own size.
    """

    def change(job: Job) -> Job:
        known = places_on(build_blank(spec))
        designs = tuple(
            design
            if design.placement.place in known
            else with_fields(design, placement=PlacementSpec(school=design.placement.school))
            for design in job.designs
        )
        job = with_fields(with_kept(job), designs=designs, platen=None, laid=())
        return _in_size(job, spec) if spec.kind == job.blank.kind else _of_kind(job, spec)

    return Edit(name, change)


def change_kind(kind: str) -> Edit:
    """Take another kind of blank, as it was when it was last on the table; its colour stays."""

    def change(job: Job) -> Job:
        if kind == job.blank.kind:
            return job
        known, kept = blank_kind(kind).sizes, kept_of(job, kind)
        size = next((one for one in (job.blank.size, USUAL_SIZE) if one in known), known[0])
        spec = BlankSpec(kind=kind, size=size) if kept is None else kept.blank
        return choose_blank(with_fields(spec, colour=job.blank.colour)).change(job)

    return Edit("choose the blank", change)


def _in_size(job: Job, spec: BlankSpec) -> Job:
    """Return the job with another size as its own; where the job makes that one already, both are made on."""
    before, size = size_of(job.blank), size_of(spec)
    blank = spec if spec.measured or size == before else of_size(job, spec, size)
    member = job.member(size)
    if size == before or member is None:
        return in_step(with_fields(job, blank=blank))
    own = FamilyMember(size=before, copies=job.copies, measured=job.blank.measured)
    family = (own, *(one for one in job.family if one.size != size))
    return in_step(with_fields(job, blank=blank, copies=member.copies, family=family))


def _of_kind(job: Job, spec: BlankSpec) -> Job:
    """Return the job on another kind of blank."""
    before, known, kept = asked(job), blank_kind(spec.kind).sizes, kept_of(job, spec.kind)
    left = kept_of(job, job.blank.kind)
    if all(line.size in known for line in before):
        lines, carried = before, left is None or left.carried
    elif kept is not None and not kept.carried:
        lines, carried = kept.lines, False
    else:
        lines, carried = merged(with_fields(line, size=size_of(spec)) for line in before), True
    has_lines = bool(job.order.lines)
    blank = spec if spec.measured else of_size(job, spec, size_of(spec))
    made = with_lines(with_fields(job, blank=blank, family=()), lines)
    if has_lines:
        return with_kept(made, carried=carried)
    return with_fields(made, order=with_fields(made.order, lines=()), blank=with_fields(made.blank, colour=spec.colour))


def set_blank(name: str, **fields: Any) -> Edit:
    """Change some fields of the blank."""
    return Edit(name, lambda job: with_fields(job, blank=with_fields(job.blank, **fields)))


def set_measure(measure: str, mm: float, size: str | None = None) -> Edit:
    """Set one measure of the blank, or of the family member of a size, to what was measured."""

    def taken(measured: tuple[Measure, ...]) -> tuple[Measure, ...]:
        return (*(one for one in measured if one.name != measure), Measure(name=measure, mm=mm))

    def change(job: Job) -> Job:
        if job.member(size) is None:
            return with_fields(job, blank=with_fields(job.blank, measured=taken(job.blank.measured)))
        return with_member(job, size, lambda member: with_fields(member, measured=taken(member.measured)))

    return Edit(f"measure {measure.replace('_', ' ')}", change)


def set_blank_colour(colour: str) -> Edit:
    """Set the colour of the blank, and of what was asked for in that colour."""

    def change(job: Job) -> Job:
        before = (job.blank.colour or blank_kind(job.blank.kind).colour).lower()
        lines = tuple(
            with_fields(line, colour=colour.lower(), name="") if line.colour == before else line
            for line in job.order.lines
        )
        order = with_fields(job.order, lines=lines)
        return with_fields(job, blank=with_fields(job.blank, colour=colour), order=order)

    return Edit("colour of the blank", change)


def keep_off(keep_out: DrawnKeepOut) -> Edit:
    """Draw a spot on a panel where nothing may be pressed."""
    return Edit(
        "keep off a spot",
        lambda job: with_fields(job, blank=with_fields(job.blank, keep_outs=(*job.blank.keep_outs, keep_out))),
    )


def drop_keep_out(index: int) -> Edit:
    """Take a drawn spot away again."""

    def change(job: Job) -> Job:
        drawn = job.blank.keep_outs
        return with_fields(job, blank=with_fields(job.blank, keep_outs=(*drawn[:index], *drawn[index + 1 :])))

    return Edit("take a kept-off spot away", change)
