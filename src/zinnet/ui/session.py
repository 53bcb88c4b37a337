"""The session: the open document as the window sees it, with one signal for everything derived."""

from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any, Protocol

from PySide6.QtCore import QObject, QTimer, Signal

from zinnet.artwork.source import artwork_of, is_sized, source_of
from zinnet.base.errors import ArtworkError, ZinnetError
from zinnet.base.files import write_whole
from zinnet.bench.document import AutomaticCopy, Document, remember_job
from zinnet.blanks.model import Panel
from zinnet.camera.backdrop import Backdrop
from zinnet.job.edits import (
    Edit,
    add_design,
    open_artwork,
    set_placement,
)
from zinnet.job.model import Job
from zinnet.nesting.model import Layout
from zinnet.output.cut_files import (
    USUAL,
    log_export,
    write_cut_files,
    write_job_sheet,
)
from zinnet.output.plan_json import findings_json, plan_json, write_json
from zinnet.placement.place import Habits, places_on
from zinnet.plan.derive import derive
from zinnet.plan.findings.model import Finding
from zinnet.plan.fitted import FittedDesign, Garment
from zinnet.plan.model import Facts, Plan
from zinnet.ui.background import Background
from zinnet.ui.later_edits import LaterEdits
from zinnet.ui.nester import Nester
from zinnet.workshop.habits import write_habits
from zinnet.workshop.model import Workshop, standard_workshop
from zinnet.workshop.opening import BOOKS, open_settings, with_books
from zinnet.workshop.stock import Stock
from zinnet.workshop.store import WorkshopStore

COPY_EVERY_MS = 4000
MANY_NAMES = 12


class MakeSheet(Protocol):
    """Makes a PDF about one design on one size."""

    def __call__(self, facts: Facts, *, design: int, garment: int) -> bytes:
        """Return the PDF."""


class Session(QObject):
    """What the views follow. They read :attr:`plan`, and change things through :meth:`apply` alone."""

    plan_changed = Signal()
    pointed_changed = Signal()
    finding_shown = Signal(object)
    said = Signal(str)
    job_opened = Signal()
    keep_out_kind_changed = Signal(object)
    busy_changed = Signal()
    closing = Signal()
    exported = Signal(object)

    def __init__(self, copies_folder: Path | None = None, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.workshop: Workshop = standard_workshop()
        self.state_folder = copies_folder
        self.store = WorkshopStore()
        self.backdrop: Backdrop | None = None
        self.document = Document(self.workshop)
        self.pointed: str | None = None
        self.size: str | None = None
        self.design_index = 0
        self._panel: str | None = None
        self.background = Background(self)
        self.later = LaterEdits(self.background, lambda: (self.job, self.workshop), self)
        self.later.ready.connect(self._apply_ready)
        self.later.refused.connect(self._refused)
        self.nester = Nester(self)
        self.nester.better.connect(self._keep_layout)
        self.nester.failed.connect(self.said)
        self.automatic_copy = AutomaticCopy(copies_folder)
        self._timer = QTimer(self, interval=COPY_EVERY_MS)
        self._timer.timeout.connect(self._keep_copy)
        self._timer.start()

    def read_settings(self) -> None:
        """Take the user's habits into use; where their file is broken, say so and go on with the usual ones."""
        try:
            self.workshop = open_settings()
        except ZinnetError as error:
            self.said.emit(str(error))
        self.document.use_workshop(self.workshop)
        if self.store.path.exists():
            self.use_books(lambda store: None)

    def use_shelf[T](self, action: Callable[[Stock], T], then: Callable[[T], None] | None = None) -> None:
        """Do something with the shelf beside the window, and take what is on it then into use; ``then`` follows."""
        self.use_books(lambda store: action(Stock(store)), then)

    def use_books[T](self, action: Callable[[WorkshopStore], T], then: Callable[[T], None] | None = None) -> None:
        """Do something with the workshop's file beside the window, and take what it holds then into use."""
        store = self.store

        def work() -> tuple[T, Workshop]:
            return action(store), with_books(self.workshop, store)

        def take(result: tuple[T, Workshop]) -> None:
            self._take_books(result[1])
            if then is not None:
                then(result[0])

        self.background.run(work, take, lambda error: self.said.emit(str(error)))

    def use_store(self, store: WorkshopStore) -> None:
        """Keep the books in another workshop file, such as the demo's."""
        self.store = store
        self.use_books(lambda store: None)

    def _take_books(self, books: Workshop) -> None:
        """Take what the books hold into use."""

        def change() -> None:
            held = {name: getattr(books, name) for name in BOOKS}
            self.workshop = self.workshop.model_copy(update=held)
            self.document.use_workshop(self.workshop)

        self._try(change)

    @property
    def plan(self) -> Plan:
        """The plan of the open job."""
        return self.document.plan

    @property
    def job(self) -> Job:
        """The open job."""
        return self.document.job

    @property
    def has_artwork(self) -> bool:
        """Whether there is anything on the table."""
        return bool(self.job.designs)

    @property
    def garment(self) -> Garment:
        """The size that is looked at."""
        garments = self.plan.garments
        return next((garment for garment in garments if garment.size == self.size), garments[0])

    @property
    def design(self) -> FittedDesign | None:
        """The design that is selected, on the size that is looked at."""
        designs = self.garment.designs
        return designs[min(self.design_index, len(designs) - 1)] if designs else None

    @property
    def chosen_panel(self) -> Panel | None:
        """The panel that was chosen to be looked at, where one was."""
        return self.garment.blank.panel(self._panel) if self._panel is not None else None

    @property
    def panel(self) -> Panel:
        """The panel that is looked at: the one that was chosen, else the selected design's."""
        design = self.design
        return self.chosen_panel or (design.panel if design is not None else self.garment.blank.main)

    @property
    def at(self) -> dict[str, Any]:
        """The design and the size that edits are meant for."""
        own = self.garment is self.plan.garments[0]
        return {
            "design": self.design.index if self.design is not None else 0,
            "size": None if own else self.garment.size,
        }

    def look_at(self, *, size: str | None = None, design: int | None = None, panel: str | None = None) -> None:
        """Look at another size, select another design, or look at another panel."""
        if size is not None:
            self.size = size
        if design is not None:
            self.design_index, self._panel = design, None
        if panel is not None:
            self._panel = panel
            on_it = self.garment.on_panel(panel)
            if on_it and (self.design is None or self.design.panel.id != panel):
                self.design_index = on_it[0].index
        self.plan_changed.emit()

    def choose_panel(self, panel: str | None) -> None:
        """Remember another panel to look at, for the edit that follows; None: the selected design's."""
        self._panel = panel

    def set_fit(self, name: str, *, merge: str = "", **fields: Any) -> bool:
        """Change some fields of the selected design's placement; what Zinnet proposed stays as it is shown."""
        design = self.design
        if design is None or design.placement is None:
            return False
        spec = design.spec
        if spec.width_mm is None and self.at["size"] is not None:
            fields = {"width_mm": design.word_width_mm, **fields}
        edit = set_placement(name, merge=merge, **self.at, **fields)
        if {"width_mm", "height_mm"} & fields.keys() and self._is_drawn_anew(design.index):
            self.apply_later(edit)
            return True
        return self.apply(edit)

    def _is_drawn_anew(self, index: int) -> bool:
        """Tell whether a design has lengths in mm, so that another width takes long to derive."""
        design = self.job.designs[index]
        return bool(design.steps) or is_sized(design.source)

    def take_habits(self, habits: Habits) -> bool:
        """Take other habits into use, and remember them."""

        def change() -> None:
            write_habits(habits)
            self.workshop = self.workshop.model_copy(update={"habits": habits})
            self.document.use_workshop(self.workshop)

        return self._try(change)

    def apply(self, edit: Edit) -> bool:
        """Carry out an edit; where it can't be done, say why and leave all as it was.

        With a long list of names it is worked out beside the window first.
        """
        if len(self.job.names.rows) > MANY_NAMES:
            self.apply_later(edit)
            return True
        return self._apply(edit)

    def _apply(self, edit: Edit) -> bool:
        return self._try(lambda: self.document.apply(edit))

    @property
    def is_working(self) -> bool:
        """Whether an edit is being worked out beside the window."""
        return self.later.is_busy

    def apply_later(self, edit: Edit, then: Callable[[], None] | None = None) -> None:
        """Carry out an edit that takes long to derive: beside the window first, then at once; ``then`` follows."""
        self.later.ask(edit, then)
        self.busy_changed.emit()

    def _apply_ready(self, edits: list[Edit]) -> None:
        for edit in edits:
            self._apply(edit)
        self.busy_changed.emit()

    def _refused(self, sentence: str) -> None:
        self.said.emit(sentence)
        self._follow()
        self.busy_changed.emit()

    def undo(self) -> None:
        """Take back the last edit."""
        self._try(self.document.undo)

    def redo(self) -> None:
        """Bring back what was taken back last."""
        self._try(self.document.redo)

    def _try(self, action: Callable[[], None]) -> bool:
        try:
            action()
        except ZinnetError as error:
            self.said.emit(str(error))
            return False
        self._follow()
        return True

    def point_at(self, piece: str | None) -> None:
        """Light up a piece in every view."""
        if piece != self.pointed:
            self.pointed = piece
            self.pointed_changed.emit()

    def show_finding(self, finding: Finding) -> None:
        """Go to the place of a finding."""
        self.finding_shown.emit(finding)

    def open_path(self, path: Path) -> None:
        """Open a job or artwork, by its ending."""
        if path.suffix.lower() == ".zinnet":
            self.open_job(path)
        else:
            self.open_artwork(path)

    def open_artwork(self, path: Path, *, add: bool = False) -> None:
        """Read artwork beside the window, then put it on the table: in place of the selected design, or besides."""
        index, place = (self.design.index if self.design is not None else 0), self.free_place()

        def read() -> tuple[bytes, Edit]:
            try:
                data = path.read_bytes()
            except OSError as error:
                raise ArtworkError(f"{path} can't be read: {error.strerror}.") from None
            artwork_of(source_of(path.name, data))
            edit = add_design(path.name, data, place) if add else open_artwork(path.name, data, index)
            derive(edit.change(self.job), self.workshop)
            return data, edit

        def put(result: tuple[bytes, Edit]) -> None:
            if self.apply(result[1]):
                if add:
                    self.look_at(design=len(self.job.designs) - 1)
                self.job_opened.emit()

        self.background.run(read, put, lambda error: self.said.emit(str(error)))

    def free_place(self) -> str | None:
        """Return a place of the blank where no design lies yet."""
        taken = [design.placement.place.id for design in self.garment.designs if design.placement is not None]
        return next((name for name in places_on(self.garment.blank) if name not in taken), None)

    def open_job(self, path: Path) -> None:
        """Open a job file beside the window."""

        def show(document: Document) -> None:
            self.show_document(document)
            remember_job(path)

        self.background.run(lambda: Document.open(path, self.workshop), show, lambda error: self.said.emit(str(error)))

    def show_document(self, document: Document) -> None:
        """Put another document on the table."""
        self.automatic_copy.drop()
        document.use_workshop(self.workshop)
        self.document = document
        self.pointed = self.size = self._panel = None
        self.design_index = 0
        self._follow()
        self.job_opened.emit()

    def save(self, path: Path) -> bool:
        """Save the job; say so where it can't be done."""
        try:
            self.document.save(path)
        except ZinnetError as error:
            self.said.emit(str(error))
            return False
        remember_job(path)
        self.automatic_copy.drop()
        self.said.emit(f"Saved as {path.name}.")
        self.plan_changed.emit()
        return True

    def export(self, folder: Path, formats: Sequence[str] = USUAL) -> None:
        """Write the cut files, the job sheet, the plan and the findings beside the window, and log it."""
        plan, store = self.plan, self.store

        def write() -> int:
            written = [*write_cut_files(plan, folder, formats), write_job_sheet(plan, folder)]
            written.append(write_json(folder / "plan.json", plan_json(plan)))
            written.append(write_json(folder / "findings.json", findings_json(plan)))
            log_export(plan, store, folder)
            return len(written)

        def done(files: int) -> None:
            self.said.emit(f"{files} files of {len(plan.loads)} mats written to {folder}.")
            self.exported.emit(folder)

        self.background.run(write, done, lambda error: self.said.emit(str(error)))

    def write_sheet(self, path: Path, what: str, make: MakeSheet) -> None:
        """Write a sheet of paper about the selected design beside the window."""
        plan, design, garment = self.plan, self.at["design"], self.plan.garments.index(self.garment)

        said = f"The {what} is in {path}; print it at 100 % and check the bar."
        self.write_file(path, lambda: make(plan, design=design, garment=garment), said)

    def lay_backdrop(self, backdrop: Backdrop | None) -> None:
        """Lay a photo below the artwork at Fit; it is a help for the eye and no part of the job."""
        self.backdrop = backdrop
        self.plan_changed.emit()

    def write_file(self, path: Path, make: Callable[[], bytes], said: str) -> None:
        """Write a file beside the window, and say so."""
        self.background.run(
            lambda: write_whole(path, make()),
            lambda written: self.said.emit(said),
            lambda error: self.said.emit(str(error)),
        )

    def close(self) -> None:
        """Stop all work, on closing the window."""
        self.closing.emit()
        self._timer.stop()
        self.nester.stop()
        self.background.wait()

    def _keep_layout(self, key: str, layout: Layout) -> None:
        self.document.keep_layout(key, layout)
        self.plan_changed.emit()

    def _keep_copy(self) -> None:
        try:
            self.automatic_copy.keep(self.document)
        except (ZinnetError, OSError) as error:
            self.said.emit(f"The automatic copy can't be kept: {error}")

    def _follow(self) -> None:
        self.nester.follow(self.plan.nests)
        self.plan_changed.emit()
