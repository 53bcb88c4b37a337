"""How large type is, and with it all that stands beside it; kept in the settings, in force from the next start."""

import os
from collections.abc import MutableMapping

from PySide6.QtCore import QSettings, QSize

KEY = "type percent"
PERCENTS = (100, 125, 150, 200)
SCALE = "QT_SCALE_FACTOR"
"""Qt reads this once, before its application is made; what the desktop or the user set there wins."""
LEAST = QSize(1024, 700)
"""The smallest window that shows everything, in pixels at 100 %."""


def remembered_percent(settings: QSettings) -> int:
    """Return how large type is to be, in per cent; 100 where nothing of use was kept."""
    kept = str(settings.value(KEY, PERCENTS[0]))
    return int(kept) if kept.isdecimal() and int(kept) in PERCENTS else PERCENTS[0]


def use_type_size(settings: QSettings, environment: MutableMapping[str, str] = os.environ) -> None:
    """Have Qt draw at the size that was chosen last; of use only before the application is made."""
    percent = remembered_percent(settings)
    if percent != PERCENTS[0]:
        environment.setdefault(SCALE, f"{percent / 100:g}")


def fits_screen(percent: int, screen: QSize) -> bool:
    """Whether the smallest window fits a screen, whose size is in its own pixels, when type is so large."""
    return LEAST.width() * percent <= 100 * screen.width() and LEAST.height() * percent <= 100 * screen.height()
