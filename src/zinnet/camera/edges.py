"""The edges of a sheet to a fraction of a pixel: points of steepest brightness across a side, and the line through."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Points = NDArray[np.float64]
STEPS_PX = 0.25
TRIM_ROUNDS = 6
KEPT_SIGMAS = 2.5
LEAST_OFF_PX = 0.35
SEEN_SHARE, LEAST_FALL = 0.25, 0.4
"""An edge is seen where brightness falls by such a share of the steepest fall, and by so much to the pixel."""


@dataclass(frozen=True)
class Side:
    """A side of the sheet as a line: a point of it, its direction, and how well it is seen.

    ``support`` is the share of places along it where the edge is; ``off_px`` how far points lie from the line (root
    of the mean square), and ``count`` how many there are.
    """

    point: Points
    direction: Points
    support: float
    off_px: float
    count: int

    def meets(self, other: "Side") -> Points:
        """Return where two sides meet (2,)."""
        columns = np.column_stack([self.direction, -other.direction])
        along, _ = np.linalg.solve(columns, other.point - self.point)
        return np.asarray(self.point + along * self.direction)


def find_side(grey: NDArray[np.float32], start: Points, end: Points, samples: int, reach_px: float) -> Side | None:
    """Return the side between two rough corners (2,); None where no edge is seen.

    ``grey`` (rows, columns) is brightness. The sheet lies to the right of the way from ``start`` to ``end`` in a
    picture whose y goes down, and is brighter than what is beside it.
    """
    import cv2

    way = end - start
    length = float(np.hypot(*way))
    along = way / length
    outward = np.array([along[1], -along[0]])
    places = np.linspace(0.03, 0.97, samples)
    offsets = np.arange(-reach_px, reach_px + STEPS_PX, STEPS_PX)
    at = start + places[:, None, None] * way + offsets[None, :, None] * outward
    profile = cv2.remap(grey, at[..., 0].astype(np.float32), at[..., 1].astype(np.float32), cv2.INTER_LINEAR)
    smooth = cv2.GaussianBlur(profile, (9, 1), 0)
    falls = -np.gradient(smooth, axis=1)
    steepest = falls.argmax(axis=1)
    strength = falls[np.arange(samples), steepest]
    seen = strength > max(SEEN_SHARE * float(np.percentile(strength, 95)), LEAST_FALL)
    seen &= (steepest > 1) & (steepest < len(offsets) - 2)
    if seen.sum() < samples // 3:
        return None
    found = offsets[steepest] + STEPS_PX * _vertex(falls, steepest)
    points = (start + places[:, None] * way + found[:, None] * outward)[seen]
    return _line(points, samples)


def _vertex(rows: NDArray[np.float32], best: NDArray[np.intp]) -> NDArray[np.float64]:
    """Return by how many steps the top of a parabola through three values is beside the best one."""
    inner = np.clip(best, 1, rows.shape[1] - 2)
    number = np.arange(len(rows))
    left, middle, right = rows[number, inner - 1], rows[number, inner], rows[number, inner + 1]
    bend = left - 2 * middle + right
    with np.errstate(divide="ignore", invalid="ignore"):
        off = np.where(np.abs(bend) > 1e-9, 0.5 * (left - right) / bend, 0.0)
    return np.clip(off, -1, 1).astype(np.float64)


def _line(points: Points, samples: int) -> Side:
    """Return the line through points, those far off left out: first by the median of pairs, then by least squares."""
    kept = np.ones(len(points), dtype=bool)
    middle, direction = _fitted(points)
    for _ in range(TRIM_ROUNDS):
        across = np.abs((points - middle) @ np.array([-direction[1], direction[0]]))
        limit = max(KEPT_SIGMAS * 1.4826 * float(np.median(across)), LEAST_OFF_PX)
        kept = across <= limit
        middle, direction = _fitted(points[kept])
    across = (points[kept] - middle) @ np.array([-direction[1], direction[0]])
    off = float(np.sqrt(np.mean(across**2)))
    return Side(middle, direction, float(kept.sum()) / samples, off, int(kept.sum()))


def _fitted(points: Points) -> tuple[Points, Points]:
    """Return middle and direction of the line with the least squares of distances (total least squares)."""
    middle = points.mean(axis=0)
    _, _, axes = np.linalg.svd(points - middle, full_matrices=False)
    return middle, np.asarray(axes[0])
