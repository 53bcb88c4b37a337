"""The sheet of Cut: the machine, its knife, what is cut besides, and the files."""

from typing import TYPE_CHECKING

from PySide6.QtWidgets import QCheckBox, QGridLayout, QLineEdit, QPushButton, QWidget

from zinnet.job.edits import set_cutting
from zinnet.output.cut_files import FORMATS
from zinnet.output.papers.cut_pdf import bleed_of
from zinnet.ui.language import tr
from zinnet.ui.plain import plain
from zinnet.ui.sheets.base import LengthField, PropertySheet

if TYPE_CHECKING:
    from zinnet.ui.session import Session

SAID = {"svg": "SVG", "dxf": "DXF", "hpgl": "HP-GL", "pdf": "PDF", "png": "PNG"}

FORMATS_A_ROW = 3


class CutSheet(PropertySheet):
    """How the job is cut."""

    def __init__(self, session: "Session") -> None:
        super().__init__(session, "Cut")
        self.machine = self.make_combo("Machine", "The machine that cuts", self._set_machine)
        self.new = QPushButton(tr("New ..."))
        self.new.setToolTip(tr("Add the cutting machine that you use, described as it shows itself"))
        self.new.setAccessibleName(tr("New machine"))
        self.new.clicked.connect(lambda: self.window().own_things.new_machine())  # type: ignore[attr-defined]
        self.offset = LengthField(session, "How far the knife's tip trails", self._set_offset)
        self.overcut = LengthField(session, "How far a line is cut on past its start", self._set_overcut)
        self.bleed = LengthField(session, "How far ink goes on past the trim line of what is printed", self._set_bleed)
        self.weed_lines = QCheckBox(tr("Lines through the waste"))
        self.weed_lines.setToolTip(tr("Part large waste inside weed frames by straight cuts; needs weed frames (Nest)"))
        self.weed_lines.clicked.connect(
            lambda: session.apply(set_cutting("lines through the waste", weed_lines=self.weed_lines.isChecked()))
        )
        self.names = QLineEdit()
        self.names.setAccessibleName(tr("Names of files"))
        self.names.setToolTip(tr("{job}, {mat} and {film} stand for what they say"))
        self.names.editingFinished.connect(self._set_names)
        self.formats: dict[str, QCheckBox] = {}
        boxes = QWidget()
        grid = QGridLayout(boxes)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(6)
        for number, name in enumerate(FORMATS):
            box = QCheckBox(SAID[name])
            box.setChecked(name in ("svg", "hpgl"))
            box.setToolTip(plain(f"Write {SAID[name]} files"))
            self.formats[name] = box
            grid.addWidget(box, number // FORMATS_A_ROW, number % FORMATS_A_ROW)
        self.write = QPushButton(tr("Write the cut files ..."))
        self.write.setToolTip(tr("Write all mats and the job sheet into a folder (Ctrl+E)"))
        self.add_pair("Machine", self.machine, self.new)
        for said, widget in (
            ("Blade trail", self.offset),
            ("Overcut", self.overcut),
            ("Bleed", self.bleed),
            ("", self.weed_lines),
            ("Names", self.names),
        ):
            self.add_row(said, widget)
        self.form.addRow(boxes)
        self.form.addRow(self.write)
        self.note = self.add_note()

    @property
    def chosen_formats(self) -> tuple[str, ...]:
        """The formats that are ticked."""
        return tuple(name for name, box in self.formats.items() if box.isChecked())

    def follow(self) -> None:
        """Show how the job is cut."""
        cutting = self.session.plan.cutting
        self.machine.clear()
        for name, machine in self.session.workshop.machines.cutters:
            self.machine.addItem(machine.name, name)
        self.machine.setCurrentIndex(self.machine.findData(cutting.machine))
        self.offset.show_mm(cutting.knife.offset_mm)
        self.overcut.show_mm(cutting.knife.overcut_mm)
        self.bleed.show_mm(bleed_of(cutting.spec))
        self.form.setRowVisible(self.bleed, any(load.is_printed for load in self.session.plan.loads))
        self.weed_lines.setChecked(cutting.spec.weed_lines)
        if not self.names.hasFocus():
            self.names.setText(cutting.spec.names)
        self.write.setEnabled(bool(self.session.plan.nests))
        stops = len(self.session.plan.open_stops)
        self.note.setText(
            f"{stops} open stop{'s' * (stops != 1)}: nothing is written or sent before."
            if stops
            else _knife(cutting.knife.offset_mm)
        )

    def _set_machine(self) -> None:
        self.session.apply(
            set_cutting("machine", machine=self.machine.currentData(), knife_offset_mm=None, overcut_mm=None)
        )

    def _set_offset(self, mm: float) -> bool:
        return self.session.apply(set_cutting("knife", knife_offset_mm=mm))

    def _set_overcut(self, mm: float) -> bool:
        return self.session.apply(set_cutting("overcut", overcut_mm=mm))

    def _set_bleed(self, mm: float) -> bool:
        return self.session.apply(set_cutting("bleed", bleed_mm=mm))

    def _set_names(self) -> None:
        if self.names.text() != self.session.job.cutting.names:
            self.session.apply(set_cutting("names of files", names=self.names.text()))


def _knife(offset_mm: float) -> str:
    if offset_mm == 0:
        return "The machine makes up for its knife itself; HP-GL holds the plain outlines."
    return "HP-GL holds the way of the knife's axis, so that its tip follows the outlines; other formats are plain."
