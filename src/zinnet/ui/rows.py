"""What pages with a list share: a table of rows that are chosen one at a time, and a button with its tip."""

from collections.abc import Callable, Sequence

from PySide6.QtCore import QRect, Qt
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import (
    QAbstractItemView,
    QHeaderView,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from zinnet.ui.language import tr
from zinnet.ui.plain import plain


def make_table(
    name: str, columns: Sequence[str], narrow: Sequence[int] = (), *, editable: bool = False, whole: bool = False
) -> QTableWidget:
    """Return an empty table; its ``narrow`` columns are as wide as their text, the others share the rest.

    A ``whole`` table is as high as all its rows: it scrolls with the page that it stands on.
    """
    table = WholeTable(len(columns)) if whole else QTableWidget(0, len(columns))
    table.setHorizontalHeaderLabels([tr(column) for column in columns])
    table.setAccessibleName(tr(name))
    table.verticalHeader().setVisible(False)
    table.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
    table.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
    if not editable:
        table.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
    table.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
    for column in narrow:
        table.horizontalHeader().setSectionResizeMode(column, QHeaderView.ResizeMode.ResizeToContents)
    table.setTabKeyNavigation(False)  # Tab leads out of it, arrows lead around in it
    table.setShowGrid(False)
    table.setAlternatingRowColors(True)
    return table


BESIDE_WORDS, ABOVE_WORDS = 24, 10
"""What a cell has beside its words, and above and below them, in pixels."""


class WholeTable(QTableWidget):
    """A table as high as its rows, whatever its width makes of them."""

    def __init__(self, columns: int) -> None:
        super().__init__(0, columns)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.horizontalHeader().setDefaultAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Break lines anew where the width is another."""
        super().resizeEvent(event)
        if event.size().width() != event.oldSize().width():
            self.resizeRowsToContents()

    def resizeRowsToContents(self) -> None:
        """Be as high as all rows."""
        super().resizeRowsToContents()
        for row in range(self.rowCount()):
            needed = max((self._needed(row, column) for column in range(self.columnCount())), default=0)
            self.setRowHeight(row, max(needed, self.rowHeight(row)))
        rows = sum(map(self.rowHeight, range(self.rowCount())))
        self.setFixedHeight(self.horizontalHeader().sizeHint().height() + rows + 2 * self.frameWidth())

    def _needed(self, row: int, column: int) -> int:
        """Return how high a cell's words are in the room that its padding leaves them: Qt counts without padding."""
        item = self.item(row, column)
        room = QRect(0, 0, max(1, self.columnWidth(column) - BESIDE_WORDS), 4000)
        flags = Qt.TextFlag.TextWordWrap
        return 0 if item is None else self.fontMetrics().boundingRect(room, flags, item.text()).height() + ABOVE_WORDS


def make_button(text: str, tip: str, do: Callable[[], object]) -> QPushButton:
    """Return a button that does something."""
    button = QPushButton(tr(text))
    button.setToolTip(plain(tr(tip)))
    button.clicked.connect(lambda checked=False: do())
    return button


def put_text(button: QPushButton, text: str) -> None:
    """Show another text on a button; Qt would take its shortcut away with the old one."""
    shortcut = button.shortcut()
    button.setText(text)
    button.setShortcut(shortcut)


def stacked(*widgets: QWidget, grows: QWidget) -> QWidget:
    """Return widgets one above another without gaps; one of them takes the room that is left."""
    whole = QWidget()
    column = QVBoxLayout(whole)
    column.setContentsMargins(0, 0, 0, 0)
    column.setSpacing(0)
    for widget in widgets:
        column.addWidget(widget, int(widget is grows))
    return whole


def show_rows(table: QTableWidget, rows: Sequence[Sequence[str]]) -> None:
    """Show texts in a table, each with itself as its tip."""
    table.setRowCount(len(rows))
    for row, cells in enumerate(rows):
        for column, text in enumerate(cells):
            cell = QTableWidgetItem(text)
            cell.setToolTip(plain(text))
            table.setItem(row, column, cell)
    table.resizeRowsToContents()
