"""Offsets of regions, and how thick they are: opening, closing, thin parts, and making them bolder.

Opening and closing are those of mathematical morphology (Serra 1982), with mitred corners so that sharp corners stay.
"""

from typing import Literal

import numpy as np
import shapely
from shapely.geometry import Polygon

from zinnet.geometry.region import Region, as_region, common, is_dust, union, valid, without
from zinnet.geometry.stroke import quarter_segments

Corners = Literal["round", "mitre", "bevel"]

SHARPEST = 5.0
"""The mitre limit of opening and closing: corners of less than 23 degrees count as tips."""
SLACK = 1e-3
"""A stroke of just the asked width counts as wide enough, in shares of the width."""
REACH = 1.03
"""An opening reaches this much beyond its own width, so that its edge never runs along the region's."""
SEAM = 2e-3
DUST = 0.05
SPECK_SHARE = 0.08
"""What is thin covers at least this share of the width's square, else it is the rounding of a corner."""
MOST_GROWTHS = 30
LEAST_GROWTH = 1 / 40
GROWTH_SHARE = 0.5
"""Strokes that are too thin are grown step by step, on each side by this share of what they lack, or a least share of
the width, until none is left."""
FINENESS = 100
ARC_TOLERANCE = 0.01
LEAST_DISTANCE = 1e-7


def offset(region: Region, distance: float, *, corners: Corners = "round", tolerance: float = ARC_TOLERANCE) -> Region:
    """Return the region grown by ``distance`` all round, or shrunk where it is negative.

    Parameters
    ----------
    region
        In mm, or in any unit that ``distance`` has too.
    distance
        How far outlines move outwards; less than zero moves them inwards.
    corners
        How outer corners are drawn; mitres longer than 5 distances become bevels.
    tolerance
        How far a round corner may lie from its arc.

    Examples
    --------
    Steiner's formula for a convex shape: area, plus perimeter times distance, plus the disc of that radius.

    >>> square = as_region(shapely.box(0, 0, 10, 10))
    >>> grown, steiner = offset(square, 2.0), 100 + 40 * 2 + np.pi * 2**2
    >>> bool(abs(grown.area - steiner) < 0.01 * steiner)
    True
    >>> offset(square, -2.0).bounds
    (2.0, 2.0, 8.0, 8.0)
    """
    if abs(distance) < LEAST_DISTANCE:
        return region
    quarter = quarter_segments(abs(distance), tolerance)
    found = shapely.buffer(region, distance, quad_segs=quarter, join_style=corners, mitre_limit=SHARPEST)
    return as_region(found) if found.is_valid else valid(found)


def opened(region: Region, width: float) -> Region:
    """Return where the region is at least ``width`` wide; corners stay sharp.

    Parameters
    ----------
    region : Region
        Any unit.
    width : float, the same unit
        What is narrower is gone.

    Returns
    -------
    Region
        The opening of mathematical morphology, with mitred corners.
    """
    thin = thin_parts(region, width)
    return region if thin.is_empty else without(region, thin)


def swept(region: Region, width: float) -> Region:
    """Return what a disc ``width`` across can reach within the region, and its corners: nothing of it is thinner.

    Parameters
    ----------
    region : Region
        Any unit.
    width : float, the same unit
        The disc's diameter.

    Returns
    -------
    Region
        Part of ``opened``.
    """
    core = offset(region, -width / 2 * (1 - SLACK))
    reached = common(offset(core, width / 2, corners="mitre"), region)
    return Region([part for part in reached.geoms if shapely.intersects(part, core)])


def closed(region: Region, gap: float) -> Region:
    """Return the region with every gap narrower than ``gap`` filled; corners stay sharp.

    Parameters
    ----------
    region : Region
        Any unit.
    gap : float, the same unit
        What is wider stays open.

    Returns
    -------
    Region
        The closing of mathematical morphology, with mitred corners.
    """
    narrow = narrow_gaps(region, gap)
    return region if narrow.is_empty else union([region, offset(narrow, gap * SEAM)])


def thin_parts(region: Region, width: float) -> Region:
    """Return the parts of the region that are narrower than ``width``; rounded corners do not count.

    Examples
    --------
    >>> handle = shapely.union_all([shapely.box(0, 0, 20, 20), shapely.box(20, 9, 40, 10)])
    >>> [round(side) for side in thin_parts(as_region(handle), 2.0).bounds]
    [20, 9, 40, 10]
    >>> thin_parts(as_region(handle), 0.5).is_empty
    True
    """
    core = offset(region, -width / 2 * (1 - SLACK))
    return _substance(without(region, offset(core, width / 2 * REACH, corners="mitre")), width)


def narrow_gaps(region: Region, gap: float) -> Region:
    """Return the gaps and counters of a region that are narrower than ``gap``.

    Parameters
    ----------
    region : Region
        Any unit.
    gap : float, the same unit
        What is wider is not returned.

    Returns
    -------
    Region
        It has no area in common with the region.
    """
    grown = offset(region, gap / 2 * (1 - SLACK))
    filled = offset(grown, -gap / 2 * REACH, corners="mitre")
    return _substance(without(filled, region), gap)


def _substance(region: Region, width: float) -> Region:
    """Return the parts that are more than a rounded corner or the rounding along an edge."""
    return Region(
        [part for part in region.geoms if part.area > SPECK_SHARE * width * width and not is_dust(part, DUST * width)]
    )


def thickened(region: Region, width: float) -> Region:
    """Return the region with every stroke at least ``width`` wide; what is wide enough stays as it is.

    Parameters
    ----------
    region : Region
        Any unit.
    width : float, the same unit
        The least width of the result.

    Returns
    -------
    Region
        It covers the region.
    """
    region = _simpler(region, width)
    for _ in range(MOST_GROWTHS):
        thin = thin_parts(region, width)
        if thin.is_empty:
            break
        grown = [_grown(part, width) for part in _simpler(thin, width).geoms]
        region = _simpler(union([region, *grown]), width)
    return region


def _grown(part: shapely.Polygon, width: float) -> Region:
    """Return a thin part grown by half of what its thickest place lacks."""
    lacks = width - 2 * shapely.maximum_inscribed_circle(part, tolerance=width / FINENESS).length
    return offset(Region([part]), max(width * LEAST_GROWTH, GROWTH_SHARE * lacks), tolerance=width / FINENESS)


def _simpler(region: Region, width: float) -> Region:
    """Return the region without points that matter nothing to its thickness: they would multiply."""
    return valid(shapely.simplify(region, width / FINENESS))


def thinned(region: Region, by: float, *, least: float) -> Region:
    """Return the region with ``by`` taken off all its edges, but nothing made narrower than ``least``.

    Parameters
    ----------
    region : Region
        Any unit.
    by : float, the same unit
        What is taken off every edge.
    least : float, the same unit
        The least width that stays.

    Returns
    -------
    Region
        The region covers it.
    """
    strokes = thin_parts(region, least + 2 * by)
    return union([offset(region, -by, corners="mitre"), strokes])


def rounded(region: Region, radius: float) -> Region:
    """Return the region smoothed: its corners, bumps and nicks no sharper than ``radius``.

    Parameters
    ----------
    region : Region
        Any unit.
    radius : float, the same unit
        The least radius of a convex or concave corner.

    Returns
    -------
    Region
        Closed, then opened, with round corners.
    """
    filled = offset(offset(region, radius), -radius)
    return offset(offset(filled, -radius), radius)


def without_holes(region: Region, *, most_area: float | None = None) -> Region:
    """Return the region with its counters filled, all or those up to an area.

    Parameters
    ----------
    region : Region
        Any unit.
    most_area : float, that unit squared
        Larger counters stay; None fills all.

    Returns
    -------
    Region
        It covers the region.
    """
    kept = []
    for part in region.geoms:
        holes = [] if most_area is None else [h for h in part.interiors if shapely.Polygon(h).area > most_area]
        kept.append(shapely.Polygon(part.exterior, holes))
    return union(kept)


def longer_side(parts: list[Polygon]) -> list[float]:
    """Return the longer side of the smallest rectangle round each part, in its units."""
    boxes = shapely.oriented_envelope(np.array(parts, dtype=object))
    found = []
    for box in boxes:
        corners = shapely.get_coordinates(box)
        found.append(float(np.hypot(*np.diff(corners[:3], axis=0).T).max()) if len(corners) > 2 else float(box.length))
    return found


def small(parts: list[Polygon], limit: float) -> list[Polygon]:
    """Return the parts whose longer side is shorter than a limit."""
    few = [part for part in parts if part.area < limit * limit]
    return [part for part, side in zip(few, longer_side(few), strict=True) if side < limit * (1 - 1e-6)]


def without_small(region: Region, *, part: float, counter: float) -> Region:
    """Return the region without the parts and counters whose longer side is shorter than the limits.

    Parameters
    ----------
    region : Region
        Any unit.
    part : float, the same unit
        Parts whose longer side is shorter are dropped.
    counter : float, the same unit
        Counters whose longer side is shorter are filled.

    Returns
    -------
    Region
        Empty where no part is large enough.
    """
    parts = list(region.geoms)
    lost = {id(one) for one in small(parts, part)}
    kept = []
    for one in parts:
        if id(one) not in lost:
            holes = [shapely.Polygon(hole) for hole in one.interiors]
            filled = {id(hole) for hole in small(holes, counter)}
            kept.append(shapely.Polygon(one.exterior, [hole.exterior for hole in holes if id(hole) not in filled]))
    return union(kept)
