"""All safe mends as one: those that change nothing but outlines, and those only below a film's limit."""

from zinnet.job.edits import Edit, one_step
from zinnet.plan.model import Plan
from zinnet.plan.proof import prove

MOST = 40


def mend_all_safe(plan: Plan) -> Edit | None:
    """Return the edit that makes all mends of a plan that are safe, each proven after those before it.

    Parameters
    ----------
    plan : Plan
        With its findings.

    Returns
    -------
    Edit or None
        One step; None where there is nothing that it could mend.
    """
    made: list[Edit] = []
    now: Plan | None = plan
    while now is not None and len(made) < MOST:
        now = _next(now, made)
    if not made:
        return None
    return one_step("mend all that is safe", made)


def _next(plan: Plan, made: list[Edit]) -> Plan | None:
    """Make the next safe mend that holds, and return the plan that comes of it; None where there is none."""
    for finding in plan.findings:
        mend = finding.mend
        if mend is None or not mend.local or finding.passed is not None:
            continue
        proof = prove(plan, finding, mend)
        if proof.holds and proof.after is not None:
            made.append(mend)
            return proof.after
    return None
