"""What of a drawing reaches beyond its own page, and is cut off there."""

from dataclasses import replace

import numpy as np

from zinnet.artwork.model import Artwork
from zinnet.base.stages import stage
from zinnet.geometry.curves import flatten_all

LEAST_SHARE = 0.005
"""What reaches beyond the page by less, in shares of its larger side, is a line's own thickness or rounding."""


@stage(most=64)
def beyond_page(artwork: Artwork) -> tuple[int, int]:
    """Return how many shapes the edge of the page cuts off, and how many lie beside it altogether.

    Strokes count by their middle line.
    """
    if artwork.view is None:
        return 0, 0
    low, high = np.array(artwork.view[:2]), np.array(artwork.view[2:])
    slack = LEAST_SHARE * float((high - low).max())
    cut = beside = 0
    for shape in artwork.shapes:
        drawn = [subpath.moved(shape.matrix) for subpath in shape.subpaths if len(subpath.cubics)]
        if not drawn:
            continue
        held = np.concatenate([subpath.cubics.reshape(-1, 2) for subpath in drawn])
        least, most = held.min(axis=0), held.max(axis=0)
        if (least < low - slack).any() or (most > high + slack).any():
            tolerance = max(slack / 10, float((most - least).max()) / 1000)
            points = np.concatenate(flatten_all(drawn, tolerance))
            least, most = points.min(axis=0), points.max(axis=0)
        if (most <= low).any() or (least >= high).any():
            beside += 1
        elif (least < low - slack).any() or (most > high + slack).any():
            cut += 1
    return cut, beside


def whole(artwork: Artwork) -> Artwork:
    """Return a drawing with all that lies beside its page."""
    return replace(artwork, view=None)
