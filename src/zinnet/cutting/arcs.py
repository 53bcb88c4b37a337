"""Runs of short chords as arcs, for the formats that have them."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from zinnet.cutting.tolerances import lines

Points = NDArray[np.float64]
LEAST_CHORDS = 3
MOST_SWEEP = math.radians(170)
MOST_RADIUS_MM = 1000.0


@dataclass(frozen=True)
class Span:
    """One straight line or arc to ``end``; ``bulge`` is the tangent of a quarter of the arc's sweep, 0 for a line.

    A positive bulge turns from the x axis towards the y axis.
    """

    end: tuple[float, float]
    bulge: float = 0.0

    def radius(self, begin: tuple[float, float]) -> float:
        """Return the radius of the arc from a point to its end."""
        chord = math.dist(begin, self.end)
        return chord * (1 + self.bulge**2) / (4 * abs(self.bulge))


def spans_of(points: Points) -> list[Span]:
    """Return a polyline (n, 2) as lines and arcs: an arc stands for three or more chords that stay within tolerance.

    The tolerance holds at the chords' ends and in their middles, so that the arc is as near as the chords are.

    Parameters
    ----------
    points : array (n, 2), mm
        A polyline.

    Returns
    -------
    list of Span, mm
        End to end, from the first point to the last.
    """
    found: list[Span] = []
    at, last = 0, len(points) - 1
    while at < last:
        reach, bulge = _longest_arc(points, at)
        if reach - at >= LEAST_CHORDS:
            found.append(Span((float(points[reach][0]), float(points[reach][1])), bulge))
            at = reach
        else:
            at += 1
            found.append(Span((float(points[at][0]), float(points[at][1]))))
    return found


def _longest_arc(points: Points, at: int) -> tuple[int, float]:
    """Return how far one arc reaches from a point, and its bulge: doubling first, then halving the rest."""
    good, bulge, step = at, 0.0, LEAST_CHORDS
    last = len(points) - 1
    while step and good < last:
        end = min(good + step, last)
        tried = _bulge(points[at : end + 1])
        if tried is not None:
            good, bulge = end, tried
            step *= 2
        elif step == LEAST_CHORDS and good == at:
            break
        else:
            step = (end - good) // 2
    return good, bulge


def _bulge(points: Points) -> float | None:
    """Return the bulge of the arc through the ends and the middle point, or None where it is none."""
    first, middle, last = points[0], points[len(points) // 2], points[-1]
    centre = _centre(first, middle, last)
    if centre is None:
        return None
    radius = float(np.hypot(*(first - centre)))
    if radius > MOST_RADIUS_MM:
        return None
    tolerance = lines().arc_tolerance_mm
    middles = (points[:-1] + points[1:]) / 2
    off = np.abs(np.hypot(*(points - centre).T) - radius)
    sagitta = np.abs(np.hypot(*(middles - centre).T) - radius)
    if off.max() > tolerance or sagitta.max() > 2 * lines().simplify_mm:
        return None
    steps = np.diff(np.arctan2(*(points - centre).T[::-1]))
    steps -= 2 * np.pi * np.rint(steps / (2 * np.pi))
    sweep = float(steps.sum())
    if abs(sweep) > MOST_SWEEP or not (np.all(steps > 0) or np.all(steps < 0)):
        return None
    return math.tan(sweep / 4)


def _centre(a: Points, b: Points, c: Points) -> Points | None:
    """Return the centre of the circle through three points, or None where they lie on a line."""
    (bx, by), (cx, cy) = b - a, c - a
    double = 2 * (bx * cy - by * cx)
    if abs(double) < 1e-9:
        return None
    b2, c2 = bx * bx + by * by, cx * cx + cy * cy
    return np.asarray(a + np.array([cy * b2 - by * c2, bx * c2 - cx * b2]) / double)
