"""Tasks from steps: what hands do in one go, and each press with what must follow it at once."""

import math
from collections.abc import Sequence

from zinnet.pressing.heat_values import press_numbers
from zinnet.pressing.schedule.model import GarmentWork, Need, Task, Team
from zinnet.pressing.steps import PressStep

WAITS_ON = ("cool", "cold")
"""What is peeled like this may wait longer, put aside anywhere; hot and warm film is peeled on time."""


def team_of(presses: int, people: int, cooling: int) -> Team:
    """Return a team with presses that change their heat as usual."""
    change = press_numbers().change
    return Team(presses, people, cooling, change.warm_c_s, change.cool_c_s, change.settle_s)


def tasks_of(steps: Sequence[PressStep]) -> tuple[Task, ...]:
    """Return the tasks of a garment's steps; what is done once for the whole job is left out."""
    found: list[Task] = []
    at = 0
    while at < len(steps):
        step = steps[at]
        if step.once or step.place == "none" or (step.seconds <= 0 and step.heat is None):
            at += 1
            continue
        end = at + 1
        if step.heat is not None:
            task, end = _press_task(steps, at)
            found.append(task)
        elif step.place == "cooling":
            seconds = math.ceil(step.seconds)
            found.append(Task(step.title, seconds, (Need("cooling", 0, seconds),), None, (at, end)))
        else:
            while end < len(steps) and steps[end].place == "hands" and not steps[end].once:
                end += 1
            seconds = sum(math.ceil(one.seconds) for one in steps[at:end])
            name = next((one.title for one in steps[at:end] if one.kind == "lay"), step.title)
            found.append(Task(name, seconds, (Need("person", 0, seconds),), None, (at, end)))
        at = end
    return tuple(found)


def _press_task(steps: Sequence[PressStep], at: int) -> tuple[Task, int]:
    """Return a press with its loading, the wait that follows, and the peel where it can't wait."""
    step, hands = steps[at], press_numbers().hands
    assert step.heat is not None
    load, hold = math.ceil(hands.load_s * step.pace), math.ceil(step.heat.total_s)
    unload = math.ceil(hands.cover_s * step.pace)
    shut = load + hold + unload
    needs = [Need("press", 0, shut)]
    end, seconds, with_it = at + 1, shut, 0
    if hold > hands.stay_s and not step.heat.moving:
        needs.append(Need("person", 0, load))
        with_it = load + hold
    following = steps[end] if end < len(steps) else None
    if following is not None and following.kind == "wait":
        wait = math.ceil(following.seconds)
        flexible = following.peel in WAITS_ON
        needs.append(Need("cooling", seconds, seconds + wait))
        if flexible:
            needs.append(Need("person", with_it, seconds))
        seconds, end = seconds + wait, end + 1
        following = steps[end] if end < len(steps) and not flexible else None
        if flexible:
            return Task(step.title, seconds, tuple(needs), step.heat.heat_c, (at, end)), end
    if following is not None and following.kind == "peel" and following.peel not in WAITS_ON:
        seconds, end = seconds + math.ceil(following.seconds), end + 1
    needs.append(Need("person", with_it, seconds))
    return Task(step.title, seconds, tuple(needs), step.heat.heat_c, (at, end)), end


def works_of(garments: Sequence[tuple[str, int, Sequence[PressStep]]]) -> tuple[GarmentWork, ...]:
    """Return the work of garments, each with its name, how many there are, and its steps."""
    found: list[GarmentWork] = []
    kinds: dict[tuple[Task, ...], int] = {}
    for name, count, steps in garments:
        tasks = tasks_of(steps)
        if not tasks:
            continue
        kind = kinds.setdefault(tasks, len(kinds))
        found += [GarmentWork(f"{name} {number}" if count > 1 else name, kind, tasks) for number in range(1, count + 1)]
    return tuple(found)
