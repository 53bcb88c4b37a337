"""A question with several answers, each on a button of its own."""

from collections.abc import Mapping

from PySide6.QtWidgets import QMessageBox, QWidget

from zinnet.ui.plain import plain


def choose[Answer](
    window: QWidget, title: str, question: str, answers: Mapping[Answer, str], *, more: str = ""
) -> Answer | None:
    """Ask, and return the answer whose button was pressed; None where nothing is to be done yet."""
    box = QMessageBox(window)
    box.setWindowTitle(title)
    box.setText(plain(question))
    box.setInformativeText(more)
    role = QMessageBox.ButtonRole.AcceptRole
    buttons = {answer: box.addButton(said, role) for answer, said in answers.items()}
    box.addButton(QMessageBox.StandardButton.Cancel)
    box.exec()
    return next((answer for answer, button in buttons.items() if button is box.clickedButton()), None)
