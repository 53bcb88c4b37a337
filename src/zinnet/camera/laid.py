"""Whether a piece is laid right: garment and piece found by their outlines, the piece against its planned place."""

import math
from dataclasses import dataclass

import numpy as np

from zinnet.camera.aligned import Alignment, align, closer_from
from zinnet.camera.flat import Flat, Layer, Table, flattened, table_of
from zinnet.camera.found_sheet import PhotoError, Picture
from zinnet.camera.known_sheets import photo_numbers
from zinnet.camera.plane import find_plane
from zinnet.camera.scraps import film_share, mixed
from zinnet.camera.weeded import film_step, middle_of
from zinnet.geometry.region import Region
from zinnet.geometry.transform import Matrix, moved

NO_GARMENT = (
    "The garment's outline is not found: lay it flat, all of it in the picture, on a table of another colour, with the "
    "sheet beside it. Is it this blank, in this size?"
)
NO_PIECE = (
    "The piece is not found on the garment: take the picture from above with nothing over the piece. "
    "Is it laid, and does its film stand out from the cloth?"
)
ALIKE = "Film and cloth look alike in this picture, so that the piece can't be told from the garment."


@dataclass(frozen=True, eq=False)
class SeenLaid:
    """How a piece lies against its planned place, in the panel's directions: x to the right as seen, y down.

    ``aside_mm`` and ``down_mm`` are how far its middle is off, ``turn_deg`` how far it is turned, clockwise as seen;
    each with how far off that may be. ``panel`` leads from the panel's mm to the table's, ``piece`` from there on.
    """

    flat: Flat
    panel: Matrix
    piece: Matrix
    aside_mm: float
    down_mm: float
    turn_deg: float
    error_mm: float
    error_deg: float

    @property
    def in_words(self) -> str:
        """How it lies, in a sentence."""
        parts = []
        if abs(self.aside_mm) > self.error_mm:
            parts.append(f"{abs(self.aside_mm):.1f} mm to the {'right' if self.aside_mm > 0 else 'left'} as seen")
        if abs(self.down_mm) > self.error_mm:
            parts.append(f"{abs(self.down_mm):.1f} mm {'down' if self.down_mm > 0 else 'up'}")
        if abs(self.turn_deg) > self.error_deg:
            parts.append(f"{abs(self.turn_deg):.1f} degrees {'clockwise' if self.turn_deg > 0 else 'anticlockwise'}")
        sure = f"within {self.error_mm:.1f} mm and {self.error_deg:.1f} degrees"
        return f"It lies {', '.join(parts)}, {sure}." if parts else f"It lies in its place, {sure}."


def judge_laid(picture: Picture, sheet: str, panel: Region, piece: Region, colour: str) -> SeenLaid:
    """Return how a piece lies on a garment.

    Parameters
    ----------
    picture : Picture
        The garment on a table, a sheet beside it or on it.
    sheet : str
        The sheet of known size, or "board".
    panel : Region, mm
        The outline of the garment's side that is seen.
    piece : Region, mm
        The piece at its planned place, in the panel's mm.
    colour : str
        The film's colour, #rrggbb.

    Raises
    ------
    PhotoError
        Where sheet, garment or piece are not found, or film and cloth look alike.
    """
    plane = find_plane(picture, sheet)
    flat = flattened(picture, plane)
    table = table_of(flat)
    share, _ = film_share(flat, table)
    lies = align(flat, (share > 0.5).astype(np.float32), panel)
    if lies is None:
        raise PhotoError(NO_GARMENT)
    on_cloth = _film_on_cloth(flat, table, moved(panel, lies.matrix), colour)
    found = _piece_from(flat, on_cloth, piece, lies.matrix)
    if found is None or found.score < photo_numbers().least_alike:
        raise PhotoError(NO_PIECE)
    off = np.linalg.inv(lies.matrix) @ found.matrix
    middle = np.array([*piece.centroid.coords[0], 1.0])
    aside, down, _ = off @ middle - middle
    turned = math.degrees(math.atan2(off[1, 0], off[0, 0]))
    error, error_deg = _errors(flat, panel, piece, lies.matrix)
    return SeenLaid(flat, lies.matrix, found.matrix, float(aside), float(down), turned, error, error_deg)


def _film_on_cloth(flat: Flat, table: Table, laid: Region, colour: str) -> Layer:
    """Return how much of each pixel of the garment is film."""
    inside = flat.mask(laid.buffer(-8.0)) & flat.free
    if inside.sum() < 200:
        raise PhotoError(NO_GARMENT)
    cloth = middle_of(table.off(flat)[inside])
    film = film_step(flat, table, colour)
    if float(np.sqrt(((film - cloth) ** 2).sum())) < 2 * photo_numbers().least_step:
        raise PhotoError(ALIKE)
    share = mixed(flat.light, table.light + cloth, film - cloth)
    return np.asarray(np.where(inside, share, 0.0), dtype=np.float32)


def _piece_from(flat: Flat, share: Layer, piece: Region, panel: Matrix) -> Alignment | None:
    """Return where the piece lies: near its planned place, or anywhere on the garment."""
    near = closer_from(flat, share, piece, panel)
    if near is not None and near.score >= photo_numbers().surely_alike:
        return near
    far = align(flat, share, piece)
    return max((one for one in (near, far) if one is not None), key=lambda one: one.score, default=None)


def _errors(flat: Flat, panel: Region, piece: Region, matrix: Matrix) -> tuple[float, float]:
    """Return how far off place (mm) and turn (degrees) may be: by the plane, a pixel's share and the cloth's edge."""
    spots = np.array(moved(panel, matrix).convex_hull.exterior.coords)
    numbers = photo_numbers()
    pixel = 1.0 / flat.px_mm
    plane = flat.plane.off_mm(spots) * 0.5
    error = math.hypot(plane, 0.3 * pixel, numbers.cloth_edge_mm)
    left, top, right, bottom = piece.bounds
    size = max(math.hypot(right - left, bottom - top), 1.0)
    high = math.hypot(*(np.ptp(spots, axis=0)))
    turned = math.degrees(math.hypot(0.3 * pixel / size, numbers.cloth_edge_mm / high, plane / high))
    return round(error, 2), round(2 * turned, 2)
