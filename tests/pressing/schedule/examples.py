"""Tasks and garments for the tests of the schedule."""

from tests.helpers import document_of
from zinnet.job.edits import set_blank
from zinnet.pressing.schedule.model import GarmentWork, Need, Task

RINGS = "".join(
    f'<circle cx="50" cy="50" r="{50 - 15 * k}" fill="{colour}"/>'
    for k, colour in enumerate(("#d62828", "#1f57c3", "#f4ead5"))
)


def task(name, *needs, heat=None):
    return Task(name, max(need.end_s for need in needs), needs, heat)


def press(seconds, heat=None):
    return task("press", Need("press", 0, seconds), heat=heat)


def hands(seconds):
    return task("lay", Need("person", 0, seconds))


def cool(seconds):
    return task("cool", Need("cooling", 0, seconds))


def pressed_by_hand(seconds, heat=None):
    return task("press", Need("press", 0, seconds), Need("person", 0, seconds), heat=heat)


def alike(tasks, count):
    return tuple(GarmentWork(f"garment {k}", 0, tuple(tasks)) for k in range(1, count + 1))


def three_layers(*edits):
    return document_of(RINGS, set_blank("x", care_dots=3), *edits).plan.presses[0].steps
