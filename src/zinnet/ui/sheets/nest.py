"""The sheet of Nest: how the pieces are nested."""

from PySide6.QtGui import QIntValidator
from PySide6.QtWidgets import QCheckBox, QComboBox, QLineEdit

from zinnet.edits import set_copies, set_nesting
from zinnet.nesting.mats import gap_of, mats, usual_gap_mm
from zinnet.ui.session import Session
from zinnet.ui.sheets.base import LengthField, PropertySheet
from zinnet.units import write_length

MOST_COPIES = 1000


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
        self.inside = QCheckBox("Small pieces inside counters")
        self.inside.setToolTip("Pieces may lie in the counters of larger ones; the waste there is weeded first")
        self.inside.toggled.connect(
            lambda inside: session.apply(set_nesting("pieces inside counters", inside_counters=inside))
        )
        self.add_row("Garments", self.copies)
        self.add_row("Mat", self.mat)
        self.add_row("Room", self.gap)
        self.form.addRow(self.together)
        self.form.addRow(self.inside)
        self.note = self.add_note()

    def follow(self) -> None:
        """Show how the pieces are nested."""
        job = self.session.job
        if not (self.copies.hasFocus() and self.copies.isModified()):
            self.copies.setText(str(job.copies))
        for box, checked in (
            (self.together, job.nesting.keep_together),
            (self.inside, job.nesting.inside_counters),
        ):
            box.blockSignals(True)
            box.setChecked(checked)
            box.blockSignals(False)
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
