"""The main window: tags at the left, the table in the middle, findings at the right, the rule below."""

from functools import cached_property, partial
from typing import TYPE_CHECKING, cast

from PySide6.QtCore import QSettings, Qt
from PySide6.QtGui import QCloseEvent, QDragEnterEvent, QDropEvent, QKeySequence, QResizeEvent, QShortcut
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QMainWindow,
    QMessageBox,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from zinnet.desktop.guide import chapter_for
from zinnet.ui.beginnings import make_card, make_empty
from zinnet.ui.bench_foot import BenchFoot
from zinnet.ui.clipboard import Clipboard
from zinnet.ui.dimmed import Dimmed
from zinnet.ui.findings_panel import FindingsPanel
from zinnet.ui.geometry import keep_geometry
from zinnet.ui.job_files import JobFiles
from zinnet.ui.job_strip import JobStrip
from zinnet.ui.last_folder import LastFolder
from zinnet.ui.lazy import LazyWidgets
from zinnet.ui.menus import Menus
from zinnet.ui.message import Message
from zinnet.ui.new_designs import put_on_table
from zinnet.ui.own.adding import OwnThings
from zinnet.ui.page_bar import FIT_PAGES, PageBar
from zinnet.ui.papers import Papers
from zinnet.ui.parts import bench_makers, page_makers, station_makers
from zinnet.ui.plain import plain
from zinnet.ui.preferences import Preferences
from zinnet.ui.rows import stacked
from zinnet.ui.sheets import Properties
from zinnet.ui.showing import show_finding
from zinnet.ui.tags import TagThread
from zinnet.ui.tape_rule import TapeRule
from zinnet.ui.timer_bar import TimerBar
from zinnet.ui.workshop_files import WorkshopFiles

if TYPE_CHECKING:
    from zinnet.artwork.source import Source
    from zinnet.blanks.model import KeepOutKind
    from zinnet.plan.findings.model import Finding
    from zinnet.plan.progress import Happened
    from zinnet.ui.cut.control import CutterControl
    from zinnet.ui.guide_page import GuidePage
    from zinnet.ui.parts import AnyBench
    from zinnet.ui.press.control import PressControl
    from zinnet.ui.session import Session
    from zinnet.ui.sheets.blank import BlankSheet
    from zinnet.ui.sheets.cut import CutSheet
    from zinnet.ui.stations.measure import MeasureStation
    from zinnet.ui.table import TableView

PANEL_WIDTH, NARROW_PANEL = 308, 290
WIDE_FROM = 1160
"""From so wide on, in pixels, the window has room for the wide panel."""
ALONE = ("photo", "guide", "card")
"""Pages that need no artwork and belong to no station's own pages."""
WITHOUT_ARTWORK = (*ALONE, "names", "order")
"""Pages that need no artwork."""
NO_RULE = ("split", "artwork", "cut", "press", "log")
"""Stations whose table is not a blank or a mat, so that no rule lies below it."""
BENCH_OF = {"measure": "measure", "split": "weed", "nest": "apart", "cut": "cut", "press": "press"}
"""The bench of a station; of every other one it is the bench where pieces are laid."""


class MainWindow(QMainWindow):
    """Zinnet's window: a frame that makes stations, pages and benches when they are first shown."""

    middle: QStackedWidget

    def __init__(self, session: "Session", settings: QSettings | None = None) -> None:
        super().__init__()
        self.session = session
        self.all_ended = True
        self.settings = settings = settings or QSettings("zinnet", "zinnet")
        self.setAcceptDrops(True)
        self.resize(1280, 800)
        self.station, self.page = "fit", "card"
        self._left_page = "card"
        folder = LastFolder(settings)
        self.files = JobFiles(self, session, folder)
        self.preferences = Preferences(self, session, settings, self._restyle)
        self.own_things = OwnThings(self, session)
        self.papers, self.workshop_files = Papers(self, session, folder), WorkshopFiles(self, session, folder)
        self.clipboard = Clipboard(self)
        self.table = QStackedWidget()
        self.card, self.empty = make_card(self), make_empty(self)
        self.table.addWidget(self.card)
        self.table.addWidget(self.empty)
        self.stations = LazyWidgets(self.table.addWidget, station_makers(session, self, self.go_to))
        show_card = partial(self.show_page, "card")
        makers = page_makers(session, self._show_size, self.toggle_guide, show_card)
        self.full_pages = LazyWidgets(self.table.addWidget, makers)
        self.pages = PageBar(self.table, FIT_PAGES)
        self.pages.chosen.connect(self.show_page)
        self.tags = TagThread(session)
        self.tags.chosen.connect(self.go_to)
        self.findings = FindingsPanel(session)
        self.properties = Properties(session, self.choose_export)
        self.rule = TapeRule(session)
        self.strip = JobStrip(session, lambda: self.station, self._happened)
        self.strip.chosen.connect(self.go_to)
        self.strip.went_on.connect(self.tags.show_done)
        self.strip.said.connect(self.card.show_way)
        self.strip.card_asked.connect(show_card)
        self.message = Message(self.table, self)
        self._lay_out()
        self.benches = LazyWidgets(self.middle.addWidget, bench_makers(session, self, self.leave_bench))
        self.dimmed = Dimmed(session, [self.findings.list, self.properties], self)
        self.dimmed.changed.connect(self.tags.draw_faintly)
        self.leave_off = QShortcut(QKeySequence(Qt.Key.Key_Escape), self, session.exporter.leave_off)
        self.leave_off.setEnabled(False)
        session.exporter.writing_changed.connect(self.leave_off.setEnabled)
        self.menus = Menus(self)
        session.plan_changed.connect(self._follow)
        session.said.connect(self.say)
        self.findings.changed.connect(lambda text: self.message.say(text, session.undo))
        session.finding_shown.connect(self._show_finding)
        session.job_opened.connect(self._job_opened)
        session.keep_out_kind_changed.connect(self._draw_keep_outs)
        session.background.turns.watch(self)
        self.show_page("card")
        self.card.form.title.setFocus()
        self._follow()

    def _lay_out(self) -> None:
        self.panel = QFrame()
        self.panel.setProperty("card", "side")
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
        table = QWidget()
        table.setLayout(row)
        self.middle = QStackedWidget()
        self.middle.addWidget(stacked(self.strip, table, self.rule, grows=table))
        self.foot = BenchFoot(self.middle, self.strip, self.leave_bench)
        self.timer_bar = TimerBar(self._is_at_press)
        self.timer_bar.chosen.connect(self._go_to_press)
        self.middle.currentChanged.connect(lambda index: self.timer_bar.follow())
        self.setCentralWidget(stacked(self.timer_bar, self.middle, self.foot, grows=self.middle))

    @cached_property
    def cutter(self) -> "CutterControl":
        """What the pages of Cut share, made when the first of them is."""
        from zinnet.ui.cut.control import CutterControl

        control = CutterControl(self.session)
        control.ask = self._is_wanted
        return control

    @cached_property
    def press(self) -> "PressControl":
        """What the pages of Press share, made when the first of them is."""
        from zinnet.ui.press.bench_habits import BenchHabits
        from zinnet.ui.press.control import PressControl

        control = PressControl(self.session, BenchHabits(self.settings))
        self.timer_bar.watch(control)
        return control

    def _is_at_press(self) -> bool:
        return self.middle.currentIndex() > 0 and self.station == "press"

    def _go_to_press(self) -> None:
        """Show the bench of the press."""
        if self.middle.currentIndex() > 0:
            self.leave_bench()
        self.go_to("press")
        self.enter_bench()

    def _happened(self) -> "Happened":
        """Return what happened to the job's garments, as far as it is known."""
        from zinnet.plan.progress import happened_to

        run = self.press.run if "press" in self.__dict__ else None
        is_pressed = run is not None and run.is_over
        return happened_to(self.session.job, self.session.workshop.made, pressed=is_pressed)

    def take_up(self) -> None:
        """Take up what goes on from last time: timers that were left at the press."""
        self.press.follow_left()

    # what is on the table

    @property
    def view(self) -> "TableView":
        """The station that is on the table."""
        return self.stations[self.station]

    def go_to(self, station: str) -> None:
        """Bring a station to the table."""
        self.station, self.page = station, "table"
        if station == "measure":
            cast("BlankSheet", self.properties.sheets["measure"]).fill_kept()
        self.tags.select(station)
        self.findings.show_station(station)
        self._show_table()
        self.strip.show_next()
        (self.empty.artwork if self.table.currentWidget() is self.empty else self.view).setFocus()

    def _show_table(self) -> None:
        on_card = self.page == "card"
        empty = not self.session.has_artwork and self.station not in ("measure", "log")
        empty = empty and self.page not in WITHOUT_ARTWORK
        if empty:
            self.empty.show_station(self.station)
        elif not on_card:
            self.properties.show_station(self.station)
            self.rule.follow_view(self.view, from_collar=self.station in ("measure", "fit"))
        on_page = self.card if on_card else self.full_pages.get(self.page)
        self.table.setCurrentWidget(self.empty if empty else on_page or self.view)
        self.pages.setVisible(self.station == "fit" and not empty and self.page not in ALONE)
        self.pages.select(self.page)
        self.pages.raise_()
        self.panel.setVisible(not on_card)
        self.properties.setVisible(not empty)
        self.rule.setVisible(not empty and self.station not in NO_RULE and on_page is None)
        self.strip.fold_out(on_card)

    def show_page(self, page: str) -> None:
        """Show the job card, or the design on the table, on all sizes, with all names, beside another choice ..."""
        self.page = page
        if page == "card":
            self.tags.select("")
        self._show_table()

    def open_page(self, page: str) -> None:
        """Show the sizes, the names, the order, two choices side by side, or a photo to measure on."""
        self.go_to("measure" if page == "photo" else "fit")
        self.show_page(page)

    def toggle_guide(self) -> None:
        """Show the guide at the chapter of what is on the table, or go back to that."""
        if self.page == "guide":
            if self._left_page == "card":
                self.show_page("card")
            else:
                self.go_to(self.station)
            return
        self._left_page = self.page
        if self.middle.currentIndex() > 0:
            self.leave_bench()
        chapter = chapter_for(self.station, self.page) if self.session.has_artwork else "begin"
        self.show_page("guide")
        cast("GuidePage", self.full_pages["guide"]).open_at(chapter)

    def _show_size(self, size: str) -> None:
        self.session.selection.look_at(size=size)
        self.go_to("fit")
        self.view.fit_view()

    def arrange(self) -> None:
        """Show how designs lie to one another, and let them be grouped, aligned and spread."""
        if not self.session.has_artwork:
            self.say("Open artwork first: there is nothing to arrange.")
            return
        from zinnet.ui.arrange_dialog import ArrangeDialog

        ArrangeDialog(self.session, self).open()

    def enter_bench(self) -> None:
        """Show the job as one large card at a time."""
        if self.middle.currentIndex() > 0:
            self.leave_bench()
            return
        if not self.session.has_artwork and self.station != "measure":
            self.say("Open artwork first: the bench is where it is laid.")
            return
        bench = cast("AnyBench", self.benches[BENCH_OF.get(self.station, "lay")])
        self.middle.setCurrentWidget(bench)
        self.menuBar().setVisible(False)
        bench.begin()

    def leave_bench(self) -> None:
        """Go back to the table."""
        self.middle.setCurrentIndex(0)
        self.menuBar().setVisible(True)
        self.go_to(self.station if self.station in BENCH_OF else "fit")

    def begin_job(self) -> None:
        """Begin another job, at its card."""

        def show() -> None:
            self.show_page("card")
            self.card.form.title.setFocus()

        self.files.new_job(show)

    def begin_design(self, source: "Source") -> None:
        """Put a text or an assistant's design on the table, and show how it is made."""

        def show() -> None:
            self.go_to("artwork")
            self.view.fit_view()

        put_on_table(self.session, source, show)

    def choose_export(self) -> None:
        """Ask for a folder and write all cut files."""
        self.files.choose_export(cast("CutSheet", self.properties.sheets["cut"]).chosen_formats)

    def _follow(self) -> None:
        self._show_table()
        self.menus.follow()
        if not self.session.is_begun:
            self.setWindowTitle("Zinnet")
            return
        document = self.session.document
        changed = " (not saved)" if document.is_changed else ""
        named = self.session.has_artwork or document.is_changed
        self.setWindowTitle(f"{self.session.job.title}{changed} - Zinnet" if named else "Zinnet")

    def _job_opened(self) -> None:
        if self.page == "card" and self.session.has_artwork:
            self.go_to("fit")
        for view in self.stations.made:
            view.shown_box = None
            view.fit_view()
        if self.station == "measure":
            self.go_to("fit")

    def _draw_keep_outs(self, kind: "KeepOutKind | None") -> None:
        cast("MeasureStation", self.stations["measure"]).keep_out_kind = kind
        if kind is not None:
            self.say(f"Drag over the spot to keep off ({kind}); click one to take it away.")

    def _show_finding(self, finding: "Finding") -> None:
        show_finding(self, finding)
        self.findings.reveal(finding)

    def say(self, text: str) -> None:
        """Say something for a few seconds, at the foot of the table."""
        self.message.say(text)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Give the table room in a narrow window."""
        super().resizeEvent(event)
        self.panel.setFixedWidth(PANEL_WIDTH if self.width() >= WIDE_FROM else NARROW_PANEL)

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        """Take files, drawings, pictures and words."""
        mime = event.mimeData()
        if mime.hasUrls() or mime.hasImage() or mime.hasText():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        """Bring what was dropped to the table."""
        self.clipboard.take(event.mimeData())

    def closeEvent(self, event: QCloseEvent) -> None:
        """Ask about a mat that is being cut and about changes, then stop all work."""
        if not self._may_stop_cutting() or not self.files.may_leave():
            event.ignore()
            return
        keep_geometry(self, self.settings)
        self.session.automatic_copy.drop()
        self.all_ended = self.session.close()
        event.accept()

    def _is_wanted(self, question: str, title: str = "All the same?") -> bool:
        """Ask whether something is done all the same; no is what Return says."""
        buttons = QMessageBox.StandardButton
        return QMessageBox.question(self, title, plain(question), buttons.Yes | buttons.No, buttons.No) == buttons.Yes

    def _may_stop_cutting(self) -> bool:
        """Ask whether a mat that is being cut is broken off; tell whether the window may be closed."""
        run = self.cutter.run if "cutter" in self.__dict__ else None
        if run is None or not self.cutter.is_running:
            return True
        return self._is_wanted(
            f"Mat {run.load.numbers} is being cut. Closing stops the cutter in the middle of it; what is cut is "
            "written down, and the rest can be sent later. Stop and close?",
            "A mat is being cut",
        )

    def _restyle(self) -> None:
        """Draw all in the theme that is in use now."""
        self.menus.follow()
        self.update()
        for widget in self.findChildren(QWidget):
            widget.update()
