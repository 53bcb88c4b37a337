"""Pictures of the real window with the demo in it, for the README and where there is no display."""

import sys
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from functools import partial
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import cast

from PySide6.QtCore import QSettings
from PySide6.QtWidgets import QApplication

from zinnet.cutting.settings import Outcome
from zinnet.demo import demo_document
from zinnet.document import Document
from zinnet.ui.application import make_application
from zinnet.ui.cut.trial_page import TrialPage
from zinnet.ui.nest.questions_page import QuestionsPage
from zinnet.ui.session import Session
from zinnet.ui.stations.cut import CutStation
from zinnet.ui.stations.nest import NestStation
from zinnet.ui.stations.split import SplitStation
from zinnet.ui.tags import STATIONS
from zinnet.ui.theme import NIGHT, use_theme
from zinnet.ui.window import MainWindow
from zinnet.workshop.store import WorkshopStore

SIZE = (1280, 800)
MOST_LOOKS = 200
MOST_WAIT_S = 60.0
TICKED = 9
CUT_SHARE = 0.4
TRIED: tuple[Outcome, ...] = ("not through", "tears", "carrier marked")


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
    """Save pictures of the other demos: all sizes, and the bench where a piece is laid."""
    saved = []
    with _shown_window() as window:
        session = window.session

        def save(name: str) -> None:
            saved.append(_save(window, folder / f"{name}.png"))

        session.show_document(demo_document(name="hoodies"))
        window.show_page("sizes")
        save("sizes")
        session.show_document(demo_document())
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
    """Save pictures of small detail, and of the weeding at the bench."""
    saved = []
    with _shown_window() as window:
        split = cast(SplitStation, window.stations["split"])
        window.session.show_document(demo_document(name="hoodies"))
        window.go_to("split")
        split.show_page("detail")
        saved.append(_save(window, folder / "split-detail.png"))
        window.session.show_document(demo_document())
        window.enter_bench()
        for _ in range(TICKED):
            weeding = window.weed_bench.weeding
            if weeding is not None:
                weeding.tick_next()
        saved.append(_save(window, folder / "weed.png"))
    return saved


def picture_cuts(folder: Path) -> list[Path]:
    """Save pictures of cutting: a scrap to load, the cutter at work, test cuts, and the bench."""
    saved = []
    with _shown_window() as window, TemporaryDirectory() as books:
        session, cut = window.session, cast(CutStation, window.stations["cut"])
        control, trial = cut.control, cast(TrialPage, cut.pages["trial"])
        window.open_demo("shelf")
        _wait(lambda: bool(session.workshop.stock) and not session.background.is_busy)
        window.go_to("cut")
        _wait(lambda: control.load is not None and control.sheet_of(control.load) is not None)
        saved.append(_save(window, folder / "cut.png"))
        window.enter_bench()
        saved.append(_save(window, folder / "cut-bench.png"))
        window.leave_bench()
        session.use_store(WorkshopStore(Path(books) / "workshop.sqlite"))
        session.show_document(demo_document())
        window.go_to("cut")
        _wait(lambda: control.load is not None and control.sheet_of(control.load) is not None)
        cut.show_page("trial")
        for tries, outcome in enumerate(TRIED, start=1):
            trial.say(outcome)
            _wait(partial(_has_tests, session, tries))
        saved.append(_save(window, folder / "cut-test.png"))
        cut.show_page("cutter")
        control.say_loaded()
        control.send()
        _wait(lambda: control.run is not None and control.run.sending.share > CUT_SHARE)
        control.pause()
        _wait(lambda: control.run is not None and control.run.sending.state == "paused")
        saved.append(_save(window, folder / "cut-cutter.png"))
    return saved


def _has_tests(session: Session, count: int) -> bool:
    return len(session.workshop.tests) == count and not session.background.is_busy


def main(folder: Path) -> None:
    """Draw all pictures of the README."""
    picture_stations(folder, demo_document())
    picture_fits(folder)
    picture_artworks(folder)
    picture_layers(folder)
    picture_nests(folder)
    picture_cuts(folder)
    with _shown_window() as window:
        _save(window, folder / "welcome.png")


if __name__ == "__main__":
    main(Path(sys.argv[1]))
