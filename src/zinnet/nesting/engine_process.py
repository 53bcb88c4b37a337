"""An engine in a process of its own: it ends on time, and whatever happens to it happens to nobody else.

Engines look at the clock rarely, can't be stopped, and may crash on a shape that they dislike.
"""

import contextlib
import multiprocessing
import os
import threading
import time
import warnings
from collections.abc import Callable
from multiprocessing.connection import Connection
from typing import Any

from zinnet.base.errors import NestError

POLL_S = 0.05
ENGINES_OWN = ("PanicException", "RuntimeError", "MemoryError")
"""How the engines themselves give up at shapes; anything else is a fault of the code around them."""
REST = 8.0
"""How many times as long as taking a report took the engine is left alone."""


def run_until(
    deadline: float, engine: Callable[..., None], on_report: Callable[[Any], None], *, at_last: float | None = None
) -> str | None:
    """Call ``engine(report=...)`` in another process; it is killed at the deadline. Return how it failed, if it did.

    Where it has reported nothing by then, its first report is waited for until ``at_last``.

    Taking a report costs time that the engine could use, so most are passed over: only the latest counts, and the
    time between two is several times what taking one took. An engine that crashes has reported what it has.
    """
    context = multiprocessing.get_context("fork")
    receiver, sender = context.Pipe(duplex=False)
    process = context.Process(target=_work, args=(engine, sender), daemon=True)
    with warnings.catch_warnings():
        warnings.simplefilter("ignore", DeprecationWarning)  # the child of a program with threads only runs an engine
        process.start()
    sender.close()
    latest: list[Any] = []
    failures: list[str] = []
    listener = threading.Thread(target=_listen, args=(receiver, latest, failures), daemon=True)
    listener.start()
    wait_until, end = 0.0, max(deadline, at_last or deadline)
    try:
        while listener.is_alive() and (now := time.monotonic()) < end:
            if latest and now >= wait_until:
                on_report(latest.pop())
                end = deadline
                wait_until = time.monotonic() + REST * (time.monotonic() - now)
            listener.join(min(POLL_S, max(0.0, end - time.monotonic())))
    finally:
        process.kill()
        process.join()
        listener.join()
        receiver.close()
    if latest:
        on_report(latest.pop())
    if failures and not failures[0].startswith(ENGINES_OWN):
        raise NestError(f"The nesting engine failed at something it did not expect ({failures[0]}); please report it.")
    return failures[0] if failures else None


def _listen(receiver: Connection, latest: list[Any], failures: list[str]) -> None:
    """Keep the latest report."""
    with contextlib.suppress(EOFError, OSError):
        while True:
            report, failure = receiver.recv()
            if failure is None:
                latest[:] = [report]
            else:
                failures.append(failure)


def _work(engine: Callable[..., None], sender: Connection) -> None:
    """Run the engine in the child; what it prints nobody reads."""
    silent = os.open(os.devnull, os.O_WRONLY)
    os.dup2(silent, 1)
    os.dup2(silent, 2)
    try:
        engine(report=lambda report: sender.send((report, None)))
    except BaseException as error:  # noqa: BLE001 - the engines' own panics are no Exception
        sender.send((None, f"{type(error).__name__}: {error}"))
    sender.close()
