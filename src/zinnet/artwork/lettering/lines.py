"""A line of text as one region, to be scaled and set by whoever makes something of it."""

from functools import lru_cache

from zinnet.artwork.lettering.text import TextSpec, text_artwork
from zinnet.artwork.painted import paint_artwork
from zinnet.geometry.region import Region, union

FLATNESS = 4e-4


@lru_cache(maxsize=64)
def text_region(spec: TextSpec) -> Region:
    """Return all that a text covers, its letters joined, in em."""
    return union(area.region for area in paint_artwork(text_artwork(spec, size_mm=1.0), FLATNESS))
