"""Scraps of film on a table: their outlines with holes, in mm, and their colours."""

from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray

from zinnet.camera.flat import GAMMA, Flat, Layer, Table, flattened, table_of
from zinnet.camera.found_sheet import PhotoError, Picture
from zinnet.camera.known_sheets import photo_numbers
from zinnet.camera.plane import Plane, find_plane
from zinnet.geometry.region import Region, as_region

LEAST_SEEN_MM = 0.25
PAPER_WHITE = 0.97
"""How white paper is in a picture whose white is 1: about what an office sheet is, from memory."""
CUT_OFF = "A scrap reaches the edge of the picture; take it again with all of the scrap in it."
NOTHING = "No film is seen beside the sheet; lay the scrap flat on a plain table of another colour."
ALIKE = "Something lies there, but it hardly stands out; lay it on a table that is darker or lighter than the film."
COVERED = "A scrap touches the sheet; lay them a finger apart."


@dataclass(frozen=True, eq=False)
class SeenScrap:
    """One scrap: what it covers in mm on the table, how far off its outline may be, its colour under white light."""

    region: Region
    error_mm: float
    colour: str


@dataclass(frozen=True)
class SeenScraps:
    """All scraps of a picture, the largest first."""

    plane: Plane
    scraps: tuple[SeenScrap, ...]


def find_scraps(picture: Picture, sheet: str) -> SeenScraps:
    """Return the scraps that lie beside a sheet.

    Parameters
    ----------
    picture : Picture
        Red, green and blue (rows, columns, 3).
    sheet : str
        The sheet of known size, or "board".

    Raises
    ------
    PhotoError
        No sheet, no scrap, one that is cut off or hardly stands out.
    """
    plane = find_plane(picture, sheet)
    flat = flattened(picture, plane)
    table = table_of(flat)
    share, strong = film_share(flat, table)
    found = []
    for region in outlines(flat, share):
        if region.area < photo_numbers().least_scrap_mm2:
            continue
        _refuse(flat, region)
        points = shapely.get_coordinates(region)
        error = plane.off_mm(points) + LEAST_SEEN_MM + 0.5 / plane.px_mm(points.mean(axis=0))
        found.append(SeenScrap(_simpler(region, error), round(error, 2), colour_of(flat, table, region)))
    if not found:
        raise PhotoError(ALIKE if strong else NOTHING)
    return SeenScraps(plane, tuple(sorted(found, key=lambda scrap: -scrap.region.area)))


def film_share(flat: Flat, table: Table) -> tuple[Layer, bool]:
    """Return how much of each pixel is not table, 0 to 1; and whether anything is seen that hardly stands out.

    What is seen is told from the noise first, which is larger where it is dark; then each patch has its own scale: half
    of it is where its edge is. What has no sharp edge is light, not film.
    """
    import cv2

    numbers = photo_numbers()
    off = table.off(flat)
    blurred = cv2.GaussianBlur(off, (0, 0), numbers.blur_mm * flat.px_mm)
    times = np.sqrt(((blurred / table.spread) ** 2).sum(axis=2))
    size = np.sqrt((blurred**2).sum(axis=2))
    rough = ((times > numbers.least_times) & (size > numbers.least_step) & flat.free).astype(np.uint8)
    reach = max(1, round(0.6 * flat.px_mm))
    round_shape = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (2 * reach + 1, 2 * reach + 1))
    kernel = np.asarray(round_shape, dtype=np.uint8)
    rough = np.asarray(cv2.morphologyEx(rough, cv2.MORPH_OPEN, kernel), dtype=np.uint8)
    count, marked, boxes, _ = cv2.connectedComponentsWithStats(rough)
    labels = np.asarray(marked, dtype=np.int32)
    share = np.zeros(flat.shape, np.float32)
    steps = _typical(off, labels, count)
    for number in range(1, count):
        left, top, wide, high, area = (int(one) for one in boxes[number])
        if area < numbers.least_seen_mm2 * flat.px_mm**2:
            continue
        grown = 4 * reach
        rows = slice(max(0, top - grown), top + high + grown)
        columns = slice(max(0, left - grown), left + wide + grown)
        own = (labels[rows, columns] == number).astype(np.uint8)
        near = cv2.dilate(own, kernel, iterations=2) > 0
        cover = mixed(flat.light[rows, columns], table.light[rows, columns], steps[number])
        if _has_edge(cover, own, kernel, flat.free[rows, columns]):
            np.copyto(share[rows, columns], cover, where=near)
    faint = bool(((times > 0.5 * numbers.least_times) & flat.free).sum() > 0.01 * flat.free.sum())
    return share, faint


def _has_edge(cover: Layer, own: NDArray[np.uint8], kernel: NDArray[np.uint8], free: NDArray[np.bool_]) -> bool:
    """Tell whether a patch ends within a mm or two, as film does, and does not fade, as light does."""
    import cv2

    wider = cv2.dilate(own, kernel, iterations=3) > 0
    outside = wider & (cv2.dilate(own, kernel, iterations=2) == 0) & free
    if not outside.any():
        return False
    return float(cover[own > 0].mean()) - float(cover[outside].mean()) > photo_numbers().least_edge


def mixed(
    light: NDArray[np.float32], table: NDArray[np.float32], step: NDArray[np.float32], beyond: float = 0.0
) -> Layer:
    """Return how much of each pixel has a colour a step away from the table's; light mixes, not its logarithm.

    What is darker or lighter than either is cut off so far ``beyond`` 0 and 1.
    """
    below = np.exp(table)
    way = np.exp(table + step) - below
    share = ((np.exp(light) - below) * way).sum(axis=2) / np.maximum((way * way).sum(axis=2), 1e-9)
    return np.asarray(np.clip(share, -beyond, 1 + beyond), dtype=np.float32)


def _typical(off: NDArray[np.float32], labels: NDArray[np.int32], count: int) -> NDArray[np.float32]:
    """Return by what each patch differs from the table as a rule (patches, 3)."""
    flat_labels = labels.ravel()
    size = np.maximum(np.bincount(flat_labels, minlength=count), 1)
    sums = [np.bincount(flat_labels, weights=off[..., k].ravel(), minlength=count) / size for k in range(3)]
    return np.stack(sums, axis=1).astype(np.float32)


def outlines(flat: Flat, share: Layer) -> list[Region]:
    """Return what is covered at least half, as regions in mm, each with its holes."""
    import cv2

    fine = 2
    rows, columns = flat.shape
    size = (columns * fine, rows * fine)
    large = cv2.resize(cv2.GaussianBlur(share, (0, 0), 0.6), size, interpolation=cv2.INTER_LINEAR)
    mask = (large >= 0.5).astype(np.uint8)
    rings, tree = cv2.findContours(mask, cv2.RETR_CCOMP, cv2.CHAIN_APPROX_NONE)
    if tree is None:
        return []
    return [found for k in range(len(rings)) if tree[0][k][3] < 0 and (found := _patch(flat, rings, tree[0], k, fine))]


def _patch(flat: Flat, rings: object, tree: NDArray[np.int32], number: int, fine: int) -> Region | None:
    """Return one patch with its holes; None where it is too small to be anything."""
    outer = _ring(flat, rings[number], fine, outwards=1.0)  # type: ignore[index]
    if outer is None or outer.area < photo_numbers().least_seen_mm2:
        return None
    holes = []
    child = tree[number][2]
    while child >= 0:
        hole = _ring(flat, rings[child], fine, outwards=-1.0)  # type: ignore[index]
        if hole is not None and hole.area >= photo_numbers().least_hole_mm2:
            holes.append(hole)
        child = tree[child][0]
    return as_region(outer.difference(shapely.union_all(holes)) if holes else outer)


def _ring(flat: Flat, ring: NDArray[np.int32], fine: int, outwards: float) -> shapely.Polygon | None:
    """Return a ring of pixels' middles as a polygon in mm; the edge lies half a pixel farther out."""
    if len(ring) < 4:
        return None
    pixels = (ring[:, 0, :].astype(np.float64) + 0.5) / fine - 0.5
    found = shapely.Polygon(flat.to_mm(pixels))
    if not found.is_valid:
        found = max(shapely.get_parts(shapely.make_valid(found)), key=lambda part: part.area)
    grown = shapely.buffer(found, outwards * 0.5 / (fine * flat.px_mm), join_style="mitre")
    return grown if isinstance(grown, shapely.Polygon) and not grown.is_empty else None


def _simpler(region: Region, error_mm: float) -> Region:
    """Return a region with few points, within a fifth of what it may be off anyway."""
    return as_region(shapely.simplify(region, min(0.25, error_mm / 4)))


def _refuse(flat: Flat, region: Region) -> None:
    left, top, right, bottom = region.bounds
    corners = flat.to_px(np.array([(left, top), (right, bottom)]))
    rows, columns = flat.shape
    if (corners < 3).any() or (corners[:, 0] > columns - 4).any() or (corners[:, 1] > rows - 4).any():
        raise PhotoError(CUT_OFF)
    ring = flat.mask(region, 1.5) & ~flat.mask(region)
    if (ring & ~flat.seen).any():
        raise PhotoError(CUT_OFF)
    if region.distance(flat.plane.reference) < 3.5:
        raise PhotoError(COVERED)


def colour_of(flat: Flat, table: Table, region: Region) -> str:
    """Return the colour of a region as it is under white light, by the paper's white and the light on the table."""
    inside = flat.mask(region.buffer(-1.0))
    if not inside.any():
        inside = flat.mask(region)
    light = np.median(flat.light[inside], axis=0) - np.median(table.light[inside], axis=0)
    value = np.clip(np.exp((light + table.at_paper(flat) - flat.white) / GAMMA) * PAPER_WHITE, 0, 1)
    return "#" + "".join(f"{round(255 * float(one)):02x}" for one in value)
