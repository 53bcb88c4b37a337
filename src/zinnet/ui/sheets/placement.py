"""The sheet of Fit: which design, its place, size and distances, and how it is arranged."""

from typing import TYPE_CHECKING

from PySide6.QtWidgets import QLineEdit, QPushButton

from zinnet.job.edits import choose_place, remove_design
from zinnet.placement.arrange import DEFAULTS
from zinnet.placement.guides import schools
from zinnet.placement.place import places_on
from zinnet.ui.language import tr
from zinnet.ui.plain import Label, plain
from zinnet.ui.sheets.arrangement import ArrangementForm
from zinnet.ui.sheets.base import LengthField, PropertySheet
from zinnet.ui.stations.held import LEAST_WIDTH_MM, Held

if TYPE_CHECKING:
    from zinnet.ui.session import Session

ARRANGED = {
    "one": "once",
    "rows": "in rows and columns",
    "arc": "letters along an arc",
    "ring": "round a circle",
    "band": "as a band all round",
}


class PlacementSheet(PropertySheet):
    """The selected design: its size and place."""

    def __init__(self, session: "Session") -> None:
        super().__init__(session, "Place and size")
        self.design = self.make_combo("Design", "Which design is placed", self._choose_design)
        self.remove = QPushButton(tr("Remove"))
        self.remove.setToolTip(tr("Take this design out of the job; undo brings it back"))
        self.remove.clicked.connect(self._remove)
        self.place = self.make_combo("Place", "Where on the blank it goes", self._choose_place)
        self.width_field = LengthField(session, "Width", self._set_width)
        self.height_field = LengthField(session, "Height", self._set_height)
        self.lock = QPushButton(tr("Locked"))
        self.lock.setCheckable(True)
        self.lock.setChecked(True)
        self.lock.setToolTip(tr("Width and height keep their proportions; click to let them go apart"))
        self.lock.toggled.connect(self._lock)
        self.below = LengthField(session, "Distance", lambda mm: session.set_fit("distance", from_reference_mm=mm))
        self.centre = LengthField(
            session, "Right of the centre line", lambda mm: session.set_fit("move", from_centre_mm=mm)
        )
        self.turn = QLineEdit()
        self.turn.setAccessibleName(tr("Turn in degrees"))
        self.turn.setToolTip(tr("Turn in degrees, clockwise"))
        self.turn.editingFinished.connect(self._set_turn)
        self.school = self.make_combo(
            "Method", "How far under the collar the top edge goes, by the method of measuring it", self._choose_school
        )
        for name, school in schools().items():
            self.school.addItem(school.name, name)
        self.habit = QPushButton(tr("Always"))
        self.habit.setProperty("small", True)
        self.habit.setToolTip(tr("Use this method from now on for this kind of blank and size"))
        self.habit.clicked.connect(self._make_habit)
        self.arranged = self.make_combo("Arrangement", "How often it lies there, and how", self._choose_arrangement)
        for name, said in ARRANGED.items():
            self.arranged.addItem(said, name)
        self.design_row = self.add_pair("Design", self.design, self.remove)
        self.held = Held(session, lambda design: design.placement)
        self.group_name = Label()
        self.group_width = LengthField(session, "Width of the group", self.held.set_width)
        self.group_row = self.add_pair("Group", self.group_name, self.group_width)
        self.add_pair("Place", self.place)
        self.add_pair("Width", self.width_field, self.lock)
        self.add_pair("Height", self.height_field, self.make_label("turn"), self.turn)
        self.distance_row = self.add_pair("Down", self.below, self.make_label("aside"), self.centre)
        self.school_row = self.add_pair("Method", self.school, self.habit)
        self.add_pair("Arrangement", self.arranged)
        self.arrangement = ArrangementForm(session)
        self.form.addRow(self.arrangement)
        self.note = self.add_note()

    def follow(self) -> None:
        """Show the placement of the selected design."""
        design, garment = self.session.selection.design, self.session.selection.garment
        placement = design.placement if design is not None else None
        self.setEnabled(placement is not None)
        if design is None or placement is None:
            self.note.setText(tr("Open artwork to fit it."))
            return
        self.design.clear()
        for one in garment.designs:
            self.design.addItem(f"{one.index + 1}: {one.called or one.name}", one.index)
        self.design.setCurrentIndex(design.index)
        self.form.setRowVisible(self.design_row, len(garment.designs) > 1)
        group = self.held.group
        self.form.setRowVisible(self.group_row, group is not None)
        if group is not None:
            self.group_name.setText(design.group[0])
            self.group_width.show_mm(group.width_mm)
        self.place.clear()
        for name, place in places_on(garment.blank).items():
            self.place.addItem(place.name, name)
        self.place.setCurrentIndex(self.place.findData(placement.place.id))
        stretched = design.split is not None and abs(design.split.stretch - 1) > 1e-3
        if stretched and self.lock.isChecked():
            self._show_lock(False)
        self.width_field.show_mm(design.word_width_mm)
        self.height_field.show_mm(self._height())
        self.height_field.setReadOnly(self.lock.isChecked())
        self.below.show_mm(placement.from_reference_mm)
        side = "above" if placement.place.anchor == "bottom" else "below"
        self.below.setToolTip(plain(f"How far {side} the {placement.place.reference_name}; type it like 76 mm or 3 in"))
        self.centre.show_mm(placement.from_centre_mm)
        if not (self.turn.hasFocus() and self.turn.isModified()):
            self.turn.setText(f"{placement.turn_deg:g}°")
        self.form.setRowVisible(self.school_row, placement.school is not None)
        self.form.setRowVisible(self.distance_row, placement.arrangement.kind in ("one", "arc", "band", "ring"))
        self.school.setCurrentIndex(self.school.findData(placement.school))
        self.arranged.setCurrentIndex(self.arranged.findData(placement.arrangement.kind))
        self.arrangement.follow()
        self.note.setText(self._said())

    def _height(self) -> float:
        design = self.session.selection.design
        if design is None or design.split is None:
            return 0.0
        return design.split.height_mm

    def _said(self) -> str:
        design, size = self.session.selection.design, self.session.selection.at["size"]
        assert design is not None
        if size is not None:
            member = self.session.job.member(size)
            if member is not None and member.apart_for(design.index) is not None:
                return "This size is set apart from the others."
            return "This size follows the others; a change here sets it apart."
        said = "The width is a proposal. " if design.spec.width_mm is None else ""
        return f"{said}The last word is a step back and a look: collars and cuts differ."

    def _choose_design(self) -> None:
        self.session.selection.look_at(design=self.design.currentData())

    def _remove(self) -> None:
        if self.session.selection.design is not None:
            index = self.session.selection.design.index
            self.session.selection.look_at(design=0)
            self.session.apply(remove_design(index))

    def _choose_place(self) -> None:
        self.session.selection.choose_panel(None)
        self.session.apply(choose_place(self.place.currentData(), **self.session.selection.at))

    def _set_width(self, mm: float) -> bool:
        if mm < LEAST_WIDTH_MM:
            self.session.said.emit("The artwork can't be narrower than 5 mm; type a larger width.")
            return False
        height = None if self.lock.isChecked() else self._height()
        return self.session.set_fit("width of the artwork", width_mm=mm, height_mm=height)

    def _set_height(self, mm: float) -> bool:
        design = self.session.selection.design
        if design is None or mm < LEAST_WIDTH_MM:
            self.session.said.emit("The artwork can't be lower than 5 mm; type a larger height.")
            return False
        return self.session.set_fit("height of the artwork", width_mm=design.word_width_mm, height_mm=mm)

    def _lock(self, locked: bool) -> None:
        self.lock.setText("Locked" if locked else "Apart")
        self.height_field.setReadOnly(locked)
        design = self.session.selection.design
        if locked and design is not None and design.spec.height_mm is not None:
            self.session.set_fit("restore the proportions", height_mm=None)

    def _show_lock(self, locked: bool) -> None:
        self.lock.blockSignals(True)
        self.lock.setChecked(locked)
        self.lock.setText("Locked" if locked else "Apart")
        self.lock.blockSignals(False)

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
            self.session.set_fit("turn the artwork", turn_deg=angle)
        self.follow()

    def _choose_school(self) -> None:
        self.session.set_fit("school of distances", school=self.school.currentData(), from_reference_mm=None)

    def _make_habit(self) -> None:
        blank, habits = self.session.selection.garment.blank, self.session.workshop.habits
        key = f"{blank.kind}/{blank.size_class}"
        others = tuple(one for one in habits.schools if one[0] != key)
        chosen = (*others, (key, self.school.currentData()))
        if self.session.take_habits(habits.model_copy(update={"schools": chosen})):
            self.session.said.emit(f"{self.school.currentText()} from now on for {blank.name.lower()}.")

    def _choose_arrangement(self) -> None:
        self.session.set_fit("arrangement", arrangement=DEFAULTS[self.arranged.currentData()])
