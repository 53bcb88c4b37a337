"""Times under which nobody can stay: what each resource has to do, with what must come before and after it."""

from collections.abc import Sequence
from itertools import pairwise

from zinnet.pressing.schedule.model import RESOURCES, GarmentWork, Resource, Team


def lower_bound(works: Sequence[GarmentWork], team: Team) -> int:
    """Return a time in s that no schedule undercuts.

    The longest garment by itself; and for each resource its whole load over its units, with the shortest time before
    it is first needed and after it is last needed. A single press that needs several heats changes at least between
    all of them once.

    Parameters
    ----------
    works : garment works, s
        What is to be done.
    team : Team
        Presses, people, places to cool, and how long a change of heat takes.

    Returns
    -------
    int, s
        0 without work.
    """
    if not works:
        return 0
    return max(max(work.seconds for work in works), *(_by_resource(works, team, one) for one in RESOURCES))


def _by_resource(works: Sequence[GarmentWork], team: Team, resource: Resource) -> int:
    using = [work for work in works if any(task.load(resource) for task in work.tasks)]
    if not using:
        return 0
    units = team.count(resource)
    load = sum(task.load(resource) for work in using for task in work.tasks)
    if resource == "press" and units == 1:
        load += _changes(works, team)
    heads = sorted(_head(work, resource) for work in using)
    tails = sorted(_tail(work, resource) for work in using)
    by_used = [-(-(load + sum(heads[:used]) + sum(tails[:used])) // used) for used in range(1, units + 1)]
    return min(by_used[: len(using)])


def _head(work: GarmentWork, resource: Resource) -> int:
    """Return how long a garment takes until it first needs a resource."""
    before = 0
    for task in work.tasks:
        starts = [need.start_s for need in task.needs if need.resource == resource]
        if starts:
            return before + min(starts)
        before += task.seconds
    return before


def _tail(work: GarmentWork, resource: Resource) -> int:
    """Return how long a garment takes after it last needs a resource."""
    after = 0
    for task in reversed(work.tasks):
        ends = [need.end_s for need in task.needs if need.resource == resource]
        if ends:
            return after + task.seconds - max(ends)
        after += task.seconds
    return after


def _changes(works: Sequence[GarmentWork], team: Team) -> int:
    """Return the least time that one press spends on changing between all heats that are needed."""
    heats = sorted({task.heat_c for work in works for task in work.tasks if task.heat_c is not None})
    if len(heats) < 2:
        return 0
    return sum(min(team.change_s(a, b), team.change_s(b, a)) for a, b in pairwise(heats))
