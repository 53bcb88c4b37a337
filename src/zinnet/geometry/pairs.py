"""Which of many regions meet, counted as they are found."""

from collections.abc import Sequence

import numpy as np
import shapely
from numpy.typing import NDArray

from zinnet.geometry.region import Region

AT_ONCE = 64
type Pairs = tuple[NDArray[np.intp], NDArray[np.intp]]


def meeting_pairs(regions: Sequence[Region] | NDArray[np.object_], most: int) -> tuple[Pairs, bool]:
    """Return pairs of regions that meet, and whether those are all.

    Parameters
    ----------
    regions : regions
        Any unit.
    most : int
        When more pairs are found, no others are looked for.

    Returns
    -------
    pairs : two int arrays (n,)
        The first of each pair comes before the second among the regions; in rising order.
    whole : bool
        Whether all pairs were looked for.

    Examples
    --------
    >>> boxes = [shapely.MultiPolygon([shapely.box(x, 0, x + 2, 2)]) for x in (0, 1, 5)]
    >>> (first, second), whole = meeting_pairs(boxes, 10)
    >>> first.tolist(), second.tolist(), whole
    ([0], [1], True)
    """
    tree = shapely.STRtree(regions)
    first: list[NDArray[np.intp]] = [np.empty(0, dtype=np.intp)]
    second: list[NDArray[np.intp]] = [np.empty(0, dtype=np.intp)]
    found, start = 0, 0
    while start < len(regions) and found <= most:
        lower, upper = tree.query(tree.geometries[start : start + AT_ONCE], predicate="intersects")
        lower = lower + start
        order = np.lexsort((upper, lower))
        order = order[lower[order] < upper[order]]
        first.append(lower[order])
        second.append(upper[order])
        found, start = found + len(order), start + AT_ONCE
    return (np.concatenate(first), np.concatenate(second)), found <= most


def clusters(count: int, pairs: Pairs) -> NDArray[np.intp]:
    """Return for each of ``count`` things the first one that it hangs together with, by pairs that meet.

    Every label goes to the least one of those it meets, and on to that one's own, until none changes.

    Examples
    --------
    >>> clusters(5, (np.array([1, 3]), np.array([2, 1]))).tolist()
    [0, 1, 1, 1, 4]
    """
    label = np.arange(count)
    one, other = pairs
    while True:
        least = label.copy()
        np.minimum.at(least, label[one], label[other])
        np.minimum.at(least, label[other], label[one])
        least = least[least]
        if (least == label).all():
            return label
        label = least
