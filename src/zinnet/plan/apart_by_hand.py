"""Pieces of a layer joined or parted by hand: steps of the designs that they are of."""

from collections.abc import Sequence

from zinnet.base.errors import ZinnetError
from zinnet.geometry.inside import points_inside
from zinnet.geometry.region import Region, common
from zinnet.job.edits import Edit, add_step, one_step
from zinnet.layers.stack import FilmLayer
from zinnet.plan.fitted import FittedDesign
from zinnet.steps.model import KeepTogether, Which

LEAST_SEEN_MM2 = 0.5


def by_hand(composed: FittedDesign, row: FilmLayer, parts: Sequence[int], *, apart: bool) -> Edit:
    """Return the edit that makes one piece of some parts of a layer, or of each of them its own.

    Parameters
    ----------
    composed
        The composition that the layer is of.
    row
        The layer.
    parts
        Places of the parts in its region as it is cut.
    apart
        Whether each is to be its own piece; else they are one.

    Raises
    ------
    ZinnetError
        Where there is nothing to join or to part, or where the parts are of several designs.
    """
    if len(parts) < 2:
        said = "one part: nothing of it can be parted" if apart else "one part: choose another piece to join it with"
        raise ZinnetError(f"That is {said}.")
    points = points_of(composed, row, parts)
    if len(points) > 1 and not apart:
        raise ZinnetError("These parts are of several designs; only parts of one design can be joined.")
    name = "part the pieces" if apart else "join the pieces"
    steps = [
        add_step(KeepTogether(which=Which(points=tuple(spots)), apart=apart), design, name)
        for design, spots in points.items()
    ]
    return one_step(name, steps)


def points_of(composed: FittedDesign, row: FilmLayer, parts: Sequence[int]) -> dict[int, list[tuple[float, float]]]:
    """Return a point in each of some parts of a layer, where it is seen, by the designs that they are of.

    Points are in shares of the design's width, as steps take them.
    """
    points: dict[int, list[tuple[float, float]]] = {}
    for part in parts:
        region = Region([row.layer.region.geoms[part]])
        seen = common(region, row.seen)
        member, there = composed.of_member(seen if seen.area > LEAST_SEEN_MM2 else region)
        if member.split is None:
            continue
        wide = member.split.width_mm
        largest = max(there.geoms, key=lambda one: one.area)
        points.setdefault(member.index, []).extend((spot.x / wide, spot.y / wide) for spot in points_inside([largest]))
    return points
