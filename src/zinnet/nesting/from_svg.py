"""Pieces to nest from an SVG: each direct child of the root is one piece, in mm."""

from zinnet.artwork.painted import outline_region
from zinnet.artwork.svg.reader import direct_children
from zinnet.errors import NestError
from zinnet.geometry.transform import moved, scale
from zinnet.nesting.model import Piece, Turns

FLATNESS_MM = 0.02


def pieces_of_svg(data: bytes, name: str, *, turns: Turns) -> list[Piece]:
    """Return the pieces of an SVG, about its own origin.

    A piece is named by its ``id``, else by its place among the pieces from 0. Where the file states no
    physical size, one unit is one mm.
    """
    found = []
    for index, (own_id, artwork) in enumerate(direct_children(data, name)):
        per_unit = artwork.mm_per_unit or 1.0
        region = outline_region(artwork, FLATNESS_MM / per_unit)
        if region.is_empty:
            raise NestError(f"Piece {own_id or index} of {name} encloses no area; remove it or close its outline.")
        found.append(Piece(own_id or str(index), moved(region, scale(per_unit)), turns=turns))
    return found
