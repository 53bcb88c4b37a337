"""The sheet of Log: what the job on the table would be written down as."""

from typing import TYPE_CHECKING

from zinnet.base.units import write_area, write_seconds
from zinnet.bench.made import made_of
from zinnet.ui.language import tr
from zinnet.ui.plain import Label
from zinnet.ui.sheets.base import PropertySheet

if TYPE_CHECKING:
    from zinnet.ui.session import Session


class LogSheet(PropertySheet):
    """The job on the table in the log's own numbers."""

    def __init__(self, session: "Session") -> None:
        super().__init__(session, "This job")
        self.garments, self.film, self.waste, self.time = Label(), Label(), Label(), Label()
        for name, label in (
            ("Garments", self.garments),
            ("Film used up", self.film),
            ("Thrown away", self.waste),
            ("Planned", self.time),
        ):
            label.setWordWrap(True)
            self.add_row(name, label)
        self.note = self.add_note()

    def follow(self) -> None:
        """Show it, where it is in sight: the numbers ask for the whole plan."""
        if not self.isVisible() or not self.session.has_artwork:
            return
        plan, unit = self.session.plan, self.session.job.unit
        made = made_of(plan)
        self.garments.setText(f"{made.garments} × {made.blank}")
        for label, areas in (
            (self.film, [film.used_mm2 for film in made.films]),
            (self.waste, [film.waste_mm2 for film in made.films]),
        ):
            label.setText(write_area(sum(areas), unit=unit) if plan.is_nested else "not nested yet")
        self.time.setText(write_seconds(made.planned_s))
        self.note.setText(tr("Written down as it is planned; say how it came out afterwards."))
