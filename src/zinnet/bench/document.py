"""The open document: the job with its history, its file and its nests."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from pathlib import Path

from zinnet.base.stages import StageCache, cache_in_use
from zinnet.bench.on_disk import ChangedElsewhereError, OnDisk, sole_writer
from zinnet.job.edits import Edit
from zinnet.job.file import load_job, save_job
from zinnet.job.model import Job
from zinnet.nesting.model import Layout
from zinnet.plan.derive import derive
from zinnet.plan.model import Plan
from zinnet.workshop.model import Workshop

MOST_CHANGES = 2500
MOST_LAYOUTS = 64


type ReadJob = Callable[[Path], tuple[Job, dict[str, Layout]]]


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
        self._on_disk: OnDisk | None = None
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
        job = self.changed(edit)
        if job == self.job:
            return
        plan = self._derived(job)
        self._note(edit)
        self.job, self.plan = job, plan

    def _note(self, edit: Edit) -> None:
        """Write an edit of the job as it is now into the history."""
        merges = bool(edit.merge and self._done and self._done[-1].merge == edit.merge and not self._undone)
        if not merges:
            self._done.append(Change(self.job, edit.name, edit.merge))
            del self._done[:-MOST_CHANGES]
        self._undone.clear()

    @property
    def is_behind(self) -> bool:
        """Whether the plan is that of an earlier job: it follows beside the window."""
        return self.plan.job != self.job

    def changed(self, edit: Edit) -> Job:
        """Return the job as an edit would make it. Raises a ZinnetError where the edit refuses."""
        with self.stages.at_hand(), self.workshop.blanks.in_use():
            return edit.change(self.job)

    def take(self, edit: Edit, job: Job) -> None:
        """Take the job that an edit made; its plan comes later (:meth:`follow`)."""
        self._note(edit)
        self.job = job

    def follow(self, plan: Plan) -> None:
        """Take the plan of the job; one of an earlier job is of no use any more."""
        if plan.job == self.job and plan.workshop == self.workshop:
            self.plan = plan

    def fall_back(self) -> None:
        """Go back to the job of the plan, where what was changed since can't be made sense of."""
        if not self.is_behind:
            return
        good = self.plan.job
        since = next((k for k, change in enumerate(self._done) if change.before == good), None)
        if since is not None:
            del self._done[since:]
        self.job = good

    def use_workshop(self, workshop: Workshop) -> None:
        """Derive the plan from another workshop, or from what changed in it."""
        if workshop.limits != self.workshop.limits:
            self.stages = StageCache()
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

    def job_after(self, *, undo: bool) -> Job | None:
        """Return the job as it was before the last edit, or before that was taken back; None where there is none."""
        source = self._done if undo else self._undone
        return source[-1].before if source else None

    def turn(self, *, undo: bool) -> None:
        """Take back the last edit, or bring it back, in the job alone; the plan comes later (:meth:`follow`)."""
        source, target = (self._done, self._undone) if undo else (self._undone, self._done)
        change = source.pop()
        target.append(Change(self.job, change.name, ""))
        self.job = change.before

    def _turn_back(self, source: list[Change], target: list[Change]) -> None:
        """Take the last change of one list over into the other; where its job can't be derived, all stays as it was."""
        if not source:
            return
        plan = self._derived(source[-1].before)
        self.turn(undo=source is self._done)
        self.plan = plan

    def keep_layout(self, key: str, layout: Layout) -> None:
        """Keep a nest, and let the plan follow where it needs this one."""
        if self.take_layout(key, layout):
            self.plan = self._derived(self.job)

    def take_layout(self, key: str, layout: Layout) -> bool:
        """Keep a nest; tell whether the plan needs it."""
        self.layouts.pop(key, None)
        self.layouts[key] = layout
        in_use = {nest.key for nest in self.plan.to_nest}
        spent = [other for other in self.layouts if other not in in_use and other != key]
        for other in spent[: max(0, len(self.layouts) - MOST_LAYOUTS)]:
            del self.layouts[other]
        return key in in_use

    @property
    def is_changed(self) -> bool:
        """Whether there is something that is not saved."""
        return self.job != self.saved

    def save(self, path: Path, *, over: bool = False) -> None:
        """Save the job and the nests that it needs.

        Raises :class:`ChangedElsewhereError` where the job's file was written by another program meanwhile, unless it
        is to be written ``over``; another :class:`ZinnetError` where it can't be written.
        """
        with sole_writer(path):
            known = self._on_disk if self.path is not None and path.absolute() == self.path.absolute() else None
            if known is not None and not over and not known.is_there(path):
                raise ChangedElsewhereError(
                    f"{path} was changed by another window or program since it was opened here, so nothing was "
                    "written; do it again on what is there now, or write another file."
                )
            save_job(path, self.job, self.plan.layouts)
            self.path, self.saved, self._on_disk = path, self.job, OnDisk.of(path)

    def came_from(self, path: Path | None, on_disk: OnDisk | None) -> None:
        """Take note which file the job is of, and how that was when it was read."""
        self.path, self._on_disk = path, on_disk

    @property
    def is_changed_elsewhere(self) -> bool:
        """Whether the job's file was written by another program since it was read or written here."""
        return self.path is not None and self._on_disk is not None and not self._on_disk.is_there(self.path)

    @classmethod
    def open(cls, path: Path, workshop: Workshop, read: ReadJob = load_job) -> "Document":
        """Return the document of a job file; ``read`` is how it is read, its stages kept in the document's cache.

        Raises a :class:`ZinnetError` where it can't be read.
        """
        on_disk, stages = OnDisk.of(path), cache_in_use() or StageCache()
        with stages.in_use():
            job, layouts = read(path)
        document = cls(workshop, job, layouts, stages=stages)
        document.came_from(path, on_disk)
        return document
