"""The few properties of what is on the table, below the findings: one small sheet per station."""

from collections.abc import Callable

from PySide6.QtGui import QColor, QIntValidator
from PySide6.QtWidgets import (
    QCheckBox,
    QColorDialog,
    QComboBox,
    QFormLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from zinnet.edits import (
    join_outlines,
    set_blank_colour,
    set_copies,
    set_method,
    set_nesting,
    set_placement,
)
from zinnet.errors import UnitsError
from zinnet.nesting.mats import gap_of, mats, usual_gap_mm
from zinnet.placement.guides import schools
from zinnet.ui.session import Session
from zinnet.ui.theme import LARGE, SMALL, font
from zinnet.units import read_length, write_length

MOST_COPIES = 1000


class LengthField(QLineEdit):
    """A length that is typed in any unit; a wrong one is given back with the reason."""

    def __init__(self, session: Session, name: str, take: Callable[[float], bool]) -> None:
        super().__init__()
        self.session, self._take, self._mm = session, take, 0.0
        self.setAccessibleName(name)
        self.setToolTip(f"{name}; type it like 270 mm, 27 cm or 10 1/2 in")
        self.setMaximumWidth(120)
        self.editingFinished.connect(self._finish)

    def show_mm(self, mm: float) -> None:
        """Show a length, unless one is being typed."""
        self._mm = mm
        if not (self.hasFocus() and self.isModified()):
            self.setText(write_length(mm, unit=self.session.job.unit))

    def _finish(self) -> None:
        if not self.isModified():
            return
        self.setModified(False)
        try:
            mm = read_length(self.text(), unit=self.session.job.unit)
        except UnitsError as error:
            self.session.said.emit(str(error))
        else:
            self._take(mm)
        self.show_mm(self._mm)


class PropertySheet(QWidget):
    """A titled form."""

    def __init__(self, session: Session, title: str) -> None:
        super().__init__()
        self.session = session
        head = QLabel(title)
        head.setFont(font(LARGE, bold=True))
        self.form = QFormLayout()
        self.form.setContentsMargins(0, 0, 0, 0)
        self.form.setVerticalSpacing(7)
        self.form.setHorizontalSpacing(14)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(head)
        column.addLayout(self.form)
        column.addStretch(1)

    def add_row(self, name: str, widget: QWidget) -> None:
        """Add a named row."""
        label = QLabel(name)
        label.setProperty("quiet", True)
        label.setBuddy(widget)
        self.form.addRow(label, widget)

    def add_note(self) -> QLabel:
        """Add a line of small text across the sheet."""
        note = QLabel()
        note.setFont(font(SMALL))
        note.setProperty("quiet", True)
        note.setWordWrap(True)
        self.form.addRow(note)
        return note

    def follow(self) -> None:
        """Show the plan."""


class BlankSheet(PropertySheet):
    """The blank: its kind and colour."""

    def __init__(self, session: Session) -> None:
        super().__init__(session, "Blank")
        self.kind = QLabel()
        self.colour = QPushButton()
        self.colour.setToolTip("The colour of the blank")
        self.colour.clicked.connect(self._choose)
        self.usable = QLabel()
        self.add_row("Kind", self.kind)
        self.add_row("Colour", self.colour)
        self.add_row("Usable area", self.usable)
        self.note = self.add_note()

    def follow(self) -> None:
        """Show the blank."""
        blank, unit = self.session.plan.blank, self.session.job.unit
        self.kind.setText(blank.name)
        self.colour.setText(blank.colour)
        ink = "#26292b" if QColor(blank.colour).lightnessF() > 0.55 else "#fbf6ea"
        self.colour.setStyleSheet(f"QPushButton {{ background: {blank.colour}; color: {ink}; }}")
        left, top, right, bottom = blank.usable.bounds
        self.usable.setText(
            f"{write_length(right - left, unit=unit, with_unit=False)} x {write_length(bottom - top, unit=unit)}"
        )
        self.note.setText("A value with ~ is typical for this blank; yours wins as soon as you type it.")

    def _choose(self) -> None:
        chosen = QColorDialog.getColor(QColor(self.session.plan.blank.colour), self, "Colour of the blank")
        if chosen.isValid():
            self.session.apply(set_blank_colour(chosen.name()))


class PlacementSheet(PropertySheet):
    """The artwork: its size and place."""

    def __init__(self, session: Session) -> None:
        super().__init__(session, "Artwork")
        self.width_field = LengthField(session, "Width", self._set_width)
        self.height_label = QLabel()
        self.below = LengthField(
            session,
            "Below the collar",
            lambda mm: session.apply(set_placement("distance from the collar", below_collar_mm=mm)),
        )
        self.centre = LengthField(
            session, "Right of the centre line", lambda mm: session.apply(set_placement("move", from_centre_mm=mm))
        )
        self.turn = QLineEdit()
        self.turn.setAccessibleName("Turn in degrees")
        self.turn.setToolTip("Turn in degrees, clockwise")
        self.turn.setMaximumWidth(120)
        self.turn.editingFinished.connect(self._set_turn)
        self.school = QComboBox()
        self.school.setToolTip("How far under the collar the top edge goes, by school")
        self.school.setAccessibleName("School of distance under the collar")
        for name, school in schools().items():
            self.school.addItem(school.name, name)
        self.school.activated.connect(self._choose_school)
        self.add_row("Width", self.width_field)
        self.add_row("Height", self.height_label)
        self.add_row("Below collar", self.below)
        self.add_row("School", self.school)
        self.add_row("From centre", self.centre)
        self.add_row("Turn", self.turn)
        self.note = self.add_note()

    def follow(self) -> None:
        """Show the placement."""
        placement, unit = self.session.plan.placement, self.session.job.unit
        self.setEnabled(placement is not None)
        if placement is None:
            self.note.setText("Open artwork to fit it.")
            return
        self.width_field.show_mm(placement.width_mm)
        self.height_label.setText(write_length(placement.height_mm, unit=unit))
        self.below.show_mm(placement.below_collar_mm)
        self.centre.show_mm(placement.from_centre_mm)
        if not (self.turn.hasFocus() and self.turn.isModified()):
            self.turn.setText(f"{placement.turn_deg:g}°")
        self.school.setCurrentIndex(self.school.findData(placement.school))
        proposed = self.session.job.placement.width_mm is None
        said = "The width is a proposal. " if proposed else ""
        self.note.setText(f"{said}The last word is a step back and a look: collars and cuts differ.")

    def _set_width(self, mm: float) -> bool:
        if mm < 5:
            self.session.said.emit("The artwork can't be narrower than 5 mm; type a larger width.")
            return False
        return self.session.apply(set_placement("width of the artwork", width_mm=mm))

    def _set_turn(self) -> None:
        if not self.turn.isModified():
            return
        self.turn.setModified(False)
        try:
            angle = float(self.turn.text().replace("°", "").replace(",", ".").strip())
            if not -360 <= angle <= 360:
                raise ValueError
        except ValueError:
            self.session.said.emit(f"“{self.turn.text()}” is not an angle; write degrees from -360 to 360.")
        else:
            self.session.apply(set_placement("turn the artwork", turn_deg=angle))
        self.follow()

    def _choose_school(self) -> None:
        self.session.apply(set_placement("school of distances", school=self.school.currentData(), below_collar_mm=None))


class LayersSheet(PropertySheet):
    """How the colours are split."""

    def __init__(self, session: Session) -> None:
        super().__init__(session, "Layers")
        self.method = QComboBox()
        self.method.setAccessibleName("How films lie")
        self.method.setToolTip("Films side by side, or the lower films going on under the upper ones")
        self.method.addItem("cut away, side by side", "cut-away")
        self.method.addItem("stacked", "stack")
        self.method.activated.connect(lambda: session.apply(set_method(self.method.currentData())))
        self.join = QCheckBox("Join crossing outlines of a colour")
        self.join.setToolTip("Shapes of one colour that overlap are cut as one")
        self.join.toggled.connect(self._join)
        self.add_row("Films lie", self.method)
        self.form.addRow(self.join)
        self.note = self.add_note()

    def follow(self) -> None:
        """Show the split."""
        spec = self.session.job.layers
        self.method.setCurrentIndex(self.method.findData(spec.method))
        self.join.blockSignals(True)
        self.join.setChecked(spec.join_outlines)
        self.join.blockSignals(False)
        self.note.setText("Which side is cut is derived from each film and from how it is seen.")

    def _join(self, join: bool) -> None:
        self.session.apply(join_outlines(join))


class NestSheet(PropertySheet):
    """How the pieces are nested."""

    def __init__(self, session: Session) -> None:
        super().__init__(session, "Nest")
        self.copies = QLineEdit()
        self.copies.setValidator(QIntValidator(1, MOST_COPIES, self))
        self.copies.setMaximumWidth(120)
        self.copies.setAccessibleName("Number of garments")
        self.copies.setToolTip("For how many garments the pieces are cut")
        self.copies.editingFinished.connect(self._set_copies)
        self.mat = QComboBox()
        self.mat.setAccessibleName("Mat")
        self.mat.setToolTip("The mat that the film lies on")
        for name, mat in mats().items():
            self.mat.addItem(mat.name, name)
        self.mat.activated.connect(lambda: session.apply(set_nesting("choose mat", mat=self.mat.currentData())))
        self.gap = LengthField(session, "Room for scissors", self._set_gap)
        self.together = QCheckBox("Keep each layer together")
        self.together.setToolTip("All parts of a layer keep their spacing, on one carrier")
        self.together.toggled.connect(
            lambda together: session.apply(set_nesting("keep together", keep_together=together))
        )
        self.add_row("Garments", self.copies)
        self.add_row("Mat", self.mat)
        self.add_row("Room", self.gap)
        self.form.addRow(self.together)
        self.note = self.add_note()

    def follow(self) -> None:
        """Show how the pieces are nested."""
        job = self.session.job
        if not (self.copies.hasFocus() and self.copies.isModified()):
            self.copies.setText(str(job.copies))
        self.together.blockSignals(True)
        self.together.setChecked(job.nesting.keep_together)
        self.together.blockSignals(False)
        index = self.mat.findData(job.nesting.mat)
        if index < 0:
            self.mat.addItem(job.nesting.mat, job.nesting.mat)
            index = self.mat.count() - 1
        self.mat.setCurrentIndex(index)
        self.gap.show_mm(gap_of(job.nesting))
        usual = write_length(usual_gap_mm(), unit=job.unit)
        self.note.setText(f"Room is kept for scissors between pieces; {usual} is usual.")

    def _set_copies(self) -> None:
        if self.copies.isModified():
            self.copies.setModified(False)
            self.session.apply(set_copies(int(self.copies.text())))

    def _set_gap(self, mm: float) -> bool:
        if mm < 0:
            self.session.said.emit("The room between pieces can't be less than zero.")
            return False
        return self.session.apply(set_nesting("room for scissors", gap_mm=mm))


class Properties(QStackedWidget):
    """The sheet of the station that is on the table."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.sheets = {
            "measure": BlankSheet(session),
            "fit": PlacementSheet(session),
            "split": LayersSheet(session),
            "nest": NestSheet(session),
        }
        for sheet in self.sheets.values():
            self.addWidget(sheet)
            session.plan_changed.connect(sheet.follow)
            sheet.follow()

    def show_station(self, station: str) -> None:
        """Show the sheet of a station."""
        self.setCurrentWidget(self.sheets[station])
