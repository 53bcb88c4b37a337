"""The whole workshop written to one file, and read from one."""

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QFileDialog, QMessageBox

from zinnet.workshop.transfer import exported_workshop, import_workshop

if TYPE_CHECKING:
    from zinnet.ui.window import MainWindow

ZIP_FILTER = "Exported workshops (*.zip)"


class WorkshopFiles:
    """Export and import of the workshop in the window."""

    def __init__(self, window: "MainWindow") -> None:
        self.window, self.session = window, window.session

    def choose_export(self) -> None:
        """Ask where to write the workshop."""
        suggested = str(Path(self.window.folder()) / "workshop.zip")
        name, _ = QFileDialog.getSaveFileName(self.window, "Write the whole workshop", suggested, ZIP_FILTER)
        if name:
            self.window.remember_folder(name)
            self.export(Path(name))

    def export(self, path: Path) -> None:
        """Write the workshop beside the window."""
        store = self.session.store
        self.session.write_file(path, lambda: exported_workshop(store), f"The whole workshop is in {path}.")

    def choose_import(self) -> None:
        """Ask for an exported workshop, and whether it is to take the place of this one."""
        name, _ = QFileDialog.getOpenFileName(self.window, "Read a workshop", self.window.folder(), ZIP_FILTER)
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
            data = path.read_bytes()
        except OSError as error:
            self.session.said.emit(f"{path} can't be read: {error.strerror}.")
            return
        self.session.use_books(lambda store: import_workshop(store, data, path.name, replace=True), say)
