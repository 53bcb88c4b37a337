"""Which colour each pixel belongs to, with the false lines at soft edges and the specks taken out."""

import numpy as np
from numpy.typing import NDArray
from scipy import ndimage

Labels = NDArray[np.intp]
Mask = NDArray[np.bool_]
NOTHING = -1
"""The label of what is background."""
IMPURE = 24.0
"""A pixel this far in sRGB from its own colour, at an edge, is a blend of two others."""
EDGE = 40.0
"""How much sRGB changes within a pixel's neighbours where there is an edge."""


def blended(pixels: NDArray[np.float32], off: NDArray[np.float32]) -> Mask:
    """Return which pixels (h, w) are blends along an edge, by their sRGB (h, w, 3) and distance from their colour."""
    low, high = (change(pixels, size=(3, 3, 1)) for change in (ndimage.minimum_filter, ndimage.maximum_filter))
    return np.asarray((off > IMPURE) & ((high - low).max(axis=2) > EDGE))


def settled(labels: Labels, doubtful: Mask) -> Labels:
    """Return the labels with every doubtful pixel given to the nearest one that is not."""
    return _filled(labels, ~doubtful)


def without_specks(labels: Labels, least: float) -> Labels:
    """Return the labels with parts of fewer than ``least`` pixels given to their neighbours."""
    if least <= 1:
        return labels
    kept = np.zeros(labels.shape, dtype=bool)
    for label in np.unique(labels):
        parts, _ = ndimage.label(labels == label, structure=np.ones((3, 3)))
        sizes = np.bincount(parts.ravel())
        sizes[0] = 0
        kept |= (sizes >= least)[parts]
    return _filled(labels, kept)


def background(is_ground: Mask, *, everywhere: bool) -> Mask:
    """Return which pixels are background: of a colour that counts as such, and in touch with the picture's edge.

    ``is_ground`` tells which pixels have that colour; ``everywhere`` takes those inside the motif too.
    """
    if everywhere:
        return is_ground
    parts, count = ndimage.label(is_ground)
    edge = np.concatenate([parts[0], parts[-1], parts[:, 0], parts[:, -1]])
    outside = np.zeros(count + 1, dtype=bool)
    outside[np.unique(edge)] = True
    outside[0] = False
    return np.asarray(outside[parts])


def grown(mask: Mask, radius: int) -> Mask:
    """Return a mask and ``radius`` pixels all round, by squares."""
    return np.asarray(ndimage.maximum_filter(mask, 2 * radius + 1))


def hulls(mask: Mask) -> Mask:
    """Return the convex hulls of a mask's connected parts."""
    import shapely
    from PIL import Image, ImageDraw

    height, width = mask.shape
    image = Image.new("1", (width, height))
    draw = ImageDraw.Draw(image)
    parts, _ = ndimage.label(mask, structure=np.ones((3, 3)))
    for number, (rows, columns) in enumerate(ndimage.find_objects(parts), start=1):
        y, x = np.nonzero(parts[rows, columns] == number)
        hull = shapely.convex_hull(shapely.multipoints(np.stack([x + columns.start, y + rows.start], axis=1)))
        if hull.geom_type == "Polygon":
            draw.polygon([(int(px), int(py)) for px, py in hull.exterior.coords], fill=1)
    return np.asarray(image) | mask


def holes_filled(mask: Mask, above: Mask) -> Mask:
    """Return the mask with every hole filled that lies wholly under colours above."""
    parts, count = ndimage.label(~mask)
    covered = np.ones(count + 1, dtype=bool)
    covered[np.unique(parts[~above])] = False
    edge = np.concatenate([parts[0], parts[-1], parts[:, 0], parts[:, -1]])
    covered[np.unique(edge)] = False
    covered[0] = False
    return np.asarray(mask | covered[parts])


def _filled(labels: Labels, kept: Mask) -> Labels:
    """Return the labels with every pixel that is not kept given to the nearest one that is."""
    if kept.all() or not kept.any():
        return labels
    rows, columns = ndimage.distance_transform_edt(~kept, return_distances=False, return_indices=True)
    return np.asarray(labels[rows, columns])
