"""Film as dots of one size, for judging where a platen lies on it: how much is pressed twice, and how often at most."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray

from zinnet.geometry.region import Region, hull_box

MOST_DOTS = 10_000
MOST_FINE = 40_000
"""As many where some film bears the platen at so many positions only."""
LEAST_MM = 1.0

Points = NDArray[np.float64]
Flags = NDArray[np.bool_]


@dataclass(frozen=True, eq=False)
class Dots:
    """Dots (n, 2) in mm, each of which stands for ``area`` mm2 of film.

    ``done`` was pressed before. The platen may lie on each at ``most`` positions; on what is no film of this press
    at any number.
    """

    at: Points
    area: float
    film: Flags
    done: Flags
    most: Points

    def under(self, middle: tuple[float, float], size: tuple[float, float]) -> Flags:
        """Tell (n,) which dots a platen of a size covers."""
        return np.asarray((np.abs(self.at - middle) <= np.array(size) / 2).all(axis=1))

    def only(self, chosen: Flags) -> "Dots":
        """Return some of the dots."""
        return Dots(self.at[chosen], self.area, self.film[chosen], self.done[chosen], self.most[chosen])


def dots_of(films: Sequence[Region], most: Sequence[float], done: Region) -> Dots:
    """Return film as dots.

    Parameters
    ----------
    films : regions, mm
        What is pressed, piece by piece.
    most : sequence of numbers
        At how many positions the platen may lie on each of them.
    done : Region, mm
        What was pressed before.

    Returns
    -------
    Dots, mm
        On a grid that is finer where there is less; every film has one dot at least.
    """
    left, top, right, bottom = hull_box([*films, done] if not done.is_empty else films)
    count = MOST_DOTS if np.isinf(most).all() else MOST_FINE
    step = max(LEAST_MM, math.sqrt(max(0.0, right - left) * max(0.0, bottom - top) / count))
    x, y = (np.arange(low + step / 2, high, step) for low, high in ((left, right), (top, bottom)))
    own = np.array([shapely.get_coordinates(shapely.point_on_surface(film))[0] for film in films])
    at = np.vstack([np.stack(np.meshgrid(x, y), axis=-1).reshape(-1, 2), own])
    is_film, limit = np.zeros(len(at), dtype=bool), np.full(len(at), np.inf)
    for film, times in zip(films, most, strict=True):
        inside = _inside(film, at)
        is_film |= inside
        limit[inside] = np.minimum(limit[inside], times)
    was_done = np.zeros(len(at), dtype=bool) if done.is_empty else _inside(done, at)
    kept = is_film | was_done
    return Dots(at[kept], step * step, is_film[kept], was_done[kept], limit[kept])


def _inside(region: Region, at: Points) -> Flags:
    left, top, right, bottom = region.bounds
    found = np.asarray(((at >= (left, top)) & (at <= (right, bottom))).all(axis=1))
    shapely.prepare(region)
    found[found] = shapely.intersects_xy(region, at[found])
    return found
