"""The session: the open document as the window sees it, with one signal for everything derived."""

from collections.abc import Callable
from contextlib import AbstractContextManager, nullcontext
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QObject, QTimer, Signal

from zinnet.base.errors import ZinnetError
from zinnet.bench.automatic_copy import AutomaticCopy
from zinnet.ui.background import Background
from zinnet.ui.books import Books
from zinnet.ui.exporter import Exporter
from zinnet.ui.following import Following
from zinnet.ui.later_edits import LaterEdits
from zinnet.ui.nester import Nester
from zinnet.ui.selection import Drawn, Selection

if TYPE_CHECKING:
    from zinnet.bench.document import Document
    from zinnet.bench.on_disk import OpenMark
    from zinnet.job.edits import Edit
    from zinnet.job.model import Job
    from zinnet.nesting.model import Layout
    from zinnet.placement.place import Habits
    from zinnet.plan.fitted import FittedDesign
    from zinnet.plan.model import Plan
    from zinnet.workshop.model import Workshop
    from zinnet.workshop.store import WorkshopStore

COPY_EVERY_MS = 4000
MANY_NAMES = 12


class Session(QObject):
    """What the views follow: document, selection, books and exporter.

    They read :attr:`plan`, and change the job through :meth:`apply` alone.
    """

    beside = True
    """Whether plans are worked out beside the window; where not, every edit is waited for."""
    plan_changed = Signal()
    finding_shown = Signal(object)
    said = Signal(str)
    job_opened = Signal()
    keep_out_kind_changed = Signal(object)
    busy_changed = Signal()
    closing = Signal()

    def __init__(self, copies_folder: Path | None = None, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._workshop: Workshop | None = None
        self._document: Document | None = None
        self.state_folder = copies_folder
        self.selection = Selection(lambda: self.document, self)
        self.selection.changed.connect(self.plan_changed)
        self.background = Background(self, self.kept_stages)
        self.books = Books(self.background, self)
        self.books.read.connect(self._take_books)
        self.books.refused.connect(self.said)
        self.exporter = Exporter(self.background, self)
        self.exporter.said.connect(self.said)
        self.later = LaterEdits(self.background, lambda: self.document, self)
        self.later.ready.connect(self._apply_ready)
        self.later.refused.connect(self._refused)
        self.following = Following(self.background, lambda: self.document, self)
        self.following.followed.connect(self._followed)
        self.following.refused.connect(self._refused)
        for slow in (self.later, self.following):
            slow.ahead.connect(self.selection.look_ahead)
        self.nester = Nester(self)
        self.nester.better.connect(self._keep_layout)
        self.nester.failed.connect(self.said)
        self.automatic_copy = AutomaticCopy(copies_folder)
        self._mark: OpenMark | None = None
        self._told: Document | None = None
        self._timer = QTimer(self, interval=COPY_EVERY_MS)
        self._timer.timeout.connect(self.keep_copy)
        self._timer.timeout.connect(self._look_at_file)
        self._timer.start()

    @property
    def workshop(self) -> "Workshop":
        """The workshop in use: the one that everybody begins with, until the user's own is read."""
        if self._workshop is None:
            from zinnet.workshop.model import standard_workshop

            self._workshop = standard_workshop()
        return self._workshop

    @property
    def document(self) -> "Document":
        """The open document. One that is empty is made when it is first asked for: the window is up before that."""
        if self._document is None:
            from zinnet.bench.document import Document

            self._document = Document(self.workshop)
        return self._document

    def kept_stages(self) -> AbstractContextManager[object]:
        """Return what keeps the stages of the open document in use within a block."""
        return nullcontext() if self._document is None else self._document.stages.at_hand()

    @property
    def is_begun(self) -> bool:
        """Whether there is a document; while there is none, nothing is derived and the table is clear."""
        return self._document is not None

    def read_settings(self) -> None:
        """Take the user's own settings into use; what a broken file would say is left out, and that is said."""
        from zinnet.workshop.opening import readable_settings

        own, refused = readable_settings()
        self._use_workshop(self.workshop.model_copy(update=own))
        if refused:
            self.said.emit(" ".join(refused))
        if self.books.store.path.exists():
            self.books.use(lambda _: None)

    def _use_workshop(self, workshop: "Workshop") -> bool:
        """Derive the plan from another workshop; where the job makes no sense with it, say so and keep the old one."""

        def change() -> None:
            if self._document is not None:
                self._document.use_workshop(workshop)
            self._workshop = workshop

        return self._try(change)

    def _take_books(self, held: dict[str, Any]) -> None:
        self._use_workshop(self.workshop.model_copy(update=held))

    @property
    def plan(self) -> "Plan":
        """The plan of the open job."""
        return self.document.plan

    @property
    def job(self) -> "Job":
        """The open job."""
        return self.document.job

    @property
    def has_artwork(self) -> bool:
        """Whether there is anything on the table."""
        return self.is_begun and bool(self.job.designs)

    def set_fit(self, name: str, *, merge: str = "", **fields: Any) -> bool:
        """Change some fields of the selected design's placement; what Zinnet proposed stays as it is shown."""
        from zinnet.job.edits import set_placement

        design, at = self.selection.design, self.selection.at
        if design is None or design.placement is None:
            return False
        if design.spec.width_mm is None and at["size"] is not None:
            fields = {"width_mm": design.word_width_mm, **fields}
        edit = set_placement(name, merge=merge, **at, **fields)
        if self.beside:
            self.selection.draw(_drawn(design, fields))
        if {"width_mm", "height_mm"} & fields.keys() and self._is_drawn_anew(design.index):
            self.apply_later(edit)
            return True
        done = self.apply(edit)
        if not self.is_working:
            self.selection.look_ahead(None)
        return done

    def _is_drawn_anew(self, index: int) -> bool:
        """Tell whether a design has lengths in mm, so that another width takes long to derive."""
        from zinnet.artwork.source import is_sized

        design = self.job.designs[index]
        return bool(design.steps) or is_sized(design.source)

    def take_habits(self, habits: "Habits") -> bool:
        """Take other habits into use, and remember them."""
        from zinnet.workshop.habits import write_habits

        return self._try(lambda: write_habits(habits)) and self._use_workshop(
            self.workshop.model_copy(update={"habits": habits})
        )

    def apply(self, edit: "Edit") -> bool:
        """Carry out an edit; where it can't be done, say why and leave all as it was.

        With a long list of names it is worked out beside the window first.
        """
        if not self.beside and len(self.job.names.rows) <= MANY_NAMES:
            return self._apply(edit)
        if not self.beside or self.later.is_busy:
            self.apply_later(edit)
            return True
        return self._change(edit)

    def _change(self, edit: "Edit") -> bool:
        """Carry out an edit of the job now; the plan follows. Where designs or sizes come or go, both come later."""
        try:
            job = self.document.changed(edit)
        except ZinnetError as error:
            self.said.emit(str(error))
            return False
        if _parts(job) != _parts(self.job):
            self.apply_later(edit)
        elif job != self.job:
            self.selection.see_films(self.job, job)
            self.document.take(edit, job)
            self._go_after()
        return True

    def _go_after(self) -> None:
        self.following.follow()
        if self.following.is_busy:
            self.busy_changed.emit()

    def _apply(self, edit: "Edit") -> bool:
        return self._try(lambda: self.document.apply(edit))

    @property
    def is_working(self) -> bool:
        """Whether an edit is being worked out beside the window."""
        return self.later.is_busy or self.following.is_busy

    def apply_later(self, edit: "Edit", then: Callable[[], None] | None = None) -> None:
        """Carry out an edit that takes long to derive: beside the window first, then at once; ``then`` follows."""
        self.later.ask(edit, then)
        self.busy_changed.emit()

    def _apply_ready(self, edits: "list[tuple[Edit, Callable[[], object] | None]]") -> None:
        for edit, commit in edits:
            self._apply(edit) if commit is None else self._try(commit)
        self._tell_end()

    def _followed(self) -> None:
        self._follow()
        self._tell_end()

    def _tell_end(self) -> None:
        """Tell that an edit is worked out, after all that follow the plan have shown it."""
        if self.beside:
            self.background.turns.do(self.busy_changed.emit)
        else:
            self.busy_changed.emit()

    def _refused(self, sentence: str) -> None:
        self.said.emit(sentence)
        self._followed()

    def undo(self) -> None:
        """Take back the last edit."""
        self._turn(undo=True)

    def redo(self) -> None:
        """Bring back what was taken back last."""
        self._turn(undo=False)

    def _turn(self, *, undo: bool) -> None:
        from zinnet.job.edits import Edit

        document = self.document
        job, commit = document.job_after(undo=undo), document.undo if undo else document.redo
        if not self.beside:
            self._try(commit)
        elif job is not None and _parts(job) == _parts(document.job) and not self.later.is_busy:
            document.turn(undo=undo)
            self._go_after()
        elif job is not None:
            self.later.ask(Edit("undo" if undo else "redo", lambda _: job), commit=commit)
            self.busy_changed.emit()

    def _try(self, action: Callable[[], object]) -> bool:
        try:
            action()
        except ZinnetError as error:
            self.said.emit(str(error))
            return False
        self._follow()
        return True

    def show_document(self, document: "Document", books: "WorkshopStore | None" = None) -> None:
        """Put another document on the table, with its books: those of a demo, else the user's own."""
        from zinnet.plan.older import seen_since

        self.automatic_copy.drop()
        self.books.open(books)
        document.use_workshop(self.workshop)
        self._document = document
        self.selection.begin()
        self._follow()
        self.job_opened.emit()
        self.mark_open()
        older = seen_since(self.plan)
        if older:
            self.said.emit(older)

    def mark_open(self) -> None:
        """Mark the job as open in this window, and say so where it is open in another one as well."""
        from zinnet.bench.on_disk import OpenMark

        path = self.document.path
        self._mark = self._mark or OpenMark()
        if not self._mark.move_to(path) and path is not None:
            self.said.emit(f"{path.name} is open in another window too; whoever saves second is asked what to do.")

    def _look_at_file(self) -> None:
        """Say once that the job's file was changed elsewhere."""
        document = self._document
        if document is None or document is self._told:
            return
        if document.is_changed_elsewhere and document.path is not None:
            self._told = document
            self.said.emit(f"{document.path.name} was changed by another program; saving will ask what to do.")

    def close(self) -> bool:
        """Stop all work, on closing the window; tell whether all of it has ended."""
        self.closing.emit()
        self._timer.stop()
        if self._mark is not None:
            self._mark.move_to(None)
        self.nester.stop()
        return self.background.wait()

    def _keep_layout(self, key: str, layout: "Layout") -> None:
        if not self.beside:
            self.document.keep_layout(key, layout)
            self.plan_changed.emit()
        elif self.document.take_layout(key, layout):
            self.following.renew()

    def keep_copy(self, *then: Callable[[], None]) -> None:
        """Keep the automatic copy beside the window; ``then`` is done when it is kept, and where none is to be kept."""
        is_changed = self.is_begun and self.document.is_changed
        write = self.automatic_copy.due(self.job) if is_changed else None
        if not is_changed and self.automatic_copy.is_kept:
            self.automatic_copy.drop()

        def kept(_: object = None) -> None:
            for action in then:
                action()

        def refused(why: str) -> None:
            self.said.emit(f"The automatic copy can't be kept: {why}")

        if write is None:
            kept()
        else:
            self.background.run(write, kept, refused, books=True)

    def _follow(self) -> None:
        if self.is_begun:
            self.selection.look_ahead(None)
            self.nester.follow(self.plan.to_nest)
        self.plan_changed.emit()


def _parts(job: "Job") -> object:
    """Return what of a job decides which designs, sizes and names there are."""
    return len(job.designs), [member.size for member in job.family], job.blank.kind, job.blank.size, len(job.names.rows)


def _drawn(design: "FittedDesign", fields: dict[str, Any]) -> Drawn:
    """Return how a design is drawn at once, that is placed otherwise."""
    placement, wide = design.placement, design.word_width_mm
    assert placement is not None
    width = fields.get("width_mm")
    across = fields.get("from_centre_mm", placement.from_centre_mm)
    down = fields.get("from_reference_mm", placement.from_reference_mm)
    sign = -1 if placement.place.anchor == "bottom" else 1
    return Drawn(
        design.index,
        width / wide if width and wide else 1.0,
        0.0 if across is None else across - placement.from_centre_mm,
        0.0 if down is None else sign * (down - placement.from_reference_mm),
    )
