"""The shelf: the film in stock as a table to find, filter and sort, with what can be done to each."""

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QIcon
from PySide6.QtWidgets import (
    QAbstractItemView,
    QComboBox,
    QFileDialog,
    QFrame,
    QHBoxLayout,
    QInputDialog,
    QLineEdit,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
)

from zinnet.base.files import read_file
from zinnet.base.units import write_area, write_length
from zinnet.nesting.sheet import film_of
from zinnet.output.papers.scrap_labels import scrap_labels_pdf
from zinnet.ui.card_page import CardPage, FilmPicture, light_card, small
from zinnet.ui.films import CHIP, film_chip
from zinnet.ui.label_form import LabelForm
from zinnet.ui.language import tr
from zinnet.ui.nest.stock_form import StockForm
from zinnet.ui.plain import Label, plain
from zinnet.ui.theme import PLAIN, font
from zinnet.workshop.stock import CHANGEABLE, StockEvent, StockItem
from zinnet.workshop.stock_csv import MOST_BYTES, read_stock_csv, stock_csv

if TYPE_CHECKING:
    from zinnet.films.catalogue import Film
    from zinnet.ui.session import Session

HEADS = ("Label", "Film", "What", "Width", "Length", "Area", "Worth", "Place", "Note")
NUMBERS = ("Width", "Length", "Area", "Worth")
PICTURE = QSize(210, 110)
EVERYTHING = "everything"
CSV_FILTER = "CSV (*.csv)"
PDF_FILTER = "PDF (*.pdf)"


class _Cell(QTableWidgetItem):
    """A cell that is sorted by a value, not by its text."""

    def __init__(self, text: str, key: float | str) -> None:
        super().__init__(text)
        self.key = key
        self.setFlags(Qt.ItemFlag.ItemIsSelectable | Qt.ItemFlag.ItemIsEnabled)
        if not isinstance(key, str):
            self.setTextAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)

    def __lt__(self, other: QTableWidgetItem) -> bool:
        """Sort by the value."""
        return isinstance(other, _Cell) and self.key < other.key  # type: ignore[operator]


class ShelfPage(CardPage):
    """The stock, and the item that is chosen."""

    def __init__(self, session: "Session") -> None:
        super().__init__("Film on the shelf")
        self.session = session
        self.words = QLineEdit()
        self.words.setPlaceholderText(tr("Find a label, film, place or note"))
        self.words.setAccessibleName(tr("Find film on the shelf"))
        self.words.setClearButtonEnabled(True)
        self.words.textChanged.connect(lambda text: self.fill())
        self.film = self._filter("Only one film")
        self.kind = self._filter("Only rolls, sheets or scraps")
        for kind in ("rolls", "sheets", "scraps"):
            self.kind.addItem(kind, kind.removesuffix("s"))
        top = QHBoxLayout()
        top.addWidget(self.words, 2)
        top.addWidget(self.film, 1)
        top.addWidget(self.kind, 1)
        self.table = QTableWidget(0, len(HEADS))
        self.table.setAccessibleName(tr("Film on the shelf"))
        self.table.setStyleSheet("QTableWidget::item { padding: 2px 5px } QHeaderView::section { padding: 6px 5px }")
        for column, head in enumerate(HEADS):
            side = Qt.AlignmentFlag.AlignRight if head in NUMBERS else Qt.AlignmentFlag.AlignLeft
            title = QTableWidgetItem(head)
            title.setTextAlignment(side | Qt.AlignmentFlag.AlignVCenter)
            self.table.setHorizontalHeaderItem(column, title)
        self.table.verticalHeader().hide()
        self.table.setTabKeyNavigation(False)
        self.table.setShowGrid(False)
        self.table.setAlternatingRowColors(True)
        self.table.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.table.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.table.horizontalHeader().setStretchLastSection(True)
        self.table.setSortingEnabled(True)
        self.table.sortByColumn(0, Qt.SortOrder.AscendingOrder)
        self.table.itemSelectionChanged.connect(self._choose)
        self.table.itemDoubleClicked.connect(lambda item: self.correct())
        self.column.addLayout(top)
        self.column.addWidget(self.table, 1)
        self.chosen = ChosenFilm(self)
        self.column.addWidget(self.chosen)
        self.column.addLayout(self._buttons())

    def _filter(self, tip: str) -> QComboBox:
        box = QComboBox()
        box.setToolTip(plain(tip))
        box.setAccessibleName(tip)
        box.addItem(EVERYTHING, None)
        box.activated.connect(lambda index: self.fill())
        return box

    def _buttons(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setSpacing(6)
        self.buttons: dict[str, QPushButton] = {}
        for name, said, tip, action in (
            ("add", "Add film ...", "Put a roll, sheets or a scrap on the shelf", self.add),
            ("correct", "Correct ...", "Change what is written of the chosen film", self.correct),
            ("out", "Take out ...", "Take the chosen film off the shelf; its history stays", self.take_out),
            ("labels", "Labels ...", "Print labels for what is found, on a sheet of labels", self.choose_labels),
            ("export", "Write ...", "Write the whole shelf as a table", self.choose_export),
            ("import", "Read ...", "Put the rows of a table on the shelf", self.choose_import),
        ):
            button = QPushButton(said)
            button.setToolTip(plain(tip))
            button.clicked.connect(lambda checked=False, action=action: action())
            self.buttons[name] = button
            row.addWidget(button)
        row.insertStretch(3, 1)
        return row

    # what is shown

    def look(self) -> object:
        """Return what the table depends on."""
        return self.session.workshop.stock, self.session.workshop.films, self.session.job.unit

    @property
    def item(self) -> StockItem | None:
        """The film that is chosen."""
        rows = self.table.selectionModel().selectedRows()
        cell = self.table.item(rows[0].row(), 0) if rows else None
        number = cell.data(Qt.ItemDataRole.UserRole) if cell is not None else None
        return next((item for item in self.session.workshop.stock if item.number == number), None)

    def show_plan(self) -> None:
        """Show the shelf."""
        kept = self.film.currentData()
        self.film.clear()
        self.film.addItem("all films", None)
        on_shelf = {item.film for item in self.session.workshop.stock}
        for film in self.session.workshop.films:
            if film.id in on_shelf:
                self.film.addItem(film_chip(film), film.name, film.id)
        self.film.setCurrentIndex(max(0, self.film.findData(kept)))
        self.fill()

    def shown(self) -> list[StockItem]:
        """Return what is found."""
        words, film, kind = self.words.text().casefold().split(), self.film.currentData(), self.kind.currentData()
        return [
            item
            for item in self.session.workshop.stock
            if film in (None, item.film)
            and kind in (None, item.kind)
            and all(word in f"{item.described} {self._name(item.film).casefold()}" for word in words)
        ]

    def _name(self, film_id: str) -> str:
        film = self.session.workshop.film(film_id)
        return film.name if film is not None else film_id

    def fill(self) -> None:
        """Fill the table with what is found."""
        stock, shown, kept = self.session.workshop.stock, self.shown(), self.item
        if not stock:
            self.note.setText(
                "Nothing is on the shelf yet. Add the rolls, sheets and scraps that you have: then nests use scraps "
                "first, and every cut keeps the books."
            )
        else:
            unit = self.session.job.unit
            area = write_area(sum(item.area_mm2 for item in shown), unit=unit)
            worths = [item.worth for item in shown if item.worth is not None]
            worth = f", worth {sum(worths):,.2f}" if worths else ""
            self.note.setText(f"{len(shown)} of {len(stock)} shown, {area}{worth}.")
        self.table.setSortingEnabled(False)
        self.table.setRowCount(len(shown))
        for row, item in enumerate(shown):
            for column, cell in enumerate(self._cells(item)):
                self.table.setItem(row, column, cell)
        self.table.setSortingEnabled(True)
        self.table.resizeColumnsToContents()
        self.table.blockSignals(True)
        self.select(kept.number if kept is not None else None)
        self.table.blockSignals(False)
        self._choose()

    def select(self, number: int | None) -> None:
        """Choose a film by its label, else the first."""
        for row in range(self.table.rowCount()):
            cell = self.table.item(row, 0)
            if cell is not None and (number is None or cell.data(Qt.ItemDataRole.UserRole) == number):
                self.table.selectRow(row)
                return

    def _cells(self, item: StockItem) -> list[_Cell]:
        unit = self.session.job.unit
        film = self.session.workshop.film(item.film)
        label = _Cell(str(item.number), item.number)
        label.setTextAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
        label.setData(Qt.ItemDataRole.UserRole, item.number)
        name = _Cell(self._name(item.film), self._name(item.film))
        if film is not None:
            name.setIcon(_plain_icon(film))
        kind = item.kind if item.count == 1 else f"{item.count} {item.kind}s"
        worth = _Cell("" if item.worth is None else f"{item.worth:,.2f}", item.worth or 0.0)
        return [
            label,
            name,
            _Cell(kind, item.kind),
            _Cell(write_length(item.width_mm, unit=unit), item.width_mm),
            _Cell(write_length(item.length_mm, unit=unit), item.length_mm),
            _Cell(write_area(item.area_mm2, unit=unit), item.area_mm2),
            worth,
            _Cell(item.place, item.place),
            _Cell(item.note, item.note),
        ]

    def _choose(self) -> None:
        item = self.item
        for name in ("correct", "out"):
            self.buttons[name].setEnabled(item is not None)
        self.chosen.show_item(item)

    # what is done

    def add(self) -> None:
        """Ask for a new film and put it on the shelf."""
        form = StockForm(self, self.session, None)
        if form.exec() and form.item is not None:
            self.put(form.item)

    def put(self, item: StockItem) -> None:
        """Put film on the shelf, and choose it."""
        self.session.books.use_shelf(lambda stock: stock.add([item])[0], lambda added: self.select(added.number))

    def correct(self) -> None:
        """Ask what is to be corrected."""
        item = self.item
        if item is None:
            return
        form = StockForm(self, self.session, item)
        if form.exec() and form.item is not None:
            self.change(item, form.why, form.item)

    def change(self, before: StockItem, why: str, after: StockItem) -> None:
        """Correct what is written of a film, unless it is not as it was seen any more."""
        fields = {name: value for name, value in after if name in CHANGEABLE and value != getattr(before, name)}
        self.session.books.use_shelf(lambda stock: stock.correct(before.number, why, seen=before, **fields))

    def take_out(self) -> None:
        """Ask why, and take the chosen film off the shelf."""
        item = self.item
        if item is None:
            return
        why, given = QInputDialog.getText(self, f"Take out {item.number}", "Why is it taken off the shelf?")
        if given:
            self.session.books.use_shelf(
                lambda stock: stock.take_out(item.number, why.strip() or "taken out", seen=item)
            )

    def choose_export(self) -> None:
        """Ask where to write the shelf as CSV."""
        name, _ = QFileDialog.getSaveFileName(self, "Write the shelf", "shelf.csv", CSV_FILTER)
        if name:
            self.export(Path(name))

    def export(self, path: Path) -> None:
        """Write the whole shelf as CSV."""
        stock = list(self.session.workshop.stock)
        self.session.exporter.write_file(path, lambda: stock_csv(stock).encode(), f"The shelf is in {path.name}.")

    def choose_labels(self) -> None:
        """Ask for a sheet of labels and where to write the labels of what is found."""
        labels = LabelForm.ask(self)
        name, _ = QFileDialog.getSaveFileName(self, "The labels", "labels.pdf", PDF_FILTER) if labels else ("", "")
        if labels and name:
            self.write_labels(Path(name), *labels)

    def write_labels(self, path: Path, sheet: str, skip: int) -> None:
        """Write a label for every film that is found."""
        items, workshop, unit = self.shown(), self.session.workshop, self.session.job.unit
        self.session.exporter.write_file(
            path,
            lambda: scrap_labels_pdf(items, workshop, sheet, skip=skip, unit=unit),
            f"{len(items)} labels are in {path}; print them at 100 %.",
        )

    def choose_import(self) -> None:
        """Ask for a CSV to read."""
        name, _ = QFileDialog.getOpenFileName(self, "Read a table of film", "", CSV_FILTER)
        if name:
            self.take(Path(name))

    def take(self, path: Path) -> None:
        """Put all rows of a CSV on the shelf, or none of them."""
        self.session.books.use_shelf(
            lambda stock: stock.add(read_stock_csv(read_file(path, MOST_BYTES), path.name), said=f"from {path.name}"),
            lambda added: self.session.said.emit(f"{len(added)} put on the shelf from {path.name}."),
        )


def _plain_icon(film: "Film") -> QIcon:
    """Return a film's square that keeps its colour where its row is chosen."""
    icon = film_chip(film)
    icon.addPixmap(icon.pixmap(CHIP, CHIP), QIcon.Mode.Selected)
    return icon


class ChosenFilm(QFrame):
    """The film that is chosen: its outline, and its history."""

    def __init__(self, page: ShelfPage) -> None:
        super().__init__()
        self.page = page
        self.row = QHBoxLayout(self)
        self.row.setContentsMargins(0, 0, 0, 0)
        self.said = Label()

    def show_item(self, item: StockItem | None) -> None:
        """Show a film, its history read beside the window."""
        while self.row.count():
            taken = self.row.takeAt(0)
            widget = taken.widget() if taken is not None else None
            if widget is not None:
                widget.deleteLater()
        self.setVisible(item is not None)
        if item is None:
            return
        film = self.page.session.workshop.film(item.film)
        card = light_card()
        inside = QHBoxLayout(card)
        inside.setContentsMargins(12, 8, 12, 8)
        inside.setSpacing(16)
        inside.addWidget(
            FilmPicture(
                film.colour if film is not None else "#b9b2a3",
                film_of(item.sheet(0.0)),
                size=PICTURE,
                spoiled=item.spoiled,
            )
        )
        column = QVBoxLayout()
        head = Label(f"{item.number}  {self.page._name(item.film)}, {item.kind}")
        head.setFont(font(PLAIN, bold=True))
        column.addWidget(head)
        self.said = small(_described(item))
        column.addWidget(self.said)
        column.addStretch(1)
        inside.addLayout(column, 1)
        self.row.addWidget(card, 1)
        said, number = self.said, item.number

        def show(events: list[StockEvent]) -> None:
            lines = [f"{event.at[:10]}  {event.what}: {event.said}" for event in events[-4:]]
            if self.said is said:
                said.setText("\n".join([_described(item), *lines]))

        session = self.page.session
        session.background.run(lambda: _history(session, number), show, lambda error: session.said.emit(str(error)))


def _history(session: "Session", number: int) -> list[StockEvent]:
    from zinnet.workshop.stock import Stock

    return Stock(session.books.store).history(number)


def _described(item: StockItem) -> str:
    """Return in words what the table does not say."""
    said = ["its direction runs across" if item.turned else "its direction runs along its length"]
    if item.outline is not None:
        holes = sum(len(part.interiors) for part in item.outline.geoms)
        said.append(f"its true outline is known, with {holes} holes" if holes else "its true outline is known")
    if item.spoiled is not None:
        said.append(f"{len(item.spoiled.geoms)} spoiled spots are kept free")
    if item.note:
        said.append(item.note)
    return "; ".join(said)
