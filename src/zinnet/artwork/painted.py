"""What artwork paints: one region per fill and per stroke, flattened within a tolerance."""

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace

import numpy as np
import shapely

from zinnet.artwork.model import Artwork, Paint, Shape, StrokeStyle
from zinnet.base.errors import ArtworkError
from zinnet.geometry.curves import Subpath, flatten, segments_needed
from zinnet.geometry.dashes import dash
from zinnet.geometry.region import Region, common, fill, hull_box, settled, union
from zinnet.geometry.stroke import stroke
from zinnet.geometry.transform import moved, stretch

FLATNESS_MM = 0.02
"""How far a curve may lie from the lines that stand for it, in mm of the finished design."""
MOST_POINTS = 3_000_000
"""So many points all curves may take together; artwork that is cut takes a hundredth of that."""
FINEST_SHARE = 1e-6
"""The tolerance of outlines in shares of the artwork's larger side, where that is more than was asked for."""
LINE_SHARE = 0.006
"""How thick a line is drawn that the file gave no thickness, in shares of the artwork's larger side."""


@dataclass(frozen=True, eq=False)
class Painted:
    """One painted area in artwork units; ``shape`` counts the shapes from the bottom."""

    shape: int
    paint: Paint
    region: Region


def paint_artwork(artwork: Artwork, tolerance: float) -> list[Painted]:
    """Return every painted area from the bottom up, in artwork units, within ``tolerance`` of the curves.

    What lies outside the artwork's visible box is left out, as any viewer leaves it out.
    """
    _refuse_endless(artwork, tolerance)
    view = shapely.box(*artwork.view) if artwork.view else None
    found = []
    for index, shape in enumerate(artwork.shapes):
        if artwork.view and _is_outside(shape, artwork.view):
            continue
        for paint, region in _areas(shape, tolerance):
            for clip in shape.clips:
                region = common(region, clip)
            if view is not None and not region.is_empty and not shapely.contains(view, shapely.box(*region.bounds)):
                region = common(region, view)
            if not region.is_empty:
                found.append(Painted(index, paint, region))
    return found


def _refuse_endless(artwork: Artwork, tolerance: float) -> None:
    """Raise where curves take too many points: far larger than what is seen of them, or drawn again and again."""
    count = 0
    for shape in artwork.shapes:
        cubics = [subpath.cubics for subpath in shape.subpaths if len(subpath.cubics)]
        if cubics:
            count += int(segments_needed(np.concatenate(cubics), tolerance / stretch(shape.matrix)).sum())
    if count > MOST_POINTS:
        raise ArtworkError(
            f"The curves of the artwork take {count / 1e6:.0f} million points to cut within {FLATNESS_MM} mm: they are "
            "far larger than what is seen, or drawn again and again. Simplify it."
        )


def _is_outside(shape: Shape, view: tuple[float, float, float, float]) -> bool:
    """Tell whether all that a shape paints, strokes and their mitres included, lies beside the visible box."""
    drawn = [subpath.moved(shape.matrix).cubics.reshape(-1, 2) for subpath in shape.subpaths if len(subpath.cubics)]
    if not drawn:
        return True
    points = np.concatenate(drawn)
    style = shape.stroke
    reach = 0.0 if style is None else style.width * max(style.miter_limit, 2.0) * stretch(shape.matrix)
    left, top, right, bottom = view
    return bool(
        (points.max(axis=0) + reach < (left, top)).any() or (points.min(axis=0) - reach > (right, bottom)).any()
    )


def _areas(shape: Shape, tolerance: float) -> Iterator[tuple[Paint, Region]]:
    own = tolerance / stretch(shape.matrix)
    if shape.fill is not None:
        rings = [flatten(subpath, own) for subpath in shape.subpaths]
        yield shape.fill, settled(moved(fill(rings, shape.fill_rule), shape.matrix))
    if shape.stroke is not None:
        style = shape.stroke
        dashed = dash(shape.subpaths, pattern=style.dashes, offset=style.dash_offset, tolerance=own)
        area = stroke(
            shape.subpaths if dashed is None else dashed,
            width=style.width,
            cap=style.cap,
            join=style.join,
            miter_limit=style.miter_limit,
            tolerance=own,
        )
        yield style.paint, settled(moved(area, shape.matrix))


def outline_region(artwork: Artwork, tolerance: float) -> Region:
    """Return what the outlines of artwork enclose, whatever their paint, in artwork units.

    An outline that is drawn but not filled counts as filled, since it is where the blade goes; one that
    does not close counts with the stroke that it is drawn with. Of outlines hundreds of metres large the
    tolerance is coarser: a millionth of their size.
    """
    if artwork.shapes:
        tolerance = max(tolerance, FINEST_SHARE * rough_extent(replace(artwork, view=None)))
    _refuse_endless(artwork, tolerance)
    found = []
    for shape in artwork.shapes:
        own = tolerance / stretch(shape.matrix)
        closed = [subpath for subpath in shape.subpaths if subpath.closed or shape.fill is not None]
        rings = [flatten(subpath, own) for subpath in closed]
        found.append(settled(moved(fill(rings, shape.fill_rule), shape.matrix)))
        if not closed:
            found += [area for _, area in _areas(shape, tolerance)]
    return union(found)


def lines_from_open(artwork: Artwork) -> Artwork:
    """Return the artwork with filled outlines that do not close drawn as lines of their colour instead."""
    width = rough_extent(artwork) * LINE_SHARE

    def as_line(shape: Shape) -> list[Shape]:
        drawn = [subpath for subpath in shape.subpaths if is_open(subpath)]
        if not drawn or shape.fill is None or shape.stroke is not None:
            return [shape]
        style = StrokeStyle(shape.fill, width / stretch(shape.matrix), "round", "round")
        lines = replace(shape, subpaths=tuple(drawn), fill=None, stroke=style)
        rest = tuple(subpath for subpath in shape.subpaths if not is_open(subpath))
        return [replace(shape, subpaths=rest), lines] if rest else [lines]

    shapes = tuple(line for shape in artwork.shapes for line in as_line(shape))
    return replace(artwork, shapes=shapes, remarks=tuple(one for one in artwork.remarks if one.code != "open-outline"))


def is_open(subpath: Subpath) -> bool:
    """Tell whether an outline ends elsewhere than it began."""
    cubics = subpath.cubics
    return not subpath.closed and len(cubics) > 1 and bool(np.abs(cubics[0, 0] - cubics[-1, 3]).max() > 1e-6)


def painted_box(painted: list[Painted]) -> tuple[float, float, float, float]:
    """Return (left, top, right, bottom) around all that is painted, in artwork units."""
    if not painted:
        raise ArtworkError("The artwork paints nothing inside its page; check its viewBox and its colours.")
    return hull_box([area.region for area in painted])


def round_width_mm(width_mm: float) -> float:
    """Return the width in mm at which work is done for all widths up to it: the next power of the root of two."""
    return float(2 ** (math.ceil(2 * math.log2(width_mm)) / 2))


def rough_extent(artwork: Artwork) -> float:
    """Return the larger side of the box around the shapes' control points, in artwork units."""
    points = np.concatenate(
        [subpath.moved(shape.matrix).cubics.reshape(-1, 2) for shape in artwork.shapes for subpath in shape.subpaths]
    )
    if artwork.view is not None:
        left, top, right, bottom = artwork.view
        points = np.clip(points, (left, top), (right, bottom))
    extent = float(np.ptp(points, axis=0).max())
    return extent if math.isfinite(extent) and extent > 0 else 1.0
