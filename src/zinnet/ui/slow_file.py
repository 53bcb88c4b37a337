"""The question that is asked when a file takes long to read; it is waited for until somebody says to leave it."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QObject
from PySide6.QtWidgets import QMessageBox, QWidget

from zinnet.ui.language import tr
from zinnet.ui.plain import plain

if TYPE_CHECKING:
    from zinnet.bench.bounded import Bounded
    from zinnet.ui.opener import Opener


class SlowFile(QObject):
    """Asks beside the work whether a slow file is waited for. The question goes when the file is there."""

    def __init__(self, window: QWidget, opener: "Opener") -> None:
        super().__init__(window)
        self._window, self._opener = window, opener
        self.box: QMessageBox | None = None
        opener.slow.connect(self._ask)
        opener.settled.connect(self._settle)

    def _ask(self, task: "Bounded") -> None:
        from zinnet.bench.bounded import MOST_S

        if task is not self._opener.task:
            return
        box = QMessageBox(self._window)
        box.setWindowTitle(tr("This file takes long"))
        box.setText(plain(f"“{task.called}” has kept the processor busy for {MOST_S:.0f} s and is not read yet."))
        box.setInformativeText(tr("It is read beside the window, which goes on. Nothing is lost if you leave it."))
        box.addButton(tr("Keep reading"), QMessageBox.ButtonRole.AcceptRole)
        leave = box.addButton(tr("Leave it"), QMessageBox.ButtonRole.RejectRole)
        leave.clicked.connect(task.stop)
        box.setModal(False)
        self._settle()
        self.box = box
        box.show()

    def _settle(self) -> None:
        if self.box is not None:
            self.box.close()
            self.box.deleteLater()
            self.box = None
