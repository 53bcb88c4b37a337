"""What comes out of a layer in weeding, in numbers; which layer is looked at, and from which side."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QCheckBox, QComboBox, QFrame, QProgressBar, QPushButton, QVBoxLayout

from zinnet.base.words import shown_source
from zinnet.job.edits import tick_weeded
from zinnet.layers.weeding import Island, WeedMap, weed_summary
from zinnet.ui.aside import Aside
from zinnet.ui.films import film_chip
from zinnet.ui.language import tr
from zinnet.ui.plain import Label
from zinnet.ui.split.weed import WeedState
from zinnet.ui.theme import PLAIN, SMALL, font

if TYPE_CHECKING:
    from zinnet.layers.stack import FilmLayer
    from zinnet.ui.session import Session

CAUTION = (
    "Hooks and blades point away from the other hand; loose bits are picked up before a child or the press is near."
)


class Weeding:
    """The weeding of one layer of the selected design: its map, and what is out."""

    def __init__(self, session: "Session", row: "FilmLayer", found: WeedMap) -> None:
        design = session.selection.composed
        assert design is not None
        assert design.stack is not None
        assert design.split is not None
        self.session, self.row, self.index = session, row, design.index
        self.width_mm = design.split.width_mm
        self.map = found
        self.spots = session.job.weeded_spots(design.index, row.key)
        self.state = WeedState.of(self.map, self.spots, self.width_mm)

    def tick(self, island: Island) -> None:
        """Tick an island off, or take the tick back."""
        x, y = island.at
        spot = (x / self.width_mm, y / self.width_mm)
        if island.number in self.state.out:
            kept = WeedState.of(self.map, (spot,), self.width_mm).out
            spots = tuple(one for one in self.spots if not WeedState.of(self.map, (one,), self.width_mm).out & kept)
        else:
            spots = (*self.spots, spot)
        self._keep(spots)

    def tick_next(self) -> None:
        """Tick off the island that is looked at."""
        number = self.state.current
        if number is not None:
            self.tick(self.map.islands[number - 1])

    def take_back(self) -> None:
        """Take back the last tick."""
        self._keep(self.spots[:-1])

    def begin_anew(self) -> None:
        """Take back all ticks: the next piece lies on the table."""
        self._keep(())

    def _keep(self, spots: tuple[tuple[float, float], ...]) -> None:
        if spots != self.spots:
            self.session.apply(tick_weeded(self.index, self.row.key, spots))


class WeedMaps(QObject):
    """Weed maps, worked out beside the window when they are looked at."""

    found = Signal()

    def __init__(self, session: "Session", parent: QObject) -> None:
        super().__init__(parent)
        self._session = session
        self._aside = Aside(session, self)
        self._known: tuple[FilmLayer, WeedMap] | None = None

    @property
    def is_waiting(self) -> bool:
        """Whether a map is being worked out."""
        return self._aside.is_waiting

    def weeding(self, row: "FilmLayer") -> Weeding | None:
        """Return the weeding of a layer of the selected design; None until its map is worked out."""
        design = self._session.selection.composed
        if design is None:
            return None
        if self._known is None or self._known[0] is not row:
            self._aside.ask(row, lambda: design.weeds(row), lambda made: self._take(row, made))
        return Weeding(self._session, *self._known) if self._known is not None and self._known[0] is row else None

    def _take(self, row: "FilmLayer", made: WeedMap) -> None:
        self._known = row, made
        if self._session.beside:
            self.found.emit()


class WeedPanel(QFrame):
    """The layer that is weeded, in numbers."""

    turned = Signal()

    def __init__(self, session: "Session") -> None:
        super().__init__()
        self.session = session
        self.maps = WeedMaps(session, self)
        self.maps.found.connect(self.turned)
        self.setObjectName("weed-panel")
        self.setProperty("card", "plain")
        self.layer = QComboBox()
        self.layer.setAccessibleName(tr("The layer that is weeded"))
        self.layer.setToolTip(tr("The layer that is weeded"))
        self.layer.currentIndexChanged.connect(lambda: self.turned.emit())
        self.back = QCheckBox(tr("Seen from the back, as it was cut"))
        self.back.setToolTip(tr("Show the layer as it lies on the mat, from the side of the blade (B)"))
        self.back.toggled.connect(lambda: self.turned.emit())
        self.said, self.time, self.legend = Label(), Label(), Label()
        self.said.setFont(font(PLAIN, bold=True))
        self.legend.setText(
            "Numbers give the order: open waste first, then counters towards the open edge, what touches small parts "
            "last. Green edges stay. Dashed lines are weed lines. Click waste to tick it off, or press the space "
            f"bar.\n\n{CAUTION}"
        )
        self.progress = QProgressBar()
        self.progress.setAccessibleName(tr("How much is out"))
        self.progress.setTextVisible(True)
        self.progress.setFormat("%v of %m out")
        self.anew = QPushButton(tr("Next piece: begin anew"))
        self.anew.setToolTip(tr("Take back all ticks of this layer"))
        self.anew.clicked.connect(self._begin_anew)
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 10, 12, 10)
        column.setSpacing(8)
        for widget in (self.layer, self.back, self.said, self.progress, self.time, self.anew, self.legend):
            column.addWidget(widget)
        for label in (self.said, self.time, self.legend):
            label.setWordWrap(True)
        for label in (self.time, self.legend):
            label.setFont(font(SMALL))
            label.setProperty("quiet", True)
        column.addStretch(1)

    def weeding(self) -> Weeding | None:
        """Return the weeding of the layer that is chosen."""
        stack = self.session.selection.stack
        if stack is None or not stack.layers:
            return None
        rows = stack.in_press_order
        return self.maps.weeding(rows[min(max(self.layer.currentIndex(), 0), len(rows) - 1)])

    def follow(self) -> None:
        """Show the plan."""
        if not self.isVisible():
            return
        stack = self.session.selection.stack
        rows = stack.in_press_order if stack is not None else ()
        self.layer.blockSignals(True)
        keep = max(0, min(self.layer.currentIndex(), len(rows) - 1))
        self.layer.clear()
        for row in rows:
            name = f"Layer {row.layer.order} · {row.film.name if row.film else 'no film'}"
            if row.film is not None:
                self.layer.addItem(film_chip(row.film), name)
            else:
                self.layer.addItem(name)
        self.layer.setCurrentIndex(keep)
        self.layer.blockSignals(False)
        weeding = self.weeding()
        if weeding is None:
            return
        self.said.setText(weed_summary(weeding.map) + ".")
        self.time.setText(f"Based on {shown_source(weeding.map.basis)}.")
        self.progress.setMaximum(len(weeding.map.islands))
        self.progress.setValue(len(weeding.state.out))

    def _begin_anew(self) -> None:
        weeding = self.weeding()
        if weeding is not None:
            weeding.begin_anew()
