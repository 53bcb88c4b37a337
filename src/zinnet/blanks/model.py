"""The models of a blank: what the user states, and the geometry that follows from it."""

from dataclasses import dataclass
from functools import cache
from typing import Any

from shapely.geometry import LineString, Point

from zinnet.data import read_toml
from zinnet.errors import BlankError
from zinnet.geometry.region import Region
from zinnet.model import Frozen


class Measure(Frozen):
    """One measure that the user took, in mm."""

    name: str
    mm: float


class BlankSpec(Frozen):
    """Which blank it is, and what was measured on it; the rest is typical."""

    kind: str = "tee-adult"
    measured: tuple[Measure, ...] = ()
    colour: str | None = None


class MeasureKind(Frozen):
    """A measure as the catalogue describes it, lengths in mm."""

    name: str
    typical_mm: float
    least_mm: float
    most_mm: float
    how: str


class BlankKind(Frozen):
    """A blank as the catalogue describes it."""

    name: str
    fabric: str
    colour: str
    seen: str
    source: str
    measures: dict[str, MeasureKind]
    shape: dict[str, Any]
    clearance: dict[str, Any]


@dataclass(frozen=True)
class Tape:
    """Where a measure is shown on the drawing: from one point to another, in mm."""

    measure: str
    start: tuple[float, float]
    end: tuple[float, float]


@dataclass(frozen=True, eq=False)
class Blank:
    """A blank lying flat, in mm, y down; x = 0 is the centre line, y = 0 the highest shoulder point."""

    kind: str
    name: str
    colour: str
    seen: str
    measures: dict[str, float]
    measured: frozenset[str]
    outline: Region
    panel: Region
    usable: Region
    collar: Region
    collar_point: tuple[float, float]
    seams: tuple[LineString, ...]
    tapes: tuple[Tape, ...]

    def edges_at(self, y_mm: float) -> tuple[float, float] | None:
        """Return the x of the panel's left and right edge at a height, or None beside the panel."""
        left, _, right, _ = self.panel.bounds
        across = self.panel.intersection(LineString([(left - 1, y_mm), (right + 1, y_mm)]))
        if across.is_empty or isinstance(across, Point):
            return None
        return float(across.bounds[0]), float(across.bounds[2])


@cache
def blank_kinds() -> dict[str, BlankKind]:
    """Return the catalogue of blanks."""
    return {name: BlankKind.model_validate(row) for name, row in read_toml("blanks").items()}


def blank_kind(name: str) -> BlankKind:
    """Return one blank of the catalogue."""
    kinds = blank_kinds()
    if name not in kinds:
        raise BlankError(f"There is no blank “{name}”; known are: {', '.join(kinds)}.")
    return kinds[name]


def measures_of(spec: BlankSpec) -> dict[str, float]:
    """Return every measure of the blank in mm: the user's own, else typical ones.

    Raises :class:`BlankError` where a measure is unknown or out of any sensible range.
    """
    kind = blank_kind(spec.kind)
    found = {name: measure.typical_mm for name, measure in kind.measures.items()}
    for measure in spec.measured:
        if measure.name not in kind.measures:
            raise BlankError(f"{kind.name} has no measure “{measure.name}”; it has: {', '.join(kind.measures)}.")
        limits = kind.measures[measure.name]
        if not limits.least_mm <= measure.mm <= limits.most_mm:
            raise BlankError(
                f"{limits.name} of {measure.mm:.0f} mm can't be right for {kind.name.lower()}: "
                f"it lies between {limits.least_mm:.0f} and {limits.most_mm:.0f} mm. Measure it again."
            )
        found[measure.name] = measure.mm
    return found
