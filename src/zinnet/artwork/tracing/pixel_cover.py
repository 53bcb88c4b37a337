"""How much of each pixel a colour covers, read off the blend at soft edges: outlines finer than a pixel follow."""

import numpy as np
from numpy.typing import NDArray
from scipy import ndimage

from zinnet.artwork.tracing.labels import NOTHING, Labels, Mask, grown

LEAST_CONTRAST = 100.0
"""Two colours nearer than this, squared in sRGB, tell nothing about where their border runs."""


def coverage(
    mask: Mask,
    labels: Labels,
    doubtful: Mask,
    pixels: NDArray[np.float32],
    colours: NDArray[np.float32],
    ground: NDArray[np.float32] | None,
) -> NDArray[np.float32]:
    """Return how much of each pixel lies within a mask, 0 to 1, shape (h, w).

    A pixel c at the border of colours A (inside) and B (outside) is their blend: what A covers of it is
    1/2 + (|c - B|² - |c - A|²) / (2 |A - B|²). ``pixels`` are sRGB with coverage, 0 to 255, (h, w, 4); where B is
    nothing and there is no ``ground`` colour, the picture's own coverage says it.
    """
    found = mask.astype(np.float32)
    band = grown(mask, 1) & grown(~mask, 1)
    inside, outside = _nearest(labels, mask & ~doubtful, band), _nearest(labels, ~mask & ~doubtful, band)
    if inside is None or outside is None:
        return found
    own = pixels[band]
    bare = (outside == NOTHING) & (ground is None)
    palette = np.concatenate([colours, ground[None] if ground is not None else np.zeros((1, 3), np.float32)])
    a, b = palette[inside], palette[outside]
    apart = ((a - b) ** 2).sum(axis=1)
    share = 0.5 + (((own[:, :3] - b) ** 2).sum(axis=1) - ((own[:, :3] - a) ** 2).sum(axis=1)) / (
        2 * np.maximum(apart, LEAST_CONTRAST)
    )
    share = np.where(bare, own[:, 3] / 255, share)
    keeps = (inside != outside) & (bare | (apart >= LEAST_CONTRAST))
    found[band] = np.where(keeps, np.clip(share, 0, 1), found[band])
    return found


def _nearest(labels: Labels, among: Mask, wanted: Mask) -> Labels | None:
    """Return for each wanted pixel the label of the nearest one among some; None where there are none."""
    if not among.any():
        return None
    rows, columns = ndimage.distance_transform_edt(~among, return_distances=False, return_indices=True)
    return np.asarray(labels[rows[wanted], columns[wanted]])
