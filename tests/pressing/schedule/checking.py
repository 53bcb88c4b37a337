"""An independent check of a schedule: nothing is used twice at once, and every garment goes in order."""

from itertools import pairwise

from zinnet.pressing.schedule.model import RESOURCES, Schedule


def faults(found: Schedule) -> list[str]:
    """Return what is wrong with a schedule, second by second."""
    wrong = []
    seen = {(slot.garment, slot.task) for slot in found.slots}
    wanted = {(g, t) for g, work in enumerate(found.works) for t in range(len(work.tasks))}
    if seen != wanted or len(found.slots) != len(wanted):
        wrong.append("a task is missing or done twice")
    ends: dict[int, int] = {}
    for slot in sorted(found.slots, key=lambda one: (one.garment, one.task)):
        if slot.start < ends.get(slot.garment, 0):
            wrong.append(f"garment {slot.garment}: task {slot.task} begins before the one before it ends")
        ends[slot.garment] = slot.end
        if slot.end - slot.start != found.works[slot.garment].tasks[slot.task].seconds:
            wrong.append(f"garment {slot.garment}: task {slot.task} takes another time")
    busy: dict[tuple[str, int], list[tuple[int, int, float | None]]] = {}
    for slot in found.slots:
        task = found.works[slot.garment].tasks[slot.task]
        for need, unit in zip(task.needs, slot.units, strict=True):
            heat = task.heat_c if need.resource == "press" else None
            busy.setdefault((need.resource, unit), []).append(
                (slot.start + need.start_s, slot.start + need.end_s, heat)
            )
    counts = {resource: found.team.count(resource) for resource in RESOURCES}
    for (resource, unit), spans in busy.items():
        if not 0 <= unit < counts[resource]:
            wrong.append(f"there is no {resource} {unit}")
        spans.sort(key=lambda one: one[:2])
        for (_, until, before), (since, _, after) in pairwise(spans):
            pause = found.team.change_s(before, after) if resource == "press" else 0
            if since < until + pause:
                wrong.append(f"{resource} {unit} is used twice at once, or not hot yet, at {since}")
    return wrong
