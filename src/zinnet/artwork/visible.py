"""What is seen of painted areas that lie on one another: patches of plain colour that do not overlap."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray

from zinnet.artwork.painted import Painted
from zinnet.base.errors import ArtworkError
from zinnet.geometry.pairs import Pairs, meeting_pairs
from zinnet.geometry.parallel import each
from zinnet.geometry.region import Region, common, union, without

OPAQUE = 0.999
MOST_OVERLAPS = 60_000
MOST_PATCHES = 4000


@dataclass(frozen=True, eq=False)
class Patch:
    """What is seen of one painted area, in one plain colour."""

    colour: str
    region: Region


def visible_patches(painted: Sequence[Painted]) -> list[Patch]:
    """Return what is seen of the painted areas, from the bottom up; no two patches overlap.

    An area that is partly see-through is mixed with what lies under it (source over, in sRGB).
    """
    regions = np.array([area.region for area in painted], dtype=object)
    pairs, whole = meeting_pairs(regions, MOST_OVERLAPS)
    if not whole:
        raise ArtworkError(
            f"{len(painted)} areas of the artwork lie on one another in more than {MOST_OVERLAPS} places; simplify it."
        )
    if all(area.paint.opacity >= OPAQUE for area in painted):
        return _visible_opaque(painted, regions, pairs)
    patches: list[Patch] = []
    for area in painted:
        rest: list[Patch] = []
        bare = area.region
        for patch in patches:
            if not shapely.intersects(patch.region, area.region):
                rest.append(patch)
                continue
            rest.append(Patch(patch.colour, without(patch.region, area.region)))
            if area.paint.opacity < OPAQUE:
                mixed = mix(area.paint.colour, patch.colour, area.paint.opacity)
                rest.append(Patch(mixed, common(patch.region, area.region)))
                bare = without(bare, patch.region)
        patches = [patch for patch in rest if not patch.region.is_empty]
        if len(patches) > MOST_PATCHES:
            raise ArtworkError(
                "See-through areas lie on one another too often in the artwork; make them plain colours."
            )
        patches.append(Patch(area.paint.colour, bare if area.paint.opacity < OPAQUE else area.region))
    return [patch for patch in patches if not patch.region.is_empty]


def _visible_opaque(painted: Sequence[Painted], regions: NDArray[np.object_], pairs: Pairs) -> list[Patch]:
    """Return what is seen of areas that hide what lies under them; the second of each pair lies on the first."""
    lower, upper = pairs
    edges = np.searchsorted(lower, np.arange(len(painted) + 1))

    def seen_of(index: int) -> Region:
        above = upper[edges[index] : edges[index + 1]]
        region = painted[index].region
        return without(region, union(regions[above])) if len(above) else region

    seen = each(seen_of, range(len(painted)))
    return [Patch(area.paint.colour, region) for area, region in zip(painted, seen, strict=True) if not region.is_empty]


def mix(over: str, under: str, opacity: float) -> str:
    """Return the colour of ``over`` laid with ``opacity`` on ``under``."""
    pairs = [(int(over[k : k + 2], 16), int(under[k : k + 2], 16)) for k in (1, 3, 5)]
    return "#{:02x}{:02x}{:02x}".format(*(round(a * opacity + b * (1 - opacity)) for a, b in pairs))
