"""Coloured areas that the steps work on, from the bottom up, and picking some of them."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

import shapely

from zinnet.geometry.region import Region, hull_box, union
from zinnet.steps.model import Which

NEAR_SHARE = 0.01
"""A point beside a thin part still picks it from this far, in shares of the artwork's width."""


@dataclass(frozen=True, eq=False)
class Area:
    """One painted area in mm."""

    colour: str
    region: Region
    name: str = ""


Areas = tuple[Area, ...]


@dataclass(frozen=True, eq=False)
class Choice:
    """An area taken apart: what of it was chosen, and the rest."""

    area: Area
    chosen: Region
    rest: Region


def box_of(areas: Iterable[Area]) -> tuple[float, float, float, float]:
    """Return (left, top, right, bottom) around all areas."""
    return hull_box(area.region for area in areas)


def choose(areas: Areas, which: Which) -> list[Choice]:
    """Return every area with what of it is chosen; the order is kept."""
    if which.points:
        taken = _under_points(areas, which)
        return [_parted(area, taken.get(index, set())) for index, area in enumerate(areas)]
    return [
        Choice(area, area.region, Region())
        if not which.colours or area.colour in which.colours
        else Choice(area, Region(), area.region)
        for area in areas
    ]


def _under_points(areas: Areas, which: Which) -> dict[int, set[int]]:
    """Return for each area the numbers of its parts that lie under a point, the topmost under each."""
    left, top, right, _ = box_of(areas)
    wide = right - left
    taken: dict[int, set[int]] = {}
    parts = [(index, number, part) for index, area in enumerate(areas) for number, part in enumerate(area.region.geoms)]
    tree = shapely.STRtree([part for _, _, part in parts])
    for x, y in which.points:
        point = shapely.Point(left + x * wide, top + y * wide)
        hits = tree.query(point, predicate="intersects")
        if len(hits) == 0:
            hits = tree.query(point, predicate="dwithin", distance=NEAR_SHARE * wide)
        if len(hits):
            index, number, _ = parts[max(hits, key=lambda hit: parts[hit][0])]
            taken.setdefault(index, set()).add(number)
    return taken


def _parted(area: Area, numbers: set[int]) -> Choice:
    parts = list(area.region.geoms)
    chosen = [part for number, part in enumerate(parts) if number in numbers]
    return Choice(area, Region(chosen), Region([part for n, part in enumerate(parts) if n not in numbers]))


def chosen_region(choices: Sequence[Choice]) -> Region:
    """Return all that is chosen."""
    return union(choice.chosen for choice in choices)


def put_back(choices: Sequence[Choice], changed: Sequence[Region]) -> Areas:
    """Return the areas with what was chosen of each changed; what is empty goes."""
    areas = []
    for choice, region in zip(choices, changed, strict=True):
        if choice.rest.is_empty:
            whole = region
        elif region.is_empty:
            whole = choice.rest
        else:
            whole = union([choice.rest, region])
        if not whole.is_empty:
            areas.append(replace(choice.area, region=whole))
    return tuple(areas)
