"""Running every check over the facts of a job."""

from dataclasses import replace

from zinnet.checks import artwork, film, fit, layers, mats, use
from zinnet.checks.model import LEVELS, Finding
from zinnet.facts import Facts
from zinnet.layers.detail import look_closely

CHECKS = (*fit.CHECKS, *use.CHECKS, *artwork.CHECKS, *layers.CHECKS, *mats.CHECKS, *film.CHECKS)


def findings_of(facts: Facts) -> tuple[Finding, ...]:
    """Return all findings, the gravest first; those that the user passed carry the reason."""
    look_closely(row for design in facts.garments[0].designs if design.setting is None for row in design.layers)
    passed = {override.finding: override.reason for override in facts.job.overrides}
    found = [replace(finding, passed=passed.get(finding.id)) for check in CHECKS for finding in check(facts)]
    return tuple(sorted(found, key=lambda finding: (finding.passed is not None, LEVELS.index(finding.level))))
