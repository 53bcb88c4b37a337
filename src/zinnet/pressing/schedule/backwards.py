"""A run with time running backwards: the end of a run is its hardest part, and backwards it is planned first."""

from collections.abc import Sequence
from dataclasses import replace

from zinnet.pressing.schedule.model import GarmentWork, Need, Slot, Task, Team


def turned_works(works: Sequence[GarmentWork]) -> tuple[GarmentWork, ...]:
    """Return the works with their last tasks first, and the last garment first."""
    return tuple(replace(work, tasks=tuple(_turned(task) for task in reversed(work.tasks))) for work in works[::-1])


def turned_team(team: Team) -> Team:
    """Return the team as it changes heat backwards: it warms as fast as it cooled."""
    return replace(team, warm_c_s=team.cool_c_s, cool_c_s=team.warm_c_s)


def turned_slots(works: Sequence[GarmentWork], slots: Sequence[Slot]) -> tuple[Slot, ...]:
    """Return the slots of ``works`` backwards: what ended last begins at 0."""
    total = max((slot.end for slot in slots), default=0)
    return tuple(
        Slot(
            len(works) - 1 - slot.garment,
            len(works[slot.garment].tasks) - 1 - slot.task,
            total - slot.end,
            total - slot.start,
            slot.units,
        )
        for slot in slots
    )


def _turned(task: Task) -> Task:
    """Return a task backwards; its needs keep their order."""
    needs = (Need(need.resource, task.seconds - need.end_s, task.seconds - need.start_s) for need in task.needs)
    return replace(task, needs=tuple(needs))
