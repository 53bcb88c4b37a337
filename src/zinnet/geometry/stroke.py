"""Strokes turned into the areas that they paint: width, caps, joins and the mitre limit of SVG."""

import math
from collections.abc import Sequence
from typing import Literal

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry

from zinnet.base.errors import ArtworkError
from zinnet.geometry.curves import Subpath, corners, flatten_all
from zinnet.geometry.pairs import meeting_pairs
from zinnet.geometry.region import EMPTY, Region, refuse_tangles, union
from zinnet.geometry.tangles import is_tangle, segments_painted

Cap = Literal["butt", "round", "square"]
Join = Literal["miter", "round", "bevel"]
type Line = shapely.LineString | shapely.LinearRing

NO_JOINTS: NDArray[np.float64] = np.empty((0, 3, 2))
SEEN = 0.25
"""Mitres are drawn that reach beyond their bevel by more than such a share of the tolerance."""
FEW_WEDGES, MOST_MEETING = 600, 300_000
"""So many corners are drawn without a look at them; of more, so many pairs may lie on one another."""
FINEST, FINE = 1e-6, 1e-4
"""No circle is drawn finer than by a share of its radius, no stroke finer than by one of half its width."""
MOST_CHORDS, COARSEST = 60_000, 4
"""So many chords round all points of a stroke at most, which is coarser than asked where it has very many; and the
fewest for a quarter circle."""
GEOS_CAP = {"butt": "flat", "round": "round", "square": "square"}


def stroke(
    subpaths: Sequence[Subpath],
    *,
    width: float,
    cap: Cap = "butt",
    join: Join = "miter",
    miter_limit: float = 4.0,
    tolerance: float,
) -> Region:
    """Return the area that a stroke of ``width`` along the subpaths paints (SVG 2, 13.5).

    All lengths are in one unit. Mitres longer than ``miter_limit`` widths become bevels, as SVG asks.

    Parameters
    ----------
    subpaths : subpaths
        Any unit.
    width : float, the same unit
        0 or less paints nothing.
    cap : 'butt', 'round' or 'square'
        How open ends end.
    join : 'miter', 'round' or 'bevel'
        How corners are met.
    miter_limit : float, widths
        The longest mitre.
    tolerance : float, the same unit
        How far curves may be off.

    Returns
    -------
    Region
        Valid; empty where nothing is painted.
    """
    if width <= 0:
        return EMPTY
    half = width / 2
    tolerance = max(tolerance, half * FINE)
    drawn = [subpath for subpath in subpaths if len(subpath.cubics)]
    lines = flatten_all(drawn, tolerance)
    count = sum(map(len, lines))
    quarter = min(quarter_segments(half, tolerance), max(COARSEST, MOST_CHORDS // max(1, count)))
    refuse_tangles(lines)
    painted: list[BaseGeometry] = []
    runs: list[Line] = []
    joints = [NO_JOINTS]
    for subpath, points in zip(drawn, lines, strict=True):
        if (points == points[0]).all():
            painted.extend(_dot(points[0], half, cap, quarter))
            continue
        is_ring = subpath.closed and len(points) > 3
        runs.append(shapely.LinearRing(points) if is_ring else shapely.LineString(points))
        if join == "miter" and (is_ring or len(subpath.cubics) > 1):
            joints.append(corners(subpath))
    painted += _grown(runs, half, cap, join, quarter)
    return union([*painted, *_mitres(np.concatenate(joints), half, miter_limit, tolerance)])


def _grown(runs: Sequence[Line], half: float, cap: Cap, join: Join, quarter: int) -> list[BaseGeometry]:
    """Return what lines paint, their corners round or bevelled."""
    lines = np.array(runs, dtype=object)
    tangled = np.array([is_tangle(shapely.get_coordinates(line), half) for line in runs], dtype=bool)
    round_or_bevel = "round" if join == "round" else "bevel"
    style = {"quad_segs": quarter, "cap_style": GEOS_CAP[cap], "join_style": round_or_bevel}
    found = list(shapely.buffer(lines[~tangled], half, **style))
    for line in lines[tangled]:
        points, closed = shapely.get_coordinates(line), isinstance(line, shapely.LinearRing)
        for part in segments_painted(points, half, square=cap == "square", closed=closed):
            found.extend(part)
        is_dotted = np.full(len(points), join == "round")
        if not closed:
            is_dotted[[0, -1]] = cap == "round"
        found.extend(shapely.buffer(shapely.points(points[is_dotted]), half, quad_segs=quarter))
    return found


def quarter_segments(radius: float, tolerance: float) -> int:
    """Return how many chords keep a quarter circle within ``tolerance``, or within a millionth of its radius."""
    ratio = max(FINEST, min(1.0, tolerance / radius))
    return max(2, math.ceil(math.pi / 4 / math.acos(1 - ratio))) if ratio < 1 else 2


def _dot(point: NDArray[np.float64], half: float, cap: Cap, quarter: int) -> list[BaseGeometry]:
    """Return what a subpath of no length paints: nothing, a disc or a square (SVG 2, 13.5.4)."""
    x, y = point
    if cap == "round":
        return [shapely.Point(x, y).buffer(half, quad_segs=quarter)]
    if cap == "square":
        return [shapely.box(x - half, y - half, x + half, y + half)]
    return []


def _mitres(joints: NDArray[np.float64], half: float, limit: float, tolerance: float) -> Sequence[BaseGeometry]:
    """Return the wedge beyond the bevel at each joint (n, 3, 2) whose mitre is within the limit.

    One that reaches beyond its bevel by far less than ``tolerance`` is left out: curves are full of them. Raises
    :class:`ArtworkError` where so many lie on one another that their outline can't be worked out.
    """
    before, joint, after = joints[:, 0], joints[:, 1], joints[:, 2]
    into = _unit(joint - before)
    out = _unit(after - joint)
    cross = into[:, 0] * out[:, 1] - into[:, 1] * out[:, 0]
    cosine = (into * out).sum(axis=1)
    half_turn = np.sqrt(np.clip((1 + cosine) / 2, 0, 1))
    sharp = (np.abs(cross) > 1e-6) & (half_turn * limit >= 1 - 1e-9)
    sharp &= half * (1 - half_turn**2) > SEEN * tolerance * half_turn
    into, out, joint = into[sharp], out[sharp], joint[sharp]
    side = np.where(cross[sharp] > 0, -half, half)[:, None]
    normal_in, normal_out = (np.stack([-way[:, 1], way[:, 0]], axis=1) * side for way in (into, out))
    tip = joint + (normal_in + normal_out) / (1 + cosine[sharp])[:, None]
    wedges = shapely.polygons(np.stack([joint, joint + normal_in, tip, joint + normal_out], axis=1))
    if len(wedges) > FEW_WEDGES and not meeting_pairs(wedges, MOST_MEETING)[1]:
        raise ArtworkError(
            f"A line of the artwork has {len(wedges)} sharp corners and is so thick that they lie on one another; "
            "make it thinner, or its corners round."
        )
    return list(wedges)


def _unit(vectors: NDArray[np.float64]) -> NDArray[np.float64]:
    return np.asarray(vectors / np.linalg.norm(vectors, axis=1, keepdims=True))
