"""Shapes for the engines: grown by half the gap, with few points, never less than the true shape."""

import math

import numpy as np
import shapely
from shapely.geometry import LineString, MultiPolygon, Polygon

from zinnet.geometry.region import Region, as_region, grown_simplified

ROUND = 4
"""How many segments stand for a quarter of a circle."""
EXACT_POINTS = 40
"""Shapes of no more points stay as they are: pieces that fit exactly must go on fitting."""
BRIDGE_MM = 0.05
STRAIGHT_MM = 1e-7
"""Points that lie nearer than this to a straight edge are none of its corners."""


def grown(region: Region, half_gap_mm: float, tolerance_mm: float, *, with_holes: bool) -> Region:
    """Return a simple region around all that is nearer to the piece than half the gap.

    It reaches at most about ``2.5 x tolerance_mm`` farther. Holes too small for anything are filled, all of them
    unless ``with_holes``.

    Parameters
    ----------
    region : Region, mm
        A piece.
    half_gap_mm : float, mm
        Two grown pieces that do not overlap lie apart by twice this.
    tolerance_mm : float, mm
        How much simpler the outline may be.
    with_holes : bool
        Whether other pieces may lie in its holes.

    Returns
    -------
    Region, mm
        It covers the piece grown by half the gap.
    """
    shape = as_region(shapely.simplify(region if with_holes else filled(region), STRAIGHT_MM))
    distance = half_gap_mm
    if len(shapely.get_coordinates(shape)) > EXACT_POINTS:
        slim = as_region(shapely.simplify(shape, tolerance_mm / 3))
        if slim.is_valid:
            shape, distance = slim, half_gap_mm + tolerance_mm / 3
    if distance > 0:
        shape = as_region(shapely.buffer(shape, distance / math.cos(math.pi / 4 / ROUND), quad_segs=ROUND))
    least = 4 * (half_gap_mm + 1) ** 2
    shape = Region(
        [Polygon(part.exterior, [h for h in part.interiors if Polygon(h).area > least]) for part in shape.geoms]
    )
    if len(shapely.get_coordinates(shape)) > EXACT_POINTS:
        shape = grown_simplified(shape, tolerance_mm)
    return shape


def with_counters(region: Region, least_mm: float) -> Region:
    """Return the region with only those of its holes in which a circle of a width finds room."""
    if not least_mm:
        return region
    return Region(
        [
            Polygon(part.exterior, [hole for hole in part.interiors if is_as_wide(Polygon(hole), least_mm)])
            for part in region.geoms
        ]
    )


def has_counters(region: Region, least_mm: float) -> bool:
    """Tell whether a region has a hole in which a circle of a width finds room."""
    return any(is_as_wide(Polygon(hole), least_mm) for part in region.geoms for hole in part.interiors)


def is_as_wide(hole: Polygon, least_mm: float) -> bool:
    """Tell whether a circle of a width finds room in a hole."""
    return not shapely.buffer(hole, -least_mm / 2, quad_segs=4).is_empty


def filled(region: Region) -> Region:
    """Return the region without its holes; what lay inside one belongs to what surrounds it."""
    return as_region(shapely.union_all([Polygon(part.exterior) for part in region.geoms]))


def single_outline(region: Region) -> Polygon:
    """Return one outline around all parts: the parts joined by narrow bridges, each to the nearest that is joined."""
    parts = [Polygon(part.exterior) for part in region.geoms]
    joined: Polygon | MultiPolygon = parts.pop(0)
    while parts:
        distances = shapely.distance(joined, np.array(parts, dtype=object))
        nearest = parts.pop(int(np.argmin(distances)))
        line: LineString = shapely.shortest_line(joined, nearest)
        bridge = line.buffer(BRIDGE_MM, cap_style="square")
        joined = shapely.union_all([joined, nearest, bridge])
    outline = joined if isinstance(joined, Polygon) else max(joined.geoms, key=lambda part: part.area)
    return Polygon(outline.exterior)
