"""The whole workshop written to one file, and read from one."""

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QFileDialog, QMessageBox, QWidget

from zinnet.base.errors import ZinnetError
from zinnet.ui.plain import plain

if TYPE_CHECKING:
    from zinnet.ui.last_folder import LastFolder
    from zinnet.ui.session import Session

ZIP_FILTER = "Exported workshops (*.zip)"


class WorkshopFiles:
    """Export and import of the workshop in the window."""

    def __init__(self, window: QWidget, session: "Session", folder: "LastFolder") -> None:
        self.window, self.session, self.folder = window, session, folder
        self._offered: set[Path] = set()
        session.books.refused.connect(self.offer_copy)

    def offer_copy(self, refused: str) -> None:
        """Where the workshop's file is damaged, offer its newest copy that is sound, once."""
        from zinnet.workshop.backup import backups, is_sound, restore

        store = self.session.books.store
        path = store.path
        if path in self._offered or not path.exists() or is_sound(path):
            return
        copy = next((one for one in backups(path) if is_sound(one)), None)
        if copy is None:
            return
        self._offered.add(path)
        day = copy.stem.removeprefix(f"{path.stem}-")
        answer = QMessageBox.question(
            self.window,
            "The workshop is damaged",
            plain(
                f"The workshop's file {path.name} can't be read any more. Its copy of {day} is sound. Put that in its "
                "place? The damaged file is moved aside, not deleted; what was written since that day is only in it."
            ),
        )
        if answer == QMessageBox.StandardButton.Yes:
            self.session.books.use(lambda _: restore(path, copy), lambda done: self._said(day))

    def _said(self, day: str) -> None:
        self.session.said.emit(f"The workshop is as it was on {day}; the damaged file lies beside it.")

    def choose_export(self) -> None:
        """Ask where to write the workshop."""
        suggested = self.folder.file("workshop.zip")
        name, _ = QFileDialog.getSaveFileName(self.window, "Write the whole workshop", suggested, ZIP_FILTER)
        if name:
            self.folder.remember(name)
            self.export(Path(name))

    def export(self, path: Path) -> None:
        """Write the workshop beside the window."""
        from zinnet.workshop.transfer import exported_workshop

        store = self.session.books.store
        self.session.exporter.write_file(path, lambda: exported_workshop(store), f"The whole workshop is in {path}.")

    def choose_import(self) -> None:
        """Ask for an exported workshop, and whether it is to take the place of this one."""
        name, _ = QFileDialog.getOpenFileName(self.window, "Read a workshop", str(self.folder), ZIP_FILTER)
        if not name:
            return
        answer = QMessageBox.question(
            self.window,
            "In the place of this one?",
            "Shelf, recipes and log of the file take the place of those that are here. Go on?",
        )
        if answer == QMessageBox.StandardButton.Yes:
            self.take(Path(name))

    def take(self, path: Path) -> None:
        """Put an exported workshop in the place of this one."""
        from zinnet.base.files import read_file
        from zinnet.workshop.transfer import MOST_BYTES, import_workshop

        def say(count: int) -> None:
            self.session.said.emit(f"{count} entries taken over from {path.name}.")

        try:
            data = read_file(path, MOST_BYTES)
        except ZinnetError as error:
            self.session.said.emit(str(error))
            return
        self.session.books.use(lambda store: import_workshop(store, data, path.name, replace=True), say)
