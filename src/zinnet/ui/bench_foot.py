"""Below every bench: what is next on the way of the job, and the button that goes there."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeySequence, QShortcut
from PySide6.QtWidgets import QFrame, QHBoxLayout, QPushButton, QStackedWidget

from zinnet.ui.job_strip import JobStrip
from zinnet.ui.language import tr
from zinnet.ui.plain import Elided, plain

if TYPE_CHECKING:
    from zinnet.ui.awake import Awake


class BenchFoot(QFrame):
    """Shown while a bench is; the table has the same in the line of the job."""

    def __init__(self, middle: QStackedWidget, strip: JobStrip, leave: Callable[[], None]) -> None:
        super().__init__()
        self.setProperty("card", "foot")
        self._strip, self._leave = strip, leave
        self.missing = Elided()
        self.missing.setAccessibleName(tr("What is next"))
        self.button = QPushButton()
        self.button.setProperty("strong", True)
        self.button.clicked.connect(self.go_on)
        self.back = QPushButton(tr("Leave the bench"))
        self.back.setToolTip(tr("Back to the table (F11)"))
        self.back.clicked.connect(leave)
        row = QHBoxLayout(self)
        row.setContentsMargins(28, 6, 28, 8)
        row.addWidget(self.back)
        row.addWidget(self.missing, 1)
        row.addWidget(self.button)
        for button in (self.back, self.button):
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        QShortcut(QKeySequence(Qt.Key.Key_F8), self, self.go_on)  # that of the menu sleeps while the menus are hidden
        strip.said.connect(self._follow)
        self._awake: Awake | None = None
        middle.currentChanged.connect(self._show_at_bench)
        self.hide()

    def _show_at_bench(self, index: int) -> None:
        """Be there while a bench is, and keep the screen on: hands are busy then, and no key is pressed for long."""
        self.setVisible(index > 0)
        if index > 0:
            from zinnet.ui.awake import Awake

            self._awake = self._awake or Awake()
            self._awake.hold("somebody is at the bench")
        elif self._awake is not None:
            self._awake.release()

    def _follow(self, way: object, missing: str, next_said: str) -> None:
        self.missing.show_whole(missing)
        self.button.setText(next_said)
        self.button.setToolTip(plain(self._strip.where))
        self.button.setEnabled(self._strip.button.isEnabled())

    def go_on(self) -> None:
        """Leave the bench and go to what is next."""
        self._leave()
        self._strip.go_on()
