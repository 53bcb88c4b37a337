"""How long people and presses must stand idle as a run begins and ends: it lifts the time that nobody undercuts.

At the end of a run all want the press at once, and what cools keeps nobody busy. The most that a resource can be busy
in the last few minutes is a small problem of its own, solved by constraint programming; the rest of those minutes it
is idle, whatever the schedule. The same holds for the first minutes.
"""

import time
from collections.abc import Sequence
from typing import Any

from zinnet.pressing.schedule.backwards import turned_team, turned_works
from zinnet.pressing.schedule.exact import PressUse, keep_heats_apart
from zinnet.pressing.schedule.model import RESOURCES, GarmentWork, Resource, Team

BEGIN_S = (90,)
END_S = (120, 200, 300, 400)
"""Over the first and the last so many seconds the resources are looked at."""
ONE_S = 0.4
"""So long each of them is worked on at most; one that isn't done counts by its own bound."""


def bound_with_ends(works: Sequence[GarmentWork], team: Team, seconds: float, bound_s: int = 0) -> int:
    """Return a time in s that no schedule undercuts: load and idle time at both ends, over how many there are.

    ``bound_s`` is such a time that is known; what can't lift it isn't looked at.
    """
    end = time.monotonic() + seconds
    turned, back = turned_works(works), turned_team(team)
    best, most = bound_s, BEGIN_S[-1] + END_S[-1]
    for resource in ("person", "press"):
        load = sum(task.load(resource) for work in works for task in work.tasks)
        if -(-load // team.count(resource)) + most <= best:
            continue
        idle = idle_s(turned, back, resource, END_S, end) + idle_s(works, team, resource, BEGIN_S, end)
        bound = -(-(load + idle) // team.count(resource))
        if bound >= most:
            best = max(best, bound)
    return best


def idle_s(works: Sequence[GarmentWork], team: Team, resource: Resource, lengths: Sequence[int], end: float) -> int:
    """Return how long units of a resource are idle together, at least, in the first seconds of any schedule.

    Longer windows are looked at as long as they find more, until ``end`` (``time.monotonic``).
    """
    best = 0
    for length in lengths:
        left = min(ONE_S, end - time.monotonic())
        found = length * team.count(resource) - _most_busy(works, team, resource, length, left) if left > 0 else 0
        if found <= best:
            break
        best = found
    return best


def _most_busy(works: Sequence[GarmentWork], team: Team, resource: Resource, length: int, seconds: float) -> int:
    """Return a time that units of a resource can't be busy for longer together in the first ``length`` seconds."""
    from ortools.sat.python import cp_model

    model: Any = cp_model.CpModel()
    busy: list[Any] = []
    intervals: dict[Resource, list[Any]] = {one: [] for one in RESOURCES}
    presses: list[PressUse] = []
    before: dict[int, list[Any]] = {}
    for g, work in enumerate(works):
        row: list[Any] = []
        earliest, last = 0, None
        for t, task in enumerate(work.tasks):
            if earliest >= length:
                break
            start = model.new_int_var(earliest, length, f"s{g}.{t}")
            here = model.new_bool_var(f"h{g}.{t}")
            model.add(start < length).only_enforce_if(here)
            model.add(start == length).only_enforce_if(~here)
            if last is not None:
                model.add_implication(here, last)
                model.add(start >= row[-1] + work.tasks[t - 1].seconds).only_enforce_if(here)
            for need in task.needs:
                size = need.end_s - need.start_s
                since = start + need.start_s
                intervals[need.resource].append(model.new_optional_fixed_size_interval_var(since, size, here, ""))
                if need.resource == resource:
                    busy.append(_within(model, since, size, length, here))
                if need.resource == "press":
                    presses.append(PressUse(start, need, task.heat_c, here))
            row.append(start)
            earliest, last = earliest + task.seconds, here
        for one, other in zip(before.get(work.kind, ()), row, strict=False):
            model.add(one <= other)
        before[work.kind] = row
    for one in RESOURCES:
        model.add_cumulative(intervals[one], [1] * len(intervals[one]), team.count(one))
    if team.presses == 1:
        keep_heats_apart(model, presses, team)
    model.maximize(sum(busy))
    solver = cp_model.CpSolver()
    solver.parameters.max_time_in_seconds = seconds
    most = length * team.count(resource)
    known = solver.solve(model) in (cp_model.OPTIMAL, cp_model.FEASIBLE)
    return min(most, int(solver.best_objective_bound)) if known else most


def _within(model: Any, since: Any, size: int, length: int, here: Any) -> Any:
    """Return how much of a need lies within the window; at most, which is enough where as much as can be is wanted."""
    part = model.new_int_var(0, size, "")
    begun = model.new_bool_var("")
    model.add_implication(begun, here)
    model.add(part <= length - since).only_enforce_if(begun)
    model.add(part == 0).only_enforce_if(~begun)
    return part
