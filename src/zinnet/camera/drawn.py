"""Regions as pixels: how much of each pixel is covered."""

import numpy as np
import shapely
from numpy.typing import NDArray

SHIFT = 4
FINER = 4


def covered(
    region: shapely.Geometry, shape: tuple[int, int], px_mm: float, corner: tuple[float, float], finer: int = 1
) -> NDArray[np.float32]:
    """Return how much of each pixel a region covers (rows, columns), 0 to 1.

    Parameters
    ----------
    region
        Polygons, in mm.
    shape
        Rows and columns.
    px_mm, corner
        Pixels to the mm, and the upper left corner in mm.
    finer
        In so many steps across a pixel the cover is told; 1 tells only whether its middle is covered.
    """
    import cv2

    rows, columns = shape
    scale = px_mm * finer
    found = np.zeros((rows * finer, columns * finer), np.uint8)
    for part in shapely.get_parts(region):
        if part.geom_type != "Polygon" or part.is_empty:
            continue
        rings = [part.exterior, *part.interiors]
        points = [
            np.round(((np.asarray(ring.coords)[:, :2] - corner) * scale - 0.5) * (1 << SHIFT)).astype(np.int32)
            for ring in rings
        ]
        if len(rings) == 1:
            cv2.fillPoly(found, points, 255, shift=SHIFT)
        else:
            own = np.zeros_like(found)
            cv2.fillPoly(own, points, 255, shift=SHIFT)
            np.maximum(found, own, out=found)
    if finer == 1:
        return (found > 0).astype(np.float32)
    return np.asarray(cv2.resize(found, (columns, rows), interpolation=cv2.INTER_AREA) / np.float32(255))
