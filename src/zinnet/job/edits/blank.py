"""Edits of the blank: which one, its measures, its cloth, its keep-outs."""

from typing import Any

from zinnet.blanks.build import build_blank
from zinnet.blanks.model import BlankSpec, DrawnKeepOut, Measure
from zinnet.job.edits.edit import Edit, with_fields
from zinnet.job.edits.sizes import with_member
from zinnet.job.model import Job
from zinnet.placement.place import PlacementSpec, places_on


def choose_blank(spec: BlankSpec, name: str = "choose the blank") -> Edit:
    """Take another blank: designs go to its usual places where theirs are not on it, sizes of other kinds go."""

    def change(job: Job) -> Job:
        known = places_on(build_blank(spec))
        designs = tuple(
            design
            if design.placement.place in known
            else with_fields(design, placement=PlacementSpec(school=design.placement.school))
            for design in job.designs
        )
        if spec.kind == job.blank.kind:
            family = tuple(member for member in job.family if member.size != spec.size)
        else:
            family = ()
        return with_fields(job, blank=spec, designs=designs, family=family, platen=None, laid=())

    return Edit(name, change)


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
    """Set the colour of the blank."""
    return set_blank("colour of the blank", colour=colour)


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
