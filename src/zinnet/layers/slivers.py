"""Slivers: what is thinner than its film holds only because other layers were cut out of it."""

from collections.abc import Sequence

import shapely

from zinnet.base.stages import stage
from zinnet.geometry.region import EMPTY, Region, as_region, common, seamless, without
from zinnet.geometry.thickness import thin_parts
from zinnet.layers.split import ColourLayer

THIN_SHARE = 0.5
"""A thin place counts as the artwork's own where at least this much of it is thin in the uncut shape as well."""
NEAR_MM = 0.02
FLAT_SHARE = 50
"""What is flatter than this part of a width does not matter to a thickness."""


@stage(most=256)
def thin_and_slivers(layer: ColourLayer, width_mm: float) -> tuple[Region, Region]:
    """Return where a layer is drawn thinner than ``width_mm``, and its slivers: thin where others were cut out."""
    thin = thin_parts(plain(layer.region, width_mm), width_mm)
    if thin.is_empty or layer.region.area >= layer.painted.area * (1 - 1e-9):
        return thin, EMPTY
    drawn = thin_parts(plain(layer.painted, width_mm), width_mm)
    own = [common(Region([part]), drawn).area >= THIN_SHARE * part.area for part in thin.geoms]
    return (
        Region([part for part, is_own in zip(thin.geoms, own, strict=True) if is_own]),
        Region([part for part, is_own in zip(thin.geoms, own, strict=True) if not is_own]),
    )


def plain(region: Region, width_mm: float) -> Region:
    """Return a region without the points that matter nothing to a thickness."""
    simple = region.simplify(width_mm / FLAT_SHARE)
    return as_region(simple if simple.is_valid else region)


def give_slivers(
    layers: Sequence[ColourLayer], seen: Sequence[Region], widths_mm: Sequence[float]
) -> tuple[list[Region], list[Region]]:
    """Return the layers' regions, and what is seen of them, with each sliver given to the neighbour it borders most.

    A sliver without neighbour is dropped.

    Parameters
    ----------
    layers : n colour layers, mm
        As drawn, lowest first.
    seen : n regions, mm
        What is seen of each.
    widths_mm : n numbers, mm
        The least width that each film holds.

    Returns
    -------
    regions, seen: two lists of n regions, mm
        In the order of the layers.
    """
    cut, shown = [layer.region for layer in layers], list(seen)
    for index, (layer, width) in enumerate(zip(layers, widths_mm, strict=True)):
        for sliver in thin_and_slivers(layer, width)[1].geoms if width else ():
            border = [0.0 if other == index else _border(sliver, shown[other]) for other in range(len(layers))]
            to = max(range(len(layers)), key=lambda other: border[other])
            for regions in (cut, shown):
                regions[index] = without(regions[index], sliver)
                if border[to] > 0:
                    regions[to] = seamless([regions[to], sliver])
    return cut, shown


def _border(sliver: shapely.Polygon, region: Region) -> float:
    if not shapely.dwithin(sliver, region, NEAR_MM):
        return 0.0
    return float(common(region, shapely.buffer(sliver, NEAR_MM)).area)
