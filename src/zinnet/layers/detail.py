"""Small detail of a layer that its film can't hold: thin strokes, narrow gaps, small parts and counters, measured."""

import math
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Literal

import shapely
from shapely.geometry import Polygon

from zinnet.base.stages import stage
from zinnet.data.limits import limits
from zinnet.films.catalogue import FilmKind, kind_of
from zinnet.geometry.gaps import narrowest_neck, tight_places
from zinnet.geometry.parallel import each
from zinnet.geometry.region import Region, common
from zinnet.geometry.thickness import longer_side, narrow_gaps, small, thin_parts
from zinnet.geometry.transform import moved, scale
from zinnet.layers.slivers import plain, thin_and_slivers
from zinnet.layers.split import ColourLayer
from zinnet.layers.stack import FilmLayer

DetailKind = Literal["stroke", "gap", "part", "counter"]
Look = Callable[[Region, float], Region]

STEP = 1.04
"""Limits are looked at in steps of 4 %, the next lower one, so that a change of size seldom asks for it anew."""
CLOSE_MM = 0.02
AROUND = 2.0
MOST_MEASURED = 400


@dataclass(frozen=True, eq=False)
class Detail:
    """One place that a film can't hold: what it is, how wide it was measured, and the least that holds, in mm."""

    kind: DetailKind
    region: Region
    measured_mm: float
    limit_mm: float

    @property
    def at(self) -> tuple[float, float]:
        """A point in it, in artwork mm."""
        point = shapely.point_on_surface(self.region)
        return point.x, point.y


def thin_strokes(row: FilmLayer, limit_mm: float) -> Region:
    """Return where a layer is drawn thinner than a limit, in artwork mm."""
    return _at_size(row, limit_mm, lambda layer, limit: thin_and_slivers(layer, limit)[0])


def slivers(row: FilmLayer, limit_mm: float) -> Region:
    """Return where a layer is thinner than a limit only since other layers were cut out of it, in artwork mm."""
    return _at_size(row, limit_mm, lambda layer, limit: thin_and_slivers(layer, limit)[1])


def look_closely(rows: Iterable[FilmLayer]) -> None:
    """Look for thin strokes, slivers and tight gaps of layers on all cores; what is found is kept until it is asked."""

    def look(row: FilmLayer) -> None:
        if row.film is not None:
            thin_strokes(row, kind_of(row.film).least_stroke_mm)
            tight_gaps(row)

    each(look, rows)


def tight_gaps(row: FilmLayer) -> Region:
    """Return the gaps and counters of a layer that its film closes or that can't be weeded, in artwork mm."""
    return Region() if row.film is None else gaps_for(row, kind_of(row.film))


def gaps_for(row: FilmLayer, kind: FilmKind, times: float = 1.0) -> Region:
    """Return the gaps of a layer that a kind of film closes, in artwork mm, were it so many times as large."""
    limit, run = kind.open_gap_mm / times, gap_run_mm(kind) / times
    return _at_size(row, limit, lambda layer, at_size: _gaps(layer, at_size, run * at_size / limit))


def gap_run_mm(kind: FilmKind) -> float:
    """Return over which length rounded sides must be near one another to be a gap for a kind of film."""
    if kind.growth_mm:
        return kind.thickness_um / 1000
    return float(limits()["gap"]["run_times"]) * kind.least_gap_mm


def _at_size(row: FilmLayer, limit_mm: float, look: Callable[[ColourLayer, float], Region]) -> Region:
    """Return what is found in a layer, where it can be at the larger size at which it was found before."""
    if row.larger is None:
        return look(row.layer, limit_mm)
    layer, factor = row.larger
    limit = STEP ** math.floor(math.log(limit_mm / factor, STEP) + 1e-9)
    return moved(look(layer, limit), scale(factor))


@stage(most=128)
def _gaps(layer: ColourLayer, limit_mm: float, run_mm: float) -> Region:
    return tight_places(plain(layer.region, limit_mm), limit_mm, run_mm)


def small_parts(row: FilmLayer, limit_mm: float) -> list[Polygon]:
    """Return the parts of a layer that are too small to stay on the carrier in weeding."""
    return small(list(row.layer.region.geoms), limit_mm)


def small_counters(row: FilmLayer, limit_mm: float) -> list[Polygon]:
    """Return the counters of a layer that are too small to be weeded out."""
    return small([Polygon(hole) for part in row.layer.region.geoms for hole in part.interiors], limit_mm)


@stage(most=64)
def details(row: FilmLayer) -> tuple[Detail, ...]:
    """Return every place of a layer that its film can't hold, each measured; none for a layer without film.

    Parameters
    ----------
    row : FilmLayer, mm
        A layer with what its film can hold.

    Returns
    -------
    details, mm
        Thin strokes, slivers, tight gaps, small parts and counters, each with its measure and its place.
    """
    if row.film is None:
        return ()
    kind, region = kind_of(row.film), row.layer.region
    parts, counters = small_parts(row, kind.least_part_mm), small_counters(row, kind.open_counter_mm)
    found = [
        Detail("part", Region([one]), side, kind.least_part_mm)
        for one, side in zip(parts, longer_side(parts), strict=True)
    ]
    found += [
        Detail("counter", Region([one]), side, kind.open_counter_mm)
        for one, side in zip(counters, longer_side(counters), strict=True)
    ]
    known = Region([*parts, *counters])
    looks: tuple[tuple[DetailKind, Look, float], ...] = (
        ("stroke", thin_parts, kind.least_stroke_mm),
        ("gap", narrow_gaps, kind.open_gap_mm),
    )
    for name, look, limit in looks:
        at_limit = tight_gaps(row) if name == "gap" else look(plain(region, limit), limit)
        places = [place for place in at_limit.geoms if not shapely.intersects(place, known)]
        for place in places[:MOST_MEASURED]:
            neck = narrowest_neck(region, place, limit) if name == "gap" else None
            width = narrowest(look, region, place, limit) if neck is None else neck
            if width < limit:
                found.append(Detail(name, Region([place]), width, limit))
    return tuple(sorted(found, key=lambda detail: detail.measured_mm / detail.limit_mm))


def narrowest(look: Look, region: Region, place: Polygon, limit: float) -> float:
    """Return how wide the narrowest spot of a place is: the least limit at which ``look`` still finds it.

    Parameters
    ----------
    look : function of a region and a limit
        Such as ``thin_strokes``.
    region : Region, mm
        In which the place was found.
    place : Polygon, mm
        What was found at the limit.
    limit : float, mm
        At which it was found.

    Returns
    -------
    float, mm
        Found by halving.
    """
    left, top, right, bottom = place.bounds
    room = AROUND * limit
    near = common(region, shapely.box(left - room, top - room, right + room, bottom + room))
    low, high = 0.0, limit
    while high - low > CLOSE_MM / 2:
        middle = (low + high) / 2
        if shapely.intersects(look(near, middle), place):
            high = middle
        else:
            low = middle
    return (low + high) / 2
