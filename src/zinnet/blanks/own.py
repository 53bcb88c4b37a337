"""Outlines of one's own for a blank, read from SVG or DXF into rings in mm."""

import shapely

from zinnet.artwork.painted import outline_region, rough_extent
from zinnet.artwork.read import read_artwork
from zinnet.base.errors import ArtworkError, BlankError
from zinnet.blanks.model import OwnOutline
from zinnet.geometry.region import as_region, rings_of

FLATNESS_MM = 0.05
MOST_POINTS = 20_000
LEAST_MM2 = 25.0


def read_outline(name: str, data: bytes) -> OwnOutline:
    """Return what the outlines of a file enclose, the upper left of its box at (0, 0), y down.

    Where the file states no physical size, one unit is one mm: the outline is scaled to what is measured anyway.
    Raises :class:`BlankError` where it holds no closed outline.
    """
    try:
        artwork = read_artwork(data, name)
    except ArtworkError as error:
        raise BlankError(str(error)) from None
    if not artwork.shapes:
        raise BlankError(f"{name} holds no shape; draw the blank's edge as one closed line.")
    mm = artwork.mm_per_unit or 1.0
    drawn = outline_region(artwork, min(FLATNESS_MM / mm, rough_extent(artwork) / 1000))
    region = as_region(shapely.transform(drawn, lambda points: points * mm))
    if region.area < LEAST_MM2:
        raise BlankError(f"{name} holds no closed outline of any size; draw the blank's edge as one closed line.")
    region = as_region(shapely.simplify(region, FLATNESS_MM))
    if shapely.get_num_coordinates(region) > MOST_POINTS:
        raise BlankError(f"{name} has an outline of more than {MOST_POINTS} points; simplify it.")
    left, top, _, _ = region.bounds
    rings = tuple(tuple((round(x - left, 4), round(y - top, 4)) for x, y in ring) for ring in rings_of(region))
    return OwnOutline(name=name, rings=rings)
