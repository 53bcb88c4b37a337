"""How many are asked for: a column for each size of the kind of blank, a row for each colour of cloth."""

from collections.abc import Iterator
from typing import TYPE_CHECKING

from PySide6.QtCore import QRegularExpression, Qt, Signal
from PySide6.QtGui import QKeyEvent, QRegularExpressionValidator
from PySide6.QtWidgets import QGridLayout, QLineEdit, QPushButton, QWidget

from zinnet.ui.card.cloth import Cloth, ClothBox
from zinnet.ui.language import tr
from zinnet.ui.plain import Label, plain
from zinnet.ui.theme import SMALL, font

if TYPE_CHECKING:
    from zinnet.job.model import Job
    from zinnet.job.order import OrderLine
    from zinnet.ui.session import Session

MOST = 1000
COUNT = r"\d{0,3}|1000"
"""What may stand in a cell: nothing, or up to the most."""
MOST_COLOURS = 6
USUAL = "adult-m"
"""The size at which the keyboard comes to the grid."""
COUNT_PX = 44


class CountBox(QLineEdit):
    """A count that may be left empty; up and down count on and back."""

    taken = Signal()
    left = Signal(int)
    """It is left to the next cell, or (-1) the one before."""

    def __init__(self, name: str) -> None:
        super().__init__()
        self.setValidator(QRegularExpressionValidator(QRegularExpression(COUNT), self))
        self.setAlignment(Qt.AlignmentFlag.AlignHCenter)
        self.setProperty("count", True)
        self.setFixedWidth(COUNT_PX)
        self.setAccessibleName(name)
        self.setToolTip(plain(name))
        self.editingFinished.connect(self._finish)

    @property
    def value(self) -> int:
        """The count; nothing is none."""
        return int(self.text()) if self.text().isdigit() else 0

    def show_count(self, count: int) -> None:
        """Show a count, unless another one is being typed."""
        if not (self.hasFocus() and self.isModified()):
            self.setText(str(count) if count else "")

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Count on and back with up and down, go to its neighbours with left and right."""
        key = Qt.Key(event.key())
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            self.left.emit(1 if key == Qt.Key.Key_Right else -1)
            return
        step = {Qt.Key.Key_Up: 1, Qt.Key.Key_Down: -1}.get(key)
        if step is None:
            super().keyPressEvent(event)
            return
        self.setText(str(min(max(self.value + step, 0), MOST)))
        self.setModified(True)
        self._finish()

    def _finish(self) -> None:
        if self.isModified():
            self.setModified(False)
            self.taken.emit()


class Row:
    """A colour, and how many of each size are asked for in it."""

    def __init__(self, cloth: ClothBox, counts: dict[str, CountBox], total: Label) -> None:
        self.cloth, self.counts, self.total = cloth, counts, total

    @property
    def widgets(self) -> Iterator[QWidget]:
        """All that stands in the row."""
        yield from (self.cloth, *self.counts.values(), self.total)

    @property
    def count(self) -> int:
        """How many there are in all."""
        return sum(box.value for box in self.counts.values())

    def add_up(self) -> None:
        """Show how many there are in all."""
        self.total.setText(str(self.count or ""))


class AskedGrid(QWidget):
    """The counts of the job. What is typed is taken cell by cell; what is not worked out yet stays as it was typed."""

    def __init__(self, session: "Session") -> None:
        super().__init__()
        self._session = session
        self._shown_for: tuple[tuple[str, ...], int] | None = None
        self._empty: list[Cloth] = []
        self.rows: list[Row] = []
        self.more = QPushButton(tr("Another colour"))
        self.more.setProperty("small", True)
        self.more.setToolTip(tr("Ask for garments in another colour too"))
        self.more.clicked.connect(self._add_colour)
        self.setFocusPolicy(Qt.FocusPolicy.ClickFocus)  # for the letter that leads here; a cell takes it
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setHorizontalSpacing(3)
        self._grid.setVerticalSpacing(6)

    def follow(self) -> None:
        """Show what the job asks for, unless something that was typed is still worked out."""
        if self._session.later.is_busy:
            return
        from zinnet.blanks.catalogue import blank_kind
        from zinnet.job.asked import asked, is_asked

        job = self._session.job
        lines = asked(job)
        cloths = list(dict.fromkeys([*((line.colour, line.name) for line in lines), *self._empty]))
        sizes = blank_kind(job.blank.kind).sizes
        if self._shown_for != (sizes, len(cloths)):
            self._shown_for = (sizes, len(cloths))
            self._lay_out(sizes, len(cloths))
        self._fill(job, lines if is_asked(job) else (), cloths)

    def _fill(self, job: "Job", lines: "tuple[OrderLine, ...]", cloths: list[tuple[str, str]]) -> None:
        by_names = bool(job.names.rows)
        for row, (colour, name) in zip(self.rows, cloths, strict=True):
            row.cloth.show_cloth(colour, name)
            for size, box in row.counts.items():
                count = sum(line.count for line in lines if (line.size, line.colour, line.name) == (size, colour, name))
                box.setEnabled(not by_names)
                box.show_count(count)
            row.add_up()
        self.more.setVisible(not by_names and len(self.rows) < MOST_COLOURS)

    def _lay_out(self, sizes: tuple[str, ...], colours: int) -> None:
        from zinnet.blanks.catalogue import sizes as known

        while self._grid.count():
            item = self._grid.takeAt(0)
            widget = item.widget() if item is not None else None
            if widget is not None and widget is not self.more:
                widget.hide()
                widget.deleteLater()
        for column, size in enumerate(sizes, start=1):
            head = Label(_head(known()[size].name))
            head.setFont(font(SMALL))
            head.setAlignment(Qt.AlignmentFlag.AlignHCenter)
            head.setProperty("quiet", True)
            self._grid.addWidget(head, 0, column, Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignBottom)
        self.rows = [self._make_row(sizes, number) for number in range(colours)]
        for number, row in enumerate(self.rows, start=1):
            for column, widget in enumerate(row.widgets):
                self._grid.addWidget(widget, number, column)
        self._grid.addWidget(self.more, colours + 1, 0)
        counts = self.rows[0].counts
        self.setFocusProxy(counts.get(USUAL) or next(iter(counts.values())))
        self._grid.setColumnStretch(len(sizes) + 2, 1)

    def _make_row(self, sizes: tuple[str, ...], number: int) -> Row:
        from zinnet.blanks.catalogue import sizes as known

        cloth = ClothBox(lambda _: self._take(), f"Colour of the cloth, row {number + 1}")
        counts = {}
        for size in sizes:
            box = CountBox(f"How many in {known()[size].name}, row {number + 1}")
            box.taken.connect(self._take)
            box.left.connect(lambda by, number=number, size=size: self._step(number, size, by))
            counts[size] = box
        total = Label()
        total.setMinimumWidth(28)
        total.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        total.setAccessibleName(f"How many in all, row {number + 1}")
        return Row(cloth, counts, total)

    def _step(self, number: int, size: str, by: int) -> None:
        """Go to the next cell of a row, or the one before."""
        boxes = list(self.rows[number].counts.values())
        at = boxes.index(self.rows[number].counts[size]) + by
        if 0 <= at < len(boxes):
            boxes[at].setFocus(Qt.FocusReason.TabFocusReason)

    def _take(self) -> None:
        """Ask for what stands in the cells. All of them are taken: one typed before may not be worked out yet."""
        from zinnet.job.edits import set_blank_colour, set_order_lines
        from zinnet.job.order import OrderLine

        for row in self.rows:
            row.add_up()
        lines = tuple(
            OrderLine(size=size, colour=row.cloth.cloth[0], name=row.cloth.cloth[1], count=box.value)
            for row in self.rows
            for size, box in row.counts.items()
            if box.value
        )
        self._empty = [row.cloth.cloth for row in self.rows if not row.count] if lines else []
        if lines:
            self._session.apply(set_order_lines(lines))
        else:
            self._session.apply(set_blank_colour(self.rows[0].cloth.cloth[0]))

    def _add_colour(self) -> None:
        """Show a row for another colour; it is asked for as soon as it has a count."""
        from zinnet.blanks.cloth_colours import cloth_colours

        taken = {row.cloth.cloth[0] for row in self.rows}
        name, colour = next((name, colour) for name, colour in cloth_colours().items() if colour not in taken)
        self._empty.append((colour, name))
        self.follow()
        self.rows[-1].cloth.setFocus()


def _head(name: str) -> str:
    """Return the head of a column: the class of a size above its letter."""
    first, _, last = name.partition(" ")
    return f"{first}\n{last}" if last else f"\n{first}"
