"""The outlines of a mat in the order in which they are cut: inner before outer."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from shapely.geometry import Polygon

from zinnet.geometry.region import Region
from zinnet.nesting.mats import Mat


@dataclass(frozen=True, eq=False)
class CutPath:
    """One closed outline on the sheet in mm (n, 2), its last point equal to its first."""

    points: NDArray[np.float64]
    is_counter: bool


@dataclass(frozen=True, eq=False)
class CutPiece:
    """All outlines of one piece on the sheet."""

    name: str
    paths: tuple[CutPath, ...]


@dataclass(frozen=True, eq=False)
class CutSheet:
    """All that is cut on one mat."""

    film: str
    width_mm: float
    height_mm: float
    pieces: tuple[CutPiece, ...]


def cut_sheet(film: str, width_mm: float, height_mm: float, pieces: Sequence[tuple[str, Region]]) -> CutSheet:
    """Return the cut paths of pieces lying on a sheet.

    An outline encloses more area than any that lies inside it, so the smaller is cut first; in the same
    way a piece that lies in another one's counter comes before it.
    """
    ordered = sorted(pieces, key=lambda piece: Polygon.from_bounds(*piece[1].bounds).area)
    return CutSheet(film, width_mm, height_mm, tuple(CutPiece(name, _inner_first(region)) for name, region in ordered))


def _inner_first(region: Region) -> tuple[CutPath, ...]:
    rings = [(ring, False) for part in region.geoms for ring in [part.exterior]]
    rings += [(ring, True) for part in region.geoms for ring in part.interiors]
    rings.sort(key=lambda row: Polygon(row[0]).area)
    return tuple(CutPath(np.asarray(ring.coords)[:, :2], is_counter) for ring, is_counter in rings)


def on_bed(sheet: CutSheet, stick: tuple[float, float], bed: Mat) -> CutSheet:
    """Return what is cut with the film stuck on a mat that it shares, its corner so far from the mat's (mm)."""
    pieces = tuple(
        CutPiece(piece.name, tuple(CutPath(path.points + np.array(stick), path.is_counter) for path in piece.paths))
        for piece in sheet.pieces
    )
    return CutSheet(sheet.film, bed.width_mm, bed.height_mm, pieces)
