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


def picture_fits(folder: Path) -> list[Path]:
    """Save pictures of the other demos: blanks with their tapes, arrangements, sizes, comparison and bench."""
    app = make_application()
    use_theme(NIGHT)
    session = Session(folder / ".automatic")
    window = MainWindow(session, QSettings(str(folder / ".settings.ini"), QSettings.Format.IniFormat))
    window.resize(*SIZE)
    window.show()
    saved = []

    def save(name: str) -> None:
        saved.append(_save(app, window, folder / f"{name}.png"))

    for name, station in (
        ("hoodies", "measure"),
        ("caps", "measure"),
        ("sash", "measure"),
        ("caps", "fit"),
        ("sash", "fit"),
        ("blanket", "fit"),
    ):
        session.show_document(demo_document(name=name))
        window.go_to(station)
        save(f"{station}-{name}")
    session.show_document(demo_document(name="hoodies"))
    window.show_page("sizes")
    save("sizes")
    session.show_document(demo_document())
    window.show_page("compare")
    save("compare")
    window.go_to("fit")
    window.enter_bench()
    window.bench.show_readings(right_mm=6.0, down_mm=-3.0, turn_deg=1.2)
    save("bench")
    session.close()
    return saved


def main(folder: Path) -> None:
    """Draw all pictures of the README."""
    picture_stations(folder, demo_document())
    picture_fits(folder)
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
