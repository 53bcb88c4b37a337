"""The few properties of what is on the table, below the findings: one small sheet per station."""

from collections.abc import Callable
from importlib import import_module
from typing import TYPE_CHECKING, Any, cast

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QScrollArea, QStackedWidget, QVBoxLayout, QWidget

from zinnet.ui.in_turn import InTurn
from zinnet.ui.lazy import LazyWidgets

if TYPE_CHECKING:
    from zinnet.ui.session import Session
    from zinnet.ui.sheets.base import PropertySheet

SHEETS = {
    "measure": ("blank", "BlankSheet"),
    "artwork": ("artwork", "ArtworkSheet"),
    "fit": ("placement", "PlacementSheet"),
    "split": ("layers", "LayersSheet"),
    "nest": ("nest", "NestSheet"),
    "cut": ("cut", "CutSheet"),
    "press": ("press", "PressSheet"),
    "log": ("log", "LogSheet"),
}
"""Module and class of each station's sheet; it is imported when it is made."""


class Properties(QStackedWidget):
    """The sheet of the station that is on the table."""

    def __init__(self, session: "Session", write_cut_files: Callable[[], None]) -> None:
        super().__init__()
        self._session = session

        def maker(station: str) -> Callable[[], "PropertySheet"]:
            module, name = SHEETS[station]

            def make() -> "PropertySheet":
                sheet: Any = getattr(import_module(f"zinnet.ui.sheets.{module}"), name)(session)
                if station == "cut":
                    sheet.write.clicked.connect(write_cut_files)
                return cast("PropertySheet", sheet)

            return make

        self._areas: dict[PropertySheet, QScrollArea] = {}
        self._shown: PropertySheet | None = None
        self.sheets: LazyWidgets[PropertySheet] = LazyWidgets(self._put, {one: maker(one) for one in SHEETS})
        InTurn(session, self.follow, self)
        session.selection.pictured.connect(self.follow)

    def _put(self, sheet: "PropertySheet") -> None:
        self._areas[sheet] = _scrolled(sheet)
        self.addWidget(self._areas[sheet])
        sheet.follow()

    def show_station(self, station: str) -> None:
        """Show the sheet of a station, as high as it asks for."""
        if self._shown is self.sheets[station]:
            return
        self._shown = self.sheets[station]
        self.setCurrentWidget(self._areas[self._shown])
        self.follow()

    def follow(self) -> None:
        """Let the sheet that is shown show the plan, and be as high as it asks for."""
        sheet = self._shown
        if sheet is None:
            return
        with self._session.kept_stages():
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
    holder.setProperty("holder", True)
    column = QVBoxLayout(holder)
    column.setContentsMargins(0, 0, 6, 0)
    column.addWidget(sheet)
    area.setWidget(holder)
    area.viewport().setAutoFillBackground(False)
    return area
