"""The size family: one design over several sizes, as a row of small pictures above a table."""

from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QBrush, QMouseEvent, QPainter, QPaintEvent, QShowEvent
from PySide6.QtWidgets import (
    QHBoxLayout,
    QMenu,
    QPushButton,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from zinnet.base.errors import ZinnetError
from zinnet.base.units import read_length, write_length
from zinnet.blanks.catalogue import blank_kind, sizes
from zinnet.job.edits import (
    Edit,
    follow_family,
    remove_size,
    set_copies,
    set_placement,
    set_sizes,
)
from zinnet.ui.drawing import draw_card, draw_chalk_text, draw_sign, felt_tile, pen
from zinnet.ui.garment import draw_small
from zinnet.ui.language import tr
from zinnet.ui.rows import make_table
from zinnet.ui.theme import LARGE, PLAIN, SMALL, colour

if TYPE_CHECKING:
    from zinnet.job.model import Job
    from zinnet.plan.fitted import FittedDesign, Garment
    from zinnet.ui.session import Session

COLUMNS = ("Size", "Garments", "Width", "Height", "Distance", "Largest", "Place")
PICTURE_HEIGHT = 236
BESIDE_BAR_PX = 470.0
"""Where a title stands beside the buttons of the pages, at least."""
COUNT, WIDTH = 1, 2


class SizeRow(QWidget):
    """The row of small pictures, from the smallest to the largest size."""

    chosen = Signal(str)
    opened = Signal(str)

    def __init__(self, session: "Session") -> None:
        super().__init__()
        self.session = session
        self.setFixedHeight(PICTURE_HEIGHT)
        self.setAccessibleName(tr("The design on every size"))
        session.plan_changed.connect(self.update)

    def sizeHint(self) -> QSize:
        """Return the room that the row asks for."""
        return QSize(600, PICTURE_HEIGHT)

    def cards(self) -> list[tuple[QRectF, "Garment"]]:
        """Return where each size is drawn."""
        garments = in_order(self.session)
        room = (self.width() - 24) / max(len(garments), 1)
        wide = min(room - 8, 190.0)
        left = (self.width() - (wide + 8) * len(garments) + 8) / 2
        return [
            (QRectF(left + k * (wide + 8), 6, wide, PICTURE_HEIGHT - 16), garment) for k, garment in enumerate(garments)
        ]

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the pictures, all in one scale."""
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.fillRect(self.rect(), QBrush(felt_tile()))
            for card, garment in self.cards():
                self._draw_card(painter, card, garment)

    def _draw_card(self, painter: QPainter, card: QRectF, garment: "Garment") -> None:
        design = design_on(self.session, garment)
        panel = design.panel if design is not None else garment.blank.main
        if garment.size == self.session.selection.garment.size:
            painter.setPen(pen("accent", 2))
            painter.setBrush(colour("felt_raised"))
            painter.drawRoundedRect(card, 8, 8)
        left, top, right, bottom = panel.bounds
        scale = self._scale(card)
        high = (bottom - top) * scale
        box = QRectF(
            card.center().x() - (right - left) * scale / 2, card.bottom() - 44 - high, (right - left) * scale, high
        )
        on_it = garment.composed_on(panel.id)
        draw_small(painter, box, garment.blank, panel, on_it)
        name = garment.blank.name.rpartition(", ")[2]
        draw_chalk_text(painter, QPointF(card.center().x(), card.bottom() - 31), name, bold=True, pixels=PLAIN)
        if design is not None:
            width = write_length(design.word_width_mm, unit=self.session.job.unit)
            said = f"{width}{', apart' if is_apart(self.session.job, garment, design) else ''}"
            draw_chalk_text(painter, QPointF(card.center().x(), card.bottom() - 13), said, pixels=SMALL)
        level = self._gravest(garment)
        if level is not None:
            draw_sign(painter, level, QRectF(card.right() - 24, card.top() + 4, 18, 18), "!")

    def _scale(self, card: QRectF) -> float:
        """Return the pixels per mm at which the largest size still fits a card, so that all are drawn alike."""
        boxes = []
        for garment in self.session.plan.garments:
            design = design_on(self.session, garment)
            boxes.append((design.panel if design is not None else garment.blank.main).bounds)
        wide = max(right - left for left, _, right, _ in boxes)
        high = max(bottom - top for _, top, _, bottom in boxes)
        return min((card.width() - 12) / wide, (card.height() - 50) / high)

    def _gravest(self, garment: "Garment") -> str | None:
        own = [f for f in self.session.plan.findings if f.place is not None and f.place.size == garment.size]
        return next((level for level in ("stop", "warn") if any(f.level == level for f in own)), None)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Look at a size."""
        for card, garment in self.cards():
            if card.contains(event.position()) and garment.size is not None:
                self.chosen.emit(garment.size)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """Go to a size on the table."""
        for card, garment in self.cards():
            if card.contains(event.position()) and garment.size is not None:
                self.opened.emit(garment.size)


def in_order(session: "Session") -> list["Garment"]:
    """Return the sizes of the job from the smallest to the largest."""
    order = list(sizes())
    return sorted(session.plan.garments, key=lambda garment: order.index(garment.size) if garment.size in order else 0)


def design_on(session: "Session", garment: "Garment") -> "FittedDesign | None":
    """Return the selected design on a size."""
    index = session.selection.design.index if session.selection.design is not None else 0
    return garment.designs[index] if index < len(garment.designs) else None


def is_apart(job: "Job", garment: "Garment", design: "FittedDesign") -> bool:
    """Tell whether a design on a size does not follow the others."""
    member = job.member(garment.size)
    return member is not None and member.apart_for(design.index) is not None


class SizesView(QWidget):
    """All sizes at once; a count or a width typed in the table is taken, a width sets its size apart."""

    opened = Signal(str)

    def __init__(self, session: "Session") -> None:
        super().__init__()
        self.session = session
        self.row = SizeRow(session)
        self.row.chosen.connect(lambda size: session.selection.look_at(size=size))
        self.row.opened.connect(self.opened)
        self.table = make_table("Sizes with their widths and places", COLUMNS, editable=True)
        self.table.itemChanged.connect(self._take)
        self.table.itemSelectionChanged.connect(self._select)
        self.add = QPushButton(tr("Sizes ..."))
        self.add.setToolTip(tr("Choose the sizes that the job is made for"))
        self.add.clicked.connect(self._show_sizes)
        self.follow_again = QPushButton(tr("Back to the proposal"))
        self.follow_again.setToolTip(tr("Let the selected size follow the others again"))
        self.follow_again.clicked.connect(self._follow_again)
        self.show_it = QPushButton(tr("On the table"))
        self.show_it.setToolTip(tr("Show the selected size on the table"))
        self.show_it.clicked.connect(lambda: self.opened.emit(self.session.selection.garment.size or ""))
        buttons = QHBoxLayout()
        for button in (self.add, self.follow_again, self.show_it):
            buttons.addWidget(button)
        buttons.addStretch(1)
        column = QVBoxLayout(self)
        column.setContentsMargins(18, 70, 18, 16)
        column.setSpacing(10)
        column.addWidget(self.row)
        column.addLayout(buttons)
        column.addWidget(self.table, 1)
        session.plan_changed.connect(self.follow)
        self.follow()

    def showEvent(self, event: QShowEvent) -> None:
        """Show the plan as it is now."""
        super().showEvent(event)
        self.follow()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the felt and the title."""
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.fillRect(self.rect(), QBrush(felt_tile()))
            title = (
                "One design over several sizes"
                if self.session.selection.design is None
                else self.session.selection.design.name
            )
            middle = max(self.width() / 2, BESIDE_BAR_PX)
            draw_chalk_text(painter, QPointF(middle, 26), f"Sizes: {title.lower()}", bold=True, pixels=LARGE)
            said = "the width steps with the size, the place is worked out on each blank; all drawn in one scale"
            draw_chalk_text(painter, QPointF(middle, 47), said, pixels=PLAIN, name="quiet_chalk")
            draw_card(painter, QRectF(self.table.geometry()).adjusted(-4, -4, 4, 4))

    def follow(self) -> None:
        """Show the sizes of the plan, where they are in sight."""
        if not self.isVisible():
            return
        table, garments = self.table, in_order(self.session)
        table.blockSignals(True)
        table.setRowCount(len(garments))
        for row, garment in enumerate(garments):
            for column, (text, editable) in enumerate(self._cells(garment)):
                item = QTableWidgetItem(text)
                item.setData(Qt.ItemDataRole.UserRole, garment.size)
                flags = Qt.ItemFlag.ItemIsSelectable | Qt.ItemFlag.ItemIsEnabled
                item.setFlags(flags | Qt.ItemFlag.ItemIsEditable if editable else flags)
                if editable:
                    item.setToolTip(tr("Double-click, or press F2, to type another value"))
                table.setItem(row, column, item)
        sizes = [garment.size for garment in garments]
        if self.session.selection.garment.size in sizes:
            table.selectRow(sizes.index(self.session.selection.garment.size))
        table.blockSignals(False)
        design = design_on(self.session, self.session.selection.garment)
        self.follow_again.setEnabled(
            design is not None and is_apart(self.session.job, self.session.selection.garment, design)
        )
        self.add.setEnabled(len(blank_kind(self.session.job.blank.kind).sizes) > 1)

    def _cells(self, garment: "Garment") -> list[tuple[str, bool]]:
        unit, design = self.session.job.unit, design_on(self.session, garment)
        name = garment.blank.name.rpartition(", ")[2]
        cells = [(name, False), (str(garment.copies), True)]
        if design is None or design.placement is None or design.proposal is None or design.split is None:
            return cells + [("", False)] * (len(COLUMNS) - 2)
        apart = is_apart(self.session.job, garment, design)
        own = garment.size == self.session.plan.garments[0].size
        return [
            *cells,
            (write_length(design.word_width_mm, unit=unit), True),
            (write_length(design.split.height_mm, unit=unit), False),
            (write_length(design.placement.from_reference_mm, unit=unit), False),
            (write_length(int(design.proposal.usable_mm * 10) / 10, unit=unit), False),
            ("the job's own" if own else "set apart" if apart else "follows", False),
        ]

    def _take(self, item: QTableWidgetItem) -> None:
        size = item.data(Qt.ItemDataRole.UserRole)
        own = size == self.session.plan.garments[0].size
        done = False
        if item.column() == COUNT:
            done = self._take_count(item.text(), size, own)
        elif item.column() == WIDTH:
            done = self._take_width(item.text(), size, own)
        if not done:
            self.follow()

    def _take_count(self, text: str, size: str, own: bool) -> bool:
        if not text.strip().isdigit() or not 1 <= int(text) <= 1000:
            self.session.said.emit(f"“{text}” is not a number of garments; write 1 to 1000.")
            return False
        if own:
            return self.session.apply(set_copies(int(text)))
        counts = tuple((one.size, int(text) if one.size == size else one.copies) for one in self.session.job.family)
        return self.session.apply(set_sizes(counts))

    def _take_width(self, text: str, size: str, own: bool) -> bool:
        try:
            mm = read_length(text, unit=self.session.job.unit)
        except ZinnetError as error:
            self.session.said.emit(str(error))
            return False
        if mm < 5:
            self.session.said.emit("The artwork can't be narrower than 5 mm; type a larger width.")
            return False
        index = self.session.selection.design.index if self.session.selection.design is not None else 0
        at: dict[str, Any] = {"design": index, "size": None if own else size}
        return self.session.apply(set_placement("width of the artwork", width_mm=mm, height_mm=None, **at))

    def _select(self) -> None:
        items = self.table.selectedItems()
        if items:
            self.session.selection.look_at(size=items[0].data(Qt.ItemDataRole.UserRole))

    def _show_sizes(self) -> None:
        menu = self.sizes_menu()
        menu.exec(self.add.mapToGlobal(self.add.rect().bottomLeft()))

    def sizes_menu(self) -> QMenu:
        """Return the menu in which sizes are ticked."""
        menu = QMenu(self)
        job, own = self.session.job, self.session.plan.garments[0].size
        for size in blank_kind(job.blank.kind).sizes:
            action = menu.addAction(sizes()[size].name)
            action.setCheckable(True)
            action.setChecked(size == own or job.member(size) is not None)
            action.setEnabled(size != own)
            action.triggered.connect(lambda on, size=size: self._tick(size, on))
        menu.addSeparator()
        menu.addAction("All sizes").triggered.connect(self._all_sizes)
        return menu

    def _tick(self, size: str, on: bool) -> None:
        if on:
            counts = (*((one.size, one.copies) for one in self.session.job.family), (size, 1))
            self.session.apply(set_sizes(counts))
        else:
            self.session.apply(remove_size(size))

    def _all_sizes(self) -> None:
        job, own = self.session.job, self.session.plan.garments[0].size
        kept = {one.size: one.copies for one in job.family}
        names = [size for size in blank_kind(job.blank.kind).sizes if size != own]
        self.session.apply(set_sizes(tuple((size, kept.get(size, 1)) for size in names)))

    def _follow_again(self) -> None:
        size, design = self.session.selection.garment.size, self.session.selection.design
        if size is not None and design is not None:
            edit: Edit = follow_family(size, design.index)
            self.session.apply(edit)
