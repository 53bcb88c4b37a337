"""The whole workshop written to one file, and read from one."""

from pathlib import Path

from PySide6.QtWidgets import QFileDialog, QMessageBox, QWidget

from zinnet.base.errors import ZinnetError
from zinnet.base.files import read_file
from zinnet.ui.last_folder import LastFolder
from zinnet.ui.session import Session
from zinnet.workshop.transfer import MOST_BYTES, exported_workshop, import_workshop

ZIP_FILTER = "Exported workshops (*.zip)"


class WorkshopFiles:
    """Export and import of the workshop in the window."""

    def __init__(self, window: QWidget, session: Session, folder: LastFolder) -> None:
        self.window, self.session, self.folder = window, session, folder

    def choose_export(self) -> None:
        """Ask where to write the workshop."""
        suggested = self.folder.file("workshop.zip")
        name, _ = QFileDialog.getSaveFileName(self.window, "Write the whole workshop", suggested, ZIP_FILTER)
        if name:
            self.folder.remember(name)
            self.export(Path(name))

    def export(self, path: Path) -> None:
        """Write the workshop beside the window."""
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

        def say(count: int) -> None:
            self.session.said.emit(f"{count} entries taken over from {path.name}.")

        try:
            data = read_file(path, MOST_BYTES)
        except ZinnetError as error:
            self.session.said.emit(str(error))
            return
        self.session.books.use(lambda store: import_workshop(store, data, path.name, replace=True), say)
