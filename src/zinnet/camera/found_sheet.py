"""Finding a sheet of known size in a picture: candidates by brightness, sides to a fraction of a pixel, their shape.

What is found is checked before it is believed: all four sides must be seen along their whole length, the corners must
be paper, and the proportions must be those of the sheet for a camera that there can be (square pixels, its axis in the
middle of the picture; Zhengyou Zhang and Li-wei He, Whiteboard scanning and image enhancement, 2007).
"""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from zinnet.base.errors import ZinnetError
from zinnet.camera.edges import Points, Side, find_side
from zinnet.camera.known_sheets import Paper, photo_numbers

Picture = NDArray[np.uint8]
FOCALS = np.geomspace(0.55, 2.2, 120)
REFINED = 3
SURER, SURE = 3.0, 0.004
"""Another sheet is meant where it fits so many times better, and by this."""
NONE = "No sheet of paper is seen whole; lay it flat on the garment, all four corners in the picture."
FAINT = (
    "No sheet stands out: what looks like one is hardly brighter than what lies beside it. "
    "Put something dark under the sheet."
)
CUT_OFF = (
    "No whole sheet is seen: what is brightest reaches the edge of the picture. "
    "Take it again with all four corners of the sheet in it."
)
OTHER = "What lies there has other proportions."
CORNER = "A corner of the sheet is covered or folded; lay it flat and free, and take the picture again."
EDGE = "An edge of the sheet is covered or bent; lay it flat and free, and take the picture again."
PROBLEMS = (NONE, FAINT, CUT_OFF, CORNER, EDGE, OTHER)
"""What may be wrong; where several things are, the last one of these says most."""


class PhotoError(ZinnetError):
    """A photo in which lengths can't be told."""


@dataclass(frozen=True, eq=False)
class FoundSheet:
    """The sheet: its corners in pixels (4, 2), clockwise, its sides in mm along the first and the second of them.

    ``to_mm`` is the matrix (3, 3) from pixels to mm on the sheet's plane, the first corner at the origin, and
    ``corner_px`` how far off a corner may be.
    """

    paper: Paper
    corners: Points
    sides_mm: tuple[float, float]
    to_mm: NDArray[np.float64]
    corner_px: float
    tilt_deg: float


def find_sheet(picture: Picture, paper: str) -> FoundSheet:
    """Return the sheet of a picture (rows, columns, 3), red, green and blue.

    Raises :class:`PhotoError` that says what is wrong: no sheet, a covered one, or one of other proportions.
    """
    papers = photo_numbers().papers
    if paper not in papers:
        raise PhotoError(f"There is no sheet “{paper}”; it is one of {', '.join(papers)}.")
    grey, other = picture.min(axis=2).astype(np.float32), OTHER
    said = NONE
    best: tuple[float, FoundSheet] | None = None
    for corners in _candidates(grey):
        sides = _sides(grey, corners)
        if sides is None:
            continue
        exact = np.array([sides[k - 1].meets(sides[k]) for k in range(4)])
        problem = _problem(grey, exact, sides)
        if problem is not None:
            said = max(said, problem, key=PROBLEMS.index)
            continue
        offs = {name: _as_paper(exact, sides, one, picture.shape) for name, one in papers.items()}
        found, off = offs[paper]
        least = min(offs, key=lambda name: offs[name][1])
        if off > photo_numbers().ratio_tolerance or off > SURER * offs[least][1] + SURE:
            said = max(said, OTHER, key=PROBLEMS.index)
            other = _other(papers, paper, least, offs[least][1])
            continue
        size = _area(exact)
        if best is None or size > best[0]:
            best = size, found
    if best is None:
        raise PhotoError(other if said == OTHER else said)
    return best[1]


def _candidates(grey: NDArray[np.float32]) -> Iterator[Points]:
    """Yield rough corners (4, 2), clockwise in the picture, of bright patches with four sides."""
    import cv2

    numbers = photo_numbers()
    factor = min(1.0, numbers.detect_px / max(grey.shape))
    small = cv2.resize(grey, None, fx=factor, fy=factor, interpolation=cv2.INTER_AREA)
    small = cv2.GaussianBlur(small, (5, 5), 0)
    low, high = np.percentile(small, [30, 99.9])
    whole = small.shape[0] * small.shape[1]
    seen: list[Points] = []
    for level in np.linspace(low, high, numbers.levels + 2)[1:-1]:
        mask = (small > level).astype(np.uint8)
        mask = cv2.morphologyEx(mask, cv2.MORPH_OPEN, np.ones((3, 3), np.uint8))
        outlines, _ = cv2.findContours(mask, cv2.RETR_LIST, cv2.CHAIN_APPROX_NONE)
        for outline in outlines:
            area = cv2.contourArea(outline)
            if not numbers.least_share * whole <= area <= numbers.most_share * whole:
                continue
            hull = cv2.convexHull(outline)
            if area < 0.85 * cv2.contourArea(hull):
                continue
            corners = _four(np.asarray(hull, dtype=np.int32))
            if corners is None or any(np.abs(corners - other).max() < 3 for other in seen):
                continue
            seen.append(corners)
            yield (corners + 0.5) / factor - 0.5


def _four(hull: NDArray[np.int32]) -> Points | None:
    """Return the four corners that a hull has, clockwise; None where it has others."""
    import cv2

    around = cv2.arcLength(hull, True)
    for share in (0.015, 0.025, 0.04, 0.06):
        found = cv2.approxPolyDP(hull, share * around, True)
        if len(found) == 4:
            corners = found[:, 0, :].astype(np.float64)
            turned = corners - corners.mean(axis=0)
            return np.asarray(corners[np.argsort(np.arctan2(turned[:, 1], turned[:, 0]))])
    return None


def _sides(grey: NDArray[np.float32], corners: Points) -> list[Side] | None:
    """Return the four sides; looked for again from where they were found, more narrowly each time."""
    shortest = min(float(np.hypot(*(corners[k] - corners[k - 1]))) for k in range(4))
    reach = max(4.0, 0.05 * shortest)
    found: list[Side] = []
    for _ in range(REFINED):
        found = []
        for k in range(4):
            side = find_side(grey, corners[k], corners[(k + 1) % 4], photo_numbers().samples, reach)
            if side is None:
                return None
            found.append(side)
        try:
            corners = np.array([found[k - 1].meets(found[k]) for k in range(4)])
        except np.linalg.LinAlgError:
            return None
        if not np.isfinite(corners).all() or np.abs(corners).max() > 4 * max(grey.shape):
            return None
        reach = max(3.0, reach / 2)
    return found


def _problem(grey: NDArray[np.float32], corners: Points, sides: list[Side]) -> str | None:
    """Return what keeps a quadrilateral from being a whole sheet of paper, in a sentence."""
    numbers = photo_numbers()
    rows, columns = grey.shape
    if (corners < 1).any() or (corners[:, 0] > columns - 2).any() or (corners[:, 1] > rows - 2).any():
        return CUT_OFF
    middle = corners.mean(axis=0)
    inside = _median_at(grey, middle + 0.5 * (corners - middle))
    for k in range(4):
        at_corner = corners[k] + numbers.corner_share * (middle - corners[k])
        if _median_at(grey, at_corner[None]) < inside - 2.5 * numbers.least_contrast:
            return CORNER
        along = np.linspace(corners[k], corners[(k + 1) % 4], 9)[1:-1]
        out = along + 0.05 * (along - middle)
        if inside - _median_at(grey, out) < numbers.least_contrast:
            return FAINT
        if sides[k].support < numbers.support:
            return EDGE
    return None


def _median_at(grey: NDArray[np.float32], points: Points) -> float:
    rows, columns = grey.shape
    x = np.clip(np.round(points[:, 0]).astype(int), 2, columns - 3)
    y = np.clip(np.round(points[:, 1]).astype(int), 2, rows - 3)
    around = [grey[y + dy, x + dx] for dy in (-2, 0, 2) for dx in (-2, 0, 2)]
    return float(np.median(around))


def _as_paper(corners: Points, sides: list[Side], paper: Paper, shape: tuple[int, ...]) -> tuple[FoundSheet, float]:
    """Return the sheet with its long side where it fits best, and by which share its proportions are off."""
    short, long = paper.sides_mm
    tried = []
    for first, second in ((short, long), (long, short)):
        to_px = _homography(first, second, corners)
        off, tilt = _off(to_px, shape)
        tried.append((off, tilt, first, second, to_px))
    off, tilt, first, second, to_px = min(tried, key=lambda row: row[0])
    off_px = max(side.off_px / np.sqrt(max(side.count, 1)) for side in sides)
    to_mm = np.linalg.inv(to_px)
    return FoundSheet(paper, corners, (first, second), to_mm / to_mm[2, 2], float(max(2 * off_px, 0.1)), tilt), off


def _homography(first: float, second: float, corners: Points) -> NDArray[np.float64]:
    import cv2

    flat = np.array([(0, 0), (first, 0), (first, second), (0, second)], dtype=np.float32)
    return np.asarray(cv2.getPerspectiveTransform(flat, corners.astype(np.float32)), dtype=np.float64)


def _off(to_px: NDArray[np.float64], shape: tuple[int, ...]) -> tuple[float, float]:
    """Return by which share the sides are off what one camera could see, for the best camera, and its tilt in degrees.

    The two axes of the sheet, seen back through the camera, are at right angles and of one length.
    """
    rows, columns = shape[:2]
    centred = np.array([[1, 0, -columns / 2], [0, 1, -rows / 2], [0, 0, 1]]) @ to_px
    best = (np.inf, 0.0)
    for focal in FOCALS * max(rows, columns):
        x, y = centred[:, 0] / [focal, focal, 1], centred[:, 1] / [focal, focal, 1]
        size_x, size_y = np.linalg.norm(x), np.linalg.norm(y)
        ratio = abs(np.log(size_x / size_y))
        skew = abs(float(x @ y)) / (size_x * size_y)
        off = float(np.hypot(ratio, skew))
        if off < best[0]:
            normal = np.cross(x / size_x, y / size_y)
            best = off, float(np.degrees(np.arccos(min(1.0, abs(normal[2]) / np.linalg.norm(normal)))))
    return best


def _other(papers: dict[str, Paper], asked: str, least: str, off: float) -> str:
    """Say that the sheet has other proportions, and whose."""
    like = f"; it looks like {papers[least].name}" if off <= photo_numbers().ratio_tolerance else ""
    return f"What lies there has not the proportions of {papers[asked].name}{like}. Say which sheet it is."


def _area(corners: Points) -> float:
    x, y = corners[:, 0], corners[:, 1]
    return 0.5 * abs(float(x @ np.roll(y, -1) - y @ np.roll(x, -1)))
