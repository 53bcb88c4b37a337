"""What is asked when artwork is brought while other artwork is on the table."""

from typing import Literal

from PySide6.QtWidgets import QMessageBox, QWidget

from zinnet.ui.language import tr
from zinnet.ui.plain import plain

type Choice = Literal["besides", "instead", "new"] | None


def ask_where_to(window: QWidget, called: str) -> Choice:
    """Ask what becomes of artwork that is brought; None: nothing."""
    box = QMessageBox(window)
    box.setWindowTitle(tr("Artwork is on the table already"))
    box.setText(plain(f"Where does {called} belong?"))
    role = QMessageBox.ButtonRole
    buttons: dict[Choice, object] = {
        "besides": box.addButton(tr("Add it to this job"), role.AcceptRole),
        "instead": box.addButton(tr("Put it in place of the selected design"), role.AcceptRole),
        "new": box.addButton(tr("Begin a new job with it"), role.AcceptRole),
        None: box.addButton(QMessageBox.StandardButton.Cancel),
    }
    box.exec()
    return next((choice for choice, button in buttons.items() if button is box.clickedButton()), None)
