"""What a job's file was like when it was read or written last, and one writer at a time."""

import fcntl
import hashlib
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import IO, NamedTuple, Self

import platformdirs

from zinnet.base.errors import JobFileError
from zinnet.base.locks import held

PIECE = 1 << 20


class ChangedElsewhereError(JobFileError):
    """A job's file that another window or program has written since it was read here."""


class OnDisk(NamedTuple):
    """A file as it was: which one, how long, when written, and a digest of its bytes."""

    inode: int
    size: int
    written_ns: int
    digest: str

    @classmethod
    def of(cls, path: Path) -> Self | None:
        """Return how a file is now; None where there is none."""
        if not path.is_file():
            return None
        try:
            with path.open("rb") as file:
                digest = hashlib.sha256()
                while piece := file.read(PIECE):
                    digest.update(piece)
            found = path.stat()
        except OSError:
            return None
        return cls(found.st_ino, found.st_size, found.st_mtime_ns, digest.hexdigest())

    def is_there(self, path: Path) -> bool:
        """Tell whether a file is still as it was; one that is gone is nobody's work that could be lost."""
        try:
            found = path.stat()
        except OSError:
            return True
        if (found.st_ino, found.st_size, found.st_mtime_ns) == self[:3]:
            return True
        now = OnDisk.of(path)
        return now is None or now.digest == self.digest


@contextmanager
def sole_writer(path: Path) -> Iterator[None]:
    """Be the only one of the user's programs that looks at a job's file and writes it, within the block."""
    with held(_lock_file(path, "writing")):
        yield


class OpenMark:
    """The mark of a job that is open in a window; of two windows with the same job the second can tell."""

    def __init__(self) -> None:
        self._mark: IO[str] | None = None
        self._path: Path | None = None

    def move_to(self, path: Path | None) -> bool:
        """Mark another job, or none; tell whether no other window has it open."""
        if path == self._path:
            return True
        if self._mark is not None:
            self._mark.close()
        self._mark, self._path = None, path
        if path is None:
            return True
        try:
            lock = _lock_file(path, "open")
            lock.parent.mkdir(parents=True, exist_ok=True)
            self._mark = lock.open("a", encoding="utf-8")
            fcntl.flock(self._mark, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            return False
        except OSError:
            pass  # a mark that can't be made must not keep anyone from working
        return True


def _lock_file(path: Path, what: str) -> Path:
    """Return the file that stands for a job's file among locks of a kind."""
    folder = platformdirs.user_state_path("zinnet") / what
    name = hashlib.sha256(str(path.resolve()).encode(errors="surrogateescape")).hexdigest()[:32]
    return folder / f"{name}.lock"
