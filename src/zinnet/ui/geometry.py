"""Where the window was last, kept in the settings; without that it stands in the middle of its screen."""

from PySide6.QtCore import QByteArray, QSettings, Qt
from PySide6.QtWidgets import QMainWindow

KEY = "geometry"


def keep_geometry(window: QMainWindow, settings: QSettings) -> None:
    """Keep where a window is, and how large."""
    settings.setValue(KEY, window.saveGeometry())


def place_on_screen(window: QMainWindow, settings: QSettings) -> None:
    """Put a window where it was last; else in the middle of its screen, no larger than that."""
    kept = settings.value(KEY)
    if isinstance(kept, QByteArray) and window.restoreGeometry(kept):
        return
    screen = window.screen()
    if screen is not None:
        room = screen.availableGeometry()
        window.resize(min(window.width(), room.width()), min(window.height(), room.height()))
        window.move(room.center() - window.rect().center())
    window.setWindowState(window.windowState() & ~Qt.WindowState.WindowMinimized)
