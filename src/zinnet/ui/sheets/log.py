"""The sheet of Log: what the job on the table would be written down as."""

from typing import TYPE_CHECKING

from zinnet.base.units import write_area, write_seconds
from zinnet.bench.made import made_of
from zinnet.ui.aside import Aside
from zinnet.ui.language import tr
from zinnet.ui.plain import Label
from zinnet.ui.sheets.base import PropertySheet

if TYPE_CHECKING:
    from zinnet.plan.model import Plan
    from zinnet.ui.session import Session
    from zinnet.workshop.made import Made


class LogSheet(PropertySheet):
    """The job on the table in the log's own numbers."""

    def __init__(self, session: "Session") -> None:
        super().__init__(session, "This job")
        self.garments, self.film, self.waste, self.time = Label(), Label(), Label(), Label()
        for name, label in (
            ("Garments", self.garments),
            ("Film used up", self.film),
            ("Thrown away", self.waste),
            ("Cut and press", self.time),
        ):
            label.setWordWrap(True)
            self.add_row(name, label)
        self.note = self.add_note()
        self._of: Plan | None = None
        self._aside = Aside(session, self)

    def follow(self) -> None:
        """Show it, where it is in sight: the numbers ask for the whole plan."""
        if not self.isVisible() or not self.session.has_artwork:
            return
        plan = self.session.plan
        if self._of is not plan:
            for label in (self.garments, self.film, self.waste, self.time):
                label.setEnabled(False)
        self._aside.ask(plan, lambda: made_of(plan), lambda made: self._show(plan, made))

    def _show(self, plan: "Plan", made: "Made") -> None:
        unit = self.session.job.unit
        self._of = plan
        for label in (self.garments, self.film, self.waste, self.time):
            label.setEnabled(True)
        self.garments.setText(f"{made.garments} × {made.blank}")
        for label, areas in (
            (self.film, [film.used_mm2 for film in made.films]),
            (self.waste, [film.waste_mm2 for film in made.films]),
        ):
            label.setText(write_area(sum(areas), unit=unit) if plan.is_nested else "not nested yet")
        self.time.setText(write_seconds(made.planned_s))
        self.note.setText(tr("Written down as it is planned; say how it came out afterwards."))
