"""Schedules by rule: at every moment the most urgent task that can begin is begun. Quick, for runs of any length."""

import heapq
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from typing import Literal

from zinnet.pressing.schedule.model import GarmentWork, Resource, Slot, Task, Team

Rule = Literal["farthest", "nearest", "longest"]
RULES: tuple[Rule, ...] = ("farthest", "nearest", "longest")
NEVER = 10**9


@dataclass(eq=False)
class _Unit:
    """One press, person or place: when it is busy (start, end), and the heat of a press."""

    busy: list[tuple[int, int]] = field(default_factory=list)
    heat_c: float | None = None

    def is_free(self, start: int, end: int) -> bool:
        """Tell whether nothing is done with it from one time to another."""
        return all(end <= since or until <= start for since, until in self.busy)

    @property
    def free_from(self) -> int:
        """When it is free for good."""
        return max((until for _, until in self.busy), default=0)


def dispatch(
    works: Sequence[GarmentWork],
    team: Team,
    *,
    rule: Rule,
    most_in_work: int,
    by_heat: bool,
    fixed: Sequence[Slot] = (),
    now_s: int = 0,
) -> tuple[Slot, ...]:
    """Return slots by a rule, with at most so many garments in work.

    ``by_heat`` does all garments at one heat before the press takes the next one. ``fixed`` are slots that are done or
    under way; nothing else begins before ``now_s``.
    """
    return _Dispatch(works, team, rule, most_in_work, by_heat).run(fixed, now_s)


class _Dispatch:
    """One run of the rule."""

    def __init__(self, works: Sequence[GarmentWork], team: Team, rule: Rule, most_in_work: int, by_heat: bool) -> None:
        self.works, self.team, self.most_in_work = works, team, most_in_work
        self.urgency = self._rule(rule)
        resources: tuple[Resource, ...] = ("press", "person", "cooling")
        self.units = {one: [_Unit() for _ in range(team.count(one))] for one in resources}
        self.next = [0] * len(works)
        self.ready = [0] * len(works)
        self.slots: list[Slot] = []
        kinds = {work.kind: work for work in works}
        tasks = [task for work in kinds.values() for task in work.tasks]
        self.heats = {task.heat_c for task in tasks if task.heat_c is not None}
        self.lead = {need.start_s for task in tasks for need in task.needs if need.start_s}
        by_kind = {kind: _stages(work.tasks) for kind, work in kinds.items()}
        self.stage = [by_kind[work.kind] for work in works]
        self.by_heat = by_heat

    def _rule(self, rule: Rule) -> Callable[[int], tuple[float, ...]]:
        if rule == "farthest":
            return lambda garment: (-self.next[garment], garment)
        if rule == "nearest":
            return lambda garment: (self.next[garment], garment)
        return lambda garment: (-sum(task.seconds for task in self.works[garment].tasks[self.next[garment] :]), garment)

    def run(self, fixed: Sequence[Slot], now_s: int) -> tuple[Slot, ...]:
        """Begin tasks from moment to moment until all are done."""
        self._take(fixed)
        moments = sorted({now_s, *(moment for slot in fixed for moment in self._moments(slot) if moment > now_s)})
        seen = set(moments)
        left = sum(len(work.tasks) for work in self.works) - len(fixed)
        while left:
            now = heapq.heappop(moments)
            began = True
            while began:
                began = False
                for garment in self._candidates(now):
                    slot = self._try(garment, now)
                    if slot is None:
                        continue
                    left -= 1
                    began = True
                    for moment in self._moments(slot):
                        if moment > now and moment not in seen:
                            seen.add(moment)
                            heapq.heappush(moments, moment)
                    break
            self._forget(now)
            if not moments and left:
                raise RuntimeError("no task can begin, though some are left")
        return tuple(self.slots)

    def _take(self, fixed: Sequence[Slot]) -> None:
        """Take over slots that are done or under way."""
        for slot in sorted(fixed, key=lambda one: one.start):
            task = self.works[slot.garment].tasks[slot.task]
            units = [self.units[need.resource][unit] for need, unit in zip(task.needs, slot.units, strict=True)]
            self._begin(slot.garment, task, slot.start, units)

    def _moments(self, slot: Slot) -> set[int]:
        """Return when something becomes free or possible through a slot."""
        task = self.works[slot.garment].tasks[slot.task]
        found = {slot.end, *(slot.start + need.end_s for need in task.needs)}
        if task.heat_c is not None and len(self.heats) > 1:
            end = next(slot.start + need.end_s for need in task.needs if need.resource == "press")
            found |= {end + self.team.change_s(task.heat_c, other) for other in self.heats}
        return found | {moment - lead for moment in found for lead in self.lead}

    def _candidates(self, now: int) -> list[int]:
        """Return the garments whose next task is ready, the most urgent first."""
        begun = [k for k, work in enumerate(self.works) if 0 < self.next[k] < len(work.tasks) and self.ready[k] <= now]
        in_work = sum(0 < done < len(work.tasks) for done, work in zip(self.next, self.works, strict=True))
        fresh = next((k for k, done in enumerate(self.next) if done == 0), None)
        if fresh is not None and (in_work < self.most_in_work or self.by_heat):
            begun.append(fresh)
        if self.by_heat and begun:
            stage = min(
                self.stage[k][self.next[k]] for k, work in enumerate(self.works) if self.next[k] < len(work.tasks)
            )
            begun = [k for k in begun if self.stage[k][self.next[k]] == stage]
        return sorted(begun, key=self.urgency)

    def _try(self, garment: int, now: int) -> Slot | None:
        task = self.works[garment].tasks[self.next[garment]]
        chosen: list[_Unit] = []
        for need in task.needs:
            unit = self._unit(need.resource, now + need.start_s, now + need.end_s, task)
            if unit is None:
                return None
            chosen.append(unit)
        return self._begin(garment, task, now, chosen)

    def _unit(self, resource: Resource, start: int, end: int, task: Task) -> _Unit | None:
        """Return a unit that is free, of presses the one that is hot enough already."""
        best, cost = None, NEVER
        for unit in self.units[resource]:
            if not unit.is_free(start, end):
                continue
            change = self.team.change_s(unit.heat_c, task.heat_c) if resource == "press" else 0
            if change < cost and (not change or unit.free_from + change <= start):
                best, cost = unit, change
        return best

    def _begin(self, garment: int, task: Task, now: int, chosen: Sequence[_Unit]) -> Slot:
        for need, unit in zip(task.needs, chosen, strict=True):
            unit.busy.append((now + need.start_s, now + need.end_s))
            if need.resource == "press" and task.heat_c is not None:
                unit.heat_c = task.heat_c
        units = (self.units[need.resource].index(unit) for need, unit in zip(task.needs, chosen, strict=True))
        slot = Slot(garment, self.next[garment], now, now + task.seconds, tuple(units))
        self.slots.append(slot)
        self.next[garment] += 1
        self.ready[garment] = slot.end
        return slot

    def _forget(self, now: int) -> None:
        for units in self.units.values():
            for unit in units:
                if len(unit.busy) > 8:
                    unit.busy = [span for span in unit.busy if span[1] > now] or unit.busy[-1:]


def _stages(tasks: Sequence[Task]) -> list[int]:
    """Return for each task after how many changes of heat it comes; what leads up to a press belongs to its heat."""
    found, stage, heat = [], 0, None
    for task in tasks:
        if task.heat_c is not None:
            if heat is not None and task.heat_c != heat:
                stage += 1
            heat = task.heat_c
        found.append(stage)
    return found
