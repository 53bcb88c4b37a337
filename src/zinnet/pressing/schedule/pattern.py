"""A repeating pattern for long runs: every so many seconds another garment is begun, and all go the same way.

Modulo scheduling: the tasks of one garment, or of two, are placed so that, folded onto one period, no resource is used
more than there is of it. Then every garment follows the one before it by a period, and nothing ever collides. Where the
press takes several heats, all garments go through one heat before it changes.
"""

import time
from collections.abc import Sequence
from itertools import pairwise
from typing import Any

from zinnet.pressing.schedule.exact import assign_units
from zinnet.pressing.schedule.model import RESOURCES, GarmentWork, Pattern, Slot, Task, Team

STEP = 1.006
"""The period grows by this where none is found."""
NEAR = 1.012
"""A period so near to the shortest is good enough."""
TRY_S = 1.0


def least_period(tasks: Sequence[Task], team: Team) -> int:
    """Return the shortest period that any resource allows: what one garment needs of it, over how many there are."""
    loads = (-(-sum(task.load(resource) for task in tasks) // team.count(resource)) for resource in RESOURCES)
    return max(1, *loads)


def find_pattern(tasks: Sequence[Task], team: Team, seconds: float) -> tuple[int, tuple[tuple[int, ...], ...]] | None:
    """Return a period in s, and when each task begins, for each of the garments that are begun in a period.

    Periods of one and of two garments are tried by turns, from the shortest up. None where the time is over first.
    """
    end = time.monotonic() + seconds
    least = {count: least_period(list(tasks) * count, team) for count in (1, 2)}
    factor = 1.0
    while time.monotonic() < end:
        for count in (1, 2) if factor <= NEAR else (1,):
            period = round(least[count] * factor)
            offsets = _offsets(tasks, team, period, count, min(TRY_S, max(0.1, end - time.monotonic())))
            if offsets is not None:
                return period, offsets
        factor *= STEP
    return None


def repeat(works: Sequence[GarmentWork], team: Team, seconds: float) -> tuple[tuple[Slot, ...], Pattern | None] | None:
    """Return the slots of a run of equal garments by a repeating pattern for each heat, where there is one.

    The pattern is given where there is but one heat.
    """
    tasks = works[0].tasks
    parts = _by_heat(tasks, team)
    starts: dict[tuple[int, int], int] = {}
    base = 0
    patterns: list[Pattern] = []
    for number, (first, last) in enumerate(parts):
        found = find_pattern(tasks[first:last], team, seconds / len(parts))
        if found is None:
            return None
        period, offsets = found
        if number:
            base = _free_from(works, starts) + _change(tasks, team, *parts[number - 1 : number + 1])
        for g in range(len(works)):
            for t, offset in enumerate(offsets[g % len(offsets)]):
                starts[g, first + t] = base + g // len(offsets) * period + offset
        flow = max(row[-1] for row in offsets) + tasks[last - 1].seconds
        patterns.append(Pattern(period, -(-flow // period) * len(offsets), len(offsets)))
    return assign_units(works, team, starts), patterns[0] if len(patterns) == 1 else None


def _by_heat(tasks: Sequence[Task], team: Team) -> list[tuple[int, int]]:
    """Return the parts of a garment's tasks that go at one heat.

    What hands do between two heats goes with the one that makes the periods shorter.
    """
    cuts = [0]
    last: int | None = None
    for t, task in enumerate(tasks):
        if task.heat_c is None:
            continue
        if last is not None and task.heat_c != tasks[last].heat_c:
            first = cuts[-1]

            def both(cut: int, first: int = first, end: int = t + 1) -> int:
                return least_period(tasks[first:cut], team) + least_period(tasks[cut:end], team)

            cuts.append(min(range(last + 1, t + 1), key=both))
        last = t
    return list(pairwise([*cuts, len(tasks)]))


def _free_from(works: Sequence[GarmentWork], starts: dict[tuple[int, int], int]) -> int:
    """Return when nothing is needed any more by what is placed so far."""
    return max(start + max(need.end_s for need in works[g].tasks[t].needs) for (g, t), start in starts.items())


def _change(tasks: Sequence[Task], team: Team, before: tuple[int, int], after: tuple[int, int]) -> int:
    heats = [
        next((task.heat_c for task in tasks[first:last] if task.heat_c is not None), None)
        for first, last in (before, after)
    ]
    return team.change_s(*heats)


def _offsets(
    tasks: Sequence[Task], team: Team, period: int, count: int, seconds: float
) -> tuple[tuple[int, ...], ...] | None:
    """Return when each task of so many garments begins so that a period holds all of them; None where none is found."""
    from ortools.sat.python import cp_model

    model: Any = cp_model.CpModel()
    horizon = sum(task.seconds for task in tasks) + (len(tasks) + count) * period
    starts = [[model.new_int_var(0, horizon, f"s{g}.{t}") for t in range(len(tasks))] for g in range(count)]
    model.add(starts[0][0] == 0)
    for g in range(count):
        for t in range(1, len(tasks)):
            model.add(starts[g][t] >= starts[g][t - 1] + tasks[t - 1].seconds)
        if g:
            model.add(starts[g][0] >= starts[g - 1][0])
            model.add(starts[g][0] < period)
    for resource in RESOURCES:
        intervals, always = [], 0
        for g in range(count):
            for t, task in enumerate(tasks):
                for n, need in enumerate(task.needs):
                    if need.resource != resource:
                        continue
                    whole, rest = divmod(need.end_s - need.start_s, period)
                    always += whole
                    if rest:
                        intervals += _folded(model, starts[g][t] + need.start_s, rest, period, f"{g}.{t}.{n}")
        room = team.count(resource) - always
        if room < 0 or (room == 0 and intervals):
            return None
        if intervals:
            model.add_cumulative(intervals, [1] * len(intervals), room)
    ends = model.new_int_var(0, horizon, "ends")
    for row in starts:
        model.add(ends >= row[-1])
    model.minimize(ends)
    solver = cp_model.CpSolver()
    solver.parameters.max_time_in_seconds = seconds
    if solver.solve(model) not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        return None
    return tuple(tuple(int(solver.value(start)) for start in row) for row in starts)


def _folded(model: Any, start: Any, seconds: int, period: int, name: str) -> list[Any]:
    """Return an interval folded onto one period, and its copy a period earlier for what reaches over the end."""
    at = model.new_int_var(0, period - 1, f"p{name}")
    turn = model.new_int_var(0, 10**5, f"k{name}")
    model.add(start == at + period * turn)
    return [
        model.new_fixed_size_interval_var(at, seconds, f"a{name}"),
        model.new_fixed_size_interval_var(at - period, seconds, f"b{name}"),
    ]
