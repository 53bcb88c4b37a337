"""Cut apart to save film: into which pieces each layer is cut, and what every way to part it takes and costs.

All layers of one film are parted at gaps of one width; each width is a way. What a way takes of film is reckoned
roughly (:mod:`zinnet.nesting.rough`), the time by the pieces that are laid; the way that costs least is proposed where
it saves enough.
"""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
import shapely

from zinnet.artwork.model import Group
from zinnet.artwork.source import LETTERING
from zinnet.base.stages import stage
from zinnet.data.limits import limits
from zinnet.films.catalogue import Film, kind_of
from zinnet.geometry.region import Region
from zinnet.job.model import Job
from zinnet.layers.parting import Parts, gaps_of, groups_of
from zinnet.layers.stack import FilmLayer
from zinnet.machines.cutters import Mat
from zinnet.nesting.mat_sheets import gap_of, sheet_on
from zinnet.nesting.model import NestSpec
from zinnet.nesting.rough import RoughPiece, rough_length
from zinnet.nesting.slide import SlidPiece, profiles_of
from zinnet.plan.cut_parts import CutRequest
from zinnet.plan.fitted import Apart, Garment
from zinnet.plan.nests import ALONG
from zinnet.pressing.heat_values import press_numbers
from zinnet.pressing.pace import paces_of
from zinnet.workshop.made import hand_times
from zinnet.workshop.model import Workshop

HOUR_S, MM2_OF_M2 = 3600.0, 1e6
LEVEL = {"none": (0.0,), "half": (0.0, 180.0)}
"""The turns at which pieces are laid roughly; by quarters otherwise."""
FINE = 0.01
"""So finely gaps are told apart, as shares of the artwork's size."""


@dataclass(frozen=True)
class PartingRates:
    """What film and hands cost: money by the hour, by the square metre of each film; and how long a piece is laid."""

    hour: float
    films: tuple[tuple[str, float], ...]
    usual_m2: float
    lay_s: float

    def film(self, film_id: str) -> float:
        """Return what a square metre of a film costs."""
        return dict(self.films).get(film_id, self.usual_m2)


@dataclass(frozen=True)
class Way:
    """A way to part all layers of a film: at gaps of a width, as a share of the artwork's size; None cuts them whole.

    ``pieces`` are laid in all, which takes ``seconds``; ``film_mm2`` is what they take, roughly; ``cost`` is that of
    both together.
    """

    share: float | None
    pieces: int
    film_mm2: float
    seconds: float
    cost: float


@dataclass(frozen=True)
class FilmWays:
    """The ways to part the layers of a film, the whole one first; ``proposed`` and ``chosen`` are places among them."""

    film: Film
    ways: tuple[Way, ...]
    proposed: int
    chosen: int

    @property
    def way(self) -> Way:
        """The way in use."""
        return self.ways[self.chosen]

    def taking(self, share: float | None) -> "FilmWays":
        """Return them with the way in use that parts at gaps of a share of the artwork's size, or at the next wider."""
        at = 2.0 if share is None else share - FINE / 2
        wide = [place for place, way in enumerate(self.ways) if way.share is not None and way.share >= at]
        return replace(self, chosen=max(wide, default=0))


@dataclass(frozen=True, eq=False)
class _Row:
    """A layer that is cut so many times."""

    layer: FilmLayer
    copies: int
    lettered: bool
    groups: tuple[Group, ...]
    whole: bool
    size_mm: float

    @property
    def key(self) -> "_Key":
        """All that its ways depend on."""
        return self.layer, self.copies, self.lettered, self.groups, self.whole, self.size_mm

    @cached_property
    def shares(self) -> tuple[float, ...]:
        """The gaps at which it comes apart, as shares of the artwork's size."""
        if self.whole:
            return ()
        found = gaps_of(self.layer.layer.region, self.lettered).widths
        return tuple(round(width / self.size_mm, 2) for width in found)

    def parted(self, share: float | None, least_mm: float) -> Parts:
        """Return its pieces at gaps of a width, as a share of the artwork's size."""
        none = share is None or self.whole
        at = None if none or share is None else max(least_mm, (share - FINE / 2) * self.size_mm)
        return _parted(self.layer, self.groups, self.lettered, at)


type _Key = tuple[FilmLayer, int, bool, tuple[Group, ...], bool, float]


def rates_of(job: Job, workshop: Workshop) -> PartingRates:
    """Return what film and hands cost in a workshop, by the job's own rate where it has one."""
    prices = workshop.prices
    pace = {one.kind: one for one in paces_of(hand_times(workshop.made))}.get("lay")
    return PartingRates(
        hour=float(prices.hour if job.price.hour is None else job.price.hour),
        films=tuple((film.id, float(film.price_m2)) for film in workshop.films if film.price_m2 is not None),
        usual_m2=float(prices.film_m2),
        lay_s=press_numbers().hands.lay_s * (1.0 if pace is None else pace.times),
    )


def lettered_designs(job: Job) -> tuple[bool, ...]:
    """Return which designs of a job are nothing but letters."""
    return tuple(isinstance(design.source, LETTERING) for design in job.designs)


def layers_apart(
    requests: Sequence[CutRequest], ways: Sequence[FilmWays], spec: NestSpec, lettered: tuple[bool, ...]
) -> Apart:
    """Return into which pieces the layers of a job are cut.

    Parameters
    ----------
    requests
        What is cut of each composition.
    ways
        The ways to part the layers of each film, and which is in use.
    spec
        How the user wants it: whole, as is proposed, or every part by itself; the user's own groups hold in any case.
    lettered
        Which of the job's designs are nothing but letters.
    """
    found: dict[FilmLayer, Parts] = {}
    chosen = {one.film.id: one.way for one in ways}
    for row in _rows(requests, lettered):
        film = row.layer.film
        assert film is not None
        way = chosen.get(film.id)
        parts = row.parted(None if way is None else way.share, _least_mm(spec))
        if spec.cut_apart == "parts" and not row.whole:
            parts = _with_groups(row.layer, row.groups, apart=True)
        if len(parts) > 1:
            found[row.layer] = parts
    return tuple(found.items())


def with_apart(garments: tuple[Garment, ...], apart: Apart) -> tuple[Garment, ...]:
    """Return the sizes with what of their layers is cut apart."""
    return tuple(_with_apart(garment, apart) for garment in garments) if apart else garments


@stage(most=64)
def _with_apart(garment: Garment, apart: Apart) -> Garment:
    return replace(garment, apart=apart)


def film_ways(
    requests: Sequence[CutRequest], spec: NestSpec, mat: Mat, rates: PartingRates, lettered: tuple[bool, ...]
) -> tuple[FilmWays, ...]:
    """Return the ways to part the layers of each film, and which of them is in use."""
    by_film: dict[Film, list[_Row]] = {}
    for row in _rows(requests, lettered):
        assert row.layer.film is not None
        by_film.setdefault(row.layer.film, []).append(row)
    found = []
    for film, rows in by_film.items():
        ways = _ways(film, tuple(row.key for row in rows), spec.turns, gap_of(spec), mat, rates)
        best = min(range(len(ways)), key=lambda place: ways[place].cost)
        found.append(FilmWays(film, ways, best, best))
    proposed = _worth_it(found)
    if spec.cut_apart != "proposed":
        return tuple(replace(one, chosen=0) for one in proposed)
    own = {one.film: one for one in spec.ways}
    return tuple(one if one.film.id not in own else one.taking(own[one.film.id].share) for one in proposed)


def _worth_it(found: Sequence[FilmWays]) -> list[FilmWays]:
    """Return the ways with those proposed that save enough: of that film, and in all."""
    most = 1 - float(limits()["cut_apart"]["saved_share"])
    pays = sum(one.way.cost for one in found) <= most * sum(one.ways[0].cost for one in found)
    return [
        one if pays and one.way.cost <= most * one.ways[0].cost else FilmWays(one.film, one.ways, 0, 0) for one in found
    ]


def _rows(requests: Sequence[CutRequest], lettered: tuple[bool, ...]) -> Iterator[_Row]:
    for request in requests:
        words = all(number < len(lettered) and lettered[number] for number in request.designs)
        for layer in request.layers:
            if layer.film is None or layer.side is None or layer.layer.region.is_empty:
                continue
            whole = request.marks is not None or kind_of(layer.film).bond == "print"
            size = 2 * max(request.middle)
            yield _Row(layer, request.copies * len(request.turns), words, request.groups, whole, size)


def _least_mm(spec: NestSpec) -> float:
    """Return the narrowest gap at which a layer is parted, in mm."""
    return max(float(limits()["cut_apart"]["least_gap_mm"]), gap_of(spec))


@stage(most=64)
def _ways(
    film: Film, keys: tuple[_Key, ...], turns: object, gap_mm: float, mat: Mat, rates: PartingRates
) -> tuple[Way, ...]:
    """Return the ways for one film: whole, then at ever narrower gaps."""
    rules = limits()["cut_apart"]
    least = max(float(rules["least_gap_mm"]), gap_mm)
    rows = [_Row(*key) for key in keys]
    once = sum(row.copies for row in rows) <= 1
    shares = sorted(
        {
            share
            for row in rows
            if not (once and _is_small(row.layer))
            for share in row.shares
            if share * row.size_mm >= least
        },
        reverse=True,
    )
    if len(shares) > rules["most_ways"]:
        places = np.linspace(0, len(shares) - 1, int(rules["most_ways"])).round().astype(int)
        shares = [shares[place] for place in places]
    allowed = ALONG if kind_of(film).direction else LEVEL.get(str(turns), (0.0, 90.0, 180.0, 270.0))
    found: list[Way] = []
    for share in (None, *shares):
        pieces = [one for row in rows for one in _pieces(row.layer, row.parted(share, least), row.copies, allowed)]
        count = sum(piece.copies for piece in pieces)
        if not found or count > found[-1].pieces:
            found.append(_way(share, pieces, count, gap_mm, mat, rates, film))
    return tuple(found)


def _is_small(layer: FilmLayer) -> bool:
    """Tell whether a layer is so small that the trouble of another piece is not worth it for one garment."""
    left, top, right, bottom = layer.layer.region.bounds
    return bool(max(right - left, bottom - top) < float(limits()["cut_apart"]["small_layer_mm"]))


def _way(
    share: float | None,
    pieces: Sequence[RoughPiece],
    count: int,
    gap_mm: float,
    mat: Mat,
    rates: PartingRates,
    film: Film,
) -> Way:
    sheet = sheet_on(mat)
    room = math.inf if mat.fed else sheet.inner[0]
    length = rough_length(pieces, sheet.inner[1], gap_mm, load_mm=room, edges_mm=2 * sheet.margin_mm)
    area = math.inf if length is None else length * sheet.height_mm
    seconds = count * rates.lay_s
    return Way(share, count, area, seconds, area / MM2_OF_M2 * rates.film(film.id) + seconds / HOUR_S * rates.hour)


def _pieces(layer: FilmLayer, parts: Parts, copies: int, turns: tuple[float, ...]) -> Iterator[RoughPiece]:
    for part in parts:
        region = _region(layer, part)
        left, top, right, bottom = region.bounds
        yield RoughPiece(SlidPiece(profiles_of(region, turns), (right - left) * (bottom - top)), copies)


@stage(most=2048)
def _region(layer: FilmLayer, part: tuple[int, ...]) -> Region:
    return Region([layer.layer.region.geoms[number] for number in part])


@stage(most=1024)
def _parted(layer: FilmLayer, groups: tuple[Group, ...], lettered: bool, apart_mm: float | None) -> Parts:
    """Return the pieces of a layer at gaps of a width; the user's own groups hold."""
    if apart_mm is None:
        return _with_groups(layer, groups, apart=False)
    gaps = gaps_of(layer.layer.region, lettered)
    parts = gaps.parted(apart_mm, least_mm=float(limits()["cut_apart"]["least_piece_mm"]))
    return _with_groups(layer, groups, apart=False, parts=parts)


def _with_groups(layer: FilmLayer, groups: tuple[Group, ...], *, apart: bool, parts: Parts | None = None) -> Parts:
    """Return which parts of a layer are cut as one piece: all, or each by itself, but for the groups of the design."""
    region, colours = layer.layer.region, layer.colours
    count = len(region.geoms)
    belongs = list(range(count)) if apart else [0] * count
    for label, group in enumerate(parts or ()):
        for part in group:
            belongs[part] = label
    fresh = count
    tree = shapely.STRtree(region.geoms) if groups else None
    for one in groups:
        assert tree is not None
        mine = [spot for spot, colour in one.colours_of() if colour is None or colour in colours]
        hit = sorted({int(k) for spot in mine for k in tree.query(shapely.Point(spot), predicate="intersects")})
        for index in hit:
            belongs[index] = fresh
            fresh += one.apart
        fresh += 1
    return groups_of(belongs)
