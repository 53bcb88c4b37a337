"""What else can be done at the press's bench, as a menu for a finger: rarely asked for, and none of it hidden."""

from collections.abc import Callable
from dataclasses import dataclass

from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QActionGroup, QKeyEvent
from PySide6.QtWidgets import QMenu, QWidget

from zinnet.ui.language import tr
from zinnet.ui.press.bench_habits import BenchHabits
from zinnet.ui.press.sound import TONES
from zinnet.ui.theme import LARGE, font


@dataclass(frozen=True)
class More:
    """One thing that can be done: what it says, its key, and what it does."""

    text: str
    key: Qt.Key
    do: Callable[[], object]


class MoreMenu:
    """The menu, and the keys that do the same."""

    def __init__(self, parent: QWidget, rows: tuple[More, ...], habits: BenchHabits, has_voice: bool) -> None:
        self._parent, self._rows, self._habits, self._has_voice = parent, rows, habits, has_voice

    def take(self, event: QKeyEvent) -> bool:
        """Do what a key asks for; return whether one of them answers to it."""
        for row in self._rows:
            if row.key == event.key():
                row.do()
                return True
        return False

    def menu(self) -> QMenu:
        """Return the menu."""
        menu = QMenu(self._parent)
        menu.setFont(font(LARGE))
        for row in self._rows:
            action = menu.addAction(row.text)
            action.setShortcut(row.key)
            action.triggered.connect(lambda checked=False, do=row.do: do())
        menu.addSeparator()
        tones = menu.addMenu(tr("Ring by"))
        tones.setFont(font(LARGE))
        group = QActionGroup(tones)
        for tone in TONES:
            action = tones.addAction(tone)
            action.setCheckable(True)
            action.setChecked(tone == self._habits.tone)
            action.triggered.connect(lambda checked=False, tone=tone: self._take_tone(tone))
            group.addAction(action)
        mute = tr("Speak the cards (no voice installed)")
        spoken = menu.addAction(tr("Speak the cards") if self._has_voice else mute)
        spoken.setCheckable(True)
        spoken.setChecked(self._habits.is_spoken and self._has_voice)
        spoken.setEnabled(self._has_voice)
        spoken.toggled.connect(lambda on: setattr(self._habits, "is_spoken", on))
        return menu

    def _take_tone(self, tone: str) -> None:
        self._habits.tone = tone
        self._habits.ring()

    def show(self, above: QPoint) -> None:
        """Show it above a point of the screen."""
        menu = self.menu()
        menu.popup(above - QPoint(menu.sizeHint().width(), menu.sizeHint().height()))
