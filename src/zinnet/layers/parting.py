"""Where a layer can be cut apart: which of its parts belong together, and how wide the gaps between the others are.

Parts that lie in one another, letters of a word and crumbs beside something larger stay together; beyond that parts
are joined from the narrowest gap to the widest, so that every width of gap gives one way to part the layer (single
linkage, by the minimum spanning tree of the gaps between neighbours).
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise

import numpy as np
import shapely
from numpy.typing import NDArray
from scipy.sparse import coo_array
from scipy.sparse.csgraph import connected_components, minimum_spanning_tree
from scipy.spatial import Delaunay, QhullError

from zinnet.base.stages import stage
from zinnet.data.limits import limits
from zinnet.geometry.region import Region

Parts = tuple[tuple[int, ...], ...]
"""Groups of a layer's parts, as their places in its region; every part is in one of them."""

ROUGH_MM = 0.3
"""Outlines are taken so roughly where neighbours are looked for."""
SPACED_MM = 6.0
"""Points on an outline lie at most so far apart then."""
MOST_POINTS = 40_000
NO_GAP = 1e-6


@dataclass(frozen=True, eq=False)
class Gaps:
    """The gaps of a layer: a tree that joins all its parts by the narrowest gaps, in mm; what belongs together by 0.

    ``boxes`` are left, top, right, bottom of each part, in mm.
    """

    one: NDArray[np.int64]
    other: NDArray[np.int64]
    mm: NDArray[np.float64]
    boxes: NDArray[np.float64]

    @property
    def count(self) -> int:
        """How many parts there are."""
        return len(self.boxes)

    @cached_property
    def widths(self) -> tuple[float, ...]:
        """The widths at which the layer comes apart, the widest first."""
        return tuple(sorted({math.floor(gap * 100) / 100 for gap in self.mm.tolist() if gap > NO_GAP}, reverse=True))

    def parted(self, apart_mm: float, *, least_mm: float = 0.0) -> Parts:
        """Return the groups that lie at least so far apart.

        Parameters
        ----------
        apart_mm : float, mm
            Gaps of this width and wider part them.
        least_mm : float, mm
            A group that is nowhere longer than this is no piece for a hand: it stays with its nearest neighbour.
        """
        near = self.mm < apart_mm - NO_GAP
        label = self._labels(near)
        for edge in np.argsort(self.mm, kind="stable"):
            if near[edge]:
                continue
            ends = [label == label[self.one[edge]], label == label[self.other[edge]]]
            if any(self._longest(mine) < least_mm for mine in ends):
                near[edge] = True
                label[ends[1]] = label[self.one[edge]]
        return groups_of(self._labels(near).tolist())

    def _labels(self, near: NDArray[np.bool_]) -> NDArray[np.int64]:
        edges = (self.one[near], self.other[near])
        joins = coo_array((np.ones(len(edges[0])), edges), shape=(self.count, self.count))
        return np.asarray(connected_components(joins, directed=False)[1], dtype=np.int64)

    def _longest(self, mine: NDArray[np.bool_]) -> float:
        box = self.boxes[mine]
        return float((box[:, 2:].max(axis=0) - box[:, :2].min(axis=0)).max())


@stage(most=512)
def gaps_of(region: Region, lettered: bool = False) -> Gaps:
    """Return the gaps between the parts of a layer.

    Parameters
    ----------
    region : Region, mm
        The layer as it is cut.
    lettered : bool
        Whether it is known to be letters: then all of a line belongs together, however wide it is spaced.
    """
    parts = np.array(region.geoms, dtype=object)
    boxes = shapely.bounds(parts) if len(parts) else np.zeros((0, 4))
    if len(parts) < 2:
        none = np.zeros(0, dtype=np.int64)
        return Gaps(none, none, np.zeros(0), boxes)
    rough = shapely.simplify(parts, ROUGH_MM)
    one, other = _neighbours(rough)
    mm = np.maximum(shapely.distance(rough[one], rough[other]), NO_GAP)
    mm[_belong(boxes[one], boxes[other], mm, lettered)] = 0.0
    inside, around = _nested(parts)
    one, other = np.concatenate([one, inside]), np.concatenate([other, around])
    mm = np.concatenate([mm, np.zeros(len(inside))])
    return _tree(one, other, mm, boxes)


def groups_of(labels: Sequence[int]) -> Parts:
    """Return the groups that labels tell, in the order of their first parts."""
    found: dict[int, list[int]] = {}
    for part, label in enumerate(labels):
        found.setdefault(label, []).append(part)
    return tuple(tuple(group) for group in found.values())


def _neighbours(parts: NDArray[np.object_]) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
    """Return pairs of parts that see one another: the edges of a Delaunay triangulation of points on their outlines.

    Of a triangulation of points it is known that it holds their minimum spanning tree (Shamos and Hoey 1975).
    """
    rings = shapely.get_exterior_ring(parts)
    step = max(SPACED_MM, float(shapely.length(rings).sum()) / MOST_POINTS)
    points, owner = shapely.get_coordinates(shapely.segmentize(rings, step), return_index=True)
    try:
        corners = Delaunay(points).simplices
    except QhullError:
        order = np.argsort(points @ np.array([1.0, 1e-3]), kind="stable")
        corners = np.array([(a, b, b) for a, b in pairwise(order)])
    edges = np.concatenate([corners[:, [0, 1]], corners[:, [1, 2]], corners[:, [0, 2]]])
    pairs = np.sort(owner[edges], axis=1)
    pairs = np.unique(pairs[pairs[:, 0] != pairs[:, 1]], axis=0).astype(np.int64)
    return pairs[:, 0], pairs[:, 1]


def _nested(parts: NDArray[np.object_]) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
    """Return which parts lie in the counters of which."""
    holed = np.flatnonzero(shapely.get_num_interior_rings(parts) > 0)
    if not len(holed):
        none = np.zeros(0, dtype=np.int64)
        return none, none
    filled = shapely.polygons(shapely.get_exterior_ring(parts[holed]))
    inside, around = shapely.STRtree(filled).query(shapely.point_on_surface(parts), predicate="within")
    own = holed[around] != inside
    return inside[own].astype(np.int64), holed[around[own]].astype(np.int64)


def _belong(
    one: NDArray[np.float64], other: NDArray[np.float64], mm: NDArray[np.float64], lettered: bool
) -> NDArray[np.bool_]:
    """Tell which neighbours belong together: letters of a line, accents, points and commas, what is close.

    ``one`` and ``other`` are their boxes, ``mm`` the gaps between them.
    """
    rules = limits()["cut_apart"]
    highs = np.stack([one[:, 3] - one[:, 1], other[:, 3] - other[:, 1]])
    wides = np.stack([one[:, 2] - one[:, 0], other[:, 2] - other[:, 0]])
    small = np.hypot(wides, highs).min(axis=0)
    beside = np.minimum(one[:, 3], other[:, 3]) - np.maximum(one[:, 1], other[:, 1])
    across = np.maximum(one[:, 0], other[:, 0]) - np.minimum(one[:, 2], other[:, 2])
    low, high = highs.min(axis=0), highs.max(axis=0)
    line = (beside >= rules["beside_share"] * low) & (high <= rules["letters_alike"] * low)
    letters = line & (across <= rules["known_line_gap" if lettered else "line_gap"] * high)
    first_low = (highs[0] < highs[1])[:, np.newaxis]
    low_box, high_box = np.where(first_low, one, other), np.where(first_low, other, one)
    mark, wide = low_box[:, 2] - low_box[:, 0], high_box[:, 2] - high_box[:, 0]
    over = (-across >= rules["beside_share"] * mark) & (mark <= rules["mark_wide"] * wide) & (beside <= 0)
    over &= wide <= rules["letter_wide"] * high
    accents = over & (low <= rules["mark_high"] * high) & (mm <= rules["mark_gap"] * high)
    above, below = high_box[:, 1] - low_box[:, 1], low_box[:, 3] - high_box[:, 3]
    on_line = (above <= rules["point_over"] * high) & (below <= rules["point_under"] * high)
    small_mark = np.maximum(low, mark) <= rules["mark_high"] * high
    next_to = (across >= -rules["beside_share"] * mark) & (across <= rules["point_gap"] * high)
    points = on_line & small_mark & next_to
    return np.asarray(letters | accents | points | (mm <= rules["close_share"] * small), dtype=bool)


def _tree(
    one: NDArray[np.int64], other: NDArray[np.int64], mm: NDArray[np.float64], boxes: NDArray[np.float64]
) -> Gaps:
    """Return the tree of the narrowest gaps; a gap of nothing still is an edge."""
    order = np.argsort(mm, kind="stable")[::-1]
    weights: dict[tuple[int, int], float] = {}
    for edge in order:
        pair = (int(min(one[edge], other[edge])), int(max(one[edge], other[edge])))
        weights[pair] = float(mm[edge])
    pairs = np.array(list(weights), dtype=np.int64)
    values = np.array(list(weights.values()))
    count = len(boxes)
    tree = minimum_spanning_tree(coo_array((values + 1.0, (pairs[:, 0], pairs[:, 1])), shape=(count, count))).tocoo()
    return Gaps(tree.row.astype(np.int64), tree.col.astype(np.int64), tree.data - 1.0, boxes)
