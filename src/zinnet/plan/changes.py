"""What two plans of a job differ in, where it is seen: on which panel of which size, and where."""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass

import numpy as np
import shapely

from zinnet.geometry.region import Region, as_region, differing, union
from zinnet.geometry.transform import Matrix, moved
from zinnet.plan.fitted import FittedDesign, Garment
from zinnet.plan.model import Plan

type Box = tuple[float, float, float, float]

HAIR_MM = 0.015
"""Half of what rounding moves an edge by at most."""
NEAR_MM = 0.5


@dataclass(frozen=True, eq=False)
class Change:
    """What changes on one panel of one size, in mm of the panel.

    ``spots`` are the boxes of the places that change, the largest change first. It is ``small`` where nothing moves and
    no film changes, so that each spot can be looked at by itself.
    """

    panel: str
    size: str | None
    spots: tuple[Box, ...]
    small: bool

    @property
    def box(self) -> Box:
        """The box round all of it."""
        lefts, tops, rights, bottoms = np.array(self.spots).T
        return float(lefts.min()), float(tops.min()), float(rights.max()), float(bottoms.max())


def change_between(before: Plan, after: Plan, size: str | None) -> Change | None:
    """Return what changes on a size, on the panel on which most of it does; None where nothing is seen.

    Parameters
    ----------
    before, after
        Two plans of one job.
    size
        Which size is looked at; None is the job's own.

    Returns
    -------
    Change or None, mm
    """
    old, new = garment_of(before, size), garment_of(after, size)
    was, is_now = ([row for one in each.compositions for row in _rows(one)] for each in (old, new))
    kept = {row.look for row in was} & {row.look for row in is_now}
    was, is_now = ([row for row in rows if row.look not in kept] for rows in (was, is_now))
    small = _still(old.compositions) == _still(new.compositions)
    found: Change | None = None
    most = 0.0
    for panel in dict.fromkeys(row.panel for row in (*was, *is_now)):
        region = _differ(_films(was, panel), _films(is_now, panel))
        spots = _spots(region) if region.area > most else ()
        if spots:
            most = region.area
            found = Change(panel, old.size, spots, small)
    return found


@dataclass(frozen=True, eq=False)
class _Row:
    """A layer on its panel: its film, what is cut of it in mm of the artwork, and where that lies."""

    panel: str
    film: str
    region: Region
    matrices: tuple[Matrix, ...]

    @property
    def look(self) -> tuple[object, ...]:
        """All that is seen of it."""
        return self.panel, self.film, id(self.region), tuple(one.tobytes() for one in self.matrices)


def _rows(design: FittedDesign) -> Iterator[_Row]:
    if design.placement is not None:
        for row in design.layers:
            film = row.film.id if row.film is not None else row.key
            yield _Row(design.panel.id, film, row.layer.region, design.placement.matrices)


def garment_of(plan: Plan, size: str | None) -> Garment:
    """Return what is made on a size, on the job's own where that size is not made."""
    return next((one for one in plan.garments if one.size == size), plan.garments[0])


def _films(rows: Iterable[_Row], panel: str) -> dict[str, Region]:
    """Return where which film lies on a panel."""
    found: dict[str, list[Region]] = {}
    for row in rows:
        if row.panel == panel:
            found.setdefault(row.film, []).extend(moved(row.region, one) for one in row.matrices)
    return {film: union(regions) for film, regions in found.items()}


def _differ(old: dict[str, Region], new: dict[str, Region]) -> Region:
    found = []
    for film in {**old, **new}:
        one, other = old.get(film), new.get(film)
        if one is None or other is None:
            found.append(one or other or Region())
        else:
            found.append(differing(one, other, 2 * HAIR_MM))
    return Region([part for region in found for part in region.geoms])


def _spots(region: Region) -> tuple[Box, ...]:
    """Return the boxes of what changes, what lies near together as one, the largest change first.

    What is thinner than rounding along an edge is no change.
    """
    parts = as_region(shapely.buffer(region, -HAIR_MM)).geoms
    if not len(parts):
        return ()
    near = shapely.get_parts(shapely.union_all([shapely.box(*part.bounds).buffer(NEAR_MM) for part in parts]))
    inside = shapely.STRtree(parts).query(near, predicate="intersects")
    areas = np.bincount(inside[0], weights=shapely.area(np.array(parts))[inside[1]], minlength=len(near))
    return tuple(tuple(shapely.bounds(near[k]).tolist()) for k in np.argsort(-areas))


def _still(designs: Iterable[FittedDesign]) -> list[object]:
    """Return where designs lie and of which films: alike where only outlines change."""
    return [
        (tuple(round(side) for side in one.art.bounds), tuple(row.film for row in one.layers))
        for one in designs
        if one.art is not None
    ]
