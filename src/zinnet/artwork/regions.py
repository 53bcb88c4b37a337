"""Artwork made of regions that are known already: one shape for each."""

from collections.abc import Iterable

from zinnet.artwork.model import Artwork, Paint, Remark, Shape
from zinnet.geometry.curves import Subpath, lines_as_cubics
from zinnet.geometry.region import Region, rings_of
from zinnet.geometry.transform import IDENTITY


def region_artwork(
    areas: Iterable[tuple[str, str, Region]], *, remarks: tuple[Remark, ...] = (), mm_per_unit: float | None = 1.0
) -> Artwork:
    """Return artwork of (name, colour, region), from the bottom up; empty regions are left out."""
    shapes = [
        Shape(name, _subpaths(region), IDENTITY, Paint(colour), "evenodd", None)
        for name, colour, region in areas
        if not region.is_empty
    ]
    return Artwork(tuple(shapes), None, mm_per_unit, remarks)


def _subpaths(region: Region) -> tuple[Subpath, ...]:
    return tuple(Subpath(lines_as_cubics(ring), closed=True) for ring in rings_of(region))
