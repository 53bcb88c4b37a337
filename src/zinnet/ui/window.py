"""The main window: tags at the left, the table in the middle, findings at the right, the rule below."""

from pathlib import Path
from tempfile import TemporaryDirectory
from typing import cast

from PySide6.QtCore import QSettings, Qt, QTimer
from PySide6.QtGui import QCloseEvent, QColor, QDragEnterEvent, QDropEvent
from PySide6.QtWidgets import (
    QFileDialog,
    QFrame,
    QHBoxLayout,
    QInputDialog,
    QLabel,
    QMainWindow,
    QMessageBox,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from zinnet.artwork.lettering.text import TextSpec
from zinnet.artwork.source import Source, TextArt, source_name
from zinnet.base.errors import ZinnetError
from zinnet.base.units import read_length, write_length
from zinnet.bench.document import Document, remove_copy
from zinnet.blanks.model import KeepOutKind
from zinnet.demo import FIRST_DEMO, demo_document
from zinnet.demo.shelf import demo_store
from zinnet.desktop.guide import chapter_for
from zinnet.job.edits import add_source, set_unit
from zinnet.plan.findings.model import Finding
from zinnet.ui.bench import Bench
from zinnet.ui.compare_view import CompareView
from zinnet.ui.cut.bench import CutBench
from zinnet.ui.findings_panel import FindingsPanel
from zinnet.ui.guide_page import GuidePage
from zinnet.ui.language import tr
from zinnet.ui.menus import Menus
from zinnet.ui.names.page import NamesPage
from zinnet.ui.order.page import OrderPage
from zinnet.ui.page_bar import FIT_PAGES, PageBar
from zinnet.ui.papers import Papers
from zinnet.ui.photo.page import PhotoPage
from zinnet.ui.press.bench import PressBench
from zinnet.ui.session import Session
from zinnet.ui.sheets import Properties
from zinnet.ui.sizes_view import SizesView
from zinnet.ui.stations.artwork import ArtworkStation
from zinnet.ui.stations.cut import CutStation
from zinnet.ui.stations.fit import FitStation
from zinnet.ui.stations.log import LogStation
from zinnet.ui.stations.measure import MeasureStation
from zinnet.ui.stations.nest import NestStation
from zinnet.ui.stations.press import PressStation
from zinnet.ui.stations.split import SplitStation
from zinnet.ui.table import TableView
from zinnet.ui.tags import TagThread
from zinnet.ui.tape_rule import TapeRule
from zinnet.ui.theme import DAYLIGHT, NIGHT, colour, theme, use_theme
from zinnet.ui.weed_bench import WeedBench
from zinnet.ui.welcome import Welcome
from zinnet.ui.workshop_files import WorkshopFiles

PANEL_WIDTH = 308
SAID_MS = 9000
ALONE = ("photo", "guide")
"""Pages that need no artwork and belong to no station's own pages."""
NO_RULE = ("split", "artwork", "cut", "press", "log")
"""Stations whose table is not a blank or a mat, so that no rule lies below it."""
ARTWORK_FILTER = "Artwork (*.svg *.dxf *.png *.jpg *.jpeg *.webp)"
JOB_FILTER = "Zinnet jobs (*.zinnet)"


class MainWindow(QMainWindow):
    """Zinnet's window."""

    def __init__(self, session: Session, settings: QSettings | None = None) -> None:
        super().__init__()
        self.session = session
        self.settings = settings or QSettings("zinnet", "zinnet")
        self._demo_folder: TemporaryDirectory[str] | None = None
        self.setAcceptDrops(True)
        self.resize(1280, 800)
        self.stations: dict[str, TableView] = {
            "measure": MeasureStation(session),
            "artwork": ArtworkStation(session),
            "fit": FitStation(session),
            "split": SplitStation(session),
            "nest": NestStation(session),
            "cut": CutStation(session),
            "press": PressStation(session),
            "log": LogStation(session),
        }
        self.station = "fit"
        self.table = QStackedWidget()
        self.welcome = self._make_welcome()
        self.table.addWidget(self.welcome)
        for view in self.stations.values():
            self.table.addWidget(view)
        cast(LogStation, self.stations["log"]).entries.opened.connect(lambda: self.go_to("fit"))
        self.sizes = SizesView(session)
        self.sizes.opened.connect(self._show_size)
        self.compare = CompareView(session)
        self.names = NamesPage(session)
        self.order = OrderPage(session)
        self.guide = GuidePage()
        self.guide.left.connect(self.toggle_guide)
        self.full_pages: dict[str, QWidget] = {
            "sizes": self.sizes,
            "names": self.names,
            "order": self.order,
            "compare": self.compare,
            "photo": PhotoPage(session),
            "guide": self.guide,
        }
        for page in self.full_pages.values():
            self.table.addWidget(page)
        self.page = "table"
        self.pages = PageBar(self.table, FIT_PAGES)
        self.pages.chosen.connect(self.show_page)
        self.bench = Bench(session)
        self.weed_bench = WeedBench(session)
        self.cut_bench = CutBench(cast(CutStation, self.stations["cut"]).control)
        self.press_bench = PressBench(cast(PressStation, self.stations["press"]).control)
        for bench in (self.bench, self.weed_bench, self.cut_bench, self.press_bench):
            bench.left.connect(self.leave_bench)
        self.tags = TagThread(session)
        self.tags.chosen.connect(self.go_to)
        self.findings = FindingsPanel(session)
        self.properties = Properties(session)
        self.properties.cut.write.clicked.connect(self.choose_export)
        self.rule = TapeRule(session)
        self.message = QLabel(self)
        self.message.setWordWrap(True)
        self.message.setAccessibleName(tr("What Zinnet says"))
        self.message.hide()
        self._message_timer = QTimer(self, singleShot=True, interval=SAID_MS)
        self._message_timer.timeout.connect(self.message.hide)
        self._lay_out()
        self.papers, self.workshop_files = Papers(self), WorkshopFiles(self)
        self.menus = Menus(self)
        session.plan_changed.connect(self._follow)
        session.said.connect(self.say)
        session.finding_shown.connect(self._show_finding)
        session.job_opened.connect(self._job_opened)
        session.keep_out_kind_changed.connect(self._draw_keep_outs)
        self.go_to("fit")
        self._follow()

    def _lay_out(self) -> None:
        self.panel = QFrame()
        self.panel.setObjectName("panel")
        self.panel.setFixedWidth(PANEL_WIDTH)
        column = QVBoxLayout(self.panel)
        column.setContentsMargins(16, 16, 14, 14)
        column.setSpacing(14)
        column.addWidget(self.findings, 1)
        column.addWidget(self.properties)
        row = QHBoxLayout()
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self.tags)
        row.addWidget(self.table, 1)
        row.addWidget(self.panel)
        whole = QVBoxLayout()
        whole.setContentsMargins(0, 0, 0, 0)
        whole.setSpacing(0)
        whole.addLayout(row, 1)
        whole.addWidget(self.rule)
        middle = QWidget()
        middle.setLayout(whole)
        self.middle = QStackedWidget()
        self.middle.addWidget(middle)
        self.middle.addWidget(self.bench)
        self.middle.addWidget(self.weed_bench)
        self.middle.addWidget(self.cut_bench)
        self.middle.addWidget(self.press_bench)
        self.setCentralWidget(self.middle)
        self._colour_panel()

    def _colour_panel(self) -> None:
        self.panel.setStyleSheet(
            f"QFrame#panel {{ background: {colour('card').name()};"
            f" border-left: 2px solid {colour('card_line').name()}; }}"
        )
        self.message.setStyleSheet(
            f"background: {colour('card_light').name()}; color: {colour('ink').name()};"
            f" border: 2px solid {colour('ink').name()}; border-radius: 6px; padding: 8px 12px;"
        )

    def _make_welcome(self) -> Welcome:
        welcome = Welcome(self.session.automatic_copy.left_behind())
        welcome.open_artwork.connect(self.choose_artwork)
        welcome.open_job.connect(self.choose_job)
        welcome.open_demo.connect(self.open_demo)
        welcome.open_recent.connect(self.session.open_path)
        welcome.restore.connect(self._restore)
        return welcome

    # what is on the table

    @property
    def view(self) -> TableView:
        """The station that is on the table."""
        return self.stations[self.station]

    def go_to(self, station: str) -> None:
        """Bring a station to the table."""
        self.station, self.page = station, "table"
        if station == "measure":
            self.properties.blank.fill_kept()
        self.tags.select(station)
        self.properties.show_station(station)
        self.rule.follow_view(self.view, from_collar=station in ("measure", "fit"))
        self.rule.setVisible(station not in NO_RULE)
        self._show_table()
        (self.welcome.artwork if self.table.currentWidget() is self.welcome else self.view).setFocus()

    def _show_table(self) -> None:
        empty = not self.session.has_artwork and self.station not in ("measure", "log") and self.page not in ALONE
        on_page = self.full_pages.get(self.page)
        self.table.setCurrentWidget(self.welcome if empty else on_page or self.view)
        self.pages.setVisible(self.station == "fit" and not empty and self.page not in ALONE)
        self.pages.select(self.page)
        self.pages.raise_()
        self.properties.setVisible(not empty)
        self.rule.setVisible(not empty and self.station not in NO_RULE and on_page is None)

    def show_page(self, page: str) -> None:
        """Show the design on the table, on all sizes, with all names, as an order, or beside another choice."""
        self.page = page
        self._show_table()

    def open_page(self, page: str) -> None:
        """Show the sizes, the names, the order, or two choices side by side."""
        self.go_to("fit")
        self.show_page(page)

    def measure_on_photo(self) -> None:
        """Show the page on which a garment is measured in a photo."""
        self.go_to("measure")
        self.show_page("photo")

    def toggle_guide(self) -> None:
        """Show the guide at the chapter of what is on the table, or go back to that."""
        if self.page == "guide":
            self.go_to(self.station)
            return
        if self.middle.currentIndex() > 0:
            self.leave_bench()
        chapter = chapter_for(self.station, self.page) if self.session.has_artwork else "begin"
        self.show_page("guide")
        self.guide.open_at(chapter)

    def _show_size(self, size: str) -> None:
        self.session.look_at(size=size)
        self.go_to("fit")
        self.view.fit_view()

    def enter_bench(self) -> None:
        """Show the job as one large card at a time."""
        if self.middle.currentIndex() > 0:
            self.leave_bench()
            return
        if not self.session.has_artwork:
            self.say("Open artwork first: the bench is where it is laid.")
            return
        benches = {"split": self.weed_bench, "cut": self.cut_bench, "press": self.press_bench}
        bench = cast(Bench | WeedBench | CutBench | PressBench, benches.get(self.station, self.bench))
        self.middle.setCurrentWidget(bench)
        self.menuBar().setVisible(False)
        bench.begin()

    def leave_bench(self) -> None:
        """Go back to the table."""
        self.middle.setCurrentIndex(0)
        self.menuBar().setVisible(True)
        self.go_to(self.station if self.station in ("split", "cut", "press") else "fit")

    def toggle_square(self) -> None:
        """Show or hide the guide square."""
        fit = cast(FitStation, self.stations["fit"])
        fit.show_square = not fit.show_square
        fit.update()

    def toggle_folds(self) -> None:
        """Show or hide the fold lines."""
        fit = cast(FitStation, self.stations["fit"])
        fit.show_folds = not fit.show_folds
        fit.update()

    def choose_finger(self) -> None:
        """Ask for the breadth of the user's own finger."""
        habits, unit = self.session.workshop.habits, self.session.job.unit
        text, given = QInputDialog.getText(
            self,
            "Your finger's breadth",
            "Lay four fingers on a rule and divide by four:",
            text=write_length(habits.finger_mm, unit=unit),
        )
        if given:
            self.take_finger(text)

    def take_finger(self, text: str) -> None:
        """Take a typed finger's breadth into use."""
        try:
            mm = read_length(text, unit=self.session.job.unit)
        except ZinnetError as error:
            self.say(str(error))
            return
        if self.session.take_habits(self.session.workshop.habits.model_copy(update={"finger_mm": mm})):
            self.say(f"A finger is {write_length(mm, unit=self.session.job.unit)} from now on; schools follow.")

    def _follow(self) -> None:
        document = self.session.document
        self._show_table()
        self.menus.follow()
        changed = " (not saved)" if document.is_changed else ""
        self.setWindowTitle(f"{self.session.job.title}{changed} - Zinnet" if self.session.has_artwork else "Zinnet")

    def _job_opened(self) -> None:
        for view in self.stations.values():
            view.shown_box = None
            view.fit_view()
        if self.station == "measure":
            self.go_to("fit")

    def _draw_keep_outs(self, kind: KeepOutKind | None) -> None:
        cast(MeasureStation, self.stations["measure"]).keep_out_kind = kind
        if kind is not None:
            self.say(f"Drag over the spot to keep off ({kind}); click one to take it away.")

    def _show_finding(self, finding: Finding) -> None:
        self.go_to(finding.station)
        place = finding.place
        if place is not None and place.panel is not None:
            self.session.look_at(size=place.size, design=place.design, panel=place.panel)
        if place is not None and place.mat is not None:
            cast(NestStation, self.stations["nest"]).show_mat_place(place.mat, place.box)
        else:
            if place is not None and place.view == "split":
                self.session.look_at(design=place.design)
                cast(SplitStation, self.stations["split"]).show_page("thickness")
            self.view.shown_box = place.box if place is not None else None
        self.view.update()

    def say(self, text: str) -> None:
        """Say something for a few seconds, at the foot of the table."""
        self.message.setText(text)
        self._place_message()
        self.message.show()
        self.message.raise_()
        self._message_timer.start()

    def _place_message(self) -> None:
        corner = self.table.mapTo(self, self.table.rect().topLeft())
        width = min(620, self.table.width() - 40)
        self.message.setFixedWidth(width)
        height = self.message.heightForWidth(width) + 4
        self.message.setGeometry(
            corner.x() + (self.table.width() - width) // 2,
            corner.y() + self.table.height() - height - 62,
            width,
            height,
        )

    # files

    def choose_artwork(self) -> None:
        """Ask for artwork and open it."""
        name, _ = QFileDialog.getOpenFileName(self, "Open artwork", self.folder(), ARTWORK_FILTER)
        if name:
            self.remember_folder(name)
            self.session.open_artwork(Path(name))

    def choose_added_artwork(self) -> None:
        """Ask for artwork and add it as another design."""
        name, _ = QFileDialog.getOpenFileName(self, "Add another design", self.folder(), ARTWORK_FILTER)
        if name:
            self.remember_folder(name)
            self.session.open_artwork(Path(name), add=self.session.has_artwork)

    def new_text(self) -> TextArt:
        """Return a text to begin with, in a colour that is seen on the blank."""
        pale = QColor(self.session.plan.blank.colour).lightnessF() < 0.55
        return TextArt(text=TextSpec(text="Wrenfield", font="dancing-script", colour="#f4ead5" if pale else "#1a1a1a"))

    def add_source(self, source: Source) -> None:
        """Put a text or an assistant's design on the table, beside what is there."""

        def show() -> None:
            self.session.look_at(design=len(self.session.job.designs) - 1)
            self.go_to("artwork")
            self.view.fit_view()

        place = self.session.free_place() if self.session.has_artwork else None
        self.session.apply_later(add_source(source_name(source), source, place), show)

    def new_job(self) -> None:
        """Begin with a clear table, at the blank."""
        if self._may_leave():
            self.session.show_document(Document(self.session.workshop))
            self.go_to("measure")

    def choose_job(self) -> None:
        """Ask for a job and open it."""
        name, _ = QFileDialog.getOpenFileName(self, "Open a job", self.folder(), JOB_FILTER)
        if name and self._may_leave():
            self.remember_folder(name)
            self.session.open_job(Path(name))

    def open_demo(self, name: str = FIRST_DEMO) -> None:
        """Open one of the demos, with a workshop of its own: what is tried there stays out of the user's books."""
        if self._may_leave():
            self._demo_folder = self._demo_folder or TemporaryDirectory(prefix="zinnet-demo-")
            self.session.use_store(demo_store(Path(self._demo_folder.name)))
            self.session.show_document(demo_document(self.session.workshop, name))

    def save(self) -> bool:
        """Save the job where it was saved before, else ask."""
        path = self.session.document.path
        return self.session.save(path) if path is not None else self.save_as()

    def save_as(self) -> bool:
        """Ask where to save the job."""
        suggested = str(Path(self.folder()) / f"{self.session.job.title}.zinnet")
        name, _ = QFileDialog.getSaveFileName(self, "Save the job", suggested, JOB_FILTER)
        if not name:
            return False
        path = Path(name)
        path = path if path.suffix == ".zinnet" else path.with_name(path.name + ".zinnet")
        self.remember_folder(name)
        return self.session.save(path)

    def choose_export(self) -> None:
        """Ask for a folder and write all cut files."""
        folder = QFileDialog.getExistingDirectory(self, "Folder for the cut files", self.folder())
        if folder:
            self.session.export(Path(folder), self.properties.cut.chosen_formats)

    def _restore(self, copy: Path) -> None:
        def show(document: Document) -> None:
            document.path = None
            document.saved = None
            self.session.show_document(document)
            remove_copy(copy)

        self.session.background.run(
            lambda: Document.open(copy, self.session.workshop), show, lambda error: self.say(str(error))
        )

    def folder(self) -> str:
        """Return where files were last."""
        return str(self.settings.value("folder", str(Path.home())))

    def remember_folder(self, name: str) -> None:
        """Keep where a file is."""
        self.settings.setValue("folder", str(Path(name).parent))

    def _may_leave(self) -> bool:
        """Ask what to do with changes that are not saved; tell whether the job may be left."""
        if not self.session.document.is_changed or not self.session.has_artwork:
            return True
        answer = QMessageBox.question(
            self,
            "Not saved",
            f"“{self.session.job.title}” has changes that are not saved.",
            QMessageBox.StandardButton.Save | QMessageBox.StandardButton.Discard | QMessageBox.StandardButton.Cancel,
        )
        if answer == QMessageBox.StandardButton.Save:
            return self.save()
        return answer == QMessageBox.StandardButton.Discard

    # events

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        """Take files."""
        if event.mimeData().hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        """Open the first file that was dropped."""
        for url in event.mimeData().urls()[:1]:
            path = Path(url.toLocalFile())
            if path.suffix.lower() != ".zinnet" or self._may_leave():
                self.session.open_path(path)

    def closeEvent(self, event: QCloseEvent) -> None:
        """Ask about changes, then stop all work."""
        if not self._may_leave():
            event.ignore()
            return
        self.session.automatic_copy.drop()
        self.session.close()
        event.accept()

    def toggle_unit(self) -> None:
        """Show lengths in inches, or in mm again."""
        self.session.apply(set_unit("mm" if self.session.job.unit == "in" else "in"))

    def toggle_theme(self) -> None:
        """Go from night to daylight and back."""
        chosen = NIGHT if theme() is DAYLIGHT else DAYLIGHT
        use_theme(chosen)
        self.settings.setValue("theme", chosen.name)
        self.menus.daylight.setChecked(chosen is DAYLIGHT)
        self._colour_panel()
        self.update()
        for widget in self.findChildren(QWidget):
            widget.update()


def centre_on_screen(window: MainWindow) -> None:
    """Put the window in the middle of its screen, no larger than that."""
    screen = window.screen()
    if screen is not None:
        room = screen.availableGeometry()
        window.resize(min(window.width(), room.width()), min(window.height(), room.height()))
        window.move(room.center() - window.rect().center())
    window.setWindowState(window.windowState() & ~Qt.WindowState.WindowMinimized)
