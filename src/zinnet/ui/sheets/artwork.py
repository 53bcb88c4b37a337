"""The sheet of Artwork: what was found in it, mended and left out."""

from typing import TYPE_CHECKING

from PySide6.QtWidgets import QPushButton

from zinnet.artwork.source import source_name
from zinnet.base.units import write_length
from zinnet.layers.split import own_size_mm
from zinnet.ui.aside import Aside
from zinnet.ui.language import tr
from zinnet.ui.plain import Label
from zinnet.ui.sheets.base import PropertySheet
from zinnet.ui.theme import SMALL, font

if TYPE_CHECKING:
    from zinnet.ui.session import Session

LEFT_OUT = {"left-out", "picture", "missing-glyph"}
MENDED = {"mended", "open-outline", "blend", "clipped", "flattened"}


class ArtworkSheet(PropertySheet):
    """What the reader has to say of the artwork."""

    def __init__(self, session: "Session") -> None:
        super().__init__(session, "What came in")
        self._own_mm: tuple[float, float] | None = None
        self._aside = Aside(session, self)
        self.name, self.own_size, self.found = Label(), Label(), Label()
        for label in (self.name, self.own_size, self.found):
            label.setWordWrap(True)
        self.design = self.make_combo("Design", "Which design is shown", self._choose)
        self.add_row("Design", self.design)
        self.add_row("From", self.name)
        self.add_row("Own size", self.own_size)
        self.add_row("Found", self.found)
        self.take_size = QPushButton(tr("Use its own size"))
        self.take_size.setToolTip(tr("Make the design as wide as its file says"))
        self.take_size.clicked.connect(self._take_size)
        self.form.addRow(self.take_size)
        self.mended, self.left_out = self.add_note(), self.add_note()
        for note in (self.mended, self.left_out):
            note.setFont(font(SMALL))

    def follow(self) -> None:
        """Show the report of the selected design."""
        design = self.session.selection.design
        if design is None:
            return
        self.form.setRowVisible(self.design, len(self.session.job.designs) > 1)
        names = [source_name(one.source) for one in self.session.job.designs]
        if [self.design.itemText(k) for k in range(self.design.count())] != names:
            self.design.clear()
            self.design.addItems(names)
        self.design.setCurrentIndex(design.index)
        artwork = design.artwork
        self.name.setText(source_name(self.session.job.designs[design.index].source))
        drawn = self.session.job.designs[design.index]
        if self.session.is_working:
            pass  # it may be made anew: what came in is told once that is known
        elif artwork.shapes and drawn.source.file is not None and not drawn.steps:
            self._aside.ask(artwork, lambda: own_size_mm(artwork), self._take_own_size)
        else:
            self._aside.forget()
            self._own_mm = None
        self._show_own_size()
        shapes = "1 shape" if len(artwork.shapes) == 1 else f"{len(artwork.shapes)} shapes"
        pictures = len(artwork.pictures)
        self.found.setText(shapes + (f", {pictures} picture{'s' if pictures > 1 else ''}" if pictures else ""))
        self.mended.setText(self._said("Mended", MENDED) or "Nothing had to be mended.")
        self.left_out.setText(self._said("Left out", LEFT_OUT | {"text"}) or "Nothing was left out.")

    def _take_own_size(self, own: tuple[float, float] | None) -> None:
        self._own_mm = own
        self._show_own_size()

    def _show_own_size(self) -> None:
        design, unit, own = self.session.selection.design, self.session.job.unit, self._own_mm
        if self._aside.is_waiting or design is None:
            return
        has_file = self.session.job.designs[design.index].source.file is not None
        none = "not stated; its width is proposed" if has_file else "made to the width of its place"
        said = none if own is None else f"{write_length(own[0], unit=unit)} by {write_length(own[1], unit=unit)}"
        self.own_size.setText(said)
        fits = own is None or design.split is None or abs(design.split.width_mm - own[0]) < 0.05
        self.form.setRowVisible(self.take_size, not fits)

    def _take_size(self) -> None:
        if self._own_mm is not None:
            self.session.set_fit("own size", width_mm=self._own_mm[0])

    def _choose(self) -> None:
        self.session.selection.look_at(design=self.design.currentIndex())

    def _said(self, head: str, codes: set[str]) -> str:
        design = self.session.selection.design
        remarks = [one for one in design.artwork.remarks if one.code in codes] if design is not None else []
        rows = [f"{one.count} × {one.message}" if one.count > 1 else one.message for one in remarks]
        return f"{head}: " + "; ".join(rows) + "." if rows else ""
