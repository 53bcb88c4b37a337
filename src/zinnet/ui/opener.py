"""Opening and saving beside the window: jobs, artwork, and the automatic copy of a program that crashed."""

from collections.abc import Callable
from contextlib import ExitStack
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, Signal

from zinnet.base.errors import ArtworkError, JobFileError, ZinnetError
from zinnet.bench.bounded import Bounded, Patience

if TYPE_CHECKING:
    from zinnet.bench.document import Document
    from zinnet.job.edits import Edit
    from zinnet.ui.session import Session
    from zinnet.workshop.store import WorkshopStore


class _Waiting(Patience):
    """Waits for a file until somebody says that it is left."""

    def __init__(self, opener: "Opener") -> None:
        self._opener = opener

    def begun(self, task: Bounded) -> None:
        """Keep what is being read, so that it can be left."""
        self._opener.task = task

    def goes_on(self, task: Bounded) -> bool:
        """Ask in the window, and wait on."""
        self._opener.slow.emit(task)
        return True


class Opener(QObject):
    """Puts files on the table. Everything is read in a process of its own first, which may be left at any moment.

    What can't be read leaves all as it was.
    """

    slow = Signal(object)
    settled = Signal()

    def __init__(self, session: "Session") -> None:
        super().__init__(session)
        self.session = session
        self.task: Bounded | None = None
        self._waiting = _Waiting(self)
        session.closing.connect(self.leave)

    def leave(self) -> None:
        """Read the file no further."""
        if self.task is not None:
            self.task.stop()

    def open_path(self, path: Path) -> None:
        """Open a job or artwork, by its ending."""
        if path.suffix.lower() == ".zinnet":
            self.open_job(path)
        else:
            self.open_artwork(path)

    def open_artwork(self, path: Path, *, add: bool = False) -> None:
        """Read artwork, then put it on the table: in place of the selected design, or besides."""
        from zinnet.artwork.svg.xml_guard import MOST_BYTES
        from zinnet.base.files import read_file

        self._bring(path.name, lambda: read_file(path, MOST_BYTES, error=ArtworkError), add=add)

    def open_data(self, name: str, data: bytes, *, add: bool = False) -> None:
        """Put artwork on the table that was copied elsewhere; ``name`` is what it is called."""
        self._bring(name, lambda: data, add=add)

    def _bring(self, name: str, read_data: Callable[[], bytes], *, add: bool) -> None:
        from zinnet.artwork.source import source_of
        from zinnet.bench.from_strangers import derive_apart
        from zinnet.job.edits import add_design, open_artwork
        from zinnet.plan.derive import derive
        from zinnet.plan.room import added

        session, document = self.session, self.session.document
        index, place = session.selection.at["design"], session.selection.free_place

        def read() -> "Edit":
            data = read_data()
            edit = add_design(name, data, place) if add else open_artwork(name, data, index)
            derive_apart(document, edit, name, self._waiting)
            if add:
                edit = added(document.workshop, name, source_of(name, data))
            with document.stages.in_use():
                derive(edit.change(document.job), document.workshop)
            return edit

        def put(edit: "Edit") -> None:
            if session.document is not document:
                session.said.emit(f"{name} was meant for a job that is no longer open; it was left out.")
            elif session.beside:
                session.apply_later(edit, shown)
            elif session.apply(edit):
                shown()

        def shown() -> None:
            if add:
                session.selection.look_at(design=len(session.job.designs) - 1)
            session.job_opened.emit()

        self._run(read, put)

    def open_job(self, path: Path) -> None:
        """Open a job file."""
        from zinnet.bench.from_strangers import open_apart
        from zinnet.bench.recent import remember_job

        def show(document: "Document") -> None:
            self.session.show_document(document)
            remember_job(path)

        self._run(lambda: open_apart(path, self.session.workshop, self._waiting), show)

    def open_made(self, make: "Callable[[], tuple[Document, WorkshopStore]]") -> None:
        """Open a document that is made beside the window, with books of its own."""
        self._run(make, lambda made: self.session.show_document(*made))

    def restore(self, copy: Path) -> None:
        """Open the automatic copy that a crash left behind, as a job that was never saved."""
        from zinnet.bench.automatic_copy import claimed, remove_copy
        from zinnet.bench.from_strangers import open_apart

        claim = ExitStack()

        def read() -> "Document":
            if not claim.enter_context(claimed(copy)):
                raise JobFileError("Another window brings this copy back, or it is gone; nothing is changed here.")
            return open_apart(copy, self.session.workshop, self._waiting)

        def show(document: "Document") -> None:
            document.came_from(None, None)
            document.saved = None
            self.session.show_document(document)
            self.session.keep_copy(lambda: remove_copy(copy), claim.close)

        def refuse(sentence: str) -> None:
            claim.close()
            self.session.said.emit(sentence)

        self._run(read, show, refuse)

    def save(self, path: Path, *, over: bool = False) -> bool:
        """Save the job, ``over`` what another program wrote there meanwhile; say so where it can't be done."""
        from zinnet.bench.recent import remember_job
        from zinnet.ui.garment import small_picture

        session = self.session
        try:
            session.document.save(path, over=over)
        except ZinnetError as error:
            session.said.emit(str(error))
            return False
        remember_job(path, small_picture(session.plan.garments[0]))
        session.automatic_copy.drop()
        session.mark_open()
        session.books.open()
        session.said.emit(f"Saved as {path.name}.")
        session.plan_changed.emit()
        return True

    def _run[Read](
        self, read: Callable[[], Read], show: Callable[[Read], None], refused: Callable[[str], None] | None = None
    ) -> None:
        def take(found: Read) -> None:
            self._settle()
            show(found)

        def refuse(sentence: str) -> None:
            self._settle()
            (refused or self.session.said.emit)(sentence)

        self.session.background.run(read, take, refuse)

    def _settle(self) -> None:
        self.task = None
        self.settled.emit()
