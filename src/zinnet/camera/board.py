"""The printed mark sheet: a chessboard with coded squares (ChArUco), found also where it is partly covered.

S. Garrido-Jurado and others, Automatic generation and detection of highly reliable fiducial markers under occlusion,
Pattern Recognition 47 (2014); here as OpenCV has it.
"""

from functools import cache
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from zinnet.camera.found_sheet import PhotoError, Picture
from zinnet.camera.known_sheets import photo_numbers

if TYPE_CHECKING:
    import cv2

NOT_SEEN = (
    "The mark sheet is not seen: lay it flat beside what is measured, at least a third of it free, "
    "and take the picture again from nearer or with more light."
)


@cache
def _board() -> "cv2.aruco.CharucoBoard":
    import cv2

    numbers = photo_numbers().board
    marks = cv2.aruco.getPredefinedDictionary(getattr(cv2.aruco, numbers.marks))
    return cv2.aruco.CharucoBoard(numbers.squares, numbers.square_mm, numbers.mark_mm, marks)


def board_size_mm() -> tuple[float, float]:
    """Return how wide and high the mark sheet's chessboard is, in mm."""
    numbers = photo_numbers().board
    return numbers.squares[0] * numbers.square_mm, numbers.squares[1] * numbers.square_mm


def board_picture(px_mm: float) -> NDArray[np.uint8]:
    """Return the chessboard as a grey picture (rows, columns), so many pixels to the mm."""
    wide, high = board_size_mm()
    return np.asarray(_board().generateImage((round(wide * px_mm), round(high * px_mm))), dtype=np.uint8)


def find_board(picture: Picture) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Return the corners of the chessboard that are seen: in pixels (n, 2), and in mm on the sheet (n, 2).

    Raises :class:`PhotoError` where too few of them are.
    """
    import cv2

    detector = cv2.aruco.CharucoDetector(_board())
    grey = np.ascontiguousarray(picture.min(axis=2))
    found, numbers, _, _ = detector.detectBoard(grey)
    if numbers is None or len(numbers) < photo_numbers().board.enough_corners:
        twice = cv2.resize(grey, None, fx=2, fy=2, interpolation=cv2.INTER_CUBIC)
        found, numbers, _, _ = detector.detectBoard(twice)
        found = None if found is None else (found + 0.5) / 2 - 0.5
    least = photo_numbers().board.least_corners
    if numbers is None or len(numbers) < least:
        raise PhotoError(NOT_SEEN)
    in_mm = np.asarray(_board().getChessboardCorners(), dtype=np.float64)[numbers.ravel(), :2]
    spread = np.linalg.svd(in_mm - in_mm.mean(axis=0), compute_uv=False)
    if spread[1] < photo_numbers().board.square_mm:
        raise PhotoError(NOT_SEEN)
    return np.asarray(found, dtype=np.float64).reshape(-1, 2), in_mm
