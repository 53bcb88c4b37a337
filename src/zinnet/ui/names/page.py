"""The page of names: every name in its field, the list as a table, and the field that they are fitted to."""

from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QGuiApplication, QPainter, QPaintEvent, QShowEvent
from PySide6.QtWidgets import (
    QComboBox,
    QFileDialog,
    QHBoxLayout,
    QScrollArea,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from zinnet.base.errors import ZinnetError
from zinnet.base.files import read_file
from zinnet.base.units import write_length
from zinnet.job.edits import drop_names, set_name_field, set_names
from zinnet.job.names.reading import read_names_for
from zinnet.job.names.table import MOST_BYTES
from zinnet.job.names.words import columns_in
from zinnet.output.papers.names_list import names_list_pdf
from zinnet.plan.check_list import NameLine, name_lines, name_list_csv
from zinnet.plan.findings.subject import several
from zinnet.ui.drawing import draw_card, draw_chalk_text, felt_tile
from zinnet.ui.language import tr
from zinnet.ui.names.previews import NamePreviews
from zinnet.ui.plain import Label
from zinnet.ui.rows import make_button, make_table
from zinnet.ui.sheets.base import LengthField
from zinnet.ui.theme import LARGE, PLAIN

if TYPE_CHECKING:
    from zinnet.ui.session import Session

COLUMNS = ("No.", "Words", "Garments", "For", "Width", "Height", "Mats")
SIZINGS = (("one size", "all of one size"), ("each its own", "each as large as fits"))
BESIDE_BAR_PX = 390.0
"""Where a title stands beside the buttons of the pages, at least."""
LIST_FILTER = "Lists of names (*.csv *.tsv *.txt)"
EMPTY = (
    "No list of names yet",
    "Copy a table from a spreadsheet or a message and press “Paste a list”, or open a CSV file.",
    "Its first line names the columns: name, and size, colour and count where they are needed.",
    "Write a column in braces, such as {name}, into the text where it belongs.",
)


class NamesPage(QWidget):
    """The list of names of the job."""

    def __init__(self, session: "Session") -> None:
        super().__init__()
        self.session = session
        self._shown: object = None
        self.paste = make_button("Paste a list", "Read the table that was copied (Ctrl+Shift+V)", self.paste_list)
        self.open = make_button("Open a list ...", "Read a CSV file", self.choose_list)
        self.sizing = QComboBox()
        self.sizing.setAccessibleName(tr("Size of the letters"))
        self.sizing.setToolTip(tr("All letters of one size, or each name as large as its field lets it be"))
        self.sizing.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.sizing.setMinimumContentsLength(12)
        for name, said in SIZINGS:
            self.sizing.addItem(said, name)
        self.sizing.activated.connect(lambda index: self._set_field(sizing=self.sizing.currentData()))
        self.width_field = LengthField(session, "Width of the field", lambda mm: self._set_field(width_mm=mm))
        self.height_field = LengthField(session, "Height of the field", lambda mm: self._set_field(height_mm=mm))
        self.check_list = make_button("Check list ...", "Write the list to tick, as PDF or CSV", self.choose_check_list)
        self.drop = make_button("Remove", "Take the list of names out of the job", self._drop)
        self.previews = NamePreviews(session)
        self.previews.chosen.connect(self._choose)
        self.area = QScrollArea()
        self.area.setAccessibleName(tr("The names in their fields"))
        self.area.setWidgetResizable(True)
        self.area.setWidget(self.previews)
        self.area.setStyleSheet("QScrollArea { background: transparent; border: none }")
        self.previews.setStyleSheet("background: transparent")
        self.table = make_table("Names with their garments and sizes", COLUMNS, narrow=(0, 2))
        self.table.itemSelectionChanged.connect(self._select)
        self.tools = self._lay_out()
        session.plan_changed.connect(self.follow)
        session.busy_changed.connect(self.update)

    def _lay_out(self) -> list[QWidget]:
        field, by = Label(tr("Field")), Label(tr("by"))
        tools: list[QWidget] = [self.sizing, field, self.width_field, by, self.height_field]
        row = QHBoxLayout()
        row.setSpacing(6)
        for widget in (self.paste, self.open, *tools):
            row.addWidget(widget)
        for length in (self.width_field, self.height_field):
            length.setMinimumWidth(66)
        for label in (field, by):
            label.setProperty("chalk", True)
        row.addStretch(1)
        with_list = QHBoxLayout()
        with_list.addStretch(1)
        with_list.addWidget(self.check_list)
        with_list.addWidget(self.drop)
        column = QVBoxLayout(self)
        column.setContentsMargins(18, 70, 18, 16)
        column.setSpacing(10)
        column.addLayout(row)
        column.addWidget(self.area, 3)
        column.addLayout(with_list)
        column.addWidget(self.table, 2)
        column.addStretch(0)
        return [*tools, self.check_list, self.drop, self.area, self.table]

    # the list

    def paste_list(self) -> None:
        """Read the table that was copied."""
        self.read(QGuiApplication.clipboard().text(), "what was copied")

    def choose_list(self) -> None:
        """Ask for a file with a list, and read it."""
        name, _ = QFileDialog.getOpenFileName(self, "Open a list of names", "", LIST_FILTER)
        if name:
            self.open_list(Path(name))

    def open_list(self, path: Path) -> None:
        """Read a file with a list."""
        try:
            data = read_file(path, MOST_BYTES)
        except ZinnetError as error:
            self.session.said.emit(str(error))
            return
        self.read(data, path.name)

    def read(self, data: bytes | str, called: str) -> None:
        """Make the job for the names of a table; what is wrong with it is said."""
        try:
            found = read_names_for(self.session.job, self.session.workshop, data)
        except ZinnetError as error:
            self.session.said.emit(f"{called}: {error}")
            return

        def say() -> None:
            said = f"{several(len(found.names.rows), 'name', 'names')} read from {called}."
            self.session.said.emit(" ".join((said, *found.remarks)))

        self.session.apply_later(set_names(found.names), say)
        self.update()

    def _drop(self) -> None:
        self.session.apply(drop_names())

    def _set_field(self, **fields: Any) -> bool:
        self.session.apply_later(set_name_field(self.previews.index, **fields))
        return True

    def choose_check_list(self) -> None:
        """Ask where to write the check list."""
        name, _ = QFileDialog.getSaveFileName(self, "Write the check list", "names.pdf", "Lists (*.pdf *.csv)")
        if name:
            self.write_check_list(Path(name))

    def write_check_list(self, path: Path) -> None:
        """Write the check list beside the window."""
        plan, as_csv = self.session.plan, path.suffix.lower() == ".csv"

        def make() -> bytes:
            return name_list_csv(name_lines(plan)).encode() if as_csv else names_list_pdf(plan)

        self.session.exporter.write_file(path, make, f"The check list is in {path}.")

    # showing it

    def follow(self) -> None:
        """Show the list of the plan, where it is in sight."""
        if not self.isVisible():
            return
        plan = self.session.plan
        for widget in self.tools:
            widget.setVisible(bool(plan.named))
        self.update()
        look = (plan.named, plan.mats, self.session.job.unit)
        if look == self._shown or not plan.named:
            return
        self._shown = look
        self.previews.index = next(
            (k for k, design in enumerate(self.session.job.designs) if columns_in(design.source)), 0
        )
        field = self.session.job.names.field(self.previews.index)
        words = next(
            (one.words for one in self.session.selection.garment.designs if one.index == self.previews.index), None
        )
        if words is not None:
            self.width_field.show_mm(words.width_mm)
            self.height_field.show_mm(words.height_mm)
        self.sizing.setCurrentIndex([name for name, _ in SIZINGS].index(field.sizing))
        self.previews.follow()
        self._fill()

    def _fill(self) -> None:
        lines = name_lines(self.session.plan)
        self.table.blockSignals(True)
        self.table.setRowCount(len(lines))
        for row, line in enumerate(lines):
            for column, text in enumerate(self._cells(line)):
                self.table.setItem(row, column, QTableWidgetItem(text))
        self.table.blockSignals(False)

    def _cells(self, line: NameLine) -> tuple[str, ...]:
        unit = self.session.job.unit
        return (
            str(line.number),
            line.words,
            str(line.count),
            line.size,
            ", ".join(write_length(width, unit=unit) for width, _ in line.sizes),
            ", ".join(write_length(height, unit=unit) for _, height in line.sizes),
            ", ".join(map(str, line.mats)) or "not nested yet",
        )

    def _choose(self, row: int) -> None:
        self.table.selectRow(row)
        self.table.scrollTo(self.table.model().index(row, 0))

    def _select(self) -> None:
        rows = self.table.selectionModel().selectedRows()
        if rows:
            self.previews.row = rows[0].row()
            card = self.previews.card(self.previews.row)
            self.area.ensureVisible(int(card.center().x()), int(card.center().y()), 0, int(card.height()))
            self.previews.update()

    def showEvent(self, event: QShowEvent) -> None:
        """Show the plan as it is now."""
        super().showEvent(event)
        self.follow()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the felt and the title, or what to do where there is no list."""
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.fillRect(self.rect(), QBrush(felt_tile()))
            middle, plan = max(self.width() / 2, BESIDE_BAR_PX), self.session.plan
            draw_chalk_text(painter, QPointF(middle, 26), "Names", bold=True, pixels=LARGE)
            if self.session.is_working:
                draw_chalk_text(painter, QPointF(middle, 47), "fitting the names ...", pixels=PLAIN, name="quiet_chalk")
            elif plan.named:
                garments = sum(one.names.count for one in plan.named)
                names = several(len(plan.named), "name", "names")
                said = f"{names} on {several(garments, 'garment', 'garments')}; each in its field, none stretched"
                draw_chalk_text(painter, QPointF(middle, 47), said, pixels=PLAIN, name="quiet_chalk")
                draw_card(painter, QRectF(self.table.geometry()).adjusted(-4, -4, 4, 4))
            else:
                for number, line in enumerate(EMPTY):
                    where = QPointF(middle, self.height() / 2 - 40 + 26 * number)
                    draw_chalk_text(painter, where, line, bold=number == 0, pixels=LARGE if number == 0 else PLAIN)

    def keyPressEvent(self, event: Any) -> None:
        """Paste a list with Ctrl+Shift+V."""
        held = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier
        if event.key() == Qt.Key.Key_V and event.modifiers() == held:
            self.paste_list()
        else:
            super().keyPressEvent(event)
