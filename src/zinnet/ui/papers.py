"""What the window writes on paper: where to, and on which sheet of labels."""

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QFileDialog, QWidget

if TYPE_CHECKING:
    from zinnet.ui.exporter import MakeSheet
    from zinnet.ui.last_folder import LastFolder
    from zinnet.ui.session import Session


class Papers:
    """The papers of the job on the table."""

    def __init__(self, window: QWidget, session: "Session", folder: "LastFolder") -> None:
        self.window, self.session, self.folder = window, session, folder

    def choose_template(self) -> None:
        """Ask where to write the paper template of the selected design."""
        from zinnet.output.papers.template import template_pdf

        self._choose_life_size("template", template_pdf)

    def choose_placing_sheet(self) -> None:
        """Ask where to write the placing sheet of the selected design's layers."""
        from zinnet.output.papers.placing_sheet import placing_sheet_pdf

        self._choose_life_size("placing sheet", placing_sheet_pdf)

    def choose_job_sheet(self) -> None:
        """Ask where to write the job sheet."""
        path = self._choose("job sheet")
        if path is not None:
            self.write_job_sheet(path)

    def write_job_sheet(self, path: Path) -> None:
        """Write the job sheet beside the window; whoever works in inches has Letter paper."""
        from zinnet.output.papers.job_sheet import job_sheet_pdf
        from zinnet.workshop.prices import read_prices

        plan, paper = self.session.plan, "letter" if self.session.job.unit == "in" else "a4"
        self.session.exporter.write_file(
            path, lambda: job_sheet_pdf(plan, plan.findings, read_prices(), paper=paper), f"The job sheet is in {path}."
        )

    def choose_care_tags(self) -> None:
        """Ask for a sheet of labels and where to write the care tags."""
        from zinnet.ui.label_form import LabelForm

        labels = LabelForm.ask(self.window)
        path = self._choose("care tags") if labels is not None else None
        if labels is not None and path is not None:
            self.write_care_tags(path, *labels)

    def write_care_tags(self, path: Path, sheet: str, skip: int) -> None:
        """Write a care tag for each garment beside the window."""
        from zinnet.output.papers.care_tags import care_tags_pdf

        plan = self.session.plan
        self.session.exporter.write_file(
            path, lambda: care_tags_pdf(plan, sheet, skip=skip), f"The care tags are in {path}; print them at 100 %."
        )

    def _choose_life_size(self, what: str, make: "MakeSheet") -> None:
        path = self._choose(what)
        if path is not None:
            self.write_sheet(path, what, make)

    def write_sheet(self, path: Path, what: str, make: "MakeSheet") -> None:
        """Write a sheet of paper about the selected design beside the window."""
        plan, selection = self.session.plan, self.session.selection
        design, garment = selection.at["design"], selection.number
        said = f"The {what} is in {path}; print it at 100 % and check the bar."
        self.session.exporter.write_file(path, lambda: make(plan, design=design, garment=garment), said)

    def _choose(self, what: str) -> Path | None:
        suggested = self.folder.file(f"{self.session.job.title} {what}.pdf")
        name, _ = QFileDialog.getSaveFileName(self.window, f"The {what}", suggested, "PDF (*.pdf)")
        if not name:
            return None
        self.folder.remember(name)
        return Path(name)
