"""What is nested on what: the pieces of each film, the film they are cut from, the nest, and the mats it makes."""

from collections import Counter, defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import shapely

from zinnet.base.stages import stage
from zinnet.data.limits import limits
from zinnet.films.catalogue import Film, kind_of
from zinnet.geometry.region import Region, as_region
from zinnet.geometry.transform import moved
from zinnet.job.edits import held_copies
from zinnet.job.model import Job
from zinnet.layers.marks import frame_box, frame_room_mm
from zinnet.machines.cutters import Mat, paper, room
from zinnet.nesting.grown import has_counters
from zinnet.nesting.mat_sheets import gap_of, sheet_on
from zinnet.nesting.model import Layout, NestSpec, NestTask, Piece, Pin, Placed, SheetLayout
from zinnet.nesting.pinned import pinned_sheet
from zinnet.nesting.sheet import Sheet, spoiled, taken_mm
from zinnet.nesting.verify import Fault, count_faults, faults
from zinnet.plan.cut_parts import CutPart, CutRequest, cut_parts
from zinnet.plan.film_edges import Edges
from zinnet.plan.fitted import Apart, whole_of
from zinnet.workshop.model import Workshop
from zinnet.workshop.stock import StockItem
from zinnet.workshop.stock_sheets import sheets_from

TEST_CUT = "test-cut"
"""The name of the piece that keeps a spot free for the test cut."""
ALONG = (90.0,)
"""How film with a direction is laid, on mats as on film from the shelf: its direction runs along the length, x."""


@dataclass(frozen=True, eq=False)
class FilmNest:
    """All that is cut from one film: the pieces, the task they make, and the nest where there is one.

    ``items`` says which film from the shelf each of the task's sheets is; None where it is a mat full of film. ``bed``
    is the mat that it is stuck on, or the paper that it is printed on.
    It ``waits`` where the same film is cut from its other side too, and that nest, which has the first choice, is not
    made yet.
    """

    film: Film
    mirrored: bool
    parts: tuple[CutPart, ...]
    task: NestTask
    items: tuple[StockItem | None, ...]
    bed: Mat
    layout: Layout | None = None
    waits: bool = False

    @property
    def key(self) -> str:
        """What the nest depends on."""
        return self.task.key

    @cached_property
    def _by_name(self) -> dict[str, CutPart]:
        return {part.name: part for part in self.parts}

    def has(self, name: str) -> bool:
        """Tell whether a part of this name is cut from the film."""
        return name in self._by_name

    def part(self, name: str) -> CutPart:
        """Return one part by its name."""
        return self._by_name[name]


@dataclass(frozen=True, eq=False)
class NestedMat:
    """One mat as it is loaded: a film, and what is cut from it. ``position`` counts the nest's own sheets from 0.

    ``test_cut`` is where a spot is kept free for the test cut.
    """

    number: int
    nest: FilmNest
    sheet: Sheet
    layout: SheetLayout
    position: int = 0
    test_cut: Placed | None = None

    @property
    def item(self) -> StockItem | None:
        """The film from the shelf that is on the mat, where it is from there."""
        return self.nest.items[self.layout.sheet]

    @cached_property
    def regions(self) -> tuple[Region, ...]:
        """What is cut, in the order of the layout's placements."""
        return tuple(moved(self.nest.part(one.piece).region, one.matrix) for one in self.layout.placed)

    @cached_property
    def rooms(self) -> tuple[Region, ...]:
        """What the pieces take, their weed frames counted in, in the order of the layout's placements."""
        return tuple(moved(self.nest.part(one.piece).room, one.matrix) for one in self.layout.placed)

    @cached_property
    def test_spot(self) -> Region | None:
        """The spot that is kept free for the test cut."""
        if self.test_cut is None:
            return None
        side = room().test_cut_mm
        return moved(as_region(shapely.box(0, 0, side, side)), self.test_cut.matrix)

    def frame(self) -> Region:
        """Return the weed frame around all pieces of the mat."""
        boxes = [one.bounds for one in self.rooms]
        around = (
            min(box[0] for box in boxes),
            min(box[1] for box in boxes),
            max(box[2] for box in boxes),
            max(box[3] for box in boxes),
        )
        return as_region(shapely.box(*frame_box(around)))

    @cached_property
    def film_mm2(self) -> float:
        """The film that the pieces are made of."""
        return float(sum(self.nest.part(one.piece).region.area for one in self.layout.placed))

    @property
    def reach_mm(self) -> float:
        """How much of the film's length is taken: up to the last piece and the margin behind it."""
        return taken_mm(self.sheet, self.layout.used_length_mm)

    @property
    def use(self) -> float:
        """The share of the film taken that the pieces are made of."""
        return self.film_mm2 / (self.reach_mm * self.sheet.height_mm)


@stage(most=32)
def film_nests(
    requests: tuple[CutRequest, ...],
    apart: Apart,
    spec: NestSpec,
    joined: bool,
    mat: Mat,
    stock: tuple[StockItem, ...],
    edges: Edges | None = None,
) -> tuple[FilmNest, ...]:
    """Return what is cut from each film and side, in the order of the layers, not nested yet.

    Parameters
    ----------
    requests
        What is cut of each design on each size, and of the words of each name.
    apart
        The layers that are cut apart.
    spec
        How the user wants the pieces nested.
    joined
        Whether outlines of one film that overlap are cut as one.
    mat
        The mat that the film is stuck on.
    stock
        What is on the shelf; it counts only where the job is cut from there.
    edges
        What the machine keeps of a film; None: what is usual.
    """
    by_film: dict[tuple[str, bool], list[CutPart]] = {}
    films: dict[tuple[str, bool], Film] = {}
    copies: dict[str, int] = {}
    parted = dict(apart)
    for request in requests:
        for layer in request.layers:
            if layer.film is None or layer.side is None:
                continue
            key = (layer.film.id, layer.side.mirrored)
            films.setdefault(key, layer.film)
            framed = spec.weed_frame == "piece"
            parts = parted.get(layer) or whole_of(layer)
            for part in cut_parts(request, layer, parts, joined=joined, framed=framed):
                by_film.setdefault(key, []).append(part)
                copies[part.name] = request.copies * len(part.places) + spec.spare
    return tuple(
        _film_nest(films[key], key[1], tuple(parts), copies, spec, mat, stock, edges or Edges())
        for key, parts in by_film.items()
    )


def _film_nest(
    film: Film,
    mirrored: bool,
    parts: tuple[CutPart, ...],
    copies: dict[str, int],
    spec: NestSpec,
    mat: Mat,
    stock: tuple[StockItem, ...],
    edges: Edges,
) -> FilmNest:
    directed, printed = kind_of(film).direction, kind_of(film).bond == "print"
    bed = paper(spec.paper) if printed else mat
    loads: Sequence[tuple[Sheet, StockItem | None]] = ((sheet_on(bed), None),)
    if spec.from_shelf and not printed:
        of_film = tuple(item for item in stock if item.film == film.id)
        loads = sheets_from(of_film, mat, edge_mm=edges.kept_mm, directed=directed)
    if edges.test_corner and not spec.test_cut and not printed:
        loads = [(_with_corner_free(sheet), item) for sheet, item in loads]
    if spec.weed_frame == "mat" and not printed:
        loads = [(_with_frame_room(sheet), item) for sheet, item in loads]
    turns = ALONG if directed else spec.turns
    pieces = [Piece(part.name, part.room, copies[part.name], turns) for part in parts]
    if spec.test_cut and not printed:
        side = room().test_cut_mm
        pieces.append(Piece(TEST_CUT, as_region(shapely.box(0, 0, side, side)), 1, "none"))
    scissors_mm = float(limits()["counters"]["scissors_mm"])
    task = NestTask(
        pieces=tuple(pieces),
        sheets=tuple(sheet for sheet, _ in loads),
        gap_mm=gap_of(spec),
        seconds=spec.seconds,
        steps=spec.steps,
        seed=spec.seed,
        inside_counters=spec.inside_counters and any(has_counters(piece.region, scissors_mm) for piece in pieces),
        counter_mm=scissors_mm,
        aims=spec.aims,
    )
    task = replace(task, pinned=_pinned(task, spec.pins))
    return FilmNest(film, mirrored, parts, task, tuple(item for _, item in loads), bed)


def lay_out(nests: Sequence[FilmNest], layouts: Mapping[str, Layout], spec: NestSpec) -> tuple[FilmNest, ...]:
    """Return the films with the nests made so far; film from the shelf is given out once, whatever side it is cut from.

    ``layouts`` holds the nests by the key of their task.
    """
    found: list[FilmNest] = []
    for nest in nests:
        earlier = tuple(one for one in found if one.film.id == nest.film.id) if spec.from_shelf else ()
        if any(one.layout is None for one in earlier):
            found.append(replace(nest, waits=True))
            continue
        left = _with_film_left(nest, earlier) if earlier else nest
        found.append(with_layout(left, layouts.get(left.key), spec.moved))
    return tuple(found)


@stage(most=32)
def _with_film_left(nest: FilmNest, earlier: tuple[FilmNest, ...]) -> FilmNest:
    """Return the film with the loads that the nests of its other side leave."""
    used: Counter[tuple[int, tuple[float, float], float]] = Counter()
    cut_mm: defaultdict[int, float] = defaultdict(float)
    for one in earlier:
        for laid in one.layout.sheets if one.layout is not None else ():
            load = one.task.sheets[laid.sheet]
            if load.roll_mm is None:
                used[_load_of(one, laid.sheet)] += 1
            else:
                cut_mm[_load_of(one, laid.sheet)[0]] += taken_mm(load, laid.used_length_mm)
    sheets, items = [], []
    for index, sheet in enumerate(nest.task.sheets):
        assert sheet.copies is not None
        key = _load_of(nest, index)
        rest = None if sheet.roll_mm is None else sheet.roll_mm - cut_mm[key[0]]
        left = sheet.copies - used[key]
        if left > 0 and (rest is None or rest >= room().least_load_mm):
            sheets.append(sheet.model_copy(update={"copies": left, "roll_mm": rest}))
            items.append(nest.items[index])
    task = replace(nest.task, sheets=tuple(sheets), pinned=())
    return replace(nest, task=task, items=tuple(items))


def _load_of(nest: FilmNest, index: int) -> tuple[int, tuple[float, float], float]:
    """Return which load of which film a sheet of a task is."""
    item, sheet = nest.items[index], nest.task.sheets[index]
    assert item is not None
    return item.number, sheet.corner, sheet.width_mm


def _with_corner_free(sheet: Sheet) -> Sheet:
    """Return a sheet whose upper left corner stays free: the machine cuts its test there."""
    side = sheet.margin_mm + room().test_cut_mm
    return spoiled(sheet, as_region(shapely.box(0, 0, side, side)))


def _with_frame_room(sheet: Sheet) -> Sheet:
    return sheet.model_copy(update={"margin_mm": sheet.margin_mm + frame_room_mm()})


def _pinned(task: NestTask, pins: tuple[Pin, ...]) -> tuple[SheetLayout, ...]:
    """Return the sheets with what is pinned on them; pins of pieces or film that are no more are passed over."""
    regions = {piece.name: piece.region for piece in task.pieces}
    most = {piece.name: piece.copies for piece in task.pieces}
    by_mat: dict[tuple[int, int], list[Placed]] = {}
    for pin in pins:
        if pin.copy_number <= most.get(pin.piece, 0) and pin.sheet < len(task.sheets):
            by_mat.setdefault((pin.mat, pin.sheet), []).append(pin.placed)
    found: list[SheetLayout] = []
    used: Counter[int] = Counter()
    for (_, kind), placed in sorted(by_mat.items()):
        there_are = task.sheets[kind].copies
        if there_are is None or used[kind] < there_are:
            used[kind] += 1
            found.append(pinned_sheet(kind, tuple(placed), regions))
    return tuple(found)


def shelf_of(job: Job, workshop: Workshop) -> tuple[StockItem, ...]:
    """Return what is on the shelf; for a job that was cut, what was on it before."""
    return workshop.stock if job.cut is None else job.cut.items


def held_pins(mats: Sequence[NestedMat], spec: NestSpec) -> tuple[Pin, ...]:
    """Return the copies that stay where they are when the rest is nested again."""
    held = held_copies(spec)
    return tuple(
        pin_of(mat, placed, held=True)
        for mat in mats
        for placed in mat.layout.placed
        if (placed.piece, placed.copy_number) in held
    )


def pin_of(mat: NestedMat, placed: Placed, *, held: bool) -> Pin:
    """Return the pin that keeps a copy where it lies."""
    return Pin(
        piece=placed.piece,
        copy_number=placed.copy_number,
        mat=mat.position,
        sheet=mat.layout.sheet,
        x_mm=placed.x_mm,
        y_mm=placed.y_mm,
        turn_deg=placed.turn_deg,
        held=held,
    )


def with_layout(nest: FilmNest, layout: Layout | None, moves: tuple[Pin, ...]) -> FilmNest:
    """Return the film with the nest made for its pieces, and what was moved in it by hand since.

    A nest that is not for all of its pieces is as good as none; where there is no film, nothing is placed.
    """
    own = tuple(pin for pin in moves if nest.has(pin.piece))
    return _with_layout(nest, layout, own)


@stage(most=256)
def _with_layout(nest: FilmNest, layout: Layout | None, moves: tuple[Pin, ...]) -> FilmNest:
    if not nest.task.sheets:
        return replace(nest, layout=_nowhere(nest.task))
    if layout is None or count_faults(nest.task, layout):
        return replace(nest, layout=None)
    return replace(nest, layout=by_hand(nest.task, layout, moves) if moves else layout)


def _nowhere(task: NestTask) -> Layout:
    """Return the layout of a task without any film."""
    return Layout(unplaced=tuple(piece.name for piece in task.pieces for _ in range(piece.copies))).as_verified()


def by_hand(task: NestTask, layout: Layout, moves: tuple[Pin, ...]) -> Layout:
    """Return the layout with copies where they were put by hand; it is not verified. Mats may be empty then."""
    to = {(pin.piece, pin.copy_number): pin for pin in moves if pin.mat < len(layout.sheets)}
    placed = [[one for one in sheet.placed if (one.piece, one.copy_number) not in to] for sheet in layout.sheets]
    known = {(one.piece, one.copy_number) for sheet in layout.sheets for one in sheet.placed}
    for key, pin in to.items():
        if key in known:
            placed[pin.mat].append(pin.placed)
    regions = {piece.name: piece.region for piece in task.pieces}
    sheets = []
    for sheet, rows in zip(layout.sheets, placed, strict=True):
        reach = pinned_sheet(sheet.sheet, tuple(rows), regions).used_length_mm if rows else 0.0
        sheets.append(sheet.model_copy(update={"placed": tuple(rows), "used_length_mm": reach}))
    return Layout(sheets=tuple(sheets), unplaced=layout.unplaced)


@stage(most=64)
def faults_of(nest: FilmNest) -> tuple[Fault, ...]:
    """Return what is wrong with a film's nest, also with one that came out of a file."""
    if nest.layout is None or nest.layout.verified:
        return ()
    return tuple(faults(nest.task, nest.layout))


@stage(most=16)
def nested_mats(nests: tuple[FilmNest, ...]) -> tuple[NestedMat, ...]:
    """Return every mat on which something is cut, numbered through all films."""
    found: list[NestedMat] = []
    for nest in nests:
        for position, on_sheet in enumerate(nest.layout.sheets if nest.layout is not None else ()):
            pieces = tuple(one for one in on_sheet.placed if one.piece != TEST_CUT)
            if pieces:
                cut = on_sheet.model_copy(update={"placed": pieces})
                test = next((one for one in on_sheet.placed if one.piece == TEST_CUT), None)
                found.append(NestedMat(len(found) + 1, nest, nest.task.sheets[on_sheet.sheet], cut, position, test))
    return tuple(found)
