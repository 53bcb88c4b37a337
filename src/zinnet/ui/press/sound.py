"""A tone when a timer rings, by whatever plays sound on this machine."""

import math
import shutil
import struct
import tempfile
import wave
from functools import cache
from pathlib import Path

from PySide6.QtCore import QProcess
from PySide6.QtWidgets import QApplication

PLAYERS = ("pw-play", "paplay", "aplay")
RATE = 22_050
USUAL, SILENT = "three tones", "nothing: by eye"
TONES: dict[str, tuple[tuple[float, float], ...]] = {
    USUAL: ((880.0, 0.22), (0.0, 0.08), (880.0, 0.22), (0.0, 0.08), (1174.7, 0.4)),
    "a low gong": ((220.0, 1.4),),
    "a long high tone": ((1568.0, 1.2),),
    SILENT: (),
}
"""Pitches in Hz with their lengths in s."""


def ring(tone: str = USUAL) -> None:
    """Ring; by the system's beep where nothing plays sound."""
    if not TONES[tone]:
        return
    player = next((path for name in PLAYERS if (path := shutil.which(name)) is not None), None)
    if player is None or not QProcess.startDetached(player, [str(_file_of(tone))])[0]:
        QApplication.beep()


@cache
def _file_of(tone: str) -> Path:
    """Return a file with a tone."""
    path = Path(tempfile.mkdtemp(prefix="zinnet-")) / "ring.wav"
    with wave.open(str(path), "wb") as file:
        file.setnchannels(1)
        file.setsampwidth(2)
        file.setframerate(RATE)
        for pitch, seconds in TONES[tone]:
            count = int(seconds * RATE)
            samples = (
                0.6 * math.sin(2 * math.pi * pitch * k / RATE) * min(1.0, k / 200, (count - k) / 200)
                for k in range(count)
            )
            file.writeframes(b"".join(struct.pack("<h", int(32_000 * sample)) for sample in samples))
    return path
