"""Steps that save small parts: making them larger, and joining them with a bridge."""

import shapely
import shapely.affinity

from zinnet.geometry.region import EMPTY, Region, seamless, union
from zinnet.geometry.thickness import longer_side
from zinnet.steps import model
from zinnet.steps.areas import Areas, choose, put_back

INTO_SHARE = 0.5
"""How far a bridge reaches into what it joins, in shares of its width."""


def enlarge(areas: Areas, step: model.Enlarge) -> Areas:
    """Return the areas with small parts made larger."""
    changed = []
    for choice in choose(areas, step.which):
        parts = list(choice.chosen.geoms)
        found = []
        for part, side in zip(parts, longer_side(parts), strict=True):
            factor = max(1.0, step.least_mm / side) if side > 0 else 1.0
            found.append(shapely.affinity.scale(part, factor, factor, origin=part.centroid))
        changed.append(union(found) if found else EMPTY)
    return put_back(choose(areas, step.which), changed)


def bridge(areas: Areas, step: model.Bridge) -> Areas:
    """Return the areas with chosen parts joined to the nearest part of their colour; a part alone stays as it is."""
    choices = choose(areas, step.which)
    changed = []
    for choice in choices:
        same = [other for other in choices if other.area.colour == choice.area.colour]
        spans = []
        for part in choice.chosen.geoms:
            others = [one for other in same for one in other.area.region.geoms if not one.equals(part)]
            nearest = min(others, key=lambda one: shapely.distance(one, part), default=None)
            if nearest is not None:
                spans.append(_span(part, nearest, step.width_mm))
        changed.append(seamless([choice.chosen, *spans]) if spans else choice.chosen)
    return put_back(choices, changed)


def _span(one: shapely.Polygon, other: shapely.Polygon, width: float) -> Region:
    """Return the straight bar between two parts, as wide as asked, that reaches into both."""
    (x1, y1), (x2, y2) = shapely.shortest_line(one, other).coords
    length = shapely.distance(shapely.Point(x1, y1), shapely.Point(x2, y2))
    if length == 0:
        return Region([shapely.Point(x1, y1).buffer(width / 2)])
    dx, dy = (x2 - x1) / length * width * INTO_SHARE, (y2 - y1) / length * width * INTO_SHARE
    line = shapely.LineString([(x1 - dx, y1 - dy), (x2 + dx, y2 + dy)])
    return Region([line.buffer(width / 2, cap_style="flat")])
