"""Reading a recipe that is typed in: a film maker's sheet, or one of the user's own."""

from collections.abc import Mapping
from typing import Any

from pydantic import ValidationError

from zinnet.base.errors import SettingsError
from zinnet.base.units import Degrees, read_temperature
from zinnet.pressing.heat_values import Range
from zinnet.pressing.recipes import PEELS, PRESSURES, Origin, Recipe


def typed_recipe(typed: Mapping[str, str | None], *, origin: Origin, degrees: Degrees = "C") -> Recipe:
    """Return a recipe from typed texts: heat, time, tack, back, wait (a number or a range), pressure and peel.

    Raises :class:`SettingsError` where one of them can't be read.

    Parameters
    ----------
    typed : texts by field
        As the user wrote them.
    origin : Origin
        Whose recipe it is.
    degrees : 'C' or 'F'
        In which the heat is typed.

    Returns
    -------
    Recipe, degC and s
        Every number a range.

    Raises
    ------
    SettingsError
        One of the texts can't be read; the message says which.
    """
    said: dict[str, Any] = {
        "school": "the film's sheet" if origin == "maker" else "my own",
        "origin": origin,
        "source": "the film maker's sheet" if origin == "maker" else "measured and logged here",
    }
    heat = (typed.get("heat") or "").strip()
    if heat:
        said["heat_c"] = read_heats(heat, degrees)
    for name, key in (("time", "seconds"), ("tack", "tack_s"), ("back", "back_s"), ("wait", "wait_s")):
        text = (typed.get(name) or "").replace("s", "").strip()
        if text:
            said[key] = _typed_span(text, name)
    for name, known in (("pressure", PRESSURES), ("peel", PEELS)):
        words = tuple(word.strip() for word in (typed.get(name) or "").lower().split(",") if word.strip())
        for word in words:
            if word not in known:
                raise SettingsError(f"“{word}” is no {name}; write {', '.join(known)}.")
        said[name] = words
    if "heat_c" not in said or "seconds" not in said:
        raise SettingsError("A recipe needs a heat and a time at least; type them like 320 F and 10-15.")
    try:
        return Recipe.model_validate(said)
    except ValidationError as error:
        message = str(error.errors()[0]["msg"]).removeprefix("Value error, ")
        raise SettingsError(f"That is no recipe: {message}; type it again.") from None


def read_heats(text: str, degrees: Degrees = "C") -> Range:
    """Return one heat, or a range of them such as 150C-160C, in degC; what has no unit is in ``degrees``."""
    low, _, high = text.partition("-")
    unit = degrees if not text.lower().rstrip().endswith(("c", "f")) else text.rstrip()[-1].upper()
    first, last = (read_temperature(one, degrees="F" if unit == "F" else "C") for one in (low, high or low))
    return first, last


def _typed_span(text: str, name: str) -> Range:
    low, _, high = text.partition("-")
    try:
        return float(low.replace(",", ".")), float((high or low).replace(",", "."))
    except ValueError:
        raise SettingsError(f"“{text}” is no time for the {name}; write seconds, such as 15 or 10-15.") from None
