"""What is asked when artwork is brought while other artwork is on the table."""

from typing import Literal

from PySide6.QtWidgets import QWidget

from zinnet.ui.choosing import choose
from zinnet.ui.language import tr

type Choice = Literal["besides", "instead", "new"]


def ask_where_to(window: QWidget, called: str) -> Choice | None:
    """Ask what becomes of artwork that is brought; None: nothing."""
    answers: dict[Choice, str] = {
        "besides": tr("Add it to this job"),
        "instead": tr("Put it in place of the selected design"),
        "new": tr("Begin a new job with it"),
    }
    return choose(window, tr("Artwork is on the table already"), f"Where does {called} belong?", answers)
