"""The search for the shortest strip: the engine that suits the pieces, and what it finds pushed together.

Each engine wins about half of all jobs. What either finds still has slack, since engines see simplified shapes;
:mod:`zinnet.nesting.compact` takes it out on the true outlines.
"""

import os
import time
from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property, partial
from typing import Literal

import numpy as np
import shapely

from zinnet.geometry.region import Region
from zinnet.geometry.transform import moved, shift, turn
from zinnet.nesting.compact import Walls, compacted
from zinnet.nesting.engine_process import run_until
from zinnet.nesting.grown import grown, with_counters
from zinnet.nesting.model import Layout, NestTask, Piece, Placed, SheetLayout
from zinnet.nesting.strip_engines import Spot, StripItem, push_apart, search_tree

Engine = Literal["swarm", "tree"]
OTHER: dict[Engine, Engine] = {"swarm": "tree", "tree": "swarm"}
ANY_STEPS = 24
STEPPED = tuple(np.arange(0, 360, 360 / ANY_STEPS).tolist())
SWARM_MM, TREE_MM, FINE_MM = 0.1, 0.05, 0.02
FEW = 7
PLAIN_POINTS = 9
MANY, MANY_OF_EACH = 150, 4
"""Up to so many pieces or points a search by a tree comes further than a swarm; see ``suited``."""
LEAST_HOLE_MM2, ROOM_INSIDE = 100.0, 0.2
"""The least counter that is worth a look, and the share of the film from which counters decide on the engine."""


@dataclass(frozen=True, eq=False)
class Found:
    """One whole strip: where each copy lies on the sheet, and how far it reaches."""

    spots: tuple[Spot, ...]
    reach_mm: float


@dataclass(eq=False)
class StripSearch:
    """One search on a strip of the sheet's height until ``deadline``; what it finds may reach beyond the sheet."""

    task: NestTask
    pieces: list[Piece]
    deadline: float
    on_better: Callable[[Layout], None]
    _best: Found | None = None

    def run(self) -> None:
        """Search; each better layout goes to ``on_better``, not yet verified."""
        begun = time.monotonic()
        seconds = self.deadline - begun
        shares = stages(self.pieces, room_inside=self._room_inside)
        done = 0.0
        for engine, search, pushing in shares:
            found = self._search(engine, begun + (done + search) * seconds)
            if found is None and time.monotonic() < self.deadline:
                found = self._search(OTHER[engine], self.deadline)
            done += search + pushing
            if found is not None:
                self._push(found, begun + done * seconds)
        if self._best is not None:
            self._push(self._best, self.deadline)

    @cached_property
    def _room_inside(self) -> float:
        """The share of all the film that lies in counters in which pieces may lie."""
        return room_inside(self.pieces, self.task.counter_mm) if self.task.inside_counters else 0.0

    @property
    def _walls(self) -> Walls:
        sheet = self.task.sheet
        margin = sheet.margin_mm
        return Walls(margin, margin, max(sheet.width_mm - margin, self._enough_length), sheet.height_mm - margin)

    @cached_property
    def _enough_length(self) -> float:
        """A length that surely holds everything."""
        boxes = [piece.region.bounds for piece in self.pieces]
        widest = [max(right - left, low - top) + self.task.gap_mm for left, top, right, low in boxes]
        return 100.0 + float(sum(wide * piece.copies for wide, piece in zip(widest, self.pieces, strict=True)))

    def _ample_length(self, height: float) -> float:
        """A length that holds everything with much room to spare: a longer strip only slows the tree down."""
        area = float(sum(piece.region.area * piece.copies for piece in self.pieces))
        longest = max(2 * float(shapely.minimum_bounding_radius(piece.region)) for piece in self.pieces)
        return min(self._enough_length, 8 * area / height + 400 + 2 * longest)

    def _search(self, engine: Engine, deadline: float) -> Found | None:
        """Let one engine search, and return the best that it found."""
        half = self.task.gap_mm / 2 if engine == "swarm" else 0.0
        height = self._walls.bottom - self._walls.top
        found: list[Found] = []
        if engine == "swarm":
            items = [self._item(piece, half, SWARM_MM, holes=False) for piece in self.pieces]
            search = partial(
                push_apart,
                items,
                height + self.task.gap_mm,
                deadline=deadline,
                seed=self.task.seed + 1,
                workers=os.cpu_count() or 1,
            )
        else:
            holes = self._room_inside > ROOM_INSIDE
            items = [self._item(piece, half, TREE_MM, holes=holes) for piece in self.pieces]
            items = [StripItem(one.shape, one.copies, one.turns or STEPPED) for one in items]
            search = partial(
                search_tree, items, height, self._ample_length(height), gap_mm=self.task.gap_mm, deadline=deadline
            )
        run_until(deadline, search, self._taker(items, half, found), at_last=self.deadline)
        return min(found, key=lambda one: one.reach_mm, default=None)

    def _item(self, piece: Piece, half: float, tolerance: float, *, holes: bool) -> StripItem:
        region = with_counters(piece.region, self.task.counter_mm) if holes else piece.region
        return StripItem(grown(region, half, tolerance, with_holes=holes), piece.copies, piece.allowed_turns)

    def _taker(self, items: list[StripItem], half: float, found: list[Found]) -> Callable[[list[Spot]], None]:
        """Return what takes an engine's reports: onto the sheet, against its left wall."""
        hulls = [shapely.convex_hull(item.shape) for item in items]

        def take(spots: list[Spot]) -> None:
            left = min(moved(hulls[k], shift(x, y) @ turn(angle)).bounds[0] for k, x, y, angle in spots)
            across, down = self._walls.left - left - half, self._walls.top - half
            found.append(self._offer(tuple((k, x + across, y + down, angle) for k, x, y, angle in spots)))

        return take

    def _offer(self, spots: tuple[Spot, ...]) -> Found:
        reach = max(region.bounds[2] for region in self._regions(spots, self._hulls))
        found = Found(spots, float(reach))
        if self._best is None or found.reach_mm < self._best.reach_mm - 1e-6:
            self._best = found
            self.on_better(self._layout(found))
        return found

    def _regions(self, spots: tuple[Spot, ...], shapes: list[Region]) -> list[Region]:
        return [moved(shapes[k], shift(x, y) @ turn(angle)) for k, x, y, angle in spots]

    @cached_property
    def _hulls(self) -> list[Region]:
        return [Region([shapely.convex_hull(piece.region)]) for piece in self.pieces]

    @cached_property
    def _fine(self) -> list[Region]:
        return [grown(piece.region, 0.0, FINE_MM, with_holes=True) for piece in self.pieces]

    def _push(self, found: Found, deadline: float) -> None:
        """Push together what was found."""
        regions = self._regions(found.spots, self._fine)
        moves = compacted(regions, self._walls, self.task.gap_mm, deadline=deadline)
        self._offer(
            tuple((k, x + dx, y + dy, angle) for (k, x, y, angle), (dx, dy) in zip(found.spots, moves, strict=True))
        )

    def _layout(self, found: Found) -> Layout:
        counts = [0] * len(self.pieces)
        placed = []
        for k, x, y, angle in found.spots:
            counts[k] += 1
            placed.append(
                Placed(piece=self.pieces[k].name, copy_number=counts[k], x_mm=x, y_mm=y, turn_deg=angle % 360.0)
            )
        given = {piece.name: count for piece, count in zip(self.pieces, counts, strict=True)}
        rest = [piece.name for piece in self.task.pieces for _ in range(piece.copies - given.get(piece.name, 0))]
        return Layout(sheets=(SheetLayout(placed=tuple(placed), used_length_mm=found.reach_mm),), unplaced=tuple(rest))


def stages(pieces: list[Piece], *, room_inside: float) -> list[tuple[Engine, float, float]]:
    """Return which engine searches for how much of the time, and how much of it what it found is pushed together."""
    engine = suited(pieces, room_inside=room_inside)
    if engine == "both":
        return [("swarm", 0.42, 0.04), ("tree", 0.46, 0.08)]
    copies = sum(piece.copies for piece in pieces)
    pushing = 0.08 if copies <= 30 else 0.16 if copies <= 80 else 0.26
    if engine == "tree":
        pushing = min(pushing, 0.12)
    return [(engine, 1 - pushing, pushing)]


def suited(pieces: list[Piece], *, room_inside: float) -> Literal["swarm", "tree", "both"]:
    """Return which engine suits the pieces, as measured on many kinds of them.

    Plain shapes, shapes with room inside and many copies of each suit the tree, all others the swarm; so do plain
    shapes that may be turned by any angle, since the tree only knows some. For a few pieces either may win.
    """
    copies = sum(piece.copies for piece in pieces)
    free = any(piece.allowed_turns is None for piece in pieces)
    points = float(np.mean([len(shapely.get_coordinates(shapely.simplify(piece.region, 0.1))) for piece in pieces]))
    boxy = all(_is_square_edged(piece.region) for piece in pieces)
    if boxy or (points <= PLAIN_POINTS and not free):
        return "tree"
    if not free and copies >= MANY and copies >= MANY_OF_EACH * len(pieces):
        return "tree"
    if room_inside > ROOM_INSIDE:
        return "tree"
    return "both" if copies <= FEW or len(pieces) <= 2 else "swarm"


def _is_square_edged(region: Region) -> bool:
    """Tell whether all edges run along x or y."""
    for part in region.geoms:
        for ring in (part.exterior, *part.interiors):
            edges = np.abs(np.diff(np.asarray(ring.coords), axis=0))
            if (edges.min(axis=1) > 1e-6).any():
                return False
    return True


def room_inside(pieces: list[Piece], counter_mm: float) -> float:
    """Return the share of all the film that lies in counters which could hold another piece."""
    least = max(min(piece.region.convex_hull.area for piece in pieces), LEAST_HOLE_MM2)
    room = total = 0.0
    for piece in pieces:
        holes = [
            shapely.Polygon(hole).area
            for part in with_counters(piece.region, counter_mm).geoms
            for hole in part.interiors
        ]
        room += piece.copies * sum(area for area in holes if area > least)
        total += piece.copies * (piece.region.area + sum(holes))
    return room / total
