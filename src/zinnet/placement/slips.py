"""Pieces that lie a little off: where one really lies by a ruler, and where the next is laid so that edges still meet.

A slip is small: it is told as a shift of the piece's middle and a turn about it. What meets a piece that slipped slips
with it; where it meets several that slipped otherwise, the difference is shared out, no edge more off than its lap.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry

from zinnet.base.errors import ZinnetError
from zinnet.data.limits import limits
from zinnet.geometry.region import Region
from zinnet.geometry.transform import Matrix, moved, shift, turn
from zinnet.placement.lay_lengths import Laying, Spot

DIRECTIONS = 24
ZONE_POINTS = 24
LEAST_LAP_MM = 0.2


@dataclass(frozen=True)
class Slip:
    """How far a piece lies from its place: its middle ``right_mm`` and ``down_mm`` off, turned clockwise about it."""

    right_mm: float = 0.0
    down_mm: float = 0.0
    turn_deg: float = 0.0

    def matrix(self, piece: Region) -> Matrix:
        """Return what brings the piece, where it was planned, to where it lies."""
        x, y = middle_of(piece)
        return shift(x + self.right_mm, y + self.down_mm) @ turn(self.turn_deg) @ shift(-x, -y)

    @property
    def is_none(self) -> bool:
        """Whether it lies in its place."""
        return not (self.right_mm or self.down_mm or self.turn_deg)


@dataclass(frozen=True, eq=False)
class Met:
    """A piece that lies there already and meets the next: where it was planned, how it slipped, how much they lap."""

    planned: Region
    slip: Slip
    lap_mm: float


@dataclass(frozen=True)
class Followed:
    """Where the next piece is laid. ``share`` is how much of a lap is used up at most; over 1, an edge shows."""

    slip: Slip
    share: float

    @property
    def holds(self) -> bool:
        """Whether all edges still meet."""
        return self.share <= 1.0 + 1e-6


def middle_of(piece: Region) -> Spot:
    """Return the middle of a piece's box."""
    left, top, right, bottom = piece.bounds
    return (left + right) / 2, (top + bottom) / 2


def located(laying: Laying, readings: Sequence[float], piece: Region) -> Slip:
    """Return how a piece slipped, by what a ruler reads for its four lengths (mm, signs as planned).

    Raises :class:`ZinnetError` where the readings can't all be true, or where it lies far off.
    """
    from scipy.optimize import least_squares

    middle = np.array(middle_of(piece))
    starts = [np.array(length.start) - middle for length in laying.lengths]

    def misfit(off: NDArray[np.float64]) -> list[float]:
        cosine, sine = math.cos(off[2]), math.sin(off[2])
        there = [np.array([cosine * x - sine * y, sine * x + cosine * y]) + middle + off[:2] for x, y in starts]
        return [
            rule((float(x), float(y))) - reading
            for rule, (x, y), reading in zip(laying.rules, there, readings, strict=True)
        ]

    found = least_squares(misfit, np.zeros(3), x_scale=[1.0, 1.0, 0.01], diff_step=1e-5)
    right, down, turned = found.x.tolist()
    numbers = limits()["as_laid"]
    if float(np.abs(found.fun).max()) > numbers["residual_mm"]:
        raise ZinnetError("These lengths can't all be true; read them again, from the film's own edge.")
    if math.hypot(right, down) > numbers["most_shift_mm"] or abs(math.degrees(turned)) > numbers["most_tilt_deg"]:
        raise ZinnetError("It lies far off its place; lift it and lay it again.")
    return Slip(right, down, math.degrees(turned))


def followed(piece: Region, met: Sequence[Met]) -> Followed:
    """Return where a piece is laid so that it meets what lies there, no lap used up more than it must be.

    Parameters
    ----------
    piece
        Where it was planned, in the panel's mm.
    met
        What it meets; pieces that it does not touch are left out.
    """
    moved_ones = [one for one in met if not one.slip.is_none]
    if not moved_ones:
        return Followed(Slip(), 0.0)
    middle = np.array(middle_of(piece))
    if len(met) == 1:
        return Followed(_carried(met[0], middle), 0.0)
    rows, limits = [], []
    for one in met:
        points = _zone(piece, one.planned)
        wanted = shapely.get_coordinates(moved(shapely.MultiPoint(points), one.slip.matrix(one.planned))) - points
        away = points - middle
        for angle in np.arange(DIRECTIONS) * (2 * math.pi / DIRECTIONS):
            normal = np.array([math.cos(angle), math.sin(angle)])
            across = away @ np.array([normal[1], -normal[0]])  # a turn moves a point at right angles to its arm
            rows.append(
                np.column_stack(
                    [
                        np.full(len(points), normal[0]),
                        np.full(len(points), normal[1]),
                        across,
                        np.full(len(points), -max(one.lap_mm, LEAST_LAP_MM)),
                    ]
                )
            )
            limits.append(wanted @ normal)
    from scipy.optimize import linprog

    found = linprog(
        [0.0, 0.0, 0.0, 1.0],
        A_ub=np.vstack(rows),
        b_ub=np.concatenate(limits),
        bounds=[(None, None)] * 3 + [(0, None)],
    )
    right, down, turned, share = found.x.tolist()
    return Followed(Slip(right, down, math.degrees(turned)), share)


def _carried(one: Met, middle: NDArray[np.float64]) -> Slip:
    """Return the slip of a piece that goes with another as if both were one."""
    there = shapely.get_coordinates(moved(shapely.Point(middle), one.slip.matrix(one.planned)))[0] - middle
    return Slip(float(there[0]), float(there[1]), one.slip.turn_deg)


def _zone(piece: Region, other: Region) -> NDArray[np.float64]:
    """Return points (n, 2) along the edge where two pieces meet, where they come nearest if they do not touch."""
    edge: BaseGeometry = piece.boundary
    near = shapely.intersection(edge, shapely.buffer(other, max(1.0, 1.05 * shapely.distance(piece, other))))
    if near.is_empty:
        near = edge
    corners = shapely.get_coordinates(shapely.segmentize(near, 5.0))
    hull = shapely.get_coordinates(shapely.convex_hull(shapely.MultiPoint(corners)))
    return np.asarray(hull if len(hull) <= ZONE_POINTS else hull[:: math.ceil(len(hull) / ZONE_POINTS)])
