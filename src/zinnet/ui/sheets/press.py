"""The sheet of Press: school, covers, platen, the size that is looked at, and who and what works at it."""

from collections.abc import Sequence
from typing import TYPE_CHECKING, Any

from PySide6.QtWidgets import QCheckBox, QComboBox, QPushButton, QSpinBox

from zinnet.base.units import write_length
from zinnet.job.edits import choose_platen, set_pressing
from zinnet.plan.fitting import platen_of
from zinnet.plan.presses import degrees_of
from zinnet.ui.language import tr
from zinnet.ui.plain import plain
from zinnet.ui.sheets.base import PropertySheet

if TYPE_CHECKING:
    from zinnet.ui.session import Session

SCHOOLS = (("tack", "tack, one full press last"), ("full", "full press for each layer"))
COVERS = (
    ("carriers", "used carriers"),
    ("parchment", "parchment"),
    ("sheet", "PTFE cover sheet"),
    ("none", "nothing"),
)
AT_ONCE: tuple[tuple[bool | None, str], ...] = (
    (None, "all that safely may"),
    (True, "all whose heats meet"),
    (False, "one after the other"),
)
METHODS = (("hinge", "dry, from a hinge"), ("wet", "wet"))


class PressSheet(PropertySheet):
    """How the job is pressed."""

    def __init__(self, session: "Session") -> None:
        super().__init__(session, "Press")
        self.size_box = self.make_combo("Size", "The size whose pressing is on the table", self._look_at)
        self.school = self._choice("Method", "Tack layers, or press each fully", "school", SCHOOLS)
        self.cover = self._choice("Cover", "What lies over bare film", "cover", COVERS)
        self.method = self._choice("Adhesive", "How adhesive film is laid", "method", METHODS)
        self.platen = self.make_combo("Platen", "What it is pressed with", self._choose_platen)
        self.together = self._choice("At once", "Which films go down in one press", "together", AT_ONCE)
        self.cold_plate = self._box("Cooled under a plate or stone", "cold_plate")
        self.presses = self._number("presses", "How many presses", 20)
        self.people = self._number("people", "How many people", 20)
        self.cooling = self._number("cooling", "How many garments can cool at once", 50)
        self.degrees = self._choice("Degrees", "The scale of heat", "degrees", (("C", "°C"), ("F", "°F")))
        self.degrees.setMinimumContentsLength(2)
        self.size_row = self.add_pair("Size", self.size_box)
        for said, widget in (
            ("Platen", self.platen),
            ("Method", self.school),
            ("Cover", self.cover),
            ("At once", self.together),
            ("Adhesive", self.method),
        ):
            self.add_row(said, widget)
        self.form.addRow(self.cold_plate)
        self.add_pair("Press, people", self.presses, self.people)
        self.add_pair("Cool, heat", self.cooling, self.degrees)
        self.new = QPushButton(tr("New press ..."))
        self.new.setToolTip(tr("Add the plate, press or iron that you use"))
        self.new.clicked.connect(lambda: self.window().own_things.new_press())  # type: ignore[attr-defined]
        self.form.addRow(self.new)
        self.note = self.add_note()

    def _choice(self, name: str, tip: str, field: str, rows: Sequence[tuple[Any, str]]) -> QComboBox:
        combo = self.make_combo(name, tip, lambda: self._set(name.lower(), field, combo.currentData()))
        for value, said in rows:
            combo.addItem(said, value)
        return combo

    def _box(self, said: str, field: str) -> QCheckBox:
        box = QCheckBox(said)
        box.setToolTip(plain(said))
        box.clicked.connect(lambda: self._set(said.lower(), field, box.isChecked()))
        return box

    def _number(self, field: str, tip: str, most: int) -> QSpinBox:
        number = QSpinBox()
        number.setRange(1, most)
        number.setAccessibleName(tip)
        number.setToolTip(plain(tip))
        number.setKeyboardTracking(False)
        number.setMaximumWidth(78)
        number.valueChanged.connect(lambda value: self._set(tip.lower(), field, value))
        return number

    def _set(self, name: str, field: str, value: Any) -> None:
        if getattr(self.session.job.pressing, field) != value:
            self.session.apply(set_pressing(name, **{field: value}))

    def follow(self) -> None:
        """Show how the job is pressed."""
        session, spec = self.session, self.session.job.pressing
        self.size_box.clear()
        for garment in session.plan.garments:
            self.size_box.addItem(garment.blank.name, garment.size)
        self.size_box.setCurrentIndex(session.selection.number)
        self.form.setRowVisible(self.size_row, len(session.plan.garments) > 1)
        for combo, value in (
            (self.school, spec.school),
            (self.cover, spec.cover),
            (self.method, spec.method),
            (self.degrees, degrees_of(session.job)),
        ):
            combo.setCurrentIndex(combo.findData(value))
        self.together.setCurrentIndex([value for value, _ in AT_ONCE].index(spec.together))
        presses = session.workshop.presses
        platen = platen_of(session.job, presses)
        self.platen.clear()
        for name, one in presses.platens:
            self.platen.addItem(one.name, name)
        self.platen.setCurrentIndex(self.platen.findData(presses.name_of(platen)))
        self.form.setRowVisible(self.platen, platen is not None)
        self.cold_plate.setChecked(spec.cold_plate)
        for number, count in ((self.presses, spec.presses), (self.people, spec.people), (self.cooling, spec.cooling)):
            number.blockSignals(True)
            number.setValue(count)
            number.blockSignals(False)
        bonds = {piece.kind.bond for press in session.plan.presses for work in press.works for piece in work.pieces}
        self.form.setRowVisible(self.method, "glue" in bonds)
        for widget in (self.together, self.school, self.cover, self.cold_plate):
            self.form.setRowVisible(widget, "heat" in bonds or not bonds)
        size = (
            ""
            if platen is None
            else (
                f"{write_length(platen.width_mm, unit=session.job.unit, with_unit=False)} x "
                f"{write_length(platen.height_mm, unit=session.job.unit)}. "
            )
        )
        self.note.setText(f"{size}F11: the bench, one card after another.")

    def _look_at(self) -> None:
        self.session.selection.look_at(size=self.size_box.currentData())

    def _choose_platen(self) -> None:
        self.session.apply(choose_platen(self.platen.currentData()))
