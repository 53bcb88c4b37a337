"""Gaps of a region that are too narrow: slots, counters, necks between rounded sides; a notch to a point is none."""

from itertools import combinations

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry import Polygon

from zinnet.geometry.region import Region, common, union, without
from zinnet.geometry.thickness import narrow_gaps, offset

NEAR_SHARE = 1 / 20
"""What lies nearer to the outline than this share of the limit is on it: outlines are simplified by less."""
TAPER = 0.5
"""A notch runs to a point where, a quarter of the way from its tip, it is by this narrower than at three quarters."""
TOUCH = 1e-6
SPARE = 0.01
"""By so much of the gap a neck is cut wider than it must be."""


def tight_places(region: Region, limit: float, least_run: float) -> Region:
    """Return where a region has gaps narrower than a limit, that are gaps and no mere notches.

    Parameters
    ----------
    region : Region
        Any unit.
    limit : float, the same unit
        What is wider stays open.
    least_run : float, the same unit
        Where rounded sides come near one another, they are a gap if they are nearer than the limit over this length.

    Returns
    -------
    Region
        Slots, counters and necks; it has no area in common with the region.
    """
    narrow = narrow_gaps(region, limit)
    found = [part for part in narrow.geoms if not runs_to_a_point(part, region, limit)]
    known = shapely.STRtree(found)
    for neck, _ in necks(region, limit, least_run):
        if not len(known.query(neck, predicate="intersects")):
            found.append(neck)
    return Region(found)


def runs_to_a_point(part: Polygon, region: Region, limit: float) -> bool:
    """Tell whether a narrow gap of a region is a notch that is open at one end, and narrows to a point at the other."""
    left, top, right, bottom = part.bounds
    near = shapely.clip_by_rect(shapely.boundary(region), left - limit, top - limit, right + limit, bottom + limit)
    side = shapely.buffer(near, limit * NEAR_SHARE)
    open_ends = shapely.line_merge(shapely.difference(part.exterior, side))
    ends = [end for end in shapely.get_parts(open_ends) if end.length > limit * NEAR_SHARE]
    if part.interiors or _ends(part, ends) != 1:
        return False
    mouth = shapely.get_coordinates(max(ends, key=lambda end: end.length)).mean(axis=0)
    corners = shapely.get_coordinates(part.exterior)
    tip = corners[np.argmax(np.linalg.norm(corners - mouth, axis=1))]
    narrow, wide = (_width_across(part, tip, mouth, share) for share in (0.25, 0.75))
    return narrow < TAPER * wide


def _width_across(part: Polygon, tip: NDArray[np.float64], mouth: NDArray[np.float64], share: float) -> float:
    """Return how wide a part is, square to the way from its tip to its mouth, at a share of that way."""
    along = mouth - tip
    across = np.array([-along[1], along[0]])
    middle = tip + share * along
    return float(shapely.intersection(part, shapely.LineString([middle - across, middle + across])).length)


def _ends(part: Polygon, ends: list[shapely.LineString]) -> int:
    """Return how many ends there are; one that the outline's first point cuts in two counts once."""
    if len(ends) < 2:
        return len(ends)
    start = shapely.Point(part.exterior.coords[0])
    cut = sum(bool(shapely.distance(end, start) < TOUCH) for end in ends) == 2
    return len(ends) - cut


def necks(region: Region, limit: float, least_run: float) -> list[tuple[Polygon, float]]:
    """Return where two parts of a region come nearer than a limit over a length: the lens between them, the gap."""
    parts = shapely.get_parts(region)
    first, second = shapely.STRtree(parts).query(parts, predicate="dwithin", distance=limit)
    found: list[tuple[Polygon, float]] = []
    grown: dict[int, Region] = {}
    for one, other in zip(first.tolist(), second.tolist(), strict=True):
        gap = float(shapely.distance(parts[one], parts[other]))
        if one >= other or gap < TOUCH:
            continue
        for index in (one, other):
            if index not in grown:
                grown[index] = offset(Region([parts[index]]), limit / 2)
        for lens in common(grown[one], grown[other]).geoms:
            if _longer_side(lens) >= least_run:
                found.append((lens, gap))
    return found


def cut_open(region: Region, limit: float, least_run: float) -> Region:
    """Return a region whose tight places are cut a step wider, from both sides; where none is left, the very same.

    A neck is cut as wide as the limit at once, a slot by an eighth of it on each side.
    """
    narrow = [part for part in narrow_gaps(region, limit).geoms if not runs_to_a_point(part, region, limit)]
    cuts = [offset(Region([part]), limit / 8) for part in narrow]
    cuts += [offset(Region([lens]), gap / 2 * (1 + SPARE)) for lens, gap in necks(region, limit, least_run)]
    return without(region, union(cuts)) if cuts else region


def _longer_side(lens: Polygon) -> float:
    corners = shapely.get_coordinates(shapely.minimum_rotated_rectangle(lens))
    sides = np.linalg.norm(np.diff(corners, axis=0), axis=1)
    return float(sides.max()) if len(sides) else 0.0


def narrowest_neck(region: Region, place: Polygon, limit: float) -> float | None:
    """Return how near the parts come that a place lies between; None where it lies in one of them."""
    parts = shapely.get_parts(region)
    tree = shapely.STRtree(parts)
    near = tree.query(place, predicate="dwithin", distance=limit * NEAR_SHARE)
    if not len(near):
        near = tree.query(place, predicate="dwithin", distance=limit / 2)
    gaps = [float(shapely.distance(parts[one], parts[other])) for one, other in combinations(near.tolist(), 2)]
    return min(gaps, default=None)
