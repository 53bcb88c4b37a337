"""Covering a region with the fewest boxes of one size: exact, by corners that stand for it until all of it is covered.

A box that covers some corners can be pushed until its edges touch one of them, so only such boxes need be tried for a
set of corners. The fewest boxes for the corners are a lower bound for the region; where they leave some of it bare,
corners of what is bare join the set. What is bare is bounded by edges of boxes, so the chain of positions that an exact
cover needs is found in a few rounds.
"""

import math
from dataclasses import dataclass, field

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry import Polygon

from zinnet.geometry.region import EMPTY, Region, as_region, union, without, without_specks
from zinnet.pressing.maximal_sets import maximal_sets

EPS = 1e-6
GROWN = 2e-7
DIGITS = 6
"""Corners are rounded to more than boxes are grown by, so that nothing adds up along a chain of boxes."""
SLIVER_MM = 2e-5
"""What is bare and thinner than this is rounding."""
CORNER_MM = 2e-3
"""A corner is so small a box at the outline, inside the region."""
MOST_TRIED = 1_500_000
"""So many pairs of a place and a corner are looked at in one round, a few times as many in all; past that the cover
found so far is taken."""
EACH_ROUND = 50_000
MOST_IN_ALL = 3_000_000
MOST_S = 2.0
MOST_BOXES = 400
MANY = 3000
"""A region is very much larger where its box, in boxes, times its parts is more than this."""
MOST_NEW = 12
"""Pieces whose corners join in one round."""

Points = NDArray[np.float64]
Corners = NDArray[np.float64]
"""Boxes (left, top, right, bottom), shape (n, 4)."""
Middle = tuple[float, float]


@dataclass(frozen=True, eq=False)
class Boxes:
    """The task: boxes of ``width`` x ``height``, whose cores overlap into one another; middles stay off ``blocked``.

    Each of the ``pieces``, boxes (n, 4), is covered where it lies whole in one box; a part of the film also where it
    lies in the cores of several.
    """

    film: Region
    width: float
    height: float
    core_width: float
    core_height: float
    blocked: Region
    pieces: Corners = field(default_factory=lambda: np.empty((0, 4)))

    @property
    def half(self) -> Points:
        """Half of a box, (2,)."""
        return np.array([self.width, self.height]) / 2

    @property
    def core(self) -> Points:
        """Half of its core, (2,)."""
        return np.array([self.core_width, self.core_height]) / 2


@dataclass(frozen=True, eq=False)
class BoxCover:
    """The middles of the boxes; ``least`` boxes are needed at least. ``left`` can't be covered by any."""

    middles: tuple[Middle, ...]
    least: int
    left: Region = EMPTY


def fewest_boxes(task: Boxes) -> BoxCover:
    """Return the fewest boxes that cover a region; of as few, such that leave every part whole that fits in one.

    A region that is very much larger than a box is covered in rows, which nobody would better by hand.

    Parameters
    ----------
    task : Boxes, mm
        The region, the box, and where it may not go.

    Returns
    -------
    BoxCover, mm
        The middles of the boxes, and what stays bare.
    """
    whole = _cover_pieces(task)
    if task.film.is_empty:
        return whole
    parts = list(task.film.geoms)
    left_mm, top_mm, right_mm, bottom_mm = task.film.bounds
    times = (right_mm - left_mm) * (bottom_mm - top_mm) / (task.width * task.height)
    if times * len(parts) > MANY:
        rows = [*whole.middles, *_patches(task, bare_parts(task, list(whole.middles)))]
        return BoxCover(tuple(rows), math.ceil(task.film.area / (task.width * task.height)), bare_parts(task, rows))
    corners, owners = _corners(parts, range(len(parts)), first=True)
    known = [found for found in (_by_parts(task, parts), _greedy(task)) if found is not None]
    greedy = [*whole.middles, *min(known, key=len)] if known else None
    left: list[Polygon] = []
    least = 0
    found: list[Middle] = []
    bare = task.film
    looked_at = 0
    while looked_at < MOST_IN_ALL:
        tried = _candidates(task, parts, corners, owners)
        if tried is None:
            break
        middles, covers = tried
        looked_at += (4 * len(corners)) ** 2 + EACH_ROUND
        reachable = covers.any(axis=0)[: len(corners)]
        if not reachable.all():
            left += _unreachable(task, corners[~reachable])
            corners, owners = corners[reachable], owners[reachable]
            covers = covers[:, np.concatenate([reachable, np.ones(len(task.pieces), dtype=bool)])]
        if not len(corners):
            return BoxCover(whole.middles, whole.least, union(left))
        chosen, bound = _fewest_sets(covers)
        least = max(least, bound)
        found = [(float(x), float(y)) for x, y in middles[chosen]]
        if greedy is not None and not left and len(greedy) <= least:
            return BoxCover(tuple(greedy), least)
        bare = bare_parts(task, found)
        bare = without_specks(without(bare, union(left)), SLIVER_MM) if left else bare
        if bare.is_empty:
            return BoxCover(tuple(found), least, union(left))
        more, more_owners = _corners(list(bare.geoms)[:MOST_NEW], _owners(parts, bare), first=False)
        fresh = [k for k, corner in enumerate(more) if not (np.abs(corners - corner).max(axis=1) < EPS).any()]
        if not fresh:
            break
        corners = np.vstack([corners, more[fresh]])
        owners = np.concatenate([owners, more_owners[fresh]])
    if greedy is None:
        found = found or list(whole.middles)
        greedy = [*found, *_patches(task, bare)]
    return BoxCover(tuple(greedy), least, union(left))


def _cover_pieces(task: Boxes) -> BoxCover:
    """Return the fewest boxes that each hold pieces whole; those that none can hold are left."""
    if not len(task.pieces):
        return BoxCover((), 0)
    pieces = np.unique(np.round(task.pieces, DIGITS), axis=0)
    inside = _within((pieces[:, :2] + pieces[:, 2:]) / 2, (pieces[:, 2:] - pieces[:, :2]) / 2, pieces)
    np.fill_diagonal(inside, False)
    largest = pieces[~inside.any(axis=0)]
    tried = _tried(task, largest, [(largest[:, :2] + task.half, largest[:, 2:] - task.half)], task.half)
    if tried is None:
        corner = largest[:, :2] + task.half
        tried = corner, _within(corner, task.half, largest)
    middles, covers = _largest(*tried)
    held = covers.any(axis=0)
    chosen, least = _fewest_sets(covers[:, held]) if held.any() else ([], 0)
    left = union([shapely.box(*piece) for piece in largest[~held]]) if not held.all() else EMPTY
    return BoxCover(tuple((float(x), float(y)) for x, y in middles[chosen]), least, left)


def _by_parts(task: Boxes, parts: list[Polygon]) -> list[Middle] | None:
    """Return the fewest boxes that each hold parts whole; None where a part fits in none, or there are too many."""
    alone = shapely.bounds(np.array(parts, dtype=object))
    joined = union(shapely.box(*alone.T))
    half = np.array([task.width, task.height]) / 2
    for bounds in (shapely.bounds(np.array(joined.geoms, dtype=object)), alone):
        if (bounds[:, 2:] - bounds[:, :2] <= 2 * half + EPS).all():
            break
    else:
        return None
    bounds = np.unique(np.round(bounds, DIGITS), axis=0)
    inside = _within((bounds[:, :2] + bounds[:, 2:]) / 2, (bounds[:, 2:] - bounds[:, :2]) / 2, bounds)
    np.fill_diagonal(inside, False)
    largest = bounds[~inside.any(axis=0)]
    tried = _tried(task, largest, [(largest[:, :2] + half, largest[:, 2:] - half)], half)
    if tried is None:
        return None
    middles, covers = _largest(*tried)
    if not covers.any(axis=0).all():
        return None
    chosen, _ = _fewest_sets(covers)
    return [(float(x), float(y)) for x, y in middles[chosen]]


def bare_parts(task: Boxes, middles: list[Middle]) -> Region:
    """Return what boxes at these middles leave bare."""
    whole = [_box(middle, task.width, task.height) for middle in middles]
    parts = [part for part in task.film.geoms if not any(box.covers(part) for box in whole)]
    if not parts:
        return EMPTY
    cores = union([_box(middle, task.core_width, task.core_height) for middle in middles])
    return without_specks(without(Region(parts), cores), SLIVER_MM)


def _box(middle: Middle, width: float, height: float) -> Polygon:
    x, y = middle
    return shapely.box(x - width / 2 - GROWN, y - height / 2 - GROWN, x + width / 2 + GROWN, y + height / 2 + GROWN)


def _corners(parts: list[Polygon], owners: "range | list[int]", *, first: bool) -> tuple[Corners, NDArray[np.int64]]:
    """Return corners (n, 4) that stand for parts, the outermost ones of each, and which part of the film each is of."""
    found: list[tuple[float, float, float, float]] = []
    whose = []
    for part, owner in zip(parts, owners, strict=False):
        points = shapely.get_coordinates(part)
        ends = {int(points[:, axis].argmin()) for axis in (0, 1)} | {int(points[:, axis].argmax()) for axis in (0, 1)}
        if not first:
            sums, spans = points.sum(axis=1), points[:, 0] - points[:, 1]
            ends |= {int(sums.argmin()), int(sums.argmax()), int(spans.argmin()), int(spans.argmax())}
        shapely.prepare(part)
        for k in sorted(ends):
            found.append(_corner(part, points[k]))
            whose.append(owner)
    corners, whole = np.round(np.array(found), DIGITS), np.array(whose)
    if first and len(corners) > 4 * MOST_NEW:
        step = len(corners) // (4 * MOST_NEW) + 1
        outermost = [int(k) for axis in (0, 1) for k in (corners[:, axis].argmin(), corners[:, axis].argmax())]
        keep = sorted({*outermost, *range(0, len(corners), step)})
        return corners[keep], whole[keep]
    return corners, whole


def _corner(part: Polygon, point: Points) -> tuple[float, float, float, float]:
    """Return a small box inside a part at a point of its outline, on one side of it, so that a seam may run there."""
    ends = point + CORNER_MM * np.array([[1, 1], [-1, 1], [1, -1], [-1, -1]])
    spots = shapely.box(*np.minimum(ends, point).T, *np.maximum(ends, point).T)
    inside = shapely.intersection(part, spots)
    return inside[int(shapely.area(inside).argmax())].bounds  # type: ignore[no-any-return]


def _owners(parts: list[Polygon], bare: Region) -> list[int]:
    """Return of which part of the film each bare piece is."""
    tree = shapely.STRtree(parts)
    return [int(tree.nearest(shapely.point_on_surface(piece))) for piece in list(bare.geoms)[:MOST_NEW]]


def _candidates(
    task: Boxes, parts: list[Polygon], corners: Corners, owners: NDArray[np.int64]
) -> tuple[Points, NDArray[np.bool_]] | None:
    """Return middles (m, 2) that are worth trying, and which of the corners (m, n) each covers; None: too many."""
    bounds = shapely.bounds(np.array(parts, dtype=object))[owners]
    half, core, pieces = task.half, task.core, task.pieces
    fits = (bounds[:, 2:] - bounds[:, :2] <= 2 * half + EPS).all(axis=1)
    lines = [(corners[:, :2] + core, corners[:, 2:] - core), (bounds[fits, :2] + half, bounds[fits, 2:] - half)]
    lines.append((pieces[:, :2] + half, pieces[:, 2:] - half))
    tried = _tried(task, corners, lines, core)
    if tried is None:
        return None
    middles, covers = tried
    if fits.any():
        covers |= _within(middles, half, bounds) & fits[None, :]
    return _largest(middles, np.hstack([covers, _within(middles, half, pieces)]))


def _tried(
    task: Boxes, corners: Corners, lines: list[tuple[Points, Points]], half: Points
) -> tuple[Points, NDArray[np.bool_]] | None:
    """Return middles (m, 2) where lines cross, off what is blocked, and which corners (m, n) each covers.

    None where that would be too many to look at.
    """
    found = [points for pair in lines for points in pair]
    if not task.blocked.is_empty:
        edges = shapely.bounds(np.array(task.blocked.geoms, dtype=object))
        found += [edges[:, :2], edges[:, 2:]]
    axes = [np.unique(np.round(np.concatenate([points[:, axis] for points in found]), DIGITS)) for axis in (0, 1)]
    if len(axes[0]) * len(axes[1]) * len(corners) > MOST_TRIED:
        return None
    middles = np.stack(np.meshgrid(*axes, indexing="ij"), axis=-1).reshape(-1, 2)
    if not task.blocked.is_empty:
        middles = np.vstack([middles, _beside_blocked(task, corners, half)])
        inner = shapely.buffer(task.blocked, -2 * EPS, join_style="mitre")
        shapely.prepare(inner)
        middles = middles[~shapely.contains_xy(inner, middles[:, 0], middles[:, 1])]
    return middles, _within(middles, half, corners)


def _within(middles: Points, half: Points, boxes: Corners) -> NDArray[np.bool_]:
    """Tell (m, n) which boxes lie within the ones of a half size at the middles."""
    low = middles[:, None, :] - half - EPS <= boxes[None, :, :2]
    high = middles[:, None, :] + half + EPS >= boxes[None, :, 2:]
    return np.asarray(low.all(axis=2) & high.all(axis=2))


def _beside_blocked(task: Boxes, corners: Corners, core: Points) -> Points:
    """Return middles along the edge of what is blocked from which corners are still reached."""
    found = []
    for left, top, right, bottom in corners:
        room = shapely.box(right - core[0], bottom - core[1], left + core[0], top + core[1])
        found.append(shapely.get_coordinates(shapely.difference(room, task.blocked)))
    return np.vstack(found) if found else np.empty((0, 2))


def _largest(middles: Points, covers: NDArray[np.bool_]) -> tuple[Points, NDArray[np.bool_]]:
    """Return of the middles that cover the same points the one farthest right and down, and none that covers less."""
    order = np.lexsort((-middles.sum(axis=1),))
    packed = np.packbits(covers[order], axis=1)
    _, first = np.unique(packed, axis=0, return_index=True)
    kept = order[first]
    kept = kept[covers[kept].any(axis=1)]
    kept = kept[np.argsort(-covers[kept].sum(axis=1), kind="stable")]
    chosen = kept[maximal_sets(covers[kept])]
    return middles[chosen], covers[chosen]


def _fewest_sets(covers: NDArray[np.bool_]) -> tuple[list[int], int]:
    """Return the fewest rows that together cover every column, and how many are needed at least."""
    count, columns = covers.shape
    whole = np.flatnonzero(covers.all(axis=1))
    if len(whole):
        return [int(whole[0])], 1
    from scipy.optimize import Bounds, LinearConstraint, milp

    solved = milp(
        np.ones(count),
        integrality=np.ones(count),
        bounds=Bounds(0, 1),
        constraints=LinearConstraint(covers.T.astype(float), lb=np.ones(columns)),
        options={"time_limit": MOST_S},
    )
    if solved.x is None:
        return _greedy_sets(covers), 1
    chosen = [int(k) for k in np.flatnonzero(np.round(solved.x) > 0)]
    bound = solved.mip_dual_bound if solved.mip_dual_bound is not None else len(chosen)
    return chosen, math.ceil(bound - 1e-6)


def _greedy_sets(covers: NDArray[np.bool_]) -> list[int]:
    left, chosen = np.ones(covers.shape[1], dtype=bool), []
    while left.any():
        best = int((covers & left).sum(axis=1).argmax())
        chosen.append(best)
        left &= ~covers[best]
    return chosen


def _greedy(task: Boxes) -> list[Middle] | None:
    """Return a cover in rows from the top, each from the left; None where something is blocked."""
    if not task.blocked.is_empty:
        return None
    found = _patches(task, task.film)
    return found if bare_parts(task, found).is_empty else None


def _patches(task: Boxes, region: Region) -> list[Middle]:
    """Return boxes that cover a region row by row, as far as their middles are free."""
    found: list[Middle] = []
    left = region
    while not left.is_empty:
        top = left.bounds[1]
        below = top + task.core_height - CORNER_MM / 4
        row = as_region(shapely.intersection(left, shapely.box(left.bounds[0], top, left.bounds[2], below)))
        x = shapely.bounds(row)[0]
        middle = (float(x + task.core_width / 2), float(top + task.core_height / 2))
        if not task.blocked.is_empty and shapely.contains_xy(task.blocked, *middle):
            free = shapely.difference(
                shapely.envelope(shapely.buffer(shapely.Point(x, top), task.core_width)), task.blocked
            )
            nearest = shapely.shortest_line(free, shapely.Point(middle)).coords[0] if not free.is_empty else middle
            middle = (float(nearest[0]), float(nearest[1]))
        found.append(middle)
        rest = without_specks(without(left, _box(middle, task.core_width, task.core_height)), SLIVER_MM)
        if rest.area >= left.area or len(found) > MOST_BOXES:
            break
        left = rest
    return found


def _unreachable(task: Boxes, corners: Corners) -> list[Polygon]:
    """Return what of the film no box can cover, with the corners that none does."""
    free = shapely.difference(shapely.box(*_grown_bounds(task)), task.blocked)
    half = np.array([[-1, -1], [1, -1], [1, 1], [-1, 1]]) * (task.core_width / 2, task.core_height / 2)
    reached = union(
        shapely.convex_hull(shapely.MultiPoint((shapely.get_coordinates(one)[:, None] + half[None]).reshape(-1, 2)))
        for one in shapely.get_parts(shapely.constrained_delaunay_triangles(free))
    )
    bare = without(task.film, reached)
    return [*bare.geoms, *(shapely.buffer(shapely.box(*corner), EPS) for corner in corners)]


def _grown_bounds(task: Boxes) -> tuple[float, float, float, float]:
    left, top, right, bottom = task.film.bounds
    return left - task.width, top - task.height, right + task.width, bottom + task.height
