"""The open document: the job with its history, its file, its nests, and the automatic copy."""

import contextlib
import fcntl
import json
import os
import time
from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import IO

import platformdirs

from zinnet.base.errors import ZinnetError
from zinnet.base.files import write_whole
from zinnet.base.stages import StageCache, cache_in_use
from zinnet.job.edits import Edit
from zinnet.job.file import load_job, save_job
from zinnet.job.model import Job
from zinnet.nesting.model import Layout
from zinnet.plan.derive import derive
from zinnet.plan.model import Plan
from zinnet.workshop.model import Workshop

MOST_CHANGES = 300
MOST_LAYOUTS = 64
MOST_RECENT = 8
NOTE = ".lock"


@dataclass(frozen=True)
class Change:
    """One change in the history: the job before an edit, and the edit's name."""

    before: Job
    name: str
    merge: str


class Document:
    """A job over time. It knows nothing of windows."""

    def __init__(
        self,
        workshop: Workshop,
        job: Job | None = None,
        layouts: Mapping[str, Layout] | None = None,
        *,
        stages: StageCache | None = None,
    ) -> None:
        self.workshop = workshop
        self.job = job or Job()
        self.path: Path | None = None
        self.saved: Job | None = self.job
        self.layouts: dict[str, Layout] = dict(layouts or {})
        self.stages = stages or cache_in_use() or StageCache()
        self._done: list[Change] = []
        self._undone: list[Change] = []
        self.plan: Plan = self._derived(self.job)

    def _derived(self, job: Job, workshop: Workshop | None = None) -> Plan:
        with self.stages.in_use():
            return derive(job, workshop or self.workshop, self.layouts)

    def apply(self, edit: Edit) -> None:
        """Carry out an edit. Where it can't be made sense of it raises, and all stays as it was."""
        with self.stages.in_use(), self.workshop.blanks.in_use():
            job = edit.change(self.job)
        if job == self.job:
            return
        plan = self._derived(job)
        merges = bool(edit.merge and self._done and self._done[-1].merge == edit.merge and not self._undone)
        if not merges:
            self._done.append(Change(self.job, edit.name, edit.merge))
            del self._done[:-MOST_CHANGES]
        self._undone.clear()
        self.job, self.plan = job, plan

    def use_workshop(self, workshop: Workshop) -> None:
        """Derive the plan from another workshop, or from what changed in it."""
        if workshop != self.workshop:
            self.plan = self._derived(self.job, workshop)
            self.workshop = workshop

    def close_step(self) -> None:
        """End a run of merging edits: the next one is undone by itself."""
        if self._done and self._done[-1].merge:
            self._done[-1] = Change(self._done[-1].before, self._done[-1].name, "")

    @property
    def undo_name(self) -> str | None:
        """The name of the edit that undo takes back."""
        return self._done[-1].name if self._done else None

    @property
    def redo_name(self) -> str | None:
        """The name of the edit that redo brings back."""
        return self._undone[-1].name if self._undone else None

    def undo(self) -> None:
        """Take back the last edit."""
        self._turn_back(self._done, self._undone)

    def redo(self) -> None:
        """Bring back the edit that was taken back last."""
        self._turn_back(self._undone, self._done)

    def _turn_back(self, source: list[Change], target: list[Change]) -> None:
        """Take the last change of one list over into the other; where its job can't be derived, all stays as it was."""
        if not source:
            return
        change = source[-1]
        plan = self._derived(change.before)
        source.pop()
        target.append(Change(self.job, change.name, ""))
        self.job, self.plan = change.before, plan

    def keep_layout(self, key: str, layout: Layout) -> None:
        """Keep a nest, and let the plan follow where it needs this one."""
        self.layouts.pop(key, None)
        self.layouts[key] = layout
        in_use = {nest.key for nest in self.plan.nests}
        spent = [other for other in self.layouts if other not in in_use and other != key]
        for other in spent[: max(0, len(self.layouts) - MOST_LAYOUTS)]:
            del self.layouts[other]
        if key in in_use:
            self.plan = self._derived(self.job)

    @property
    def is_changed(self) -> bool:
        """Whether there is something that is not saved."""
        return self.job != self.saved

    def save(self, path: Path) -> None:
        """Save the job and the nests that it needs."""
        save_job(path, self.job, self.plan.layouts)
        self.path, self.saved = path, self.job

    @classmethod
    def open(cls, path: Path, workshop: Workshop) -> "Document":
        """Return the document of a job file; raises a :class:`ZinnetError` where it can't be read."""
        job, layouts = load_job(path)
        document = cls(workshop, job, layouts)
        document.path = path
        return document


class AutomaticCopy:
    """A copy of the open job in the state folder, to come back to after a crash.

    Beside each copy lies a note that its program holds locked for as long as it lives: the number of a process is given
    out again, a lock is not.
    """

    def __init__(self, folder: Path | None = None) -> None:
        self.folder = folder or platformdirs.user_state_path("zinnet") / "automatic"
        self.path = self.folder / f"{os.getpid()}-{time.time_ns()}.zinnet"
        self._kept: Job | None = None
        self._lock: IO[str] | None = None

    def keep(self, document: Document) -> None:
        """Save a copy where something changed since the last one; nothing is kept of a saved job."""
        if not document.is_changed:
            self.drop()
            return
        if document.job is self._kept:
            return
        self.folder.mkdir(parents=True, exist_ok=True)
        if self._lock is None:
            self._lock = self.path.with_suffix(NOTE).open("a", encoding="utf-8")
            fcntl.flock(self._lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        save_job(self.path, document.job, {})
        self._kept = document.job

    def drop(self) -> None:
        """Remove the copy: the job was saved, or given up on purpose."""
        self._kept = None
        remove_copy(self.path)
        if self._lock is not None:
            self._lock.close()
            self._lock = None

    def left_behind(self) -> list[Path]:
        """Return the copies whose program no longer runs, the newest first."""
        copies = [copy for copy in self.folder.glob("*.zinnet") if copy != self.path and not _is_held(copy)]
        return sorted(copies, key=lambda copy: copy.stat().st_mtime, reverse=True)


def remove_copy(path: Path) -> None:
    """Remove an automatic copy and its note."""
    for one in (path, path.with_suffix(NOTE)):
        with contextlib.suppress(OSError):
            one.unlink(missing_ok=True)


def _is_held(copy: Path) -> bool:
    """Tell whether a program that still runs holds the note of a copy."""
    try:
        with copy.with_suffix(NOTE).open("a", encoding="utf-8") as note:
            fcntl.flock(note, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except BlockingIOError:
        return True
    except OSError:
        return False
    return False


def recent_jobs() -> list[Path]:
    """Return the jobs opened last that still exist, the latest first."""
    try:
        names = json.loads(_recent_file().read_text(encoding="utf-8"))
        return [Path(name) for name in names if isinstance(name, str) and Path(name).exists()][:MOST_RECENT]
    except (OSError, ValueError, TypeError):
        return []


def remember_job(path: Path) -> None:
    """Put a job at the head of the recent ones."""
    names = [str(path.resolve()), *(str(one) for one in recent_jobs() if one != path.resolve())]
    with contextlib.suppress(ZinnetError):  # a list that can't be kept must not keep anyone from working
        write_whole(_recent_file(), json.dumps(names[:MOST_RECENT]).encode())


def _recent_file() -> Path:
    return platformdirs.user_state_path("zinnet") / "recent.json"
