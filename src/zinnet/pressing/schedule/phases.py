"""Phases: times at one heat of the press. Garments go through them in batches, and each task belongs to one."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import groupby

from zinnet.pressing.schedule.model import GarmentWork, Task

PARTS = (6, 2, 8, 3, 12, 4, 5, 10, 1, 16)
"""Into so many batches a run is parted, the likeliest first."""


@dataclass(frozen=True)
class Phases:
    """The phase of each task by kind, for the first batch; every ``batch`` garments come ``turn`` phases later."""

    of_kind: dict[int, tuple[int, ...]]
    batch: int
    turn: int

    def of(self, garment: int, kind: int, task: int) -> int:
        """Return the phase of a task of a garment, by its index."""
        return self.of_kind[kind][task] + garment // self.batch * self.turn


def all_at_once(works: Sequence[GarmentWork]) -> Phases | None:
    """Return phases that take all garments through one heat before the press takes another; None for a single heat."""
    kinds = {work.kind: work.tasks for work in works}
    heats = {task.heat_c for tasks in kinds.values() for task in tasks if task.heat_c is not None}
    if len(heats) < 2:
        return None
    return Phases({kind: _phases(tasks) for kind, tasks in kinds.items()}, len(works), 0)


@dataclass(frozen=True)
class Batches:
    """The ways to part a run into batches, where all garments go through the same heats.

    A batch may press its last heat while the next one presses its first; and garments may let a round of heats go by
    before one of their presses (``late``), so that hands lay them while the press is at another heat.
    """

    kinds: dict[int, tuple[Task, ...]]
    count: int

    @property
    def lates(self) -> range:
        """Before which presses a round may go by; 0 for none. Empty where garments don't share their heats."""
        rounds = {_round(tasks) for tasks in self.kinds.values()}
        presses = min(sum(task.heat_c is not None for task in tasks) for tasks in self.kinds.values())
        return range(presses if len(rounds) == 1 and len(rounds.pop()) > 1 else 0)

    def way(self, part: int, late: int) -> Phases:
        """Return the phases for so many batches, with a round let by before a press."""
        turn = len(_round(next(iter(self.kinds.values()))))
        of_kind = {kind: _phases(tasks, late, turn) for kind, tasks in self.kinds.items()}
        return Phases(of_kind, -(-self.count // part), turn)


def _round(tasks: Sequence[Task]) -> tuple[float, ...]:
    """Return the heats that a garment goes through until the first one comes again."""
    heats = [heat for heat, _ in groupby(task.heat_c for task in tasks if task.heat_c is not None)]
    return tuple(heats[:-1] if len(heats) > 1 and heats[0] == heats[-1] else heats)


def _phases(tasks: Sequence[Task], late: int = 0, turn: int = 0) -> tuple[int, ...]:
    """Return the phase of each task; what hands do belongs to the press after it.

    From the press numbered ``late`` on, if that is not the first, all is done a ``turn`` later.
    """
    found: list[int] = []
    phase, heat, press = 0, None, 0
    for task in tasks:
        if task.heat_c is not None:
            phase += (heat is not None and task.heat_c != heat) + (turn if late and press == late else 0)
            heat, press = task.heat_c, press + 1
            first = next((k for k in range(len(found), 0, -1) if tasks[k - 1].heat_c is not None), 0)
            found[first:] = [phase] * (len(found) - first)
        found.append(phase)
    return tuple(found)
