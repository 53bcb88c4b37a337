"""What Zinnet says, for a few seconds, at the foot of the table; where it tells of a change, with the way back."""

from collections.abc import Callable

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QFrame, QHBoxLayout, QPushButton, QWidget

from zinnet.ui.language import tr
from zinnet.ui.plain import Label

SAID_MS = 9000
MOST_WIDTH = 620
ABOVE_FOOT = 62


class Message(QFrame):
    """A card over a widget, with one thing that was said."""

    def __init__(self, over: QWidget, window: QWidget) -> None:
        super().__init__(parent=window)
        self._over, self._window = over, window
        self._take_back: Callable[[], object] | None = None
        self.setProperty("said", True)
        self.words = Label()
        self.words.setWordWrap(True)
        self.words.setAccessibleName(tr("What Zinnet says"))
        self.undo = QPushButton(tr("Undo"))
        self.undo.setProperty("small", True)
        self.undo.setToolTip(tr("Take this change back (Ctrl+Z)"))
        self.undo.clicked.connect(self._undo)
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 8, 12, 8)
        row.addWidget(self.words, 1)
        row.addWidget(self.undo)
        self.hide()
        self._timer = QTimer(self, singleShot=True, interval=SAID_MS)
        self._timer.timeout.connect(self.hide)

    def text(self) -> str:
        """Return what is said."""
        return self.words.text()

    def say(self, text: str, take_back: Callable[[], object] | None = None) -> None:
        """Say something for a few seconds; ``take_back`` is what undoes it, where that can be done."""
        self._take_back = take_back
        self.undo.setVisible(take_back is not None)
        self.words.setText(text)
        self._place()
        self.show()
        self.raise_()
        self._timer.start()

    def _undo(self) -> None:
        take_back, self._take_back = self._take_back, None
        self.hide()
        if take_back is not None:
            take_back()

    def _place(self) -> None:
        over = self._over
        corner = over.mapTo(self._window, over.rect().topLeft())
        width = min(MOST_WIDTH, over.width() - 40)
        self.setFixedWidth(width)
        height = self.heightForWidth(width) + 4
        left, top = corner.x() + (over.width() - width) // 2, corner.y() + over.height() - height - ABOVE_FOOT
        self.setGeometry(left, top, width, height)
