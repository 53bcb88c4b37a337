"""A picture from straight above, its colours as logarithms of light, and how bright the table is where.

In logarithms uneven light only adds to a colour, the same to all of its channels, and slowly from place to place: what
lies on the table differs from it by steps.
"""

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from zinnet.camera.found_sheet import PhotoError, Picture
from zinnet.camera.known_sheets import photo_numbers
from zinnet.camera.plane import Plane, Points, mapped
from zinnet.geometry.region import Region

type Layer = NDArray[np.float32]
"""One number for each pixel of the flat picture (rows, columns)."""

GAMMA, FLOOR = 2.2, 2.0 / 255
ROUNDS = 12
EDGE_SHARE = 0.06
TERMS = 6
BESIDE_MM = 8.0
DARK = "The picture is too dark to tell anything; take it again with more light."
NO_TABLE = (
    "The table can't be told from what lies on it: it fills less than it should of the picture's edge. "
    "Lay everything on a plain table, and take the picture from higher up."
)


@dataclass(frozen=True, eq=False)
class Flat:
    """What a picture shows of the table, straightened: ``px_mm`` pixels to the mm, its upper left corner at ``corner``.

    ``light`` is the logarithm of light (rows, columns, 3), ``seen`` where the picture shows anything, ``white`` the
    logarithm of light of bare paper (3,).
    """

    plane: Plane
    px_mm: float
    corner: tuple[float, float]
    light: NDArray[np.float32]
    seen: NDArray[np.bool_]
    white: NDArray[np.float32]

    @property
    def shape(self) -> tuple[int, int]:
        """Rows and columns."""
        return self.light.shape[0], self.light.shape[1]

    def to_px(self, spots: Points) -> Points:
        """Return where spots of the table (n, 2), in mm, are in the flat picture; a pixel's middle is whole numbers."""
        return np.asarray((spots - self.corner) * self.px_mm - 0.5)

    def to_mm(self, pixels: Points) -> Points:
        """Return where pixels of the flat picture (n, 2) are on the table, in mm."""
        return np.asarray((pixels + 0.5) / self.px_mm + self.corner)

    def mask(self, region: Region, grown_mm: float = 0.0) -> NDArray[np.bool_]:
        """Return which pixels a region of the table covers (rows, columns)."""
        from zinnet.camera.drawn import covered

        grown = region.buffer(grown_mm) if grown_mm else region
        return covered(grown, self.shape, self.px_mm, self.corner) > 0.5

    def part(self, box: tuple[float, float, float, float]) -> tuple["Flat", tuple[slice, slice]]:
        """Return the part of it within a box (left, top, right, bottom), in mm, and which rows and columns that is."""
        spots = self.to_px(np.array([box[:2], box[2:]]))
        rows, columns = self.shape
        (x1, y1), (x2, y2) = np.clip(np.round(spots).astype(int), 0, (columns, rows))
        where = slice(int(y1), max(int(y2), int(y1) + 1)), slice(int(x1), max(int(x2), int(x1) + 1))
        corner = (self.corner[0] + float(x1) / self.px_mm, self.corner[1] + float(y1) / self.px_mm)
        part = Flat(self.plane, self.px_mm, corner, self.light[where], self.seen[where], self.white)
        return part, where

    @cached_property
    def free(self) -> NDArray[np.bool_]:
        """Where the table and what lies on it is seen, the reference left out."""
        return self.seen & ~self.mask(self.plane.reference, 3.0)


def flattened(picture: Picture, plane: Plane, px_mm: float | None = None) -> Flat:
    """Return a picture straightened, what is far from the reference left out. Raises :class:`PhotoError`."""
    import cv2

    numbers = photo_numbers()
    rows, columns = picture.shape[:2]
    edge = np.array([(x, y) for x in np.linspace(0, columns - 1, 24) for y in np.linspace(0, rows - 1, 24)])
    depth = np.column_stack([edge, np.ones(len(edge))]) @ plane.to_mm[2]
    ahead = mapped(plane.to_mm, edge[depth > 1e-3 * depth.max()])
    box = plane.reference.bounds
    beyond = max(numbers.near_sheets * max(box[2] - box[0], box[3] - box[1]), numbers.near_mm)
    low, high = np.array(box[:2]) - beyond, np.array(box[2:]) + beyond
    left, top = np.clip(ahead, low, high).min(axis=0)
    wide, tall = np.clip(ahead, low, high).max(axis=0) - (left, top)
    if px_mm is None:
        own = numbers.finer * plane.px_mm(np.array(plane.reference.centroid.coords[0]))
        px_mm = min(numbers.flat_px_mm, own, float(np.sqrt(numbers.most_flat_px / (wide * tall))))
    size = (max(8, round(wide * px_mm)), max(8, round(tall * px_mm)))
    to_flat = np.array([[px_mm, 0, -px_mm * left - 0.5], [0, px_mm, -px_mm * top - 0.5], [0, 0, 1]]) @ plane.to_mm
    flat = cv2.warpPerspective(picture, to_flat, size, flags=cv2.INTER_LINEAR)
    whole = np.full((rows, columns), 255, np.uint8)
    seen = cv2.warpPerspective(whole, to_flat, size, flags=cv2.INTER_NEAREST) > 0
    seen = cv2.erode(seen.astype(np.uint8), np.ones((5, 5), np.uint8)) > 0
    light = _logarithm(np.asarray(flat, dtype=np.uint8))
    white = _white_of(picture, plane)
    if float(white.max()) < np.log(numbers.least_white):
        raise PhotoError(DARK)
    return Flat(plane, px_mm, (float(left), float(top)), light, seen, white)


def _logarithm(picture: Picture) -> NDArray[np.float32]:
    table = np.log(np.maximum((np.arange(256) / 255.0) ** GAMMA, FLOOR**GAMMA)).astype(np.float32)
    return np.asarray(table[picture])


def _white_of(picture: Picture, plane: Plane) -> NDArray[np.float32]:
    at = np.round(plane.white_px).astype(int)
    inside = (at >= 0).all(axis=1) & (at[:, 0] < picture.shape[1]) & (at[:, 1] < picture.shape[0])
    if not inside.any():
        raise PhotoError(DARK)
    values = _logarithm(picture[at[inside, 1], at[inside, 0]])
    return np.asarray(np.percentile(values, 80, axis=0), dtype=np.float32)


@dataclass(frozen=True, eq=False)
class Table:
    """The table's colour everywhere, as logarithms (rows, columns, 3), and how far pixels are off it as a rule (3,)."""

    light: NDArray[np.float32]
    noise: NDArray[np.float32]

    @cached_property
    def spread(self) -> NDArray[np.float32]:
        """How far a pixel may be off the table by its noise (rows, columns, 3): in the dark a level is much light."""
        level = GAMMA * photo_numbers().noise_levels / np.maximum(255 * np.exp(self.light / GAMMA), 1.0)
        return np.asarray(np.sqrt(self.noise**2 + level**2), dtype=np.float32)

    def at_paper(self, flat: Flat) -> NDArray[np.float32]:
        """Return the table's light beside the reference (3,), where the paper's white was taken."""
        beside = flat.mask(flat.plane.reference, BESIDE_MM) & flat.free
        return np.asarray(np.median(self.light[beside if beside.any() else flat.free], axis=0), dtype=np.float32)

    def off(self, flat: Flat) -> NDArray[np.float32]:
        """Return by what each pixel differs from the table (rows, columns, 3)."""
        return flat.light - self.light


def table_of(flat: Flat) -> Table:
    """Return the table's colour, fitted to what is seen at the edge of the picture and goes on from there.

    Raises :class:`PhotoError` where no colour holds for most of the edge.
    """
    import cv2

    step = max(1, round(flat.px_mm * photo_numbers().fit_step_mm))
    light, free = flat.light[::step, ::step], flat.free[::step, ::step]
    rows, columns = free.shape
    y, x = np.meshgrid(np.linspace(-1, 1, rows), np.linspace(-1, 1, columns), indexing="ij")
    terms = _terms(x, y)
    band = _edge_band(free)
    if band.sum() < 40:
        raise PhotoError(NO_TABLE)
    kept = band & _commonest(light, band)
    fit = _solved(terms[kept][:, :3], light[kept])
    fit = np.vstack([fit, np.zeros((TERMS - 3, 3))])
    limit = 0.5
    for number in range(ROUNDS):
        off = light - terms @ fit
        size = np.sqrt((off**2).sum(axis=2))
        where = band if number < 4 else free
        kept = where & (size < limit)
        if kept.sum() < 30:
            raise PhotoError(NO_TABLE)
        count = 3 if number < 3 else TERMS
        fit = np.vstack([_solved(terms[kept][:, :count], light[kept]), np.zeros((TERMS - count, 3))])
        spread = 1.4826 * float(np.median(size[kept]))
        limit = float(np.clip(3.5 * spread, 0.05, 0.8 * limit if number < 6 else limit))
    if (band & (np.sqrt(((light - terms @ fit) ** 2).sum(axis=2)) < max(limit, 0.12))).sum() < 0.35 * band.sum():
        raise PhotoError(NO_TABLE)
    left_over = np.asarray(light - terms @ fit, dtype=np.float32)
    kept = free & (np.sqrt((left_over**2).sum(axis=2)) < limit)
    noise = 1.4826 * np.median(np.abs(left_over[kept]), axis=0)
    slow = _slowly(left_over, kept, photo_numbers().slow_mm / photo_numbers().fit_step_mm)
    rows, columns = flat.shape
    whole = _surface(np.linspace(-1, 1, columns), np.linspace(-1, 1, rows), fit)
    whole += cv2.resize(slow, (columns, rows), interpolation=cv2.INTER_LINEAR)
    return Table(whole, np.maximum(noise, 0.01).astype(np.float32))


def _slowly(off: NDArray[np.float32], kept: NDArray[np.bool_], reach: float) -> NDArray[np.float32]:
    """Return what is left over where it changes slowly: its mean over what is near and is table."""
    import cv2

    weight = cv2.GaussianBlur(kept.astype(np.float32), (0, 0), reach)
    total = cv2.GaussianBlur(off * kept[..., None], (0, 0), reach)
    return np.asarray(total / (weight + 0.02)[..., None], dtype=np.float32)


def _terms(x: NDArray[np.float64], y: NDArray[np.float64]) -> NDArray[np.float64]:
    return np.stack([np.ones_like(x), x, y, x * x, x * y, y * y], axis=-1)


def _surface(x: NDArray[np.float64], y: NDArray[np.float64], fit: NDArray[np.float64]) -> NDArray[np.float32]:
    found = np.empty((len(y), len(x), 3), np.float32)
    for k in range(3):
        c = fit[:, k]
        across = (c[0] + c[1] * x + c[3] * x * x)[None, :] + (c[2] * y + c[5] * y * y)[:, None] + c[4] * y[:, None] * x
        found[..., k] = across
    return found


def _solved(terms: NDArray[np.float64], values: NDArray[np.float32]) -> NDArray[np.float64]:
    found, *_ = np.linalg.lstsq(terms, values.astype(np.float64), rcond=None)
    return np.asarray(found)


def _edge_band(free: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """Return the pixels near the edge of what is seen."""
    import cv2

    reach = max(2, round(EDGE_SHARE * min(free.shape)))
    padded = np.pad(free.astype(np.uint8), 1)
    inner = cv2.erode(padded, np.ones((2 * reach + 1, 2 * reach + 1), np.uint8))[1:-1, 1:-1] > 0
    hull = cv2.morphologyEx(padded, cv2.MORPH_CLOSE, np.ones((5, 5), np.uint8))[1:-1, 1:-1] > 0
    return np.asarray(free & ~inner & hull)


def _commonest(light: NDArray[np.float32], band: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """Return which pixels have the commonest colour of a band, brightness left aside."""
    hue = np.stack([light[..., 0] - light[..., 1], light[..., 2] - light[..., 1]], axis=-1)
    middle = np.median(hue[band], axis=0)
    bright = light.mean(axis=2)
    near = np.abs(hue - middle).max(axis=2) < 0.35
    usual = np.median(bright[band & near]) if (band & near).any() else np.median(bright[band])
    return np.asarray(near & (np.abs(bright - usual) < 0.9))
