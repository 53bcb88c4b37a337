"""What is asked when a job's file was written by somebody else since it was opened."""

from pathlib import Path
from typing import Literal

from PySide6.QtWidgets import QWidget

from zinnet.ui.choosing import choose
from zinnet.ui.language import tr

type Choice = Literal["theirs", "mine", "copy"]


def ask_theirs_or_mine(window: QWidget, path: Path) -> Choice | None:
    """Ask what becomes of two versions of a job; None: nothing yet."""
    answers: dict[Choice, str] = {
        "copy": tr("Save mine as a copy"),
        "theirs": tr("Throw mine away, open theirs"),
        "mine": tr("Write mine over theirs"),
    }
    question = f"{path.name} was written by another window or program since it was opened here."
    more = tr("Both versions hold work. What is to be done with yours?")
    return choose(window, tr("Changed elsewhere"), question, answers, more=more)
