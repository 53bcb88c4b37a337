"""Changes that carry an answer out, one below the other, each to be taken with a button."""

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QGridLayout, QPushButton, QWidget

from zinnet.bench.ways_out import WayOut
from zinnet.ui.language import tr
from zinnet.ui.plain import Label, plain


class OfferList(QWidget):
    """The changes, and a signal for the one that is taken."""

    taken = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        self.buttons: list[QPushButton] = []
        self._shown: tuple[WayOut, ...] = ()
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 2, 0, 0)
        self._grid.setHorizontalSpacing(10)
        self._grid.setColumnStretch(1, 1)

    def show_offers(self, offers: tuple[WayOut, ...], *, enabled: bool) -> None:
        """Show these changes; none of them can be taken while it is not enabled."""
        if offers != self._shown:
            self._shown = offers
            self._fill()
        for button in self.buttons:
            button.setEnabled(enabled)

    def _fill(self) -> None:
        while self._grid.count():
            item = self._grid.takeAt(0)
            widget = item.widget() if item is not None else None
            if widget is not None:
                widget.deleteLater()
        self.buttons = [self._row(place, way) for place, way in enumerate(self._shown)]

    def _row(self, place: int, way: WayOut) -> QPushButton:
        name = way.edit.name[:1].upper() + way.edit.name[1:]
        button = QPushButton(tr("Take it"))
        button.setAccessibleName(plain(f"{tr('Take it')}: {name}"))
        button.setToolTip(tr("Nested first, and done where it holds; undo takes it back"))
        button.clicked.connect(lambda checked=False: self.taken.emit(way))
        said = Label("; ".join((name, *way.said)))
        said.setWordWrap(True)
        self._grid.addWidget(button, place, 0, Qt.AlignmentFlag.AlignTop)
        self._grid.addWidget(said, place, 1)
        return button
