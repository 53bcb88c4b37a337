"""The form for a film of one's own: its kind, its colour, and what its maker's sheet says of it."""

import base64
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QSize
from PySide6.QtGui import QIcon, QPixmap
from PySide6.QtWidgets import QFileDialog, QPushButton, QWidget

from zinnet.base.errors import SettingsError, ZinnetError
from zinnet.films.catalogue import film_kinds
from zinnet.pressing.typed_recipe import read_heats
from zinnet.ui.colour_buttons import ColourButton
from zinnet.ui.language import tr
from zinnet.ui.own.form import OwnForm
from zinnet.workshop.own_things import keep_film

if TYPE_CHECKING:
    from zinnet.base.units import Unit
    from zinnet.workshop.own_pattern import PatternPicture

NOTE = "What is left out is as usual for its kind; the maker's own sheet goes before that."
FIRST = "#8a8f93"
PICTURES = "Pictures (*.png *.jpg *.jpeg *.webp)"
CHIP_PX = 40


class FilmForm(OwnForm):
    """A film."""

    def __init__(self, parent: QWidget, unit: "Unit") -> None:
        super().__init__(parent, "New film", NOTE, unit)
        kinds = {name: kind.name for name, kind in film_kinds().items()}
        self.kind = self.choice("Kind", "What kind of film it is, or is most like", kinds)
        self.colour = ColourButton(self._take_colour)
        self.colour.setAccessibleName(tr("Colour"))
        self.colour.show_value(FIRST)
        self.form.addRow(tr("Colour"), self.colour)
        self.heat = self.line("Heat", "As its sheet says, such as 150C-160C", "")
        self.seconds = self.line("Seconds at heat", "For how long it stays sound, over all presses", "")
        self.stroke = self.line("Thinnest stroke", "That it holds, such as 1 mm", "")
        self.gap = self.line("Narrowest gap", "That can be weeded, such as 0.5 mm", "")
        self.thick = self.line("Thickness", "In micrometres", "")
        self.roll = self.line("Width of the roll", "As it is sold, such as 300 mm", "")
        self.price = self.line("Price", "Of a square metre, in your money", "")
        self.pattern: PatternPicture | None = None
        self.load = QPushButton(tr("Picture of its pattern ..."))
        self.load.setToolTip(tr("A photo or scan of the film, of film that has a pattern"))
        self.load.setIconSize(QSize(CHIP_PX, CHIP_PX))
        self.load.clicked.connect(self.choose_pattern)
        self.form.addRow("", self.load)
        self.pattern_wide = self.line("Width of the picture", "How much film it shows across, such as 100 mm", "100 mm")
        self.pattern_wide.setEnabled(False)
        self.finish()

    def _take_colour(self, chosen: str | None) -> None:
        self.colour.show_value(chosen)

    def choose_pattern(self) -> None:
        """Ask for a picture of the film's pattern."""
        name, _ = QFileDialog.getOpenFileName(self, tr("Picture of its pattern ..."), "", PICTURES)
        if name:
            self.take_pattern(Path(name))

    def take_pattern(self, path: Path) -> None:
        """Show a picture as the film's pattern, and its mean colour as the film's; say what is wrong with another."""
        from zinnet.base.files import read_file
        from zinnet.workshop.own_pattern import MOST_BYTES, pattern_picture

        try:
            self.pattern = pattern_picture(read_file(path, MOST_BYTES), path.name)
        except ZinnetError as error:
            self.say_wrong(str(error))
            return
        shown = QPixmap()
        shown.loadFromData(base64.b64decode(self.pattern.picture))
        self.load.setIcon(QIcon(shown))
        self.colour.show_value(self.pattern.colour)
        self.pattern_wide.setEnabled(True)
        if self.kind.currentData() == next(iter(film_kinds())):
            self.kind.setCurrentIndex(self.kind.findData("patterned"))

    def keep_it(self) -> str:
        """Keep the film."""
        heat = self.heat.text().strip()
        sold: dict[str, Any] = {"roll_mm": self.length(self.roll), "price_m2": _number(self.price.text(), "Price")}
        if self.pattern is not None:
            sold |= {"picture": self.pattern.picture, "picture_mm": self.length(self.pattern_wide)}
        return keep_film(
            self.name.text().strip(),
            self.kind.currentData(),
            self.colour.value or FIRST,
            sold=sold,
            heat_c=read_heats(heat) if heat else None,
            most_heat_s=_number(self.seconds.text(), "Seconds at heat"),
            least_stroke_mm=self.length(self.stroke),
            least_gap_mm=self.length(self.gap),
            thickness_um=_number(self.thick.text(), "Thickness"),
        )


def _number(text: str, name: str) -> float | None:
    if not text.strip():
        return None
    try:
        return float(text.replace(",", "."))
    except ValueError:
        raise SettingsError(f"{name}: “{text}” is no number.") from None
