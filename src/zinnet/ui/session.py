"""The session: the open document as the window sees it, with one signal for everything derived."""

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QObject, QTimer, Signal

from zinnet.artwork.svg import read_svg
from zinnet.checks.model import Finding
from zinnet.document import AutomaticCopy, Document, remember_job
from zinnet.edits import Edit, open_artwork
from zinnet.errors import ArtworkError, ZinnetError
from zinnet.export import findings_json, plan_json, write_cut_files, write_json
from zinnet.job import Job
from zinnet.nesting.model import Layout
from zinnet.plan import Plan, derive
from zinnet.ui.background import Background
from zinnet.ui.nester import Nester
from zinnet.workshop import Workshop, standard_workshop

COPY_EVERY_MS = 4000


class Session(QObject):
    """What the views follow. They read :attr:`plan`, and change things through :meth:`apply` alone."""

    plan_changed = Signal()
    pointed_changed = Signal()
    finding_shown = Signal(object)
    said = Signal(str)
    job_opened = Signal()

    def __init__(self, copies_folder: Path | None = None, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.workshop: Workshop = standard_workshop()
        self.document = Document(self.workshop)
        self.pointed: str | None = None
        self.background = Background(self)
        self.nester = Nester(self)
        self.nester.better.connect(self._keep_layout)
        self.automatic_copy = AutomaticCopy(copies_folder)
        self._timer = QTimer(self, interval=COPY_EVERY_MS)
        self._timer.timeout.connect(self._keep_copy)
        self._timer.start()

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
        return self.job.artwork is not None

    def apply(self, edit: Edit) -> bool:
        """Carry out an edit; where it can't be done, say why and leave all as it was."""
        return self._try(lambda: self.document.apply(edit))

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

    def open_artwork(self, path: Path) -> None:
        """Read artwork beside the window, then put it on the table."""

        def read() -> tuple[bytes, Edit]:
            try:
                data = path.read_bytes()
            except OSError as error:
                raise ArtworkError(f"{path} can't be read: {error.strerror}.") from None
            read_svg(data, path.name)
            edit = open_artwork(path.name, data)
            derive(edit.change(self.job), self.workshop)
            return data, edit

        def put(result: tuple[bytes, Edit]) -> None:
            if self.apply(result[1]):
                self.job_opened.emit()

        self.background.run(read, put, lambda error: self.said.emit(str(error)))

    def open_job(self, path: Path) -> None:
        """Open a job file beside the window."""

        def show(document: Document) -> None:
            self.show_document(document)
            remember_job(path)

        self.background.run(lambda: Document.open(path, self.workshop), show, lambda error: self.said.emit(str(error)))

    def show_document(self, document: Document) -> None:
        """Put another document on the table."""
        self.automatic_copy.drop()
        self.document = document
        self.pointed = None
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

    def export(self, folder: Path) -> list[Path]:
        """Write the cut files, the plan and the findings; return what was written."""
        try:
            written = write_cut_files(self.plan, folder)
            written.append(write_json(folder / "plan.json", plan_json(self.plan)))
            written.append(write_json(folder / "findings.json", findings_json(self.plan)))
        except ZinnetError as error:
            self.said.emit(str(error))
            return []
        self.said.emit(f"{len(self.plan.mats)} mats written to {folder}.")
        return written

    def close(self) -> None:
        """Stop all work, on closing the window."""
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
