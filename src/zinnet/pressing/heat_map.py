"""Seconds of heat per point, added up over all presses of a panel."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from shapely.geometry import Polygon

from zinnet.geometry.arrangement import faces_of
from zinnet.geometry.region import Region, as_region, common

LEAST_MM2 = 0.01
"""What is smaller than this is rounding: edges of the platen that stand in one line."""


@dataclass(frozen=True, eq=False)
class HeatPress:
    """One press: the platen's outlines one after the other, and how long each is held, in s."""

    boxes: tuple[Polygon, ...]
    seconds: float


@dataclass(frozen=True, eq=False)
class HeatSpot:
    """A part of a panel that was heated for so long in all, in s."""

    region: Region
    seconds: float


def heat_map(presses: Sequence[HeatPress]) -> tuple[HeatSpot, ...]:
    """Return the parts of a panel by their seconds of heat, the coolest first.

    Parameters
    ----------
    presses
        Each with the boxes of its platen on the panel, in mm, and how many seconds it lies there.

    Examples
    --------
    Two presses of a platen whose positions lap over one another:

    >>> left, right = shapely.box(0, 0, 100, 100), shapely.box(80, 0, 180, 100)
    >>> [(spot.seconds, spot.region.area) for spot in heat_map([HeatPress((left,), 10), HeatPress((right,), 15)])]
    [(10.0, 8000.0), (15.0, 8000.0), (25.0, 2000.0)]
    """
    boxes = [as_region(box) for press in presses for box in press.boxes]
    seconds = np.array([press.seconds for press in presses for _ in press.boxes])
    if not boxes:
        return ()
    faces, covered = faces_of(boxes)
    totals = np.round(covered @ seconds, 6)
    return tuple(
        HeatSpot(as_region(shapely.union_all([faces[k] for k in np.flatnonzero(totals == total)])), float(total))
        for total in np.unique(totals)
        if total > 0
    )


def most_heat(spots: Sequence[HeatSpot], film: Region) -> float:
    """Return the most seconds of heat that any of the film gets."""
    return max((spot.seconds for spot in spots if common(spot.region, film).area > LEAST_MM2), default=0.0)


def heat_at(presses: Sequence[HeatPress], x: float, y: float) -> float:
    """Return the seconds of heat at one point.

    Parameters
    ----------
    presses : presses, mm and s
        Where the platen lay and for how long.
    x, y : float, mm
        On the panel.

    Returns
    -------
    float, s
        Of all presses that cover the point.
    """
    point = shapely.Point(x, y)
    return sum(press.seconds for press in presses for box in press.boxes if box.covers(point))
