"""Pieces moved by hand: how much room there is, pressing one against what is next to it, and snapping."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
import shapely

from zinnet.geometry.region import Region
from zinnet.geometry.transform import moved, shift
from zinnet.nesting.sheet import Sheet
from zinnet.nesting.verify import overhang

CLOSE_MM = 0.002
FINE_MM = 0.004
LEAST_STEP_MM, SNAP_STEP_MM = 0.25, 0.5
MOST_STEPS = 4000
Direction = tuple[float, float]
SIDES: tuple[Direction, ...] = ((-1.0, 0.0), (1.0, 0.0), (0.0, -1.0), (0.0, 1.0))


@dataclass(frozen=True, eq=False)
class Around:
    """What lies around a piece on its sheet: the other pieces, the gap to keep, and the sheet's edges."""

    sheet: Sheet
    others: Sequence[Region]
    gap_mm: float

    @cached_property
    def _tree(self) -> shapely.STRtree:
        return shapely.STRtree(np.array(self.others, dtype=object))

    def gap_to_next(self, region: Region) -> float:
        """Return the distance to the nearest other piece; infinite where there is none."""
        if not self.others:
            return float("inf")
        nearest = self._tree.nearest(region)
        return float(shapely.distance(region, self._tree.geometries[nearest]))

    def slack(self, region: Region) -> float:
        """Return how far a piece may move in any direction: below zero, it is too close or over the edge."""
        edge = -overhang(self.sheet, region)
        return min(edge, self.gap_to_next(region) - self.gap_mm)

    def holds(self, region: Region) -> bool:
        """Tell whether a piece may lie there."""
        if overhang(self.sheet, region) > CLOSE_MM:
            return False
        if not self.others:
            return True
        left, top, right, bottom = region.bounds
        gap = self.gap_mm
        near = self._tree.geometries[self._tree.query(shapely.box(left - gap, top - gap, right + gap, bottom + gap))]
        if gap <= CLOSE_MM:
            return not bool((shapely.area(shapely.intersection(region, near)) > CLOSE_MM * region.length).any())
        shapely.prepare(region)
        return not bool(shapely.dwithin(region, near, gap - CLOSE_MM).any())

    def pressed(self, region: Region, direction: Direction, *, most_mm: float = 5000.0) -> float:
        """Return how far a piece can be pushed in a direction until it meets something; 0 where it holds nowhere.

        No step is longer than the room around the piece, so that nothing is jumped over but what is thinner than the
        least step, which is taken back where it does not hold.
        """
        if not self.holds(region):
            return 0.0
        gone = 0.0
        for _ in range(MOST_STEPS):
            step = max(self.slack(self._at(region, direction, gone)), LEAST_STEP_MM)
            step = min(step, most_mm - gone)
            if step <= 0:
                break
            if self.holds(self._at(region, direction, gone + step)):
                gone += step
                continue
            return gone + self._halved(region, direction, gone, step)
        return gone

    def _halved(self, region: Region, direction: Direction, gone: float, step: float) -> float:
        low, high = 0.0, step
        while high - low > FINE_MM:
            middle = (low + high) / 2
            if self.holds(self._at(region, direction, gone + middle)):
                low = middle
            else:
                high = middle
        return low

    def snapped(self, region: Region, reach_mm: float) -> tuple[float, float]:
        """Return by how much a piece is shifted out of what it overlaps a little, then up to what is near."""
        return self._close_to(region, reach_mm)._snapped(region, reach_mm)

    def _close_to(self, region: Region, reach_mm: float) -> "Around":
        """Return only what a piece may meet within reach."""
        left, top, right, bottom = region.bounds
        room = 2 * reach_mm + self.gap_mm
        near = self._tree.query(shapely.box(left - room, top - room, right + room, bottom + room))
        return Around(self.sheet, [self.others[k] for k in near.tolist()], self.gap_mm)

    def _snapped(self, region: Region, reach_mm: float) -> tuple[float, float]:
        across = down = 0.0
        if not self.holds(region):
            out = self._pushed_out(region, reach_mm)
            if out is None:
                return 0.0, 0.0
            across, down = out
        for direction in SIDES:
            way = self._way_to_next(moved(region, shift(across, down)), direction, reach_mm)
            if 0 < way < reach_mm - CLOSE_MM:
                across, down = across + direction[0] * way, down + direction[1] * way
        return across, down

    def _way_to_next(self, region: Region, direction: Direction, reach_mm: float) -> float:
        """Return how far it is to what is next in a direction, by short steps; the reach where nothing is."""
        gone = 0.0
        while gone < reach_mm:
            step = min(SNAP_STEP_MM, reach_mm - gone)
            if not self.holds(self._at(region, direction, gone + step)):
                return gone + self._halved(region, direction, gone, step)
            gone += step
        return reach_mm

    def _pushed_out(self, region: Region, reach_mm: float) -> tuple[float, float] | None:
        """Return the shortest shift along x or y to where a piece holds, or None where there is none within reach."""
        steps = np.arange(SNAP_STEP_MM, reach_mm + SNAP_STEP_MM, SNAP_STEP_MM)
        for step in steps.tolist():
            for direction in SIDES:
                if self.holds(self._at(region, direction, step)):
                    low, high = step - SNAP_STEP_MM, step
                    while high - low > FINE_MM:
                        middle = (low + high) / 2
                        if self.holds(self._at(region, direction, middle)):
                            high = middle
                        else:
                            low = middle
                    return direction[0] * high, direction[1] * high
        return None

    def _at(self, region: Region, direction: Direction, way: float) -> Region:
        return moved(region, shift(direction[0] * way, direction[1] * way))


def around(sheet: Sheet, regions: Sequence[Region], index: int | None, gap_mm: float) -> Around:
    """Return what lies around one of the pieces of a sheet, or around a piece from elsewhere (None).

    Parameters
    ----------
    sheet : Sheet, mm
        The film.
    regions : regions, mm
        The pieces where they lie on the sheet.
    index : int or None
        The piece that is moved; None for one from elsewhere.
    gap_mm : float, mm
        What pieces must lie apart.

    Returns
    -------
    Around, mm
        What the piece must keep off.
    """
    return Around(sheet, [region for k, region in enumerate(regions) if k != index], gap_mm)
