"""What is asked when a job's file was written by somebody else since it was opened."""

from pathlib import Path
from typing import Literal

from PySide6.QtWidgets import QMessageBox, QWidget

from zinnet.ui.language import tr
from zinnet.ui.plain import plain

type Choice = Literal["theirs", "mine", "copy"] | None


def ask_theirs_or_mine(window: QWidget, path: Path) -> Choice:
    """Ask what becomes of two versions of a job; None: nothing yet."""
    box = QMessageBox(window)
    box.setWindowTitle(tr("Changed elsewhere"))
    box.setText(plain(f"{path.name} was written by another window or program since it was opened here."))
    box.setInformativeText(tr("Both versions hold work. What is to be done with yours?"))
    role = QMessageBox.ButtonRole
    buttons: dict[Choice, object] = {
        "copy": box.addButton(tr("Save mine as a copy"), role.AcceptRole),
        "theirs": box.addButton(tr("Throw mine away, open theirs"), role.DestructiveRole),
        "mine": box.addButton(tr("Write mine over theirs"), role.DestructiveRole),
        None: box.addButton(QMessageBox.StandardButton.Cancel),
    }
    box.exec()
    return next((choice for choice, button in buttons.items() if button is box.clickedButton()), None)
