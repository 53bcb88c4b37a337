"""The one way to choose a film: swatches with kind, match and shelf, the nearest first; it never chooses by itself."""

from collections.abc import Collection
from typing import TYPE_CHECKING

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QIcon, QResizeEvent
from PySide6.QtWidgets import (
    QAbstractItemView,
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QHBoxLayout,
    QHeaderView,
    QLineEdit,
    QPushButton,
    QSizePolicy,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)
from shiboken6 import isValid

from zinnet.films.catalogue import Film, kind_of
from zinnet.ui.films import CHIP, film_chip, match_said
from zinnet.ui.language import tr
from zinnet.ui.plain import Label, plain

if TYPE_CHECKING:
    from collections.abc import Mapping

    from zinnet.plan.film_offers import Enough, FilmOffer
    from zinnet.ui.session import Session

CHIP_PX = 28
SIZE = (660, 480)
LEAST_PX = 90
AROUND_PX = 36
"""What a button has beside its text: its border, its padding, the room after its swatch."""
COLUMNS = ("Film", "Kind", "Match", "On the shelf", "For this job")
ENOUGH = {"enough": "enough", "tight": "may be too little", "short": "too little", "none": "none there"}
WHY = {
    "enough": "All pieces find room on the shelf in plain rows, with what other layers take of it",
    "tight": "There is as much film as the pieces have; only a nest can tell whether they find room",
    "short": "The pieces alone have more film than is on the shelf",
    "none": "There is none on the shelf",
}


class FilmPicker(QDialog):
    """A list of films; :attr:`chosen` is the one that was taken."""

    def __init__(
        self,
        parent: QWidget,
        session: "Session",
        *,
        title: str,
        now: str | None = None,
        colour: str | None = None,
        colours: Collection[str] = (),
    ) -> None:
        super().__init__(parent)
        self.session, self._now, self._colour, self._colours = session, now, colour, colours
        self.chosen: str | None = None
        self.setWindowTitle(title)
        self.resize(*SIZE)
        self.offers = self._offered()
        self.search = QLineEdit()
        self.search.setPlaceholderText(tr("Find a film"))
        self.search.setAccessibleName(tr("Find a film"))
        self.search.setClearButtonEnabled(True)
        self.kind = QComboBox()
        self.kind.setAccessibleName(tr("Kind of film"))
        self.kind.addItem(tr("All kinds"), "")
        for name in dict.fromkeys(kind_of(offer.film).name for offer in self.offers):
            self.kind.addItem(name, name)
        self.there = QPushButton(tr("Only what is there"))
        self.there.setToolTip(tr("Only films that are on the shelf"))
        self.there.setCheckable(True)
        self.table = self._table()
        self.said = Label()
        self.said.setProperty("quiet", True)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Cancel)
        self.take = buttons.addButton(tr("Use this film"), QDialogButtonBox.ButtonRole.AcceptRole)
        self.take.setProperty("strong", True)
        self.new = buttons.addButton(tr("New film ..."), QDialogButtonBox.ButtonRole.ActionRole)
        self.new.clicked.connect(self._add)
        self.new.setToolTip(tr("Add a film of your own, with what its maker's sheet says"))
        top = QHBoxLayout()
        for widget in (self.search, self.kind, self.there):
            top.addWidget(widget, 1 if widget is self.search else 0)
        column = QVBoxLayout(self)
        column.addLayout(top)
        column.addWidget(self.table, 1)
        column.addWidget(self.said)
        column.addWidget(buttons)
        self.search.textChanged.connect(lambda text: self._filter())
        self.kind.currentIndexChanged.connect(lambda index: self._filter())
        self.there.toggled.connect(lambda on: self._filter())
        self.table.itemSelectionChanged.connect(self._follow)
        self.table.itemDoubleClicked.connect(lambda item: self.accept())
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        self._fill()

    def _offered(self) -> tuple["FilmOffer", ...]:
        from zinnet.plan.film_offers import film_offers

        return film_offers(self.session.workshop.films, self.session.workshop.stock, self._colour)

    def _ask_enough(self) -> None:
        """Work out beside the window whether the shelf has enough of each film."""
        from zinnet.plan.film_offers import enough_of

        plan, keys = self.session.plan, self._colours
        self.session.background.run(lambda: enough_of(plan, keys), self._show_enough, lambda refused: None)

    def _show_enough(self, found: "Mapping[str, Enough]") -> None:
        column = COLUMNS.index("For this job")
        for row, offer in enumerate(self.offers) if isValid(self) else ():
            enough = found.get(offer.film.id, "")
            item = QTableWidgetItem(ENOUGH.get(enough, ""))
            item.setToolTip(plain(WHY.get(enough, "")))
            self.table.setItem(row, column, item)

    def _add(self) -> None:
        """Ask for a film of one's own, and select it."""
        from zinnet.ui.own.film_form import FilmForm

        form = FilmForm(self, self.session.job.unit)
        if form.exec() and form.kept is not None:
            self.session.read_settings()
            self.offers, self._now = self._offered(), form.kept
            self.search.clear()
            self._fill()
        form.deleteLater()

    def _table(self) -> QTableWidget:
        table = QTableWidget(0, len(COLUMNS))
        table.setHorizontalHeaderLabels([tr(name) for name in COLUMNS])
        table.setAccessibleName(tr("Films"))
        table.verticalHeader().hide()
        table.setShowGrid(False)
        table.setTabKeyNavigation(False)
        table.setIconSize(QSize(CHIP_PX, CHIP_PX))
        table.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        table.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        table.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        head = table.horizontalHeader()
        head.setDefaultAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
        head.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        head.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        return table

    def _fill(self) -> None:
        matched = any(offer.difference is not None for offer in self.offers)
        self.table.setColumnHidden(COLUMNS.index("Match"), not matched)
        self.table.setColumnHidden(COLUMNS.index("For this job"), not self._colours)
        self.table.setRowCount(len(self.offers))
        for row, offer in enumerate(self.offers):
            for column, (said, tip) in enumerate(_cells(offer)):
                item = QTableWidgetItem(said)
                item.setToolTip(plain(tip))
                if column == 0:
                    item.setIcon(film_chip(offer.film, CHIP_PX))
                self.table.setItem(row, column, item)
            self.table.setRowHeight(row, CHIP_PX + 8)
        ids = [offer.film.id for offer in self.offers]
        self._filter()
        if self._now in ids:
            self.table.selectRow(ids.index(self._now))
        self._follow()
        if self._colours:
            self._ask_enough()

    def _filter(self) -> None:
        text, kind = self.search.text().strip().casefold(), self.kind.currentData()
        shown = 0
        for row, offer in enumerate(self.offers):
            its = kind_of(offer.film).name
            fits = (
                text in f"{offer.film.name} {its}".casefold()
                and kind in ("", its)
                and (offer.there_mm2 > 0 or not self.there.isChecked())
            )
            self.table.setRowHidden(row, not fits)
            shown += fits
        films = "1 film" if shown == 1 else f"{shown} films"
        self.said.setText(f"{films} of {len(self.offers)}")
        self._follow()

    @property
    def film(self) -> Film | None:
        """The film whose row is selected, where it is shown."""
        row = self.table.currentRow()
        selected = bool(self.table.selectedItems()) and not self.table.isRowHidden(row)
        return self.offers[row].film if selected else None

    def _follow(self) -> None:
        self.take.setEnabled(self.film is not None)

    def accept(self) -> None:
        """Take the selected film."""
        film = self.film
        if film is not None:
            self.chosen = film.id
            super().accept()


def _cells(offer: "FilmOffer") -> list[tuple[str, str]]:
    """Return what each column says of a film, and its tip."""
    shelf = f"{offer.there_mm2 / 100:,.0f} cm²" if offer.there_mm2 else "none"
    match = ("", "")
    if offer.difference is not None:
        match = (match_said(offer.difference), f"Colours differ by {offer.difference:.1f} (CIEDE2000)")
    kind = kind_of(offer.film).name
    return [
        (offer.film.name, offer.film.name),
        (kind, kind),
        match,
        (shelf, "Scraps, sheets and rolls together"),
        (tr("checking ..."), ""),
    ]


class FilmButton(QPushButton):
    """A film as a button: its swatch and name; a press asks for another."""

    def __init__(self, session: "Session", title: str, empty: str = "") -> None:
        super().__init__()
        self.session, self._title, self._full = session, title, ""
        self._empty = empty or tr("Choose a film ...")
        self.value: str | None = None
        self.setIconSize(QSize(CHIP, CHIP))
        self.setStyleSheet("text-align: left")
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self.setMinimumWidth(LEAST_PX)
        self.show_film(None)

    def show_film(self, film: Film | None, more: str = "") -> None:
        """Show a film with what is to be said of it, or that there is none yet."""
        self.value = None if film is None else film.id
        self._full = self._empty if film is None else f"{film.name}{more}"
        self.setIcon(QIcon() if film is None else film_chip(film))
        self.setToolTip(plain(f"{self._full}: {self._title[0].lower()}{self._title[1:]}"))
        self._elide()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Shorten what has no room; all of it is in the tooltip."""
        super().resizeEvent(event)
        self._elide()

    def _elide(self) -> None:
        room = self.width() - CHIP - AROUND_PX
        self.setText(self.fontMetrics().elidedText(self._full, Qt.TextElideMode.ElideRight, room).replace("&", "&&"))

    def ask(self, *, colour: str | None = None, colours: Collection[str] = ()) -> str | None:
        """Ask for a film; return its id, or None where none was taken."""
        picker = FilmPicker(
            self.window(), self.session, title=self._title, now=self.value, colour=colour, colours=colours
        )
        taken = picker.exec()
        picker.deleteLater()
        return picker.chosen if taken else None
