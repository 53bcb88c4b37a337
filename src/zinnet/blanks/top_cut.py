"""The cut of a garment for the upper body: its corners and seams, from its measures."""

import math
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from shapely.geometry import Polygon
from shapely.geometry.base import BaseGeometry

from zinnet.blanks.model import Point
from zinnet.blanks.outline import (
    curve,
    path,
)
from zinnet.geometry.region import as_region


@dataclass(frozen=True)
class Cut:
    """The corners of a top, on its right half (x > 0); y = 0 is the highest shoulder point."""

    measures: dict[str, float]
    shape: dict[str, Any]

    @property
    def chest(self) -> float:
        """Armpit to armpit, laid flat."""
        return self.measures["chest"]

    @property
    def length(self) -> float:
        """From the highest shoulder point to the hem."""
        return self.measures["length"]

    @property
    def neck(self) -> float:
        """Half the neck's width."""
        return self.measures["neck_width"] / 2

    @property
    def shoulder(self) -> Point:
        """Where the shoulder seam meets the armhole."""
        return (
            max(self.chest * self.shape["shoulder_share"], self.neck + 12),
            self.chest * self.shape["shoulder_drop_share"],
        )

    @property
    def armpit(self) -> Point:
        """Where the armhole meets the side seam."""
        return self.chest / 2, self.shoulder[1] + self.chest * (self.shape["armhole_share"] - 0.06)

    @property
    def rib(self) -> float:
        """The height of the knitted band at hem and cuffs."""
        return float(self.chest * self.shape.get("rib_share", 0.0))

    @cached_property
    def armhole(self) -> list[Point]:
        """The armhole seam, from the shoulder to the armpit."""
        (sx, sy), (ax, ay) = self.shoulder, self.armpit
        if "sleeve" not in self.measures:
            return curve((sx, sy), (sx * 0.86, sy + (ay - sy) * 0.55), (sx * 0.95, ay), (ax, ay))
        return curve((sx, sy), (sx * 0.94, sy + (ay - sy) * 0.5), (sx * 0.96, ay - (ay - sy) * 0.12), (ax, ay))

    @cached_property
    def side(self) -> list[Point]:
        """The side seam, from the armpit down to the hem."""
        (ax, ay), bottom = self.armpit, self.length - 8
        if self.shape.get("legs"):
            return path(
                [(ax, ay)], curve((ax, self.length * 0.72), (ax, self.length * 0.9), (62, bottom), (48, bottom))
            )
        waist = self.measures.get("waist")
        if waist is not None:
            down = bottom - ay
            return path(
                curve((ax, ay), (ax, ay + down * 0.2), (waist / 2, ay + down * 0.22), (waist / 2, ay + down * 0.5)),
                curve((waist / 2, ay + down * 0.5), (waist / 2, ay + down * 0.75), (ax, bottom - 40), (ax - 2, bottom)),
            )
        if self.rib:
            top = self.length - self.rib
            return [(ax, ay), (ax, top), (ax * 0.945, top + self.rib * 0.16), (ax * 0.93, bottom)]
        return [(ax, ay), (ax - 3, bottom)]

    @cached_property
    def hem(self) -> list[Point]:
        """The hem, from the side seam to the centre line."""
        end = self.side[-1]
        return curve(end, (end[0] * 0.6, self.length), (end[0] * 0.2, self.length), (0, self.length))

    @cached_property
    def cuff(self) -> tuple[Point, Point]:
        """The upper and the lower end of the sleeve's hem."""
        fall = math.radians(self.shape["sleeve_fall_deg"])
        sleeve, opening = self.measures["sleeve"], self.opening * 0.82
        top = (self.shoulder[0] + sleeve * math.cos(fall), self.shoulder[1] + sleeve * math.sin(fall))
        bottom = (top[0] - opening * math.sin(fall), top[1] + opening * math.cos(fall))
        return top, (max(bottom[0], self.armpit[0] + 5), bottom[1])

    @property
    def opening(self) -> float:
        """The sleeve's hem, laid flat."""
        return float(self.chest * self.shape["sleeve_opening_share"])

    def neckline(self, drop: float) -> list[Point]:
        """Return the collar's lower edge, from the shoulder to the centre line."""
        n = self.neck
        return curve((n, 0), (n * 0.92, drop * 0.75), (n * 0.45, drop), (0, drop))


def largest(region: BaseGeometry) -> Polygon:
    """Return the largest part of a region."""
    return max(as_region(region).geoms, key=lambda part: part.area)
