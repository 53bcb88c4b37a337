"""What two plans of a job differ in, where it is seen: on which panel of which size, and where."""

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
import shapely

from zinnet.geometry.region import Region, as_region, union
from zinnet.geometry.transform import moved
from zinnet.plan.fitted import FittedDesign, Garment
from zinnet.plan.model import Plan

type Box = tuple[float, float, float, float]

LEAST_MM2 = 0.002
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
    old, new = _garment(before, size), _garment(after, size)
    kept = {_look(one) for one in old.compositions} & {_look(one) for one in new.compositions}
    was, is_now = ([one for one in each.compositions if _look(one) not in kept] for each in (old, new))
    found: Change | None = None
    most = 0.0
    for panel in dict.fromkeys(one.panel.id for one in (*was, *is_now)):
        region = _differ(_films(was, panel), _films(is_now, panel))
        if region.area <= most:
            continue
        most = region.area
        found = Change(panel, old.size, _spots(region), _still(was) == _still(is_now))
    return found


def _garment(plan: Plan, size: str | None) -> Garment:
    return next((one for one in plan.garments if one.size == size), plan.garments[0])


def _look(design: FittedDesign) -> tuple[object, ...]:
    """Return all that is seen of a design."""
    rows = tuple((row.film, id(row.layer.region)) for row in design.layers)
    matrices = () if design.placement is None else tuple(one.tobytes() for one in design.placement.matrices)
    return design.panel.id, rows, matrices


def _films(designs: Iterable[FittedDesign], panel: str) -> dict[str, Region]:
    """Return where which film lies on a panel."""
    found: dict[str, list[Region]] = {}
    for design in designs:
        if design.panel.id == panel and design.placement is not None:
            for row in design.layers:
                film = row.film.id if row.film is not None else row.key
                found.setdefault(film, []).extend(moved(row.layer.region, one) for one in design.placement.matrices)
    return {film: union(regions) for film, regions in found.items()}


def _differ(old: dict[str, Region], new: dict[str, Region]) -> Region:
    both = ((old.get(film, Region()), new.get(film, Region())) for film in {**old, **new})
    return union(as_region(shapely.symmetric_difference(one, other)) for one, other in both)


def _spots(region: Region) -> tuple[Box, ...]:
    """Return the boxes of what changes, what lies near together as one, the largest change first."""
    parts = [part for part in region.geoms if part.area > LEAST_MM2] or list(region.geoms)
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
