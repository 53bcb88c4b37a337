"""Mats: their sizes, the margin kept on them, and the room for scissors."""

from functools import cache

from zinnet.data import read_toml
from zinnet.errors import NestError, UnitsError
from zinnet.model import Frozen
from zinnet.nesting.model import NestSpec
from zinnet.nesting.sheet import Sheet
from zinnet.units import read_size


class Mat(Frozen):
    """A mat of the catalogue, lengths in mm."""

    name: str
    width_mm: float
    height_mm: float
    margin_mm: float
    source: str


@cache
def mats() -> dict[str, Mat]:
    """Return the catalogue of mats."""
    return {name: Mat.model_validate(row) for name, row in read_toml("mats")["mats"].items()}


def usual_gap_mm() -> float:
    """Return the usual room for scissors between pieces."""
    return float(read_toml("mats")["room"]["gap_mm"])


def mat_sheet(name: str) -> Sheet:
    """Return the sheet that a mat holds: one of the catalogue, or any size such as ``300x200mm``."""
    if name in mats():
        mat = mats()[name]
        return Sheet(width_mm=mat.width_mm, height_mm=mat.height_mm, margin_mm=mat.margin_mm)
    try:
        width, height = read_size(name)
    except UnitsError:
        raise NestError(
            f"There is no mat “{name}”; use one of {', '.join(mats())}, or a size such as 300x200mm."
        ) from None
    margin = next(iter(mats().values())).margin_mm
    if min(width, height) <= 2 * margin:
        raise NestError(f"A mat of {name} is smaller than its margins of {margin:g} mm; use a larger one.")
    return Sheet(width_mm=width, height_mm=height, margin_mm=margin)


def gap_of(spec: NestSpec) -> float:
    """Return the gap that the user asked for, else the usual one."""
    return usual_gap_mm() if spec.gap_mm is None else spec.gap_mm
