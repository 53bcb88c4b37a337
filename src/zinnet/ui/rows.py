"""What pages with a list share: a table of rows that are chosen one at a time, and a button with its tip."""

from collections.abc import Callable, Sequence

from PySide6.QtWidgets import QAbstractItemView, QHeaderView, QPushButton, QTableWidget, QVBoxLayout, QWidget

from zinnet.ui.language import tr
from zinnet.ui.plain import plain


def make_table(
    name: str, columns: Sequence[str], narrow: Sequence[int] = (), *, editable: bool = False
) -> QTableWidget:
    """Return an empty table; its ``narrow`` columns are as wide as their text, the others share the rest."""
    table = QTableWidget(0, len(columns))
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
