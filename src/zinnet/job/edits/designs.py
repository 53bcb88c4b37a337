"""Edits of designs: opening artwork, adding and removing it."""

from collections.abc import Callable

from zinnet.base.errors import ZinnetError
from zinnet.base.frozen import with_fields
from zinnet.job.edits.edit import Edit
from zinnet.job.edits.sizes import without_apart
from zinnet.job.model import Design, Job
from zinnet.placement.place import PlacementSpec


def with_design(name: str, design: int, change: Callable[[Design], Design], merge: str = "") -> Edit:
    """Return the edit that changes one design."""

    def apply(job: Job) -> Job:
        if not 0 <= design < len(job.designs):
            raise ZinnetError(f"The job has no design {design + 1}; it has {len(job.designs)}.")
        designs = (*job.designs[:design], change(job.designs[design]), *job.designs[design + 1 :])
        return with_fields(job, designs=designs)

    return Edit(name, apply, merge)


def open_artwork(name: str, data: bytes, design: int = 0) -> Edit:
    """Take new artwork for a design; its size and place are proposed anew, the blank stays."""

    def change(job: Job) -> Job:
        title = name.rpartition(".")[0] or name
        kept = job.designs[design].placement if design < len(job.designs) else PlacementSpec()
        placement = PlacementSpec(place=kept.place, school=kept.school, arrangement=kept.arrangement)
        made = Design.of(name, data, placement)
        family = tuple(without_apart(member, design) for member in job.family)
        only = len(job.designs) <= 1
        return with_fields(
            job,
            title=title if job.title == "Untitled" else job.title,
            designs=(*job.designs[:design], made, *job.designs[design + 1 :]),
            family=family,
            layers=with_fields(job.layers, films=(), sides=()) if only else job.layers,
            overrides=(),
        )

    return Edit(f"open {name}", change)


def add_design(name: str, data: bytes, place: str | None = None) -> Edit:
    """Add another design at a place of its own."""

    def change(job: Job) -> Job:
        made = Design.of(name, data, PlacementSpec(place=place))
        return with_fields(job, designs=(*job.designs, made))

    return Edit(f"add {name}", change)


def set_group(design: int, group: tuple[str, ...]) -> Edit:
    """Put a design into groups, the outermost first."""
    return with_design("group", design, lambda one: with_fields(one, group=group))


def remove_design(design: int) -> Edit:
    """Take a design out of the job."""

    def change(job: Job) -> Job:
        designs = (*job.designs[:design], *job.designs[design + 1 :])
        family = tuple(
            with_fields(
                member,
                apart=tuple(
                    with_fields(one, design=one.design - (one.design > design))
                    for one in member.apart
                    if one.design != design
                ),
            )
            for member in job.family
        )
        return with_fields(job, designs=designs, family=family)

    return Edit("remove a design", change)
