"""Watching the user's own files of the configuration folder: machines, blanks, films, habits."""

from collections.abc import Callable
from pathlib import Path

import platformdirs
from PySide6.QtCore import QFileSystemWatcher, QObject, QTimer

SETTLE_MS = 300
"""An editor writes a file in several goes."""


class SettingsWatch(QObject):
    """Calls back when a file of the configuration folder was changed, once it has settled."""

    def __init__(self, changed: Callable[[], None], parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._folder = platformdirs.user_config_path("zinnet")
        self._timer = QTimer(self, singleShot=True, interval=SETTLE_MS)
        self._timer.timeout.connect(changed)
        self._watcher = QFileSystemWatcher(self)
        self._watcher.directoryChanged.connect(self._later)
        self._watcher.fileChanged.connect(self._later)
        self._watch()

    def _later(self, path: str) -> None:
        self._watch()
        self._timer.start()

    def _watch(self) -> None:
        """Watch the folder and every file in it; a file that is written anew is another one."""
        wanted = [str(path) for path in (self._folder, *self._files()) if path.exists()]
        known = {*self._watcher.directories(), *self._watcher.files()}
        fresh = [path for path in wanted if path not in known]
        if fresh:
            self._watcher.addPaths(fresh)

    def _files(self) -> list[Path]:
        return sorted(self._folder.glob("*.toml")) if self._folder.exists() else []
