"""The job as a file, asked for in the window: begun, opened, saved, left; a demo opened; cut files written."""

from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QFileDialog, QMessageBox, QWidget

from zinnet.base.errors import ZinnetError
from zinnet.data import read_toml
from zinnet.ui.opener import Opener
from zinnet.ui.plain import plain
from zinnet.ui.slow_file import SlowFile
from zinnet.ui.theirs_or_mine import ask_theirs_or_mine
from zinnet.ui.where_to import ask_where_to

if TYPE_CHECKING:
    from zinnet.bench.document import Document
    from zinnet.ui.last_folder import LastFolder
    from zinnet.ui.session import Session
    from zinnet.workshop.model import Workshop
    from zinnet.workshop.store import WorkshopStore

ARTWORK_FILTER = "Artwork (*.svg *.dxf *.png *.jpg *.jpeg *.webp)"
JOB_FILTER = "Zinnet jobs (*.zinnet)"
UNTITLED = "Untitled"
ORDER_FILTER = "Orders (*.csv *.tsv *.txt)"


def _made(workshop: "Workshop", name: str, folder: Path) -> "tuple[Document, WorkshopStore]":
    """Return a demo and the books that it has of its own."""
    from zinnet.demo import demo_document
    from zinnet.demo.shelf import demo_store

    return demo_document(workshop, name), demo_store(folder)


class JobFiles:
    """Asks which file, and whether changes may be lost."""

    def __init__(self, window: QWidget, session: "Session", folder: "LastFolder") -> None:
        self.window, self.session, self.folder = window, session, folder
        self.opener = Opener(session)
        self.slow_file = SlowFile(window, self.opener)
        self._demo_folder: TemporaryDirectory[str] | None = None

    def choose_artwork(self) -> None:
        """Ask for artwork and open it."""
        name, _ = QFileDialog.getOpenFileName(self.window, "Open artwork", str(self.folder), ARTWORK_FILTER)
        if name:
            self.folder.remember(name)
            self.open_path(Path(name))

    def choose_added_artwork(self) -> None:
        """Ask for artwork and add it as another design."""
        name, _ = QFileDialog.getOpenFileName(self.window, "Add another design", str(self.folder), ARTWORK_FILTER)
        if name:
            self.folder.remember(name)
            self.opener.open_artwork(Path(name), add=self.session.has_artwork)

    def choose_order(self) -> None:
        """Ask for a table, and ask for what stands in it."""
        name, _ = QFileDialog.getOpenFileName(self.window, "Read counts", str(self.folder), ORDER_FILTER)
        if name:
            self.folder.remember(name)
            self.read_order(Path(name))

    def read_order(self, path: Path) -> None:
        """Ask for what stands in a table; what is wrong with it is said."""
        from zinnet.base.files import read_file
        from zinnet.job.edits import set_order_lines
        from zinnet.job.order_csv import MOST_BYTES, read_order_csv

        try:
            lines = read_order_csv(read_file(path, MOST_BYTES), path.name)
        except ZinnetError as error:
            self.session.said.emit(str(error))
        else:
            self.session.apply_later(set_order_lines(lines))

    def new_job(self, then: Callable[[], None]) -> None:
        """Begin with a clear table; ``then`` follows."""
        from zinnet.bench.document import Document

        if self.may_leave():
            self.session.show_document(Document(self.session.workshop))
            then()

    def choose_job(self) -> None:
        """Ask for a job and open it."""
        name, _ = QFileDialog.getOpenFileName(self.window, "Open a job", str(self.folder), JOB_FILTER)
        if name and self.may_leave():
            self.folder.remember(name)
            self.opener.open_job(Path(name))

    def open_path(self, path: Path) -> None:
        """Open a job, unless changes of the open one would be lost, or bring artwork."""
        if path.suffix.lower() != ".zinnet":
            self.bring(path.name, partial(self.opener.open_artwork, path))
        elif self.may_leave():
            self.opener.open_job(path)

    def open_paths(self, paths: Sequence[Path]) -> None:
        """Open several files: a job alone, else the artwork of all of them."""
        self.open_path(paths[0])
        if paths[0].suffix.lower() != ".zinnet":
            for path in paths[1:]:
                self.opener.open_artwork(path, add=True)

    def bring(self, called: str, open_it: Callable[..., None]) -> None:
        """Open artwork; where there is some already it is asked whether it comes besides, instead, or in a new job."""
        match ask_where_to(self.window, called) if self.session.has_artwork else "instead":
            case "besides":
                open_it(add=True)
            case "instead":
                open_it(add=False)
            case "new":
                self.new_job(lambda: open_it(add=False))

    def open_demo(self, name: str | None = None) -> None:
        """Open one of the demos, with a workshop of its own: what is tried there stays out of the user's books."""

        if self.may_leave():
            self._demo_folder = self._demo_folder or TemporaryDirectory(prefix="zinnet-demo-")
            folder, workshop = Path(self._demo_folder.name), self.session.workshop
            self.opener.open_made(lambda: _made(workshop, name or read_toml("demos")["first"], folder))

    def save(self) -> bool:
        """Save the job where it was saved before, else ask; also where somebody else has written it meanwhile."""
        document = self.session.document
        if document.path is None:
            return self.save_as()
        if not document.is_changed_elsewhere:
            return self.opener.save(document.path)
        match ask_theirs_or_mine(self.window, document.path):
            case "theirs":
                self.opener.open_job(document.path)
            case "mine":
                return self.opener.save(document.path, over=True)
            case "copy":
                return self.save_as(f"{document.path.stem} (mine).zinnet")
        return False

    def save_as(self, name: str | None = None) -> bool:
        """Ask where to save the job; a name is proposed, the job's title by default."""
        suggested = self.folder.file(name or f"{self.session.job.title}.zinnet")
        chosen, _ = QFileDialog.getSaveFileName(self.window, "Save the job", suggested, JOB_FILTER)
        if not chosen:
            return False
        path = Path(chosen)
        path = path if path.suffix == ".zinnet" else path.with_name(path.name + ".zinnet")
        self.folder.remember(chosen)
        self._name_after(path)
        return self.opener.save(path)

    def _name_after(self, path: Path) -> None:
        """Call a job that nobody gave a name yet as its file."""
        from zinnet.artwork.source import own_name
        from zinnet.job.edits import set_title

        job = self.session.job
        if job.title in (UNTITLED, *(own_name(design.source) for design in job.designs[:1])):
            self.session.apply(set_title(path.stem))

    def choose_export(self, formats: tuple[str, ...]) -> None:
        """Ask for a folder and write all cut files."""
        from zinnet.output.preflight import refuse_stops

        if not self.session.is_working:
            try:
                refuse_stops(self.session.plan, lambda stop: stop.title.lower())
            except ZinnetError as error:
                self.session.said.emit(str(error))
                return
        folder = QFileDialog.getExistingDirectory(self.window, "Folder for the cut files", str(self.folder))
        if folder:
            self.session.following.when_followed(lambda: self._export(Path(folder), formats))

    def _export(self, folder: Path, formats: tuple[str, ...]) -> None:
        self.session.exporter.export(self.session.plan, self.session.books.store, folder, formats)

    def may_leave(self) -> bool:
        """Ask what to do with changes that are not saved; tell whether the job may be left."""
        if not self.session.document.is_changed:
            return True
        answer = QMessageBox.question(
            self.window,
            "Not saved",
            plain(f"“{self.session.job.title}” has changes that are not saved."),
            QMessageBox.StandardButton.Save | QMessageBox.StandardButton.Discard | QMessageBox.StandardButton.Cancel,
        )
        if answer == QMessageBox.StandardButton.Save:
            return self.save()
        return answer == QMessageBox.StandardButton.Discard
