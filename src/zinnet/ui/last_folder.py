"""The folder in which a file was chosen last: the next one is looked for there."""

from pathlib import Path

from PySide6.QtCore import QSettings


class LastFolder:
    """Where files were last, kept in the settings."""

    def __init__(self, settings: QSettings) -> None:
        self._settings = settings

    def __str__(self) -> str:
        return str(self._settings.value("folder", str(Path.home())))

    def file(self, name: str) -> str:
        """Return a file of that name in the folder."""
        return str(Path(str(self)) / name)

    def remember(self, file: str) -> None:
        """Keep where a file is."""
        self._settings.setValue("folder", str(Path(file).parent))
