"""What was made: searched, judged later, and done again."""

from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QTimer, Signal
from PySide6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QLineEdit,
    QSpinBox,
    QTableWidgetItem,
)

from zinnet.base.units import write_area, write_seconds
from zinnet.bench.document import Document
from zinnet.bench.made import again, made_of
from zinnet.job.file import packed_job
from zinnet.ui.card_page import CardPage, small
from zinnet.ui.language import tr
from zinnet.ui.plain import plain
from zinnet.ui.rows import make_button, make_table
from zinnet.workshop.made import VERDICTS, Made
from zinnet.workshop.madebook import MadeBook
from zinnet.workshop.run_made import RunMade
from zinnet.workshop.run_words import garment_cells, run_said

if TYPE_CHECKING:
    from zinnet.ui.session import Session

COLUMNS = ("No.", "Date", "What", "Garments", "Films", "Waste", "Time", "Verdict", "Washes")
NARROW = (0, 1, 3, 5, 6, 7, 8)
GARMENT_COLUMNS = ("Garment", "Planned", "Real", "Presses", "What happened")
SEARCH_MS = 150
NO_VERDICT = "no verdict yet"


class EntriesPage(CardPage):
    """The entries as a table, the latest first."""

    opened = Signal()

    def __init__(self, session: "Session") -> None:
        super().__init__("What was made")
        self.session = session
        self.search = QLineEdit()
        self.search.setPlaceholderText(tr("Find by title, blank, film, verdict, date or note"))
        self.search.setAccessibleName(tr("Find in the log"))
        self.search.setClearButtonEnabled(True)
        self._wait = QTimer(self, singleShot=True, interval=SEARCH_MS)
        self._wait.timeout.connect(self.follow)
        self.search.textChanged.connect(lambda text: self._wait.start())
        self.write = make_button("Add to the log", "Put the job on the table into the log", self.write_down)
        self.table = make_table("What was made", COLUMNS, NARROW)
        self.table.itemSelectionChanged.connect(self._select)
        self.verdict = QComboBox()
        self.verdict.setAccessibleName(tr("Verdict"))
        self.verdict.setToolTip(tr("How it came out"))
        self.verdict.addItem(NO_VERDICT, None)
        for one in VERDICTS:
            self.verdict.addItem(one, one)
        self.verdict.activated.connect(lambda index: self._change(verdict=self.verdict.currentData()))
        self.washes = QSpinBox()
        self.washes.setRange(0, 999)
        self.washes.setPrefix("washed ")
        self.washes.setAccessibleName(tr("Washes that it has survived"))
        self.washes.setToolTip(tr("Washes that it has survived"))
        self.washes.setKeyboardTracking(False)
        self.washes.valueChanged.connect(lambda value: self._change(washes=value))
        self.again = make_button("Do it again", "Make a new job from the selected one", self.do_again)
        top, bottom = QHBoxLayout(), QHBoxLayout()
        top.addWidget(self.search, 1)
        top.addWidget(self.write)
        for widget in (self.verdict, self.washes, self.again):
            bottom.addWidget(widget)
        bottom.addStretch(1)
        self.foot = small("")
        bottom.addWidget(self.foot)
        self.garments = make_table("Garment by garment", GARMENT_COLUMNS, (0, 1, 2, 3))
        self.run_said = small("")
        self.column.addLayout(top)
        self.column.addWidget(self.table, 2)
        self.column.addWidget(self.run_said)
        self.column.addWidget(self.garments, 3)
        self.column.addLayout(bottom)
        session.plan_changed.connect(self.follow)

    # showing it

    def look(self) -> object:
        """Return what the page depends on."""
        return self.session.workshop.made, self.search.text(), self.session.job.unit, self.session.has_artwork

    @property
    def entries(self) -> list[Made]:
        """The entries with the words that are looked for, the latest first."""
        asked = self.search.text().casefold().split()
        return [one for one in self.session.workshop.made if all(word in one.described for word in asked)]

    @property
    def chosen(self) -> Made | None:
        """The entry that is selected."""
        rows, found = self.table.selectionModel().selectedRows(), self.entries
        return found[rows[0].row()] if rows and rows[0].row() < len(found) else None

    def show_plan(self) -> None:
        """Fill the table; what was selected stays so."""
        kept, found = self.chosen, self.entries
        self.note.setText(
            "Every job that was carried out, with what, and how it did."
            if self.session.workshop.made
            else "Nothing is written down yet. A job comes here from the bench of Press, or with “Add to the log”."
        )
        self.table.blockSignals(True)
        self.table.setRowCount(len(found))
        for row, one in enumerate(found):
            for column, text in enumerate(self._cells(one)):
                item = QTableWidgetItem(text)
                item.setToolTip(
                    plain(f"{one.garments} × {one.blank}: {one.title}" if COLUMNS[column] == "What" else text)
                )
                self.table.setItem(row, column, item)
        self.table.blockSignals(False)
        self.write.setEnabled(self.session.has_artwork)
        numbers = [one.number for one in found]
        if found:
            self.table.selectRow(numbers.index(kept.number) if kept is not None and kept.number in numbers else 0)
        self._select()

    def _cells(self, one: Made) -> tuple[str, ...]:
        waste = sum(film.waste_mm2 for film in one.films)
        return (
            str(one.number),
            one.at[:10],
            one.title,
            str(one.garments),
            ", ".join(film.film for film in one.films),
            write_area(waste, unit=self.session.job.unit),
            write_seconds(one.took_s) if one.took_s is not None else f"{write_seconds(one.planned_s)} planned",
            one.verdict or "",
            str(one.washes or ""),
        )

    def _select(self) -> None:
        one = self.chosen
        for widget in (self.verdict, self.washes, self.again):
            widget.setEnabled(one is not None)
        self.again.setEnabled(one is not None and one.has_job)
        self.foot.setText("" if one is None or one.run is not None else one.note)
        self._show_run(None if one is None else one.run)
        for box in (self.verdict, self.washes):
            box.blockSignals(True)
        self.verdict.setCurrentIndex(self.verdict.findData(one.verdict if one is not None else None))
        self.washes.setValue(one.washes if one is not None else 0)
        for box in (self.verdict, self.washes):
            box.blockSignals(False)

    def _show_run(self, run: RunMade | None) -> None:
        """Show a run garment by garment, plan and truth beside one another."""
        self.garments.setVisible(run is not None)
        self.run_said.setVisible(run is not None)
        if run is None:
            return
        self.run_said.setText(plain(run_said(run)))
        rows = [garment_cells(one) for one in run.garments]
        self.garments.setRowCount(len(rows))
        for row, cells in enumerate(rows):
            for column, text in enumerate(cells):
                item = QTableWidgetItem(text)
                item.setToolTip(plain(text))
                self.garments.setItem(row, column, item)

    # doing something

    def write_down(self) -> None:
        """Put the job on the table into the log."""
        plan, job = self.session.plan, self.session.job
        self.session.books.use(
            lambda store: MadeBook(store).record(made_of(plan), packed_job(job, plan.layouts)),
            lambda made: self.session.said.emit(f"Written down as no. {made.number}; say how it came out."),
        )

    def _change(self, **fields: Any) -> None:
        one = self.chosen
        if one is None or all(getattr(one, name) == value for name, value in fields.items()):
            return
        number = one.number
        self.session.books.use(lambda store: MadeBook(store).change(number, **fields))

    def do_again(self) -> None:
        """Put a new job from the selected entry on the table."""
        one = self.chosen
        if one is None:
            return
        number, workshop = one.number, self.session.workshop

        def make(store: Any) -> Document:
            job, layouts = again(MadeBook(store).job(number))
            document = Document(workshop, job)
            for key, layout in layouts.items():
                document.keep_layout(key, layout)
            document.saved = None
            return document

        def show(document: Document) -> None:
            self.session.show_document(document)
            self.session.said.emit("A new job, as it was; it is not saved yet.")
            self.opened.emit()

        self.session.books.use(make, show)
