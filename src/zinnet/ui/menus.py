"""The menus of the window, with the actions that follow the job."""

from collections.abc import Mapping
from typing import TYPE_CHECKING, Protocol, cast

from PySide6.QtGui import QAction, QGuiApplication, QKeySequence
from PySide6.QtWidgets import QMenu, QMenuBar

from zinnet.data import read_toml
from zinnet.ui.language import tr
from zinnet.ui.new_designs import new_name, new_text, new_word
from zinnet.ui.plain import plain
from zinnet.ui.tags import STATIONS
from zinnet.ui.theme import DAYLIGHT, theme
from zinnet.ui.type_size import PERCENTS, fits_screen

if TYPE_CHECKING:
    from zinnet.artwork.source import Source
    from zinnet.ui.clipboard import Clipboard
    from zinnet.ui.job_files import JobFiles
    from zinnet.ui.job_strip import JobStrip
    from zinnet.ui.own.adding import OwnThings
    from zinnet.ui.papers import Papers
    from zinnet.ui.preferences import Preferences
    from zinnet.ui.session import Session
    from zinnet.ui.stations.artwork import ArtworkStation
    from zinnet.ui.stations.fit import FitStation
    from zinnet.ui.table import TableView
    from zinnet.ui.workshop_files import WorkshopFiles


ABOUT_DESIGN = 4
"""So many of the actions for papers, the first ones, are about the selected design."""


class Desk(Protocol):
    """The window, as its menus use it."""

    session: "Session"
    files: "JobFiles"
    papers: "Papers"
    workshop_files: "WorkshopFiles"
    preferences: "Preferences"
    own_things: "OwnThings"
    strip: "JobStrip"
    clipboard: "Clipboard"

    @property
    def view(self) -> "TableView":
        """The station that is on the table."""

    @property
    def stations(self) -> Mapping[str, "TableView"]:
        """Every station."""

    def menuBar(self) -> QMenuBar:
        """Return the bar of the menus."""

    def close(self) -> bool:
        """Close the window."""

    def go_to(self, station: str) -> None:
        """Bring a station to the table."""

    def open_page(self, page: str) -> None:
        """Show a page."""

    def show_page(self, page: str) -> None:
        """Show the job card."""

    def begin_job(self) -> None:
        """Begin with a clear table."""

    def begin_design(self, source: "Source") -> None:
        """Put a text or an assistant's design on the table."""

    def choose_export(self) -> None:
        """Ask for a folder and write all cut files."""

    def enter_bench(self) -> None:
        """Show the job as one large card at a time."""

    def arrange(self) -> None:
        """Show how designs lie to one another."""

    def toggle_guide(self) -> None:
        """Show the guide, or go back."""


class Menus:
    """Every action of the window by its menu."""

    def __init__(self, window: Desk) -> None:
        self.window, files = window, window.files
        job = window.menuBar().addMenu(tr("&Job"))
        self._action(job, "&New job", window.begin_job, "Ctrl+N")
        self._action(job, "Open &artwork ...", files.choose_artwork, "Ctrl+Shift+O")
        self._action(job, "A&dd another design ...", files.choose_added_artwork, "Ctrl+Shift+A")
        made = job.addMenu(tr("Add a text or an &effect"))
        for name, keys, source in (
            ("&Text", "Ctrl+Shift+T", lambda: new_text(window.session)),
            ("&Outlined name", "Ctrl+Shift+N", new_name),
            ("&Word through a shape", "Ctrl+Shift+W", new_word),
        ):
            self._action(made, name, lambda source=source: window.begin_design(source()), keys)
        self._action(job, "&Open a job ...", files.choose_job, "Ctrl+O")
        self.recent = job.addMenu(tr("Opened &last"))
        self.recent.aboutToShow.connect(self.fill_recent)
        demos = job.addMenu(tr("Open a &demo"))
        for group in ("walk", "others"):
            if not demos.isEmpty():
                demos.addSeparator()
            for name, said in read_toml("demos")[group].items():
                self._action(demos, said, lambda name=name: files.open_demo(name))
        job.addSeparator()
        self.save = self._action(job, "&Save", files.save, "Ctrl+S")
        self.save_as = self._action(job, "Save &under another name ...", files.save_as, "Ctrl+Shift+S")
        job.addSeparator()
        self.export = self._action(job, "&Write the cut files ...", window.choose_export, "Ctrl+E")
        papers, page = window.papers, job.addMenu(tr("&Print"))
        self.papers: list[QAction] = []
        for name, print_keys, write, write_keys, paper in (
            ("The paper &template ...", "", "Write the paper &template ...", "Ctrl+T", papers.template),
            ("The p&lacing sheet ...", "", "Write the p&lacing sheet ...", "Ctrl+Shift+L", papers.placing_sheet),
            ("The la&y sheet ...", "", "Write the la&y sheet ...", "", papers.lay_sheet),
            ("The job s&heet ...", "Ctrl+P", "Write the job s&heet ...", "", papers.job_sheet),
            ("The &care tags ...", "", "Write the &care tags ...", "", papers.care_tags),
        ):
            self.papers.append(self._action(page, name, lambda it=paper: papers.print(it()), print_keys))
            self.papers.append(self._action(job, write, lambda it=paper: papers.choose(it()), write_keys))
        job.addSeparator()
        self._action(job, "&Quit", window.close, "Ctrl+Q")
        edit = window.menuBar().addMenu(tr("&Edit"))
        self.undo = self._action(edit, "&Undo", window.session.undo, "Ctrl+Z")
        self.redo = self._action(edit, "&Redo", window.session.redo, "Ctrl+Shift+Z")
        edit.addSeparator()
        self._action(edit, "&Copy a picture of it", window.clipboard.copy, "Ctrl+C")
        self.layers = edit.addMenu(tr("Copy a picture of a &layer"))
        self.layers.aboutToShow.connect(self.fill_layers)
        self._action(edit, "&Paste", window.clipboard.paste, "Ctrl+V")
        edit.addSeparator()
        self._action(edit, "Choose &all parts", lambda: self._artwork().choose_all(), "Ctrl+A")
        self._action(edit, "Choose the &other parts", lambda: self._artwork().choose_others(), "Ctrl+Shift+I")
        edit.addSeparator()
        self._action(edit, "&Arrange designs ...", window.arrange, "Ctrl+Shift+G")
        table = window.menuBar().addMenu(tr("&View"))
        for number, (station, name) in enumerate(STATIONS, start=1):
            self._action(table, name, lambda station=station: window.go_to(station), f"Ctrl+{number}")
        table.addSeparator()
        self._action(table, "&Job card", lambda: window.show_page("card"), "F7")
        self._action(table, "Si&zes", lambda: window.open_page("sizes"), "Ctrl+K")
        self._action(table, "&Names", lambda: window.open_page("names"), "Ctrl+M")
        self._action(table, "&Order and price", lambda: window.open_page("order"), "Ctrl+B")
        self._action(table, "Measure on a &photo", lambda: window.open_page("photo"), "Ctrl+U")
        self._action(table, "Side by &side", lambda: window.open_page("compare"), "Ctrl+J")
        self._action(table, "G&o on with what is next", window.strip.go_on, "F8")
        self.bench = self._action(table, "&Bench", window.enter_bench, "F11")
        table.addSeparator()
        self.square = self._check(table, "Guide s&quare", lambda: self._fit().toggle_square(), "Ctrl+G")
        self.fold = self._check(table, "&Fold lines", lambda: self._fit().toggle_folds(), "Ctrl+F")
        table.addSeparator()
        self._action(table, "Show &all", lambda: window.view.fit_view(), "Ctrl+0")
        self._action(table, "&Life size", lambda: window.view.life_size(), "Ctrl+L")
        table.addSeparator()
        self.inch = self._check(table, "&Inches", window.preferences.toggle_unit, "Ctrl+I")
        self.daylight = self._check(table, "&Daylight", window.preferences.toggle_theme, "Ctrl+D")
        self.type_sizes = table.addMenu(tr("Size of &type"))
        self.type_sizes.aboutToShow.connect(self.fill_type_sizes)
        shop = window.menuBar().addMenu(tr("&Workshop"))
        self._action(shop, "Your finger's &breadth ...", window.preferences.choose_finger)
        shop.addSeparator()
        self._action(shop, "New &press ...", window.own_things.new_press)
        self._action(shop, "New &machine ...", window.own_things.new_machine)
        self._action(shop, "New &film ...", window.own_things.new_film)
        self._action(shop, "Rea&d films, presses or machines ...", window.own_things.choose_import)
        self._action(shop, "Wri&te films, presses and machines of my own ...", window.own_things.choose_export)
        shop.addSeparator()
        self._action(shop, "&Write the whole workshop ...", window.workshop_files.choose_export)
        self._action(shop, "&Read a workshop ...", window.workshop_files.choose_import)
        help_menu = window.menuBar().addMenu(tr("&Help"))
        self._action(help_menu, "The &guide", window.toggle_guide, "F1")

    def follow(self) -> None:
        """Show which actions make sense for the open job."""
        session = self.window.session
        self.daylight.setChecked(theme() is DAYLIGHT)
        if not session.is_begun:
            for action in (self.undo, self.redo, self.export, *self.papers):
                action.setEnabled(False)
            return
        document, design = session.document, session.selection.design
        self.undo.setEnabled(document.undo_name is not None)
        self.undo.setText(f"&Undo: {document.undo_name}" if document.undo_name else "&Undo")
        self.redo.setEnabled(document.redo_name is not None)
        self.redo.setText(f"&Redo: {document.redo_name}" if document.redo_name else "&Redo")
        self.export.setEnabled(bool(session.plan.nests))
        placed = design is not None and design.placement is not None
        for number, action in enumerate(self.papers):
            action.setEnabled(placed if number < ABOUT_DESIGN else session.has_artwork)
        self.inch.setChecked(session.job.unit == "in")

    def _artwork(self) -> "ArtworkStation":
        """Return the artwork, which is brought to the table: parts are chosen there."""
        self.window.go_to("artwork")
        return cast("ArtworkStation", self.window.stations["artwork"])

    def _fit(self) -> "FitStation":
        return cast("FitStation", self.window.stations["fit"])

    def _action(self, menu: QMenu, text: str, do: object, keys: str = "") -> QAction:
        action = QAction(tr(text), self.window.menuBar())
        if keys:
            action.setShortcut(QKeySequence(keys))
        action.triggered.connect(lambda checked=False: do())  # type: ignore[operator]
        action.setToolTip(plain(tr(text).replace("&", "").replace(" ...", "")))
        menu.addAction(action)
        return action

    def _check(self, menu: QMenu, text: str, do: object, keys: str) -> QAction:
        action = self._action(menu, text, do, keys)
        action.setCheckable(True)
        return action

    def fill_layers(self) -> None:
        """List the layers of the selected design."""
        self.layers.clear()
        stack = self.window.session.selection.stack if self.window.session.is_begun else None
        for row in stack.in_press_order if stack is not None else ():
            name = f"{row.layer.order}  {row.film.name if row.film is not None else row.layer.colour}".replace(
                "&", "&&"
            )
            self._action(self.layers, name, lambda row=row: self.window.clipboard.copy_layer(row))
        if self.layers.isEmpty():
            self._action(self.layers, "No artwork yet", lambda: None).setEnabled(False)

    def fill_type_sizes(self) -> None:
        """List how large type can be; a size at which the window would not fit its screen is not offered."""
        preferences, screen = self.window.preferences, QGuiApplication.primaryScreen()
        room = screen.size() * screen.devicePixelRatio()
        self.type_sizes.clear()
        for percent in PERCENTS:
            chosen = self._check(
                self.type_sizes, f"{percent} %", lambda percent=percent: preferences.take_type_percent(percent), ""
            )
            chosen.setChecked(percent == preferences.type_percent)
            chosen.setEnabled(fits_screen(percent, room) or chosen.isChecked())

    def fill_recent(self) -> None:
        """List the jobs that were opened last."""
        from zinnet.bench.recent import recent_jobs

        self.recent.clear()
        for path in recent_jobs():
            self._action(self.recent, path.stem, lambda path=path: self.window.files.open_path(path))
        if self.recent.isEmpty():
            self._action(self.recent, "No job was saved yet", lambda: None).setEnabled(False)
