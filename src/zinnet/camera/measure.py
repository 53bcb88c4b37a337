"""Lengths in a photo, with how far off they may be; and the photo straightened, so many pixels to the mm."""

import io
from dataclasses import dataclass
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from zinnet.base.files import read_file, write_whole
from zinnet.camera.found_sheet import (
    FoundSheet,
    PhotoError,
    Picture,
    find_sheet,
)
from zinnet.camera.known_sheets import photo_numbers

FORMATS = ("JPEG", "PNG", "WEBP")
"""What a photo may be; other readers of the library are never tried, some run programs."""
MOST_BYTES = 60_000_000
PERTURBED = 64
UP_SHARE = 0.02
"""What is up is looked for at the sheet, so small a share of the picture above its middle."""
Spot = tuple[float, float]


@dataclass(frozen=True)
class PhotoLength:
    """A length in mm, and how far off it may be (two standard deviations)."""

    mm: float
    within_mm: float


def read_picture(data: bytes, name: str) -> Picture:
    """Return a picture (rows, columns, 3), turned as the camera was held. Raises :class:`PhotoError`."""
    from PIL import Image, ImageOps, UnidentifiedImageError

    try:
        with Image.open(io.BytesIO(data), formats=FORMATS) as opened:
            if opened.width * opened.height > photo_numbers().most_pixels:
                raise PhotoError(f"{name} has {opened.width} x {opened.height} pixels; make it smaller.")
            turned = ImageOps.exif_transpose(opened).convert("RGB")
            return np.asarray(turned, dtype=np.uint8)
    except PhotoError:
        raise
    except UnidentifiedImageError:
        raise PhotoError(f"{name} can't be read as a picture; save it as JPEG, PNG or WebP.") from None
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError) as error:
        raise PhotoError(f"{name} can't be read as a picture ({error}); save it as JPEG, PNG or WebP.") from None


def on_plane(found: FoundSheet, spots: NDArray[np.float64]) -> NDArray[np.float64]:
    """Return where pixels (n, 2) lie on the sheet's plane, in mm. Raises :class:`PhotoError` beyond the horizon."""
    return _mapped(found.to_mm, spots)


def _mapped(matrix: NDArray[np.float64], spots: NDArray[np.float64]) -> NDArray[np.float64]:
    rows = np.column_stack([spots, np.ones(len(spots))]) @ matrix.T
    if (rows[:, 2] <= 1e-9).any():
        raise PhotoError("A point lies beyond the plane of the sheet; measure on the garment only.")
    return np.asarray(rows[:, :2] / rows[:, 2:])


def length_between(found: FoundSheet, one: Spot, other: Spot) -> PhotoLength:
    """Return how far two pixels are from each other on the sheet's plane.

    The corners of the sheet are moved at random by what they may be off, to see how far off the length may be.
    """
    import cv2

    spots = np.array([one, other], dtype=np.float64)
    first, second = on_plane(found, spots)
    luck = np.random.default_rng(1)
    flat = np.array([(0, 0), (found.sides_mm[0], 0), found.sides_mm, (0, found.sides_mm[1])], dtype=np.float32)
    lengths = []
    for _ in range(PERTURBED):
        moved = found.corners + luck.normal(0, found.corner_px, (4, 2))
        matrix = cv2.getPerspectiveTransform(moved.astype(np.float32), flat)
        a, b = _mapped(np.asarray(matrix, dtype=np.float64), spots)
        lengths.append(float(np.hypot(*(a - b))))
    return PhotoLength(float(np.hypot(*(first - second))), 2 * float(np.std(lengths)))


@dataclass(frozen=True, eq=False)
class StraightPhoto:
    """A photo from straight above: its picture, pixels per mm, and the matrix from its pixels to the sheet's mm."""

    picture: Picture
    px_mm: float
    to_sheet: NDArray[np.float64]


def straightened(picture: Picture, found: FoundSheet) -> StraightPhoto:
    """Return a photo as if taken from straight above, what was up still up; what is far from the sheet is left out."""
    import cv2

    numbers = photo_numbers()
    rows, columns = picture.shape[:2]
    upright = _turned_up(found, columns, rows)
    to_mm = upright @ found.to_mm
    beyond = numbers.beyond_sheets * max(found.sides_mm)
    edge = np.array([(x, y) for x in np.linspace(0, columns - 1, 40) for y in np.linspace(0, rows - 1, 40)])
    flat = np.column_stack([edge, np.ones(len(edge))]) @ to_mm.T
    flat = flat[flat[:, 2] > 1e-6]
    seen = flat[:, :2] / flat[:, 2:]
    middle = upright[:2, :2] @ (np.array(found.sides_mm) / 2)
    seen = np.clip(seen, middle - beyond, middle + beyond)
    left, top = seen.min(axis=0)
    wide, high = seen.max(axis=0) - (left, top)
    px_mm = min(numbers.straight_px_mm, numbers.most_straight_px / max(wide, high))
    to_px = np.array([[px_mm, 0, -px_mm * left], [0, px_mm, -px_mm * top], [0, 0, 1]])
    size = (max(1, round(wide * px_mm)), max(1, round(high * px_mm)))
    flat_picture = cv2.warpPerspective(picture, to_px @ to_mm, size, flags=cv2.INTER_AREA)
    to_sheet = np.asarray(np.linalg.inv(to_px @ upright))
    return StraightPhoto(np.asarray(flat_picture, dtype=np.uint8), px_mm, to_sheet)


def _turned_up(found: FoundSheet, columns: int, rows: int) -> NDArray[np.float64]:
    """Return the turn (3, 3) of the sheet's plane after which what is up in the photo is up."""
    x, y = found.corners.mean(axis=0)
    high = min(rows, columns) * UP_SHARE
    here, above = on_plane(found, np.array([(x, y), (x, y - high)]))
    angle = np.arctan2(*(above - here)[::-1]) + np.pi / 2
    turn = np.eye(3)
    turn[:2, :2] = [[np.cos(angle), np.sin(angle)], [-np.sin(angle), np.cos(angle)]]
    return turn


def written_png(straight: StraightPhoto, path: Path) -> Path:
    """Write a straightened photo as PNG, its life size stated; return the path."""
    from PIL import Image

    buffer = io.BytesIO()
    dots = straight.px_mm * 25.4
    Image.fromarray(straight.picture).save(buffer, format="PNG", dpi=(dots, dots))
    return write_whole(path, buffer.getvalue(), error=PhotoError)


def picture_of(path: Path) -> Picture:
    """Return the picture of a file. Raises :class:`PhotoError`."""
    return read_picture(read_file(path, MOST_BYTES, error=PhotoError), path.name)


def photo_of(path: Path, paper: str) -> tuple[Picture, FoundSheet]:
    """Return the picture of a file and the sheet in it. Raises :class:`PhotoError`."""
    picture = picture_of(path)
    return picture, find_sheet(picture, paper)


def length_on(found: FoundSheet, straight: StraightPhoto, one: Spot, other: Spot) -> PhotoLength:
    """Return how far two pixels of the straightened photo are from each other on the sheet's plane."""
    flat = _mapped(straight.to_sheet, np.array([one, other], dtype=np.float64))
    back = _mapped(np.asarray(np.linalg.inv(found.to_mm)), flat)
    first, second = ((float(x), float(y)) for x, y in back)
    return length_between(found, first, second)
