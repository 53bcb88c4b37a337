"""Regions that lie over and beside one another as faces of one arrangement: what covers what, and shared borders."""

from collections.abc import Sequence

import numpy as np
import shapely
from numpy.typing import NDArray

from zinnet.geometry.inside import points_inside
from zinnet.geometry.region import EMPTY, Region, as_region, union

SNAP = 1e-7
"""The grid on which borders that two regions share fall onto each other."""


def faces_of(regions: Sequence[Region]) -> tuple[NDArray[np.object_], NDArray[np.bool_]]:
    """Return the faces into which all borders cut the plane, and which regions cover each: shape (faces, regions).

    Faces that no region covers are left out.

    Parameters
    ----------
    regions : n valid regions
        All in one unit.

    Returns
    -------
    faces : array (m,) of Polygon
        They do not overlap, and together they are the union of the regions.
    covers : bool array (m, n)
        Whether face i lies in region j.
    """
    borders = shapely.union_all([shapely.boundary(region) for region in regions], grid_size=SNAP)
    faces = shapely.get_parts(shapely.polygonize([borders]))
    inside = points_inside(faces)
    covered = np.zeros((len(faces), len(regions)), dtype=bool)
    for index, region in enumerate(regions):
        shapely.prepare(region)
        covered[:, index] = shapely.intersects(region, inside)
    kept = covered.any(axis=1)
    return faces[kept], covered[kept]


def simplify_shared(regions: Sequence[Region], tolerance: float) -> list[Region]:
    """Return the regions with fewer points; a border that two share, or an overlap, is the same for both.

    Parameters
    ----------
    regions : n valid regions
        All in one unit.
    tolerance : float, the regions' unit
        How far a border may move.

    Returns
    -------
    list of n regions
        In the order of those given; neighbours have neither gap nor overlap between them that was not there.
    """
    faces, covered = faces_of(regions)
    if len(faces) == 0:
        return [EMPTY for _ in regions]
    simple = shapely.coverage_simplify(faces, tolerance)
    return [union(simple[covered[:, index]]) if covered[:, index].any() else EMPTY for index in range(len(regions))]


def depths(regions: Sequence[Region]) -> list[tuple[tuple[int, ...], Region]]:
    """Return what lies on one another where: for each set of regions, by index, the part that just these cover."""
    faces, covered = faces_of(regions)
    found = []
    for members in np.unique(covered, axis=0):
        same = (covered == members).all(axis=1)
        found.append((tuple(np.flatnonzero(members).tolist()), as_region(shapely.union_all(faces[same]))))
    return found
