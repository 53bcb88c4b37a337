"""A known shape found in a picture by itself: turned by any angle and shifted, its size known from the plane.

First roughly, by correlation at every few degrees through the Fourier transform; then by enhanced correlation (G.
Evangelidis and E. Psarakis, Parametric image alignment using enhanced correlation coefficient maximization, IEEE TPAMI
30, 2008; here as OpenCV has it), from coarse to fine.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from zinnet.camera.drawn import FINER, covered
from zinnet.camera.flat import Flat, Layer
from zinnet.camera.known_sheets import photo_numbers
from zinnet.geometry.region import Region
from zinnet.geometry.transform import Matrix, moved, turn

ROUGH_PX = 72
"""So many pixels the shape is wide, or high, where it is looked for roughly."""
ROUGH_PX_MM = 1.0
TURN_STEP = 5.0
TRIED = 5
STEP_PX_MM, STEP_MM = 1.0, 5.0
STEP_TURNS = (-3.75, -2.5, -1.25, 0.0, 1.25, 2.5, 3.75)
"""Near a rough place so many turns and shifts up to so far are tried before it is taken closer."""
MARGIN_MM = 4.0


@dataclass(frozen=True, eq=False)
class Alignment:
    """Where a shape lies: the matrix from its own mm to the table's, and how alike it and the picture are, 0 to 1."""

    matrix: Matrix
    score: float


def align(flat: Flat, share: Layer, region: Region) -> Alignment | None:
    """Return where a shape lies; None where nothing like it is seen.

    Parameters
    ----------
    flat
        The straightened picture.
    share
        How much of each of its pixels is of the shape's film, 0 to 1.
    region : Region, mm
        The shape, about any origin, as it is seen: mirrored already where it is seen from behind.
    """
    found = [closer_from(flat, share, region, start) for start in _rough(flat, share, region)]
    best = max((one for one in found if one is not None), key=lambda one: one.score, default=None)
    return None if best is None or best.score < photo_numbers().least_alike else best


def _rough(flat: Flat, share: Layer, region: Region) -> list[Matrix]:
    """Return the likeliest places, the best first."""
    import cv2
    from scipy import fft

    left, top, right, bottom = region.bounds
    middle = np.array([(left + right) / 2, (top + bottom) / 2])
    size = float(np.hypot(right - left, bottom - top))
    px_mm = min(flat.px_mm, ROUGH_PX / size, ROUGH_PX_MM)
    factor = px_mm / flat.px_mm
    small = cv2.resize(share, None, fx=factor, fy=factor, interpolation=cv2.INTER_AREA)
    side = int(np.ceil(size * px_mm)) + 8
    crop, (first_x, first_y) = _busy(np.asarray(small, dtype=np.float32), side)
    image = np.pad(crop, side // 2 + 1)
    offset = np.array([first_x, first_y]) - (side // 2 + 1) + side / 2
    rows, columns = (fft.next_fast_len(length, real=True) for length in image.shape)
    seen = fft.rfft2(np.stack([image, image * image]), (rows, columns), workers=-1)
    tops: list[tuple[float, Matrix]] = []
    high, wide = image.shape[0] - side + 1, image.shape[1] - side + 1
    for angle in np.arange(0.0, 360.0, TURN_STEP):
        about = turn(float(angle)) @ _shifted(-middle)
        half = side / 2 / px_mm
        cover = covered(moved(region, about), (side, side), px_mm, (-half, -half), FINER)
        window = (cv2.dilate((cover > 0).astype(np.uint8), np.ones((5, 5), np.uint8)) > 0).astype(np.float32)
        alike = _correlation(seen, cover, window, (rows, columns))[:high, :wide]
        for _ in range(2):
            y, x = np.unravel_index(int(np.argmax(alike)), alike.shape)
            at = (np.array([float(x), float(y)]) + offset) / px_mm + flat.corner
            tops.append((float(alike[y, x]), _shifted(at) @ about))
            alike[max(0, y - 4) : y + 5, max(0, x - 4) : x + 5] = -1
    tops.sort(key=lambda row: -row[0])
    return [matrix for _, matrix in tops[:TRIED]]


def _busy(image: Layer, margin: int) -> tuple[Layer, tuple[int, int]]:
    """Return the part of a picture in which there is anything, with a margin, and its first column and row."""
    rows, columns = np.where(image > 0.4)
    if not len(rows):
        return image, (0, 0)
    edge = margin // 4
    low_y, high_y = (int(one) for one in np.percentile(rows, [0.5, 99.5]))
    low_x, high_x = (int(one) for one in np.percentile(columns, [0.5, 99.5]))
    first = (max(0, low_x - edge), max(0, low_y - edge))
    return image[first[1] : high_y + edge, first[0] : high_x + edge], first


def _shifted(by: NDArray[np.float64]) -> Matrix:
    matrix = np.eye(3)
    matrix[:2, 2] = by
    return matrix


def _correlation(
    seen: NDArray[np.complex64], cover: Layer, window: Layer, shape: tuple[int, int]
) -> NDArray[np.float32]:
    """Return the normalised correlation of a template within its window with an image, by the template's corner.

    ``seen`` are the spectra of the image and of its square (2, rows, columns).
    """
    from scipy import fft

    count = float(window.sum())
    mean = float((cover * window).sum()) / count
    deviation = (cover - mean) * window
    norm = float(np.sqrt((deviation**2).sum()))
    other = np.conj(fft.rfft2(np.stack([deviation, window]), shape, workers=-1))
    products = np.stack([seen[0] * other[0], seen[0] * other[1], seen[1] * other[1]])
    product, total, squares = fft.irfft2(products, shape, workers=-1)
    variance = np.maximum(squares - total**2 / count, 1e-3 * count)
    return np.asarray(product / (np.sqrt(variance) * max(norm, 1e-9)))


def closer_from(flat: Flat, share: Layer, region: Region, start: Matrix) -> Alignment | None:
    """Return the place near a rough one where shape and picture are most alike; None where they are not at all."""
    matrix, score = _by_steps(flat, share, region, start)
    for px_mm, blur in ((1.0, 9), (min(3.0, flat.px_mm), 5)):
        found = _closer(flat, share, region, matrix, min(px_mm, flat.px_mm), blur)
        if found is not None:
            matrix, score = found
    return Alignment(matrix, score) if score > 0 else None


def _by_steps(flat: Flat, share: Layer, region: Region, start: Matrix) -> tuple[Matrix, float]:
    """Return the best of some turns and shifts near a place, by correlation."""
    import cv2

    px_mm = min(STEP_PX_MM, flat.px_mm)
    factor = px_mm / flat.px_mm
    image = share if factor >= 0.99 else cv2.resize(share, None, fx=factor, fy=factor, interpolation=cv2.INTER_AREA)
    reach = int(np.ceil(STEP_MM * px_mm))
    image = np.pad(np.asarray(image, dtype=np.float32), 4 * reach)
    best: tuple[Matrix, float] = (start, 0.0)
    middle = np.array([*region.centroid.coords[0], 1.0])
    spot = (start @ middle)[:2]
    for angle in STEP_TURNS:
        about = _shifted(spot) @ turn(angle) @ _shifted(-spot) @ start
        laid = moved(region, about)
        left, top, right, bottom = laid.bounds
        corner = (left - MARGIN_MM, top - MARGIN_MM)
        size = (round((bottom - top + 2 * MARGIN_MM) * px_mm), round((right - left + 2 * MARGIN_MM) * px_mm))
        template = covered(laid, size, px_mm, corner, FINER)
        at = np.round((np.array(corner) - flat.corner) * px_mm).astype(int) + 4 * reach
        y, x = int(at[1]) - reach, int(at[0]) - reach
        if y < 0 or x < 0:
            continue
        window = image[y : y + size[0] + 2 * reach, x : x + size[1] + 2 * reach]
        if window.shape[0] <= size[0] or window.shape[1] <= size[1]:
            continue
        alike = cv2.matchTemplate(window, template, cv2.TM_CCOEFF_NORMED)
        _, score, _, (dx, dy) = cv2.minMaxLoc(alike)
        if score > best[1]:
            by = np.array([dx - reach, dy - reach]) / px_mm
            best = (_shifted(by) @ about, float(score))
    return best


def _closer(
    flat: Flat, share: Layer, region: Region, matrix: Matrix, px_mm: float, blur: int
) -> tuple[Matrix, float] | None:
    import cv2

    left, top, right, bottom = region.bounds
    corner = (left - MARGIN_MM, top - MARGIN_MM)
    shape = (round((bottom - top + 2 * MARGIN_MM) * px_mm), round((right - left + 2 * MARGIN_MM) * px_mm))
    template = covered(region, shape, px_mm, corner, FINER)
    factor = px_mm / flat.px_mm
    image = share if factor >= 0.99 else cv2.resize(share, None, fx=factor, fy=factor, interpolation=cv2.INTER_AREA)
    to_mm = np.array([[1 / px_mm, 0, corner[0] + 0.5 / px_mm], [0, 1 / px_mm, corner[1] + 0.5 / px_mm], [0, 0, 1]])
    to_px = np.array([[px_mm, 0, -flat.corner[0] * px_mm - 0.5], [0, px_mm, -flat.corner[1] * px_mm - 0.5], [0, 0, 1]])
    warp = (to_px @ matrix @ to_mm)[:2].astype(np.float32)
    ends = (cv2.TERM_CRITERIA_EPS | cv2.TERM_CRITERIA_COUNT, 60, 1e-5)
    try:
        seen = np.ascontiguousarray(image, dtype=np.float32)
        whole = np.full(seen.shape, 255, np.uint8)
        score, warp = cv2.findTransformECC(template, seen, warp, cv2.MOTION_EUCLIDEAN, ends, whole, blur)
    except cv2.error:
        return None
    full = np.vstack([warp.astype(np.float64), [0, 0, 1]])
    found = np.linalg.inv(to_px) @ full @ np.linalg.inv(to_mm)
    return np.asarray(found), float(score)
