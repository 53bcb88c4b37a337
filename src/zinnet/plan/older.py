"""What is found in a job of an earlier Zinnet that did not look for it."""

from zinnet.plan.model import Plan

LOOKED_FOR_SINCE = {
    "designs-overlap": 12,
    "outside-page": 12,
    "touches-another": 13,
    "group-torn": 13,
    "film-not-for-blank": 14,
    "plate-does-not-reach": 14,
    "heat-untested": 14,
    "platen-edge-on-piece": 15,
}
"""Findings by the schema of the jobs that were saved when they were first looked for."""


def seen_since(plan: Plan) -> str:
    """Return in a sentence what is found in a job now that was not looked for when it was saved; empty for nothing."""
    schema = plan.job.from_schema
    if schema is None:
        return ""
    titles = dict.fromkeys(
        finding.title.lower()
        for finding in plan.findings
        if LOOKED_FOR_SINCE.get(finding.id, 0) > schema and finding.passed is None
    )
    if not titles:
        return ""
    return (
        f"This job is from an earlier Zinnet, which did not look for: {', '.join(titles)}. "
        "It is as it was saved; see the findings before you cut."
    )
