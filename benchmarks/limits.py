"""The longest that a case may take."""

import contextlib
import signal
from collections.abc import Iterator

MOST_S = 10.0


class TooLongError(BaseException):
    """A case that is not done in time; nothing that reads files may catch it."""


@contextlib.contextmanager
def at_most(seconds: float) -> Iterator[None]:
    """Break off what keeps the processor busy for longer."""

    def end(_signal: int, _frame: object) -> None:
        raise TooLongError

    before = signal.signal(signal.SIGPROF, end)
    signal.setitimer(signal.ITIMER_PROF, seconds)
    try:
        yield
    finally:
        signal.setitimer(signal.ITIMER_PROF, 0)
        signal.signal(signal.SIGPROF, before)
