"""The dry fit: all film of one side laid out before heat, its parts and counters counted: is anything gone?"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property

import shapely

from zinnet.geometry.region import Region
from zinnet.pressing.pieces import PanelWork, PressPiece

ROW_MM = 15.0
"""Parts whose middles are no farther apart in height are read as one row."""


@dataclass(frozen=True)
class Spot:
    """A part of film, or a counter in one: its number, a point in it and its shorter side, in mm on the panel."""

    number: int
    at: tuple[float, float]
    side_mm: float
    is_counter: bool = False


@dataclass(frozen=True, eq=False)
class DryPiece:
    """One piece of film as it lies, with its parts and counters in the order in which one reads."""

    piece: PressPiece
    place: int
    region: Region
    parts: tuple[Spot, ...]
    counters: tuple[Spot, ...]

    @property
    def name(self) -> str:
        """What it is called, with its place where there are several."""
        count = len(self.piece.each)
        return f"{self.piece.name}, {self.place + 1} of {count}" if count > 1 else self.piece.name

    @property
    def counted(self) -> str:
        """How many parts and counters it has, in words."""
        return _counted(len(self.parts), len(self.counters))


@dataclass(frozen=True, eq=False)
class DryFit:
    """All pieces of one side of an object, the parts numbered through all of them, the counters by themselves."""

    pieces: tuple[DryPiece, ...]

    @cached_property
    def rows(self) -> tuple[tuple[PressPiece, str], ...]:
        """Each layer once, with how many parts and counters it has: in how many pieces, how often, and each time."""
        by_key: dict[str, list[DryPiece]] = {}
        for one in self.pieces:
            by_key.setdefault(one.piece.key, []).append(one)
        return tuple((same[0].piece, _row_said(same)) for same in by_key.values())

    @cached_property
    def spots(self) -> tuple[Spot, ...]:
        """All parts, then all counters."""
        parts = [spot for one in self.pieces for spot in one.parts]
        return (*parts, *(spot for one in self.pieces for spot in one.counters))


def _row_said(same: Sequence[DryPiece]) -> str:
    """Return how many parts and counters a layer has: at one place, in all its pieces together, and at how many."""
    pieces = same[0].piece.parts
    once, times = same[:pieces], len(same) // pieces
    counted = _counted(sum(len(one.parts) for one in once), sum(len(one.counters) for one in once))
    each = counted if pieces == 1 else f"{counted} in {pieces} pieces"
    return each if times == 1 else f"{times} times {each}"


def film_counted(works: Sequence[PanelWork]) -> str:
    """Return in words how many pieces, parts and counters lie on one side."""
    pieces = parts = counters = 0
    for piece, _, region in _pieces(works):
        polygons = [shapely.box(*region.bounds)] if piece.kind.bond == "print" else shapely.get_parts(region)
        pieces, parts = pieces + 1, parts + len(polygons)
        counters += int(shapely.get_num_interior_rings(polygons).sum())
    return f"{pieces} piece{'s' * (pieces != 1)} of film: {_counted(parts, counters)}"


def _counted(parts: int, counters: int) -> str:
    said = f"{parts} part{'s' * (parts != 1)}"
    return f"{said}, {counters} counter{'s' * (counters != 1)}" if counters else said


def dry_fit(works: Sequence[PanelWork]) -> DryFit:
    """Return the dry fit of one side.

    Parameters
    ----------
    works : panels with what lies on them
        All that is done on one side: film that is pressed, film that is stuck on.

    Returns
    -------
    DryFit
        Its pieces in the order of pressing. A print is one part, whatever is drawn on it.
    """
    found: list[DryPiece] = []
    part_number = counter_number = 1
    for piece, place, region in _pieces(works):
        polygons = _in_rows(list(shapely.get_parts(region)))
        holes = _in_rows([_free(ring, region) for one in polygons for ring in one.interiors])
        if piece.kind.bond == "print":
            polygons, holes = [shapely.box(*region.bounds)], []
        parts = tuple(_spot(part_number + k, one) for k, one in enumerate(polygons))
        counters = tuple(_spot(counter_number + k, one, is_counter=True) for k, one in enumerate(holes))
        part_number, counter_number = part_number + len(parts), counter_number + len(counters)
        found.append(DryPiece(piece, place, region, parts, counters))
    return DryFit(tuple(found))


def _pieces(works: Sequence[PanelWork]) -> Iterator[tuple[PressPiece, int, Region]]:
    for work in works:
        for piece in work.pieces:
            for place, region in enumerate(piece.each):
                yield piece, place, region


def _free(ring: shapely.LinearRing, region: Region) -> shapely.Polygon:
    """Return a counter without the film that lies in it: the largest of what is free."""
    free = shapely.get_parts(shapely.difference(shapely.Polygon(ring), region))
    return max(free, key=lambda one: one.area, default=shapely.Polygon(ring))


def _in_rows(polygons: list[shapely.Polygon]) -> list[shapely.Polygon]:
    """Return polygons as one reads: row by row, from left to right."""
    middles = {id(one): shapely.centroid(one) for one in polygons}
    return sorted(polygons, key=lambda one: (round(middles[id(one)].y / ROW_MM), middles[id(one)].x))


def _spot(number: int, polygon: shapely.Polygon, *, is_counter: bool = False) -> Spot:
    """Return a part or a counter with a point well inside it."""
    point = shapely.point_on_surface(polygon)
    left, top, right, bottom = polygon.bounds
    return Spot(number, (float(point.x), float(point.y)), min(right - left, bottom - top), is_counter)
