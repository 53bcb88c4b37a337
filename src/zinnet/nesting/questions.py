"""Questions to film and pieces: how many fit, at what size so many fit, how much roll is missing.

Rectangles are answered by counting, all else by nesting: such an answer is what was found in the time allowed, which
holds, though a longer search may find a little more.
"""

import threading
import time
from collections import Counter
from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import accumulate, cycle, islice, takewhile

import shapely

from zinnet.base.errors import NestError
from zinnet.geometry.transform import moved, scale
from zinnet.nesting.model import Layout, NestTask, Piece
from zinnet.nesting.rectangles import how_many_rectangles
from zinnet.nesting.running import NestRun, prepare_workers
from zinnet.nesting.sheet import Sheet, all_room_mm2, room_of
from zinnet.nesting.shelf import shelf_nest

TRIAL_S, LAST_S = 1.5, 5.0
"""How long one trial looks for a nest, and how long the last ones do."""
EXACT, FINE = 1e-6, 0.004
"""How near the largest size is found, as a share: by counting, and by nesting."""
PUSHES = (1.012, 1.006, 1.003)
LEAST_SCALE, MOST_SCALE = 1e-3, 1e3
MOST = 2000
POLL_S = 0.02

GoesOn = Callable[[], bool]


def always() -> bool:
    """Go on until there is an answer."""
    return True


@dataclass(frozen=True)
class Largest:
    """The largest size found: as a factor of the pieces as they are, and whether it is exact."""

    factor: float
    exact: bool


def all_fit(task: NestTask, *, seconds: float | None = None, goes_on: GoesOn = always) -> bool:
    """Tell whether all pieces of a task fit on its sheets; False also where no nest was found in the time.

    Parameters
    ----------
    task : NestTask, mm
        Sheets, pieces and gap.
    seconds : float, s
        How long to search; None takes the task's own.
    goes_on : function
        Asked on the way; False ends the search.

    Returns
    -------
    bool
        True only where a verified layout holds them all.
    """
    return _nest_of_all(task, seconds or TRIAL_S, goes_on) is not None


def _nest_of_all(task: NestTask, seconds: float, goes_on: GoesOn) -> Layout | None:
    """Return a nest of all pieces as soon as one is found."""
    if not task.sheets or _area(task) > _room(task):
        return None
    boxes = shelf_nest(task)
    if not boxes.unplaced:
        return boxes
    if _is_hopeless(task):
        return None
    best = _trial(task, seconds, goes_on)
    return best if best is not None and not best.unplaced else None


def _trial(task: NestTask, seconds: float, goes_on: GoesOn) -> Layout | None:
    """Return the best nest found in the time, or as soon as one holds everything."""
    whole = threading.Event()
    run = NestRun(replace(task, seconds=seconds), on_better=lambda layout: whole.set() if not layout.unplaced else None)
    prepare_workers(1)
    try:
        while run.is_running and not whole.wait(POLL_S) and goes_on():
            pass
    finally:
        best = run.cancel()
    return best


def _area(task: NestTask) -> float:
    return float(sum(piece.region.area * piece.copies for piece in task.pieces))


def _room(task: NestTask) -> float:
    return sum(all_room_mm2(sheet) if sheet.copies else float(room_of(sheet).area) * MOST for sheet in task.sheets)


def _is_hopeless(task: NestTask) -> bool:
    """Tell whether the circle around a piece is wider than the one around any sheet."""
    widest = max(2 * float(shapely.minimum_bounding_radius(piece.region)) for piece in task.pieces)
    inners = [sheet.inner for sheet in task.sheets]
    longest = max((w * w + h * h) ** 0.5 for w, h in inners)
    return bool(widest > longest * (1 + 1e-9))


def as_rectangles(task: NestTask) -> tuple[float, float] | None:
    """Return the size of the pieces where all are copies of one upright rectangle on one plain sheet, else None."""
    if len(task.pieces) != 1 or len(task.sheets) != 1 or not task.sheet.is_plain:
        return None
    if task.sheet.copies != 1 or task.sheet.roll_mm is not None:
        return None
    region = task.pieces[0].region
    left, top, right, bottom = region.bounds
    size = right - left, bottom - top
    return size if abs(region.area - size[0] * size[1]) < 1e-9 * region.area else None


def _count_of_rectangles(task: NestTask, size: tuple[float, float]) -> int:
    """Return how many rectangles fit on the task's sheet: x along the roll, y across it."""
    width, height = task.sheet.inner
    turns = task.pieces[0].allowed_turns
    may_turn = turns is None or bool({90.0, 270.0} & set(turns))
    counts = how_many_rectangles((size[1], size[0]), (height, width), task.gap_mm, may_turn=may_turn)
    return counts.best


def how_many(task: NestTask, *, goes_on: GoesOn = always) -> int:
    """Return how many sets of the task's pieces fit on its sheets, none of them endless.

    Parameters
    ----------
    task : NestTask, mm
        One set of pieces, and sheets that end.
    goes_on : function
        Asked on the way; False ends the search with the most found so far.

    Returns
    -------
    int, sets
        What a nest or, for rectangles, a pattern was found for.

    Raises
    ------
    NestError
        A sheet has no end.
    """
    if any(sheet.copies is None for sheet in task.sheets):
        raise NestError("On endless film any number fits; say how long it is.")
    size = as_rectangles(task)
    if size is not None and task.pieces[0].copies == 1:
        return _count_of_rectangles(task, size)
    bound = min(MOST, int(_room(task) / _area(task)))

    def sets(count: int) -> NestTask:
        pieces = tuple(replace(piece, copies=piece.copies * count) for piece in task.pieces)
        return replace(task, pieces=pieces)

    return _most_that_hold(sets, bound, goes_on) if bound else 0


@dataclass(frozen=True)
class More:
    """How many more sets were found to fit; ``proved`` where the area of one more is more than there is room."""

    count: int
    proved: bool


def how_many_more(task: NestTask, rounds: Sequence[Mapping[str, int]], *, goes_on: GoesOn = always) -> More:
    """Return how many more sets of pieces fit beside all that the task holds already.

    Parameters
    ----------
    task
        The pieces that are wanted already, spare ones among them, and the film; none of it endless.
    rounds
        The pieces of one more set, of the next one, and so on, by name; after the last they begin anew.
    """
    rounds = [one for one in rounds if one]
    if not rounds:
        return More(0, proved=True)
    area = {piece.name: piece.region.area for piece in task.pieces}
    mean = sum(area[name] * count for one in rounds for name, count in one.items()) / len(rounds)
    bound = min(MOST, int(max(0.0, _room(task) - _area(task)) / mean) + len(rounds))

    def with_more(count: int) -> NestTask:
        more: Counter[str] = Counter()
        for one in islice(cycle(rounds), count):
            more.update(one)
        pieces = tuple(replace(piece, copies=piece.copies + more[piece.name]) for piece in task.pieces)
        return replace(task, pieces=pieces)

    size = as_rectangles(task)
    if size is None:
        count = _most_that_hold(with_more, bound, goes_on)
    else:
        free = _count_of_rectangles(task, size) - task.pieces[0].copies
        taken = accumulate(sum(one.values()) for one in cycle(rounds))
        count = sum(1 for _ in takewhile(lambda needed: needed <= free, taken))
        count = _more_by_nesting(with_more, count, bound, goes_on)
    return More(count, proved=_area(with_more(count + 1)) > _room(task))


def _more_by_nesting(with_more: Callable[[int], NestTask], count: int, bound: int, goes_on: GoesOn) -> int:
    """Return the largest count for which a nest was found, one more at a time."""
    while goes_on() and count < bound and all_fit(with_more(count + 1), seconds=LAST_S, goes_on=goes_on):
        count += 1
    return count


def _most_that_hold(with_more: Callable[[int], NestTask], bound: int, goes_on: GoesOn) -> int:
    """Return the largest count up to ``bound`` for which a nest of everything was found."""

    low = _held_of(with_more, bound, goes_on)
    high = bound + 1
    while high - low > 1 and goes_on():
        middle = min(low + max(1, (high - low) // 4), high - 1)
        if all_fit(with_more(middle), goes_on=goes_on):
            low = middle
        else:
            high = middle
    return _more_by_nesting(with_more, low, bound, goes_on)


def _held_of(with_more: Callable[[int], NestTask], bound: int, goes_on: GoesOn) -> int:
    """Return for how many more all pieces lie on the sheets when as many are offered as the area could hold.

    Rows of boxes are there at once, so that a search which is stopped has not found less.
    """
    if not bound:
        return 0
    offered = with_more(bound)
    searched = _trial(offered, TRIAL_S, goes_on) if goes_on() else None
    return max(
        _held_in(layout, offered, with_more, bound) for layout in (shelf_nest(offered), searched) if layout is not None
    )


def _held_in(layout: Layout, offered: NestTask, with_more: Callable[[int], NestTask], bound: int) -> int:
    left = Counter(layout.unplaced)
    placed = {piece.name: piece.copies - left[piece.name] for piece in offered.pieces}

    def is_held(count: int) -> bool:
        return all(piece.copies <= placed[piece.name] for piece in with_more(count).pieces)

    return max((count for count in range(bound + 1) if is_held(count)), default=0)


def largest_size(task: NestTask, *, fixed: Collection[str] = (), goes_on: GoesOn = always) -> Largest:
    """Return the largest factor at which all pieces of the task fit on its sheets; gap and margins stay.

    Raises :class:`NestError` where they do not fit at any size.

    Parameters
    ----------
    task : NestTask, mm
        The pieces at factor 1.
    fixed : names
        The pieces that stay as large as they are.
    goes_on : function
        Asked on the way; False ends the search with the largest found so far.

    Returns
    -------
    Largest
        The factor, and whether it is exact.
    """
    size = as_rectangles(task)
    if size is not None:
        copies = task.pieces[0].copies
        long, wide = size
        factor = _largest_factor(lambda one: _count_of_rectangles(task, (long * one, wide * one)) >= copies)
        return Largest(factor, True)

    def enlarged(factor: float) -> NestTask:
        return scaled(task, factor, fixed)

    boxes = _largest_factor(lambda f: not shelf_nest(enlarged(f)).unplaced)
    most = (_room(task) / _area(task)) ** 0.5
    found = _by_trials(enlarged, boxes, max(most, boxes), goes_on)
    for push in PUSHES:
        if goes_on() and all_fit(enlarged(found * push), seconds=LAST_S, goes_on=goes_on):
            found *= push
    return Largest(found, False)


def _by_trials(enlarged: Callable[[float], NestTask], low: float, high: float, goes_on: GoesOn) -> float:
    """Return the largest factor found between one that fits and one that does not."""
    while high / low - 1 > FINE and goes_on():
        middle = (low * high) ** 0.5
        if all_fit(enlarged(middle), goes_on=goes_on):
            low = middle
        else:
            high = middle
    return low


def _largest_factor(holds: Callable[[float], bool]) -> float:
    """Return the largest factor that holds, by halving."""
    low, high = LEAST_SCALE, MOST_SCALE
    if not holds(low):
        raise NestError("So many do not fit at any size: the room between them takes all the film.")
    while high / low - 1 > EXACT:
        middle = (low * high) ** 0.5
        if holds(middle):
            low = middle
        else:
            high = middle
    return low


def scaled(task: NestTask, factor: float, fixed: Collection[str] = ()) -> NestTask:
    """Return the task with its pieces enlarged by a factor, but for those that stay as they are."""
    pieces = tuple(piece if piece.name in fixed else _enlarged(piece, factor) for piece in task.pieces)
    return replace(task, pieces=pieces)


def _enlarged(piece: Piece, factor: float) -> Piece:
    return Piece(piece.name, moved(piece.region, scale(factor)), piece.copies, piece.turns)


def missing_length(
    task: NestTask, layout: Layout, width_mm: float, *, margin_mm: float, seconds: float | None = None
) -> float:
    """Return how much of a roll of a width the pieces need that found no room; 0 where none is missing.

    Raises :class:`NestError` where a piece is wider than the roll.

    Parameters
    ----------
    task : NestTask, mm
        What was nested.
    layout : Layout, mm
        With what found no room.
    width_mm : float, mm
        The roll's width.
    margin_mm : float, mm
        Along each of its edges.
    seconds : float, s
        How long to search; None takes the task's own.

    Returns
    -------
    float, mm
        The length of roll that holds the rest.
    """
    if not layout.unplaced:
        return 0.0
    left_out = [replace(piece, copies=layout.unplaced.count(piece.name)) for piece in task.pieces]
    pieces = tuple(piece for piece in left_out if piece.copies)
    sides = [float(shapely.minimum_bounding_radius(piece.region)) * 2 * piece.copies for piece in pieces]
    length = sum(sides) + len(layout.unplaced) * task.gap_mm + 2 * margin_mm
    roll = Sheet(width_mm=length, height_mm=width_mm, margin_mm=margin_mm, copies=1, kind="roll")
    best = NestRun(replace(task, pieces=pieces, sheets=(roll,), seconds=seconds or LAST_S, pinned=())).wait()
    if best.unplaced:
        raise NestError("A piece is wider than the roll; take a wider one.")
    return best.sheets[0].used_length_mm + margin_mm


def until(seconds: float) -> GoesOn:
    """Return what says to go on for so long."""
    deadline = time.monotonic() + seconds
    return lambda: time.monotonic() < deadline
