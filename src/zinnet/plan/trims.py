"""The trim list: what is cut from which film before it goes on a mat, in the order in which the mats are cut."""

from collections.abc import Sequence
from dataclasses import dataclass

import shapely

from zinnet.base.stages import stage
from zinnet.geometry.region import union
from zinnet.geometry.transform import moved
from zinnet.machines.cutters import Mat, room
from zinnet.plan.nests import NestedMat
from zinnet.workshop.after_cut import CutLoad
from zinnet.workshop.stock import StockItem
from zinnet.workshop.stock_sheets import to_film

Box = tuple[float, float, float, float]


@dataclass(frozen=True, eq=False)
class Trim:
    """One line of the list: the rectangle (left, top, right, bottom) to cut from a film, and where it goes.

    On a roll the rectangle is measured from its free end when its turn comes. ``whole`` says that nothing is cut off:
    the film goes on the mat as it is. ``load`` counts the times that a mat is loaded, ``stuck_at`` is how far the
    film's corner lies from the mat's left and top edges.
    """

    mat: NestedMat
    item: StockItem | None
    box: Box
    whole: bool
    on: str
    load: int
    stuck_at: tuple[float, float]
    new_settings: bool

    @property
    def size(self) -> tuple[float, float]:
        """How long the rectangle is along the film, and how wide across it."""
        left, top, right, bottom = self.box
        return right - left, bottom - top

    @property
    def source(self) -> str:
        """Which film it is cut from, in words."""
        if self.item is None:
            return f"{self.mat.nest.film.name}, from the roll or a sheet"
        place = f", {self.item.place}" if self.item.place else ""
        return f"{self.item.kind} {self.item.number}{place}"

    @property
    def side_down(self) -> str:
        """Which side of the film lies on the mat; of a print, how it comes out of the printer."""
        if self.mat.nest.bed.printed:
            return "print it as it is: it is mirrored already" if self.mat.nest.mirrored else "print it as it is"
        return "carrier down, film up" if self.mat.nest.mirrored else "backing paper down, film up"


@dataclass
class _Loading:
    """How a mat is being loaded: rows of films from its upper left corner."""

    bed: Mat
    kind: str
    number: int
    row_top: float
    row_bottom: float
    right: float

    def takes(self, kind: str, bed: Mat) -> bool:
        """Tell whether film of a kind may lie beside what is there: paper is printed sheet by sheet."""
        return self.kind == kind and self.bed == bed and not bed.printed

    def place(self, long: float, wide: float) -> tuple[float, float] | None:
        """Return where a film may be stuck beside those that are there, or None where it finds no room."""
        margin, apart, (width, height) = self.bed.margin_mm, room().apart_mm, self.bed.inner
        for left, top in ((self.right + apart, self.row_top), (margin, self.row_bottom + apart)):
            if left + long <= margin + width + 1e-6 and top + wide <= margin + height + 1e-6:
                self.row_top, self.right = top, left + long
                self.row_bottom = max(self.row_bottom, top + wide)
                return left, top
        return None


def trim_list(mats: Sequence[NestedMat], *, share: bool = False) -> tuple[Trim, ...]:
    """Return the trim list of the mats; those of one kind of film follow one another, so that settings change least.

    Parameters
    ----------
    mats
        The nested mats of the job.
    share
        Whether films of one kind are stuck on one mat beside one another as long as there is room.
    """
    return _trims(tuple(mats), share)


@stage(most=16)
def _trims(mats: tuple[NestedMat, ...], share: bool) -> tuple[Trim, ...]:
    kinds = list(dict.fromkeys(mat.nest.film.kind for mat in mats))
    taken: dict[int, float] = {}
    found: list[Trim] = []
    loading: _Loading | None = None
    for mat in sorted(mats, key=lambda mat: (kinds.index(mat.nest.film.kind), mat.number)):
        box, whole = _trimmed(mat, taken)
        bed = mat.nest.bed
        kind, long, wide = mat.nest.film.kind, box[2] - box[0], box[3] - box[1]
        changed = not found or found[-1].mat.nest.film.kind != kind
        beside = loading.place(long, wide) if share and loading is not None and loading.takes(kind, bed) else None
        if loading is None or beside is None:
            left, top = _inset(long, wide, mat.sheet.margin_mm, bed)
            number = 1 if loading is None else loading.number + 1
            loading = _Loading(bed, kind, number, top, top + wide, left + long)
            beside = (left, top)
        found.append(Trim(mat, mat.item, box, whole, bed.name, loading.number, beside, changed))
    return tuple(found)


def _trimmed(mat: NestedMat, taken: dict[int, float]) -> tuple[Box, bool]:
    """Return the rectangle of film that the mat takes, in the film's coordinates, and whether that is all of it."""
    item = mat.item
    if item is None:
        return (0.0, 0.0, mat.reach_mm, mat.sheet.height_mm), False
    if item.kind == "roll" and not mat.sheet.turned:
        start = taken.get(item.number, 0.0)
        length = load_of(mat, item).taken_mm
        taken[item.number] = start + length
        return (start, 0.0, start + length, mat.sheet.height_mm), False
    size = (mat.sheet.width_mm, mat.sheet.height_mm)
    box = moved(shapely.box(0, 0, *size), to_film(mat.sheet, item)).bounds
    return box, item.kind != "roll" and size in ((item.length_mm, item.width_mm), (item.width_mm, item.length_mm))


def load_of(mat: NestedMat, item: StockItem) -> CutLoad:
    """Return the mat as a load that is cut: weed frames and the test cut go out of the film with the pieces."""
    cut = [*mat.rooms, *([] if mat.test_spot is None else [mat.test_spot])]
    return CutLoad(mat.sheet, item, union(cut), mat.layout.used_length_mm)


def loads_cut(mats: Sequence[NestedMat]) -> tuple[CutLoad, ...]:
    """Return the loads of all mats whose film is from the shelf."""
    return tuple(load_of(mat, mat.item) for mat in mats if mat.item is not None)


def _inset(long: float, wide: float, kept_mm: float, bed: Mat) -> tuple[float, float]:
    """Return how far from a mat's upper left corner film is stuck: at its margin, or in the middle if it is larger.

    Film that keeps as much at its edges as the mat does, ``kept_mm``, is stuck in the very corner, if it is larger.
    """
    large = long > bed.inner[0] + 1e-6 or wide > bed.inner[1] + 1e-6
    if bed.fed or (large and kept_mm >= bed.margin_mm - 1e-6):
        return 0.0, 0.0
    width, height = bed.width_mm, bed.height_mm
    if (long > width + 1e-6 or wide > height + 1e-6) and long <= height + 1e-6 and wide <= width + 1e-6:
        width, height = height, width
    across, down = max(0.0, (width - long) / 2), max(0.0, (height - wide) / 2)
    return min(bed.margin_mm, across), min(bed.margin_mm, down)
