"""Curved outlines as cubic Béziers, and flattening them within a tolerance."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from zinnet.geometry.transform import Matrix, apply

Points = NDArray[np.float64]

MOST_SEGMENTS = 4096


@dataclass(frozen=True, eq=False)
class Subpath:
    """One run of cubic Béziers; a straight line is a cubic whose handles lie on its thirds.

    ``cubics`` has shape (n, 4, 2); each row starts where the one before ended.
    """

    cubics: Points
    closed: bool

    def moved(self, matrix: Matrix) -> "Subpath":
        """Return the subpath moved by the matrix."""
        return Subpath(apply(matrix, self.cubics), self.closed)


def lines_as_cubics(points: Points) -> Points:
    """Return the polyline (n, 2) as straight cubics (n - 1, 4, 2).

    Parameters
    ----------
    points : array (n, 2)
        Any unit.

    Returns
    -------
    array (n - 1, 4, 2)
        The same unit; inner control points at the thirds of each line.
    """
    start, end = points[:-1], points[1:]
    return np.stack([start, (2 * start + end) / 3, (start + 2 * end) / 3, end], axis=1)


def segments_needed(cubics: Points, tolerance: float) -> NDArray[np.intp]:
    """Return how many equal parameter steps keep each cubic's chords within ``tolerance`` of it.

    The bound is h^2/8 times the largest second derivative, which for a cubic is at most
    6 max(|P0 - 2 P1 + P2|, |P1 - 2 P2 + P3|) (Farin, *Curves and Surfaces for CAGD*; from memory).

    Parameters
    ----------
    cubics : array (n, 4, 2)
        Control points, any unit.
    tolerance : float, the same unit
        How far a chord may be off.

    Returns
    -------
    int array (n,)
        At least 1 each.
    """
    second = np.diff(cubics, n=2, axis=1)
    bend = 6 * np.sqrt((second**2).sum(axis=2)).max(axis=1, initial=0.0)
    steps = np.ceil(np.sqrt(bend / (8 * tolerance)) - 1e-6)
    return np.clip(steps, 1, MOST_SEGMENTS).astype(np.intp)


def flatten(subpath: Subpath, tolerance: float) -> Points:
    """Return the subpath as a polyline (n, 2) within ``tolerance`` of the curve, in the same unit.

    Parameters
    ----------
    subpath : Subpath
        Cubics, any unit.
    tolerance : float, the same unit
        How far the polyline may be off.

    Returns
    -------
    array (n, 2)
        Of a closed subpath the last point is the first.
    """
    return flatten_all([subpath], tolerance)[0]


def flatten_all(subpaths: Sequence[Subpath], tolerance: float) -> list[Points]:
    """Return each subpath as :func:`flatten` does; thousands of short ones take little longer than a long one."""
    if not subpaths:
        return []
    cubics = np.concatenate([subpath.cubics for subpath in subpaths])
    counts = segments_needed(cubics, tolerance)
    which = np.repeat(np.arange(len(cubics)), counts)
    ends = np.cumsum(counts)
    first = np.repeat(ends - counts, counts)
    t = ((np.arange(len(which)) - first + 1) / counts[which])[:, None]
    p0, p1, p2, p3 = (cubics[which, k] for k in range(4))
    s = 1 - t
    points = s**3 * p0 + 3 * s * s * t * p1 + 3 * s * t * t * p2 + t**3 * p3
    points[ends - 1] = cubics[:, 3]
    found, start = [], 0
    for subpath, end in zip(subpaths, np.cumsum([len(one.cubics) for one in subpaths]).tolist(), strict=True):
        stop = int(ends[end - 1]) if end else 0
        found.append(np.concatenate([subpath.cubics[:1, 0], points[start:stop]]))
        start = stop
    return found


def corners(subpath: Subpath) -> Points:
    """Return each joint of the subpath as (before, joint, after), shape (n, 3, 2), by tangent points.

    ``before`` and ``after`` are the nearest control points that differ from the joint; a joint where a
    direction can't be told is left out.
    """
    cubics = subpath.cubics
    span = np.abs(cubics - cubics[:, :1]).max(axis=(1, 2))
    cubics = cubics[span > 1e-9]
    if len(cubics) == 0:
        return np.empty((0, 3, 2))
    leaving = _first_apart(cubics)
    arriving = _first_apart(cubics[:, ::-1])
    joints = np.stack([arriving[:-1], cubics[1:, 0], leaving[1:]], axis=1)
    if subpath.closed:
        joints = np.concatenate([joints, np.stack([arriving[-1:], cubics[:1, 0], leaving[:1]], axis=1)])
    return joints


def _first_apart(cubics: Points) -> Points:
    apart = np.abs(cubics[:, 1:] - cubics[:, :1]).max(axis=2) > 1e-9
    return cubics[np.arange(len(cubics)), 1 + apart.argmax(axis=1)]


def arc_as_cubics(
    start: tuple[float, float],
    radii: tuple[float, float],
    tilt_deg: float,
    large: bool,
    sweep: bool,
    end: tuple[float, float],
) -> Points:
    """Return an elliptical arc as cubics (n, 4, 2), by SVG 2's implementation notes, appendix B.2.4.

    Steps of at most 45 degrees keep the cubics within 1e-6 of the radius.

    Parameters
    ----------
    start : (x, y)
        Any unit.
    radii : (rx, ry), the same unit
        Scaled up where they can't reach (B.2.5).
    tilt_deg : float, degrees
        From the x axis to the first radius, positive from x towards y.
    large : bool
        Whether the arc spans more than 180 degrees.
    sweep : bool
        Whether its angle increases.
    end : (x, y), the same unit
        Where the arc ends.

    Returns
    -------
    array (n, 4, 2)
        Empty where it starts where it ends.
    """
    if start == end:
        return np.empty((0, 4, 2))
    rx, ry = abs(radii[0]), abs(radii[1])
    if rx == 0 or ry == 0:
        return lines_as_cubics(np.array([start, end]))
    tilt = math.radians(tilt_deg)
    cosine, sine = math.cos(tilt), math.sin(tilt)
    dx, dy = (start[0] - end[0]) / 2, (start[1] - end[1]) / 2
    x, y = cosine * dx + sine * dy, -sine * dx + cosine * dy
    excess = (x / rx) ** 2 + (y / ry) ** 2
    if excess > 1:
        rx, ry = rx * math.sqrt(excess), ry * math.sqrt(excess)
    square = (rx * ry) ** 2 / ((rx * y) ** 2 + (ry * x) ** 2) - 1
    factor = math.sqrt(max(0.0, square)) * (-1 if large == sweep else 1)
    cx, cy = factor * rx * y / ry, -factor * ry * x / rx
    first = math.atan2((y - cy) / ry, (x - cx) / rx)
    last = math.atan2((-y - cy) / ry, (-x - cx) / rx)
    angle = last - first
    if sweep and angle < 0:
        angle += 2 * math.pi
    elif not sweep and angle > 0:
        angle -= 2 * math.pi
    unit = unit_arc(first, angle)
    basis = np.array([[cosine * rx, -sine * ry], [sine * rx, cosine * ry]])
    centre = np.array([(start[0] + end[0]) / 2, (start[1] + end[1]) / 2]) + np.array(
        [cosine * cx - sine * cy, sine * cx + cosine * cy]
    )
    cubics = unit @ basis.T + centre
    cubics[0, 0], cubics[-1, 3] = start, end
    return np.asarray(cubics)


def unit_arc(first: float, angle: float) -> Points:
    """Return the arc of the unit circle from ``first`` through ``angle`` (radians) as cubics (n, 4, 2)."""
    count = max(1, math.ceil(abs(angle) / (math.pi / 4) - 1e-9))
    edges = first + angle * np.arange(count + 1) / count
    handle = 4 / 3 * math.tan(angle / count / 4)
    points = np.stack([np.cos(edges), np.sin(edges)], axis=1)
    tangents = np.stack([-np.sin(edges), np.cos(edges)], axis=1) * handle
    return np.stack([points[:-1], points[:-1] + tangents[:-1], points[1:] - tangents[1:], points[1:]], axis=1)


def ellipse(cx: float, cy: float, rx: float, ry: float) -> Subpath:
    """Return an ellipse as a closed subpath."""
    return Subpath(unit_arc(0.0, 2 * math.pi) * (rx, ry) + (cx, cy), closed=True)
