"""Stages of the work: pure functions whose results are kept by what they read, in the cache of the open document.

A stage is marked ``@stage``. Its arguments are all that it reads, and they are the key: values by their content,
results of earlier stages as the very objects that those stages made. A cache is put in use for a block of code; where
none is in use, a stage is an ordinary function and nothing is kept.
"""

import math
import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar, copy_context
from functools import wraps
from typing import Any, NamedTuple

from zinnet.base.memory import give_memory_back, memory_in_use

type Key = tuple[Hashable, ...]
type Handed = dict[str, list[tuple[Key, Any]]]

BUDGET = 150_000_000
"""How many bytes the process may use beyond what it used when a cache was made, before results are let go of."""
_MOST: dict[str, int] = {}
_STAY: set[str] = set()


class _Kept(NamedTuple):
    result: Any
    turn: int


class StageCache:
    """What stages made, by what they read: of each stage the latest results, and no more than memory is given for.

    Memory is what the process uses beyond what it used when the cache was made. Whatever was made or asked for in the
    turn that just ended, which is one derivation, stays; of the rest what was not asked for longest goes first.
    """

    def __init__(self, budget: int = BUDGET, memory_in_use: Callable[[], int] = memory_in_use) -> None:
        self._lock = threading.Lock()
        self._kept: dict[str, OrderedDict[Key, _Kept]] = {}
        self._turn = 0
        self._memory_in_use = memory_in_use
        self._most_memory = memory_in_use() + budget

    def find(self, stage: str, key: Key) -> tuple[bool, Any]:
        """Return whether a result is kept, and the result."""
        with self._lock:
            kept = self._kept.get(stage)
            if kept is None or key not in kept:
                return False, None
            found = kept[key].result
            kept[key] = _Kept(found, self._turn)
            kept.move_to_end(key)
            return True, found

    def keep(self, stage: str, key: Key, result: Any, most: int) -> None:
        """Keep a result, and let go of the one that was not asked for longest where there are more than ``most``."""
        with self._lock:
            kept = self._kept.setdefault(stage, OrderedDict())
            kept[key] = _Kept(result, self._turn)
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

    def _let_go(self, turn: int) -> None:
        """Where too much memory is in use, let go of the half of what is older than a turn, or of all of it."""
        for share in (0.5, 1.0):
            if self._memory_in_use() <= self._most_memory:
                return
            with self._lock:
                turns = sorted(one.turn for kept in self._kept.values() for one in kept.values() if one.turn < turn)
                if not turns:
                    return
                last = turns[math.ceil(len(turns) * share) - 1]
                for name, kept in self._kept.items():
                    self._kept[name] = OrderedDict((key, one) for key, one in kept.items() if one.turn > last)
            give_memory_back()

    def handed_on(self) -> Handed:
        """Return the results of all stages whose results another process can take over."""
        with self._lock:
            return {
                name: [(key, one.result) for key, one in kept.items()]
                for name, kept in self._kept.items()
                if name not in _STAY
            }

    def take_over(self, handed: Handed) -> None:
        """Keep what another cache handed on, as if it was made here."""
        for name, rows in handed.items():
            for key, result in rows:
                self.keep(name, key, result, _MOST.get(name, 0))


_in_use: ContextVar[StageCache | None] = ContextVar("stage_cache", default=None)


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
            key: Key = (*args, *sorted(options.items()))
            known, result = cache.find(name, key)
            if not known:
                result = function(*args, **options)
                cache.keep(name, key, result, most)
            return result  # type: ignore[no-any-return]

        return kept

    return mark


def carried[**Given, Made](function: Callable[Given, Made]) -> Callable[Given, Made]:
    """Return a function for other threads that works with the cache which is in use here."""
    context = copy_context()

    def run(*args: Given.args, **options: Given.kwargs) -> Made:
        return context.copy().run(function, *args, **options)

    return run
