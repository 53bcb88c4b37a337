"""Stages of the work: pure functions whose results are kept by what they read, in the cache of the open document.

A stage is marked ``@stage``. Its arguments are all that it reads, and they are the key: values by their content,
results of earlier stages as the very objects that those stages made. A cache is put in use for a block of code; where
none is in use, a stage is an ordinary function and nothing is kept.
"""

import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar, copy_context
from functools import wraps
from typing import Any

type Key = tuple[Hashable, ...]


class StageCache:
    """What stages made, by what they read; of each stage the latest results are kept."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._kept: dict[Hashable, OrderedDict[Key, Any]] = {}

    def find(self, stage: Hashable, key: Key) -> tuple[bool, Any]:
        """Return whether a result is kept, and the result."""
        with self._lock:
            kept = self._kept.get(stage)
            if kept is None or key not in kept:
                return False, None
            kept.move_to_end(key)
            return True, kept[key]

    def keep(self, stage: Hashable, key: Key, result: Any, most: int) -> None:
        """Keep a result, and let go of the one that was not asked for longest where there are more than ``most``."""
        with self._lock:
            kept = self._kept.setdefault(stage, OrderedDict())
            kept[key] = result
            while len(kept) > most:
                kept.popitem(last=False)

    @contextmanager
    def in_use(self) -> Iterator[None]:
        """Keep the results of all stages in this cache, within the block."""
        token = _in_use.set(self)
        try:
            yield
        finally:
            _in_use.reset(token)


_in_use: ContextVar[StageCache | None] = ContextVar("stage_cache", default=None)


def cache_in_use() -> StageCache | None:
    """Return the cache that stages keep their results in, where one is in use."""
    return _in_use.get()


def stage[**Read, Made](most: int = 64) -> Callable[[Callable[Read, Made]], Callable[Read, Made]]:
    """Mark a pure function as a stage: of its results the latest ``most`` are kept. Its arguments are hashable.

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
        @wraps(function)
        def kept(*args: Read.args, **options: Read.kwargs) -> Made:
            cache = _in_use.get()
            if cache is None:
                return function(*args, **options)
            key: Key = (*args, *sorted(options.items()))
            known, result = cache.find(function, key)
            if not known:
                result = function(*args, **options)
                cache.keep(function, key, result, most)
            return result  # type: ignore[no-any-return]

        return kept

    return mark


def carried[**Given, Made](function: Callable[Given, Made]) -> Callable[Given, Made]:
    """Return a function for other threads that works with the cache which is in use here."""
    context = copy_context()

    def run(*args: Given.args, **options: Given.kwargs) -> Made:
        return context.copy().run(function, *args, **options)

    return run
