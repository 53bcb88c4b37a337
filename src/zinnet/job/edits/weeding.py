"""Edits of the weeding: what is ticked off at the bench."""

from zinnet.base.frozen import with_fields
from zinnet.job.edits.edit import Edit
from zinnet.job.model import Job, Weeded


def tick_weeded(design: int, layer: str, spots: tuple[tuple[float, float], ...]) -> Edit:
    """Tick off the waste that holds these points, in shares of the design's width; none: begin anew."""

    def change(job: Job) -> Job:
        others = tuple(one for one in job.weeded if (one.design, one.layer) != (design, layer))
        own = (Weeded(design=design, layer=layer, spots=spots),) if spots else ()
        return with_fields(job, weeded=(*others, *own))

    return Edit("tick off what is weeded", change, f"weeded-{design}-{layer}")
