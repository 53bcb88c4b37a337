"""The log: one rotating file in the XDG state folder, in which every unexpected error ends."""

import logging
import sys
import threading
from collections.abc import Callable
from logging.handlers import RotatingFileHandler
from pathlib import Path
from types import TracebackType

import platformdirs

MOST_BYTES, MOST_FILES = 500_000, 3
NAME = "zinnet"


def log_file() -> Path:
    """Return where the log lies."""
    return platformdirs.user_state_path("zinnet") / "zinnet.log"


def logger() -> logging.Logger:
    """Return the program's logger. Its file is opened with the first line that is written."""
    found = logging.getLogger(NAME)
    path = log_file()
    kept = [one for one in found.handlers if isinstance(one, RotatingFileHandler)]
    if not any(Path(one.baseFilename) == path.absolute() for one in kept):
        for one in kept:
            found.removeHandler(one)
            one.close()
        found.addHandler(_handler(path))
        found.setLevel(logging.INFO)
        found.propagate = False
    return found


def _handler(path: Path) -> logging.Handler:
    """Return what writes to the file, or nothing where the folder can't be written."""
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        handler = RotatingFileHandler(path, maxBytes=MOST_BYTES, backupCount=MOST_FILES, encoding="utf-8", delay=True)
    except OSError:
        return logging.NullHandler()
    handler.handleError = lambda record: None  # type: ignore[method-assign]  # a full disk must not stop the work
    handler.setFormatter(logging.Formatter("%(asctime)s %(process)d %(levelname)s %(message)s"))
    return handler


def log_error(what: str, error: BaseException) -> None:
    """Write an unexpected error down, with all that led to it."""
    logger().error(what, exc_info=(type(error), error, error.__traceback__))


def unexpected(error: BaseException) -> str:
    """Return what is said of an error that nobody expected."""
    return (
        f"That failed in a way that Zinnet did not expect ({type(error).__name__}). Your job is safe as it was; "
        f"what happened is written down in {log_file()}."
    )


def log_uncaught(tell: Callable[[str], None] = lambda sentence: None) -> None:
    """Have every error that nothing catches, in any thread, written down, and ``tell`` be told a sentence about it.

    What was done with such an error before goes on.
    """
    before = sys.excepthook

    def hook(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        if not issubclass(kind, KeyboardInterrupt):
            log_error("An error that nothing caught", error)
            tell(unexpected(error))
        before(kind, error, trace)

    def in_thread(found: threading.ExceptHookArgs) -> None:
        if found.exc_value is not None and not issubclass(found.exc_type, SystemExit):
            name = found.thread.name if found.thread is not None else "unknown"
            log_error(f"An error that nothing caught, in the thread {name}", found.exc_value)
            tell(unexpected(found.exc_value))

    sys.excepthook = hook
    threading.excepthook = in_thread
