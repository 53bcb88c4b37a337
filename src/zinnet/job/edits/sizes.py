"""Edits of the sizes that the job is made for."""

from collections.abc import Callable

from zinnet.base.frozen import with_fields
from zinnet.job.asked import in_step, member_of, with_kept
from zinnet.job.edits.edit import Edit
from zinnet.job.model import FamilyMember, Job


def add_size(size: str, copies: int = 1) -> Edit:
    """Make the job for another size too."""
    return Edit(f"add size {size}", lambda job: _made_for(job, (*job.family, member_of(job, size, copies))))


def add_sizes(sizes: tuple[str, ...]) -> Edit:
    """Make the job for other sizes too, where a list of names asks for them."""

    def change(job: Job) -> Job:
        fresh = tuple(member_of(job, size, 1) for size in sizes if job.member(size) is None)
        return _made_for(job, (*job.family, *fresh))

    return Edit(f"add size {', '.join(sizes)}", change)


def set_sizes(counts: tuple[tuple[str, int], ...]) -> Edit:
    """Make the job for these sizes besides its own; what is known of a size is kept, also while it is not made."""

    def change(job: Job) -> Job:
        family = tuple(
            with_fields(job.member(size) or member_of(job, size, 1), copies=copies) for size, copies in counts
        )
        return _made_for(job, family)

    return Edit("sizes", change)


def remove_size(size: str) -> Edit:
    """Take a size out of the job; what was measured on it is kept."""
    return Edit(
        f"remove size {size}",
        lambda job: _made_for(job, tuple(member for member in job.family if member.size != size)),
    )


def _made_for(job: Job, family: tuple[FamilyMember, ...]) -> Job:
    """Return the job for other sizes besides its own; the order is in step with them."""
    return in_step(with_fields(with_kept(job), family=family))


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
