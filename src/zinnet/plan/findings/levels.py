"""How grave findings are, and the stations where they are mended."""

from typing import Literal

Level = Literal["stop", "warn", "note", "confirm"]
Station = Literal["measure", "artwork", "fit", "split", "nest", "cut", "press", "log"]
LEVELS: tuple[Level, ...] = ("stop", "warn", "confirm", "note")
