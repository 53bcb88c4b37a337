"""Edits of what was ordered."""

from typing import Any

from zinnet.base.errors import ZinnetError
from zinnet.blanks.catalogue import blank_kind, size_of
from zinnet.job.edits.edit import Edit, with_fields
from zinnet.job.model import FamilyMember, Job
from zinnet.job.order import Order, OrderLine


def set_order(name: str, **fields: Any) -> Edit:
    """Change for whom the order is, until when, and how long a day is."""
    return Edit(name, lambda job: with_fields(job, order=with_fields(job.order, **fields)), f"order {name}")


def set_order_lines(lines: tuple[OrderLine, ...]) -> Edit:
    """Order garments by size and colour; sizes and counts of the job follow, and its colour is that of the first line.

    Without lines the counts of the sizes stay as they are.
    """

    def change(job: Job) -> Job:
        if not lines:
            return with_fields(job, order=with_fields(job.order, lines=()))
        known = blank_kind(job.blank.kind).sizes
        for line in lines:
            if line.size not in known:
                raise ZinnetError(
                    f"{blank_kind(job.blank.kind).name} has no size {line.size}; it has {', '.join(known)}."
                )
        order: Order = with_fields(job.order, lines=lines)
        counts, own = order.counts(), size_of(job.blank)
        first = own if own in counts else next(iter(counts))
        blank = job.blank if first == own else with_fields(job.blank, size=first, measured=())
        members = {member.size: member for member in job.family}
        family = tuple(
            with_fields(members.get(size, FamilyMember(size=size)), copies=count)
            for size, count in counts.items()
            if size != first
        )
        colour = next(line.colour for line in lines if line.size == first)
        return with_fields(
            job, order=order, blank=with_fields(blank, colour=colour), copies=counts[first], family=family
        )

    return Edit("order", change)
