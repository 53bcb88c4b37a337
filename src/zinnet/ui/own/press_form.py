"""The form for a source of heat of one's own: its kind, its plate, its margin, its heat."""

from collections.abc import Mapping

from PySide6.QtWidgets import QWidget

from zinnet.base.units import Unit, read_size
from zinnet.machines.platens import heat_kinds
from zinnet.pressing.typed_recipe import read_heats
from zinnet.ui.own.form import OwnForm
from zinnet.workshop.own_things import keep_press

NOTE = "Jobs are pressed with a press of your own from now on, wherever it gets to the object."


class PressForm(OwnForm):
    """A press, plate or iron."""

    def __init__(self, parent: QWidget, unit: Unit) -> None:
        super().__init__(parent, "New press", NOTE, unit)
        kinds: Mapping[str, str] = {name: kind.name for name, kind in heat_kinds().items()}
        self.kind = self.choice("Kind", "What kind of source of heat it is", kinds)
        self.plate = self.line("Plate", "Width x height, such as 9x9in or 230x300mm", "")
        self.margin = self.line("Margin", "How far in from its edge it heats evenly; usually 5 mm", "")
        self.heat = self.line("Heat", "Its thermostat's range, such as 100C-200C; of its kind if left out", "")
        self.finish()

    def keep_it(self) -> str:
        """Keep the press."""
        width, height = read_size(self.plate.text())
        heat = self.heat.text().strip()
        return keep_press(
            self.name.text().strip(),
            heat_source=self.kind.currentData(),
            width_mm=width,
            height_mm=height,
            margin_mm=self.length(self.margin),
            heat_c=read_heats(heat) if heat else None,
        )
