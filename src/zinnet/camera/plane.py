"""The plane that a reference lies on: from pixels to mm, and how far off that may be."""

from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray

from zinnet.camera.board import board_size_mm, find_board
from zinnet.camera.found_sheet import PhotoError, Picture, find_sheet
from zinnet.camera.known_sheets import photo_numbers
from zinnet.geometry.region import Region, as_region

BOARD = "board"
PERTURBED = 24
LEAST_OFF_PX = 0.12
BEYOND = "A point lies beyond the plane of the sheet."
Points = NDArray[np.float64]


@dataclass(frozen=True, eq=False)
class Plane:
    """The table as a picture shows it.

    ``to_mm`` is the matrix (3, 3) from pixels to mm on it, y down. It follows from spots of the reference: where they
    are in pixels and in mm (n, 2 each), each ``spot_px`` off at most. ``reference`` is what the reference covers, in
    mm, and ``white_px`` pixels (n, 2) of its bare paper.
    """

    to_mm: NDArray[np.float64]
    spots_px: Points
    spots_mm: Points
    spot_px: float
    reference: Region
    white_px: Points
    tilt_deg: float

    def on_table(self, pixels: Points) -> Points:
        """Return where pixels (n, 2) are on the table, in mm. Raises :class:`PhotoError` beyond the horizon."""
        return mapped(self.to_mm, pixels)

    def in_picture(self, spots: Points) -> Points:
        """Return in which pixels spots of the table (n, 2), in mm, are seen."""
        return mapped(np.asarray(np.linalg.inv(self.to_mm)), spots)

    def px_mm(self, spot: Points) -> float:
        """Return how many pixels of the picture there are to the mm near a spot of the table (2,), the lesser way."""
        seen = self.in_picture(spot + np.array([(0.0, 0.0), (1.0, 0.0), (0.0, 1.0)]))
        return float(min(np.hypot(*(seen[1] - seen[0])), np.hypot(*(seen[2] - seen[0]))))

    def off_mm(self, spots: Points) -> float:
        """Return how far off a shape of spots (n, 2), in mm, may be drawn: its worst point, its place left aside.

        The reference's own spots are moved at random by what they may be off (two standard deviations).
        """
        pixels = self.in_picture(spots)
        luck = np.random.default_rng(1)
        worst = []
        for _ in range(PERTURBED):
            moved = self.spots_px + luck.normal(0, self.spot_px, self.spots_px.shape)
            drawn = mapped(homography(moved, self.spots_mm), pixels)
            worst.append(float(np.hypot(*(_laid_on(drawn, spots) - spots).T).max()))
        return 2 * float(np.sqrt(np.mean(np.square(worst))))


def mapped(matrix: NDArray[np.float64], spots: Points) -> Points:
    """Return spots (n, 2) through a matrix (3, 3). Raises :class:`PhotoError` beyond the horizon."""
    rows = np.column_stack([spots, np.ones(len(spots))]) @ matrix.T
    if (rows[:, 2] <= 1e-9).any():
        raise PhotoError(BEYOND)
    return np.asarray(rows[:, :2] / rows[:, 2:])


def homography(pixels: Points, spots: Points) -> NDArray[np.float64]:
    """Return the matrix (3, 3) that takes pixels to spots with the least squares; its last number is 1."""
    import cv2

    found, _ = cv2.findHomography(pixels, spots, 0)
    if found is None:
        raise PhotoError(BEYOND)
    return np.asarray(found, dtype=np.float64)


def find_plane(picture: Picture, sheet: str) -> Plane:
    """Return the plane of a sheet of known size, or of the printed mark sheet ("board").

    Raises :class:`PhotoError` that says what is wrong.
    """
    return _of_board(picture) if sheet == BOARD else _of_sheet(picture, sheet)


def _of_sheet(picture: Picture, name: str) -> Plane:
    found = find_sheet(picture, name)
    wide, high = found.sides_mm
    corners = np.array([(0, 0), (wide, 0), (wide, high), (0, high)], dtype=np.float64)
    reference = as_region(shapely.box(0, 0, wide, high))
    inner = _grid(0.15 * wide, 0.15 * high, 0.85 * wide, 0.85 * high, 24)
    white = mapped(np.asarray(np.linalg.inv(found.to_mm)), inner)
    spot = max(found.corner_px, LEAST_OFF_PX)
    return Plane(found.to_mm, found.corners, corners, spot, reference, white, found.tilt_deg)


def _of_board(picture: Picture) -> Plane:
    pixels, spots = find_board(picture)
    matrix = homography(pixels, spots)
    off = mapped(matrix, pixels) - spots
    scale = float(np.sqrt(abs(np.linalg.det(_jacobian(matrix, pixels.mean(axis=0))))))
    spot = max(float(np.sqrt(np.mean(off**2))) / scale, LEAST_OFF_PX / 2)
    wide, high = board_size_mm()
    beside, below = photo_numbers().board.paper_mm
    paper = as_region(shapely.box(-beside, -below, wide + beside, high + below))
    side = photo_numbers().board.square_mm
    left, right = _grid(-7.0, 0, -2.0, high, 12), _grid(wide + 2.0, 0, wide + 7.0, high, 12)
    white = mapped(np.asarray(np.linalg.inv(matrix)), np.concatenate([left, right]))
    tilt = _tilt(matrix, spots.mean(axis=0), side)
    return Plane(matrix, pixels, spots, spot, paper, white, tilt)


def _grid(left: float, top: float, right: float, bottom: float, count: int) -> Points:
    x, y = np.meshgrid(np.linspace(left, right, count), np.linspace(top, bottom, count))
    return np.column_stack([x.ravel(), y.ravel()])


def _jacobian(matrix: NDArray[np.float64], at: Points) -> NDArray[np.float64]:
    """Return the derivative (2, 2) of a map at a spot (2,)."""
    step = np.eye(2) * 0.5
    here = np.array([at + step[0], at - step[0], at + step[1], at - step[1]])
    seen = mapped(matrix, here)
    return np.column_stack([seen[0] - seen[1], seen[2] - seen[3]])


def _tilt(matrix: NDArray[np.float64], at: Points, side: float) -> float:
    """Return about how far the camera is tilted, in degrees: by how a square is seen shorter one way than another."""
    square = at + side * np.array([(-1, 0), (1, 0), (0, -1), (0, 1)])
    seen = mapped(np.asarray(np.linalg.inv(matrix)), square)
    sizes = np.linalg.svd(np.column_stack([seen[1] - seen[0], seen[3] - seen[2]]), compute_uv=False)
    return float(np.degrees(np.arccos(np.clip(sizes[1] / sizes[0], 0, 1))))


def _laid_on(spots: Points, others: Points) -> Points:
    """Return spots turned and shifted, not scaled, so that they lie on others as well as can be (Kabsch 1976)."""
    middle, there = spots.mean(axis=0), others.mean(axis=0)
    one, _, other = np.linalg.svd((spots - middle).T @ (others - there))
    flip = np.diag([1.0, np.sign(np.linalg.det(one @ other))])
    return np.asarray((spots - middle) @ (one @ flip @ other) + there)
