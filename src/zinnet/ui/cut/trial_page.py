"""Test cuts: what to set for a film, how it weeded, what to try next, and what worked before."""

import random
from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import QSize, Qt
from PySide6.QtWidgets import (
    QAbstractItemView,
    QCheckBox,
    QComboBox,
    QGridLayout,
    QHBoxLayout,
    QHeaderView,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from zinnet.base.words import source_said
from zinnet.bench.test_cuts import (
    Advised,
    Trial,
    advise,
    blade_of,
    record_trial,
)
from zinnet.cutting.settings import OUTCOMES, Outcome
from zinnet.cutting.stand_in.depth import depth_um, loaded_film, outcome_of
from zinnet.films.catalogue import Film, kind_of
from zinnet.job.edits import set_cutting, set_film_settings
from zinnet.ui.card_page import CardPage, light_card, small
from zinnet.ui.cut.depth_picture import section_icon
from zinnet.ui.films import film_chip
from zinnet.ui.fold import Fold
from zinnet.ui.language import tr
from zinnet.ui.plain import Label, plain
from zinnet.ui.theme import LARGE, PLAIN, font
from zinnet.workshop.cutbook import CutBook

if TYPE_CHECKING:
    from zinnet.ui.cut.control import CutterControl

CHIP = 16
ANSWERS_A_ROW, TILES_A_ROW = 3, 2
SECTION = QSize(54, 40)
TIPS: dict[Outcome, str] = {
    "not through": "The film is not cut through: it does not come off along the line (1)",
    "tears": "It comes off with tears or threads: nearly through (2)",
    "clean": "Film out, carrier without a mark (3)",
    "carrier marked": "Film out, a line is seen and felt in the carrier (4)",
    "carrier cut through": "The carrier falls apart with the film (5)",
}
HARDER = (0.7, 1.45)
"""How much softer or harder the stand-in's film for practice may be than the usual one."""


class TrialPage(CardPage):
    """The settings of one film on one machine, and the next test cut."""

    def __init__(self, control: "CutterControl") -> None:
        super().__init__("Test cut")
        self.control, self.session = control, control.session
        self._practice: tuple[str, float] | None = None
        self.film = QComboBox()
        self.film.setAccessibleName(tr("Film"))
        self.film.setToolTip(tr("The film that is tried"))
        self.film.activated.connect(lambda index: self.refresh())
        self.values = {name: Label() for name in ("force", "blade out", "speed", "passes")}
        self.reason = Label()
        self.reason.setFont(font(LARGE))
        self.reason.setWordWrap(True)
        self.source, self.blade = small(""), small("")
        self.worn = Label()
        self.worn.setWordWrap(True)
        self.worn.setFont(font(PLAIN, bold=True))
        self.school = QCheckBox(tr("More blade before more force"))
        self.school.setToolTip(
            tr("The other school: let out more blade first; usually force is raised as far as it goes")
        )
        self.school.clicked.connect(
            lambda: self.session.apply(set_cutting("school of cutting", blade_first=self.school.isChecked()))
        )
        self.new_blade = _button("A new blade is in", "Count metres from now on for a new blade", self._put_in_blade)
        self.use = _button("Use for this job", "Cut the film with these settings in this job", self._use)
        self.cut = _button("Cut the test", "Cut it in the spot kept on the mat, on the chosen cutter", self._cut)
        self.practice = _button("Practise", "Try on the stand-in's film how it weeds (T)", self.try_it)
        self.practice.setShortcut("T")
        self.seen = Label()
        self.seen.setWordWrap(True)
        self.seen.setFont(font(PLAIN, bold=True))
        self.results = {outcome: self._result(number, outcome) for number, outcome in enumerate(OUTCOMES, start=1)}
        self.undo = _button("Take the last one back", "Take back the last result", self._take_back)
        self.table = QTableWidget(0, 5)
        self.table.setHorizontalHeaderLabels(["When", "Settings", "How it weeded", "Blade", "Metres cut"])
        self.table.verticalHeader().hide()
        self.table.setTabKeyNavigation(False)
        self.table.setShowGrid(False)
        self.table.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.table.setSelectionMode(QAbstractItemView.SelectionMode.NoSelection)
        self.table.horizontalHeader().setDefaultAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
        self.table.setAccessibleName(tr("Test cuts so far"))
        self.table.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        self.table.horizontalHeader().setSectionResizeMode(1, QHeaderView.ResizeMode.Stretch)
        self._lay_out()
        control.changed.connect(self.follow)

    def _lay_out(self) -> None:
        top = light_card()
        grid = QGridLayout(top)
        grid.setContentsMargins(16, 12, 16, 12)
        grid.setHorizontalSpacing(16)
        grid.setVerticalSpacing(4)
        grid.addWidget(self.film, 0, 0)
        for row, widget in enumerate((self._tiles(), self.reason, self.source, self.worn), start=1):
            grid.addWidget(widget, row, 0)
        aside = QVBoxLayout()
        aside.setSpacing(6)
        for widget in (self.blade, self.new_blade, self.use, self.school):
            aside.addWidget(widget)
        aside.addStretch(1)
        holder = QWidget()
        holder.setLayout(aside)
        holder.setFixedWidth(214)
        grid.addWidget(holder, 0, 1, 5, 1)
        grid.setColumnStretch(0, 1)
        ask = QHBoxLayout()
        asked = Label(tr("Cut a small square with a triangle and weed it by hand. How did it come off?"))
        asked.setFont(font(PLAIN, bold=True))
        asked.setWordWrap(True)
        ask.addWidget(asked, 1)
        ask.addWidget(self.cut)
        ask.addWidget(Fold("Practice", "Try without a cutter, on the stand-in's film", self.practice))
        answers = QGridLayout()
        answers.setSpacing(6)
        for number, button in enumerate(self.results.values()):
            answers.addWidget(button, number // ANSWERS_A_ROW, number % ANSWERS_A_ROW)
        self.column.addWidget(top)
        self.column.addLayout(ask)
        self.column.addWidget(self.seen)
        self.column.addLayout(answers)
        self.column.addWidget(self.table, 1)
        foot = QHBoxLayout()
        foot.addStretch(1)
        foot.addWidget(self.undo)
        self.column.addLayout(foot)

    def _tiles(self) -> QWidget:
        """Return the four values to set, each large with its name below."""
        holder = QWidget()
        grid = QGridLayout(holder)
        grid.setContentsMargins(0, 4, 0, 4)
        grid.setHorizontalSpacing(22)
        for number, (name, value) in enumerate(self.values.items()):
            value.setFont(font(24, bold=True))
            value.setAccessibleName(name)
            column = QVBoxLayout()
            column.setSpacing(0)
            column.addWidget(value)
            column.addWidget(small(name))
            grid.addLayout(column, number // TILES_A_ROW, number % TILES_A_ROW)
        grid.setColumnStretch(TILES_A_ROW, 1)
        return holder

    def _result(self, number: int, outcome: Outcome) -> QPushButton:
        button = _button(outcome, TIPS[outcome], lambda: self.say(outcome))
        button.setIconSize(SECTION)
        button.setMinimumHeight(46)
        button.setShortcut(f"Alt+{number}")
        return button

    # what is shown

    @property
    def chosen(self) -> Film | None:
        """The film that is tried."""
        film = self.film.currentData()
        return None if film is None else self.session.workshop.film(film)

    @property
    def trial(self) -> Trial | None:
        """What is tried, on which machine, by which school."""
        film, cutting = self.chosen, self.session.plan.cutting
        if film is None:
            return None
        return Trial(film.id, cutting.machine, self.session.job.nesting.mat, self.session.job.cutting.blade_first)

    @property
    def advised(self) -> Advised | None:
        """What to set now."""
        return None if self.trial is None else advise(self.session.workshop, self.trial)

    def look(self) -> object:
        """Return what the page depends on."""
        workshop, job = self.session.workshop, self.session.job
        return workshop.tests, workshop.blades, workshop.films, job.cutting, job.nesting.mat, self._film_ids()

    def _film_ids(self) -> tuple[str, ...]:
        """Return the films of the job first, then all others that are cut."""
        of_job = [mat.nest.film.id for mat in self.session.plan.mats]
        others = [film.id for film in self.session.workshop.films if kind_of(film).bond != "print"]
        return tuple(dict.fromkeys([*of_job, *others]))

    def show_plan(self) -> None:
        """Show what to set, and what was tried."""
        chosen = self.film.currentData()
        self.film.clear()
        for film_id in self._film_ids():
            film = self.session.workshop.film(film_id)
            if film is not None:
                self.film.addItem(film_chip(film, CHIP), f"{film.name}, {kind_of(film).name}", film_id)
        self.film.setCurrentIndex(max(0, self.film.findData(chosen)))
        self.refresh()

    def refresh(self) -> None:
        """Show what is known of the film that is chosen."""
        trial, advised, film = self.trial, self.advised, self.chosen
        self._enable(True)
        if trial is None or advised is None or film is None:
            return
        cutting, workshop = self.session.plan.cutting, self.session.workshop
        self.note.setText(
            f"On the {cutting.device.name}. No two machines agree, since blades wear: the best that worked here wins."
        )
        shown = advised.shown
        values = (
            cutting.device.force_said(shown.force_g).removeprefix("force ").removeprefix("preset "),
            cutting.device.blade_said(shown.blade_mm).removeprefix("blade ").removesuffix(" out") or "by preset",
            f"{shown.speed_mm_s:.0f} mm/s",
            str(shown.passes),
        )
        for label, text in zip(self.values.values(), values, strict=True):
            label.setText(text)
        self.reason.setText(f"{advised.reason[0].upper()}{advised.reason[1:]}.")
        self.source.setText(source_said(advised.source))
        self.worn.setText("" if advised.worn is None else f"The blade is likely worn: {advised.worn}.")
        self.worn.setVisible(advised.worn is not None)
        blade = blade_of(workshop, trial.machine)
        self.blade.setText(
            "No blade is counted yet." if blade is None else f"Blade {blade.number}, {blade.metres:.1f} m cut."
        )
        self.school.setChecked(trial.blade_first)
        for outcome, button in self.results.items():
            button.setIcon(section_icon(outcome, film.colour, SECTION, self.devicePixelRatioF()))
        if self._practice is None or self._practice[0] != film.id:
            self.seen.hide()
        rows = [test for test in workshop.tests if (test.film, test.machine) == (trial.film, trial.machine)]
        self.table.setRowCount(len(rows))
        for number, test in enumerate(reversed(rows)):
            cells = (
                test.at[:16].replace("T", " "),
                test.settings.in_words(cutting.device),
                test.outcome,
                "" if test.blade is None else str(test.blade),
                f"{test.blade_m:.1f}",
            )
            for column, text in enumerate(cells):
                self.table.setItem(number, column, QTableWidgetItem(text))
        self.undo.setEnabled(bool(workshop.tests))

    def _enable(self, enabled: bool) -> None:
        for button in self.results.values():
            button.setEnabled(enabled)

    # what the user does

    def say(self, outcome: Outcome) -> None:
        """Write down how the test cut weeded."""
        trial, advised = self.trial, self.advised
        if trial is None or advised is None:
            return
        settings = advised.shown
        self.seen.hide()
        self._enable(False)
        self.session.books.use(
            lambda store: record_trial(store, self.session.workshop, trial, settings, outcome),
            lambda test: self.follow(),
        )

    def try_it(self) -> None:
        """Cut the test on the stand-in's film, which is softer or harder than usual, and say how it comes off."""
        film, advised, trial = self.chosen, self.advised, self.trial
        if film is None or advised is None or trial is None:
            return
        if self._practice is None or self._practice[0] != film.id:
            self._practice = (film.id, random.uniform(*HARDER))
        blade = blade_of(self.session.workshop, trial.machine)
        loaded = loaded_film(kind_of(film), film.kind, harder=self._practice[1])
        found = outcome_of(loaded, depth_um(loaded, advised.shown, 0.0 if blade is None else blade.metres))
        self.seen.setText(f"On the stand-in: {found}. Press what you see, and the next try is proposed.")
        self.seen.show()

    def _cut(self) -> None:
        film, advised = self.chosen, self.advised
        if film is not None and advised is not None:
            self.control.send_test(film.id, advised.shown)

    def _use(self) -> None:
        film, advised = self.chosen, self.advised
        if film is not None and advised is not None:
            self.session.apply(set_film_settings(film.id, advised.shown))

    def _put_in_blade(self) -> None:
        machine = self.session.plan.cutting.machine
        self.session.books.use(lambda store: CutBook(store).put_in_blade(machine), lambda blade: self.follow())

    def _take_back(self) -> None:
        self.session.books.use(lambda store: CutBook(store).take_back_test(), lambda done: self.follow())


def _button(text: str, tip: str, action: Callable[[], object]) -> QPushButton:
    button = QPushButton(text)
    button.setToolTip(plain(tip))
    button.clicked.connect(lambda: action())
    button.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
    return button
