"""A text as regions in mm: sized to a height, its letters joined where they overlap."""

from zinnet.artwork.lettering.text import TextSpec, height_of, refuse_missing, text_artwork
from zinnet.artwork.painted import paint_artwork
from zinnet.base.errors import ArtworkError
from zinnet.geometry.region import Region, hull_box, union

FLATNESS_MM = 0.01
STANDARD_MM = 50.0


def fitted_word(spec: TextSpec, *, width_mm: float, height_mm: float | None, joined: bool) -> list[Region]:
    """Return the letters of a text in mm, as wide as asked for, or as large as fits into a box."""
    letters = word_regions(spec, height_mm=STANDARD_MM, joined=joined)
    left, top, right, bottom = hull_box(letters)
    factor = width_mm / (right - left)
    if height_mm is not None:
        factor = min(factor, height_mm / (bottom - top))
    return word_regions(spec, height_mm=STANDARD_MM * factor, joined=joined)


def word_regions(spec: TextSpec, *, height_mm: float, joined: bool) -> list[Region]:
    """Return the letters of a text in mm, as tall as asked for; joined, one region for each connected part.

    The height is that of a single line's outlines; several lines have the type size that makes their tallest line
    as high.
    """
    refuse_missing(spec)
    lines = [line for line in spec.text.split("\n") if line.strip()]
    tall = max((height_of(line, spec.font, spec.style) for line in lines), default=0.0)
    if tall <= 0:
        raise ArtworkError("The text holds nothing but spaces; type a word.")
    size = height_mm / tall
    areas = [area.region for area in paint_artwork(text_artwork(spec, size_mm=size), FLATNESS_MM)]
    if not joined:
        return areas
    return [Region([part]) for part in union(areas).geoms]
