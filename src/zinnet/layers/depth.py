"""How many films lie on one another, how thick they are, and what to cut away where they are too many."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray

from zinnet.base.stages import stage
from zinnet.geometry.arrangement import depths
from zinnet.geometry.region import Region, union

TIE = 1e-6
"""What each layer that is cut away counts more, in mm: of equal choices the one with fewer layers is taken."""


@dataclass(frozen=True, eq=False)
class Spot:
    """Where the same films lie on one another: the layers by index from the lowest, and how thick they are."""

    layers: tuple[int, ...]
    region: Region
    thickness_um: float


@stage(most=64)
def depth_map(regions: tuple[Region, ...], thickness_um: tuple[float, ...]) -> tuple[Spot, ...]:
    """Return the films at every point, as regions that do not overlap.

    Parameters
    ----------
    regions : n regions, mm
        As worn, lowest first.
    thickness_um : n numbers, micrometres
        Of each film.

    Returns
    -------
    spots
        They do not overlap; each names its films, lowest first, and their sum.
    """
    return tuple(
        Spot(layers, region, sum(thickness_um[index] for index in layers)) for layers, region in depths(regions)
    )


def films_at(spots: Sequence[Spot], x: float, y: float) -> Spot | None:
    """Return the films at a point in artwork mm, None where there is none."""
    point = shapely.Point(x, y)
    return next((spot for spot in spots if shapely.intersects(spot.region, point)), None)


def deeper_than(spots: Sequence[Spot], most: int) -> Region:
    """Return where more than ``most`` films lie on one another."""
    return union(spot.region for spot in spots if len(spot.layers) > most)


def cut_away_advice(
    piles: Sequence[tuple[int, ...]], extra_mm: Sequence[float], most: int, fixed: Sequence[int] = ()
) -> tuple[int, ...] | None:
    """Return the layers to cut away where others lie on them, so that at most ``most`` films lie anywhere.

    ``piles`` are the layers that lie on one another somewhere, each from the lowest to the one that is seen, which
    stays. ``extra_mm`` is what each adds to the outlines when it is cut away; their sum is the least of all choices.
    ``fixed`` layers are not cut away. None where no choice is enough.

    Parameters
    ----------
    piles : tuples of layer numbers
        Lowest first.
    extra_mm : a length each, mm
        What cutting a layer away adds to its outline.
    most : int
        How many films may lie anywhere.
    fixed : layer numbers
        Those that are not cut away.

    Returns
    -------
    layer numbers, or None
        None where no choice is enough.
    """
    from scipy.optimize import Bounds, LinearConstraint, milp

    count = len(extra_mm)
    deep = [pile for pile in piles if len(pile) > most]
    if not deep:
        return ()
    matrix: NDArray[np.float64] = np.zeros((len(deep), count))
    for row, pile in zip(matrix, deep, strict=True):
        row[list(pile[:-1])] = 1
    needed = np.array([len(pile) - most for pile in deep])
    may_go = np.ones(count)
    may_go[list(fixed)] = 0
    found = milp(
        np.asarray(extra_mm) + TIE,
        integrality=np.ones(count),
        bounds=Bounds(0, may_go),
        constraints=LinearConstraint(matrix, lb=needed),
    )
    if found.x is None:
        return None
    return tuple(np.flatnonzero(found.x > 0.5).tolist())
