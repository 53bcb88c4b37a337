"""Planning a run of garments: quick rules, the proven best for short runs, a repeating pattern for long ones."""

import threading
import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from zinnet.pressing.schedule.bound import lower_bound
from zinnet.pressing.schedule.model import (
    NEW,
    RESOURCES,
    GarmentWork,
    Need,
    Progress,
    Resource,
    Schedule,
    Task,
    Team,
)
from zinnet.pressing.schedule.rules import by_phases, by_rules

MOST_EXACT = 220
"""So many tasks at most are planned with a proof."""
PHASES = 0.2
"""The share of the time that a short run's phases are given."""
NEAR = 0.01
"""A repeating pattern so near to the bound is taken as it is: people can keep to it."""
Better = Callable[[Schedule], None]


@dataclass(frozen=True)
class Help:
    """By how many seconds one more of a resource would shorten a run."""

    resource: Resource
    saves_s: int

    def in_words(self, team: Team) -> str:
        """What one more would be called."""
        number = team.count(self.resource) + 1
        ordinal = {2: "A second", 3: "A third", 4: "A fourth"}.get(number, f"A {number}th")
        return f"{ordinal} {'place to cool' if self.resource == 'cooling' else self.resource}"


def plan_work(
    works: Sequence[GarmentWork],
    team: Team,
    *,
    seconds: float = 5.0,
    progress: Progress = NEW,
    stop: threading.Event | None = None,
    better: Better = lambda found: None,
) -> Schedule:
    """Return the best schedule found in so many seconds; each better one is told on the way.

    Parameters
    ----------
    works : garment works, s
        What is to be done.
    team : Team
        Presses, people and places to cool.
    seconds : float, s
        How long to search.
    progress : Progress
        What earlier searches found.
    stop : Event
        Ends it sooner.
    better : function of a Schedule
        Told each better one.

    Returns
    -------
    Schedule, s
        With the bound that tells how good it is.
    """
    works = tuple(works)
    if not works:
        return Schedule(works, team, (), 0)
    bound = max(lower_bound(works, team), *(slot.end for slot in progress.slots), 0)
    if sum(len(work.tasks) for work in works) > MOST_EXACT:
        return _long_run(works, team, bound, seconds, progress, better)
    end = time.monotonic() + seconds
    best = _by_rules(works, team, bound, seconds * PHASES, progress)
    better(best)
    if best.is_proven or (stop is not None and stop.is_set()):
        return best
    from zinnet.pressing.schedule.proof import proven

    return proven(best, end - time.monotonic(), progress, stop or threading.Event(), better)


def _by_rules(works: tuple[GarmentWork, ...], team: Team, bound_s: int, seconds: float, progress: Progress) -> Schedule:
    found = (by_phases(works, team, bound_s, seconds, progress), by_rules(works, team, bound_s, progress))
    return min((one for one in found if one is not None), key=lambda one: one.total_s)


def _long_run(
    works: tuple[GarmentWork, ...], team: Team, bound_s: int, seconds: float, progress: Progress, better: Better
) -> Schedule:
    """Return the best of a repeating pattern, phases and the rules; what is near enough to the bound is taken."""
    best: Schedule | None = None
    ways: tuple[Callable[[], Schedule | None], ...] = (
        lambda: None if progress.slots else _repeated(works, team, bound_s, seconds),
        lambda: by_phases(works, team, bound_s, seconds, progress),
        lambda: by_rules(works, team, bound_s, progress),
    )
    for way in ways:
        found = way()
        if found is not None and (best is None or found.total_s < best.total_s):
            best = found
            better(best)
            if best.gap <= NEAR:
                break
    assert best is not None
    return best


def _repeated(works: tuple[GarmentWork, ...], team: Team, bound_s: int, seconds: float) -> Schedule | None:
    if len({work.kind for work in works}) > 1:
        return None
    from zinnet.pressing.schedule.pattern import repeat

    found = repeat(works, team, seconds)
    return None if found is None else Schedule(works, team, found[0], bound_s, found[1])


def helps(found: Schedule, seconds: float = 2.0) -> tuple[Help, ...]:
    """Return what one more press, person or cooling place would save, the most first; what saves none is left out.

    Each is planned anew in so many seconds, so that it is what would be done, not an estimate.
    """
    works, team = found.works, found.team
    more = {"press": "presses", "person": "people", "cooling": "cooling"}
    rows = []
    for resource in RESOURCES:
        larger = replace(team, **{more[resource]: team.count(resource) + 1})
        if lower_bound(works, larger) < found.total_s:
            saved = found.total_s - plan_work(works, larger, seconds=seconds).total_s
            rows.append(Help(resource, saved))
    return tuple(sorted((row for row in rows if row.saves_s > 0), key=lambda row: -row.saves_s))


def replan(found: Schedule, *, garment: int, task: int, longer_s: int, now_s: int, seconds: float = 5.0) -> Schedule:
    """Return the schedule anew from a moment at which a task under way turns out to take so many seconds longer.

    What was begun stays as it was; all else is planned again.

    Parameters
    ----------
    found : Schedule, s
        That is being worked by.
    garment, task : int
        The task under way, by numbers from 0.
    longer_s : int, s
        How much longer it takes.
    now_s : int, s
        When this turns out.
    seconds : float, s
        How long to search.

    Returns
    -------
    Schedule, s
        What was begun stays in it.
    """
    begun = tuple(slot for slot in found.slots if slot.start <= now_s)
    works = list(found.works)
    late = next(slot for slot in begun if (slot.garment, slot.task) == (garment, task))
    tasks = list(works[garment].tasks)
    tasks[task] = longer(tasks[task], at_s=now_s - late.start, by_s=longer_s)
    kind = max(work.kind for work in works) + 1
    works[garment] = replace(works[garment], kind=kind, tasks=tuple(tasks))
    fixed = tuple(replace(slot, end=slot.start + works[slot.garment].tasks[slot.task].seconds) for slot in begun)
    return plan_work(works, found.team, seconds=seconds, progress=Progress(fixed, now_s))


def longer(task: Task, *, at_s: int, by_s: int) -> Task:
    """Return a task that takes longer from a moment of it on: what is needed then is needed longer, the rest later."""
    needs = tuple(
        Need(
            need.resource,
            need.start_s + (by_s if need.start_s > at_s else 0),
            need.end_s + (by_s if need.end_s > at_s else 0),
        )
        for need in task.needs
    )
    return replace(task, seconds=task.seconds + by_s, needs=needs)
