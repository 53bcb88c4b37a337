"""A watch over what strangers made, for commands: one that takes too long or too much ends with a sentence."""

import os
import sys
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager

from zinnet.artwork.source import Source, artwork_of, source_name
from zinnet.base.memory import memory_in_use
from zinnet.layers.split import split_artwork

MOST_S = 10.0
MOST_BYTES = 1 << 30
POLL_S = 0.05
TRIED_MM = 200.0
BAD_INPUT = 2


@contextmanager
def watched(called: str, most_s: float = MOST_S, most_bytes: int = MOST_BYTES) -> Iterator[None]:
    """End the program with a sentence where the block keeps the processor busy for longer, or takes more memory.

    Only what the block itself takes counts: the time of its own thread, and the memory beyond what is held before it.
    Nothing is written within such a block, so that nothing is lost.
    """
    is_over = threading.Event()
    clock = time.pthread_getcpuclockid(threading.get_ident())
    began, held = time.clock_gettime(clock), memory_in_use()

    def watch() -> None:
        while not is_over.wait(POLL_S):
            if time.clock_gettime(clock) - began > most_s:
                _end(f"{called} keeps the program busy for more than {most_s:.0f} s; simplify it.")
            if memory_in_use() - held > most_bytes:
                _end(f"{called} needs more than {most_bytes / 2**20:.0f} MB of memory; simplify it.")

    watcher = threading.Thread(target=watch, daemon=True)
    watcher.start()
    try:
        yield
    finally:
        is_over.set()
        watcher.join()


def _end(sentence: str) -> None:
    sys.stderr.write(f"{sentence}\n")
    sys.stderr.flush()
    os._exit(BAD_INPUT)


def try_source(source: Source) -> None:
    """Read and draw what comes from a file, under watch. Raises :class:`ArtworkError` where it can't be read."""
    if source.file is None:
        return
    with watched(source_name(source)):
        artwork = artwork_of(source)
        if artwork.shapes:
            split_artwork(artwork, width_mm=TRIED_MM)
