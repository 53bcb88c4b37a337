"""The sheet of Nest: how the pieces are nested."""

from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtGui import QIntValidator
from PySide6.QtWidgets import QCheckBox, QComboBox, QLineEdit

from zinnet.base.units import write_length
from zinnet.job.edits import set_copies, set_nesting
from zinnet.machines.cutters import usual_gap_mm
from zinnet.nesting.mat_sheets import gap_of
from zinnet.ui.language import tr
from zinnet.ui.plain import plain
from zinnet.ui.sheets.base import LengthField, PropertySheet

if TYPE_CHECKING:
    from zinnet.nesting.model import Aim
    from zinnet.ui.session import Session

MOST_COPIES = 1000
AIM_ORDERS: tuple[tuple[str, tuple["Aim", ...]], ...] = (
    ("scraps first", ("scraps", "loads", "film", "rest")),
    ("few loads first", ("loads", "scraps", "film", "rest")),
    ("little film first", ("film", "scraps", "loads", "rest")),
    ("a long rest first", ("rest", "scraps", "loads", "film")),
)
"""The orders of the aims that are offered, by what counts first."""
CUT_APART = (("whole", "whole"), ("apart where it saves", "proposed"), ("in all parts", "parts"))
"""How layers are cut, as it is offered."""


def _order_of(aims: tuple["Aim", ...]) -> tuple["Aim", ...]:
    """Return the offered order that begins with the same aim."""
    return next(order for _, order in AIM_ORDERS if order[0] == aims[0])


FOR_HOW_MANY = "For how many garments the pieces are cut"
TYPED_THERE = "All sizes together; type them on the job card (F7)"


class NestSheet(PropertySheet):
    """How the pieces are nested."""

    def __init__(self, session: "Session") -> None:
        super().__init__(session, "Nest")
        self.copies = QLineEdit()
        self.copies.setValidator(QIntValidator(1, MOST_COPIES, self))
        self.copies.setMaximumWidth(120)
        self.copies.setAccessibleName(tr("Number of garments"))
        self.copies.editingFinished.connect(self._set_copies)
        self.mat = QComboBox()
        self.mat.setAccessibleName(tr("Mat"))
        self.mat.setToolTip(tr("The mat that the film lies on"))
        self.mat.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.mat.setMinimumContentsLength(9)
        self._fill_mats()
        self.mat.activated.connect(lambda: session.apply(set_nesting("choose mat", mat=self.mat.currentData())))
        self.gap = LengthField(session, "Room for scissors", self._set_gap)
        self.apart = self.make_combo(
            "Layers",
            "Whole on one carrier, or cut apart at wide gaps where that saves enough; words and letters stay whole",
            self._set_apart,
        )
        for said, way in CUT_APART:
            self.apart.addItem(tr(said), way)
        self.inside = QCheckBox(tr("Small pieces inside counters"))
        self.inside.setToolTip(
            tr("Pieces may lie in counters of larger ones where scissors reach; the waste there is weeded first")
        )
        self.inside.toggled.connect(
            lambda inside: session.apply(set_nesting("pieces inside counters", inside_counters=inside))
        )
        self.source = self.make_combo(
            "Cut from", "From mats full of film, or from what is on the shelf, scraps first", self._set_source
        )
        self.source.addItem("full mats", False)
        self.source.addItem("the shelf", True)
        self.turns = self.make_combo(
            "Rotation",
            "How pieces may be turned on the mat; film with a nap or pattern is never turned",
            self._set_turns,
        )
        for said, name in (("by quarters", "quarter"), ("by any angle", "any"), ("by a half", "half"), ("not", "none")):
            self.turns.addItem(said, name)
        self.frame = self.make_combo(
            "Weed frame", "A frame that leaves the rest of the film with a straight edge", self._set_frame
        )
        for said, name in (("none", "none"), ("around each piece", "piece"), ("around all on a mat", "mat")):
            self.frame.addItem(said, name)
        self.aim = self.make_combo("Goal", "What counts first, once all pieces are placed", self._set_aim)
        for said, aims in AIM_ORDERS:
            self.aim.addItem(said, aims)
        self.spare = QLineEdit()
        self.spare.setValidator(QIntValidator(0, MOST_COPIES, self))
        self.spare.setMaximumWidth(120)
        self.spare.setAccessibleName(tr("Spare copies"))
        self.spare.setToolTip(tr("How many more of every piece are cut, for a miscut"))
        self.spare.editingFinished.connect(self._set_spare)
        self.test_cut = QCheckBox(tr("Keep a spot for the test cut"))
        self.test_cut.setToolTip(tr("A small square of each film stays free"))
        self.test_cut.toggled.connect(lambda on: session.apply(set_nesting("spot for the test cut", test_cut=on)))
        self.share = QCheckBox(tr("Several films on one mat"))
        self.share.setToolTip(tr("Films of one setting share a mat; the trim list says where each is stuck"))
        self.share.toggled.connect(lambda on: session.apply(set_nesting("several films on a mat", share_mats=on)))
        for field in (self.copies, self.spare):
            field.setMinimumWidth(40)
        self.add_pair("Garments", self.copies, self.make_label("spare"), self.spare)
        self.add_row("Cut from", self.source)
        self.add_row("Mat", self.mat)
        self.add_row("Spacing", self.gap)
        self.add_row("Rotation", self.turns)
        self.add_row("Frame", self.frame)
        self.add_row("Goal", self.aim)
        self.add_row("Layers", self.apart)
        self.form.addRow(self.test_cut)
        self.form.addRow(self.share)
        self.form.addRow(self.inside)

    def _set_apart(self) -> None:
        self.session.apply(set_nesting("cut apart", cut_apart=self.apart.currentData()))

    def _fill_mats(self) -> None:
        """Offer every mat below the machine that takes it, and the user's own that no machine is named for."""
        machines = self.session.workshop.machines
        known = dict(machines.mats)
        named = [(machine.name, name) for _, machine in machines.cutters for name in machine.mats]
        alone = [("no machine named", name) for name in known if name not in {name for _, name in named}]
        last = None
        for machine, name in named + alone:
            if self.mat.findData(name) >= 0:
                continue
            if last not in (None, machine):
                self.mat.insertSeparator(self.mat.count())
            self.mat.addItem(known[name].name, name)
            self.mat.setItemData(self.mat.count() - 1, machine, Qt.ItemDataRole.ToolTipRole)
            last = machine

    def follow(self) -> None:
        """Show how the pieces are nested."""
        job = self.session.job
        several = bool(job.family or job.names.rows)
        self.copies.setReadOnly(several)
        self.copies.setToolTip(plain(tr(TYPED_THERE if several else FOR_HOW_MANY)))
        if not (self.copies.hasFocus() and self.copies.isModified()):
            self.copies.setText(str(self.session.plan.copies))
        for box, checked in (
            (self.inside, job.nesting.inside_counters),
            (self.test_cut, job.nesting.test_cut),
            (self.share, job.nesting.share_mats),
        ):
            box.blockSignals(True)
            box.setChecked(checked)
            box.blockSignals(False)
        if not (self.spare.hasFocus() and self.spare.isModified()):
            self.spare.setText(str(job.nesting.spare))
        self.apart.setCurrentIndex(self.apart.findData(job.nesting.cut_apart))
        self.source.setCurrentIndex(self.source.findData(job.nesting.from_shelf))
        self.turns.setCurrentIndex(self.turns.findData(job.nesting.turns))
        self.frame.setCurrentIndex(self.frame.findData(job.nesting.weed_frame))
        self.aim.setCurrentIndex([aims for _, aims in AIM_ORDERS].index(_order_of(job.nesting.aims)))
        index = self.mat.findData(job.nesting.mat)
        if index < 0:
            self.mat.addItem(job.nesting.mat, job.nesting.mat)
            index = self.mat.count() - 1
        self.mat.setCurrentIndex(index)
        self.gap.show_mm(gap_of(job.nesting))
        usual = write_length(usual_gap_mm(), unit=job.unit)
        self.gap.setToolTip(plain(f"Room for scissors between pieces; {usual} is usual"))

    def _set_copies(self) -> None:
        if self.copies.isModified() and not self.copies.isReadOnly():
            self.copies.setModified(False)
            self.session.apply(set_copies(int(self.copies.text())))

    def _set_source(self) -> None:
        self.session.apply(set_nesting("what to cut from", from_shelf=self.source.currentData(), moved=(), pins=()))

    def _set_turns(self) -> None:
        self.session.apply(set_nesting("turns on the mat", turns=self.turns.currentData()))

    def _set_frame(self) -> None:
        self.session.apply(set_nesting("weed frame", weed_frame=self.frame.currentData()))

    def _set_aim(self) -> None:
        self.session.apply(set_nesting("aim of the nest", aims=AIM_ORDERS[self.aim.currentIndex()][1]))

    def _set_spare(self) -> None:
        if self.spare.isModified():
            self.spare.setModified(False)
            self.session.apply(set_nesting("spare copies", spare=int(self.spare.text())))

    def _set_gap(self, mm: float) -> bool:
        if mm < 0:
            self.session.said.emit("The room between pieces can't be less than zero.")
            return False
        return self.session.apply(set_nesting("room for scissors", gap_mm=mm))
