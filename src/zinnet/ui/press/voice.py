"""The system's voice, where one is installed: what the card says is spoken, for hands that are busy."""

import shutil

from PySide6.QtCore import QProcess

SPEAKERS = (("spd-say", "--cancel"), ("espeak-ng", ""), ("espeak", ""))
"""Programs that speak a text, and by which word each falls silent first."""
MOST_SPOKEN = 600


def is_there() -> bool:
    """Tell whether there is a voice."""
    return _speaker() is not None


def say(text: str) -> bool:
    """Speak a text without waiting for its end; return whether there is a voice."""
    found = _speaker()
    if found is None or not text.strip():
        return False
    program, silent = found
    if silent:
        QProcess.startDetached(program, [silent])
    return bool(QProcess.startDetached(program, ["--", text[:MOST_SPOKEN]])[0])


def _speaker() -> tuple[str, str] | None:
    return next(((path, silent) for name, silent in SPEAKERS if (path := shutil.which(name)) is not None), None)
