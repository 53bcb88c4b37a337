"""A point inside of each polygon, by which all of it is told to lie within something or not."""

from collections.abc import Iterable

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry


def points_inside(polygons: Iterable[BaseGeometry]) -> NDArray[np.object_]:
    """Return a point in the inside of each polygon, never on its edge.

    The geometry library's own point on the surface may lie on the outline, where two corners are of nearly one height;
    then the middle of the largest circle inside is taken.

    Parameters
    ----------
    polygons : geometries with an area
        Any unit.

    Returns
    -------
    array of Points
        One for each.
    """
    listed = np.array(list(polygons), dtype=object)
    points: NDArray[np.object_] = shapely.point_on_surface(listed)
    for index in np.flatnonzero(~shapely.contains_properly(listed, points) & ~shapely.is_empty(listed)):
        largest = max(shapely.get_parts(listed[index]), key=shapely.area)
        points[index] = shapely.get_point(shapely.maximum_inscribed_circle(largest), 0)
    return points
