"""Whether a layer is weeded right: each part and counter of its cut outline judged on a picture, stray film ringed."""

from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
import shapely
from numpy.typing import NDArray

from zinnet.camera.aligned import align, closer_from
from zinnet.camera.drawn import FINER, covered
from zinnet.camera.flat import GAMMA, Flat, Layer, Table, flattened, table_of
from zinnet.camera.found_sheet import PhotoError, Picture
from zinnet.camera.known_sheets import photo_numbers
from zinnet.camera.plane import find_plane
from zinnet.camera.scene import rgb
from zinnet.camera.scraps import mixed, outlines
from zinnet.geometry.region import Region, as_region
from zinnet.geometry.transform import MIRROR, Matrix, moved

PartState = Literal["there", "missing", "unsure"]
CounterState = Literal["out", "left", "unsure"]
NOT_FOUND = (
    "The layer's outline is not found: lay all of it flat beside the sheet, on a table whose colour is not the film's, "
    "and take the picture from above. Is it this layer?"
)
MOST_LISTED = 12
DARKEST = 0.02
"""No film is darker, as a share of white."""
ALIKE = "Film and table look alike; lay the carrier on a table of another colour and take the picture again."


@dataclass(frozen=True)
class SeenPart:
    """A part of the layer: its number, where it is in the layer's own mm, and whether its film is there."""

    number: int
    at: tuple[float, float]
    area_mm2: float
    state: PartState


@dataclass(frozen=True)
class SeenCounter:
    """A counter: its number, where it is in the layer's own mm, and whether its film is out."""

    number: int
    at: tuple[float, float]
    area_mm2: float
    state: CounterState


@dataclass(frozen=True)
class Stray:
    """Film where none belongs: where it is in the layer's own mm, and how large."""

    at: tuple[float, float]
    area_mm2: float


@dataclass(frozen=True, eq=False)
class Weeding:
    """How a layer is weeded, as far as a picture tells; ``matrix`` leads from the layer's mm to the table's."""

    flat: Flat
    matrix: Matrix
    mirrored: bool
    parts: tuple[SeenPart, ...]
    counters: tuple[SeenCounter, ...]
    stray: tuple[Stray, ...]

    @property
    def in_words(self) -> list[str]:
        """What is wrong or can't be told, sentence by sentence; one that all is right where nothing is."""
        said = [
            _listed([one.number for one in self.parts if one.state == "missing"], "part", "missing"),
            _listed([one.number for one in self.counters if one.state == "left"], "counter", "still in"),
            "" if not self.stray else f"{len(self.stray)} bits of film where none belongs",
            _listed([one.number for one in self.parts if one.state == "unsure"], "part", "not to be told"),
            _listed([one.number for one in self.counters if one.state == "unsure"], "counter", "not to be told"),
        ]
        found = [f"{one}." for one in said if one]
        return found or [f"All {len(self.parts)} parts are there, {len(self.counters)} counters are out."]


def _listed(numbers: list[int], what: str, state: str) -> str:
    if not numbers:
        return ""
    many = len(numbers) > 1
    listed = ", ".join(str(number) for number in numbers[:MOST_LISTED])
    rest = f" and {len(numbers) - MOST_LISTED} more" if len(numbers) > MOST_LISTED else ""
    return f"{what.capitalize()}{'s' if many else ''} {listed}{rest} {'are' if many else 'is'} {state}"


def judge_weeding(picture: Picture, sheet: str, region: Region, colour: str, *, mirrored: bool) -> Weeding:
    """Return how a layer is weeded.

    Parameters
    ----------
    picture : Picture
        The layer on its carrier, a sheet beside it.
    sheet : str
        The sheet of known size, or "board".
    region : Region, mm
        The layer's outline in its own mm, as worn.
    colour : str
        The film's colour, #rrggbb.
    mirrored : bool
        Whether it is seen from the side from which it is mirrored; where it plainly is the other way, that is taken.

    Raises
    ------
    PhotoError
        Where the sheet or the layer is not seen, or film and table look alike.
    """
    plane = find_plane(picture, sheet)
    flat = flattened(picture, plane)
    table = table_of(flat)
    rough = likely_film(flat, table, colour)
    said, other = (_found(flat, table, rough, region, way) for way in (mirrored, not mirrored))
    found = said
    if other is not None and (said is None or other.score > said.score + photo_numbers().other_side):
        found, mirrored = other, not mirrored
    if found is None or found.score < photo_numbers().least_settled:
        raise PhotoError(NOT_FOUND)
    parts, counters = _judged(found.flat, found.share, region, found.matrix)
    stray = _stray(found.flat, found.share, region, found.matrix)
    return Weeding(found.flat, found.matrix, mirrored, parts, counters, stray)


@dataclass(frozen=True, eq=False)
class _Found:
    """Where a layer lies: the part of the picture around it, how much of each pixel is film, the matrix, how alike."""

    flat: Flat
    share: Layer
    matrix: Matrix
    score: float


def _found(flat: Flat, table: Table, rough: Layer, region: Region, mirrored: bool) -> _Found | None:
    """Return where a layer lies, looked at again by what film and bare carrier look like there."""
    seen = moved(region, MIRROR) if mirrored else region
    first = align(flat, rough, seen)
    if first is None:
        return None
    left, top, right, bottom = moved(seen, first.matrix).bounds
    beside = photo_numbers().beside_mm
    near, where = flat.part((left - beside, top - beside, right + beside, bottom + beside))
    around = Table(table.light[where], table.noise)
    found = _Found(near, rough[where], first.matrix, first.score)
    for _ in range(2):
        share = _settled(near, around, seen, found.matrix)
        again = None if share is None else closer_from(near, np.clip(share, 0, 1), seen, found.matrix)
        if share is None or again is None:
            return None
        found = _Found(near, share, again.matrix, again.score)
    return replace(found, matrix=found.matrix @ MIRROR) if mirrored else found


def likely_film(flat: Flat, table: Table, colour: str) -> Layer:
    """Return about how much of each pixel is film of a colour, 0 to 1; the rest of it is table.

    What the film looks like here follows from the paper's white and from how bright the table is where.
    """
    step = film_step(flat, table, colour)
    if float(np.sqrt((step**2).sum())) < 2 * photo_numbers().least_step:
        raise PhotoError(ALIKE)
    noise = np.sqrt(((table.off(flat) / table.spread) ** 2).sum(axis=2))
    there = (noise > photo_numbers().least_times) & flat.free
    return np.where(there, mixed(flat.light, table.light, step), 0).astype(np.float32)


def film_step(flat: Flat, table: Table, colour: str) -> NDArray[np.float32]:
    """Return by what film of a colour differs from the table (3,), by the paper's white and the table's light there."""
    film = GAMMA * np.log(np.maximum(rgb(colour) / 255, DARKEST)) + flat.white
    return np.asarray(film - table.at_paper(flat), dtype=np.float32)


def _settled(flat: Flat, table: Table, region: Region, matrix: Matrix) -> Layer | None:
    """Return how much of each pixel is film, by what film and bare carrier look like here; None where alike."""
    laid = moved(region, matrix)
    off = table.off(flat)
    core = flat.mask(laid.buffer(-0.8)) & flat.free
    if core.sum() < 30:
        core = flat.mask(laid.buffer(-0.3)) & flat.free
    gaps = flat.mask(shapely.convex_hull(laid).buffer(4.0)) & ~flat.mask(laid.buffer(0.8)) & flat.free
    film, bare = middle_of(off[core]), middle_of(off[gaps])
    if float(np.sqrt(((film - bare) ** 2).sum())) < photo_numbers().least_step:
        return None
    return mixed(flat.light, table.light + bare, film - bare, beyond=0.3) * flat.free


def middle_of(rows: NDArray[np.float32]) -> NDArray[np.float32]:
    """Return the commonest colour of rows (n, 3): the median, then the mean of what is near it."""
    if not len(rows):
        return np.zeros(3, np.float32)
    middle = np.median(rows, axis=0)
    for _ in range(3):
        far = np.sqrt(((rows - middle) ** 2).sum(axis=1))
        near = rows[far <= max(0.25, 2.0 * float(np.median(far)))]
        middle = near.mean(axis=0) if len(near) else middle
    return np.asarray(middle, dtype=np.float32)


def _judged(
    flat: Flat, share: Layer, region: Region, matrix: Matrix
) -> tuple[tuple[SeenPart, ...], tuple[SeenCounter, ...]]:
    laid = moved(region, matrix)
    blur = _blur_mm(flat, laid)
    planned = _seen_as(flat, laid, flat.shape, (0, 0), blur)
    parts: list[SeenPart] = []
    counters: list[SeenCounter] = []
    back = np.linalg.inv(matrix)
    for number, part in enumerate(laid.geoms, start=1):
        share_there = _presence(flat, share, planned, as_region(part), blur, there=True)
        parts.append(SeenPart(number, _spot(part, back), float(part.area), _part_state(share_there)))
        for ring in part.interiors:
            hole = shapely.Polygon(ring)
            inside = as_region(hole.difference(shapely.union_all([one for one in laid.geoms if hole.contains(one)])))
            if inside.is_empty:
                continue
            left = _presence(flat, share, planned, inside, blur, there=False)
            counters.append(
                SeenCounter(len(counters) + 1, _spot(inside, back), float(inside.area), _counter_state(left))
            )
    return tuple(parts), tuple(counters)


def _presence(
    flat: Flat, share: Layer, planned: Layer, region: Region, blur_mm: float, *, there: bool
) -> tuple[float, float]:
    """Return how much of a region is film, 0 to 1, and how far off that may be; ``there`` where it is planned to be."""
    rows, columns = _window(flat, region, 3 * blur_mm + 1.0)
    shape = (rows.stop - rows.start, columns.stop - columns.start)
    own = _seen_as(flat, region, shape, (columns.start, rows.start), blur_mm)
    if not own.size or float(own.max()) < 0.1:
        return 0.5, 1.0
    weight = np.where(own > 0.5 * float(own.max()), own, 0.0) * flat.free[rows, columns]
    total = float((weight * own).sum())
    if total <= 0:
        return 0.5, 1.0
    without = planned[rows, columns] - (own if there else 0.0)
    left_over = share[rows, columns] - without
    level = float((weight * left_over).sum()) / total
    spread = float(np.sqrt((weight * (left_over - level * own) ** 2).sum() / max(float(weight.sum()), 1e-9)))
    count = max(1.0, float(weight.sum()) / max(1.0, (blur_mm * flat.px_mm) ** 2))
    return level, spread / float(np.sqrt(count))


def _seen_as(flat: Flat, region: Region, shape: tuple[int, int], at: tuple[int, int], blur_mm: float) -> Layer:
    """Return how a region is seen where nothing else is: its cover of each pixel, blurred as the picture is."""
    import cv2

    corner = (flat.corner[0] + at[0] / flat.px_mm, flat.corner[1] + at[1] / flat.px_mm)
    cover = covered(region, shape, flat.px_mm, corner, FINER if min(shape) < 900 else 2)
    return np.asarray(cv2.GaussianBlur(cover, (0, 0), max(0.3, blur_mm * flat.px_mm)), dtype=np.float32)


def _window(flat: Flat, region: Region, margin_mm: float) -> tuple[slice, slice]:
    left, top, right, bottom = region.bounds
    spots = np.array([(left - margin_mm, top - margin_mm), (right + margin_mm, bottom + margin_mm)])
    (x1, y1), (x2, y2) = flat.to_px(spots)
    rows, columns = flat.shape
    x1, x2 = (int(np.clip(x, 0, columns)) for x in (x1, x2 + 1))
    y1, y2 = (int(np.clip(y, 0, rows)) for y in (y1, y2 + 1))
    return slice(y1, y2), slice(x1, x2)


def _blur_mm(flat: Flat, laid: Region) -> float:
    """Return about how far a picture is blurred, in mm: a pixel of the photo and half."""
    return photo_numbers().blur_px / flat.plane.px_mm(np.array(laid.centroid.coords[0]))


def _part_state(seen: tuple[float, float]) -> PartState:
    level, off = seen
    sure = photo_numbers().sure_share
    if level - off > sure:
        return "there"
    return "missing" if level + off < 1 - sure else "unsure"


def _counter_state(seen: tuple[float, float]) -> CounterState:
    level, off = seen
    sure = photo_numbers().sure_share
    if level + off < 1 - sure:
        return "out"
    return "left" if level - off > sure else "unsure"


def _spot(region: Region | shapely.Polygon, back: Matrix) -> tuple[float, float]:
    """Return a point inside a region, in the layer's own mm."""
    spot = shapely.get_coordinates(region.representative_point())[0]
    x, y, _ = back @ (*spot, 1.0)
    return round(float(x), 2), round(float(y), 2)


def _stray(flat: Flat, share: Layer, region: Region, matrix: Matrix) -> tuple[Stray, ...]:
    """Return film beside the parts; what is left in a counter is told there."""
    laid = moved(region, matrix)
    filled = as_region(shapely.union_all([shapely.Polygon(part.exterior) for part in laid.geoms]))
    apart = photo_numbers().stray_apart_mm
    outside = flat.free & ~flat.mask(filled.buffer(apart))
    back = np.linalg.inv(matrix)
    found = []
    for patch in outlines(flat, np.where(outside, np.clip(share, 0, 1), 0.0).astype(np.float32)):
        if patch.area >= photo_numbers().least_stray_mm2 and flat.plane.reference.distance(patch) > 4.0:
            found.append(Stray(_spot(patch, back), round(float(patch.area), 1)))
    return tuple(sorted(found, key=lambda one: -one.area_mm2))
