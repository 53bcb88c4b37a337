"""The models of a blank: what the user states, and the geometry that follows from it."""

from dataclasses import dataclass, field
from functools import cached_property
from typing import Literal

import numpy as np
import shapely
from numpy.typing import NDArray
from pydantic import Field
from shapely.geometry import LineString

from zinnet.base.frozen import Frozen
from zinnet.blanks.procedures import Procedure
from zinnet.films.catalogue import Bond
from zinnet.geometry.region import Region

Point = tuple[float, float]
Shoulder = Literal["right", "left"]
KeepOutKind = Literal["zip", "buttons", "fur", "cords", "plastic", "thick seam", "other"]
KEEP_OUT_KINDS: tuple[KeepOutKind, ...] = ("zip", "buttons", "fur", "cords", "plastic", "thick seam", "other")


class Measure(Frozen):
    """One measure that the user took, in mm."""

    name: str
    mm: float


class DrawnKeepOut(Frozen):
    """A rectangle that the user drew on a panel, in the panel's mm, where nothing may be pressed."""

    panel: str
    kind: KeepOutKind = "other"
    left: float
    top: float
    right: float
    bottom: float


class OwnOutline(Frozen):
    """An outline of the user's own: rings of points in mm (even-odd), the widest place as wide as measured."""

    name: str
    rings: tuple[tuple[tuple[float, float], ...], ...]


class BlankSpec(Frozen):
    """Which blank it is, and what was measured on it; the rest is typical."""

    kind: str = "tee"
    size: str | None = "adult-m"
    measured: tuple[Measure, ...] = ()
    colour: str | None = Field(default=None, pattern="^#[0-9a-fA-F]{6}$")
    fabric: str | None = None
    care_dots: int | None = Field(default=None, ge=0, le=3)
    shoulder: Shoulder = "right"
    keep_outs: tuple[DrawnKeepOut, ...] = ()
    outline: OwnOutline | None = None


@dataclass(frozen=True)
class Tape:
    """Where a measure is shown on the drawing: from one point to another, in mm.

    ``aside`` is how far beside that the tape is drawn, in pixels, joined to it by chalk.
    """

    measure: str
    start: Point
    end: Point
    aside: Point = (0.0, 0.0)


@dataclass(frozen=True, eq=False)
class Cloth:
    """One part of a blank as it is drawn, from the back to the front; ``role`` says what it is made of."""

    role: str
    region: Region


@dataclass(frozen=True, eq=False)
class KeepOut:
    """A spot on which nothing may be cut or pressed. A raised one only keeps artwork off: a pad lifts the rest."""

    kind: KeepOutKind
    region: Region
    raised: bool = False
    drawn_by_user: bool = False


@dataclass(frozen=True)
class Arc:
    """A circle that a seam follows: letters stand on it, their heads away from the centre."""

    centre: Point
    radius: float


@dataclass(frozen=True, eq=False)
class Panel:
    """One side of a blank that can be pressed, lying flat, in mm, y down; x = 0 is its centre line.

    ``region`` is where artwork may lie at all, ``usable`` what is left beside seams, edges and keep-outs.
    ``references`` are named points from which distances are measured; ``marks`` are two points, left and right,
    that can be found on the real thing, for readings with a ruler. ``holds`` says by what bond films hold on it, the
    usual one first.
    """

    id: str
    name: str
    seen: Literal["front", "through-glass"]
    holds: tuple[Bond, ...]
    region: Region
    usable: Region
    cloth: tuple[Cloth, ...]
    seams: tuple[LineString, ...]
    lines: tuple[LineString, ...]
    keep_outs: tuple[KeepOut, ...]
    references: dict[str, Point]
    marks: tuple[Point, Point]
    mark_name: str
    tapes: tuple[Tape, ...]
    arc: Arc | None = None
    visible_mm: float | None = None
    touched: Region | None = None
    """Where food, drink or lips touch."""
    round_mm: float | None = None
    """How long it is once round, at y = 0, where it closes to a ring."""
    ends: tuple[str, str] = ("", "")
    """What is at the left and at the right end, where the panel is a strip."""
    is_round: bool = False
    """Whether it goes round a thing of which only a part is seen at once."""

    @cached_property
    def outline(self) -> Region:
        """All that is drawn of it, as one region."""
        return Region([part for cloth in self.cloth for part in cloth.region.geoms])

    @property
    def bounds(self) -> tuple[float, float, float, float]:
        """The box around all that is drawn."""
        return self.outline.bounds  # type: ignore[no-any-return]

    @cached_property
    def _profile(self) -> tuple[NDArray[np.float64], NDArray[np.float64], NDArray[np.float64]]:
        """Heights with the x of the left and right edge there."""
        return edge_profile(self.region)

    def edges_at(self, y_mm: float) -> tuple[float, float] | None:
        """Return the x of the panel's left and right edge at a height, or None beside the panel."""
        heights, left, right = self._profile
        if not heights[0] <= y_mm <= heights[-1]:
            return None
        return float(np.interp(y_mm, heights, left)), float(np.interp(y_mm, heights, right))

    def edges_near(self, y_mm: float) -> tuple[float, float]:
        """Return the edges at a height; above and below the panel those of its nearest height."""
        heights, left, right = self._profile
        return float(np.interp(y_mm, heights, left)), float(np.interp(y_mm, heights, right))


def edge_profile(region: Region) -> tuple[NDArray[np.float64], NDArray[np.float64], NDArray[np.float64]]:
    """Return heights (n,), and the leftmost and rightmost x of the region at each.

    Heights are those of its corners, and just above and below each, so that steps in the outline stay steps.
    """
    corners = np.unique(shapely.get_coordinates(region)[:, 1])
    top, bottom = corners[0], corners[-1]
    heights = np.unique(np.clip(np.concatenate([corners - 1e-4, corners + 1e-4]), top + 1e-4, bottom - 1e-4))
    x0, x1 = region.bounds[0] - 1, region.bounds[2] + 1
    scans = shapely.linestrings([[(x0, y), (x1, y)] for y in heights])
    across = shapely.bounds(shapely.intersection(scans, region))
    met = np.isfinite(across[:, 0])
    return heights[met], across[met, 0], across[met, 2]


@dataclass(frozen=True, eq=False)
class Blank:
    """A blank, lying flat: its panels, and what is known of its cloth."""

    spec: BlankSpec
    kind: str
    size: str | None
    size_class: str
    name: str
    procedure: Procedure
    fabric: str
    care_dots: int | None
    colour: str
    measures: dict[str, float]
    measured: frozenset[str]
    panels: tuple[Panel, ...] = field(repr=False)

    def panel(self, name: str) -> Panel | None:
        """Return a panel by its id, or None where the blank has none of that id."""
        return next((panel for panel in self.panels if panel.id == name), None)

    @property
    def main(self) -> Panel:
        """The panel that is meant where none is named."""
        return self.panels[0]
