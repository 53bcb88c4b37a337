"""What lies under what: the layers' parts in the order in which they are drawn, and where each goes on under others."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
import shapely
from numpy.typing import NDArray

from zinnet.base.stages import stage
from zinnet.geometry.arrangement import faces_of
from zinnet.geometry.parallel import each
from zinnet.geometry.region import Region, common, seamless, settled, union, without_specks
from zinnet.geometry.thickness import offset
from zinnet.geometry.transform import moved, moved_all, scale
from zinnet.layers.split import DUST_MM, ColourLayer, Split

NEAR_MM = 0.02
SLIT_MM = 0.002
"""Slits between layers up to this wide are rounding, or hairlines that no eye sees."""
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
    under: dict[tuple[int, int], Region]
    """For (lower, upper) where the lower one goes on under what is seen of the upper."""

    @cached_property
    def covered(self) -> Region:
        """All that is seen of the layers together, without seams or hairline slits between them."""
        grown = offset(union(part.seen for part in self.parts), SLIT_MM / 2, corners="mitre")
        return offset(grown, -SLIT_MM / 2, corners="mitre")

    @cached_property
    def piles(self) -> tuple[tuple[int, ...], ...]:
        """The layers that the artwork paints on one another somewhere, each pile from the lowest to what is seen."""
        stacked = [self.onto(index, tuple(range(index + 1, len(self.parts)))) for index in range(len(self.parts))]
        _, covered = faces_of(stacked)
        return tuple(tuple(np.flatnonzero(members).tolist()) for members in np.unique(covered, axis=0))

    def onto(self, index: int, uppers: tuple[int, ...]) -> Region:
        """Return what is seen of a layer with what goes on under some others."""
        seen = self.parts[index].seen
        below = [self.under[index, upper] for upper in uppers if (index, upper) in self.under]
        return seamless([seen, *below]) if below else seen

    @cached_property
    def meeting(self) -> tuple[tuple[int, int], ...]:
        """The pairs (lower, upper) of layers that lie on one another or share a border."""
        seen = [part.seen for part in self.parts]
        tree = shapely.STRtree(seen)
        first, second = tree.query(seen, predicate="dwithin", distance=NEAR_MM)
        near = {(int(a), int(b)) for a, b in zip(first, second, strict=True) if a < b}
        touching = {pair for pair in near if pair in self.under or self._share_border(*pair)}
        return tuple(sorted(touching | set(self.under)))

    def _share_border(self, one: int, other: int) -> bool:
        """Tell whether two layers meet along a line, not only in a corner."""
        a, b = self.parts[one].seen, self.parts[other].seen
        pieces = [part for part in a.geoms if shapely.dwithin(part, b, NEAR_MM)]
        line = shapely.boundary(Region(pieces))
        close = shapely.intersection(line, shapely.buffer(b, NEAR_MM, quad_segs=1))
        return bool(close.length > LEAST_TOUCH_MM)


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
    parts = [_part([by_colour[colour] for colour in group]) for group in groups]
    under = _under(parts)
    weight = np.zeros((len(parts), len(parts)))
    for (lower, upper), region in under.items():
        weight[lower, upper] = region.area
    sequence = tuple(_sequence(weight, np.array([part.seen.area for part in parts])))
    place = {group: index for index, group in enumerate(sequence)}
    return Relations(
        parts=tuple(parts[group] for group in sequence),
        sequence=sequence,
        under={
            (place[lower], place[upper]): region
            for (lower, upper), region in under.items()
            if place[lower] < place[upper]
        },
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
        under={pair: smaller(region) for pair, region in related.under.items()},
    )


def _part(layers: Sequence[ColourLayer]) -> Part:
    if len(layers) == 1:
        (one,) = layers
        return Part(one.region, one.painted, one.drawn, one.painted_shapes)
    return Part(
        seen=without_specks(seamless(layer.region for layer in layers), DUST_MM),
        painted=union(layer.painted for layer in layers),
        drawn=tuple(region for layer in layers for region in layer.drawn),
        painted_shapes=tuple(region for layer in layers for region in layer.painted_shapes),
    )


def _under(parts: Sequence[Part]) -> dict[tuple[int, int], Region]:
    """Return what each part paints under what is seen of another one."""
    painted, seen = [part.painted for part in parts], [part.seen for part in parts]
    first, second = shapely.STRtree(seen).query(painted, predicate="intersects")
    pairs = [(low, high) for low, high in zip(first.tolist(), second.tolist(), strict=True) if low != high]
    regions = each(lambda pair: without_specks(common(painted[pair[0]], seen[pair[1]]), DUST_MM), pairs)
    return {pair: region for pair, region in zip(pairs, regions, strict=True) if not region.is_empty}


def _sequence(weight: NDArray[np.float64], area: NDArray[np.float64]) -> list[int]:
    """Return the parts from the lowest up: of those that lie over nothing left, the largest.

    ``weight[i, j]`` is how much i goes on under j. Where two lie over each other the smaller part of it is overlooked;
    where several lie over one another in a ring, the one that lies least over others goes first.
    """
    over = np.maximum(weight - weight.T, 0)
    area = np.round(area / area.max(), 9)
    left = list(range(len(area)))
    found: list[int] = []
    while left:
        lies_over = {index: float(over[left, index].sum()) for index in left}
        free = [index for index in left if lies_over[index] == 0]
        take = max(free, key=lambda index: area[index]) if free else min(left, key=lambda index: lies_over[index])
        found.append(take)
        left.remove(take)
    return found
