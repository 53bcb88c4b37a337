"""Running every check over the facts of a job."""

from collections.abc import Callable, Iterable
from dataclasses import replace

from zinnet.base.stages import stage
from zinnet.job.model import Job
from zinnet.layers.detail import look_closely
from zinnet.plan.findings import (
    artwork,
    beside,
    cut,
    film,
    fit,
    heat,
    hold,
    layers,
    mats,
    names,
    objects,
    plates,
    press,
    together,
)
from zinnet.plan.findings import (
    keep_off as use,
)
from zinnet.plan.findings.levels import LEVELS
from zinnet.plan.findings.model import Finding
from zinnet.plan.fitted import Garment
from zinnet.plan.loading import cutting_of, loaded_mats
from zinnet.plan.model import Facts, Plan
from zinnet.plan.named import NamedGarment
from zinnet.plan.nests import FilmNest, NestedMat, shelf_of
from zinnet.plan.presses import GarmentPress
from zinnet.plan.trims import Trim
from zinnet.workshop.model import Workshop

Check = Callable[[Facts], Iterable[Finding]]
BETWEEN_DESIGNS = ("designs-overlap", "touches-another", "group-torn")
"""What :func:`find_together` finds."""
UNREAD = ("title",)
"""What of a job no finding is about: an edit of it finds nothing anew."""
OF_GARMENTS = frozenset(
    check
    for part in (fit, use, together, beside, artwork, hold, names, layers, objects)
    for check in part.CHECKS
    if check not in (fit.blank_not_measured, objects.gate_open, *objects.OF_PRESSES)
)
"""Checks that look at nothing that comes after the compositions: another nest finds nothing of theirs anew."""
OF_PRESSES = frozenset((*heat.CHECKS, *plates.CHECKS, *press.CHECKS, *objects.OF_PRESSES)) - {press.carriers_of_parts}
CHECKS = (
    *fit.CHECKS,
    *use.CHECKS,
    *together.CHECKS,
    *beside.CHECKS,
    *artwork.CHECKS,
    *hold.CHECKS,
    *names.CHECKS,
    *layers.CHECKS,
    *mats.CHECKS,
    *film.CHECKS,
    *cut.CHECKS,
    *objects.CHECKS,
    *heat.CHECKS,
    *plates.CHECKS,
    *press.CHECKS,
)


def find(plan: Plan) -> Plan:
    """Return the plan with all findings, the gravest first; those that the user passed carry the reason."""
    found = _found(
        plan.job.model_copy(update=dict.fromkeys(UNREAD, "")),
        plan.workshop,
        plan.garments,
        plan.named,
        plan.nests,
        plan.mats,
        plan.trims,
        plan.presses,
    )
    return replace(plan, findings=found)


@stage(most=8, stays=True)
def _found(
    job: Job,
    workshop: Workshop,
    garments: tuple[Garment, ...],
    named: tuple[NamedGarment, ...],
    nests: tuple[FilmNest, ...],
    mats: tuple[NestedMat, ...],
    trims: tuple[Trim, ...],
    presses: tuple[GarmentPress, ...],
) -> tuple[Finding, ...]:
    cutting = cutting_of(job, workshop)
    facts = Facts(
        job=job,
        workshop=workshop,
        garments=garments,
        named=named,
        shelf=shelf_of(job, workshop),
        nests=nests,
        mats=mats,
        trims=trims,
        cutting=cutting,
        loads=loaded_mats(trims, cutting),
        presses=presses,
    )
    known = {**_of_garments(job, workshop, garments, named), **_of_presses(job, workshop, garments, presses)}
    every = [finding for check in CHECKS for finding in (known[check] if check in known else check(facts))]
    found = [replace(finding, passed=_passed(job, finding)) for finding in every]
    return tuple(sorted(found, key=lambda finding: (finding.passed is not None, LEVELS.index(finding.level))))


def find_together(job: Job, workshop: Workshop, garments: tuple[Garment, ...]) -> tuple[Finding, ...]:
    """Return what is wrong between designs that lie together, which is known before all else."""
    facts = Facts(job=job, workshop=workshop, garments=garments, cutting=cutting_of(job, workshop), ahead=True)
    checks = (*together.CHECKS, *beside.CHECKS)
    found = [replace(one, passed=_passed(job, one)) for check in checks for one in check(facts)]
    return tuple(sorted(found, key=lambda finding: (finding.passed is not None, LEVELS.index(finding.level))))


@stage(most=8, stays=True)
def _of_garments(
    job: Job, workshop: Workshop, garments: tuple[Garment, ...], named: tuple[NamedGarment, ...]
) -> dict[Check, tuple[Finding, ...]]:
    look_closely(row for design in garments[0].compositions if design.setting is None for row in design.layers)
    facts = Facts(job=job, workshop=workshop, garments=garments, named=named, cutting=cutting_of(job, workshop))
    return {check: tuple(check(facts)) for check in OF_GARMENTS}


@stage(most=8, stays=True)
def _of_presses(
    job: Job, workshop: Workshop, garments: tuple[Garment, ...], presses: tuple[GarmentPress, ...]
) -> dict[Check, tuple[Finding, ...]]:
    facts = Facts(job=job, workshop=workshop, garments=garments, presses=presses, cutting=cutting_of(job, workshop))
    return {check: tuple(check(facts)) for check in OF_PRESSES}


def _passed(job: Job, finding: Finding) -> str | None:
    """Return the user's reason to pass a finding."""
    return next((one.reason for one in job.overrides if one.passes(finding.id, finding.subject)), None)
