"""Schedules by rule: at every moment the most urgent task that can begin is begun. Quick, for runs of any length."""

import heapq
from collections import Counter
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from typing import Literal

from zinnet.pressing.schedule.model import RESOURCES, GarmentWork, Resource, Slot, Task, Team
from zinnet.pressing.schedule.phases import Phases

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
    phases: Phases | None = None,
    fixed: Sequence[Slot] = (),
    now_s: int = 0,
) -> tuple[Slot, ...]:
    """Return slots by a rule, with at most so many garments in work.

    With ``phases`` all presses of a phase are done before the next one's; hands may be ahead. ``fixed`` are slots that
    are done or under way; nothing else begins before ``now_s``.

    Parameters
    ----------
    works : garment works, s
        What is to be done.
    team : Team
        Presses, people and places to cool.
    rule : Rule
        Which task comes first of those that can begin.
    most_in_work : int
        Garments begun and not done.
    phases : Phases
        Presses of one heat after those of another.
    fixed : slots, s
        Done or under way.
    now_s : int, s
        Nothing else begins before.

    Returns
    -------
    slots, s
        One a task.
    """
    return _Dispatch(works, team, rule, most_in_work, phases).run(fixed, now_s)


class _Dispatch:
    """One run of the rule. Of the garments of a kind that wait for the same task, the first one goes first."""

    def __init__(
        self, works: Sequence[GarmentWork], team: Team, rule: Rule, most_in_work: int, phases: Phases | None
    ) -> None:
        self.works, self.team, self.most_in_work, self.phases = works, team, most_in_work, phases
        self.urgency = self._rule(rule)
        self.units = {one: [_Unit() for _ in range(team.count(one))] for one in RESOURCES}
        self.next = [0] * len(works)
        self.slots: list[Slot] = []
        self.in_work = 0
        self.waiting: dict[tuple[int, int], list[int]] = {}
        self.coming: list[tuple[int, int]] = []
        kinds = {work.kind: work for work in works}
        tasks = [task for work in kinds.values() for task in work.tasks]
        self.heats = {task.heat_c for task in tasks if task.heat_c is not None}
        self.lead = {need.start_s for task in tasks for need in task.needs if need.start_s}
        self.left: Counter[int] = Counter()
        if phases is not None:
            for g, work in enumerate(works):
                self.left.update(phases.of(g, work.kind, t) for t, task in enumerate(work.tasks) if task.heat_c)

    def _rule(self, rule: Rule) -> Callable[[int], tuple[float, ...]]:
        if rule == "farthest":
            return lambda garment: (-self.next[garment], garment)
        if rule == "nearest":
            return lambda garment: (self.next[garment], garment)
        return lambda garment: (-sum(task.seconds for task in self.works[garment].tasks[self.next[garment] :]), garment)

    def run(self, fixed: Sequence[Slot], now_s: int) -> tuple[Slot, ...]:
        """Begin tasks from moment to moment until all are done."""
        self._take(fixed)
        for garment, begun in enumerate(self.next):
            if not begun:
                self._wait(garment)
        moments = sorted({now_s, *(moment for slot in fixed for moment in self._moments(slot) if moment > now_s)})
        seen = set(moments)
        left = sum(len(work.tasks) for work in self.works) - len(fixed)
        while left:
            if not moments:
                raise RuntimeError("no task can begin, though some are left")
            now = heapq.heappop(moments)
            while self.coming and self.coming[0][0] <= now:
                self._wait(heapq.heappop(self.coming)[1])
            while (slot := self._first(now)) is not None:
                left -= 1
                heapq.heappush(self.coming, (slot.end, slot.garment))
                for moment in self._moments(slot):
                    if moment > now and moment not in seen:
                        seen.add(moment)
                        heapq.heappush(moments, moment)
            self._forget(now)
        return tuple(self.slots)

    def _wait(self, garment: int) -> None:
        """Put a garment whose next task is ready with those that wait for the same."""
        if self.next[garment] < len(self.works[garment].tasks):
            key = self.works[garment].kind, self.next[garment]
            heapq.heappush(self.waiting.setdefault(key, []), garment)

    def _first(self, now: int) -> Slot | None:
        """Begin the most urgent task that can begin."""
        for key in self._candidates():
            slot = self._try(self.waiting[key][0], now)
            if slot is not None:
                heapq.heappop(self.waiting[key])
                return slot
        return None

    def _take(self, fixed: Sequence[Slot]) -> None:
        """Take over slots that are done or under way."""
        ends: dict[int, int] = {}
        for slot in sorted(fixed, key=lambda one: one.start):
            task = self.works[slot.garment].tasks[slot.task]
            units = [self.units[need.resource][unit] for need, unit in zip(task.needs, slot.units, strict=True)]
            self._begin(slot.garment, task, slot.start, units)
            ends[slot.garment] = slot.end
        self.coming = sorted((end, garment) for garment, end in ends.items())

    def _moments(self, slot: Slot) -> set[int]:
        """Return when something becomes free or possible through a slot."""
        task = self.works[slot.garment].tasks[slot.task]
        found = {slot.end, *(slot.start + need.end_s for need in task.needs)}
        if task.heat_c is not None and len(self.heats) > 1:
            end = next(slot.start + need.end_s for need in task.needs if need.resource == "press")
            found |= {end + self.team.change_s(task.heat_c, other) for other in self.heats}
        return found | {moment - lead for moment in found for lead in self.lead}

    def _candidates(self) -> list[tuple[int, int]]:
        """Return what garments wait for (kind, task), the most urgent first."""
        phase = min((phase for phase, left in self.left.items() if left), default=0)
        found = []
        for key, garments in self.waiting.items():
            if not garments or (key[1] == 0 and self.in_work >= self.most_in_work):
                continue
            own = self._phase(garments[0])
            if own <= phase or self.works[garments[0]].tasks[key[1]].heat_c is None:
                found.append(((own, *self.urgency(garments[0])), key))
        return [key for _, key in sorted(found)]

    def _phase(self, garment: int) -> int:
        return self.phases.of(garment, self.works[garment].kind, self.next[garment]) if self.phases else 0

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
        if task.heat_c is not None and self.phases:
            self.left[self._phase(garment)] -= 1
        self.in_work += (self.next[garment] == 0) - (self.next[garment] == len(self.works[garment].tasks) - 1)
        self.next[garment] += 1
        return slot

    def _forget(self, now: int) -> None:
        for units in self.units.values():
            for unit in units:
                if len(unit.busy) > 8:
                    unit.busy = [span for span in unit.busy if span[1] > now] or unit.busy[-1:]
