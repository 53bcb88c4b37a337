"""Doing the same to many regions on all cores: the geometry library works outside the interpreter's lock."""

import os
from collections.abc import Callable, Iterable
from concurrent.futures import ThreadPoolExecutor
from functools import cache

from zinnet.base.stages import carried

FEW = 2


@cache
def _pool() -> ThreadPoolExecutor:
    return ThreadPoolExecutor(os.cpu_count() or 1, thread_name_prefix="geometry")


os.register_at_fork(after_in_child=_pool.cache_clear)
"""Threads do not live on in a forked process, so it makes its own."""


def each[Item, Result](work: Callable[[Item], Result], items: Iterable[Item]) -> list[Result]:
    """Return ``work`` of every item, in order. ``work`` must not come here itself."""
    listed = list(items)
    if len(listed) < FEW:
        return [work(item) for item in listed]
    return list(_pool().map(carried(work), listed))
