"""The Qt application, on a display or on a virtual screen."""

import os
import sys

from PySide6.QtCore import QMessageLogContext, QSettings, QtMsgType, qInstallMessageHandler
from PySide6.QtGui import QIcon
from PySide6.QtWidgets import QApplication

from zinnet.base.log import logger
from zinnet.data import path_of
from zinnet.desktop.entry import APP
from zinnet.ui.theme import remembered_theme, use_theme
from zinnet.ui.type_size import use_type_size

SWITCH_S = 0.00005
"""How soon another thread gives way: the window waits so long, at most, each time it comes back from Qt."""


def has_display() -> bool:
    """Tell whether there is a display to open a window on."""
    return bool(os.environ.get("DISPLAY") or os.environ.get("WAYLAND_DISPLAY"))


def make_application() -> QApplication:
    """Return the application, on a virtual screen where there is no display."""
    if not has_display():
        os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    qInstallMessageHandler(_write_down)
    existing = QApplication.instance()
    sys.setswitchinterval(SWITCH_S)
    settings = QSettings("zinnet", "zinnet")
    use_type_size(settings)
    app = existing if isinstance(existing, QApplication) else QApplication(sys.argv[:1])
    app.setApplicationName("zinnet")
    app.setDesktopFileName(APP)
    app.setWindowIcon(QIcon(str(path_of("desktop", f"{APP}.svg"))))
    use_theme(remembered_theme(settings))
    return app


def _write_down(kind: QtMsgType, context: QMessageLogContext, message: str) -> None:
    """Pass on what Qt says and write it into the log, but for what every virtual screen says of itself."""
    if "propagateSizeHints" not in message:
        sys.stderr.write(f"{message}\n")
        logger().warning("Qt: %s", message)
