"""The form for a film of one's own: its kind, its colour, and what its maker's sheet says of it."""

from typing import TYPE_CHECKING

from PySide6.QtWidgets import QWidget

from zinnet.base.errors import SettingsError
from zinnet.films.catalogue import film_kinds
from zinnet.pressing.typed_recipe import read_heats
from zinnet.ui.colour_buttons import ColourButton
from zinnet.ui.language import tr
from zinnet.ui.own.form import OwnForm
from zinnet.workshop.own_things import keep_film

if TYPE_CHECKING:
    from zinnet.base.units import Unit

NOTE = "What is left out is as usual for its kind; the maker's own sheet goes before that."
FIRST = "#8a8f93"


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
        self.finish()

    def _take_colour(self, chosen: str | None) -> None:
        self.colour.show_value(chosen)

    def keep_it(self) -> str:
        """Keep the film."""
        heat = self.heat.text().strip()
        return keep_film(
            self.name.text().strip(),
            self.kind.currentData(),
            self.colour.value or FIRST,
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
