"""A quick nest: each piece slides in from the right as far as it goes, between what lies there already.

Film is looked at in rows across it, and each piece by where it begins and ends in every row, so that pieces with room
between their parts reach into one another. What comes of it is judged on the true shapes like any other nest; it also
tells at once, and well enough, how much film some pieces take.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np
import shapely
from numpy.typing import NDArray

from zinnet.base.stages import stage
from zinnet.geometry.region import Region

ROW_MM = 3.0
"""How high a row of film is that is looked at as one."""
QUARTERS = ((1, 0), (0, 1), (-1, 0), (0, -1))
Floats = NDArray[np.float64]


@dataclass(frozen=True, eq=False)
class Profile:
    """A piece as it lies at one turn (deg): in each row where it begins and ends along the film (mm), else infinite.

    ``corner`` is its left upper corner about its own origin, turned.
    """

    turn_deg: float
    left: Floats
    right: Floats
    corner: tuple[float, float]

    @property
    def rows(self) -> int:
        """How many rows it takes across the film."""
        return len(self.left)

    @property
    def width_mm(self) -> float:
        """How long it is along the film."""
        return float(self.right.max())


@dataclass(frozen=True, eq=False)
class SlidPiece:
    """A kind of piece with its profiles at the turns that it may have, and the area of its box."""

    profiles: tuple[Profile, ...]
    area_mm2: float


@dataclass(frozen=True)
class Slid:
    """Where a piece lies on a load: which it is of those given, its profile, and its left upper corner there, in mm."""

    piece: int
    profile: Profile
    x_mm: float
    y_mm: float


@dataclass(eq=False)
class Load:
    """A length of film as it fills: where what lies there ends in each row, in mm from the edge of the room."""

    length_mm: float
    ends: Floats
    slid: list[Slid] = field(default_factory=list)

    @classmethod
    def of(cls, length_mm: float, across_mm: float, gap_mm: float) -> "Load":
        """Return an empty load with so much room along and across."""
        return cls(length_mm, np.full(max(0, int(across_mm / ROW_MM + 1e-9)), -float(gap_mm)))

    @property
    def reach_mm(self) -> float:
        """How far along it pieces lie."""
        return max((one.x_mm + one.profile.width_mm for one in self.slid), default=0.0)

    def lay(self, number: int, profiles: Sequence[Profile], gap_mm: float) -> bool:
        """Lay a piece where it reaches least far along, if it finds room."""
        best: tuple[float, int, Profile, float] | None = None
        for profile in profiles:
            if profile.rows > len(self.ends) or profile.width_mm > self.length_mm + 1e-9:
                continue
            windows = np.lib.stride_tricks.sliding_window_view(self.ends, profile.rows)
            begins = np.maximum(0.0, (windows + gap_mm - profile.left).max(axis=1))
            place = int(begins.argmin())
            far = float(begins[place]) + profile.width_mm
            if best is None or far < best[0] - 1e-9:
                best = (far, place, profile, float(begins[place]))
        if best is None or best[0] > self.length_mm + 1e-9:
            return False
        _, place, profile, begin = best
        self.slid.append(Slid(number, profile, begin, place * ROW_MM))
        own, apart = begin + profile.right, math.ceil(gap_mm / ROW_MM - 1e-9)
        for shift in range(-apart, apart + 1):
            first, last = max(0, place + shift), min(len(self.ends), place + shift + profile.rows)
            if first < last:
                part = own[first - place - shift : last - place - shift]
                np.maximum(self.ends[first:last], part, out=self.ends[first:last])
        return True


@stage(most=4096)
def profiles_of(region: Region, turns: tuple[float, ...]) -> tuple[Profile, ...]:
    """Return the profiles of a region at quarter turns (deg)."""
    rings = shapely.segmentize(shapely.get_exterior_ring(np.array(region.geoms, dtype=object)), ROW_MM / 2)
    points, ring = shapely.get_coordinates(rings, return_index=True)
    return tuple(_profile(points, ring[1:] == ring[:-1], angle) for angle in turns)


def _profile(points: Floats, follows: NDArray[np.bool_], angle: float) -> Profile:
    """Return a profile by points so near one another that each edge between two lies in one row, or in two."""
    cosine, sine = QUARTERS[round(angle / 90) % 4]
    x, y = points[:, 0] * cosine - points[:, 1] * sine, points[:, 0] * sine + points[:, 1] * cosine
    corner = float(x.min()), float(y.min())
    x, y = x - corner[0], y - corner[1]
    row = np.floor(y / ROW_MM + 1e-9).astype(np.int64)
    count = int(row.max()) + 1
    left, right = np.full(count, np.inf), np.full(count, -np.inf)
    crossing = np.flatnonzero(follows & (row[1:] != row[:-1]))
    edge = np.maximum(row[crossing], row[crossing + 1]) * ROW_MM
    share = (edge - y[crossing]) / (y[crossing + 1] - y[crossing])
    met = x[crossing] + share * (x[crossing + 1] - x[crossing])
    rows = np.concatenate([row, row[crossing], row[crossing + 1]])
    ends = np.concatenate([x, met, met])
    np.minimum.at(left, rows, ends)
    np.maximum.at(right, rows, ends)
    return Profile(angle, left, right, corner)


def slide_in(load: Load, order: Sequence[int], pieces: Sequence[SlidPiece], gap_mm: float) -> list[int]:
    """Lay pieces on a load in an order; return those that found no room. What finds none once finds none later."""
    left_over: list[int] = []
    too_large: set[int] = set()
    for number in order:
        piece = pieces[number]
        if id(piece) in too_large or not load.lay(number, piece.profiles, gap_mm):
            too_large.add(id(piece))
            left_over.append(number)
    return left_over
