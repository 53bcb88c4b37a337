"""The limits of findings, laps and proposals: what ships with Zinnet, and the user's own values over it."""

from functools import cache
from typing import Any

from zinnet.base.errors import SettingsError
from zinnet.data import read_toml

FIXED = ("nest", "mends")
"""Sections that are not the user's: what a nest is verified by, and what proves mends."""
MOST_TIMES = 100.0
"""A limit of one's own is at most so many times what is usual: beyond, a unit is mistaken."""
type OwnLimits = tuple[tuple[str, float], ...]
"""The user's values, by names such as ``centre.tolerance_mm``."""

_own: OwnLimits = ()


def use_limits(own: OwnLimits) -> None:
    """Take the user's own limits into use, everywhere in this process."""
    global _own
    _own = own


def limits() -> dict[str, dict[str, Any]]:
    """Return all limits by their sections, the user's own where there are."""
    return _merged(_own)


@cache
def _merged(own: OwnLimits) -> dict[str, dict[str, Any]]:
    found = {section: dict(rows) for section, rows in read_toml("limits").items()}
    for name, value in own:
        section, _, row = name.partition(".")
        usual = found[section][row]
        found[section][row] = int(value) if isinstance(usual, int) else value
    return found


def usual_limits() -> dict[str, float]:
    """Return the numbers that can be set, by their names, as they are shipped."""
    return {
        f"{section}.{row}": value
        for section, rows in read_toml("limits").items()
        for row, value in rows.items()
        if section not in FIXED and isinstance(value, int | float)
    }


def source_of(name: str) -> str:
    """Return where a limit comes from."""
    return str(read_toml("limits")[name.partition(".")[0]]["source"])


def own_limits(said: dict[str, Any], where: str) -> OwnLimits:
    """Return the user's limits as tables of a file say them.

    Parameters
    ----------
    said : dict
        Sections with their rows, named as those that ship with Zinnet.
    where : str
        What is read, for the sentence where it makes no sense.

    Raises
    ------
    SettingsError
        A limit that there is not, or a value that can't be meant.
    """
    usual, found = usual_limits(), []
    for section, rows in said.items():
        if not isinstance(rows, dict):
            raise SettingsError(f"{where}: limits lie in sections, such as [centre]; “{section}” is none.")
        for row, value in rows.items():
            name = f"{section}.{row}"
            if name not in usual:
                raise SettingsError(f"{where}: there is no limit “{name}”; “zinnet workshop limits” lists them.")
            found.append((name, _number(value, usual[name], name, where)))
    return tuple(sorted(found))


def _number(value: object, usual: float, name: str, where: str) -> float:
    if isinstance(value, bool) or not isinstance(value, int | float):
        raise SettingsError(f"{where}: {name} is a number, such as {usual:g}.")
    low, high = usual / MOST_TIMES, usual * MOST_TIMES
    if not low <= value <= high:
        raise SettingsError(f"{where}: {name} of {value:g} can't be meant; it is usually {usual:g}.")
    if isinstance(usual, int) and value != int(value):
        raise SettingsError(f"{where}: {name} is a whole number, such as {usual:g}.")
    return float(value)
