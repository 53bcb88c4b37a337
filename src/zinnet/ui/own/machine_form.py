"""The form for a cutting machine of one's own, described as it shows itself."""

from typing import TYPE_CHECKING

from PySide6.QtWidgets import QCheckBox, QWidget

from zinnet.base.errors import SettingsError
from zinnet.machines.own_mats import mats_named
from zinnet.ui.language import tr
from zinnet.ui.own.form import OwnForm
from zinnet.workshop.own_things import keep_machine

if TYPE_CHECKING:
    from zinnet.base.units import Unit

NOTE = "Describe it as it shows itself: advice, loading cards and the log speak its language."
SPEAKS = {
    "grams": "force in grams",
    "steps": "force in steps of its own",
    "presets": "named presets, with more and less",
}


class MachineForm(OwnForm):
    """A cutting machine."""

    def __init__(self, parent: QWidget, unit: "Unit") -> None:
        super().__init__(parent, "New machine", NOTE, unit)
        self.mats = self.line("Mats", "With commas: 12x12in, 12x24in, or any size such as 300x500mm", "12x12in")
        self.speaks = self.choice("It shows", "How its force is set", SPEAKS, self._follow)
        self.force = self.line("Grams", "From and to, such as 10-350", "10-350")
        self.steps = self.line("Steps", "How many steps of force, such as 33", "33")
        self.presets = self.line("Presets", "All their names with commas, the gentlest first", "")
        self.blades = self.line("Blade depths", "How many numbered depths it has; nothing if it has none", "")
        self.edge = self.line("Edge", "How near to the edge of film it cuts, such as 3 mm", "")
        self.corner = QCheckBox(tr("It cuts its test in the upper left corner"))
        self.form.addRow("", self.corner)
        self.finish()
        self._follow()

    def _follow(self) -> None:
        """Show the rows that belong to how it is set."""
        speaks = self.speaks.currentData()
        for field, shown in (
            (self.force, speaks == "grams"),
            (self.steps, speaks == "steps"),
            (self.presets, speaks == "presets"),
            (self.blades, speaks != "presets"),
        ):
            self.form.setRowVisible(field, shown)
        self.adjustSize()

    def keep_it(self) -> str:
        """Keep the machine."""
        speaks = self.speaks.currentData()
        known, made = mats_named([one.strip() for one in self.mats.text().split(",") if one.strip()])
        low, high = self._grams() if speaks == "grams" else (None, None)
        presets = tuple(one.strip() for one in self.presets.text().split(",") if one.strip())
        return keep_machine(
            self.name.text().strip(),
            made,
            mats=known,
            speaks=speaks,
            force_low_g=low,
            force_high_g=high,
            force_steps=_whole(self.steps.text(), "Steps") if speaks == "steps" else None,
            presets=presets if speaks == "presets" else None,
            blade_steps=_whole(self.blades.text(), "Blade depths") if self.blades.text().strip() else None,
            film_edge_mm=self.length(self.edge),
            test_corner=self.corner.isChecked() or None,
        )

    def _grams(self) -> tuple[float, float]:
        low, _, high = self.force.text().lower().replace("g", "").partition("-")
        try:
            return float(low), float(high)
        except ValueError:
            raise SettingsError(f"“{self.force.text()}” is no range of force; type it like 10-350.") from None


def _whole(text: str, name: str) -> int:
    if not text.strip().isdigit():
        raise SettingsError(f"{name}: “{text}” is no whole number; type one such as 33.")
    return int(text)
