"""Plain shapes that a word can cross, each one unit wide, drawn by formula."""

from collections.abc import Callable
from functools import cache

import numpy as np
import shapely

from zinnet.base.errors import ArtworkError
from zinnet.geometry.region import Region, as_region, common, without
from zinnet.geometry.transform import moved, scale, shift

STEPS = 360


def _disc() -> Region:
    return as_region(shapely.Point(0, 0).buffer(0.5, quad_segs=STEPS // 4))


def _square() -> Region:
    return as_region(shapely.box(0, 0, 1, 1))


def _heart() -> Region:
    """The curve x = 16 sin³ t, y = 13 cos t - 5 cos 2t - 2 cos 3t - cos 4t (Weisstein, *MathWorld*; from memory)."""
    t = np.linspace(0, 2 * np.pi, STEPS)
    y = 13 * np.cos(t) - 5 * np.cos(2 * t) - 2 * np.cos(3 * t) - np.cos(4 * t)
    return as_region(shapely.Polygon(np.stack([16 * np.sin(t) ** 3, -y], axis=1)).buffer(0))


def _star() -> Region:
    angles = np.pi * np.arange(10) / 5 - np.pi / 2
    radii = np.where(np.arange(10) % 2 == 0, 1.0, 0.52)
    return as_region(shapely.Polygon(np.stack([radii * np.cos(angles), radii * np.sin(angles)], axis=1)))


def _shield() -> Region:
    t = np.linspace(0, 1, STEPS // 4)[:, None]
    side = (
        (1 - t) ** 3 * [1, 0.5]
        + 3 * t * (1 - t) ** 2 * [1, 0.95]
        + 3 * t**2 * (1 - t) * [0.6, 1.1]
        + t**3 * [0.5, 1.25]
    )
    mirrored = side[::-1] * [-1, 1] + [1, 0]
    return as_region(shapely.Polygon(np.concatenate([[(0, 0), (1, 0)], side, mirrored])))


def _moon() -> Region:
    return without(_disc(), shapely.Point(0.3, -0.12).buffer(0.42, quad_segs=STEPS // 4))


def _drop() -> Region:
    t = np.linspace(0, 2 * np.pi, STEPS)
    return as_region(shapely.Polygon(np.stack([np.sin(t) * np.sin(t / 2) ** 1.5, -np.cos(t)], axis=1)).buffer(0))


def _lantern() -> Region:
    body = common(as_region(shapely.Point(0, 0).buffer(1.0, quad_segs=STEPS // 4)), shapely.box(-0.7, -1, 0.7, 1))
    return as_region(
        shapely.union_all([body, shapely.box(-0.4, -0.95, 0.4, -0.6), shapely.box(-0.45, 0.6, 0.45, 0.92)])
    )


SILHOUETTES: dict[str, Callable[[], Region]] = {
    "disc": _disc,
    "square": _square,
    "heart": _heart,
    "star": _star,
    "shield": _shield,
    "moon": _moon,
    "drop": _drop,
    "lantern": _lantern,
}


@cache
def silhouette(name: str) -> Region:
    """Return a plain shape, one unit wide, its upper left corner at the origin."""
    if name not in SILHOUETTES:
        raise ArtworkError(f"There is no shape “{name}”; known are: {', '.join(SILHOUETTES)}.")
    return one_wide(SILHOUETTES[name]())


def one_wide(region: Region) -> Region:
    """Return a region moved to the origin and scaled to be one unit wide."""
    left, top, right, _ = region.bounds
    return moved(region, scale(1 / (right - left)) @ shift(-left, -top))
