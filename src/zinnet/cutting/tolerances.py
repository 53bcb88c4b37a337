"""The numbers that cutting goes by, read once from ``data/cutting.toml``."""

from functools import cache

from zinnet.base.frozen import Frozen
from zinnet.data import read_toml


class Lines(Frozen):
    """How lines are drawn; lengths in mm, angles in degrees."""

    simplify_mm: float
    same_line_mm: float
    least_shared_mm: float
    corner_deg: float
    small_mm: float
    beside_mm: float
    arc_tolerance_mm: float
    knife_tolerance_mm: float
    swivel_deg: float


class Motion(Frozen):
    """How a cutter moves: fast between lines, stopping at corners, lifting and lowering its knife."""

    travel_mm_s: float
    accel_mm_s2: float
    lift_s: float
    corner_deg: float


class Grip(Frozen):
    """From which thickness (micrometres) a film needs a mat with a strong grip."""

    stiff_um: float


def _numbers[T: Frozen](model: type[T], table: str) -> T:
    rows = read_toml("cutting")[table]
    return model.model_validate({name: rows[name] for name in model.model_fields})


@cache
def lines() -> Lines:
    """Return how lines are drawn."""
    return _numbers(Lines, "lines")


@cache
def motion() -> Motion:
    """Return how a cutter usually moves."""
    return _numbers(Motion, "motion")


@cache
def grip() -> Grip:
    """Return what tells a strong grip from a usual one."""
    return _numbers(Grip, "grip")
