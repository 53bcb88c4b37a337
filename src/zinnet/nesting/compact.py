"""Compaction: all pieces of a strip move at once, a little at a time, so that the strip becomes shorter.

Two segments that lie apart stay apart while the one does not cross a line between them. Keeping each segment of a
piece on its side of the line that is nearest to its neighbour is a linear condition on how far the two pieces move;
so the shortest strip within a small step is a linear programme (after Li and Milenkovic, *Compaction and separation
algorithms for non-convex polygons*, 1995; from memory). The gap is kept exactly, on the true outlines.
"""

import time
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from zinnet.geometry.region import Region

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]
STEPS_MM = (1.0, 0.3)
"""How far a piece may move at once, besides what its place along the strip allows."""
SQUEEZE = 0.008
"""How much of its distance from the left wall a piece may move farther: the strip shortens evenly, all at once."""
SLACK_MM = 1e-6
LEAST_GAIN_MM = 0.005
TOUCHING_MM = 1e-4
"""Segments nearer than this count as touching: rounding may even have crossed them."""
LEFTWARD = 1e-4
DOWNWARD = 1e-5


@dataclass(frozen=True)
class Walls:
    """The box in which pieces lie, in mm; its right side is what moves."""

    left: float
    top: float
    right: float
    bottom: float


def compacted(
    regions: list[Region], walls: Walls, gap_mm: float, *, fixed: frozenset[int] = frozenset(), deadline: float
) -> list[tuple[float, float]]:
    """Return how far each piece moves (dx, dy in mm) so that they reach less far to the right.

    ``regions`` lie apart by the gap; those in ``fixed`` stay. It ends before ``deadline`` (monotonic seconds), or
    where a step gains next to nothing.

    Parameters
    ----------
    regions : n regions, mm
        Where they lie; apart by the gap.
    walls : Walls, mm
        Between which they stay.
    gap_mm : float, mm
        The least distance.
    fixed : indices
        Those that stay where they are.
    deadline : float, s
        By ``time.monotonic``.

    Returns
    -------
    n pairs (dx, dy), mm
        After these moves they lie apart by the gap as before.
    """
    total = np.zeros((len(regions), 2))
    step = STEPS_MM[0]
    boxes = np.array([region.bounds for region in regions])
    segments = _segments(regions)
    reach = boxes[:, 2].max()
    took = 0.0
    while (begun := time.monotonic()) + took < deadline:
        moves = _step(segments, boxes, total, walls, gap_mm, step, fixed)
        if moves is None:
            break
        total += moves
        shorter = (boxes[:, 2] + total[:, 0]).max()
        gain, reach = reach - shorter, shorter
        took = time.monotonic() - begun
        if gain < LEAST_GAIN_MM:
            if step == STEPS_MM[-1]:
                break
            step = STEPS_MM[STEPS_MM.index(step) + 1]
    return [(float(dx), float(dy)) for dx, dy in total]


@dataclass(frozen=True)
class _Segments:
    """The segments of all pieces: their ends (n, 2, 2), and the piece each belongs to (n,)."""

    ends: Floats
    owner: Ints


def _segments(regions: list[Region]) -> _Segments:
    ends, owner = [], []
    for index, region in enumerate(regions):
        for part in region.geoms:
            for ring in (part.exterior, *part.interiors):
                points = np.asarray(ring.coords)
                ends.append(np.stack([points[:-1], points[1:]], axis=1))
                owner.append(np.full(len(points) - 1, index))
    return _Segments(np.concatenate(ends), np.concatenate(owner))


def _step(
    segments: _Segments,
    boxes: Floats,
    total: Floats,
    walls: Walls,
    gap_mm: float,
    step: float,
    fixed: frozenset[int],
) -> Floats | None:
    """Return the best moves of at most ``step`` mm along x and y, or None where there are none.

    The unknowns are dx, dy of each piece, then how far the strip reaches.
    """
    from scipy import sparse
    from scipy.optimize import linprog

    count = len(boxes)
    here = _Segments(segments.ends + total[segments.owner][:, None, :], segments.owner)
    now = boxes + np.tile(total, 2)
    widest = float((boxes[:, 2] - boxes[:, 0]).max())
    near = gap_mm + float(np.hypot(2 * step + SQUEEZE * (widest + 4 * step), 2 * step))
    first, second, normal, room = _conditions(here, gap_mm, near)
    rows = np.arange(len(first))
    apart = sparse.coo_matrix(
        (
            np.concatenate([-normal[:, 0], -normal[:, 1], normal[:, 0], normal[:, 1]]),
            (np.tile(rows, 4), np.concatenate([2 * first, 2 * first + 1, 2 * second, 2 * second + 1])),
        ),
        shape=(len(first), 2 * count + 1),
    )
    pieces = np.arange(count)
    within_reach = sparse.coo_matrix(
        (
            np.repeat([1.0, -1.0], count),
            (np.tile(pieces, 2), np.concatenate([2 * pieces, np.full(count, 2 * count)])),
        ),
        shape=(count, 2 * count + 1),
    )
    cost = np.full(2 * count + 1, DOWNWARD)
    cost[0::2] = LEFTWARD
    cost[-1] = 1.0
    result = linprog(
        cost,
        A_ub=sparse.vstack([apart, within_reach]).tocsr(),
        b_ub=np.concatenate([room, -now[:, 2]]),
        bounds=_bounds(now, walls, step, fixed),
        method="highs",
    )
    if result.x is None:
        return None
    return np.asarray(result.x[:-1].reshape(count, 2), dtype=np.float64)


def _bounds(now: Floats, walls: Walls, step: float, fixed: frozenset[int]) -> Floats:
    """Return the least and most of each unknown (2 n + 1, 2): pieces stay within their walls and the step."""
    low = np.array([walls.left, walls.top]) - now[:, :2]
    high = np.array([walls.right, walls.bottom]) - now[:, 2:]
    farthest = np.full_like(low, -step)
    farthest[:, 0] -= SQUEEZE * np.maximum(now[:, 0] - walls.left, 0)
    least, most = np.minimum(0, np.maximum(farthest, low)), np.maximum(0, np.minimum(step, high))
    still = list(fixed)
    least[still] = most[still] = 0.0
    found = np.empty((2 * len(now) + 1, 2))
    found[:-1] = np.stack([least.ravel(), most.ravel()], axis=1)
    found[-1] = walls.left, walls.right
    return found


def _conditions(segments: _Segments, gap_mm: float, near: float) -> tuple[Ints, Ints, Floats, Floats]:
    """Return what keeps pieces apart: pairs of pieces, normals (m, 2) of length 1 towards the first, room left (m,)."""
    a, b = _near_pairs(segments, near)
    on_a, on_b = nearest_points(segments.ends[a], segments.ends[b])
    difference = on_a - on_b
    distance = np.hypot(difference[:, 0], difference[:, 1])
    keep = distance < near
    a, b, difference, distance = a[keep], b[keep], difference[keep], distance[keep]
    touching = (distance < TOUCHING_MM) | _crossing(segments.ends[a], segments.ends[b])
    if touching.any():
        difference[touching] = _across(segments.ends[a[touching]], segments.ends[b[touching]])
    normal = difference / np.maximum(np.hypot(difference[:, 0], difference[:, 1]), 1e-12)[:, None]
    room = np.where(touching, 0.0, np.maximum(distance - gap_mm, 0.0))
    pair = segments.owner[a] * (int(segments.owner.max()) + 1) + segments.owner[b]
    order = np.argsort(pair, kind="stable")
    kept: list[Ints] = []
    bounds = np.flatnonzero(np.diff(pair[order])) + 1
    for group in np.split(order, bounds):
        if len(group):
            kept.append(group[_outermost(normal[group], room[group])])
    chosen = np.concatenate(kept) if kept else np.empty(0, dtype=np.int64)
    return segments.owner[a[chosen]], segments.owner[b[chosen]], normal[chosen], room[chosen]


def _near_pairs(segments: _Segments, near: float) -> tuple[Ints, Ints]:
    """Return the pairs of segments of different pieces whose boxes lie nearer than ``near`` along x and along y."""
    low, high = segments.ends.min(axis=1), segments.ends.max(axis=1)
    begins = np.flatnonzero(np.diff(segments.owner, prepend=-1))
    piece_low, piece_high = np.minimum.reduceat(low, begins), np.maximum.reduceat(high, begins)
    edges = [*begins.tolist(), len(low)]
    close = _boxes_near(piece_low, piece_high, piece_low, piece_high, near)
    found_a, found_b = [], []
    for i, j in zip(*np.nonzero(np.triu(close, 1)), strict=True):
        of_i, of_j = slice(edges[i], edges[i + 1]), slice(edges[j], edges[j + 1])
        one = np.flatnonzero(
            _boxes_near(low[of_i], high[of_i], piece_low[j : j + 1], piece_high[j : j + 1], near)[:, 0]
        )
        other = np.flatnonzero(
            _boxes_near(low[of_j], high[of_j], piece_low[i : i + 1], piece_high[i : i + 1], near)[:, 0]
        )
        one, other = one + edges[i], other + edges[j]
        k, m = np.nonzero(_boxes_near(low[one], high[one], low[other], high[other], near))
        found_a.append(one[k])
        found_b.append(other[m])
    if not found_a:
        return np.empty(0, dtype=np.int64), np.empty(0, dtype=np.int64)
    return np.concatenate(found_a), np.concatenate(found_b)


def _boxes_near(low_a: Floats, high_a: Floats, low_b: Floats, high_b: Floats, near: float) -> NDArray[np.bool_]:
    """Return which boxes (n) lie within ``near`` of which others (m) along both axes, as an array (n, m)."""
    apart = np.maximum(low_a[:, None] - high_b[None], low_b[None] - high_a[:, None])
    return np.asarray((apart <= near).all(axis=2))


def _outermost(normal: Floats, room: Floats) -> Ints:
    """Return which half-planes bound the room of a pair: by duality, the corners of the hull of normal / room."""
    from scipy.spatial import ConvexHull, QhullError

    if len(room) <= 6:
        return np.arange(len(room))
    try:
        hull = ConvexHull(normal / (room + SLACK_MM)[:, None])
    except QhullError:
        return np.arange(len(room))
    return np.asarray(hull.vertices, dtype=np.int64)


def nearest_points(one: Floats, other: Floats) -> tuple[Floats, Floats]:
    """Return the nearest points (n, 2) of pairs of segments (n, 2, 2) that do not cross."""
    best = np.full(len(one), np.inf)
    on_one, on_other = np.empty((len(one), 2)), np.empty((len(one), 2))
    for end in (0, 1):
        for swap in (False, True):
            point = (other if swap else one)[:, end]
            line = one if swap else other
            along = line[:, 1] - line[:, 0]
            share = np.einsum("ij,ij->i", point - line[:, 0], along) / np.maximum(
                np.einsum("ij,ij->i", along, along), 1e-18
            )
            foot = line[:, 0] + np.clip(share, 0, 1)[:, None] * along
            distance = np.hypot(*(point - foot).T)
            better = distance < best
            best[better] = distance[better]
            on_one[better] = (foot if swap else point)[better]
            on_other[better] = (point if swap else foot)[better]
    return on_one, on_other


def _crossing(one: Floats, other: Floats) -> NDArray[np.bool_]:
    """Return which pairs of segments (n, 2, 2) cross: the ends of each lie on both sides of the other."""

    def side(line: Floats, points: Floats) -> Floats:
        along, to = line[:, 1] - line[:, 0], points - line[:, :1]
        return np.asarray(along[:, None, 0] * to[:, :, 1] - along[:, None, 1] * to[:, :, 0])

    return np.asarray((side(one, other).prod(axis=1) < 0) & (side(other, one).prod(axis=1) < 0))


def _across(one: Floats, other: Floats) -> Floats:
    """Return a direction from the second to the first of segments that touch: across the line that parts them best."""
    found = np.zeros((len(one), 2))
    best = np.full(len(one), -np.inf)
    for line in (one, other):
        along = line[:, 1] - line[:, 0]
        for sign in (1.0, -1.0):
            normal = sign * np.stack([-along[:, 1], along[:, 0]], axis=1)
            normal /= np.maximum(np.hypot(normal[:, 0], normal[:, 1]), 1e-12)[:, None]
            low_one = np.einsum("nki,ni->nk", one, normal).min(axis=1)
            high_other = np.einsum("nki,ni->nk", other, normal).max(axis=1)
            apart = low_one - high_other
            better = apart > best
            best[better] = apart[better]
            found[better] = normal[better]
    return found
