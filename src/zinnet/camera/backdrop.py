"""Laying a straightened photo below a panel: at its own scale, turned and shifted so that two marks meet."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from zinnet.camera.found_sheet import PhotoError
from zinnet.camera.measure import Spot, StraightPhoto

LEAST_MM = 20.0
"""Marks that are nearer to each other do not say how a photo is turned."""


@dataclass(frozen=True, eq=False)
class Backdrop:
    """A straightened photo with the matrix (3, 3) from its pixels to mm on a panel.

    ``apart_mm`` is how far the marks are from each other in the photo, and on the panel.
    """

    photo: StraightPhoto
    matrix: NDArray[np.float64]
    apart_mm: tuple[float, float]


def lay_below(photo: StraightPhoto, spots: tuple[Spot, Spot], marks: tuple[Spot, Spot]) -> Backdrop:
    """Return a photo laid below a panel: the middle between two pixels comes to that of two marks, in one direction.

    The photo's own scale is kept, so that lengths on it stay true. Raises :class:`PhotoError` for spots too near.
    """
    here, there = np.array(spots, dtype=np.float64), np.array(marks, dtype=np.float64)
    (x1, y1), (x2, y2) = here[1] - here[0], there[1] - there[0]
    apart = float(np.hypot(x1, y1)) / photo.px_mm
    if apart < LEAST_MM:
        raise PhotoError(f"The two points are {apart:.0f} mm apart; choose the two marks, far from each other.")
    angle = np.arctan2(y2, x2) - np.arctan2(y1, x1)
    turned = np.array([[np.cos(angle), -np.sin(angle)], [np.sin(angle), np.cos(angle)]]) / photo.px_mm
    matrix = np.eye(3)
    matrix[:2, :2] = turned
    matrix[:2, 2] = there.mean(axis=0) - turned @ here.mean(axis=0)
    return Backdrop(photo, matrix, (apart, float(np.hypot(x2, y2))))
