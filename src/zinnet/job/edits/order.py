"""Edits of what was ordered."""

from typing import Any

from zinnet.base.errors import ZinnetError
from zinnet.base.frozen import with_fields
from zinnet.blanks.catalogue import blank_kind
from zinnet.job.asked import merged, with_lines
from zinnet.job.edits.edit import Edit
from zinnet.job.model import Job
from zinnet.job.order import OrderLine


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
        return with_lines(job, merged(lines))

    return Edit("order", change)
