"""A look ahead at a job that changes under the hand: what is cut where, and what lies on one another, no more."""

from dataclasses import dataclass

from zinnet.job.model import Job
from zinnet.plan.composed import compose_garments
from zinnet.plan.findings.model import Finding
from zinnet.plan.findings.run import find_together
from zinnet.plan.fitted import Garment
from zinnet.plan.fitting import fitting_of
from zinnet.plan.sizes import fit_garments
from zinnet.workshop.model import Workshop


@dataclass(frozen=True, eq=False)
class Ahead:
    """What is known of a job before its plan is: every size with its compositions, and how designs lie together."""

    job: Job
    garments: tuple[Garment, ...]
    findings: tuple[Finding, ...]


def look_ahead(job: Job, workshop: Workshop) -> Ahead:
    """Return what comes first of a job's plan; the plan makes none of it anew.

    Parameters
    ----------
    job, workshop
        What the user decided, and what there is to work with. Of a list of names only the widest words are looked at.

    Raises
    ------
    ZinnetError
        Where the job can't be made sense of.
    """
    with workshop.blanks.in_use():
        garments = compose_garments(job.layers, workshop.films, fit_garments(fitting_of(job, workshop)))
        return Ahead(job, garments, find_together(job, workshop, garments))
