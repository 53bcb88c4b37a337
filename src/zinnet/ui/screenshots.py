"""Pictures of the real window with the demo in it, for the README and where there is no display."""

import sys
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import cast

from PySide6.QtCore import QSettings
from PySide6.QtWidgets import QApplication

from zinnet.demo import demo_document
from zinnet.document import Document
from zinnet.ui.app import make_application
from zinnet.ui.nest.questions_page import QuestionsPage
from zinnet.ui.session import Session
from zinnet.ui.stations.nest import NestStation
from zinnet.ui.stations.split import SplitStation
from zinnet.ui.tags import STATIONS
from zinnet.ui.theme import DAYLIGHT, NIGHT, use_theme
from zinnet.ui.window import MainWindow

SIZE = (1280, 800)
MOST_LOOKS = 200
MOST_WAIT_S = 60.0
TICKED = 9


@contextmanager
def _shown_window() -> Iterator[MainWindow]:
    """Show a window whose copies and settings are its own, and close its session at the end."""
    make_application()
    use_theme(NIGHT)
    with TemporaryDirectory() as private:
        session = Session(Path(private))
        window = MainWindow(session, QSettings(f"{private}/settings.ini", QSettings.Format.IniFormat))
        window.resize(*SIZE)
        window.show()
        try:
            yield window
        finally:
            session.close()


def picture_stations(folder: Path, document: Document) -> list[Path]:
    """Open the document in the window and save one picture per station."""
    folder.mkdir(parents=True, exist_ok=True)
    saved = []
    with _shown_window() as window:
        window.session.show_document(document)
        for station, _ in STATIONS:
            window.go_to(station)
            saved.append(_save(window, folder / f"{station}.png"))
    return saved


def _save(window: MainWindow, path: Path) -> Path:
    """Save the window once it has settled: what takes long is drawn a part at a time."""
    before = None
    _wait(lambda: not window.session.background.is_busy)
    for _ in range(MOST_LOOKS):
        QApplication.processEvents()
        picture = window.grab().toImage()
        if picture == before:
            break
        before = picture
    picture.save(str(path))
    return path


def picture_fits(folder: Path) -> list[Path]:
    """Save pictures of the other demos: blanks with their tapes, arrangements, sizes, comparison and bench."""
    saved = []
    with _shown_window() as window:
        session = window.session

        def save(name: str) -> None:
            saved.append(_save(window, folder / f"{name}.png"))

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
    return saved


def picture_artworks(folder: Path) -> list[Path]:
    """Save a picture of the Artwork station with a traced picture."""
    saved = []
    with _shown_window() as window:
        window.go_to("artwork")
        window.session.show_document(demo_document(name="tracing"))
        window.view.fit_view()
        saved.append(_save(window, folder / "artwork-tracing.png"))
    return saved


def picture_nests(folder: Path) -> list[Path]:
    """Save pictures of a nest on scraps, and of the pages beside the mats."""
    saved = []
    with _shown_window() as window:
        window.open_demo("shelf")
        _wait(lambda: bool(window.session.workshop.stock) and not window.session.background.is_busy)
        window.go_to("nest")
        nest = cast(NestStation, window.stations["nest"])
        questions = cast(QuestionsPage, nest.pages["questions"])
        for page, name in (("mats", "scraps"), ("trims", "trims"), ("shelf", "shelf"), ("questions", "questions")):
            nest.show_page(page)
            _wait(lambda: not window.session.background.is_busy)
            if page == "questions":
                for question in ("missing", "scraps", "films"):
                    questions.ask(question)
                    _wait(lambda: questions.asked is None)
                questions.rectangles.rectangle.setText("7.2 x 5 in")
                questions.rectangles.film.setText("9.5 x 132 in")
            saved.append(_save(window, folder / f"nest-{name}.png"))
    return saved


def _wait(is_ready: Callable[[], bool]) -> None:
    """Let the window work until it is ready."""
    deadline = time.monotonic() + MOST_WAIT_S
    while not is_ready() and time.monotonic() < deadline:
        QApplication.processEvents()
        time.sleep(0.01)


def picture_layers(folder: Path) -> list[Path]:
    """Save pictures of the Split station's pages, and of the weeding at the bench."""
    saved = []
    with _shown_window() as window:
        split = cast(SplitStation, window.stations["split"])
        for page, name in (("thickness", "name"), ("detail", "hoodies"), ("films", "word")):
            window.session.show_document(demo_document(name=name))
            window.go_to("split")
            split.show_page(page)
            saved.append(_save(window, folder / f"split-{page}.png"))
        window.session.show_document(demo_document())
        window.enter_bench()
        for _ in range(TICKED):
            weeding = window.weed_bench.weeding
            if weeding is not None:
                weeding.tick_next()
        saved.append(_save(window, folder / "weed.png"))
    return saved


def main(folder: Path) -> None:
    """Draw all pictures of the README."""
    picture_stations(folder, demo_document())
    picture_fits(folder)
    picture_artworks(folder)
    picture_layers(folder)
    picture_nests(folder)
    with _shown_window() as window:
        _save(window, folder / "welcome.png")
        use_theme(DAYLIGHT)
        window.session.show_document(demo_document())
        window.go_to("fit")
        _save(window, folder / "fit-daylight.png")


if __name__ == "__main__":
    main(Path(sys.argv[1]))
