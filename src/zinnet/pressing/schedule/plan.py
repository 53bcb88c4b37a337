"""Planning a run of garments: quick rules, the proven best for short runs, a repeating pattern for long ones."""

import threading
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from zinnet.pressing.schedule.bound import lower_bound
from zinnet.pressing.schedule.dispatch import RULES, Rule, dispatch
from zinnet.pressing.schedule.model import RESOURCES, GarmentWork, Need, Resource, Schedule, Slot, Task, Team

MOST_EXACT = 220
"""So many tasks at most are planned with a proof."""
SAMPLE = 24
"""By how many garments the rules are compared before a long run."""
MOST_IN_WORK = 8
NEAR = 0.01
"""A repeating pattern so near to the bound is taken as it is: people can keep to it."""
Better = Callable[[Schedule], None]


@dataclass(frozen=True)
class Progress:
    """How far a run has got: the slots that are done or under way, and what time it is, in s."""

    slots: tuple[Slot, ...] = ()
    now_s: int = 0


@dataclass(frozen=True)
class Help:
    """By how many seconds one more of a resource would shorten a run."""

    resource: Resource
    saves_s: int

    def said(self, team: Team) -> str:
        """What one more would be called."""
        number = team.count(self.resource) + 1
        ordinal = {2: "A second", 3: "A third", 4: "A fourth"}.get(number, f"A {number}th")
        return f"{ordinal} {'place to cool' if self.resource == 'cooling' else self.resource}"


NEW = Progress()


def plan_work(
    works: Sequence[GarmentWork],
    team: Team,
    *,
    seconds: float = 5.0,
    progress: Progress = NEW,
    stop: threading.Event | None = None,
    better: Better = lambda found: None,
) -> Schedule:
    """Return the best schedule found in so many seconds; each better one is told on the way."""
    works = tuple(works)
    if not works:
        return Schedule(works, team, (), 0)
    bound = max(lower_bound(works, team), *(slot.end for slot in progress.slots), 0)
    if sum(len(work.tasks) for work in works) > MOST_EXACT:
        return _long_run(works, team, bound, seconds, progress, better)
    best = by_rules(works, team, bound, progress)
    better(best)
    if best.is_proven or (stop is not None and stop.is_set()):
        return best
    from zinnet.pressing.schedule.exact import solve

    slots, proven = solve(
        works,
        team,
        seconds=seconds,
        hint=best.slots,
        bound_s=bound,
        fixed=progress.slots,
        now_s=progress.now_s,
        stop=stop,
    )
    exact = Schedule(works, team, slots, proven)
    return exact if exact.total_s < best.total_s else replace(best, bound_s=proven)


def _long_run(
    works: tuple[GarmentWork, ...], team: Team, bound_s: int, seconds: float, progress: Progress, better: Better
) -> Schedule:
    """Return the best of a repeating pattern and the rules; a pattern that is near enough to the bound is taken."""
    repeated = None if progress.slots else _repeated(works, team, bound_s, seconds)
    if repeated is not None:
        better(repeated)
        if repeated.gap <= NEAR:
            return repeated
    ruled = by_rules(works, team, bound_s, progress)
    return repeated if repeated is not None and repeated.total_s <= ruled.total_s else ruled


def _repeated(works: tuple[GarmentWork, ...], team: Team, bound_s: int, seconds: float) -> Schedule | None:
    if len({work.kind for work in works}) > 1:
        return None
    from zinnet.pressing.schedule.pattern import repeat

    found = repeat(works, team, seconds)
    return None if found is None else Schedule(works, team, found[0], bound_s, found[1])


def by_rules(works: Sequence[GarmentWork], team: Team, bound_s: int, progress: Progress = NEW) -> Schedule:
    """Return the shortest of the schedules that simple rules give."""
    heats = {task.heat_c for work in works for task in work.tasks if task.heat_c is not None}
    ways: list[tuple[Rule, int, bool]] = [
        (rule, most, False) for rule in RULES for most in (*range(1, MOST_IN_WORK + 1), len(works))
    ]
    if len(heats) > 1:
        ways = [(rule, len(works), True) for rule in RULES] + ways[:: len(RULES)]

    def run(way: tuple[Rule, int, bool], some: Sequence[GarmentWork], so_far: Progress) -> tuple[Slot, ...]:
        rule, most, by_heat = way
        fixed, now_s = so_far.slots, so_far.now_s
        return dispatch(some, team, rule=rule, most_in_work=most, by_heat=by_heat, fixed=fixed, now_s=now_s)

    if len(works) > SAMPLE:
        ways = [min(ways, key=lambda way: _total(run(way, works[:SAMPLE], NEW)))]
    found = min((run(way, works, progress) for way in ways), key=_total)
    return Schedule(tuple(works), team, found, bound_s)


def _total(slots: Sequence[Slot]) -> int:
    return max(slot.end for slot in slots)


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
