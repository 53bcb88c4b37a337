"""The guides of the trade: schools of distance under the collar, and the usual width per place."""

from functools import cache

from zinnet.data import read_toml
from zinnet.errors import ZinnetError
from zinnet.model import Frozen


class School(Frozen):
    """How far under the collar one school puts the top edge, in mm."""

    name: str
    low_mm: float
    high_mm: float
    target_mm: float
    source: str


class Place(Frozen):
    """A place on a blank: how wide artwork usually is there, and how it lies."""

    name: str
    blanks: tuple[str, ...]
    school: str
    width_low_mm: float
    width_high_mm: float
    width_usual_mm: float
    centred: bool
    level: bool
    source: str


@cache
def schools() -> dict[str, School]:
    """Return every school of distance under the collar."""
    return {name: School.model_validate(row) for name, row in read_toml("guides")["schools"].items()}


@cache
def places() -> dict[str, Place]:
    """Return every place."""
    return {name: Place.model_validate(row) for name, row in read_toml("guides")["places"].items()}


def place(name: str) -> Place:
    """Return one place by its id."""
    if name not in places():
        raise ZinnetError(f"There is no place “{name}”; known are: {', '.join(places())}.")
    return places()[name]


def school(name: str) -> School:
    """Return one school by its id."""
    if name not in schools():
        raise ZinnetError(f"There is no school “{name}”; known are: {', '.join(schools())}.")
    return schools()[name]
