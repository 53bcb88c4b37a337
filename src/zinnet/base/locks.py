"""One program at a time at a file that several of the user's programs change."""

import fcntl
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path


@contextmanager
def held(lock: Path) -> Iterator[None]:
    """Hold a lock within the block; it is a file of its own, and its folder is made.

    Where it can't be made, such as in a folder that can't be written, the block runs without: it must not keep anyone
    from working.
    """
    try:
        lock.parent.mkdir(parents=True, exist_ok=True)
        file = lock.open("a", encoding="utf-8")
    except OSError:
        yield
        return
    with file:
        fcntl.flock(file, fcntl.LOCK_EX)
        yield
