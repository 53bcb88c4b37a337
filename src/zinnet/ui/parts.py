"""The parts of the window that are made when they are first shown: stations, whole pages, and benches."""

from collections.abc import Callable, Mapping

from PySide6.QtWidgets import QWidget

from zinnet.ui.bench import Bench
from zinnet.ui.compare_view import CompareView
from zinnet.ui.cut.bench import CutBench
from zinnet.ui.cut.control import CutterControl
from zinnet.ui.guide_page import GuidePage
from zinnet.ui.names.page import NamesPage
from zinnet.ui.order.page import OrderPage
from zinnet.ui.photo.page import PhotoPage
from zinnet.ui.press.bench import PressBench
from zinnet.ui.press.control import PressControl
from zinnet.ui.session import Session
from zinnet.ui.sizes_view import SizesView
from zinnet.ui.stations.artwork import ArtworkStation
from zinnet.ui.stations.cut import CutStation
from zinnet.ui.stations.fit import FitStation
from zinnet.ui.stations.log import LogStation
from zinnet.ui.stations.measure import MeasureStation
from zinnet.ui.stations.nest import NestStation
from zinnet.ui.stations.press import PressStation
from zinnet.ui.stations.split import SplitStation
from zinnet.ui.table import TableView
from zinnet.ui.weed_bench import WeedBench

type AnyBench = Bench | WeedBench | CutBench | PressBench
type Makers[Made] = Mapping[str, Callable[[], Made]]


def station_makers(
    session: Session, cutter: CutterControl, press: PressControl, go_to: Callable[[str], None]
) -> Makers[TableView]:
    """Return what makes each station."""

    def log() -> LogStation:
        station = LogStation(session)
        station.entries.opened.connect(lambda: go_to("fit"))
        return station

    return {
        "measure": lambda: MeasureStation(session),
        "artwork": lambda: ArtworkStation(session),
        "fit": lambda: FitStation(session),
        "split": lambda: SplitStation(session),
        "nest": lambda: NestStation(session),
        "cut": lambda: CutStation(session, cutter),
        "press": lambda: PressStation(session, press),
        "log": log,
    }


def page_makers(session: Session, show_size: Callable[[str], None], leave_guide: Callable[[], None]) -> Makers[QWidget]:
    """Return what makes each page that covers the whole table."""

    def sizes() -> SizesView:
        page = SizesView(session)
        page.opened.connect(show_size)
        return page

    def guide() -> GuidePage:
        page = GuidePage()
        page.left.connect(leave_guide)
        return page

    return {
        "sizes": sizes,
        "names": lambda: NamesPage(session),
        "order": lambda: OrderPage(session),
        "compare": lambda: CompareView(session),
        "photo": lambda: PhotoPage(session),
        "guide": guide,
    }


def bench_makers(
    session: Session, cutter: CutterControl, press: PressControl, leave: Callable[[], None]
) -> Makers[QWidget]:
    """Return what makes each bench."""

    def watched(bench: AnyBench) -> AnyBench:
        bench.left.connect(leave)
        return bench

    return {
        "lay": lambda: watched(Bench(session)),
        "weed": lambda: watched(WeedBench(session)),
        "cut": lambda: watched(CutBench(cutter)),
        "press": lambda: watched(PressBench(press)),
    }
