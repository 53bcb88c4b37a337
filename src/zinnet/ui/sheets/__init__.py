"""The few properties of what is on the table, below the findings: one small sheet per station."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QScrollArea, QStackedWidget, QVBoxLayout, QWidget

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

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.blank = BlankSheet(session)
        self.cut = CutSheet(session)
        self.sheets: dict[str, PropertySheet] = {
            "measure": self.blank,
            "artwork": ArtworkSheet(session),
            "fit": PlacementSheet(session),
            "split": LayersSheet(session),
            "nest": NestSheet(session),
            "cut": self.cut,
            "press": PressSheet(session),
            "log": LogSheet(session),
        }
        for sheet in self.sheets.values():
            self.addWidget(_scrolled(sheet))
            sheet.follow()
        session.plan_changed.connect(self.follow)

    def show_station(self, station: str) -> None:
        """Show the sheet of a station, as high as it asks for."""
        self.setCurrentIndex(list(self.sheets).index(station))
        self.follow()

    def follow(self) -> None:
        """Let the sheet that is shown show the plan, and be as high as it asks for."""
        sheet = list(self.sheets.values())[self.currentIndex()]
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
