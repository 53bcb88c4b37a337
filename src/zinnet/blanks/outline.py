"""Drawing outlines of blanks: curves, mirror images and polygons in mm, y down; x = 0 is the centre line."""

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from typing import Literal

import numpy as np
import shapely
from shapely.geometry import LineString, Polygon
from shapely.geometry.base import BaseGeometry

from zinnet.blanks.model import Arc, Cloth, KeepOut, Point, Tape
from zinnet.data.limits import limits
from zinnet.geometry.curves import Subpath, flatten
from zinnet.geometry.region import Region, as_region, without

FLATNESS_MM = 0.1


@dataclass
class Sketch:
    """One panel while it is being drawn. ``seams`` are named: the catalogue says how much room each asks for."""

    id: str
    name: str
    region: Polygon
    cloth: list[Cloth]
    references: dict[str, Point]
    seams: dict[str, list[LineString]] = field(default_factory=dict)
    stitches: list[LineString] = field(default_factory=list)
    lines: list[LineString] = field(default_factory=list)
    keep_outs: list[KeepOut] = field(default_factory=list)
    marks: tuple[Point, Point] | None = None
    mark_name: str = "upper corner"
    tapes: list[Tape] = field(default_factory=list)
    seen: Literal["front", "through-glass"] = "front"
    arc: Arc | None = None
    visible_mm: float | None = None
    is_round: bool = False
    touched: Region | None = None
    round_mm: float | None = None
    ends: tuple[str, str] = ("", "")


def curve(*points: Point) -> list[Point]:
    """Return a cubic Bézier by its four points, as a polyline within 0.1 mm."""
    cubic = Subpath(np.array([points], dtype=np.float64), closed=False)
    return [(float(x), float(y)) for x, y in flatten(cubic, FLATNESS_MM)]


def path(*runs: Sequence[Point]) -> list[Point]:
    """Return runs of points as one, without repeating where they meet."""
    found: list[Point] = []
    for run in runs:
        found += [point for point in run if not found or math.dist(point, found[-1]) > 1e-9]
    return found


def flipped(points: Sequence[Point]) -> list[Point]:
    """Return the mirror image across the centre line."""
    return [(-x, y) for x, y in points]


def both_sides(right_half: Sequence[Point]) -> list[Point]:
    """Return a line that ends on the centre line, continued to its mirror image."""
    return [*right_half, *flipped(right_half[:-1])[::-1]]


def mirrored_polygon(right_half: Sequence[Point]) -> Polygon:
    """Return the polygon that a line from centre line to centre line makes with its mirror image."""
    return polygon([*right_half, *flipped(right_half)[::-1]])


def polygon(points: Sequence[Point]) -> Polygon:
    """Return a valid polygon; where lines cross, its largest part."""
    found = Polygon(points)
    if found.is_valid:
        return found
    parts = [part for part in shapely.get_parts(shapely.make_valid(found)) if isinstance(part, Polygon)]
    return max(parts, key=lambda part: part.area)


def box(width: float, top: float, bottom: float, centre: float = 0.0) -> Polygon:
    """Return a rectangle around a vertical line."""
    return shapely.box(centre - width / 2, top, centre + width / 2, bottom)


def rounded(shape: Polygon, radius: float) -> Polygon:
    """Return the shape with its outer corners rounded."""
    return shapely.buffer(shapely.buffer(shape, -radius, join_style="mitre"), radius, quad_segs=12)


def disc(x: float, y: float, radius: float) -> Polygon:
    """Return a disc within 0.05 mm."""
    steps = max(8, math.ceil(math.pi / 4 / math.acos(max(0.0, 1 - 0.05 / radius))))
    return shapely.Point(x, y).buffer(radius, quad_segs=steps)


def line(*points: Point) -> LineString:
    """Return a polyline."""
    return LineString(points)


def cloth(role: str, shape: BaseGeometry) -> Cloth:
    """Return a part that is drawn."""
    return Cloth(role, as_region(shape))


def cut(shape: BaseGeometry, *off: BaseGeometry) -> Region:
    """Return a shape without others."""
    region = as_region(shape)
    for one in off:
        region = without(region, one)
    return region


def ribs(shape: Polygon, step: float) -> list[LineString]:
    """Return upright lines across a shape, as knitted ribs are drawn."""
    left, top, right, bottom = shape.bounds
    upright = [line((x, top), (x, bottom)) for x in np.arange(left + step, right, step)]
    return [part for one in upright for part in lines_of(shapely.intersection(one, shape))]


def lines_of(geometry: BaseGeometry) -> list[LineString]:
    """Return the lines of a geometry."""
    return [part for part in shapely.get_parts(geometry) if isinstance(part, LineString)]


def edges_of(shape: BaseGeometry) -> list[LineString]:
    """Return the rings of a shape as lines."""
    return [LineString(ring.coords) for part in as_region(shape).geoms for ring in (part.exterior, *part.interiors)]


def room_around(seams: Iterable[LineString], room: float) -> list[BaseGeometry]:
    """Return what lies within ``room`` of the seams."""
    return [shapely.buffer(seam, room) for seam in seams] if room > 0 else []


def seen_of_round() -> float:
    """Return which share of the way round a round thing is seen at once."""
    return float(limits()["seen"]["round_share"])
