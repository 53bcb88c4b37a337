"""What is scheduled: garments with their tasks in order, what each task needs and when, and the slots they get."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

Resource = Literal["press", "person", "cooling"]
RESOURCES: tuple[Resource, ...] = ("press", "person", "cooling")


@dataclass(frozen=True)
class Need:
    """One of a resource from one moment of a task to another, in whole seconds after its start."""

    resource: Resource
    start_s: int
    end_s: int


@dataclass(frozen=True)
class Task:
    """One task of a garment: how long it takes, in whole seconds, and what it needs. ``heat_c`` is the press's heat.

    ``steps`` are the steps of the garment that it stands for, from one up to another.
    """

    name: str
    seconds: int
    needs: tuple[Need, ...]
    heat_c: float | None = None
    steps: tuple[int, int] = (0, 0)

    def load(self, resource: Resource) -> int:
        """How long it needs a resource, in s."""
        return sum(need.end_s - need.start_s for need in self.needs if need.resource == resource)


@dataclass(frozen=True)
class GarmentWork:
    """One garment and its tasks in their order. Garments of one ``kind`` have the very same tasks."""

    name: str
    kind: int
    tasks: tuple[Task, ...]

    @property
    def seconds(self) -> int:
        """How long it takes by itself."""
        return sum(task.seconds for task in self.tasks)


@dataclass(frozen=True)
class Team:
    """How many presses, people and cooling places there are, and how long a press takes to another heat."""

    presses: int = 1
    people: int = 1
    cooling: int = 4
    warm_c_s: float = 0.45
    cool_c_s: float = 0.06
    settle_s: float = 30.0

    def count(self, resource: Resource) -> int:
        """Return how many of a resource there are."""
        return {"press": self.presses, "person": self.people, "cooling": self.cooling}[resource]

    def change_s(self, before_c: float | None, after_c: float | None) -> int:
        """Return how long a press takes from one heat to another, in whole seconds, rounded up."""
        if before_c is None or after_c is None or before_c == after_c:
            return 0
        rate = self.warm_c_s if after_c > before_c else self.cool_c_s
        return -int(-(abs(after_c - before_c) / rate + self.settle_s) // 1)


@dataclass(frozen=True)
class Slot:
    """When a task of a garment is done: garment and task by index, start and end in s, and which units it uses.

    ``units`` names a unit of each need, counted from 0.
    """

    garment: int
    task: int
    start: int
    end: int
    units: tuple[int, ...]


@dataclass(frozen=True)
class Progress:
    """How far a run has got: the slots that are done or under way, and what time it is, in s."""

    slots: tuple[Slot, ...] = ()
    now_s: int = 0


NEW = Progress()


@dataclass(frozen=True)
class Pattern:
    """A repeating pattern: every ``period_s`` so many garments more are ``begun``; so many are in work at once."""

    period_s: int
    in_work: int
    begun: int = 1


@dataclass(frozen=True, eq=False)
class Schedule:
    """The slots of all tasks, and a time under which nobody can stay (``bound_s``)."""

    works: tuple[GarmentWork, ...]
    team: Team
    slots: tuple[Slot, ...]
    bound_s: int
    pattern: Pattern | None = None

    @cached_property
    def total_s(self) -> int:
        """How long it takes in all."""
        return max((slot.end for slot in self.slots), default=0)

    @property
    def is_proven(self) -> bool:
        """Whether nobody can be done sooner."""
        return self.total_s <= self.bound_s

    @property
    def gap(self) -> float:
        """By what share it may be longer than the shortest."""
        return self.total_s / self.bound_s - 1.0 if self.bound_s else 0.0

    def task(self, slot: Slot) -> Task:
        """Return the task of a slot."""
        return self.works[slot.garment].tasks[slot.task]

    def idle_s(self, resource: Resource = "press") -> int:
        """Return how long units of a resource are idle between their first and last need, in s together."""
        spans: dict[int, list[int]] = {}
        busy = 0
        for slot in self.slots:
            for need, unit in zip(self.task(slot).needs, slot.units, strict=True):
                if need.resource == resource:
                    spans.setdefault(unit, []).extend((slot.start + need.start_s, slot.start + need.end_s))
                    busy += need.end_s - need.start_s
        return sum(max(times) - min(times) for times in spans.values()) - busy


def one_after_another_s(works: Sequence[GarmentWork], team: Team) -> int:
    """Return how long it takes to do one garment after another, each whole, in s."""
    total, heat = 0, None
    for work in works:
        for task in work.tasks:
            if task.heat_c is not None:
                total += team.change_s(heat, task.heat_c)
                heat = task.heat_c
            total += task.seconds
    return total
