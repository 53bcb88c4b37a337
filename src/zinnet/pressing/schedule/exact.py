"""The best schedule with a proof, by constraint programming (CP-SAT): for as many garments as that can be done for."""

import threading
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from typing import Any, NamedTuple

from zinnet.pressing.schedule.model import RESOURCES, GarmentWork, Need, Resource, Slot, Team

WATCH_S = 0.05
WORKERS = 4
"""Searches at once. More than there are cores: some look for a shorter schedule, others for a proof."""


class PressUse(NamedTuple):
    """A use of a press in a model: when its task starts, what it needs, at which heat, and whether it is there."""

    start: Any
    need: Need
    heat_c: float | None
    here: Any = None


def solve(
    works: Sequence[GarmentWork],
    team: Team,
    *,
    seconds: float,
    hint: Sequence[Slot],
    bound_s: int,
    fixed: Sequence[Slot] = (),
    now_s: int = 0,
    most_s: int | None = None,
    stop: threading.Event | None = None,
) -> tuple[tuple[Slot, ...], int]:
    """Return the best slots found in so many seconds, and the time that no schedule undercuts; ``stop`` ends it sooner.

    ``most_s`` asks for a schedule of so many seconds at most; without one the ``hint`` comes back. Garments of one kind
    are done in their order: any schedule can be relabelled so, task by task. ``fixed`` are slots that are done or under
    way; nothing else begins before ``now_s``.

    Parameters
    ----------
    works : garment works, s
        What is to be done.
    team : Team
        Presses, people and places to cool.
    seconds : float, s
        How long to search.
    hint : slots, s
        A schedule that holds, to begin with.
    bound_s : int, s
        What is known that none undercuts.
    fixed : slots, s
        Done or under way.
    now_s : int, s
        Nothing else begins before.
    most_s : int, s
        How long the schedule may be.
    stop : Event
        Ends it sooner.

    Returns
    -------
    slots : slots, s
        The best found; never worse than the hint.
    bound : int, s
        What no schedule undercuts.
    """
    from ortools.sat.python import cp_model

    model: Any = cp_model.CpModel()
    hinted = {(slot.garment, slot.task): slot.start for slot in hint}
    begun = {(slot.garment, slot.task): slot for slot in fixed}
    horizon = max(slot.end for slot in hint) if most_s is None else most_s
    total = model.new_int_var(bound_s, horizon, "total")
    starts: dict[tuple[int, int], Any] = {}
    for g, work in enumerate(works):
        for t, task in enumerate(work.tasks):
            starts[g, t] = model.new_int_var(0, horizon - task.seconds, f"s{g}.{t}")
            if most_s is None:
                model.add_hint(starts[g, t], hinted[g, t])
            if (g, t) in begun:
                model.add(starts[g, t] == begun[g, t].start)
            elif now_s:
                model.add(starts[g, t] >= now_s)
            if t:
                model.add(starts[g, t] >= starts[g, t - 1] + work.tasks[t - 1].seconds)
            if t == len(work.tasks) - 1:
                model.add(total >= starts[g, t] + task.seconds)
    if not fixed:
        _in_order(model, works, starts)
    for resource in RESOURCES:
        intervals = _intervals(model, works, starts, resource)
        if not intervals:
            continue
        if team.count(resource) == 1:
            model.add_no_overlap(intervals)
        else:
            model.add_cumulative(intervals, [1] * len(intervals), team.count(resource))
    on = _heats(model, works, starts, team)
    model.minimize(total)
    solver = cp_model.CpSolver()
    solver.parameters.max_time_in_seconds = seconds
    solver.parameters.num_workers = WORKERS
    with _stopped_by(solver, stop):
        status = solver.solve(model)
    if status not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        return tuple(hint), bound_s
    found = {key: int(solver.value(start)) for key, start in starts.items()}
    presses = {key: next(p for p, here in enumerate(row) if solver.value(here)) for key, row in on.items()}
    return assign_units(works, team, found, presses), max(bound_s, int(-(-solver.best_objective_bound // 1)))


@contextmanager
def _stopped_by(solver: Any, stop: threading.Event | None) -> Iterator[None]:
    """End the search where the user has had enough."""
    done = threading.Event()

    def watch() -> None:
        while stop is not None and not done.is_set():
            if stop.wait(WATCH_S):
                solver.stop_search()
                return

    watcher = threading.Thread(target=watch, daemon=True)
    watcher.start()
    try:
        yield
    finally:
        done.set()
        watcher.join()


def _in_order(model: Any, works: Sequence[GarmentWork], starts: dict[tuple[int, int], Any]) -> None:
    last: dict[int, int] = {}
    for g, work in enumerate(works):
        before = last.get(work.kind)
        if before is not None:
            for t in range(len(work.tasks)):
                model.add(starts[before, t] <= starts[g, t])
        last[work.kind] = g


def _intervals(
    model: Any, works: Sequence[GarmentWork], starts: dict[tuple[int, int], Any], resource: str
) -> list[Any]:
    found = []
    for g, work in enumerate(works):
        for t, task in enumerate(work.tasks):
            for n, need in enumerate(task.needs):
                if need.resource != resource:
                    continue
                size = need.end_s - need.start_s
                found.append(model.new_fixed_size_interval_var(starts[g, t] + need.start_s, size, f"i{g}.{t}.{n}"))
    return found


def _press_need(needs: Sequence[Need]) -> Need | None:
    return next((need for need in needs if need.resource == "press"), None)


def _heats(
    model: Any, works: Sequence[GarmentWork], starts: dict[tuple[int, int], Any], team: Team
) -> dict[tuple[int, int], list[Any]]:
    """Leave time between presses of different heat on one press; return on which of several presses a task may be."""
    rows = [
        (g, t, need, task.heat_c)
        for g, work in enumerate(works)
        for t, task in enumerate(work.tasks)
        if (need := _press_need(task.needs)) is not None
    ]
    on: dict[tuple[int, int], list[Any]] = {}
    if len({heat for *_, heat in rows if heat is not None}) < 2:
        return on
    if team.presses > 1:
        for g, t, _, _ in rows:
            on[g, t] = [model.new_bool_var(f"on{g}.{t}.{p}") for p in range(team.presses)]
            model.add_exactly_one(on[g, t])
    if team.presses == 1:
        keep_heats_apart(model, [PressUse(starts[g, t], need, heat) for g, t, need, heat in rows], team)
        return on
    for index, (g, t, need, heat) in enumerate(rows):
        for g2, t2, need2, heat2 in rows[index + 1 :]:
            first = starts[g, t] + need.end_s + team.change_s(heat, heat2) <= starts[g2, t2] + need2.start_s
            second = starts[g2, t2] + need2.end_s + team.change_s(heat2, heat) <= starts[g, t] + need.start_s
            before = model.new_bool_var("")
            for p in range(team.presses):
                both = [on[g, t][p], on[g2, t2][p]]
                model.add(first).only_enforce_if([before, *both])
                model.add(second).only_enforce_if([~before, *both])
    return on


def keep_heats_apart(model: Any, uses: Sequence[PressUse], team: Team) -> None:
    """Leave time between uses of the one press that there is, where they are of different heat."""
    for index, one in enumerate(uses):
        for two in uses[index + 1 :]:
            if one.heat_c == two.heat_c:
                continue
            both = [use.here for use in (one, two) if use.here is not None]
            before = model.new_bool_var("")
            for condition, a, b in ((before, one, two), (~before, two, one)):
                free = a.start + a.need.end_s + team.change_s(a.heat_c, b.heat_c)
                model.add(free <= b.start + b.need.start_s).only_enforce_if([condition, *both])


def assign_units(
    works: Sequence[GarmentWork],
    team: Team,
    starts: dict[tuple[int, int], int],
    presses: dict[tuple[int, int], int] | None = None,
) -> tuple[Slot, ...]:
    """Return slots for starting times: each need gets a unit that is free; ``presses`` says which press, if known."""
    spans: list[tuple[int, int, int, int, int]] = []
    for (g, t), start in starts.items():
        for n, need in enumerate(works[g].tasks[t].needs):
            spans.append((start + need.start_s, start + need.end_s, g, t, n))
    units: dict[tuple[int, int], dict[int, int]] = {}
    free: dict[Resource, list[int]] = {resource: [0] * team.count(resource) for resource in RESOURCES}
    for since, until, g, t, n in sorted(spans):
        resource = works[g].tasks[t].needs[n].resource
        rows = free[resource]
        known = (presses or {}).get((g, t)) if resource == "press" else None
        able = [k for k, busy in enumerate(rows) if busy <= since]
        unit = known if known is not None else max(able, key=lambda k: (rows[k], -k))
        rows[unit] = until
        units.setdefault((g, t), {})[n] = unit
    found = []
    for (g, t), start in sorted(starts.items(), key=lambda row: (row[1], row[0])):
        task = works[g].tasks[t]
        found.append(Slot(g, t, start, start + task.seconds, tuple(units[g, t][n] for n in range(len(task.needs)))))
    return tuple(found)
