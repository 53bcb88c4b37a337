"""Which parts of an artwork are chosen: by pointing, by colour, by a frame around them, all, or all the others."""

from collections.abc import Iterable
from typing import TYPE_CHECKING

import numpy as np
import shapely
from shapely.geometry import Polygon

from zinnet.geometry.region import Region

if TYPE_CHECKING:
    from zinnet.layers.split import Split

Spot = tuple[float, float]


class ChosenParts:
    """Points in the parts that are chosen, in shares of the artwork's width, or one colour as a whole."""

    def __init__(self) -> None:
        self.points: list[Spot] = []
        self.colour: str | None = None
        self._shown: tuple[object, ...] = ()
        self._found: set[int] = set()
        self._region = Region()

    def __bool__(self) -> bool:
        """Whether anything is chosen."""
        return bool(self.points) or self.colour is not None

    def clear(self) -> None:
        """Give up what was chosen."""
        self.points, self.colour = [], None

    def take_colour(self, colour: str) -> None:
        """Choose all that has a colour."""
        self.points, self.colour = [], colour

    def take_all(self, split: "Split") -> None:
        """Choose every part."""
        parts = _parts(split)
        self._take(split, parts, range(len(parts)))

    def take_others(self, split: "Split") -> None:
        """Choose what is not chosen, and give up what is."""
        parts, taken = _parts(split), self._numbers(split)
        self._take(split, parts, (number for number in range(len(parts)) if number not in taken))

    def take_inside(self, split: "Split", box: tuple[float, float, float, float], *, add: bool = False) -> None:
        """Choose the parts that lie wholly inside a box (left, top, right, bottom in artwork mm), or add them."""
        parts, frame = _parts(split), shapely.box(*box)
        inside = np.flatnonzero(shapely.covered_by(parts, frame)).tolist()
        self._take(split, parts, sorted({*inside, *(self._numbers(split) if add else ())}))

    def toggle(self, split: "Split", spot: Spot) -> None:
        """Choose the topmost part at a spot (artwork mm), or give it up again; beside all parts, give up all."""
        parts = _parts(split)
        hits = shapely.STRtree(parts).query(shapely.Point(spot), predicate="intersects")
        if len(hits) == 0:
            self.clear()
            return
        chosen = set() if self.colour is not None else self._numbers(split)
        self._take(split, parts, sorted(chosen ^ {int(max(hits))}))

    def region(self, split: "Split") -> Region:
        """Return all that is chosen, in artwork mm."""
        self._numbers(split)
        return self._region

    def _numbers(self, split: "Split") -> set[int]:
        """Return the numbers of the parts that are chosen; looked up once for each choice."""
        shown = (split, tuple(self.points), self.colour)
        if self._shown != shown:
            parts = _parts(split)
            self._shown, self._found = shown, self._look_up(split, parts)
            self._region = Region([parts[number] for number in sorted(self._found)])
        return self._found

    def _look_up(self, split: "Split", parts: list[Polygon]) -> set[int]:
        if self.colour is not None:
            colours = [layer.colour for layer in split.layers for _ in range(layer.pieces)]
            return {number for number, colour in enumerate(colours) if colour == self.colour}
        wide = split.width_mm
        spots = [shapely.Point(x * wide, y * wide) for x, y in self.points]
        if not spots:
            return set()
        at, hits = shapely.STRtree(parts).query(spots, predicate="intersects")
        return set({int(spot): int(hit) for spot, hit in sorted(zip(at, hits, strict=True))}.values())

    def _take(self, split: "Split", parts: list[Polygon], numbers: Iterable[int]) -> None:
        wide, spots = split.width_mm, [parts[number].representative_point() for number in numbers]
        self.points, self.colour = [(spot.x / wide, spot.y / wide) for spot in spots], None


def _parts(split: "Split") -> list[Polygon]:
    """Return the parts of all layers, the lowest layer first."""
    return [part for layer in split.layers for part in layer.region.geoms]
