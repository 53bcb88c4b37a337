"""The shortest of many schedules by rule: what is quick to find for runs of any length."""

import time
from collections.abc import Sequence
from itertools import product

from zinnet.pressing.schedule.dispatch import RULES, Rule, dispatch
from zinnet.pressing.schedule.model import NEW, GarmentWork, Progress, Schedule, Slot, Team
from zinnet.pressing.schedule.phases import PARTS, Batches, Phases, all_at_once

SAMPLE = 24
"""By how many garments the rules are compared before a long run."""
MOST_IN_WORK = 8


def by_rules(works: Sequence[GarmentWork], team: Team, bound_s: int, progress: Progress = NEW) -> Schedule:
    """Return the shortest of the schedules that simple rules give."""
    ways: list[tuple[Rule, int]] = [
        (rule, most) for rule in RULES for most in (*range(1, MOST_IN_WORK + 1), len(works))
    ]

    def run(way: tuple[Rule, int], some: Sequence[GarmentWork], so_far: Progress) -> tuple[Slot, ...]:
        rule, most = way
        return dispatch(some, team, rule=rule, most_in_work=most, fixed=so_far.slots, now_s=so_far.now_s)

    if len(works) > SAMPLE:
        ways = [min(ways, key=lambda way: _total(run(way, works[:SAMPLE], NEW)))]
    found = min((run(way, works, progress) for way in ways), key=_total)
    return Schedule(tuple(works), team, found, bound_s)


def by_phases(
    works: Sequence[GarmentWork], team: Team, bound_s: int, seconds: float, progress: Progress = NEW
) -> Schedule | None:
    """Return the shortest of the schedules that keep the press at one heat for a phase; None where there is but one.

    All presses are tried for a round let by before them, with a usual number of batches; then all numbers of batches
    for the two best of them.
    """
    end = time.monotonic() + seconds
    first = all_at_once(works)
    if first is None:
        return None

    def run(phases: Phases) -> tuple[Slot, ...]:
        most, fixed, now_s = len(works), progress.slots, progress.now_s
        return dispatch(works, team, rule="farthest", most_in_work=most, phases=phases, fixed=fixed, now_s=now_s)

    batches = Batches({work.kind: work.tasks for work in works}, len(works))
    tried = {late: run(batches.way(PARTS[0], late)) for late in batches.lates}
    found = [run(first), *tried.values()]
    for part, late in product(PARTS[1:], sorted(tried, key=lambda late: _total(tried[late]))[:2]):
        if time.monotonic() > end:
            break
        found.append(run(batches.way(part, late)))
    return Schedule(tuple(works), team, min(found, key=_total), bound_s)


def _total(slots: Sequence[Slot]) -> int:
    return max(slot.end for slot in slots)
