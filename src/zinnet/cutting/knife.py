"""The path of a drag knife's holder: its tip trails its axis, so the axis runs ahead and swings at corners.

Where the tip should go from ``p`` in the direction ``u``, the axis is at ``p + offset u``. At a corner the tip stays
where it is while the axis goes round it on a circle.
"""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from zinnet.cutting.paths import CutPath
from zinnet.cutting.tolerances import lines

Points = NDArray[np.float64]
STROKE_TIMES = 8.0
"""How many offsets long a stroke is that turns the knife one way: its error falls by e with each (a tractrix)."""


@dataclass(frozen=True)
class Knife:
    """How far the tip trails the axis, and how far a closed line is cut on past its start; in mm."""

    offset_mm: float = 0.0
    overcut_mm: float = 0.0


def with_overcut(path: CutPath, overcut_mm: float) -> Points:
    """Return the points of a path, a closed one cut on past its start by the overcut, at most once round."""
    if not path.closed or overcut_mm <= 0:
        return path.points
    left, more = min(overcut_mm, path.length_mm), [path.points]
    for begin, end in zip(path.points[:-1], path.points[1:], strict=True):
        step = float(np.hypot(*(end - begin)))
        if step >= left:
            more.append((begin + (end - begin) * (left / step))[None])
            break
        more.append(end[None])
        left -= step
    return np.vstack(more)


def axis_path(tip: Points, offset_mm: float, heading: float) -> Points:
    """Return where the axis goes so that the tip follows a line (n, 2).

    ``heading`` is the direction (radians) in which the knife points when it is lowered; the axis first swings about the
    line's start, so that the knife stands along it. Headings are as in the coordinates, whichever way y runs.

    Parameters
    ----------
    tip : array (n, 2), mm
        The line to be cut.
    offset_mm : float, mm
        From the axis to the knife's tip.
    heading : float, radians
        Where the knife points when it is lowered.

    Returns
    -------
    array (m, 2), mm
        The way of the axis.
    """
    steps = np.diff(tip, axis=0)
    moving = np.hypot(steps[:, 0], steps[:, 1]) > 0
    steps, corners = steps[moving], np.vstack([tip[:1], tip[1:][moving]])
    if not len(steps):
        return tip[:1]
    angles = np.arctan2(steps[:, 1], steps[:, 0])
    found: list[Points] = [_swing(tip[0], heading, float(angles[0]), offset_mm)]
    for k, angle in enumerate(angles):
        ahead = np.array([math.cos(angle), math.sin(angle)]) * offset_mm
        found.append((corners[k + 1] + ahead)[None])
        if k + 1 < len(angles):
            found.append(_swing(corners[k + 1], float(angle), float(angles[k + 1]), offset_mm)[1:])
    return np.vstack(found)


def heading_after(axis: Points, offset_mm: float, heading: float) -> float:
    """Return the knife's heading after its axis has gone through points (n, 2), from the heading at the first.

    Along a straight way of length s the angle a between heading and way falls: tan(a/2) = tan(a0/2) exp(-s/offset),
    the pursuit curve (tractrix).

    Parameters
    ----------
    axis : array (n, 2), mm
        The way of the axis.
    offset_mm : float, mm
        From the axis to the knife's tip.
    heading : float, radians
        Where the knife points at the first point.

    Returns
    -------
    float, radians
        Where it points at the last.
    """
    for step in np.diff(axis, axis=0):
        way = math.atan2(step[1], step[0])
        off = (heading - way + math.pi) % (2 * math.pi) - math.pi
        heading = way + 2 * math.atan(math.tan(off / 2) * math.exp(-math.hypot(*step) / offset_mm))
    return heading


def _swing(about: Points, begin: float, end: float, offset_mm: float) -> Points:
    """Return the axis' way round a point that the tip stays on, the shorter way; straight where it hardly turns."""
    turn = (end - begin + math.pi) % (2 * math.pi) - math.pi
    most = 2 * math.acos(max(0.0, 1 - lines().knife_tolerance_mm / offset_mm)) if offset_mm > 0 else math.pi
    parts = max(1, math.ceil(abs(turn) / most))
    angles = begin + turn * np.linspace(0, 1, parts + 1)
    return np.asarray(about + offset_mm * np.column_stack([np.cos(angles), np.sin(angles)]))


def aligning_stroke(offset_mm: float) -> Points:
    """Return the axis' stroke (2, 2) in the mat's corner that turns the knife to point along x, wherever it pointed."""
    return np.array([[0.0, 0.0], [STROKE_TIMES * offset_mm, 0.0]])
