"""The flat colours of a picture, found in Oklab, where distances go by what the eye sees.

Oklab: Ottosson 2020, "A perceptual color space for image processing"; checked against coloraide in the tests.
"""

import numpy as np
from numpy.typing import NDArray

Colours = NDArray[np.float64]

MOST_COLOURS = 16
SAMPLE = 60_000
ROUNDS = 12
SAME = 0.02
"""Two colours nearer than this in Oklab are taken for one when the picture's own colours are counted."""
LEAST_SHARE = 0.002
FLAT = 0.02
"""A pixel whose neighbours are all this near lies inside a flat area, not on an edge."""

_TO_LMS = np.array(
    [
        [0.4122214708, 0.5363325363, 0.0514459929],
        [0.2119034982, 0.6806995451, 0.1073969566],
        [0.0883024619, 0.2817188376, 0.6299787005],
    ]
)
_TO_LAB = np.array(
    [
        [0.2104542553, 0.7936177850, -0.0040720468],
        [1.9779984951, -2.4285922050, 0.4505937099],
        [0.0259040371, 0.7827717662, -0.8086757660],
    ]
)


def to_oklab(rgb: NDArray[np.uint8]) -> Colours:
    """Return sRGB bytes (..., 3) in Oklab (..., 3)."""
    levels = np.arange(256) / 255
    linear = np.where(levels <= 0.04045, levels / 12.92, ((levels + 0.055) / 1.055) ** 2.4)
    return np.asarray(np.cbrt(linear[rgb] @ _TO_LMS.T) @ _TO_LAB.T)


def to_hex(lab: Colours) -> str:
    """Return an Oklab colour (3,) as ``#rrggbb``."""
    linear = np.linalg.inv(_TO_LMS) @ (np.linalg.inv(_TO_LAB) @ lab) ** 3
    linear = np.clip(linear, 0, 1)
    encoded = np.where(linear <= 0.0031308, 12.92 * linear, 1.055 * linear ** (1 / 2.4) - 0.055)
    return "#{:02x}{:02x}{:02x}".format(*(round(255 * channel) for channel in encoded))


def flat_pixels(lab: Colours, wanted: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """Return which pixels (h, w) lie inside flat areas: all four neighbours have nearly their colour."""
    flat = wanted.copy()
    for axis in (0, 1):
        step = np.abs(np.diff(lab, axis=axis)).max(axis=2) < FLAT
        after = np.pad(step, [(0, 1) if k == axis else (0, 0) for k in (0, 1)], constant_values=True)
        before = np.pad(step, [(1, 0) if k == axis else (0, 0) for k in (0, 1)], constant_values=True)
        flat &= after & before
    return flat


def own_colours(lab: Colours, wanted: NDArray[np.bool_]) -> Colours:
    """Return the colours (n, 3) that a picture itself is made of, the most frequent first, at most 16."""
    pixels = _sample(lab, wanted)
    if len(pixels) == 0:
        return np.empty((0, 3))
    _, which, counts = np.unique(np.round(pixels / 0.02), axis=0, return_inverse=True, return_counts=True)
    means = np.stack([np.bincount(which.ravel(), pixels[:, k]) / counts for k in range(3)], axis=1)
    found: list[Colours] = []
    weights: list[int] = []
    for index in np.argsort(-counts, kind="stable"):
        distances = [float(np.linalg.norm(means[index] - other)) for other in found]
        if distances and min(distances) < SAME:
            weights[int(np.argmin(distances))] += int(counts[index])
        else:
            found.append(means[index])
            weights.append(int(counts[index]))
    order = [k for k in np.argsort(-np.array(weights), kind="stable") if weights[k] >= LEAST_SHARE * len(pixels)]
    return np.array([found[k] for k in order[:MOST_COLOURS]]).reshape(-1, 3)


def cluster(lab: Colours, wanted: NDArray[np.bool_], count: int) -> Colours:
    """Return ``count`` colours (n, 3) that stand for a picture's best: k-means from its own colours on.

    Fewer come back where the picture has fewer.
    """
    pixels = _sample(lab, wanted)
    if len(pixels) == 0:
        return np.empty((0, 3))
    centres = own_colours(lab, wanted)[:count]
    while len(centres) < count:
        far = _distances(pixels, centres).min(axis=1)
        if far.max() < FLAT**2:
            break
        centres = np.concatenate([centres, pixels[far.argmax()][None]])
    for _ in range(ROUNDS):
        nearest = _distances(pixels, centres).argmin(axis=1)
        sums = np.stack([np.bincount(nearest, pixels[:, k], len(centres)) for k in range(3)], axis=1)
        counts = np.bincount(nearest, minlength=len(centres))[:, None]
        moved = np.where(counts > 0, sums / np.maximum(counts, 1), centres)
        if np.abs(moved - centres).max() < 1e-4:
            break
        centres = moved
    return _as_seen(pixels, centres)


def _as_seen(pixels: Colours, centres: Colours) -> Colours:
    """Return each centre moved to the most frequent colour near it, so that a flat colour stays exactly itself."""
    nearest = _distances(pixels, centres).argmin(axis=1)
    seen = centres.copy()
    for k in range(len(centres)):
        own = pixels[nearest == k]
        if len(own) == 0:
            continue
        _, which, counts = np.unique(np.round(own / 0.01), axis=0, return_inverse=True, return_counts=True)
        if counts.max() > 0.3 * len(own):
            seen[k] = np.median(own[which.ravel() == counts.argmax()], axis=0)
    return seen


def nearest_colour(lab: Colours, centres: Colours) -> NDArray[np.intp]:
    """Return for each pixel (h, w, 3) the index of the nearest centre (h, w)."""
    shape = lab.shape[:2]
    return np.asarray(_distances(lab.reshape(-1, 3), centres).argmin(axis=1).reshape(shape))


def _distances(pixels: Colours, centres: Colours) -> Colours:
    """Return squared distances (n, k)."""
    return np.stack([((pixels - centre) ** 2).sum(axis=1) for centre in centres], axis=1)


def _sample(lab: Colours, wanted: NDArray[np.bool_]) -> Colours:
    """Return at most so many of the wanted pixels (n, 3), those of flat areas where there are enough."""
    flat = lab[flat_pixels(lab, wanted)]
    pixels = flat if len(flat) >= 0.2 * wanted.sum() else lab[wanted]
    step = max(1, len(pixels) // SAMPLE)
    return np.asarray(pixels[::step])
