"""Where SVG markers stand: at the vertices of a shape, turned along it (SVG 2, 13.6)."""

import math
from collections.abc import Iterator, Sequence
from typing import NamedTuple

import numpy as np

from zinnet.geometry.curves import Points, Subpath, corners

MOST_MARKERS = 2000


class Vertex(NamedTuple):
    """A vertex: which of the three markers it bears, where it is, and the direction there in degrees."""

    which: str
    x: float
    y: float
    angle_deg: float


def vertices(subpaths: Sequence[Subpath]) -> Iterator[Vertex]:
    """Yield every vertex that may bear a marker; the first and the last ones are those of the whole shape."""
    runs = [subpath for subpath in subpaths if len(subpath.cubics)]
    for number, subpath in enumerate(runs):
        joints = corners(Subpath(subpath.cubics, closed=False))
        first, last = subpath.cubics[0], subpath.cubics[-1]
        out = _direction(first[0], first[1:])
        into = _direction(last[3], last[2::-1]) + 180
        if subpath.closed:
            out = into = _between(into, out)
        yield Vertex("marker-start" if number == 0 else "marker-mid", float(first[0][0]), float(first[0][1]), out)
        for before, joint, after in joints:
            middle = _between(_direction(before, joint[None]), _direction(joint, after[None]))
            yield Vertex("marker-mid", float(joint[0]), float(joint[1]), middle)
        ending = "marker-end" if number == len(runs) - 1 else "marker-mid"
        yield Vertex(ending, float(last[3][0]), float(last[3][1]), into)


def _direction(start: Points, others: Points) -> float:
    for other in others:
        if np.abs(other - start).max() > 1e-9:
            return math.degrees(math.atan2(*(other - start)[::-1]))
    return 0.0


def _between(one: float, other: float) -> float:
    """Return the direction that halves the angle between two."""
    x = math.cos(math.radians(one)) + math.cos(math.radians(other))
    y = math.sin(math.radians(one)) + math.sin(math.radians(other))
    return math.degrees(math.atan2(y, x)) if math.hypot(x, y) > 1e-9 else one + 90
