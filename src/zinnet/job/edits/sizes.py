"""Edits of the sizes that the job is made for."""

from collections.abc import Callable

from zinnet.job.edits.edit import Edit, with_fields
from zinnet.job.model import FamilyMember, Job


def add_size(size: str, copies: int = 1) -> Edit:
    """Make the job for another size too."""
    return Edit(
        f"add size {size}", lambda job: with_fields(job, family=(*job.family, FamilyMember(size=size, copies=copies)))
    )


def add_sizes(sizes: tuple[str, ...]) -> Edit:
    """Make the job for other sizes too, where a list of names asks for them."""

    def change(job: Job) -> Job:
        known = {member.size for member in job.family}
        fresh = tuple(FamilyMember(size=size) for size in sizes if size not in known)
        return with_fields(job, family=(*job.family, *fresh))

    return Edit(f"add size {', '.join(sizes)}", change)


def set_sizes(counts: tuple[tuple[str, int], ...]) -> Edit:
    """Make the job for these sizes besides its own; what is known of a size that stays is kept."""

    def change(job: Job) -> Job:
        kept = {member.size: member for member in job.family}
        family = tuple(
            with_fields(kept[size], copies=copies) if size in kept else FamilyMember(size=size, copies=copies)
            for size, copies in counts
        )
        return with_fields(job, family=family)

    return Edit("sizes", change)


def remove_size(size: str) -> Edit:
    """Take a size out of the job."""
    return Edit(
        f"remove size {size}",
        lambda job: with_fields(job, family=tuple(member for member in job.family if member.size != size)),
    )


def follow_family(size: str, design: int) -> Edit:
    """Let a design on a size that was set apart follow the others again."""
    return Edit(
        "follow the other sizes",
        lambda job: with_member(job, size, lambda member: without_apart(member, design)),
    )


def with_member(job: Job, size: str | None, change: Callable[[FamilyMember], FamilyMember]) -> Job:
    """Return the job with one of its sizes changed."""
    family = tuple(change(member) if member.size == size else member for member in job.family)
    return with_fields(job, family=family)


def without_apart(member: FamilyMember, design: int) -> FamilyMember:
    """Return a size on which a design follows the others."""
    return with_fields(member, apart=tuple(one for one in member.apart if one.design != design))
