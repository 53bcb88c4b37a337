"""What the window puts on paper: written as a PDF, or printed; where to, and on which sheet of labels."""

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QFileDialog, QWidget

if TYPE_CHECKING:
    from zinnet.ui.exporter import MakeSheet
    from zinnet.ui.last_folder import LastFolder
    from zinnet.ui.session import Session

AT_LIFE_SIZE = "print it at 100 % and check the bar"


@dataclass(frozen=True)
class Paper:
    """A paper: what it is, what makes its PDF, and what is to be heeded in printing it."""

    what: str
    make: Callable[[], bytes]
    heed: str = ""


class Papers:
    """The papers of the job on the table."""

    def __init__(self, window: QWidget, session: "Session", folder: "LastFolder") -> None:
        self.window, self.session, self.folder = window, session, folder

    # which there are

    def template(self) -> Paper:
        """Return the paper template of the selected design."""
        from zinnet.output.papers.template import template_pdf

        return self._about_design("template", template_pdf)

    def placing_sheet(self) -> Paper:
        """Return the placing sheet of the selected design's layers."""
        from zinnet.output.papers.placing_sheet import placing_sheet_pdf

        return self._about_design("placing sheet", placing_sheet_pdf)

    def lay_sheet(self) -> Paper:
        """Return the lay sheet of the side that the selected design lies on."""
        from zinnet.output.papers.lay_sheet import lay_sheet_pdf

        plan, selection = self.session.plan, self.session.selection
        panel = None if selection.design is None else selection.design.panel.id
        number = 0 if plan.named else selection.number
        return Paper("lay sheet", lambda: lay_sheet_pdf(plan, garment=number, panel=panel), AT_LIFE_SIZE)

    def job_sheet(self) -> Paper:
        """Return the job sheet; whoever works in inches has Letter paper."""
        from zinnet.output.papers.job_sheet import job_sheet_pdf
        from zinnet.workshop.prices import read_prices

        plan, paper = self.session.plan, "letter" if self.session.job.unit == "in" else "a4"
        return Paper("job sheet", lambda: job_sheet_pdf(plan, plan.findings, read_prices(), paper=paper))

    def care_tags(self) -> Paper | None:
        """Ask for a sheet of labels, and return a care tag for each garment on it."""
        from zinnet.ui.label_form import LabelForm

        labels = LabelForm.ask(self.window)
        return None if labels is None else self.care_tags_on(*labels)

    def care_tags_on(self, sheet: str, skip: int) -> Paper:
        """Return a care tag for each garment, on a sheet of labels of which some are used up."""
        from zinnet.output.papers.care_tags import care_tags_pdf

        plan = self.session.plan
        return Paper("care tags", lambda: care_tags_pdf(plan, sheet, skip=skip), "print them at 100 %")

    def _about_design(self, what: str, make: "MakeSheet") -> Paper:
        plan, selection = self.session.plan, self.session.selection
        design, garment = selection.at["design"], selection.number
        return Paper(what, lambda: make(plan, design=design, garment=garment), AT_LIFE_SIZE)

    # what becomes of one

    def choose(self, paper: Paper | None) -> None:
        """Ask where to write a paper."""
        if paper is None:
            return
        suggested = self.folder.file(f"{self.session.job.title} {paper.what}.pdf")
        name, _ = QFileDialog.getSaveFileName(self.window, f"The {paper.what}", suggested, "PDF (*.pdf)")
        if name:
            self.folder.remember(name)
            self.write(Path(name), paper)

    def write(self, path: Path, paper: Paper) -> None:
        """Write a paper beside the window."""
        are = "are" if paper.what.endswith("s") else "is"
        heed = f"; {paper.heed}" if paper.heed else ""
        self.session.exporter.write_file(path, paper.make, f"The {paper.what} {are} in {path}{heed}.")

    def print(self, paper: Paper | None) -> None:
        """Show a paper as it will be printed; from there it goes to any printer of the system."""
        if paper is None:
            return
        from zinnet.ui.printing import Preview

        title = f"{self.session.job.title}, {paper.what}"
        self.session.said.emit(f"Making the {paper.what} ...")
        self.session.background.run(
            paper.make,
            lambda pdf: Preview(self.window, pdf, title).open(),
            lambda error: self.session.said.emit(str(error)),
        )
