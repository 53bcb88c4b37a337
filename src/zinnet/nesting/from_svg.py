"""What to nest, and what to cut it from, out of SVGs, in mm."""

from zinnet.artwork.painted import FLATNESS_MM, outline_region
from zinnet.artwork.svg.reader import direct_children, read_svg
from zinnet.base.errors import NestError
from zinnet.geometry.region import Region, settled
from zinnet.geometry.transform import moved, scale, shift
from zinnet.nesting.model import Piece, Turns
from zinnet.nesting.sheet import Sheet


def pieces_of_svg(data: bytes, name: str, *, turns: Turns) -> list[Piece]:
    """Return the pieces of an SVG, about its own origin.

    A piece is named by its ``id``, else by its place among the pieces from 0. Where the file states no
    physical size, one unit is one mm.

    Parameters
    ----------
    data : bytes
        The SVG file.
    name : str
        The file's name, for messages.
    turns : Turns
        How the pieces may be turned.

    Returns
    -------
    pieces, mm
        About their own origin.

    Raises
    ------
    ArtworkError
        The file can't be read, or paints nothing.
    """
    found = []
    for index, (own_id, artwork) in enumerate(direct_children(data, name)):
        per_unit = artwork.mm_per_unit or 1.0
        region = outline_region(artwork, FLATNESS_MM / per_unit)
        if region.is_empty:
            raise NestError(f"Piece {own_id or index} of {name} encloses no area; remove it or close its outline.")
        found.append(Piece(own_id or str(index), moved(region, scale(per_unit)), turns=turns))
    return found


def region_of_svg(data: bytes, name: str) -> Region:
    """Return all that an SVG paints, in mm from its own origin; without a physical size one unit is one mm."""
    artwork = read_svg(data, name)
    per_unit = artwork.mm_per_unit or 1.0
    region = outline_region(artwork, FLATNESS_MM / per_unit)
    if region.is_empty:
        raise NestError(f"{name} paints no area; draw the outline closed and filled, what is cut out as a hole.")
    return settled(moved(region, scale(per_unit)))


def scrap_of(region: Region, label: str, *, margin_mm: float) -> tuple[Sheet, tuple[float, float]]:
    """Return a scrap with its true outline, and where the corner of its box lies in the region's coordinates."""
    left, top, right, bottom = region.bounds
    sheet = Sheet(
        width_mm=right - left,
        height_mm=bottom - top,
        margin_mm=margin_mm,
        outline=moved(region, shift(-left, -top)),
        copies=1,
        kind="scrap",
        label=label,
    )
    return sheet, (left, top)
