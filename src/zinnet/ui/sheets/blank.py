"""The sheet of Measure: which blank it is, its cloth, spots to keep off, and the blanks that were kept."""

from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtGui import QColor
from PySide6.QtWidgets import (
    QColorDialog,
    QFileDialog,
    QInputDialog,
    QLineEdit,
    QPushButton,
)

from zinnet.bench.from_strangers import outline_apart
from zinnet.blanks.catalogue import blank_kinds, sizes
from zinnet.blanks.model import KEEP_OUT_KINDS, BlankSpec, OwnOutline
from zinnet.job.asked import cloth_called
from zinnet.job.edits import change_kind, choose_blank, set_blank, set_blank_colour
from zinnet.ui.card.form import fill_kinds
from zinnet.ui.language import tr
from zinnet.ui.plain import plain
from zinnet.ui.sheets.base import MayLength, PropertySheet

if TYPE_CHECKING:
    from zinnet.ui.session import Session
    from zinnet.workshop.store import KeptBlank

DOTS = ("label not read", "one dot, to 110 °C", "two dots, to 150 °C", "three dots, to 200 °C")
OUTLINE_FILTER = "Outlines (*.svg *.dxf)"


class BlankSheet(PropertySheet):
    """The blank: its kind, size, panel, cloth and label."""

    def __init__(self, session: "Session") -> None:
        super().__init__(session, "Blank")
        self.kind = self.make_combo("Kind of blank", "Which blank is pressed on", self._choose_kind)
        self.size_box = self.make_combo("Size", "The size of the blank", self._choose_size)
        self.panel = self.make_combo("Panel", "The side of the blank that is on the table", self._choose_panel)
        self.shoulder = self.make_combo("Shoulder", "Over which shoulder the sash is worn", self._choose_shoulder)
        for side in ("right", "left"):
            self.shoulder.addItem(f"over the {side} shoulder", side)
        self.colour = QPushButton()
        self.colour.clicked.connect(self._choose_colour)
        self.fabric = QLineEdit()
        self.fabric.setAccessibleName(tr("Fabric"))
        self.fabric.setToolTip(tr("What the label says the blank is made of"))
        self.fabric.editingFinished.connect(self._set_fabric)
        self.dots = self.make_combo("Ironing dots", "How many dots the iron on the care label has", self._choose_dots)
        for count, said in enumerate(DOTS):
            self.dots.addItem(said, count)
        self.outline = QPushButton(tr("Bring an outline ..."))
        self.outline.setToolTip(tr("Read the blank's outline from an SVG or a DXF"))
        self.outline.clicked.connect(self.choose_outline)
        self.keep_off = self.make_combo("Keep off", "Draw spots where nothing may be pressed", self._choose_keep_off)
        self.keep_off.addItem("no drawing", None)
        for kind in KEEP_OUT_KINDS:
            self.keep_off.addItem(f"draw: {kind}", kind)
        self.kept = self.make_combo("My blanks", "Blanks that you measured and kept", self._choose_kept)
        self.keep = QPushButton(tr("Keep"))
        self.keep.setToolTip(tr("Keep this blank with its measures under a name"))
        self.keep.clicked.connect(self._keep)
        self.add_pair("Kind", self.kind)
        self.size_row = self.add_pair("Size", self.size_box)
        self.add_pair("Panel", self.panel)
        self.shoulder_row = self.add_pair("Worn", self.shoulder)
        self.outline_row = self.add_pair("Outline", self.outline)
        self.add_pair("Cloth", self.fabric, self.colour)
        self.add_pair("Label", self.dots)
        self.add_pair("Keep off", self.keep_off)
        self.add_pair("My blanks", self.kept, self.keep)
        self.art_width, self.art_height = (
            MayLength(session, tr(f"Measured for the artwork: how {way}"), partial(self._set_room, field))
            for way, field in (("wide", "field_width_mm"), ("high", "field_height_mm"))
        )
        self.art_row = self.add_pair("For the art", self.art_width, self.art_height)
        self.note = self.add_note()
        self._kinds_shown: tuple[str, ...] = ()
        self._offer([])

    def follow(self) -> None:
        """Show the blank."""
        garment, spec = self.session.selection.garment, self.session.job.blank
        blank, kinds = garment.blank, blank_kinds()
        if tuple(kinds) != self._kinds_shown:
            self._kinds_shown = tuple(kinds)
            fill_kinds(self.kind)
        self.kind.setCurrentIndex(self.kind.findData(blank.kind))
        self.size_box.clear()
        for size in self._sizes():
            self.size_box.addItem(sizes()[size].name, size)
        self.size_box.setCurrentIndex(self.size_box.findData(blank.size))
        self.panel.clear()
        for panel in blank.panels:
            self.panel.addItem(panel.name, panel.id)
        self.panel.setCurrentIndex(self.panel.findData((self.session.selection.chosen_panel or blank.main).id))
        self._show_row(self.size_row, len(kinds[blank.kind].sizes) > 1)
        self._show_row(self.shoulder_row, kinds[blank.kind].form == "sash")
        self._show_row(self.outline_row, kinds[blank.kind].form == "own")
        self.shoulder.setCurrentIndex(self.shoulder.findData(spec.shoulder))
        self.colour.setText(cloth_called(self.session.job))
        self.colour.setToolTip(plain(f"The colour of the cloth, {blank.colour}; typed on the job card (F7) or here"))
        ink = "#26292b" if QColor(blank.colour).lightnessF() > 0.55 else "#fbf6ea"
        self.colour.setStyleSheet(f"QPushButton {{ background: {blank.colour}; color: {ink}; padding: 4px 6px; }}")
        if not self.fabric.isModified():
            self.fabric.setText(blank.fabric)
            self.fabric.setCursorPosition(0)
        self.dots.setCurrentIndex(blank.care_dots or 0)
        design = self.session.selection.design
        self._show_row(self.art_row, design is not None)
        if design is not None:
            self.art_width.show_length(design.spec.field_width_mm)
            self.art_height.show_length(design.spec.field_height_mm)
        self.note.setText(
            "A value with ~ is typical for this blank; yours wins as soon as you type it. "
            "Read the label before the press is hot."
        )

    def _set_room(self, field: str, mm: float | None) -> bool:
        """Take a length that was measured for the artwork itself: it fills that from now on."""
        fields: dict[str, Any] = {field: mm, "width_mm": None, "height_mm": None}
        return self.session.set_fit("room for the artwork", **fields)

    def _show_row(self, row: object, shown: bool) -> None:
        self.form.setRowVisible(row, shown)  # type: ignore[call-overload]

    def fill_kept(self) -> None:
        """Read the kept blanks beside the window, and offer them."""
        store = self.session.books.store
        if store.path.exists():
            self.session.background.run(store.blanks, self._offer, lambda error: self.session.said.emit(str(error)))

    def _offer(self, kept: list["KeptBlank"]) -> None:
        self.kept.clear()
        self.kept.addItem("choose ...", None)
        for blank in kept:
            self.kept.addItem(blank.name, blank.spec)

    def _choose_kind(self) -> None:
        self.session.selection.size = None
        self.session.selection.choose_panel(None)
        self.session.apply(change_kind(self.kind.currentData()))

    def _sizes(self) -> tuple[str, ...]:
        """Return the sizes to look at: those that are made; of a job for one size all that it might be."""
        job = self.session.job
        if job.family:
            return tuple(garment.size for garment in self.session.plan.garments if garment.size is not None)
        return blank_kinds()[job.blank.kind].sizes

    def _choose_size(self) -> None:
        if self.session.job.family:
            self.session.selection.look_at(size=self.size_box.currentData())
            return
        spec = self.session.job.blank.model_copy(update={"size": self.size_box.currentData(), "measured": ()})
        self.session.selection.size = None
        self.session.apply(choose_blank(spec, "choose the size"))

    def _choose_panel(self) -> None:
        self.session.selection.look_at(panel=self.panel.currentData())

    def _choose_shoulder(self) -> None:
        self.session.apply(set_blank("shoulder of the sash", shoulder=self.shoulder.currentData()))

    def _choose_colour(self) -> None:
        chosen = QColorDialog.getColor(QColor(self.session.plan.blank.colour), self, "Colour of the blank")
        if chosen.isValid():
            self.session.apply(set_blank_colour(chosen.name()))

    def _set_fabric(self) -> None:
        if self.fabric.isModified():
            self.fabric.setModified(False)
            self.session.apply(set_blank("fabric of the blank", fabric=self.fabric.text().strip() or None))

    def _choose_dots(self) -> None:
        self.session.apply(set_blank("dots of the care label", care_dots=self.dots.currentData()))

    def _choose_keep_off(self) -> None:
        self.session.keep_out_kind_changed.emit(self.keep_off.currentData())

    def _choose_kept(self) -> None:
        spec = self.kept.currentData()
        if isinstance(spec, BlankSpec):
            self.session.selection.size = None
            self.session.selection.choose_panel(None)
            self.session.apply(choose_blank(spec, "take a kept blank"))

    def _keep(self) -> None:
        suggested = f"my {self.session.plan.blank.name.lower()}"
        name, given = QInputDialog.getText(self, "Keep this blank", "Under which name?", text=suggested)
        if given:
            self.keep_as(name)

    def keep_as(self, name: str) -> None:
        """Keep the blank under a name beside the window, and offer it from then on."""
        spec, store = self.session.job.blank, self.session.books.store

        def keep() -> list["KeptBlank"]:
            store.keep_blank(name, spec)
            return store.blanks()

        def kept(blanks: list["KeptBlank"]) -> None:
            self._offer(blanks)
            self.session.said.emit(f"Kept as “{name}”; it is offered under My blanks from now on.")

        self.session.background.run(keep, kept, lambda error: self.session.said.emit(str(error)))

    def choose_outline(self) -> None:
        """Ask for a file with the outline, and take it."""
        name, _ = QFileDialog.getOpenFileName(self, "Outline of the blank", str(Path.home()), OUTLINE_FILTER)
        if name:
            self.take_outline(Path(name))

    def take_outline(self, path: Path) -> None:
        """Read an outline beside the window and take it."""
        self.session.background.run(
            lambda: outline_apart(path),
            self._set_outline,
            lambda error: self.session.said.emit(str(error)),
        )

    def _set_outline(self, outline: OwnOutline) -> None:
        self.session.apply(set_blank("outline of the blank", outline=outline))
