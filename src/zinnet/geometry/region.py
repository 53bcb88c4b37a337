"""Regions: polygons with holes, made from rings by a fill rule, cleaned, and taken apart."""

import contextlib
from collections.abc import Callable, Iterable, Iterator, Sequence
from typing import Literal, TypeAlias, cast

import numpy as np
import shapely
import shapely.errors
from numpy.typing import NDArray
from shapely.geometry import MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from zinnet.base.errors import ArtworkError
from zinnet.geometry.inside import points_inside

FillRule = Literal["nonzero", "evenodd"]
Region: TypeAlias = MultiPolygon  # noqa: UP040 - it also makes regions
"""Everywhere in Zinnet an area is a valid MultiPolygon, empty where there is nothing."""

EMPTY: Region = MultiPolygon()
GRID = 1e-6
"""The grid on which an overlay is tried again that plain rounding broke."""
COARSER = 1e-7
"""The grid on which it is tried after that, as a share of the largest coordinate."""
FINEST = 1e-10
"""The grid of outlines that run back over themselves, as a share of the largest coordinate."""
MANY_POINTS = 700
SAMPLE = 60
MOST_CROSSINGS = 150_000
POLYGON = shapely.GeometryType.POLYGON
FEW_PARTS = 24
"""So few parts are joined without a look at which of them lie near others."""


def as_region(geometry: BaseGeometry) -> Region:
    """Return the areas of any geometry as one region; lines and points are dropped."""
    if isinstance(geometry, MultiPolygon):
        return geometry
    polygons = [part for part in _simple_parts(geometry) if isinstance(part, Polygon) and not part.is_empty]
    return MultiPolygon(polygons)


def _simple_parts(geometry: BaseGeometry) -> Iterator[BaseGeometry]:
    """Yield the parts of a geometry, those of collections in collections too."""
    if geometry.geom_type in ("GeometryCollection", "MultiPolygon"):
        for part in geometry.geoms:
            yield from _simple_parts(part)
    else:
        yield geometry


def parts(region: Region) -> list[Polygon]:
    """Return the connected parts of a region."""
    return list(region.geoms)


def union(regions: Iterable[BaseGeometry]) -> Region:
    """Return what any of the regions covers."""
    near, alone = touching(list(regions), 0.0)
    joined = _overlaid(_union_of, near)
    return Region([*joined.geoms, *alone]) if alone else joined


def _union_of(*regions: BaseGeometry, grid_size: float | None = None) -> BaseGeometry:
    return shapely.union_all(regions, grid_size=grid_size)


def seamless(regions: Iterable[BaseGeometry]) -> Region:
    """Return what any of the regions covers, those that only meet joined without a seam between them."""
    near, alone = touching(list(regions), 2 * GRID)
    try:
        with np.errstate(all="ignore"):
            joined = as_region(shapely.union_all(near, grid_size=GRID))
    except shapely.errors.GEOSException:
        joined = union(near)
    return Region([*joined.geoms, *alone]) if alone else joined


def touching(regions: list[BaseGeometry], within: float) -> tuple[list[BaseGeometry], list[BaseGeometry]]:
    """Return the parts of regions that come near others, and those that lie alone; few are all taken for near.

    Parameters
    ----------
    regions : geometries
        Any unit.
    within : float, the same unit
        Parts that come so near one another are not alone.

    Returns
    -------
    near, alone : lists of geometries
        Together the parts of all regions; ``alone`` holds polygons.
    """
    if len(regions) < 2 or sum(map(shapely.get_num_geometries, regions)) < FEW_PARTS:
        return regions, []
    parts = shapely.get_parts(np.array(regions, dtype=object))
    near = np.zeros(len(parts), dtype=bool)
    boxes = shapely.box(*(shapely.bounds(parts) + within * np.array([-1, -1, 1, 1])).T) if within else parts
    one, other = shapely.STRtree(parts).query(boxes)
    one, other = one[one < other], other[one < other]
    met = shapely.dwithin(parts[one], parts[other], within)
    near[one[met]] = near[other[met]] = True
    lone = ~near & (shapely.get_type_id(parts) == POLYGON) & ~shapely.is_empty(parts)
    return parts[near].tolist(), parts[lone].tolist()


def without(region: Region, other: BaseGeometry) -> Region:
    """Return what the region covers and ``other`` does not."""
    near, alone, others = _crossing(region, other)
    left = _overlaid(shapely.difference, (near, others))
    return Region([*left.geoms, *alone]) if alone else left


def common(region: Region, other: BaseGeometry) -> Region:
    """Return what both cover."""
    near, _, others = _crossing(region, other)
    return _overlaid(shapely.intersection, (near, others))


def differing(one: Region, other: Region, within: float = 0.0) -> Region:
    """Return what only one of two regions covers. Parts that both have alike cost nothing.

    Parameters
    ----------
    one, other : Region
        Any unit.
    within : float, the same unit
        Parts count as alike whose boxes, areas, outlines and numbers of holes differ by no more than edges do that
        lie so near one another.

    Returns
    -------
    Region
    """
    mine, theirs = shapely.get_parts(one), shapely.get_parts(other)
    i, j = shapely.STRtree(theirs).query(mine)
    outlines = shapely.length(mine[i])
    alike = (np.abs(shapely.bounds(mine[i]) - shapely.bounds(theirs[j])) <= within).all(axis=1)
    alike &= np.abs(shapely.area(mine[i]) - shapely.area(theirs[j])) <= within * outlines / 4
    alike &= np.abs(outlines - shapely.length(theirs[j])) <= within * outlines / 4
    alike &= shapely.get_num_interior_rings(mine[i]) == shapely.get_num_interior_rings(theirs[j])
    alike &= shapely.distance(shapely.centroid(mine[i]), shapely.centroid(theirs[j])) <= within / 4
    left = shapely.multipolygons(np.delete(mine, i[alike]))
    right = shapely.multipolygons(np.delete(theirs, j[alike]))
    return Region([*without(left, right).geoms, *without(right, left).geoms])


def _crossing(region: BaseGeometry, other: BaseGeometry) -> tuple[BaseGeometry, list[BaseGeometry], BaseGeometry]:
    """Return the parts of a region whose boxes meet those of another one's parts, the rest, and the latter parts."""
    if shapely.get_num_geometries(region) + shapely.get_num_geometries(other) < FEW_PARTS:
        return region, [], other
    mine, theirs = shapely.get_parts(region), shapely.get_parts(other)
    if not (_are_polygons(mine) and _are_polygons(theirs)):
        return region, [], other
    one, two = shapely.STRtree(theirs).query(mine)
    near, met = np.zeros(len(mine), dtype=bool), np.zeros(len(theirs), dtype=bool)
    near[one] = met[two] = True
    return shapely.multipolygons(mine[near]), mine[~near].tolist(), shapely.multipolygons(theirs[met])


def _are_polygons(parts: NDArray[np.object_]) -> bool:
    return bool((shapely.get_type_id(parts) == POLYGON).all() and not shapely.is_empty(parts).any())


def _overlaid(overlay: Callable[..., BaseGeometry], regions: Sequence[BaseGeometry]) -> Region:
    """Return regions laid over each other: as they are, and where rounding breaks that, on coarser and coarser grids.

    Raises :class:`ArtworkError` where no grid helps.
    """
    with contextlib.suppress(shapely.errors.GEOSException), np.errstate(all="ignore"):
        return as_region(overlay(*regions))
    sound = [valid(region) for region in regions]
    largest = max((abs(value) for region in sound if not region.is_empty for value in region.bounds), default=0.0)
    for grid in sorted({GRID, COARSER * largest}):
        with contextlib.suppress(shapely.errors.GEOSException), np.errstate(all="ignore"):
            return as_region(overlay(*sound, grid_size=grid))
    raise ArtworkError(
        "Areas of the artwork can't be laid over each other: their numbers are too large and too close. Simplify it."
    )


def settled(region: Region) -> Region:
    """Return the region valid again, where moving it rounded neighbouring points onto or past each other."""
    if region.is_valid:
        return region
    again = common(valid(region), shapely.box(*region.bounds))
    return without_specks(again, FINEST * float(np.abs(region.bounds).max()))


def valid(region: BaseGeometry) -> Region:
    """Return a region whose edges rounding crossed, valid again: its outlines joined, its holes taken out of them."""
    return as_region(shapely.make_valid(region, method="structure", keep_collapsed=False))


def without_specks(region: Region, width: float) -> Region:
    """Return the region without parts and holes that are numerical dust: thinner than ``width`` all over."""
    kept = []
    for part in region.geoms:
        if is_dust(part, width):
            continue
        holes = [hole for hole in part.interiors if not is_dust(Polygon(hole), width)]
        kept.append(Polygon(part.exterior, holes) if len(holes) < len(part.interiors) else part)
    return MultiPolygon(kept)


def is_dust(part: Polygon, width: float) -> bool:
    """Tell whether a part is nowhere wider than ``width``, by the ratio of its area to its outline.

    Parameters
    ----------
    part : Polygon
        Any unit.
    width : float, the same unit
        Twice the area over the outline's length is the width of a long thin part.

    Returns
    -------
    bool
        True for a part that no knife could follow.
    """
    length = part.exterior.length
    return bool(length == 0 or 2 * part.area / length < width)


def fill(rings: Sequence[NDArray[np.float64]], rule: FillRule) -> Region:
    """Return the region that SVG's fill rule gives for closed rings, each of shape (n, 2).

    Open rings are closed by a straight line, as SVG fills them. See SVG 2, 13.3.2 'fill-rule'.

    Examples
    --------
    >>> outer, inner = (np.array(shapely.box(*box).exterior.coords) for box in ((0, 0, 10, 10), (2, 2, 8, 8)))
    >>> fill([outer, inner], "evenodd").area, fill([outer, inner], "nonzero").area
    (64.0, 100.0)
    """
    closed = [_close(ring) for ring in rings]
    closed = [ring for ring in closed if len(ring) >= 4]
    if not closed:
        return EMPTY
    if len(closed) == 1:
        single = Polygon(closed[0])
        if single.is_valid:
            return MultiPolygon([single])
    refuse_tangles(closed)
    faces = _faces(closed)
    if len(faces) == 0:
        return EMPTY
    inside = shapely.get_coordinates(points_inside(faces))
    turns = winding(inside, closed)
    wanted = turns % 2 != 0 if rule == "evenodd" else turns != 0
    return union(faces[wanted])


def _faces(rings: Sequence[NDArray[np.float64]]) -> NDArray[np.object_]:
    """Return the polygons into which closed rings cut the plane, the outermost left out.

    Where a ring runs back over itself, rounding may miss a crossing and leave a face open; loose ends
    betray it, and the lines are then snapped to a grid far finer than any cutter.
    """
    lines = [shapely.LineString(ring) for ring in rings]
    faces, cuts, dangles, _ = shapely.polygonize_full([shapely.union_all(lines)])
    if not (cuts.is_empty and dangles.is_empty):
        grid = float(np.abs(np.concatenate(rings)).max()) * FINEST
        faces = shapely.polygonize([shapely.union_all(lines, grid_size=grid)])
    found: NDArray[np.object_] = shapely.get_parts(faces)
    return found


def _close(ring: NDArray[np.float64]) -> NDArray[np.float64]:
    keep = np.ones(len(ring), dtype=bool)
    keep[1:] = (np.diff(ring, axis=0) != 0).any(axis=1)
    ring = ring[keep]
    if len(ring) and (ring[0] != ring[-1]).any():
        ring = np.concatenate([ring, ring[:1]])
    return ring


def winding(points: NDArray[np.float64], rings: Sequence[NDArray[np.float64]]) -> NDArray[np.int64]:
    """Return how often the rings wind around each point (n, 2), by counting signed crossings of a ray.

    Parameters
    ----------
    points : array (n, 2)
        Any unit.
    rings : arrays (m, 2), the same unit
        The last point of each is its first.

    Returns
    -------
    int array (n,)
        Positive where the rings go round from x towards y.
    """
    start = np.concatenate([ring[:-1] for ring in rings])
    end = np.concatenate([ring[1:] for ring in rings])
    turns = np.empty(len(points), dtype=np.int64)
    for k, (x, y) in enumerate(points):
        up = (start[:, 1] <= y) & (end[:, 1] > y)
        down = (start[:, 1] > y) & (end[:, 1] <= y)
        side = (end[:, 0] - start[:, 0]) * (y - start[:, 1]) - (x - start[:, 0]) * (end[:, 1] - start[:, 1])
        turns[k] = np.count_nonzero(up & (side > 0)) - np.count_nonzero(down & (side < 0))
    return turns


def refuse_tangles(rings: Sequence[NDArray[np.float64]]) -> None:
    """Raise where outlines cross one another so often that no cutter could follow them.

    The number of crossings is estimated from a sample, so that the answer comes at once.

    Parameters
    ----------
    rings : arrays (m, 2)
        Any unit.

    Raises
    ------
    ArtworkError
        More crossings are to be expected than can be worked out.
    """
    count = sum(map(len, rings))
    if count < MANY_POINTS:
        return
    pairs = np.concatenate([np.stack([ring[:-1], ring[1:]], axis=1) for ring in rings])
    segments = shapely.linestrings(pairs)
    tree = shapely.STRtree(segments)
    sample = segments[np.linspace(0, len(segments) - 1, SAMPLE).astype(int)]
    met = len(tree.query(sample, predicate="intersects")[0]) / len(sample)
    if met * count / 2 > MOST_CROSSINGS + 3 * count:
        raise ArtworkError(
            f"An outline of {count} points crosses itself about {met * count / 2:.0f} times; "
            "that is a texture, not a shape to cut. Simplify it and open it again."
        )


def rings_of(region: BaseGeometry) -> list[NDArray[np.float64]]:
    """Return every ring of a region, outer and inner, as arrays (n, 2) whose last point is the first."""
    found: list[NDArray[np.float64]] = []
    for part in as_region(region).geoms:
        found.extend(np.asarray(ring.coords) for ring in (part.exterior, *part.interiors))
    return found


def grown_simplified(region: Region, tolerance: float) -> Region:
    """Return a simpler region that covers this one and reaches at most 2 x ``tolerance`` beyond it.

    Parameters
    ----------
    region : Region
        Any unit.
    tolerance : float, the same unit
        Half of what the result may reach beyond.

    Returns
    -------
    Region
        It covers all of the one given.
    """
    outer = shapely.buffer(region, tolerance, join_style="mitre", mitre_limit=2.0)
    simple = as_region(shapely.simplify(outer, tolerance * 0.98))
    if not simple.is_valid:
        simple = valid(simple)
    return simple if shapely.covers(simple, region) else as_region(outer)


def hull_box(regions: Iterable[BaseGeometry]) -> tuple[float, float, float, float]:
    """Return (left, top, right, bottom) around all the regions, which must not all be empty."""
    left, top, right, bottom = shapely.total_bounds(np.array(list(regions), dtype=object)).tolist()
    return cast(tuple[float, float, float, float], (left, top, right, bottom))
