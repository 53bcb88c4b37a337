"""Comparing: the design as it is beside another width, school or size, both in one scale."""

from dataclasses import dataclass
from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QBrush, QPainter, QPaintEvent
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from zinnet.base.units import write_length
from zinnet.blanks.catalogue import blank_kind, sizes
from zinnet.job.edits import Edit, set_blank, set_placement
from zinnet.placement.guides import schools
from zinnet.placement.place import edge_distances
from zinnet.plan.fitting import fitting_of
from zinnet.plan.sizes import fit_garments
from zinnet.ui.aside import Aside
from zinnet.ui.drawing import draw_card, draw_chalk_text, felt_tile
from zinnet.ui.garment import draw_centre_line, draw_layers, draw_panel, draw_usable, fit_into
from zinnet.ui.language import tr
from zinnet.ui.plain import Label
from zinnet.ui.sheets.base import LengthField
from zinnet.ui.theme import LARGE, PLAIN, SMALL, colour, font

if TYPE_CHECKING:
    from zinnet.plan.fitted import FittedDesign, Garment
    from zinnet.ui.session import Session


@dataclass(frozen=True, eq=False)
class _Side:
    """One of the two: a garment and the design on it."""

    garment: "Garment"
    design: "FittedDesign"


class CompareView(QWidget):
    """Two pictures side by side with their numbers; the right one may be taken."""

    def __init__(self, session: "Session") -> None:
        super().__init__()
        self.session = session
        self._edit: Edit | None = None
        self._right: _Side | None = None
        self._aside = Aside(session, self)
        self.what = QComboBox()
        self.what.setAccessibleName(tr("What is compared"))
        self.what.setToolTip(tr("What is different at the right"))
        for name, said in (("width", "another width"), ("school", "another school"), ("size", "another size")):
            self.what.addItem(said, name)
        self.what.activated.connect(self._choose_what)
        self.width_field = LengthField(session, "Width at the right", self._set_width)
        self.school = QComboBox()
        self.school.setAccessibleName(tr("Method at the right"))
        for name, school in schools().items():
            self.school.addItem(school.name, name)
        self.school.setCurrentIndex(2)
        self.school.activated.connect(self._try)
        self.size_box = QComboBox()
        self.size_box.setAccessibleName(tr("Size at the right"))
        self.size_box.activated.connect(self._try)
        self.take = QPushButton(tr("Take the right one"))
        self.take.setToolTip(tr("Make the job as it is at the right; undo takes it back"))
        self.take.clicked.connect(self._take)
        row = QHBoxLayout()
        label = Label(tr("Compare with"))
        label.setProperty("chalk", True)
        for widget in (label, self.what, self.width_field, self.school, self.size_box, self.take):
            row.addWidget(widget)
        row.addStretch(1)
        column = QVBoxLayout(self)
        column.setContentsMargins(18, 70, 18, 16)
        column.addLayout(row)
        column.addStretch(1)
        self._width_mm: float | None = None
        session.plan_changed.connect(self.follow)
        self._choose_what()

    def _choose_what(self) -> None:
        what = self.what.currentData()
        self.width_field.setVisible(what == "width")
        self.school.setVisible(what == "school")
        self.size_box.setVisible(what == "size")
        self._try()

    def _set_width(self, mm: float) -> bool:
        if mm < 5:
            self.session.said.emit("The artwork can't be narrower than 5 mm; type a larger width.")
            return False
        self._width_mm = mm
        self._try()
        return True

    def follow(self) -> None:
        """Show the plan."""
        if not self.isVisible():
            return
        known = blank_kind(self.session.job.blank.kind).sizes
        if [self.size_box.itemData(k) for k in range(self.size_box.count())] != list(known):
            self.size_box.clear()
            for size in known:
                self.size_box.addItem(sizes()[size].name, size)
            self.size_box.setCurrentIndex(min(1, len(known) - 1))
        self._try()

    def showEvent(self, event: object) -> None:
        """Show the plan as it is now."""
        super().showEvent(event)  # type: ignore[arg-type]
        self.follow()

    def other(self) -> Edit | None:
        """Return the edit that makes the job as it is at the right."""
        design = self.session.selection.design
        if design is None or design.placement is None or design.proposal is None:
            return None
        at, what = self.session.selection.at, self.what.currentData()
        if what == "width":
            usual = design.proposal.width_mm
            other = self._width_mm or (usual if abs(usual - design.word_width_mm) > 0.05 else usual * 0.8)
            self.width_field.show_mm(other)
            return set_placement("width of the artwork", width_mm=round(other, 1), height_mm=None, **at)
        if what == "school":
            return set_placement("school of distances", school=self.school.currentData(), from_reference_mm=None, **at)
        return set_blank("choose the size", size=self.size_box.currentData(), measured=())

    def _try(self) -> None:
        """Fit the design as it would be at the right, without touching the job."""
        self._edit = edit = self.other()
        self._right = None
        self.take.setEnabled(False)
        design = self.session.selection.design
        if edit is None or design is None:
            self._aside.forget()
        else:
            job, workshop, is_size = self.session.job, self.session.workshop, self.what.currentData() == "size"
            size = None if is_size else self.session.selection.garment.size

            def fit() -> _Side:
                with workshop.blanks.in_use():
                    changed = edit.change(job)
                    changed = changed.model_copy(update={"family": ()}) if is_size else changed
                    garments = fit_garments(fitting_of(changed, workshop))
                garment = next((one for one in garments if one.size == size), garments[0])
                return _Side(garment, garment.designs[design.index])

            self._aside.ask(edit, fit, self._show)
        self.update()

    def _show(self, right: _Side) -> None:
        self._right = right
        self.take.setEnabled(True)
        self.update()

    def _take(self) -> None:
        if self._edit is not None:
            self.session.apply(self._edit)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw both sides in one scale."""
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.fillRect(self.rect(), QBrush(felt_tile()))
            draw_chalk_text(painter, QPointF(self.width() / 2, 26), "Side by side", bold=True, pixels=LARGE)
            said = "both in one scale; nothing is changed until you take it"
            draw_chalk_text(painter, QPointF(self.width() / 2, 47), said, pixels=PLAIN, name="quiet_chalk")
            design = self.session.selection.design
            sides = [_Side(self.session.selection.garment, design) if design is not None else None, self._right]
            shown = [side for side in sides if side is not None]
            if shown:
                tallest = max(side.design.panel.bounds[3] - side.design.panel.bounds[1] for side in shown)
                for index, side in enumerate(sides):
                    if side is not None:
                        self._draw_side(painter, side, index, tallest)
            if self._aside.is_waiting:
                waits = QPointF(self.width() * 0.75, self.height() / 2)
                draw_chalk_text(painter, waits, "the other is being worked out ...", pixels=PLAIN, name="quiet_chalk")

    def _draw_side(self, painter: QPainter, side: _Side, index: int, tallest: float) -> None:
        half = self.width() / 2
        room = QRectF(index * half + 16, 116, half - 32, self.height() - 250)
        panel = side.design.panel
        share = (panel.bounds[3] - panel.bounds[1]) / tallest
        high = room.height() * share
        box = QRectF(room.left(), room.top() + room.height() - high, room.width(), high)
        world = fit_into(box, panel.bounds)
        draw_panel(painter, world, side.garment.blank, panel)
        draw_usable(painter, world, side.garment.blank, panel)
        draw_centre_line(painter, world, side.garment.blank, panel)
        draw_layers(painter, world, side.design)
        self._draw_numbers(painter, side, index, QRectF(room.left(), self.height() - 122, room.width(), 108))

    def _draw_numbers(self, painter: QPainter, side: _Side, index: int, card: QRectF) -> None:
        unit, design = self.session.job.unit, side.design
        if design.placement is None or design.proposal is None:
            return
        draw_card(painter, card, light=index == 1)
        at = design.placement
        edges = edge_distances(at)
        rows = [
            ("width", write_length(design.word_width_mm, unit=unit)),
            ("height", write_length(at.height_mm, unit=unit)),
            (f"from the {at.place.reference_name}", write_length(at.from_reference_mm, unit=unit)),
            ("to the edges", " and ".join(write_length(mm, unit=unit) for mm in edges) if edges else "beyond"),
        ]
        painter.setPen(colour("ink"))
        painter.setFont(font(PLAIN, bold=True))
        school = f", {schools()[at.school].name}" if at.school else ""
        title = ("As it is" if index == 0 else "Or") + f": {side.garment.blank.name}{school}"
        painter.drawText(card.adjusted(14, 8, -10, 0), title)
        for k, (name, value) in enumerate(rows):
            y = card.top() + 28 + k * 18
            painter.setFont(font(SMALL))
            painter.setPen(colour("quiet_ink"))
            painter.drawText(QRectF(card.left() + 14, y, 150, 18), 0x80, name)
            painter.setFont(font(PLAIN, bold=True))
            painter.setPen(colour("ink"))
            painter.drawText(QRectF(card.left() + 168, y, card.width() - 176, 18), 0x80, value)
        usual = "usual here" if design.proposal.holds(design.word_width_mm) else "outside the usual range"
        painter.setFont(font(SMALL))
        painter.setPen(colour("quiet_ink"))
        painter.drawText(QRectF(card.left() + 250, card.top() + 28, card.width() - 260, 18), 0x80, usual)
