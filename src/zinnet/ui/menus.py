"""The menus of the window, with the actions that follow the job."""

from typing import TYPE_CHECKING

from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import QMenu

from zinnet.artwork.lettering.outlined_name import OutlinedNameSpec
from zinnet.artwork.lettering.word_through import WordThroughSpec
from zinnet.artwork.source import OutlinedNameArt, WordThroughArt
from zinnet.bench.document import recent_jobs
from zinnet.demo import DEMOS
from zinnet.demo.walk import WALK_JOBS
from zinnet.ui.language import tr
from zinnet.ui.tags import STATIONS
from zinnet.ui.theme import DAYLIGHT, theme

if TYPE_CHECKING:
    from zinnet.ui.window import MainWindow


class Menus:
    """Every action of the window by its menu; each does what a method of the window does."""

    def __init__(self, window: "MainWindow") -> None:
        self.window = window
        job = window.menuBar().addMenu(tr("&Job"))
        self._action(job, "&New job", window.new_job, "Ctrl+N")
        self._action(job, "Open &artwork ...", window.choose_artwork, "Ctrl+Shift+O")
        self._action(job, "A&dd another design ...", window.choose_added_artwork, "Ctrl+Shift+A")
        made = job.addMenu(tr("Add a text or an &effect"))
        for name, keys, source in (
            ("&Text", "Ctrl+Shift+T", window.new_text),
            ("&Outlined name", "Ctrl+Shift+N", lambda: OutlinedNameArt(name=OutlinedNameSpec())),
            ("&Word through a shape", "Ctrl+Shift+W", lambda: WordThroughArt(word=WordThroughSpec())),
        ):
            self._action(made, name, lambda source=source: window.add_source(source()), keys)
        self._action(job, "&Open a job ...", window.choose_job, "Ctrl+O")
        self.recent = job.addMenu(tr("Opened &last"))
        self.recent.aboutToShow.connect(self.fill_recent)
        demos = job.addMenu(tr("Open a &demo"))
        for number, (name, (said, _)) in enumerate(DEMOS.items()):
            if number == len(WALK_JOBS):
                demos.addSeparator()
            self._action(demos, said, lambda name=name: window.open_demo(name))
        job.addSeparator()
        self.save = self._action(job, "&Save", window.save, "Ctrl+S")
        self.save_as = self._action(job, "Save &under another name ...", window.save_as, "Ctrl+Shift+S")
        job.addSeparator()
        self.export = self._action(job, "&Write the cut files ...", window.choose_export, "Ctrl+E")
        self.template = self._action(job, "Write the paper &template ...", window.papers.choose_template, "Ctrl+T")
        self.placing = self._action(
            job, "Write the p&lacing sheet ...", window.papers.choose_placing_sheet, "Ctrl+Shift+L"
        )
        self.job_sheet = self._action(job, "Write the job s&heet ...", window.papers.choose_job_sheet, "Ctrl+P")
        self.care_tags = self._action(job, "Write the &care tags ...", window.papers.choose_care_tags)
        job.addSeparator()
        self._action(job, "&Quit", window.close, "Ctrl+Q")
        edit = window.menuBar().addMenu(tr("&Edit"))
        self.undo = self._action(edit, "&Undo", window.session.undo, "Ctrl+Z")
        self.redo = self._action(edit, "&Redo", window.session.redo, "Ctrl+Shift+Z")
        table = window.menuBar().addMenu(tr("&Table"))
        for number, (station, name) in enumerate(STATIONS, start=1):
            self._action(table, name, lambda station=station: window.go_to(station), f"Ctrl+{number}")
        table.addSeparator()
        self._action(table, "Si&zes", lambda: window.open_page("sizes"), "Ctrl+K")
        self._action(table, "&Names", lambda: window.open_page("names"), "Ctrl+M")
        self._action(table, "&Order and price", lambda: window.open_page("order"), "Ctrl+B")
        self._action(table, "Measure on a &photo", window.measure_on_photo, "Ctrl+U")
        self._action(table, "Side by &side", lambda: window.open_page("compare"), "Ctrl+J")
        self.bench = self._action(table, "&Bench", window.enter_bench, "F11")
        table.addSeparator()
        self.square = self._check(table, "Guide s&quare", window.toggle_square, "Ctrl+G")
        self.fold = self._check(table, "&Fold lines", window.toggle_folds, "Ctrl+F")
        table.addSeparator()
        self._action(table, "Show &all", lambda: window.view.fit_view(), "Ctrl+0")
        self._action(table, "&Life size", lambda: window.view.life_size(), "Ctrl+L")
        table.addSeparator()
        self.inch = self._check(table, "&Inches", window.toggle_unit, "Ctrl+I")
        self.daylight = self._check(table, "&Daylight", window.toggle_theme, "Ctrl+D")
        self.daylight.setChecked(theme() is DAYLIGHT)
        shop = window.menuBar().addMenu(tr("&Workshop"))
        self._action(shop, "Your &finger's breadth ...", window.choose_finger)
        self._action(shop, "&Write the whole workshop ...", window.workshop_files.choose_export)
        self._action(shop, "&Read a workshop ...", window.workshop_files.choose_import)
        help_menu = window.menuBar().addMenu(tr("&Help"))
        self._action(help_menu, "The &guide", window.toggle_guide, "F1")

    def follow(self) -> None:
        """Show which actions make sense for the open job."""
        session = self.window.session
        document, design = session.document, session.design
        self.undo.setEnabled(document.undo_name is not None)
        self.undo.setText(f"&Undo: {document.undo_name}" if document.undo_name else "&Undo")
        self.redo.setEnabled(document.redo_name is not None)
        self.redo.setText(f"&Redo: {document.redo_name}" if document.redo_name else "&Redo")
        self.export.setEnabled(bool(session.plan.nests))
        for sheet in (self.template, self.placing):
            sheet.setEnabled(design is not None and design.placement is not None)
        for paper in (self.job_sheet, self.care_tags):
            paper.setEnabled(session.has_artwork)
        self.inch.setChecked(session.job.unit == "in")

    def _action(self, menu: QMenu, text: str, do: object, keys: str = "") -> QAction:
        action = QAction(tr(text), self.window)
        if keys:
            action.setShortcut(QKeySequence(keys))
        action.triggered.connect(lambda checked=False: do())  # type: ignore[operator]
        action.setToolTip(tr(text).replace("&", "").replace(" ...", ""))
        menu.addAction(action)
        return action

    def _check(self, menu: QMenu, text: str, do: object, keys: str) -> QAction:
        action = self._action(menu, text, do, keys)
        action.setCheckable(True)
        return action

    def fill_recent(self) -> None:
        """List the jobs that were opened last."""
        self.recent.clear()
        for path in recent_jobs():
            self._action(self.recent, path.stem, lambda path=path: self.window.session.open_path(path))
        if self.recent.isEmpty():
            self._action(self.recent, "No job was saved yet", lambda: None).setEnabled(False)
