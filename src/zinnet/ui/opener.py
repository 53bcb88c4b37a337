"""Opening and saving beside the window: jobs, artwork, and the automatic copy of a program that crashed."""

from pathlib import Path
from typing import Any

from PySide6.QtCore import QObject

from zinnet.artwork.source import artwork_of, source_of
from zinnet.base.errors import ArtworkError, ZinnetError
from zinnet.bench.document import Document, remember_job, remove_copy
from zinnet.job.edits import Edit, add_design, open_artwork
from zinnet.plan.derive import derive
from zinnet.ui.session import Session


class Opener(QObject):
    """Puts files on the table. Everything is read beside the window first; what can't be read leaves all as it was."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.session = session

    def open_path(self, path: Path) -> None:
        """Open a job or artwork, by its ending."""
        if path.suffix.lower() == ".zinnet":
            self.open_job(path)
        else:
            self.open_artwork(path)

    def open_artwork(self, path: Path, *, add: bool = False) -> None:
        """Read artwork, then put it on the table: in place of the selected design, or besides."""
        session, document = self.session, self.session.document
        index, place = session.selection.at["design"], session.selection.free_place

        def read() -> Edit:
            try:
                data = path.read_bytes()
            except OSError as error:
                raise ArtworkError(f"{path} can't be read: {error.strerror}.") from None
            artwork_of(source_of(path.name, data))
            edit = add_design(path.name, data, place) if add else open_artwork(path.name, data, index)
            with document.stages.in_use():
                derive(edit.change(document.job), document.workshop)
            return edit

        def put(edit: Edit) -> None:
            if session.document is not document:
                session.said.emit(f"{path.name} was meant for a job that is no longer open; it was left out.")
            elif session.apply(edit):
                if add:
                    session.selection.look_at(design=len(session.job.designs) - 1)
                session.job_opened.emit()

        self._run(read, put)

    def open_job(self, path: Path) -> None:
        """Open a job file."""

        def show(document: Document) -> None:
            self.session.show_document(document)
            remember_job(path)

        self._run(lambda: Document.open(path, self.session.workshop), show)

    def restore(self, copy: Path) -> None:
        """Open the automatic copy that a crash left behind, as a job that was never saved."""

        def show(document: Document) -> None:
            document.path = None
            document.saved = None
            self.session.show_document(document)
            remove_copy(copy)

        self._run(lambda: Document.open(copy, self.session.workshop), show)

    def save(self, path: Path) -> bool:
        """Save the job; say so where it can't be done."""
        session = self.session
        try:
            session.document.save(path)
        except ZinnetError as error:
            session.said.emit(str(error))
            return False
        remember_job(path)
        session.automatic_copy.drop()
        session.books.open()
        session.said.emit(f"Saved as {path.name}.")
        session.plan_changed.emit()
        return True

    def _run(self, read: Any, show: Any) -> None:
        self.session.background.run(read, show, self.session.said.emit)
