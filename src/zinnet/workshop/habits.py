"""The user's habits in a TOML file of the configuration folder: a finger's breadth, schools by kind and class."""

from pathlib import Path

import platformdirs
from pydantic import ValidationError

from zinnet.base.errors import SettingsError
from zinnet.base.files import write_whole
from zinnet.base.own_toml import read_own_toml
from zinnet.placement.guides import schools, usual_finger_mm
from zinnet.placement.place import Habits

LEAST_FINGER_MM, MOST_FINGER_MM = 8.0, 40.0


def settings_file() -> Path:
    """Return where the settings lie."""
    return platformdirs.user_config_path("zinnet") / "settings.toml"


def read_habits(path: Path | None = None) -> Habits:
    """Return the habits that the file says, else the usual ones.

    Raises :class:`SettingsError` where the file can't be made sense of.
    """
    path = path or settings_file()
    data = read_own_toml(path) if path.exists() else {}
    finger = data.get("finger_mm", usual_finger_mm())
    chosen = data.get("schools", {})
    if not isinstance(chosen, dict) or not all(name in schools() for name in chosen.values()):
        raise SettingsError(f"{path}: schools are one of {', '.join(schools())}; mend it there.")
    try:
        habits = Habits(finger_mm=finger, schools=tuple(chosen.items()))
    except ValidationError:
        raise SettingsError(f"{path}: finger_mm is a number in mm; mend it there.") from None
    _refuse_finger(habits.finger_mm)
    return habits


def write_habits(habits: Habits, path: Path | None = None) -> None:
    """Write the habits, whole or not at all; other settings in the file are kept."""
    import tomli_w

    _refuse_finger(habits.finger_mm)
    path = path or settings_file()
    try:
        data = read_own_toml(path)
    except SettingsError:
        data = {}
    data |= {"finger_mm": habits.finger_mm, "schools": dict(habits.schools)}
    write_whole(path, tomli_w.dumps(data).encode(), error=SettingsError)


def _refuse_finger(finger_mm: float) -> None:
    if not LEAST_FINGER_MM <= finger_mm <= MOST_FINGER_MM:
        raise SettingsError(
            f"A finger of {finger_mm:g} mm can't be right: it lies between {LEAST_FINGER_MM:g} and "
            f"{MOST_FINGER_MM:g} mm. Lay four fingers on a rule and divide by four."
        )
