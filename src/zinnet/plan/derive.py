"""The plan: all that follows from a job and a workshop, with its findings."""

from collections.abc import Mapping
from dataclasses import dataclass, fields

from zinnet.job.model import Job
from zinnet.nesting.model import Layout
from zinnet.plan.facts import Facts, gather
from zinnet.plan.findings.model import Finding
from zinnet.plan.findings.run import findings_of
from zinnet.workshop.model import Workshop


@dataclass(frozen=True, eq=False, kw_only=True)
class Plan(Facts):
    """The facts of a job and what there is to say about them."""

    findings: tuple[Finding, ...] = ()

    @property
    def open_stops(self) -> tuple[Finding, ...]:
        """The findings past which nothing may be cut."""
        return tuple(finding for finding in self.findings if finding.is_open_stop)


def derive(job: Job, workshop: Workshop, layouts: Mapping[str, Layout] | None = None) -> Plan:
    """Return the plan of a job. Each stage is cached on what it reads, so that an edit costs little.

    ``layouts`` holds the nests made so far by their key. Raises a :class:`ZinnetError` where the job
    can't be made sense of.
    """
    facts = gather(job, workshop, layouts or {})
    known = {field.name: getattr(facts, field.name) for field in fields(Facts)}
    return Plan(**known, findings=findings_of(facts))
