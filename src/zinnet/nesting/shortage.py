"""How many pieces can't lie on the film that there is, whoever nests them: proved by their width, and by their area.

Pieces grown by half the gap never overlap, and lie within the room grown by as much: their areas add up to no more
than its area. That, and the width of each piece, are bounds for every nest.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely

from zinnet.base.stages import stage
from zinnet.geometry.transform import moved, turn
from zinnet.nesting.model import NestTask, Piece
from zinnet.nesting.sheet import Sheet, film_of, room_of

QUAD_SEGS = 16
SLACK = 1e-6


@dataclass(frozen=True)
class Shortage:
    """Of so many pieces that are wanted: how many are too wide for any film, and how many more its area can't hold."""

    wanted: int
    too_wide: int
    too_much: int

    @property
    def proved(self) -> int:
        """How many pieces certainly find no room."""
        return self.too_wide + self.too_much


def shortage(task: NestTask) -> Shortage:
    """Return how many pieces of a task certainly find no room on its sheets, in whatever order and however turned."""
    return _shortage(task.pieces, task.sheets, task.gap_mm)


@stage(most=64)
def _shortage(pieces: tuple[Piece, ...], sheets: tuple[Sheet, ...], gap_mm: float) -> Shortage:
    wanted = sum(piece.copies for piece in pieces)
    fitting = [piece for piece in pieces if any(_may_lie(piece, sheet) for sheet in sheets)]
    held = sum(piece.copies for piece in fitting)
    if any(sheet.copies is None for sheet in sheets):
        return Shortage(wanted, wanted - held, 0)
    room = sum(_grown_room_mm2(sheet, gap_mm) for sheet in sheets)
    most = _most_by_area(fitting, room, gap_mm)
    return Shortage(wanted, wanted - held, held - most)


def _most_by_area(pieces: Sequence[Piece], room_mm2: float, gap_mm: float) -> int:
    """Return how many pieces fit by area at most: the smallest ones."""
    rows = sorted((_grown_mm2(piece, gap_mm), piece.copies) for piece in pieces)
    most, left = 0, room_mm2 * (1 + SLACK)
    for area, copies in rows:
        taken = min(copies, int(left / area))
        most, left = most + taken, left - taken * area
        if taken < copies:
            break
    return most


def _grown_mm2(piece: Piece, gap_mm: float) -> float:
    """Return the area of a piece grown by half the gap; flattened circles lie inside the true ones."""
    return float(shapely.buffer(piece.region, gap_mm / 2, quad_segs=QUAD_SEGS).area)


def _grown_room_mm2(sheet: Sheet, gap_mm: float) -> float:
    """Return the room of all there is of a sheet, grown by half the gap; of a roll, as if it were never cut."""
    if sheet.roll_mm is not None:
        sheet = sheet.model_copy(update={"width_mm": sheet.roll_mm, "copies": 1})
    if sheet.is_plain:
        width, height = sheet.inner
        return max(0.0, width + gap_mm) * max(0.0, height + gap_mm) * (sheet.copies or 1)
    return float(shapely.buffer(room_of(sheet), gap_mm / 2).area) * (sheet.copies or 1)


def _may_lie(piece: Piece, sheet: Sheet) -> bool:
    """Tell whether a piece may lie on a sheet by the widths of both; whatever shape the film has, its box holds it."""
    left, top, right, bottom = film_of(sheet).bounds
    width, height = right - left - 2 * sheet.margin_mm, bottom - top - 2 * sheet.margin_mm
    turns = piece.allowed_turns
    if turns is None:
        return bool(_least_width(piece) <= min(width, height) + SLACK)
    hull = shapely.convex_hull(piece.region)
    boxes = (moved(hull, turn(angle)).bounds for angle in turns)
    return any(box[2] - box[0] <= width + SLACK and box[3] - box[1] <= height + SLACK for box in boxes)


def _least_width(piece: Piece) -> float:
    """Return the least width of a piece's hull over all angles: it is met where an edge lies flat (Toussaint 1983)."""
    corners = shapely.get_coordinates(shapely.convex_hull(piece.region))[:-1]
    edges = np.roll(corners, -1, axis=0) - corners
    across = np.stack([-edges[:, 1], edges[:, 0]], axis=1) / np.linalg.norm(edges, axis=1)[:, np.newaxis]
    reach = corners @ across.T
    return float((reach.max(axis=0) - reach.min(axis=0)).min())
