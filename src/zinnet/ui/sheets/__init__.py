"""The few properties of what is on the table, below the findings: one small sheet per station."""

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QScrollArea, QStackedWidget, QVBoxLayout, QWidget

from zinnet.ui.lazy import LazyWidgets
from zinnet.ui.session import Session
from zinnet.ui.sheets.artwork import ArtworkSheet
from zinnet.ui.sheets.base import PropertySheet
from zinnet.ui.sheets.blank import BlankSheet
from zinnet.ui.sheets.cut import CutSheet
from zinnet.ui.sheets.layers import LayersSheet
from zinnet.ui.sheets.log import LogSheet
from zinnet.ui.sheets.nest import NestSheet
from zinnet.ui.sheets.placement import PlacementSheet
from zinnet.ui.sheets.press import PressSheet


class Properties(QStackedWidget):
    """The sheet of the station that is on the table."""

    def __init__(self, session: Session, write_cut_files: Callable[[], None]) -> None:
        super().__init__()

        def cut() -> CutSheet:
            sheet = CutSheet(session)
            sheet.write.clicked.connect(write_cut_files)
            return sheet

        makers: dict[str, Callable[[], PropertySheet]] = {
            "measure": lambda: BlankSheet(session),
            "artwork": lambda: ArtworkSheet(session),
            "fit": lambda: PlacementSheet(session),
            "split": lambda: LayersSheet(session),
            "nest": lambda: NestSheet(session),
            "cut": cut,
            "press": lambda: PressSheet(session),
            "log": lambda: LogSheet(session),
        }
        self._areas: dict[PropertySheet, QScrollArea] = {}
        self._shown: PropertySheet | None = None
        self.sheets: LazyWidgets[PropertySheet] = LazyWidgets(self._put, makers)
        session.plan_changed.connect(self.follow)

    def _put(self, sheet: PropertySheet) -> None:
        self._areas[sheet] = _scrolled(sheet)
        self.addWidget(self._areas[sheet])
        sheet.follow()

    def show_station(self, station: str) -> None:
        """Show the sheet of a station, as high as it asks for."""
        self._shown = self.sheets[station]
        self.setCurrentWidget(self._areas[self._shown])
        self.follow()

    def follow(self) -> None:
        """Let the sheet that is shown show the plan, and be as high as it asks for."""
        sheet = self._shown
        if sheet is None:
            return
        sheet.follow()
        column = sheet.layout()
        if column is not None:
            column.activate()
        self.setFixedHeight(min(sheet.sizeHint().height() + 4, MOST_HEIGHT))


MOST_HEIGHT = 470


def _scrolled(sheet: QWidget) -> QScrollArea:
    area = QScrollArea()
    area.setWidgetResizable(True)
    area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    holder = QWidget()
    holder.setObjectName("holder")
    holder.setStyleSheet("QWidget#holder { background: transparent }")
    column = QVBoxLayout(holder)
    column.setContentsMargins(0, 0, 6, 0)
    column.addWidget(sheet)
    area.setWidget(holder)
    area.viewport().setAutoFillBackground(False)
    return area
