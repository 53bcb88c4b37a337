"""The automatic copy of an open job in the state folder, to come back to after a crash."""

import contextlib
import fcntl
import os
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import IO, TYPE_CHECKING, NamedTuple

import platformdirs

if TYPE_CHECKING:
    from zinnet.job.model import Job

NOTE = ".lock"
MOST_TITLE = 200


class LeftBehind(NamedTuple):
    """A copy whose program no longer runs: where it lies, what its job is called, and when it was made (s)."""

    path: Path
    title: str
    at_s: float


class AutomaticCopy:
    """A copy of the open job.

    Beside each copy lies a note with the job's title, which its program holds locked for as long as it lives: the
    number of a process is given out again, a lock is not. Copies may be written in any thread.
    """

    def __init__(self, folder: Path | None = None) -> None:
        self.folder = folder or platformdirs.user_state_path("zinnet") / "automatic"
        self.path = self.folder / f"{os.getpid()}-{time.time_ns()}.zinnet"
        self._kept: Job | None = None
        self._note: IO[str] | None = None
        self._turn = 0
        self._lock = threading.Lock()

    @property
    def is_kept(self) -> bool:
        """Whether there is a copy that is not dropped."""
        return self._note is not None

    def due(self, job: "Job") -> Callable[[], None] | None:
        """Return what writes the copy of a job; None where it is written already.

        Once the copy was dropped, it writes nothing any more.
        """
        turn = self._turn
        return None if job is self._kept else lambda: self._write(job, turn)

    def keep(self, job: "Job") -> None:
        """Write the copy of a job here and now, where it is due."""
        write = self.due(job)
        if write is not None:
            write()

    def _write(self, job: "Job", turn: int) -> None:
        from zinnet.job.file import save_job

        with self._lock:
            if turn != self._turn:
                return
            self.folder.mkdir(parents=True, exist_ok=True)
            if self._note is None:
                self._note = self.path.with_suffix(NOTE).open("a+", encoding="utf-8")
                fcntl.flock(self._note, fcntl.LOCK_EX)
            save_job(self.path, job, {})
            self._note.seek(0)
            self._note.truncate()
            self._note.write(job.title[:MOST_TITLE])
            self._note.flush()
            self._kept = job

    def drop(self) -> None:
        """Remove the copy: the job was saved, or given up on purpose."""
        with self._lock:
            self._turn += 1
            self._kept = None
            remove_copy(self.path)
            if self._note is not None:
                self._note.close()
                self._note = None

    def left_behind(self) -> list[LeftBehind]:
        """Return the copies whose program no longer runs, the newest first."""
        found = []
        for copy in self.folder.glob("*.zinnet"):
            if copy != self.path and not _is_held(copy):
                with contextlib.suppress(OSError):
                    found.append(LeftBehind(copy, _title_of(copy), copy.stat().st_mtime))
        return sorted(found, key=lambda one: one.at_s, reverse=True)


@contextmanager
def claimed(copy: Path) -> Iterator[bool]:
    """Hold a copy that was left behind, so that no other program offers it; tell whether it could be had."""
    with copy.with_suffix(NOTE).open("a", encoding="utf-8") as note:
        try:
            fcntl.flock(note, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            yield False
            return
        yield copy.exists()


def remove_copy(path: Path) -> None:
    """Remove an automatic copy and its note."""
    for one in (path, path.with_suffix(NOTE)):
        with contextlib.suppress(OSError):
            one.unlink(missing_ok=True)


def _title_of(copy: Path) -> str:
    try:
        with copy.with_suffix(NOTE).open(encoding="utf-8", errors="replace") as note:
            return " ".join(note.read(MOST_TITLE).split()) or "Untitled"
    except OSError:
        return "Untitled"


def _is_held(copy: Path) -> bool:
    """Tell whether a program that still runs holds the note of a copy."""
    try:
        with claimed(copy) as could:
            return not could
    except OSError:
        return False
