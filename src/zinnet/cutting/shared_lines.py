"""No line is cut twice: where two outlines run together, only one of them cuts."""

from collections.abc import Iterator, Sequence
from dataclasses import replace

import numpy as np
import shapely
from shapely.geometry import LineString, MultiLineString

from zinnet.cutting.paths import LAST, CutPath
from zinnet.cutting.tolerances import lines


def cut_once(paths: Sequence[CutPath]) -> tuple[CutPath, ...]:
    """Return the paths, what an earlier one cuts already left out of the later ones.

    Outlines go before frames, so that pieces stay whole and frames give way. A path of which nothing is left is gone;
    one of which a stretch is left is open, in parts where need be.

    Parameters
    ----------
    paths : lines, mm
        The more important ones first.

    Returns
    -------
    lines, mm
        No stretch of them is cut twice.
    """
    if len(paths) < 2:
        return tuple(paths)
    drawn = [LineString(path.points) for path in paths]
    tree = shapely.STRtree(drawn)
    near = lines().same_line_mm
    first, second = tree.query(drawn, predicate="dwithin", distance=near)
    rank = {index: (paths[index].kind in LAST, index) for index in range(len(paths))}
    found: list[CutPath] = []
    for index, path in enumerate(paths):
        others = [int(k) for k in second[first == index] if rank[int(k)] < rank[index]]
        found += _rest(path, drawn[index], [drawn[k] for k in others]) if others else [path]
    return tuple(found)


def _rest(path: CutPath, line: LineString, others: list[LineString]) -> Iterator[CutPath]:
    """Yield what of a path is not cut by the others."""
    limits = lines()
    band = shapely.union_all(shapely.buffer(others, limits.same_line_mm, cap_style="flat", join_style="mitre"))
    shared = shapely.intersection(line, band)
    runs = [run for run in _lines_in(shared) if run.length >= limits.least_shared_mm]
    if not runs:
        yield path
        return
    taken = shapely.union_all(shapely.buffer(runs, limits.same_line_mm / 2, cap_style="flat"))
    left = shapely.line_merge(shapely.difference(line, taken))
    parts = [part for part in _lines_in(left) if part.length > 2 * limits.same_line_mm]
    for number, part in enumerate(parts, start=1):
        points = np.asarray(part.coords)[:, :2]
        name = path.name if len(parts) == 1 else f"{path.name}-stretch-{number}"
        yield replace(path, name=name, points=points, closed=False)


def _lines_in(geometry: shapely.Geometry) -> list[LineString]:
    merged = shapely.line_merge(geometry) if isinstance(geometry, MultiLineString) else geometry
    if isinstance(merged, LineString):
        return [] if merged.is_empty else [merged]
    return [part for part in getattr(merged, "geoms", []) if isinstance(part, LineString)]
