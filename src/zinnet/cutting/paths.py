"""What is cut on one mat: lines in mm as seen from the blade's side, each with its film, its piece and its kind."""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry import LineString, Polygon

from zinnet.base.stages import stage
from zinnet.cutting.arcs import Span, spans_of
from zinnet.cutting.tolerances import lines
from zinnet.geometry.region import Region

PathKind = Literal["outline", "counter", "mark", "frame", "line"]
LAST: tuple[PathKind, ...] = ("frame", "line")
"""What is cut after everything else, in this order: it parts the waste."""
Points = NDArray[np.float64]


@dataclass(frozen=True, eq=False)
class CutPath:
    """One line that is cut, (n, 2) in mm; a closed one ends where it begins. ``name`` is its own, ``piece`` is not."""

    name: str
    piece: str
    film: str
    kind: PathKind
    points: Points
    closed: bool = True

    @cached_property
    def length_mm(self) -> float:
        """How long it is."""
        return float(np.hypot(*np.diff(self.points, axis=0).T).sum())

    @cached_property
    def spans(self) -> list[Span]:
        """The line as straight lines and arcs, for the formats that have them."""
        return _spans(self.points.tobytes())

    def starting_at(self, index: int) -> "CutPath":
        """Return the same line begun at another of its points; an open one is turned round where that is its end."""
        if self.closed:
            ring = self.points[:-1]
            turned = np.roll(ring, -index, axis=0)
            return replace(self, points=np.vstack([turned, turned[:1]]))
        return self if index == 0 else replace(self, points=self.points[::-1])

    def shifted(self, x: float, y: float) -> "CutPath":
        """Return the line moved on the mat."""
        return replace(self, points=self.points + np.array([x, y]))


@stage(most=4096)
def _spans(points: bytes) -> list[Span]:
    """Return a line's spans, by its points: copies that lie alike on several mats are worked out once."""
    return spans_of(np.frombuffer(points).reshape(-1, 2))


@dataclass(frozen=True, eq=False)
class CutSheet:
    """All lines of one mat in the order in which they are cut; ``name`` is the mat's."""

    name: str
    width_mm: float
    height_mm: float
    paths: tuple[CutPath, ...]

    @property
    def films(self) -> tuple[str, ...]:
        """The films on the mat, in the order in which they are first cut."""
        return tuple(dict.fromkeys(path.film for path in self.paths))

    @property
    def pieces(self) -> tuple[str, ...]:
        """The pieces on the mat, in the order in which they are first cut."""
        return tuple(dict.fromkeys(path.piece for path in self.paths))


@dataclass(frozen=True, eq=False)
class Shape:
    """A region whose outlines are cut for a piece: the piece itself, its register marks, or a weed frame."""

    name: str
    film: str
    region: Region
    kind: PathKind = "outline"


def paths_of(shape: Shape) -> Iterator[CutPath]:
    """Yield the outlines of a shape, each simplified, counters and small parts first."""
    rings = [(ring, shape.kind) for part in shape.region.geoms for ring in [part.exterior]]
    inner: PathKind = "counter" if shape.kind == "outline" else shape.kind
    rings += [(ring, inner) for part in shape.region.geoms for ring in part.interiors]
    rings.sort(key=lambda row: Polygon(row[0]).area)
    numbers = dict.fromkeys(("outline", "counter", "mark", "frame"), 0)
    several = sum(kind == shape.kind for _, kind in rings) > 1
    for ring, kind in rings:
        numbers[kind] += 1
        if kind == "counter":
            name = f"{shape.name}-counter-{numbers[kind]}"
        else:
            name = f"{shape.name}-{numbers[kind]}" if several else shape.name
        yield CutPath(name, shape.name, shape.film, kind, simplified(np.asarray(ring.coords)[:, :2]))


def line_path(name: str, film: str, line: LineString) -> CutPath:
    """Return an open line that parts the waste."""
    return CutPath(name, name, film, "line", np.asarray(line.coords)[:, :2], closed=False)


def simplified(points: Points) -> Points:
    """Return a closed ring (n, 2) with as few points as stay within the tolerance; its sharpest corner is kept.

    It is the line simplification of Douglas and Peucker (1973), as GEOS does it.

    Parameters
    ----------
    points : array (n, 2), mm
        A closed ring; the last point is the first.

    Returns
    -------
    array (m, 2), mm
        A closed ring, m no more than n.
    """
    return _simplified(points.tobytes())


@stage(most=4096)
def _simplified(data: bytes) -> Points:
    """Return a ring simplified, by its points: copies that lie alike on several mats are worked out once."""
    points = np.frombuffer(data).reshape(-1, 2)
    turns = turns_deg(points, closed=True)
    start = int(np.argmax(turns))
    ring = np.roll(points[:-1], -start, axis=0)
    line = LineString(np.vstack([ring, ring[:1]]))
    fewer = np.asarray(shapely.simplify(line, lines().simplify_mm).coords)
    return fewer if len(fewer) >= 4 else np.vstack([ring, ring[:1]])


def turns_deg(points: Points, *, closed: bool) -> NDArray[np.float64]:
    """Return by how many degrees a line turns at each of its points, 0 to 180; a closed one's last point is left out.

    An open line turns at neither end.

    Parameters
    ----------
    points : array (n, 2), mm
        A line; a closed one's last point is its first.
    closed : bool
        Whether it turns at its first point too.

    Returns
    -------
    array (n,), degrees
        Of a closed line (n - 1,).
    """
    steps = np.diff(points, axis=0)
    angles = np.arctan2(steps[:, 1], steps[:, 0])
    before = np.roll(angles, 1)
    turns = np.abs((angles - before + np.pi) % (2 * np.pi) - np.pi)
    if closed:
        return np.degrees(turns)
    return np.degrees(np.concatenate([[0.0], turns[1:], [0.0]]))


def file_order(shapes: Sequence[Shape], more: Iterable[CutPath] = ()) -> tuple[CutPath, ...]:
    """Return the lines of all shapes as they come: small shapes first, and of each the small outlines first."""
    ordered = sorted(shapes, key=lambda shape: Polygon.from_bounds(*shape.region.bounds).area)
    return (*(path for shape in ordered for path in paths_of(shape)), *more)
