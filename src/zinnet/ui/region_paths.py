"""Regions as painter paths."""

from typing import TYPE_CHECKING

import numpy as np
import shapely
from numpy.typing import NDArray
from PySide6.QtCore import QByteArray, QDataStream
from PySide6.QtGui import QPainterPath

if TYPE_CHECKING:
    from zinnet.geometry.region import Region

MOST_PATHS = 600
_paths: dict[int, tuple["Region", QPainterPath]] = {}


def region_path(region: "Region") -> QPainterPath:
    """Return a region as a painter path, made once per region."""
    kept = _paths.get(id(region))
    if kept is not None and kept[0] is region:
        return kept[1]
    corners, ring = shapely.get_coordinates(shapely.get_rings(shapely.get_parts(region)), return_index=True)
    path = QPainterPath()
    QDataStream(_streamed(corners, ring)) >> path
    if len(_paths) > MOST_PATHS:
        _paths.clear()
    _paths[id(region)] = (region, path)
    return path


def _streamed(corners: NDArray[np.float64], ring: NDArray[np.intp]) -> QByteArray:
    """Return rings as Qt streams a painter path: a move to the first corner of each, a line to the others.

    Qt keeps to the format of its data streams: the count, each element's kind (0 a move, 1 a line) with its place, then
    where the last part begins and the fill rule (0, odd-even). All of it is big-endian.
    """
    begins = np.diff(ring, prepend=-1) != 0
    elements = np.empty(len(corners), dtype=[("kind", ">i4"), ("x", ">f8"), ("y", ">f8")])
    elements["kind"], elements["x"], elements["y"] = ~begins, corners[:, 0], corners[:, 1]
    last = int(np.flatnonzero(begins)[-1]) if len(corners) else 0
    head, tail = np.array([len(corners)], dtype=">i4"), np.array([last, 0], dtype=">i4")
    return QByteArray(head.tobytes() + elements.tobytes() + tail.tobytes())
