"""Edits of where designs lie, how large, and what the ruler said of them."""

from typing import Any

from zinnet.base.frozen import with_fields
from zinnet.job.edits.edit import Edit
from zinnet.job.edits.sizes import with_member, without_apart
from zinnet.job.model import (
    FamilyMember,
    Job,
    LaidPiece,
    SetApart,
)
from zinnet.placement.as_laid import Readings
from zinnet.placement.place import PlacementSpec


def place_at(placement: PlacementSpec, name: str, *, design: int = 0, size: str | None = None, merge: str = "") -> Edit:
    """Put a design elsewhere; on another size than the job's own, that sets it apart."""

    def change(job: Job) -> Job:
        if job.member(size) is None:
            made = with_fields(job.designs[design], placement=placement)
            return with_fields(job, designs=(*job.designs[:design], made, *job.designs[design + 1 :]))

        def apart(member: FamilyMember) -> FamilyMember:
            others = without_apart(member, design).apart
            return with_fields(member, apart=(*others, SetApart(design=design, placement=placement)))

        return with_member(job, size, apart)

    return Edit(name, change, merge and f"{merge}-{design}-{size}")


def set_placement(name: str, *, design: int = 0, size: str | None = None, merge: str = "", **fields: Any) -> Edit:
    """Change some fields of a design's placement."""

    def change(job: Job) -> Job:
        if design >= len(job.designs):
            return job
        member = job.member(size)
        spec = member.apart_for(design) if member is not None else job.designs[design].placement
        spec = spec or job.designs[design].placement
        return place_at(with_fields(spec, **fields), name, design=design, size=size).change(job)

    return Edit(name, change, merge and f"{merge}-{design}-{size}")


def choose_place(place: str, *, design: int = 0, size: str | None = None) -> Edit:
    """Put a design at another place; its size and distances are proposed anew."""

    def change(job: Job) -> Job:
        spec = PlacementSpec(place=place, school=job.designs[design].placement.school)
        return place_at(spec, "choose the place", design=design, size=size).change(job)

    return Edit("choose the place", change)


def choose_platen(platen: str | None) -> Edit:
    """Press with another platen; None: the one that is usual for the blank."""
    return Edit("choose the platen", lambda job: with_fields(job, platen=platen))


def record_readings(readings: Readings | None, *, design: int = 0, size: str | None = None) -> Edit:
    """Keep what the ruler said of a laid piece; None forgets it."""

    def change(job: Job) -> Job:
        where = None if job.member(size) is None else size
        others = tuple(one for one in job.laid if (one.design, one.size) != (design, where))
        own = () if readings is None else (LaidPiece(design=design, size=where, readings=readings),)
        return with_fields(job, laid=(*others, *own))

    return Edit("ruler readings", change)
