"""Fitting cubic Béziers to a closed run of points, with corners kept sharp and straight runs straight.

The least-squares fit of one cubic is Schneider's (*Graphics Gems*, 1990, "An algorithm for automatically
fitting digitized curves"); here each cubic is made as long as the tolerance allows.
"""

import math

import numpy as np

from zinnet.geometry.curves import Points, Subpath

REPARAMETRIZE = 4
CORNER_REACH = 3.0
"""How far along the outline, in pixels, both sides of a corner are looked at."""
CORNER_DEG = 38.0
"""A turn by more than this within the reach is a corner."""
ROUNDED = 1.5
"""How far from a corner, in pixels, the points are rounded off and count for nothing."""
MOST_SHIFT = 1.6
"""How far, in pixels, a corner that the smoothing rounded is moved out to where its sides meet."""
TANGENT_REACH = 7.0
"""How far both ways the direction of a smooth outline is read off, in pixels."""
DENSITY = 0.5
"""The distance between the points that are fitted, in pixels."""

AXES = np.eye(2)


def fit_closed(points: Points, tolerance: float) -> Subpath:
    """Return a closed subpath within about ``tolerance`` of a ring of points (n, 2), all in pixels."""
    ring = _evenly(points)
    found = _corners(ring)
    if len(found) == 0:
        return Subpath(_fit_round(ring, tolerance), closed=True)
    sharp = _sharpened(ring, found)
    runs = []
    for k, first in enumerate(found):
        last = found[(k + 1) % len(found)]
        between = np.arange(first, last + (len(ring) if last <= first else 0) + 1) % len(ring)
        soft = min(round(ROUNDED / DENSITY), (len(between) - 3) // 2)
        inner = ring[between[max(1, soft) : -max(1, soft)]]
        run = np.concatenate([sharp[k : k + 1], inner, sharp[(k + 1) % len(found)][None]])
        runs.append(_fit_run(run, tolerance, None, None))
    return Subpath(np.concatenate(runs), closed=True)


def _evenly(points: Points) -> Points:
    """Return a ring's points at even distances, the last not repeated."""
    closed = points if (points[0] == points[-1]).all() else np.concatenate([points, points[:1]])
    along = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(closed, axis=0).T))])
    count = max(8, round(along[-1] / DENSITY))
    at = np.linspace(0, along[-1], count, endpoint=False)
    return np.stack([np.interp(at, along, closed[:, axis]) for axis in (0, 1)], axis=1)


def _corners(ring: Points) -> list[int]:
    """Return the indices of the corners: where the outline turns most within the reach, and by enough."""
    reach = min(max(2, round(CORNER_REACH / DENSITY)), len(ring) // 4)
    before, after = ring - np.roll(ring, reach, axis=0), np.roll(ring, -reach, axis=0) - ring
    cross = before[:, 0] * after[:, 1] - before[:, 1] * after[:, 0]
    turn = np.abs(np.degrees(np.arctan2(cross, (before * after).sum(axis=1))))
    around = np.max([np.roll(turn, k) for k in range(-reach, reach + 1)], axis=0)
    found: list[int] = []
    for index in np.flatnonzero((turn >= CORNER_DEG) & (turn >= around)):
        if not found or index - found[-1] > reach:
            found.append(int(index))
    if len(found) > 1 and found[0] + len(ring) - found[-1] <= reach:
        found.pop()
    return found


def _sharpened(ring: Points, corners: list[int]) -> Points:
    """Return each corner moved to where the lines along its two sides meet, if that is near."""
    near, far = round(1.5 / DENSITY), round(5.0 / DENSITY)
    moved = ring[corners].copy()
    for k, index in enumerate(corners):
        sides = []
        for way in (-1, 1):
            neighbour = corners[(k + way) % len(corners)]
            room = ((neighbour - index) * way) % len(ring) or len(ring)
            reach = min(far, room // 2)
            if reach < near + 2:
                break
            run = ring[(index + way * np.arange(near, reach + 1)) % len(ring)]
            middle = run.mean(axis=0)
            direction = np.linalg.svd(run - middle, full_matrices=False)[2][0]
            sides.append((middle, direction))
        if len(sides) < 2:
            continue
        (a, u), (b, v) = sides
        cross = u[0] * v[1] - u[1] * v[0]
        if abs(cross) < 0.2:
            continue
        meeting = a + u * ((b - a)[0] * v[1] - (b - a)[1] * v[0]) / cross
        if math.dist(meeting, ring[index]) <= MOST_SHIFT:
            moved[k] = meeting
    return moved


def _fit_round(ring: Points, tolerance: float) -> Points:
    """Return cubics around a ring without corners; it is begun where it bends most."""
    reach = max(2, len(ring) // 16)
    before, after = ring - np.roll(ring, reach, axis=0), np.roll(ring, -reach, axis=0) - ring
    start = int(np.abs(before[:, 0] * after[:, 1] - before[:, 1] * after[:, 0]).argmax())
    run = np.concatenate([ring[start:], ring[: start + 1]])
    far = min(round(TANGENT_REACH / DENSITY), len(ring) // 8 or 1)
    tangent = _unit(ring[(start + far) % len(ring)] - ring[start - far])
    return _fit_run(run, tolerance, tangent, -tangent)


def _fit_run(run: Points, tolerance: float, leaving: Points | None, arriving: Points | None) -> Points:
    """Return cubics along an open run: each as long as it can be, smooth where they meet."""
    if len(run) < 3 or _is_straight(run, tolerance):
        return _straight(run[0], run[-1])
    pieces, at = [], 0
    while at < len(run) - 1:
        cubic, at, leaving = _longest(run, at, leaving, arriving, tolerance)
        pieces.append(cubic)
    return np.array(pieces)


def _longest(
    run: Points, at: int, leaving: Points | None, final: Points | None, tolerance: float
) -> tuple[Points, int, Points | None]:
    """Return the longest cubic from ``at`` that keeps the tolerance, where it ends, and how the next one leaves."""
    last = len(run) - 1

    def fitted(end: int) -> tuple[Points, float, Points | None]:
        arriving = final if end == last else _across(run, end)
        return *_fit_cubic(run[at : end + 1], leaving, arriving), None if arriving is None else -arriving

    low, high = min(at + 2, last), last
    best, error, onward = fitted(high)
    if error <= tolerance or low == high:
        return best, high, onward
    best, _, onward = fitted(low)
    while high - low > 1:
        middle = (low + high) // 2
        cubic, error, leaves = fitted(middle)
        if error <= tolerance:
            low, best, onward = middle, cubic, leaves
        else:
            high = middle
    return best, low, onward


def _fit_cubic(run: Points, leaving: Points | None, arriving: Points | None) -> tuple[Points, float]:
    """Return the cubic of least squares along a run, and its largest distance; an end without a direction is free."""
    start, end = run[0], run[-1]
    along = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(run, axis=0).T))])
    t = along / along[-1]
    cubic = np.array([start, start, end, end])
    for _ in range(REPARAMETRIZE):
        s = 1 - t
        b0, b1, b2, b3 = s**3, 3 * s * s * t, 3 * s * t * t, t**3
        rest = run - np.outer(b0 + b1, start) - np.outer(b2 + b3, end)
        ways = (AXES if leaving is None else leaving[None]), (AXES if arriving is None else arriving[None])
        columns = [np.outer(weight, way).ravel() for weight, group in zip((b1, b2), ways, strict=True) for way in group]
        matrix = np.stack(columns, axis=1)
        normal = matrix.T @ matrix + 1e-9 * np.eye(len(columns))
        amounts = np.linalg.solve(normal, matrix.T @ rest.ravel())
        handles = amounts[: len(ways[0])] @ ways[0], amounts[len(ways[0]) :] @ ways[1]
        handles = _reined(handles, (leaving, arriving), along[-1])
        cubic = np.array([start, start + handles[0], end + handles[1], end])
        t = _nearer(cubic, t, run)
    return cubic, float(np.sqrt(((_at(cubic, t) - run) ** 2).sum(axis=1)).max())


def _reined(
    handles: tuple[Points, Points], ways: tuple[Points | None, Points | None], length: float
) -> tuple[Points, Points]:
    """Return the handles as they are, or a third of the length where they point backwards or run far out."""
    wild = any(
        math.hypot(*handle) > 2 * length or (way is not None and float(handle @ way) < 1e-3 * length)
        for handle, way in zip(handles, ways, strict=True)
    )
    if not wild:
        return handles
    one, two = (np.zeros(2) if way is None else way * length / 3 for way in ways)
    return one, two


def _nearer(cubic: Points, t: Points, run: Points) -> Points:
    """Return the parameters moved towards each point's nearest place on the cubic, by one step of Newton's."""
    s = 1 - t
    offset = _at(cubic, t) - run
    legs = np.diff(cubic, axis=0)
    bends = np.diff(legs, axis=0)
    first = 3 * (np.outer(s * s, legs[0]) + np.outer(2 * s * t, legs[1]) + np.outer(t * t, legs[2]))
    second = 6 * (np.outer(s, bends[0]) + np.outer(t, bends[1]))
    slope = (first * first).sum(axis=1) + (offset * second).sum(axis=1)
    step = np.divide((offset * first).sum(axis=1), slope, out=np.zeros_like(t), where=np.abs(slope) > 1e-12)
    moved = np.maximum.accumulate(np.clip(t - step, 0, 1))
    moved[0], moved[-1] = 0, 1
    return np.asarray(moved)


def _at(cubic: Points, t: Points) -> Points:
    s = 1 - t
    weights = np.stack([s**3, 3 * s * s * t, 3 * s * t * t, t**3], axis=1)
    return np.asarray(weights @ cubic)


def _is_straight(run: Points, tolerance: float) -> bool:
    chord = run[-1] - run[0]
    length = math.hypot(*chord)
    if length == 0:
        return False
    off = np.abs((run[:, 0] - run[0, 0]) * chord[1] - (run[:, 1] - run[0, 1]) * chord[0]) / length
    return bool(off.max() <= tolerance)


def _straight(start: Points, end: Points) -> Points:
    return np.array([[start, start + (end - start) / 3, end + (start - end) / 3, end]])


def _across(run: Points, index: int) -> Points:
    """Return the direction back along the run at a point in it, from as far both ways."""
    reach = min(round(TANGENT_REACH / DENSITY), index, len(run) - 1 - index) or 1
    return _unit(run[index - reach] - run[min(index + reach, len(run) - 1)])


def _unit(vector: Points) -> Points:
    length = math.hypot(*vector)
    return np.asarray(vector / length) if length > 0 else np.array([1.0, 0.0])
