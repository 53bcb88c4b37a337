"""Regions as painter paths."""

import math
from collections import deque

import numpy as np
import shapely
from numpy.typing import NDArray
from PySide6.QtCore import QByteArray, QDataStream
from PySide6.QtGui import QPainter, QPainterPath
from shapely.geometry.base import BaseGeometry

FULL = 10_000
MOST_PATHS = 900
FINEST_PIXELS = 0.2
"""What is finer than this is not seen, and left out of what is drawn."""
FEW_POINTS = 150
_paths: dict[tuple[int, int], tuple[BaseGeometry, QPainterPath]] = {}
_seen_at: deque[int] = deque(maxlen=2)
"""The steps of scale at which regions were drawn last, the latest at the end."""


def region_path(region: BaseGeometry, painter: QPainter | None = None) -> QPainterPath:
    """Return a region as a painter path, made once per region.

    For a painter it is as fine as can be seen at its scale, in steps of two.
    """
    step = FULL if painter is None else _step(region, painter)
    if step != FULL and step not in _seen_at:
        _seen_at.append(step)
    return _path_at(region, step)


def prepare(region: BaseGeometry) -> None:
    """Make the paths of a region that will be drawn as others were; it may be done beside the window."""
    if shapely.get_num_coordinates(region) >= FEW_POINTS:
        for step in tuple(_seen_at):
            _path_at(region, step)


def _path_at(region: BaseGeometry, step: int) -> QPainterPath:
    kept = _paths.get((id(region), step))
    if kept is not None and kept[0] is region:
        return kept[1]
    drawn = region if step == FULL else shapely.simplify(region, FINEST_PIXELS / 2.0**step, preserve_topology=False)
    corners, ring = shapely.get_coordinates(shapely.get_rings(shapely.get_parts(drawn)), return_index=True)
    path = QPainterPath()
    QDataStream(_streamed(corners, ring)) >> path
    if len(_paths) > MOST_PATHS:
        _paths.clear()
    _paths[id(region), step] = (region, path)
    return path


def _step(region: BaseGeometry, painter: QPainter) -> int:
    """Return the power of two, in pixels for each unit, up to which a painter enlarges."""
    scale = math.sqrt(abs(painter.deviceTransform().determinant()))
    if scale <= 0 or shapely.get_num_coordinates(region) < FEW_POINTS:
        return FULL
    return math.ceil(math.log2(scale))


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
