"""The parts of the window that are made when they are first shown: stations, whole pages, and benches.

Each is imported where it is made: the window is up before most of them are asked for.
"""

from collections.abc import Callable, Mapping
from importlib import import_module
from typing import TYPE_CHECKING, Any, Protocol

from PySide6.QtWidgets import QWidget

if TYPE_CHECKING:
    from zinnet.ui.apart_bench import ApartBench
    from zinnet.ui.bench import Bench
    from zinnet.ui.cut.bench import CutBench
    from zinnet.ui.cut.control import CutterControl
    from zinnet.ui.measure_bench import MeasureBench
    from zinnet.ui.press.bench import PressBench
    from zinnet.ui.press.control import PressControl
    from zinnet.ui.session import Session
    from zinnet.ui.table import TableView
    from zinnet.ui.weed_bench import WeedBench

    type AnyBench = Bench | MeasureBench | WeedBench | ApartBench | CutBench | PressBench


class Controls(Protocol):
    """What the pages of Cut share, and those of Press; each is made when it is first asked for."""

    @property
    def cutter(self) -> "CutterControl":
        """The cutter as the window sees it."""

    @property
    def press(self) -> "PressControl":
        """Pressing as the window sees it."""


type Makers[Made] = Mapping[str, Callable[[], Made]]


def _made(module: str, name: str, *given: Any) -> Any:
    """Return a widget of a class that is imported now."""
    return getattr(import_module(f"zinnet.ui.{module}"), name)(*given)


def station_makers(session: "Session", controls: "Controls", go_to: Callable[[str], None]) -> Makers["TableView"]:
    """Return what makes each station."""

    def log() -> Any:
        station = _made("stations.log", "LogStation", session)
        station.entries.opened.connect(lambda: go_to("fit"))
        return station

    return {
        "measure": lambda: _made("stations.measure", "MeasureStation", session),
        "artwork": lambda: _made("stations.artwork", "ArtworkStation", session),
        "fit": lambda: _made("stations.fit", "FitStation", session),
        "split": lambda: _made("stations.split", "SplitStation", session),
        "nest": lambda: _made("stations.nest", "NestStation", session),
        "cut": lambda: _made("stations.cut", "CutStation", session, controls.cutter),
        "press": lambda: _made("stations.press", "PressStation", session, controls.press),
        "log": log,
    }


def page_makers(
    session: "Session",
    show_size: Callable[[str], None],
    leave_guide: Callable[[], None],
    show_card: Callable[[], None],
) -> Makers[QWidget]:
    """Return what makes each page that covers the whole table."""

    def sizes() -> Any:
        page = _made("sizes_view", "SizesView", session)
        page.opened.connect(show_size)
        return page

    def order() -> Any:
        page = _made("order.page", "OrderPage", session)
        page.card_asked.connect(show_card)
        return page

    def guide() -> Any:
        page = _made("guide_page", "GuidePage")
        page.left.connect(leave_guide)
        return page

    return {
        "sizes": sizes,
        "names": lambda: _made("names.page", "NamesPage", session),
        "order": order,
        "compare": lambda: _made("compare_view", "CompareView", session),
        "photo": lambda: _made("photo.page", "PhotoPage", session),
        "guide": guide,
    }


def bench_makers(session: "Session", controls: "Controls", leave: Callable[[], None]) -> Makers[QWidget]:
    """Return what makes each bench."""

    def watched(bench: "AnyBench") -> "AnyBench":
        bench.left.connect(leave)
        return bench

    return {
        "lay": lambda: watched(_made("bench", "Bench", session)),
        "weed": lambda: watched(_made("weed_bench", "WeedBench", session)),
        "measure": lambda: watched(_made("measure_bench", "MeasureBench", session)),
        "apart": lambda: watched(_made("apart_bench", "ApartBench", session)),
        "cut": lambda: watched(_made("cut.bench", "CutBench", controls.cutter)),
        "press": lambda: watched(_made("press.bench", "PressBench", controls.press)),
    }
