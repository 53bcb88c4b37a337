"""Which colour each pixel belongs to, with the false lines at soft edges and the specks taken out."""

import numpy as np
from numpy.typing import NDArray
from scipy import ndimage

Labels = NDArray[np.intp]
NOTHING = -1
"""The label of what is background."""


def without_edge_lines(labels: Labels, pixel: int) -> Labels:
    """Return the labels without the thin lines of a third colour that blending leaves along an edge.

    What is thinner than a pixel of the picture and not the tip of something thicker goes to its nearest neighbours.
    ``pixel`` is how many cells of the labels a pixel of the picture spans.
    """
    kept = np.zeros(labels.shape, dtype=bool)
    radius = max(1, round(0.7 * pixel))
    for label in np.unique(labels):
        mask = labels == label
        core = _eroded(mask, radius)
        kept |= mask & grown(core, 3 * radius)
    return _filled(labels, kept)


def without_specks(labels: Labels, least: int) -> Labels:
    """Return the labels with parts of fewer than ``least`` cells given to their neighbours."""
    if least <= 1:
        return labels
    kept = np.zeros(labels.shape, dtype=bool)
    for label in np.unique(labels):
        parts, _ = ndimage.label(labels == label)
        sizes = np.bincount(parts.ravel())
        sizes[0] = 0
        kept |= (sizes >= least)[parts]
    return _filled(labels, kept)


def background(is_ground: NDArray[np.bool_], *, everywhere: bool) -> NDArray[np.bool_]:
    """Return which cells are background: of a colour that counts as such, and in touch with the picture's edge.

    ``is_ground`` (cells) tells which cells have that colour; ``everywhere`` takes those inside the motif too.
    """
    if everywhere:
        return is_ground
    parts, count = ndimage.label(is_ground)
    edge = np.concatenate([parts[0], parts[-1], parts[:, 0], parts[:, -1]])
    outside = np.zeros(count + 1, dtype=bool)
    outside[np.unique(edge)] = True
    outside[0] = False
    return np.asarray(outside[parts])


def _eroded(mask: NDArray[np.bool_], radius: int) -> NDArray[np.bool_]:
    """Return a mask less ``radius`` cells all round, by squares."""
    return np.asarray(ndimage.minimum_filter(mask, 2 * radius + 1, mode="nearest"))


def grown(mask: NDArray[np.bool_], radius: int) -> NDArray[np.bool_]:
    """Return a mask and ``radius`` cells all round, by squares."""
    return np.asarray(ndimage.maximum_filter(mask, 2 * radius + 1))


def _filled(labels: Labels, kept: NDArray[np.bool_]) -> Labels:
    """Return the labels with every cell that is not kept given to the nearest one that is."""
    if kept.all() or not kept.any():
        return labels
    rows, columns = ndimage.distance_transform_edt(~kept, return_distances=False, return_indices=True)
    return np.asarray(labels[rows, columns])
