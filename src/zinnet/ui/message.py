"""What Zinnet says, for a few seconds, at the foot of the table."""

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QWidget

from zinnet.ui.language import tr
from zinnet.ui.plain import Label

SAID_MS = 9000
MOST_WIDTH = 620
ABOVE_FOOT = 62


class Message(Label):
    """A card over a widget, with one thing that was said."""

    def __init__(self, over: QWidget, window: QWidget) -> None:
        super().__init__(parent=window)
        self._over, self._window = over, window
        self.setProperty("said", True)
        self.setWordWrap(True)
        self.setAccessibleName(tr("What Zinnet says"))
        self.hide()
        self._timer = QTimer(self, singleShot=True, interval=SAID_MS)
        self._timer.timeout.connect(self.hide)

    def say(self, text: str) -> None:
        """Say something for a few seconds."""
        self.setText(text)
        self._place()
        self.show()
        self.raise_()
        self._timer.start()

    def _place(self) -> None:
        over = self._over
        corner = over.mapTo(self._window, over.rect().topLeft())
        width = min(MOST_WIDTH, over.width() - 40)
        self.setFixedWidth(width)
        height = self.heightForWidth(width) + 4
        left, top = corner.x() + (over.width() - width) // 2, corner.y() + over.height() - height - ABOVE_FOOT
        self.setGeometry(left, top, width, height)
