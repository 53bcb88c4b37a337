"""Pictures of the real window with the demo in it, for the README and where there is no display."""

import os
import sys
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import TYPE_CHECKING, cast

import platformdirs
from PySide6.QtCore import QSettings
from PySide6.QtWidgets import QApplication

from zinnet.demo import demo_document
from zinnet.demo.shelf import demo_store
from zinnet.job.edits import set_pressing
from zinnet.ui.application import make_application
from zinnet.ui.bench import Bench
from zinnet.ui.nest.apart_page import ApartPage
from zinnet.ui.order.page import OrderPage
from zinnet.ui.press.bench import PressBench
from zinnet.ui.press.places_page import PlacesPage
from zinnet.ui.session import Session
from zinnet.ui.stations.cut import CutStation
from zinnet.ui.stations.nest import NestStation
from zinnet.ui.stations.press import PressStation
from zinnet.ui.tags import STATIONS
from zinnet.ui.theme import NIGHT, use_theme
from zinnet.ui.weed_bench import WeedBench
from zinnet.ui.window import MainWindow

if TYPE_CHECKING:
    from zinnet.bench.document import Document

SIZE = (1280, 800)
MOST_LOOKS = 200
MOST_WAIT_S = 60.0
TICKED = 9
CUT_SHARE = 0.4
PICTURED_STEP = 12
XDG = ("XDG_STATE_HOME", "XDG_CONFIG_HOME", "XDG_DATA_HOME")


@contextmanager
def _own_folders(private: Path) -> Iterator[None]:
    """Keep what the user has of jobs, settings and books out of the pictures."""
    before = {name: os.environ.get(name) for name in XDG}
    os.environ.update({name: str(private / name.lower()) for name in XDG})
    try:
        yield
    finally:
        for name, value in before.items():
            os.environ.pop(name)
            if value is not None:
                os.environ[name] = value


@contextmanager
def _shown_window() -> Iterator[MainWindow]:
    """Show a window whose copies, settings and books are its own, the demo's, and close its session at the end."""
    make_application()
    use_theme(NIGHT)
    with TemporaryDirectory() as private, _own_folders(Path(private)):
        demo_store(platformdirs.user_data_path("zinnet"))
        session = Session(Path(private))
        window = MainWindow(session, QSettings(f"{private}/settings.ini", QSettings.Format.IniFormat))
        window.resize(*SIZE)
        window.show()
        session.read_settings()
        _wait(lambda: not session.background.is_busy)
        try:
            yield window
        finally:
            session.close()


def picture_stations(folder: Path, document: "Document") -> list[Path]:
    """Open the document in the window and save one picture per station."""
    folder.mkdir(parents=True, exist_ok=True)
    saved = []
    with _shown_window() as window:
        window.session.show_document(document)
        for station, _ in STATIONS:
            window.go_to(station)
            if station == "press":
                cast(PressStation, window.stations["press"]).control.look_at_step(PICTURED_STEP)
            saved.append(_save(window, folder / f"{station}.png"))
    return saved


def _save(window: MainWindow, path: Path) -> Path:
    """Save the window once it has settled: what takes long is drawn a part at a time."""
    before = None
    _wait(lambda: not window.session.background.is_busy and not window.findings.offers.is_working)
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
        cast(Bench, window.benches["lay"]).show_readings(right_mm=6.0, down_mm=-3.0, turn_deg=1.2)
        save("bench")
    return saved


def picture_nests(folder: Path) -> list[Path]:
    """Save a picture of layers that are cut apart, once every way was nested."""
    with _shown_window() as window:
        window.session.show_document(demo_document(name="stewards"))
        window.go_to("nest")
        station = cast(NestStation, window.stations["nest"])
        station.show_page("apart")
        page = cast(ApartPage, station.pages["apart"])
        _wait(lambda: bool(page.ways) and not window.session.background.is_busy)
        page.films.setCurrentIndex(max(range(len(page.ways)), key=lambda k: page.ways[k].chosen))
        _wait(lambda: not page.is_nesting)
        return [_save(window, folder / "nest-apart.png")]


def _wait(is_ready: Callable[[], bool]) -> None:
    """Let the window work until it is ready."""
    deadline = time.monotonic() + MOST_WAIT_S
    while not is_ready() and time.monotonic() < deadline:
        QApplication.processEvents()
        time.sleep(0.01)


def picture_layers(folder: Path) -> list[Path]:
    """Save a picture of the weeding at the bench."""
    with _shown_window() as window:
        window.session.show_document(demo_document())
        window.go_to("split")
        window.enter_bench()
        for _ in range(TICKED):
            weeding = cast(WeedBench, window.benches["weed"]).weeding
            if weeding is not None:
                weeding.tick_next()
        return [_save(window, folder / "weed.png")]


def picture_cuts(folder: Path) -> list[Path]:
    """Save pictures of cutting: a scrap to load, and the cutter at work."""
    saved = []
    with _shown_window() as window:
        session, cut = window.session, cast(CutStation, window.stations["cut"])
        control = cut.control
        window.files.open_demo("shelf")
        _wait(lambda: bool(session.workshop.stock) and not session.background.is_busy)
        window.go_to("cut")
        _wait(lambda: control.load is not None and control.sheet_of(control.load) is not None)
        saved.append(_save(window, folder / "cut.png"))
        session.show_document(demo_document())
        _wait(lambda: control.load is not None and control.sheet_of(control.load) is not None)
        cut.show_page("cutter")
        control.say_loaded()
        control.send()
        _wait(lambda: control.run is not None and control.run.sending.share > CUT_SHARE)
        control.pause()
        _wait(lambda: control.run is not None and control.run.sending.state == "paused")
        saved.append(_save(window, folder / "cut-cutter.png"))
    return saved


def picture_presses(folder: Path) -> list[Path]:
    """Save pictures of pressing: positions, the timeline, and a card of the bench."""
    saved = []
    with _shown_window() as window:
        session, press = window.session, cast(PressStation, window.stations["press"])
        control, places = press.control, cast(PlacesPage, press.pages["places"])
        window.go_to("press")

        def save(name: str) -> None:
            saved.append(_save(window, folder / f"press-{name}.png"))

        session.show_document(demo_document(name="blanket"))
        press.show_page("places")
        places.choose(1)
        save("positions")
        session.show_document(demo_document(name="hoodies"))
        session.apply(set_pressing("two at the press", people=2))
        press.show_page("timeline")
        _wait(lambda: control.schedule is not None and not control.is_planning)
        save("timeline")
        session.document.saved = session.job
        session.show_document(demo_document())
        window.enter_bench()
        _to_card(cast(PressBench, window.benches["press"]), "preheat")
        cast(PressBench, window.benches["press"]).go_on()
        if control.run is not None:
            control.run.pause()
        save("bench")
    return saved


def picture_log(folder: Path) -> list[Path]:
    """Save pictures of the log: its entries."""
    with _shown_window() as window:
        window.files.open_demo()
        _wait(lambda: bool(window.session.workshop.made) and not window.session.background.is_busy)
        window.go_to("log")
        return [_save(window, folder / "log.png")]


def picture_names(folder: Path) -> list[Path]:
    """Save a picture of a list of names."""
    with _shown_window() as window:
        window.session.show_document(demo_document(name="names"))
        window.open_page("names")
        _wait(lambda: window.session.plan.is_nested and not window.session.is_working)
        return [_save(window, folder / "names.png")]


def picture_order(folder: Path) -> list[Path]:
    """Save a picture of an order, with what is on the demo's shelf."""
    with _shown_window() as window:
        window.files.open_demo("stewards")
        _wait(lambda: bool(window.session.workshop.garments) and not window.session.background.is_busy)
        window.open_page("order")
        page = cast(OrderPage, window.full_pages["order"])
        _wait(lambda: page.found is not None and page.found.priced is not None)
        return [_save(window, folder / "order.png")]


def _to_card(bench: PressBench, kind: str) -> None:
    """Let all timers ring until a card of a kind is due."""
    run = bench.control.run
    while run is not None and run.card is not None and run.card.step.kind != kind:
        if not run.confirm():
            run.end_early()


def main(folder: Path) -> None:
    """Draw all pictures of the README."""
    picture_stations(folder, demo_document())
    picture_fits(folder)
    picture_layers(folder)
    picture_nests(folder)
    picture_cuts(folder)
    picture_presses(folder)
    picture_names(folder)
    picture_order(folder)
    picture_log(folder)
    with _shown_window() as window:
        window.session.show_document(demo_document(name="stewards"))
        window.show_page("card")
        _save(window, folder / "job-card.png")


if __name__ == "__main__":
    main(Path(sys.argv[1]))
