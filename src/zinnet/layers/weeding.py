"""Weeding: what must come out of a layer, in which order, what small parts must stay, and how long it takes."""

from dataclasses import dataclass
from typing import Literal

import shapely
from shapely.geometry import LineString, MultiLineString, Polygon

from zinnet.base.stages import stage
from zinnet.data.limits import limits
from zinnet.films.catalogue import Film
from zinnet.geometry.inside import points_inside
from zinnet.geometry.region import Region, as_region, union, without
from zinnet.geometry.thickness import offset, without_holes
from zinnet.layers.split import ColourLayer

Box = tuple[float, float, float, float]
IslandKind = Literal["open", "counter"]
NEXT_TO_MM = 0.05
STEPS_MM = 5.0


@dataclass(frozen=True, eq=False)
class Island:
    """One piece of waste: open, outside all parts, or a counter within one.

    ``lift`` leads from a point in it to the nearest open edge: the direction in which it is lifted. ``near_small``
    says that it touches a small part which must stay.
    """

    number: int
    kind: IslandKind
    region: Polygon
    at: tuple[float, float]
    lift: tuple[float, float]
    near_small: bool


@dataclass(frozen=True, eq=False)
class WeedMap:
    """What is weeded out of one layer within its frame (left, top, right, bottom), in artwork mm."""

    frame: Box
    islands: tuple[Island, ...]
    small_parts: tuple[Polygon, ...]
    lines: tuple[LineString, ...]
    outline_mm: float
    seconds: float

    @property
    def counters(self) -> int:
        """How many closed waste islands must come out."""
        return sum(island.kind == "counter" for island in self.islands)

    @property
    def basis(self) -> str:
        """What the time is based on."""
        rate = limits()["weeding"]
        return (
            f"{self.outline_mm / 1000:.1f} m of outline at {rate['seconds_per_metre']:g} s, {len(self.islands)} areas "
            f"at {rate['seconds_per_island']:g} s, {len(self.small_parts)} small parts at "
            f"{rate['seconds_per_small_part']:g} s ({rate['source']})"
        )


@stage(most=64)
def weed_map(layer: ColourLayer, frame: Box) -> WeedMap:
    """Return the weed map of a layer.

    First comes the open waste, what lies at the frame and is largest first; then the counters, those nearest the open
    first; of both, what touches small parts that must stay comes last.

    Parameters
    ----------
    layer : ColourLayer, mm
        As worn.
    frame : (left, top, right, bottom), mm
        The weed frame.

    Returns
    -------
    WeedMap, mm
        The pieces of waste in the order of weeding, with how long each takes.
    """
    numbers = limits()["weeding"]
    region = layer.region
    small = [part for part in region.geoms if part.area < numbers["small_part_mm2"]]
    lines = weed_lines(region, frame)
    waste = _waste(region, frame, lines)
    edge = shapely.box(*frame).exterior
    filled = without_holes(region)
    shapely.prepare(filled)
    in_part = shapely.intersects(filled, points_inside(waste)) if waste else []
    opened = [part for part, inside in zip(waste, in_part, strict=True) if not inside]
    closed = [part for part, inside in zip(waste, in_part, strict=True) if inside]
    tree = shapely.STRtree(small)
    touching = {id(part) for part in waste if len(tree.query(part, predicate="dwithin", distance=NEXT_TO_MM))}
    opened.sort(key=lambda part: (id(part) in touching, not shapely.dwithin(part, edge, NEXT_TO_MM), -part.area))
    border = shapely.boundary(union(opened)) if opened else edge
    far = {id(part): round(shapely.distance(part, border) / STEPS_MM) for part in closed}
    closed.sort(key=lambda part: (id(part) in touching, far[id(part)], -part.area))
    islands = [_island(k, "open", part, edge, id(part) in touching) for k, part in enumerate(opened, start=1)]
    begun = len(islands) + 1
    islands += [_island(k, "counter", part, border, id(part) in touching) for k, part in enumerate(closed, start=begun)]
    return WeedMap(
        frame=frame,
        islands=tuple(islands),
        small_parts=tuple(small),
        lines=lines,
        outline_mm=float(region.length),
        seconds=region.length / 1000 * numbers["seconds_per_metre"]
        + len(islands) * numbers["seconds_per_island"]
        + len(small) * numbers["seconds_per_small_part"],
    )


def _island(number: int, kind: IslandKind, region: Polygon, edge: shapely.Geometry, near_small: bool) -> Island:
    point = shapely.maximum_inscribed_circle(region, tolerance=max(1e-3, region.length / 500)).coords[0]
    to = shapely.shortest_line(shapely.Point(point), edge).coords[1]
    return Island(number, kind, region, (point[0], point[1]), (to[0], to[1]), near_small)


def _waste(region: Region, frame: Box, lines: tuple[LineString, ...]) -> list[Polygon]:
    """Return the areas of waste; a weed line parts an area where only a neck at the artwork holds it together."""
    waste = without(as_region(shapely.box(*frame)), region)
    if not lines:
        return list(waste.geoms)
    clear = limits()["weeding"]["line_clear_mm"]
    cuts = [_longer(line, clear * 1.5) for line in lines]
    parted = shapely.polygonize([shapely.union_all([shapely.boundary(waste), *cuts])])
    faces = list(parted.geoms)
    return [face for face, at in zip(faces, points_inside(faces), strict=True) if shapely.intersects(waste, at)]


def _longer(line: LineString, by: float) -> LineString:
    (x1, y1), (x2, y2) = line.coords
    dx, dy = (x2 - x1) / line.length * by, (y2 - y1) / line.length * by
    return LineString([(x1 - dx, y1 - dy), (x2 + dx, y2 + dy)])


def weed_lines(region: Region, frame: Box) -> tuple[LineString, ...]:
    """Return straight cuts through the open waste, upright and level, where it is large; they stay off the artwork.

    Parameters
    ----------
    region : Region, mm
        What must stay whole.
    frame : (left, top, right, bottom), mm
        The weed frame.

    Returns
    -------
    lines, mm
        None crosses the region.
    """
    numbers = limits()["weeding"]
    left, top, right, bottom = frame
    blocked = offset(without_holes(region), numbers["line_clear_mm"])
    found: list[LineString] = []
    for low, high, across, along in ((left, right, top, bottom), (top, bottom, left, right)):
        parts = int((high - low) // numbers["line_every_mm"])
        for k in range(1, parts + 1):
            at = low + (high - low) * k / (parts + 1)
            ends = ((at, across), (at, along)) if low == left and high == right else ((across, at), (along, at))
            free = shapely.difference(LineString(ends), blocked)
            lines = free.geoms if isinstance(free, MultiLineString) else [free]
            found += [line for line in lines if not line.is_empty and line.length >= numbers["least_line_mm"]]
    return tuple(found)


def weed_summary(weed: WeedMap) -> str:
    """Return in words what comes out, what stays, and how long it takes."""
    outside = len(weed.islands) - weed.counters
    counters = "1 counter" if weed.counters == 1 else f"{weed.counters} counters"
    areas = "1 open area" if outside == 1 else f"{outside} open areas"
    small = len(weed.small_parts)
    stays = "1 small part stays" if small == 1 else f"{small or 'no'} small parts stay"
    return f"{areas} and {counters} come out, {stays}; about {_minutes(weed.seconds)}"


def _minutes(seconds: float) -> str:
    return f"{round(seconds / 10) * 10} s" if seconds < 90 else f"{seconds / 60:.0f} min"


def hard_to_see(film: Film) -> str | None:
    """Return whether cuts in a film are hard to see because it is pale or dark, in a word; None where they are not."""
    channels = [int(film.colour[at : at + 2], 16) / 255 for at in (1, 3, 5)]
    lightness = (max(channels) + min(channels)) / 2
    numbers = limits()["weeding"]
    if lightness >= numbers["pale_lightness"]:
        return "Pale"
    return "Dark" if lightness <= numbers["dark_lightness"] else None
