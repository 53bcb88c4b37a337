"""Running every check over the facts of a job."""

from dataclasses import replace

from zinnet.job.model import Job
from zinnet.layers.detail import look_closely
from zinnet.plan.facts import Facts
from zinnet.plan.findings import (
    artwork,
    cut,
    film,
    fit,
    layers,
    mats,
    names,
    press,
)
from zinnet.plan.findings import (
    keep_off as use,
)
from zinnet.plan.findings.model import LEVELS, Finding

CHECKS = (
    *fit.CHECKS,
    *use.CHECKS,
    *artwork.CHECKS,
    *names.CHECKS,
    *layers.CHECKS,
    *mats.CHECKS,
    *film.CHECKS,
    *cut.CHECKS,
    *press.CHECKS,
)


def findings_of(facts: Facts) -> tuple[Finding, ...]:
    """Return all findings, the gravest first; those that the user passed carry the reason."""
    look_closely(row for design in facts.garments[0].designs if design.setting is None for row in design.layers)
    found = [replace(finding, passed=_passed(facts.job, finding)) for check in CHECKS for finding in check(facts)]
    return tuple(sorted(found, key=lambda finding: (finding.passed is not None, LEVELS.index(finding.level))))


def _passed(job: Job, finding: Finding) -> str | None:
    """Return the user's reason to pass a finding."""
    return next((one.reason for one in job.overrides if one.passes(finding.id, finding.subject)), None)
