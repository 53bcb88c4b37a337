"""Edits of what a job is sold for."""

from typing import Any

from zinnet.base.frozen import with_fields
from zinnet.job.edits.edit import Edit


def set_price(name: str, **fields: Any) -> Edit:
    """Change what the price of the job goes by; None: as the price list says."""
    return Edit(name, lambda job: with_fields(job, price=with_fields(job.price, **fields)))
