"""Stages of the work: pure functions whose results are kept by what they read, in the cache of the open document.

A stage is marked ``@stage``. Its arguments are all that it reads, and they are the key: values by their content,
results of earlier stages as the very objects that those stages made. A cache is put in use for a block of code; where
none is in use, a stage is an ordinary function and nothing is kept.
"""

import math
import threading
from collections import OrderedDict
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from contextvars import ContextVar, copy_context
from functools import wraps
from typing import TYPE_CHECKING, Any, NamedTuple

from zinnet.base.memory import give_memory_back, memory_in_use

if TYPE_CHECKING:
    from zinnet.base.keys import Key

type Spot = tuple[str, "Key"]
type Handed = dict[str, list[tuple["Key", Any, Sequence[Spot]]]]

BUDGET = 70_000_000
"""How many bytes the process may use beyond what it used when a cache was made, before results are let go of."""
TURNS = 20
_MOST: dict[str, int] = {}
_STAY: set[str] = set()


class _Kept(NamedTuple):
    result: Any
    turn: int
    rests_on: Sequence[Spot]


class StageCache:
    """What stages made, by what they read: of each stage the latest results, and no more than memory is given for.

    Memory is what the process uses beyond what it used when the cache was made. Whatever was made or asked for in the
    turn that just ended, which is one derivation, stays with all that it rests on; of the rest what was not asked for
    longest goes first.
    """

    def __init__(self, budget: int = BUDGET, memory_in_use: Callable[[], int] = memory_in_use) -> None:
        self._lock = threading.Lock()
        self._kept: dict[str, OrderedDict[Key, _Kept]] = {}
        self._turn = self._next_turn = 0
        self._memory_in_use = memory_in_use
        self._most_memory = memory_in_use() + budget

    def find(self, stage: str, key: "Key") -> tuple[bool, Any]:
        """Return whether a result is kept, and the result."""
        with self._lock:
            kept = self._kept.get(stage)
            if kept is None or key not in kept:
                return False, None
            found = kept[key]
            if found.turn != self._turn:
                kept[key] = found._replace(turn=self._turn)
            kept.move_to_end(key)
            return True, found.result

    def peek(self, stage: str, key: "Key") -> tuple[bool, Any]:
        """Return whether a result is kept, and the result; it counts as asked for no more than before."""
        with self._lock:
            kept = self._kept.get(stage)
            return (True, kept[key].result) if kept is not None and key in kept else (False, None)

    def keep(self, stage: str, key: "Key", result: Any, most: int, rests_on: Sequence[Spot] = ()) -> None:
        """Keep a result and what it rests on; of more than ``most`` let go of the one not asked for longest."""
        with self._lock:
            kept = self._kept.setdefault(stage, OrderedDict())
            kept[key] = _Kept(result, self._turn, rests_on)
            while len(kept) > most:
                kept.popitem(last=False)

    @contextmanager
    def in_use(self) -> Iterator[None]:
        """Keep the results of all stages in this cache, within the block, which is a turn."""
        token = _in_use.set(self)
        with self._lock:
            self._turn += 1
            turn = self._turn
        try:
            yield
        finally:
            _in_use.reset(token)
            self._let_go(turn)

    @contextmanager
    def at_hand(self) -> Iterator[None]:
        """Find and keep results in this cache within the block, which is part of the turn before: nothing is let go."""
        token = _in_use.set(self)
        try:
            yield
        finally:
            _in_use.reset(token)

    def _let_go(self, turn: int) -> None:
        """Where too much memory is in use, let go of the half of what is older than a turn, or of all of it.

        That takes a while, so it is done once in so many turns.
        """
        if turn < self._next_turn:
            return
        for share in (0.5, 1.0):
            if self._memory_in_use() <= self._most_memory:
                return
            self._next_turn = turn + TURNS
            with self._lock:
                stays = self._used_since(turn)
                spent = [
                    (one.turn, name, key)
                    for name, kept in self._kept.items()
                    for key, one in kept.items()
                    if (name, key) not in stays
                ]
                spent.sort(key=lambda row: row[0])
                for _, name, key in spent[: math.ceil(len(spent) * share)]:
                    del self._kept[name][key]
            if not spent:
                return
            give_memory_back()

    def _used_since(self, turn: int) -> set[Spot]:
        """Return what was asked for in a turn or later, and all that it rests on."""
        left = [(name, key) for name, kept in self._kept.items() for key, one in kept.items() if one.turn >= turn]
        found: set[Spot] = set()
        while left:
            name, key = spot = left.pop()
            if spot in found or key not in self._kept.get(name, ()):
                continue
            found.add(spot)
            left += self._kept[name][key].rests_on
        return found

    def handed_on(self) -> Handed:
        """Return the results of all stages whose results another process can take over."""
        with self._lock:
            return {
                name: [(key, one.result, one.rests_on) for key, one in kept.items()]
                for name, kept in self._kept.items()
                if name not in _STAY
            }

    def take_over(self, handed: Handed) -> None:
        """Keep what another cache handed on, as if it was made here."""
        for name, rows in handed.items():
            for key, result, rests_on in rows:
                self.keep(name, key, result, _MOST.get(name, 0), rests_on)


class LeftOff(BaseException):
    """Work in a cache of its own is left off: nobody waits for it any more."""


class AsideCache(StageCache):
    """A cache for looking at what might be: it finds what another one holds, and keeps nothing there.

    Every stage asks first whether the work still ``goes_on``; where it does not, :class:`LeftOff` is raised.
    """

    def __init__(self, beside: StageCache, goes_on: Callable[[], bool] = lambda: True) -> None:
        super().__init__()
        self._beside, self._goes_on = beside, goes_on

    def find(self, stage: str, key: "Key") -> tuple[bool, Any]:
        """Return whether a result is kept here or in the other cache, and the result."""
        if not self._goes_on():
            raise LeftOff
        known, result = super().find(stage, key)
        return (known, result) if known else self._beside.peek(stage, key)


@contextmanager
def while_wanted(goes_on: Callable[[], bool]) -> Iterator[None]:
    """Let every stage within the block ask first whether the work still ``goes_on``; else :class:`LeftOff` is raised.

    What was worked out until then is kept.
    """
    token = _wanted.set(goes_on)
    try:
        yield
    finally:
        _wanted.reset(token)


@contextmanager
def standing_back(stand_back: Callable[[], object]) -> Iterator[None]:
    """Let every stage within the block ``stand_back`` first: whoever it works beside may have something to do."""
    token = _stands_back.set(stand_back)
    try:
        yield
    finally:
        _stands_back.reset(token)


def take_turn() -> None:
    """Stand back where somebody else has something to do; every stage begins so, and a long one does it now and then.

    Raises
    ------
    LeftOff
        If the work is not wanted any more.
    """
    stand_back = _stands_back.get()
    if stand_back is not None:
        stand_back()
    wanted = _wanted.get()
    if wanted is not None and not wanted():
        raise LeftOff


_wanted: ContextVar[Callable[[], bool] | None] = ContextVar("work_wanted", default=None)
_stands_back: ContextVar[Callable[[], object] | None] = ContextVar("work_stands_back", default=None)
_in_use: ContextVar[StageCache | None] = ContextVar("stage_cache", default=None)
_within: ContextVar[list[Spot] | None] = ContextVar("stages_within", default=None)


def cache_in_use() -> StageCache | None:
    """Return the cache that stages keep their results in, where one is in use."""
    return _in_use.get()


def stage[**Read, Made](
    most: int = 64, *, stays: bool = False
) -> Callable[[Callable[Read, Made]], Callable[Read, Made]]:
    """Mark a pure function as a stage: of its results the latest ``most`` are kept. Its arguments are hashable.

    What a stage makes that ``stays`` can't be handed on to another process: there are functions in it.

    Examples
    --------
    >>> @stage(most=8)
    ... def area_mm2(width_mm, height_mm):
    ...     print("worked out")
    ...     return width_mm * height_mm
    >>> with StageCache().in_use():
    ...     [area_mm2(20, 30), area_mm2(20, 30)]
    worked out
    [600, 600]
    """

    def mark(function: Callable[Read, Made]) -> Callable[Read, Made]:
        name = f"{function.__module__}.{function.__qualname__}"
        _MOST[name] = most
        if stays:
            _STAY.add(name)

        @wraps(function)
        def kept(*args: Read.args, **options: Read.kwargs) -> Made:
            cache = _in_use.get()
            if cache is None:
                return function(*args, **options)
            from zinnet.base.keys import Key  # the geometry library: a command that has no stages does without it

            take_turn()
            key = Key((*args, *sorted(options.items())))
            above = _within.get()
            known, result = cache.find(name, key)
            if not known:
                below: list[Spot] = []
                token = _within.set(below)
                try:
                    result = function(*args, **options)
                finally:
                    _within.reset(token)
                cache.keep(name, key, result, most, below)
            if above is not None:
                above.append((name, key))
            return result  # type: ignore[no-any-return]

        return kept

    return mark


def carried[**Given, Made](function: Callable[Given, Made]) -> Callable[Given, Made]:
    """Return a function for other threads that works with the cache which is in use here."""
    context = copy_context()

    def run(*args: Given.args, **options: Given.kwargs) -> Made:
        return context.copy().run(function, *args, **options)

    return run
