"""What a cut takes from the shelf and what it leaves: each leftover as it is, or as rectangles to trim it to."""

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

import shapely

from zinnet.geometry.region import Region, as_region, common, union, without
from zinnet.geometry.transform import moved, shift
from zinnet.machines.cutters import room
from zinnet.nesting.leftovers import rectangles_in, useful_parts
from zinnet.nesting.sheet import Sheet, film_of
from zinnet.workshop.stock import Change, StockItem
from zinnet.workshop.stock_sheets import to_film

Keep = Literal["as it is", "rectangles", "nothing"]
KEEPS: tuple[Keep, ...] = ("as it is", "rectangles", "nothing")


@dataclass(frozen=True, eq=False)
class CutLoad:
    """One load that was cut: its sheet, the film that it is of, what was cut out of it, and how far along x."""

    sheet: Sheet
    item: StockItem
    cut: Region
    reach_mm: float

    @property
    def taken_mm(self) -> float:
        """How much of a roll's length it takes: up to the last piece and its margin, never more than the load."""
        if self.sheet.turned:
            return self.sheet.height_mm
        return min(self.sheet.width_mm, self.reach_mm + self.sheet.margin_mm)


@dataclass(frozen=True, eq=False)
class Leftover:
    """What can be used again of one piece of film, in the film's own coordinates, and what it is worth keeping as.

    ``taken`` is the film that was taken from the shelf for its ``loads``. ``parts`` are what is left when
    the pieces are cut out with their trimmed carriers, each large enough to cut something from; all else is lost.
    """

    item: StockItem
    taken: Region
    loads: tuple[CutLoad, ...]
    parts: tuple[Region, ...]
    rectangles: tuple[tuple[float, float, float, float], ...]

    @property
    def taken_mm2(self) -> float:
        """How much film was taken from the shelf."""
        return float(self.taken.area)

    @property
    def cut_mm2(self) -> float:
        """How much was cut out."""
        return float(sum(load.cut.area for load in self.loads))

    @property
    def region(self) -> Region:
        """All that can be used again."""
        return Region([polygon for part in self.parts for polygon in part.geoms])

    @property
    def usual(self) -> Keep:
        """What is kept unless the user says otherwise."""
        return "as it is" if self.rectangles else "nothing"

    def kept(self, keep: Keep) -> tuple[StockItem, ...]:
        """Return what is put on the shelf."""
        if keep == "rectangles":
            return tuple(self._rectangle(box) for box in self.rectangles)
        return tuple(self._scrap(part) for part in self.parts) if keep == "as it is" else ()

    def kept_mm2(self, keep: Keep) -> float:
        """Return how much film is kept."""
        return sum(item.area_mm2 for item in self.kept(keep))

    def _rectangle(self, box: tuple[float, float, float, float]) -> StockItem:
        left, top, right, bottom = box
        return _new(self.item, kind="sheet", length_mm=right - left, width_mm=bottom - top, outline=None)

    def _scrap(self, part: Region) -> StockItem:
        left, top, right, bottom = part.bounds
        outline = moved(part, shift(-left, -top))
        return _new(self.item, kind="scrap", length_mm=right - left, width_mm=bottom - top, outline=outline)


def leftovers(loads: Sequence[CutLoad], *, least_mm: float, trim_mm: float = 0.0) -> tuple[Leftover, ...]:
    """Return what is left of every piece of film that was cut.

    Loads of one sheet or scrap are one piece of film; each load of a roll is cut off it.

    Parameters
    ----------
    loads
        What was cut.
    least_mm : float, mm
        How narrow film may be to be of use: the rest is waste.
    trim_mm : float, mm
        How much of its carrier a piece takes with it on all sides; what lies in its counters goes with it too.
    """
    return tuple(_left_of(item, tuple(together), least_mm, trim_mm) for item, together in _pieces_of_film(loads))


def _left_of(item: StockItem, loads: tuple[CutLoad, ...], least_mm: float, trim_mm: float) -> Leftover:
    taken = film_of(item.sheet(0.0)) if item.kind != "roll" else union([_taken(load) for load in loads])
    out = [
        moved(shapely.Polygon(part.exterior), to_film(load.sheet, item)) for load in loads for part in load.cut.geoms
    ]
    trimmed = shapely.union_all([shapely.buffer(one, trim_mm, quad_segs=4) for one in out])
    rest = without(taken, trimmed) if item.spoiled is None else without(without(taken, trimmed), item.spoiled)
    parts = useful_parts(rest, least_mm=least_mm)
    boxes = rectangles_in(Region([one for part in parts for one in part.geoms]), least_mm=least_mm)
    return Leftover(item, taken, loads, tuple(parts), tuple(boxes))


def changes(
    loads: Sequence[CutLoad], left: Sequence[Leftover], keeps: Mapping[int, Keep] | None = None
) -> tuple[Change, ...]:
    """Return what the cut does to the shelf; ``keeps`` says for each leftover by its place what is kept of it."""
    keeps = keeps or {}
    made: dict[int, list[StockItem]] = {}
    for place, one in enumerate(left):
        made.setdefault(one.item.number, []).extend(one.kept(keeps.get(place, one.usual)))
    items = {load.item.number: load.item for load in loads}
    pieces = Counter(one.item.number for one in left)
    return tuple(
        Change(
            number=number,
            before=item,
            after=_after(item, loads, pieces[number]),
            leftovers=tuple(made.get(number, ())),
        )
        for number, item in items.items()
    )


def _after(item: StockItem, loads: Sequence[CutLoad], pieces: int) -> StockItem | None:
    """Return the roll or the sheets that are left as they were, or None."""
    if item.kind == "roll":
        length = item.length_mm - sum(load.taken_mm for load in loads if load.item.number == item.number)
        if length < room().least_load_mm:
            return None
        return item.model_copy(update={"length_mm": length, "spoiled": _behind(item, item.length_mm - length)})
    return item.model_copy(update={"count": item.count - pieces}) if item.count > pieces else None


def _behind(item: StockItem, gone_mm: float) -> Region | None:
    """Return the spoiled spots of a roll whose first part is gone."""
    if item.spoiled is None:
        return None
    rest = as_region(shapely.box(0, 0, item.length_mm - gone_mm, item.width_mm))
    spots = common(moved(item.spoiled, shift(-gone_mm, 0.0)), rest)
    return None if spots.is_empty else spots


def _pieces_of_film(loads: Sequence[CutLoad]) -> list[tuple[StockItem, list[CutLoad]]]:
    """Return the loads of each piece of film: the first of every part of a sheet lie on its first copy, and so on."""
    found: dict[tuple[int, int], list[CutLoad]] = {}
    seen: Counter[tuple[int, tuple[float, float]]] = Counter()
    for place, load in enumerate(loads):
        number = load.item.number
        if load.item.kind == "roll":
            found[number, place] = [load]
            continue
        part = (number, load.sheet.corner)
        found.setdefault((number, seen[part]), []).append(load)
        seen[part] += 1
    return [(rows[0].item, rows) for rows in found.values()]


def _taken(load: CutLoad) -> Region:
    """Return the film of a load that leaves the roll, in the roll's coordinates."""
    across = load.item.width_mm
    size = (across, load.sheet.height_mm) if load.sheet.turned else (load.taken_mm, across)
    return moved(as_region(shapely.box(0, 0, *size)), to_film(load.sheet, load.item))


def _new(item: StockItem, **fields: object) -> StockItem:
    """Return a leftover of an item: of its film, price and place, but with a label of its own."""
    return item.model_copy(update={"number": 0, "count": 1, "spoiled": None, "note": "", **fields})
