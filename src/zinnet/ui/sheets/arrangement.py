"""The few numbers of an arrangement, and the questions it answers: how many fit, at what size n fit."""

from typing import TYPE_CHECKING, Any

from PySide6.QtGui import QIntValidator
from PySide6.QtWidgets import QCheckBox, QFormLayout, QLineEdit, QPushButton, QStackedWidget, QWidget

from zinnet.base.errors import ZinnetError
from zinnet.base.units import write_length
from zinnet.placement.arrange import Arc, Band, Ring, Rows, band_count, band_room, grid_on, usual_gap_mm
from zinnet.placement.rows import gap_for, how_many_fit, read_counts, row_lengths, size_for
from zinnet.ui.language import tr
from zinnet.ui.plain import Label, plain
from zinnet.ui.sheets.base import LengthField
from zinnet.ui.theme import SMALL, font

if TYPE_CHECKING:
    from zinnet.ui.session import Session

LEAST_WIDTH = 240


class NumberField(QLineEdit):
    """A whole number; empty is as many as fit."""

    def __init__(self, name: str, take: Any, most: int = 500) -> None:
        super().__init__()
        self._take = take
        self.setAccessibleName(name)
        self.setToolTip(plain(name))
        self.setPlaceholderText(tr("fit"))
        self.setValidator(QIntValidator(1, most, self))
        self.editingFinished.connect(self._finish)

    def show_number(self, number: int | None) -> None:
        """Show a number, unless one is being typed."""
        if not (self.hasFocus() and self.isModified()):
            self.setText("" if number is None else str(number))

    def _finish(self) -> None:
        if self.isModified():
            self.setModified(False)
            self._take(int(self.text()) if self.text() else None)


class ArrangementForm(QStackedWidget):
    """One small page per kind of arrangement; an artwork that lies once has none."""

    def __init__(self, session: "Session") -> None:
        super().__init__()
        self.session = session
        self.pages: dict[str, QWidget] = {}
        self._add_rows_page()
        self._add_arc_page()
        self._add_ring_page()
        self._add_band_page()

    def _page(self, kind: str) -> QFormLayout:
        page = QWidget()
        form = QFormLayout(page)
        form.setContentsMargins(0, 0, 0, 0)
        form.setVerticalSpacing(5)
        self.pages[kind] = page
        self.addWidget(page)
        return form

    def _row(self, form: QFormLayout, name: str, *widgets: QWidget) -> None:
        from PySide6.QtWidgets import QHBoxLayout

        label = Label(name)
        label.setProperty("quiet", True)
        row = QHBoxLayout()
        row.setSpacing(6)
        for widget in widgets:
            row.addWidget(widget, 1)
        form.addRow(label, row)

    def _length(self, name: str, field: str) -> LengthField:
        return LengthField(self.session, name, lambda mm: self._change(**{field: max(mm, 0.0)}))

    def _add_rows_page(self) -> None:
        form = self._page("rows")
        self.columns = NumberField("Columns; empty: as many as fit", lambda n: self._change(columns=n))
        self.rows = NumberField("Rows; empty: as many as fit", lambda n: self._change(rows=n))
        self.gap_x = self._length("Gap between columns", "gap_x_mm")
        self.gap_y = self._length("Gap between rows", "gap_y_mm")
        self.margin = self._length("Margin kept to the usable area", "margin_mm")
        self.stagger = QCheckBox(tr("staggered"))
        self.stagger.setToolTip(tr("Every second row is shifted by half a step"))
        self.stagger.toggled.connect(lambda on: self._change(stagger=on))
        self.wanted = NumberField("How many are wanted; the width follows", self._fit_count, 2000)
        self.wanted.setPlaceholderText("n")
        self.spread = QPushButton(tr("Spread"))
        self.spread.setToolTip(tr("Choose the gaps so that the rows and columns fill the area from edge to edge"))
        self.spread.clicked.connect(self._spread)
        self.counts = QLineEdit()
        self.counts.setAccessibleName(tr("How many each row has"))
        self.counts.setToolTip(tr("How many each row has, from the top, such as 3-2-3-2-3; empty: by columns and rows"))
        self.counts.setPlaceholderText("3-2-3")
        self.counts.editingFinished.connect(self._take_counts)
        self._row(form, "Columns, rows", self.columns, self.rows)
        self._row(form, "In each row", self.counts)
        self._row(form, "Gaps", self.gap_x, self.gap_y)
        self._row(form, "Margin", self.margin, self.stagger)
        self._row(form, "Make n fit", self.wanted, self.spread)
        self.answer = Label()
        self.answer.setFont(font(SMALL))
        self.answer.setWordWrap(True)
        form.addRow(self.answer)

    def _add_arc_page(self) -> None:
        form = self._page("arc")
        self.radius = self._length("Radius of the arc", "radius_mm")
        self.letter_gap = self._length("Clear gap between letters", "gap_mm")
        self.inward = QCheckBox(tr("inside the arc"))
        self.inward.setToolTip(tr("Letters stand on the inside, heads to the middle"))
        self.inward.toggled.connect(lambda on: self._change(inward=on))
        self.seam = QPushButton(tr("The seam's"))
        self.seam.setToolTip(tr("Follow the seam of the blank, from its measures"))
        self.seam.clicked.connect(lambda: self._change(radius_mm=None))
        self._row(form, "Radius", self.radius, self.seam)
        self._row(form, "Letter gap", self.letter_gap, self.inward)

    def _add_ring_page(self) -> None:
        form = self._page("ring")
        self.copies = NumberField("How many copies", lambda n: self._change(count=n or 1), 200)
        self.ring_radius = self._length("Radius to the copies' middles", "radius_mm")
        self.upright = QCheckBox(tr("all upright"))
        self.upright.toggled.connect(lambda on: self._change(upright=on))
        self._row(form, "Copies", self.copies, self.ring_radius)
        form.addRow(self.upright)

    def _add_band_page(self) -> None:
        form = self._page("band")
        self.band_copies = NumberField("How many copies; empty: as many as fit", lambda n: self._change(count=n), 200)
        self.band_gap = self._length("Least gap between copies", "gap_mm")
        self._row(form, "Copies, gap", self.band_copies, self.band_gap)
        self.band_answer = Label()
        self.band_answer.setFont(font(SMALL))
        self.band_answer.setWordWrap(True)
        form.addRow(self.band_answer)

    def follow(self) -> None:
        """Show the arrangement of the selected design."""
        design = self.session.selection.design
        placement = design.placement if design is not None else None
        spec = placement.arrangement if placement is not None else None
        self.setVisible(spec is not None and spec.kind != "one")
        if placement is None or spec is None or spec.kind == "one":
            return
        self.setCurrentWidget(self.pages[spec.kind])
        unit = self.session.job.unit
        if isinstance(spec, Rows):
            grid = grid_on(spec, placement.panel, placement.width_mm, placement.height_mm)
            self.columns.show_number(spec.columns)
            self.rows.show_number(spec.rows)
            self.gap_x.show_mm(grid.gap_x)
            self.gap_y.show_mm(grid.gap_y)
            self.margin.show_mm(spec.margin_mm)
            self._show_check(self.stagger, spec.stagger)
            if not (self.counts.hasFocus() and self.counts.isModified()):
                self.counts.setText("-".join(map(str, spec.counts)))
            for field in (self.columns, self.rows, self.stagger):
                field.setEnabled(not spec.counts)
            lengths = list(spec.counts) or row_lengths(grid, spec.columns, spec.rows)
            most = how_many_fit(grid)
            self.answer.setText(
                f"{sum(lengths)} in {len(lengths)} rows; {most} fit in all at this size."
                if lengths
                else "Not one fits; choose a smaller width or margin."
            )
        elif isinstance(spec, Arc):
            arc = placement.panel.arc
            self.radius.show_mm(spec.radius_mm or (arc.radius if arc is not None else 200.0))
            self.seam.setEnabled(spec.radius_mm is not None and arc is not None)
            self.letter_gap.show_mm(design.setting.gap_mm if design is not None and design.setting else 0.0)
            self._show_check(self.inward, spec.inward)
        elif isinstance(spec, Ring):
            self.copies.show_number(spec.count)
            self.ring_radius.show_mm(spec.radius_mm)
            self._show_check(self.upright, spec.upright)
        elif isinstance(spec, Band):
            y = placement.centre[1]
            count, room = band_count(spec, placement.panel, placement.width_mm, y), band_room(placement.panel, y)
            self.band_copies.show_number(spec.count)
            self.band_gap.show_mm(spec.gap_mm or 0.0)
            gap = room / count - placement.width_mm
            self.band_answer.setText(
                f"{count} over {write_length(room, unit=unit)}, {write_length(gap, unit=unit)} between them"
                + (", the joint in the middle of a gap." if placement.panel.round_mm is not None else ".")
            )
        self._fit_height(spec.kind)

    def _fit_height(self, kind: str) -> None:
        """Be as high as the page asks for at this width: its answers are wrapped."""
        column = self.pages[kind].layout()
        if column is not None:
            column.invalidate()
            wrapped = column.totalHeightForWidth(max(self.width(), LEAST_WIDTH)) if column.hasHeightForWidth() else 0
            self.setFixedHeight(max(wrapped, column.totalSizeHint().height() if not wrapped else 0))

    def _show_check(self, box: QCheckBox, on: bool) -> None:
        box.blockSignals(True)
        box.setChecked(on)
        box.blockSignals(False)

    def _spec(self) -> Any:
        design = self.session.selection.design
        return design.placement.arrangement if design is not None and design.placement is not None else None

    def _change(self, **fields: Any) -> bool:
        spec = self._spec()
        if spec is None or not set(fields) <= set(type(spec).model_fields):
            return False
        return self.session.set_fit("arrangement", arrangement=spec.model_copy(update=fields).model_dump())

    def _take_counts(self) -> None:
        if not self.counts.isModified():
            return
        self.counts.setModified(False)
        try:
            counts = read_counts(self.counts.text())
        except ZinnetError as error:
            self.session.said.emit(str(error))
            self.follow()
            return
        if not self._change(counts=counts):
            self.follow()

    def _fit_count(self, count: int | None) -> None:
        """Take the largest size at which so many fit."""
        design, spec = self.session.selection.design, self._spec()
        if count is None or design is None or design.placement is None or not isinstance(spec, Rows):
            return
        at = design.placement
        free = spec.model_copy(update={"columns": None, "rows": None, "counts": ()})
        grid = grid_on(
            free.model_copy(
                update={
                    "gap_x_mm": grid_gap(spec.gap_x_mm, at.width_mm),
                    "gap_y_mm": grid_gap(spec.gap_y_mm, at.width_mm),
                }
            ),
            at.panel,
            at.width_mm,
            at.height_mm,
        )
        factor = size_for(grid, count)
        if factor <= 0:
            self.session.said.emit(f"{count} do not fit at any size with these gaps; make the gaps smaller.")
            return
        kept = free.model_copy(update={"gap_x_mm": grid.gap_x, "gap_y_mm": grid.gap_y})
        self.session.set_fit(
            f"make {count} fit", width_mm=int(factor * at.width_mm * 10) / 10, arrangement=kept.model_dump()
        )

    def _spread(self) -> None:
        """Choose the gaps at which the rows and columns that are asked for reach from edge to edge."""
        design, spec = self.session.selection.design, self._spec()
        if design is None or design.placement is None or not isinstance(spec, Rows):
            return
        at = design.placement
        grid = grid_on(spec, at.panel, at.width_mm, at.height_mm)
        lengths = row_lengths(grid, spec.columns, spec.rows)
        columns, rows = spec.columns or max(lengths, default=1), spec.rows or len(lengths) or 1
        across = gap_for(grid.field_width, grid.width * (1.5 if spec.stagger and columns == 1 else 1.0), columns)
        down = gap_for(grid.field_height, grid.height, rows)
        if across is None or down is None:
            self.session.said.emit(
                f"{columns} columns and {rows} rows do not fit at this size; choose a smaller width."
            )
            return
        fields = {"columns": columns, "rows": rows, "gap_x_mm": int(across * 10) / 10, "gap_y_mm": int(down * 10) / 10}
        self._change(**fields)


def grid_gap(asked: float | None, width: float) -> float:
    """Return the gap that is asked for, else the proposed one at this width."""
    return usual_gap_mm(width) if asked is None else asked
