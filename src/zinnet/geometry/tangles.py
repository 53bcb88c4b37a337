"""Lines that go over themselves again and again, drawn stroke by stroke: each segment, each corner, each end by itself.

Growing a whole line takes time by the cube of how often it meets itself; putting together what each segment paints does
not. Where a line keeps clear of itself, growing the whole is as quick, and gives fewer points.
"""

import numpy as np
import shapely
from numpy.typing import NDArray

from zinnet.geometry.curves import Points

FEW_POINTS, SAMPLE = 60, 64
MANY_TURNS = 40
"""A line that turns back less often, all its turns added up, is grown as quickly whole, however thick it is."""
MEETS_OFTEN = 3.0
"""A line is a tangle that comes so near to itself, segment for segment."""
AHEAD, AHEAD_SHARE = 4.0, 0.1
"""What lies within so many half widths along the line, or such a share of its length, is nothing else that it meets."""


def is_tangle(line: Points, half: float) -> bool:
    """Tell whether a polyline (n, 2), drawn ``half`` wide to each side, goes over itself again and again.

    Told from a sample of its segments, so that the answer comes at once.
    """
    if len(line) < FEW_POINTS or _turning(line) < MANY_TURNS * np.pi:
        return False
    segments = shapely.linestrings(np.stack([line[:-1], line[1:]], axis=1))
    along = np.concatenate([[0.0], np.cumsum(shapely.length(segments))])
    middle = (along[:-1] + along[1:]) / 2
    sample = np.linspace(0, len(segments) - 1, SAMPLE).astype(int)
    first, second = shapely.STRtree(segments).query(segments[sample], predicate="dwithin", distance=2 * half)
    first = sample[first]
    reach = (along[first + 1] - along[first] + along[second + 1] - along[second]) / 2
    apart = np.abs(middle[first] - middle[second])
    apart = np.minimum(apart, along[-1] - apart)
    ahead = min(AHEAD * half, AHEAD_SHARE * float(along[-1]))
    return bool((apart - reach > ahead).sum() > MEETS_OFTEN * SAMPLE)


def _turning(line: Points) -> float:
    """Return by how much a polyline turns in all, to whichever side, in radians."""
    steps = np.diff(line, axis=0)
    angles = np.arctan2(*steps[np.abs(steps).max(axis=1) > 0].T)
    turns = np.abs(np.diff(angles))
    return float(np.minimum(turns, 2 * np.pi - turns).sum())


def segments_painted(line: Points, half: float, *, square: bool, closed: bool) -> list[NDArray[np.object_]]:
    """Return what the segments of a polyline (n, 2) paint, and the bevels between them; ends flat or square."""
    steps = np.diff(line, axis=0)
    lengths = np.hypot(*steps.T)
    line = line[np.concatenate([[True], lengths > 0])]
    ways = steps[lengths > 0] / lengths[lengths > 0][:, None]
    sides = np.stack([-ways[:, 1], ways[:, 0]], axis=1) * half
    starts, ends = line[:-1].copy(), line[1:].copy()
    if square and not closed:
        starts[0] -= ways[0] * half
        ends[-1] += ways[-1] * half
    boxes = shapely.polygons(np.stack([starts + sides, ends + sides, ends - sides, starts - sides], axis=1))
    before, after = (sides, np.roll(sides, -1, axis=0)) if closed else (sides[:-1], sides[1:])
    joints = line[1:] if closed else line[1:-1]
    turn = before[:, 0] * after[:, 1] - before[:, 1] * after[:, 0]
    outer = np.where(turn > 0, -1.0, 1.0)[:, None]
    bevels = np.stack([joints, joints + before * outer, joints + after * outer], axis=1)[turn != 0]
    return [boxes, shapely.polygons(bevels)]
