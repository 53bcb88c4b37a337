"""The page on which a garment is measured in a photo with a sheet of paper on it."""

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QComboBox, QFileDialog, QHBoxLayout

from zinnet.base.units import write_length
from zinnet.bench.from_strangers import photo_apart
from zinnet.blanks.catalogue import measure_kinds
from zinnet.camera.backdrop import lay_below
from zinnet.camera.found_sheet import FoundSheet, PhotoError
from zinnet.camera.known_sheets import photo_numbers
from zinnet.camera.measure import StraightPhoto, length_on
from zinnet.data import path_of
from zinnet.job.edits import set_measure
from zinnet.ui.card_page import CardPage
from zinnet.ui.language import tr
from zinnet.ui.photo.picture import PhotoPicture
from zinnet.ui.plain import Label
from zinnet.ui.rows import make_button
from zinnet.ui.theme import LARGE, font

if TYPE_CHECKING:
    from zinnet.ui.session import Session

PICTURE_FILTER = "Pictures (*.jpg *.jpeg *.png *.webp)"
WHAT_TO_DO = (
    "Lay a sheet of paper flat on the garment, with darker cloth around it, and take a picture with all four corners "
    "of the sheet in it. What lies in the sheet's plane is true; a fold above it is not."
)
SAMPLE = ("demo", "tee-photo.jpg")


class PhotoPage(CardPage):
    """Measuring on a photo, and laying it below the panel at Fit."""

    def __init__(self, session: "Session") -> None:
        super().__init__("Measure on a photo")
        self.session = session
        self.sheet: FoundSheet | None = None
        self.photo: StraightPhoto | None = None
        self.picture = PhotoPicture()
        self.picture.moved.connect(self.show_length)
        self.paper = QComboBox()
        self.paper.setAccessibleName(tr("Sheet in the picture"))
        self.paper.setToolTip(tr("Which sheet lies on the garment"))
        for name, paper in photo_numbers().papers.items():
            self.paper.addItem(paper.name, name)
        self.open = make_button("Open a picture ...", "Open a photo of the garment with a sheet on it", self.choose)
        self.sample = make_button(
            "Try the sample", "Open a drawn picture of a tee with a sheet of A4 on it", self.try_sample
        )
        self.length = Label()
        self.length.setFont(font(LARGE, bold=True))
        self.measure = QComboBox()
        self.measure.setAccessibleName(tr("Which measure it is"))
        self.measure.setToolTip(tr("Which measure of the blank lies between the two points"))
        self.take = make_button("Take it", "Take the length for this measure of the blank", self.take_length)
        self.lay = make_button(
            "Lay it below Fit",
            "Lay the photo below the artwork at Fit, the two points on the marks",
            self.lay_below_fit,
        )
        self.drop = make_button("No photo below Fit", "Take the photo away from Fit", self.take_away)
        top, bottom = QHBoxLayout(), QHBoxLayout()
        for one in (self.open, self.paper, self.sample):
            top.addWidget(one)
        top.addStretch(1)
        for widget in (self.length, self.measure, self.take):
            bottom.addWidget(widget)
        bottom.addStretch(1)
        for widget in (self.lay, self.drop):
            bottom.addWidget(widget)
        self.column.addLayout(top)
        self.column.addWidget(self.picture, 1)
        self.column.addLayout(bottom)
        self.note.setText(WHAT_TO_DO)
        session.plan_changed.connect(self.follow)
        self._enable()

    # the picture

    def choose(self) -> None:
        """Ask for a picture."""
        name, _ = QFileDialog.getOpenFileName(self, "Open a photo", "", PICTURE_FILTER)
        if name:
            self.open_picture(Path(name))

    def try_sample(self) -> None:
        """Open the picture that ships with Zinnet."""
        self.paper.setCurrentIndex(self.paper.findData("a4"))
        self.open_picture(path_of(*SAMPLE))

    def open_picture(self, path: Path) -> None:
        """Find the sheet in a picture beside the window, and show it from straight above; what is wrong is said."""
        paper = self.paper.currentData()
        self.note.setText(tr("Looking for the sheet ..."))
        self.session.background.run(lambda: photo_apart(path, paper), self._show, self._say)

    def _show(self, result: tuple[FoundSheet, StraightPhoto]) -> None:
        self.sheet, self.photo = result
        self.note.setText(
            f"{self.sheet.paper.name} found, {self.sheet.tilt_deg:.0f} degrees aside. Click both ends of what "
            "you measure; arrows move a point by a pixel (Shift: ten), the space bar takes the other one."
        )
        self.picture.show_photo(self.photo)
        self._enable()

    def _say(self, error: str) -> None:
        self.note.setText(WHAT_TO_DO)
        self.session.said.emit(str(error))

    # the length

    def show_length(self) -> None:
        """Say how long it is between the points, and how far off that may be."""
        if self.sheet is None or self.photo is None:
            return
        try:
            found = length_on(self.sheet, self.photo, self.picture.spots[0], self.picture.spots[1])
        except PhotoError as error:
            self.length.setText(str(error))
            return
        unit = self.session.job.unit
        said = f"{write_length(found.mm, unit=unit)}, within {write_length(found.within_mm, unit=unit)}"
        self.length.setText(said)
        self.picture.setAccessibleDescription(said)

    def take_length(self) -> None:
        """Take the length for the chosen measure of the blank."""
        if self.sheet is None or self.photo is None:
            return
        found = length_on(self.sheet, self.photo, self.picture.spots[0], self.picture.spots[1])
        mm = round(found.mm, 1)
        if self.session.apply(set_measure(self.measure.currentData(), mm)):
            said = write_length(mm, unit=self.session.job.unit)
            self.session.said.emit(f"{self.measure.currentText()}: {said}, from the photo.")

    # below Fit

    def lay_below_fit(self) -> None:
        """Lay the photo below the panel, the two points on its marks."""
        if self.photo is None:
            return
        panel, first, second = self.session.selection.panel, *self.picture.spots
        left, right = sorted((first, second))
        try:
            backdrop = lay_below(self.photo, (left, right), panel.marks)
        except PhotoError as error:
            self.session.said.emit(str(error))
            return
        self.session.selection.lay_backdrop(backdrop)
        here, there = (write_length(mm, unit=self.session.job.unit) for mm in backdrop.apart_mm)
        self.session.said.emit(
            f"Below Fit now, its points on the marks ({panel.mark_name}): {here} apart in the photo, {there} on the "
            "blank."
        )
        self._enable()

    def take_away(self) -> None:
        """Take the photo away from Fit."""
        self.session.selection.lay_backdrop(None)
        self._enable()

    # following

    def look(self) -> object:
        """Return what the page depends on."""
        return self.session.plan.blank, self.session.job.unit

    def show_plan(self) -> None:
        """Offer the measures of the blank."""
        kept = self.measure.currentData()
        self.measure.clear()
        for name, kind in measure_kinds(self.session.job.blank.kind).items():
            self.measure.addItem(kind.name, name)
        self.measure.setCurrentIndex(max(0, self.measure.findData(kept)))
        self.show_length()
        self._enable()

    def _enable(self) -> None:
        for widget in (self.measure, self.take, self.lay):
            widget.setEnabled(self.photo is not None)
        self.drop.setEnabled(self.session.selection.backdrop is not None)
