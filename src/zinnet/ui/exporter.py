"""What leaves the window as files: cut files, papers and sheets, written beside it."""

from collections.abc import Callable, Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Protocol

from PySide6.QtCore import QObject, Signal

from zinnet.base.errors import CutError

if TYPE_CHECKING:
    from zinnet.plan.model import Facts, Plan
    from zinnet.ui.background import Background
    from zinnet.workshop.store import WorkshopStore


class MakeSheet(Protocol):
    """Makes a PDF about one design on one size."""

    def __call__(self, facts: "Facts", *, design: int, garment: int) -> bytes:
        """Return the PDF."""


class Exporter(QObject):
    """Writes files beside the window, and says what became of it."""

    exported = Signal(object)
    said = Signal(str)
    writing_changed = Signal(bool)
    """Whether cut files are being written, which can be left off."""

    def __init__(self, background: "Background", parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._background = background
        self._is_left = False

    def leave_off(self) -> None:
        """Write no further mat; what is written stays."""
        self._is_left = True

    def export(self, plan: "Plan", store: "WorkshopStore", folder: Path, formats: Sequence[str] | None = None) -> None:
        """Write the cut files, the job sheet, the plan and the findings, and log it in the books of ``store``.

        Mat by mat it is said how far it is.
        """
        self._is_left = False

        def on_mat(number: int, count: int) -> None:
            if self._is_left:
                raise CutError(f"Writing was left off: {number} of {count} mats are in {folder}.")
            self.said.emit(f"Writing mat {number + 1} of {count} to {folder.name} ... Esc leaves off.")

        def write() -> int:
            from zinnet.output.cut_files import USUAL, log_export, write_cut_files, write_job_sheet
            from zinnet.output.plan_json import findings_json, plan_json
            from zinnet.output.writing import write_json

            written = [*write_cut_files(plan, folder, formats or USUAL, on_mat=on_mat), write_job_sheet(plan, folder)]
            written.append(write_json(folder / "plan.json", plan_json(plan)))
            written.append(write_json(folder / "findings.json", findings_json(plan)))
            log_export(plan, store, folder)
            return len(written)

        def done(files: int) -> None:
            self.writing_changed.emit(False)
            self.said.emit(f"{files} files of {len(plan.loads)} mats written to {folder}.")
            self.exported.emit(folder)

        def refused(why: str) -> None:
            self.writing_changed.emit(False)
            self.said.emit(why)

        self.writing_changed.emit(True)
        self._background.run(write, done, refused)

    def write_file(self, path: Path, make: Callable[[], bytes], said: str) -> None:
        """Write a file, and say so."""
        self.said.emit(f"Writing {path.name} ...")
        from zinnet.base.files import write_whole

        self._background.run(lambda: write_whole(path, make()), lambda written: self.said.emit(said), self.said.emit)
