"""Hem test: small bars at heats and times about the recipe's, and what became of each, kept for this cloth and film."""

from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QCheckBox, QComboBox, QGridLayout, QHBoxLayout, QPushButton, QWidget

from zinnet.base.units import write_temperature
from zinnet.plan.hem_trials import HOW, HemTrial, hem_trials
from zinnet.plan.presses import degrees_of
from zinnet.pressing.hem_test import HemBar
from zinnet.ui.card_page import CardPage, light_card, small
from zinnet.ui.language import tr
from zinnet.ui.plain import Label, plain
from zinnet.ui.theme import PLAIN, colour, font
from zinnet.workshop.pressbook import PressBook

if TYPE_CHECKING:
    from zinnet.ui.press.control import PressControl

STATES: tuple[bool | None, ...] = (None, True, False)
SAID = {None: "not pressed", True: "held", False: "spoiled"}
INK = {None: "card_light", True: "good", False: "stop"}
BAR_WIDTH = 120


class BarButton(QPushButton):
    """One bar: a press of the button goes from not pressed to held, to spoiled, and back."""

    def __init__(self, bar: HemBar, said: str) -> None:
        super().__init__()
        self.bar, self._said = bar, said
        self.setFixedWidth(BAR_WIDTH)
        self.setMinimumHeight(40)
        self.setToolTip(plain(tr("Held, spoiled, or not pressed: press to go on")))
        self.clicked.connect(self._next)
        self._show()

    def _next(self) -> None:
        state = STATES[(STATES.index(self.bar.held) + 1) % len(STATES)]
        self.bar = self.bar.model_copy(update={"held": state})
        self._show()

    def _show(self) -> None:
        self.setText(SAID[self.bar.held])
        self.setAccessibleName(f"{self._said}: {SAID[self.bar.held]}")
        ink = "ink" if self.bar.held is None else "card_light"
        self.setStyleSheet(
            f"QPushButton {{ background: {colour(INK[self.bar.held]).name()}; color: {colour(ink).name()}; }}"
        )


class HemPage(CardPage):
    """The strip of bars of one kind of film, to be filled in."""

    def __init__(self, control: "PressControl") -> None:
        super().__init__("Hem test")
        self.control, self.session = control, control.session
        self.choice = QComboBox()
        self.choice.setAccessibleName(tr("Film"))
        self.choice.activated.connect(lambda index: self._lay_out())
        self.how = Label()
        self.how.setWordWrap(True)
        self.known = Label()
        self.known.setWordWrap(True)
        self.known.setFont(font(PLAIN, bold=True))
        self.strip = light_card()
        self._grid = QGridLayout(self.strip)
        self._grid.setContentsMargins(16, 12, 16, 12)
        self._grid.setHorizontalSpacing(10)
        self.bars: list[BarButton] = []
        self.washed = QCheckBox(tr("Washed, and it holds still"))
        self.washed.setToolTip(tr("The hem was washed as the label says, and what held before holds still"))
        self.keep = QPushButton(tr("Keep this test"))
        self.keep.setProperty("strong", True)
        self.keep.setToolTip(tr("From now on this film is pressed on this cloth as the gentlest bar that held"))
        self.keep.clicked.connect(self.keep_test)
        foot = QHBoxLayout()
        foot.addWidget(self.washed)
        foot.addStretch(1)
        foot.addWidget(self.keep)
        self._foot = QWidget()
        self._foot.setLayout(foot)
        for widget in (self.choice, self.known, self.how, self.strip, self._foot):
            self.column.addWidget(widget)
        self.column.addStretch(1)
        control.changed.connect(self.follow)

    @property
    def trials(self) -> tuple[HemTrial, ...]:
        """The tests that the garment's films ask for."""
        return hem_trials(self.control.press, self.session.workshop)

    @property
    def trial(self) -> HemTrial | None:
        """The one that is chosen."""
        return next((one for one in self.trials if one.kind == self.choice.currentData()), None)

    def look(self) -> object:
        """Return what the page depends on."""
        return self.control.press, self.session.workshop.hem_tests

    def show_plan(self) -> None:
        """Show the films to choose from, and the strip of the one that is chosen."""
        trials, chosen = self.trials, self.choice.currentData()
        for widget in (self.choice, self.known, self.how, self.strip, self._foot):
            widget.setVisible(bool(trials))
        if not trials:
            self.note.setText(tr("Nothing to try: no film is pressed here with a heat that is known."))
            return
        self.note.setText(
            tr("On a hem, or a scrap of the same cloth. What holds there is known for this cloth, film and press.")
        )
        self.choice.clear()
        for one in trials:
            self.choice.addItem(f"{one.film}: {one.said}", one.kind)
        self.choice.setCurrentIndex(max(0, self.choice.findData(chosen)))
        self._lay_out()

    def _lay_out(self) -> None:
        """Lay out the bars of the film that is chosen: heats down, seconds across."""
        trial = self.trial
        if trial is None:
            return
        degrees = degrees_of(self.session.job)
        while self._grid.count():
            item = self._grid.takeAt(0)
            widget = item.widget() if item is not None else None
            if widget is not None:
                widget.hide()
                widget.deleteLater()
        heats = sorted({bar.heat_c for bar in trial.bars})
        times = sorted({bar.seconds for bar in trial.bars})
        for column, seconds in enumerate(times, start=1):
            self._grid.addWidget(small(f"{seconds:g} s"), 0, column, Qt.AlignmentFlag.AlignHCenter)
        self.bars = []
        kept = {} if trial.kept is None else {(bar.heat_c, bar.seconds): bar for bar in trial.kept.bars}
        for row, heat in enumerate(heats, start=1):
            said = write_temperature(heat, degrees=degrees)
            self._grid.addWidget(Label(said), row, 0)
            for column, seconds in enumerate(times, start=1):
                bar = kept.get((heat, seconds), HemBar(heat_c=heat, seconds=seconds))
                button = BarButton(bar, f"{said}, {seconds:g} s")
                self.bars.append(button)
                self._grid.addWidget(button, row, column)
        self._grid.setColumnStretch(len(times) + 1, 1)
        self.how.setText("\n".join(f"{number}  {line}" for number, line in enumerate(HOW, start=1)))
        best = trial.kept.best if trial.kept is not None else None
        self.washed.setChecked(best is not None and best.washed is True)
        self.known.setText(
            tr("Not tried yet.")
            if trial.kept is None
            else tr("Tried before, and no bar held.")
            if best is None
            else f"Tried: {write_temperature(best.heat_c, degrees=degrees)}, {best.seconds:g} s held."
        )

    def keep_test(self) -> None:
        """Keep what became of the bars; the films are pressed by it from then on."""
        trial = self.trial
        if trial is None:
            return
        bars = [button.bar for button in self.bars]
        if all(bar.held is None for bar in bars):
            self.session.said.emit("Press a bar of the strip for what became of it, first.")
            return
        washed = True if self.washed.isChecked() else None
        filled = trial.filled([bar.model_copy(update={"washed": washed if bar.held else None}) for bar in bars])
        self.session.books.use(lambda store: PressBook(store).keep_test(filled), lambda test: self.follow())
