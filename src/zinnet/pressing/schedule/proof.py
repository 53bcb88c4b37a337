"""A proof for short runs: a better bound, then schedules aimed at it, planned backwards, and planned forwards.

No one way does best for all runs: what cools is easier to plan forwards, what is peeled warm backwards.
"""

import threading
import time
from collections.abc import Callable
from dataclasses import replace

from zinnet.pressing.schedule.backwards import turned_slots, turned_team, turned_works
from zinnet.pressing.schedule.exact import solve
from zinnet.pressing.schedule.idle_bounds import bound_with_ends
from zinnet.pressing.schedule.model import Progress, Schedule

ENDS, AIMED, BACKWARDS = 0.25, 0.3, 0.5
"""Shares of the time for the bound, and of what is left then for each way but the last."""


def proven(
    best: Schedule, seconds: float, progress: Progress, stop: threading.Event, better: Callable[[Schedule], None]
) -> Schedule:
    """Return the best schedule found in so many seconds, from one at hand, with the time that none undercuts."""
    end = time.monotonic() + seconds
    if progress.slots:
        return _forwards(best, seconds, progress, stop)
    best = replace(best, bound_s=bound_with_ends(best.works, best.team, seconds * ENDS, best.bound_s))
    for way, share in ((_aimed, AIMED), (_backwards, BACKWARDS), (_forwards, 1.0)):
        if best.is_proven or stop.is_set():
            break
        best = way(best, max(0.1, (end - time.monotonic()) * share), progress, stop)
        better(best)
    return best


def _aimed(best: Schedule, seconds: float, progress: Progress, stop: threading.Event) -> Schedule:
    """Look for a schedule that meets the bound and for nothing else."""
    works, team, bound = best.works, best.team, best.bound_s
    slots, _ = solve(works, team, seconds=seconds, hint=best.slots, bound_s=bound, most_s=bound, stop=stop)
    return _better(best, Schedule(works, team, slots, bound))


def _backwards(best: Schedule, seconds: float, progress: Progress, stop: threading.Event) -> Schedule:
    works, team = turned_works(best.works), turned_team(best.team)
    hint = turned_slots(best.works, best.slots)
    slots, bound = solve(works, team, seconds=seconds, hint=hint, bound_s=best.bound_s, stop=stop)
    return _better(best, Schedule(best.works, best.team, turned_slots(works, slots), bound))


def _forwards(best: Schedule, seconds: float, progress: Progress, stop: threading.Event) -> Schedule:
    slots, bound = solve(
        best.works,
        best.team,
        seconds=seconds,
        hint=best.slots,
        bound_s=best.bound_s,
        fixed=progress.slots,
        now_s=progress.now_s,
        stop=stop,
    )
    return _better(best, Schedule(best.works, best.team, slots, bound))


def _better(best: Schedule, found: Schedule) -> Schedule:
    bound = max(best.bound_s, found.bound_s)
    return replace(found if found.total_s < best.total_s else best, bound_s=bound)
