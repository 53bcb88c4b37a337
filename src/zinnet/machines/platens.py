"""Platens: the sources of heat with their sizes, and how large artwork may be under one."""

from functools import cache
from typing import Literal

from zinnet.base.errors import ZinnetError
from zinnet.base.frozen import Frozen
from zinnet.data import read_toml


class Platen(Frozen):
    """A platen of the catalogue, lengths in mm."""

    name: str
    heat_source: Literal["press", "hand", "cap", "iron", "round"]
    width_mm: float
    height_mm: float
    source: str


@cache
def platens() -> dict[str, Platen]:
    """Return the catalogue of platens."""
    return {name: Platen.model_validate(row) for name, row in read_toml("platens").items()}


def platen(name: str) -> Platen:
    """Return one platen by its id."""
    if name not in platens():
        raise ZinnetError(f"There is no platen “{name}”; known are: {', '.join(platens())}.")
    return platens()[name]


def widest_under(one: Platen, aspect: float) -> float:
    """Return the largest width in mm at which artwork of ``aspect`` = height / width is pressed at once."""
    wide, high = one.width_mm, one.height_mm
    return max(min(wide, high / aspect), min(high, wide / aspect))
