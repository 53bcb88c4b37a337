"""Strokes turned into the areas that they paint: width, caps, joins and the mitre limit of SVG."""

import math
from collections.abc import Sequence
from typing import Literal

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry

from zinnet.geometry.curves import Subpath, corners, flatten
from zinnet.geometry.region import EMPTY, Region, refuse_tangles, union

Cap = Literal["butt", "round", "square"]
Join = Literal["miter", "round", "bevel"]

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
    lines = [(subpath, flatten(subpath, tolerance)) for subpath in subpaths if len(subpath.cubics)]
    count = sum(len(line) for _, line in lines)
    quarter = min(quarter_segments(half, tolerance), max(COARSEST, MOST_CHORDS // max(1, count)))
    refuse_tangles([points for _, points in lines])
    painted: list[BaseGeometry] = []
    for subpath, points in lines:
        if np.ptp(points, axis=0).max() == 0:
            painted.extend(_dot(points[0], half, cap, quarter))
            continue
        is_ring = subpath.closed and len(points) > 3
        line = shapely.LinearRing(points) if is_ring else shapely.LineString(points)
        painted.append(
            shapely.buffer(
                line,
                half,
                quad_segs=quarter,
                cap_style=GEOS_CAP[cap],
                join_style="round" if join == "round" else "bevel",
            )
        )
        if join == "miter":
            painted.extend(_mitres(corners(subpath), half, miter_limit))
    return union(painted)


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


def _mitres(joints: NDArray[np.float64], half: float, limit: float) -> list[BaseGeometry]:
    """Return the wedge beyond the bevel at each joint (n, 3, 2) whose mitre is within the limit."""
    if len(joints) == 0:
        return []
    before, joint, after = joints[:, 0], joints[:, 1], joints[:, 2]
    into = _unit(joint - before)
    out = _unit(after - joint)
    cross = into[:, 0] * out[:, 1] - into[:, 1] * out[:, 0]
    cosine = (into * out).sum(axis=1)
    half_turn = np.sqrt(np.clip((1 + cosine) / 2, 0, 1))
    sharp = (np.abs(cross) > 1e-6) & (half_turn * limit >= 1 - 1e-9)
    wedges: list[BaseGeometry] = []
    for k in np.flatnonzero(sharp):
        side = -half if cross[k] > 0 else half
        normal_in = np.array([-into[k, 1], into[k, 0]]) * side
        normal_out = np.array([-out[k, 1], out[k, 0]]) * side
        tip = joint[k] + (normal_in + normal_out) / (1 + cosine[k])
        wedges.append(shapely.Polygon([joint[k], joint[k] + normal_in, tip, joint[k] + normal_out]))
    return wedges


def _unit(vectors: NDArray[np.float64]) -> NDArray[np.float64]:
    return np.asarray(vectors / np.linalg.norm(vectors, axis=1, keepdims=True))
