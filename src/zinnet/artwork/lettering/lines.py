"""A line of text as one region, to be scaled and set by whoever makes something of it."""

from zinnet.artwork.lettering.text import TextSpec, text_artwork
from zinnet.artwork.painted import paint_artwork
from zinnet.base.stages import stage
from zinnet.geometry.region import Region, union

FLATNESS = 4e-4


@stage(most=64)
def text_region(spec: TextSpec) -> Region:
    """Return all that a text covers, its letters joined, in em."""
    return union(area.region for area in paint_artwork(text_artwork(spec, size_mm=1.0), FLATNESS))
