"""Pictures of the real window with the demo in it, for the README and where there is no display."""

import sys
from pathlib import Path

from PySide6.QtCore import QSettings
from PySide6.QtWidgets import QApplication

from zinnet.demo import demo_document
from zinnet.document import Document
from zinnet.ui.app import make_application
from zinnet.ui.session import Session
from zinnet.ui.tags import STATIONS
from zinnet.ui.theme import DAYLIGHT, NIGHT, use_theme
from zinnet.ui.window import MainWindow

SIZE = (1280, 800)


def picture_stations(folder: Path, document: Document) -> list[Path]:
    """Open the document in the window and save one picture per station."""
    app = make_application()
    use_theme(NIGHT)
    folder.mkdir(parents=True, exist_ok=True)
    session = Session(folder / ".automatic")
    window = MainWindow(session, QSettings(str(folder / ".settings.ini"), QSettings.Format.IniFormat))
    window.resize(*SIZE)
    window.show()
    session.show_document(document)
    saved = []
    for station, _ in STATIONS:
        window.go_to(station)
        saved.append(_save(app, window, folder / f"{station}.png"))
    session.close()
    return saved


def _save(app: QApplication, window: MainWindow, path: Path) -> Path:
    for _ in range(5):
        app.processEvents()
    window.grab().save(str(path))
    return path


def main(folder: Path) -> None:
    """Draw all pictures of the README."""
    picture_stations(folder, demo_document())
    app = make_application()
    session = Session(folder / ".automatic")
    window = MainWindow(session, QSettings(str(folder / ".settings.ini"), QSettings.Format.IniFormat))
    window.resize(*SIZE)
    window.show()
    _save(app, window, folder / "welcome.png")
    use_theme(DAYLIGHT)
    session.show_document(demo_document())
    window.go_to("fit")
    _save(app, window, folder / "fit-daylight.png")
    session.close()


if __name__ == "__main__":
    main(Path(sys.argv[1]))
