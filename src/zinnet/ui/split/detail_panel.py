"""The places that films can't hold as a list, each with its measure, and what mends it."""

from dataclasses import replace
from typing import TYPE_CHECKING

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QFrame, QGridLayout, QListWidget, QListWidgetItem, QPushButton, QVBoxLayout

from zinnet.job.edits import Edit, mends_of
from zinnet.layers.detail import Detail, details
from zinnet.ui.aside import Aside
from zinnet.ui.language import tr
from zinnet.ui.plain import Label, plain
from zinnet.ui.theme import PLAIN, SMALL, font

if TYPE_CHECKING:
    from zinnet.layers.stack import FilmLayer
    from zinnet.ui.session import Session

MOST_SHOWN = 300
POINT_MM = 0.05


def _measured(detail: Detail) -> str:
    """Return a width in words: a crevice narrows down to nothing."""
    return "narrowing to a point" if detail.measured_mm < POINT_MM else f"{detail.measured_mm:.2f} mm"


class DetailPanel(QFrame):
    """A list of places; the chosen one can be mended."""

    chosen = Signal(int)

    def __init__(self, session: "Session") -> None:
        super().__init__()
        self.session = session
        self.setObjectName("detail-panel")
        self.setProperty("card", "plain")
        self.found: list[tuple[FilmLayer, Detail]] = []
        self._shown_for: object = None
        self._aside = Aside(session, self)
        self.head = Label()
        self.head.setFont(font(PLAIN, bold=True))
        self.head.setWordWrap(True)
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Places that the films can't hold"))
        self.list.setFont(font(PLAIN))
        self.list.setSpacing(1)
        self.list.currentRowChanged.connect(self._choose)
        self.buttons = {
            "thicken": self._button(
                "thicken", "Thicken here", "Make the strokes of this part as wide as the film holds"
            ),
            "widen": self._button("widen", "Widen the gap", "Cut the gap as wide as the film can be weeded out of"),
            "enlarge": self._button("enlarge", "Enlarge", "Make this small part as large as stays on in weeding"),
            "bridge": self._button("bridge", "Bridge", "Join this small part to its neighbour with a bridge"),
            "fill": self._button("fill", "Fill", "Fill counters as small as this one"),
            "drop": self._button("drop", "Drop", "Leave this part out"),
        }
        grid = QGridLayout()
        grid.setSpacing(6)
        for index, button in enumerate(self.buttons.values()):
            grid.addWidget(button, index // 2, index % 2)
        self.note = Label(tr("Limits are typical, unsourced: the maker's sheet and your own test cut win."))
        self.note.setFont(font(SMALL))
        self.note.setProperty("quiet", True)
        self.note.setWordWrap(True)
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 10, 12, 10)
        column.addWidget(self.head)
        column.addWidget(self.list, 1)
        column.addLayout(grid)
        column.addWidget(self.note)

    def _button(self, name: str, said: str, tip: str) -> QPushButton:
        button = QPushButton(said)
        button.setToolTip(plain(tip))
        button.clicked.connect(lambda checked=False: self._mend(name))
        return button

    def _mend(self, name: str) -> None:
        edit = self.mends(self.list.currentRow()).get(name)
        if edit is not None:
            self.session.apply_later(edit)

    def follow(self) -> None:
        """Show the places of the plan; they are looked for when the panel is seen."""
        if not self.isVisible():
            return
        stack = self.session.selection.stack
        if stack is self._shown_for:
            return
        self._shown_for = stack
        rows = stack.in_press_order if stack is not None else ()
        self.list.setEnabled(False)
        self.head.setText(tr("Looking for small detail ..."))
        self._aside.ask(stack, lambda: [(row, detail) for row in rows for detail in details(row)], self._show)

    def _show(self, found: list[tuple["FilmLayer", Detail]]) -> None:
        self.found = found[:MOST_SHOWN]
        self.list.setEnabled(True)
        keep = max(0, min(self.list.currentRow(), len(self.found) - 1))
        self.list.blockSignals(True)
        self.list.clear()
        for index, (row, detail) in enumerate(self.found, start=1):
            item = QListWidgetItem(f"{index}  {detail.kind} {_measured(detail)}, layer {row.layer.order}")
            assert row.film is not None
            item.setToolTip(plain(f"{row.film.name} holds a {detail.kind} of {detail.limit_mm:g} mm"))
            self.list.addItem(item)
        self.list.blockSignals(False)
        self.list.setCurrentRow(keep if self.found else -1)
        self._choose(self.list.currentRow())

    def _choose(self, index: int) -> None:
        count = len(self.found)
        self.head.setText("Everything holds." if not count else f"{count} place" + ("s" if count > 1 else ""))
        mends = self.mends(index)
        for name, button in self.buttons.items():
            button.setVisible(name in mends)
        if 0 <= index < count:
            row, detail = self.found[index]
            assert row.film is not None
            self.head.setText(
                f"{count} place{'s' if count > 1 else ''} · {row.film.name} holds {detail.limit_mm:g} mm, "
                f"here it is {_measured(detail)}"
            )
        self.chosen.emit(index)

    def mends(self, index: int) -> dict[str, Edit]:
        """Return what mends a place, by button."""
        design = self.session.selection.composed
        if not 0 <= index < len(self.found) or design is None or design.split is None:
            return {}
        row, detail = self.found[index]
        member, there = design.of_member(detail.region)
        if member.split is None:
            return {}
        return mends_of(row, replace(detail, region=there), width_mm=member.split.width_mm, design=member.index)
