"""What lies under what: the layers' parts in the order in which they are drawn, and where each goes on under others."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
import shapely
from numpy.typing import NDArray

from zinnet.base.stages import stage
from zinnet.geometry.arrangement import faces_of
from zinnet.geometry.parallel import each
from zinnet.geometry.region import Region, common, seamless, settled, touching, union, without_specks
from zinnet.geometry.thickness import offset
from zinnet.geometry.transform import moved, moved_all, scale
from zinnet.layers.split import DUST_MM, ColourLayer, Split

NEAR_MM = 0.02
SLIT_MM = 0.002
"""Slits between layers up to this wide are rounding, or hairlines that no eye sees."""
EQUAL = 1e-5
"""Areas that differ by a smaller share are equal but for rounding."""
LEAST_TOUCH_MM = 0.2
"""Two layers meet where they share more border than this."""


@dataclass(frozen=True, eq=False)
class Part:
    """What one film is cut for: what is seen of its colours, and all that they paint."""

    seen: Region
    painted: Region
    drawn: tuple[Region, ...]
    painted_shapes: tuple[Region, ...]


@dataclass(frozen=True, eq=False)
class Relations:
    """The parts from the lowest up, by ``sequence`` out of the groups that they were made from."""

    parts: tuple[Part, ...]
    sequence: tuple[int, ...]
    hidden: dict[tuple[int, int], Region]
    """For (one, other) where the one goes on under what is seen of the other."""

    @cached_property
    def under(self) -> dict[tuple[int, int], Region]:
        """For (lower, upper) where the lower one goes on under what is seen of the upper."""
        return {(low, high): region for (low, high), region in self.hidden.items() if low < high}

    @cached_property
    def covered(self) -> Region:
        """All that is seen of the layers together, without seams or hairline slits between them."""
        near, alone = touching([part.seen for part in self.parts], 2 * SLIT_MM)
        grown = offset(union(near), SLIT_MM / 2, corners="mitre")
        joined = offset(grown, -SLIT_MM / 2, corners="mitre")
        return Region([*joined.geoms, *alone]) if alone else joined

    @cached_property
    def piles(self) -> tuple[tuple[int, ...], ...]:
        """The layers that the artwork paints on one another somewhere, each pile from the lowest to what is seen."""
        found: set[tuple[int, ...]] = set()
        for top, part in enumerate(self.parts):
            below = [lower for lower in range(top) if (lower, top) in self.under]
            for members in _piles_below(part.seen, tuple(self.under[lower, top] for lower in below)):
                found.add((*(below[k] for k in members), top))
        return tuple(sorted(found))

    def covered_by(self, index: int, uppers: Collection[int]) -> tuple[Region, ...]:
        """Return where a layer goes on under all others but some."""
        return tuple(
            region for (one, other), region in sorted(self.hidden.items()) if one == index and other not in uppers
        )

    @cached_property
    def meeting(self) -> tuple[tuple[int, int], ...]:
        """The pairs (lower, upper) of layers that lie on one another or share a border."""
        seen = [part.seen for part in self.parts]
        parts, whose = _parts_of(seen)
        reach = shapely.box(*(shapely.bounds(parts) + NEAR_MM * np.array([-1, -1, 1, 1])).T)
        first, second = shapely.STRtree(parts).query(reach)
        apart = whose[first] < whose[second]
        first, second = first[apart], second[apart]
        met = shapely.dwithin(parts[first], parts[second], NEAR_MM)
        near = set(zip(whose[first[met]].tolist(), whose[second[met]].tolist(), strict=True))
        touching = {pair for pair in near if pair in self.under or _share_border(seen[pair[0]], seen[pair[1]])}
        return tuple(sorted(touching | set(self.under)))


@stage(most=512)
def _share_border(one: Region, other: Region) -> bool:
    """Tell whether two layers meet along a line, not only in a corner."""
    pieces = [part for part in one.geoms if shapely.dwithin(part, other, NEAR_MM)]
    line = shapely.boundary(Region(pieces))
    close = shapely.intersection(line, shapely.buffer(other, NEAR_MM, quad_segs=1))
    return bool(close.length > LEAST_TOUCH_MM)


@stage(most=512)
def _piles_below(seen: Region, below: tuple[Region, ...]) -> tuple[tuple[int, ...], ...]:
    """Return which of several regions lie together below something that is seen, by number: none, one or more."""
    if not _lie_on_one_another(below):
        bare = seen.area - sum(region.area for region in below) > DUST_MM
        return (*([()] if bare else []), *((k,) for k in range(len(below))))
    parts, found = shapely.get_parts(seen), set[tuple[int, ...]]()
    tree = shapely.STRtree(parts)
    reached = np.zeros((len(parts), len(below)), dtype=bool)
    for k, region in enumerate(below):
        reached[tree.query(region.geoms, predicate="intersects")[1], k] = True
    for members in np.unique(reached, axis=0):
        inside = np.flatnonzero(members).tolist()
        mine = shapely.multipolygons(parts[(reached == members).all(axis=1)])
        there = [common(below[k], mine) for k in inside]
        if _lie_on_one_another(there):
            _, covered = faces_of([mine, *there])
            some = [np.flatnonzero(row) for row in np.unique(covered[covered[:, 0], 1:], axis=0)]
            found |= {tuple(inside[k] for k in row) for row in some}
            continue
        found |= {(k,) for k in inside}
        if mine.area - sum(region.area for region in there) > DUST_MM:
            found.add(())
    return tuple(sorted(found))


def _lie_on_one_another(regions: Sequence[Region]) -> bool:
    """Tell whether two of some regions have more than dust in common."""
    if len(regions) < 2:
        return False
    parts, whose = _parts_of(regions)
    one, other = shapely.STRtree(parts).query(parts, predicate="intersects")
    apart = whose[one] < whose[other]
    return bool((shapely.area(shapely.intersection(parts[one[apart]], parts[other[apart]])) > DUST_MM**2).any())


@stage(most=32)
def relations(split: Split, groups: tuple[tuple[str, ...], ...]) -> Relations:
    """Return the parts of groups of colours and how they lie: what lies over what decides, then the larger is lower.

    Parameters
    ----------
    split : Split, mm
        The colours.
    groups : tuples of colours
        Each comes from one film.

    Returns
    -------
    Relations, mm
        The regions by group, lowest first, and which lies over which.
    """
    by_colour = {layer.colour: layer for layer in split.layers}
    parts = [_part(tuple(by_colour[colour] for colour in group)) for group in groups]
    hidden = _hidden(parts)
    weight = np.zeros((len(parts), len(parts)))
    for (lower, upper), region in hidden.items():
        weight[lower, upper] = region.area
    sequence = tuple(_sequence(weight, np.array([part.seen.area for part in parts])))
    place = {group: index for index, group in enumerate(sequence)}
    return Relations(
        parts=tuple(parts[group] for group in sequence),
        sequence=sequence,
        hidden={(place[one], place[other]): region for (one, other), region in hidden.items()},
    )


@stage(most=64)
def scaled(related: Relations, across: float, down: float) -> Relations:
    """Return the relations of the same artwork at another size."""
    matrix = scale(across, down)

    def smaller(region: Region) -> Region:
        return settled(moved(region, matrix))

    return Relations(
        parts=tuple(
            Part(
                seen=smaller(part.seen),
                painted=smaller(part.painted),
                drawn=moved_all(part.drawn, matrix),
                painted_shapes=moved_all(part.painted_shapes, matrix),
            )
            for part in related.parts
        ),
        sequence=related.sequence,
        hidden={pair: smaller(region) for pair, region in related.hidden.items()},
    )


@stage(most=512)
def _part(layers: tuple[ColourLayer, ...]) -> Part:
    if len(layers) == 1:
        (one,) = layers
        return Part(one.region, one.painted, one.drawn, one.painted_shapes)
    return Part(
        seen=without_specks(seamless(layer.region for layer in layers), DUST_MM),
        painted=union(layer.painted for layer in layers),
        drawn=tuple(region for layer in layers for region in layer.drawn),
        painted_shapes=tuple(region for layer in layers for region in layer.painted_shapes),
    )


def _hidden(parts: Sequence[Part]) -> dict[tuple[int, int], Region]:
    """Return what each part paints under what is seen of another one."""
    painted, lower = _parts_of([part.painted for part in parts])
    seen, upper = _parts_of([part.seen for part in parts])
    first, second = shapely.STRtree(seen).query(painted)
    other = lower[first] != upper[second]
    first, second = first[other], second[other]
    met = shapely.intersects(painted[first], seen[second])
    pairs: dict[tuple[int, int], tuple[set[int], set[int]]] = {}
    for one, another in zip(first[met].tolist(), second[met].tolist(), strict=True):
        below, above = pairs.setdefault((int(lower[one]), int(upper[another])), (set(), set()))
        below.add(one)
        above.add(another)

    def shared(near: tuple[set[int], set[int]]) -> Region:
        below, above = (
            shapely.multipolygons(which[sorted(some)]) for which, some in zip((painted, seen), near, strict=True)
        )
        return without_specks(common(below, above), DUST_MM)

    regions = each(shared, pairs.values())
    return {pair: region for pair, region in zip(pairs, regions, strict=True) if not region.is_empty}


def _parts_of(regions: Sequence[Region]) -> tuple[NDArray[np.object_], NDArray[np.intp]]:
    """Return the connected parts of all regions, and of which region each is."""
    parts, whose = shapely.get_parts(np.array(regions, dtype=object), return_index=True)
    return parts, whose


def _sequence(weight: NDArray[np.float64], area: NDArray[np.float64]) -> list[int]:
    """Return the parts from the lowest up: of those that lie over nothing left, the largest.

    ``weight[i, j]`` is how much i goes on under j. Where two lie over each other the smaller part of it is overlooked;
    where several lie over one another in a ring, the one that lies least over others goes first.
    """
    over = np.where(weight - weight.T > EQUAL * weight, weight - weight.T, 0.0)
    area = np.round(area / area.max(), 5)
    left = list(range(len(area)))
    found: list[int] = []
    while left:
        lies_over = {index: float(over[left, index].sum()) for index in left}
        free = [index for index in left if lies_over[index] == 0]
        take = max(free, key=lambda index: area[index]) if free else min(left, key=lambda index: lies_over[index])
        found.append(take)
        left.remove(take)
    return found
