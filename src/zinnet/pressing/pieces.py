"""What lies on one side of a blank to be pressed: each layer of film with its place, its carrier and its recipe."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
import shapely

from zinnet.base.stages import stage
from zinnet.blanks.fabrics import Fabric
from zinnet.blanks.model import Panel
from zinnet.blanks.procedures import Procedure
from zinnet.films.catalogue import Bond, Film, FilmKind, kind_of
from zinnet.geometry.pairs import clusters
from zinnet.geometry.region import EMPTY, Region, common, hull_box, union, without
from zinnet.layers.inks import Ink
from zinnet.machines.platens import HeatSource, Platen, heat_kinds
from zinnet.pressing.applied_recipe import PressSetting
from zinnet.pressing.heat_values import press_numbers
from zinnet.pressing.spec import PressSpec

THICK = ("rib", "collar", "strap", "brim")
"""What of a blank is thicker than its cloth, or bends away from it."""
TOUCH_MM2 = 0.5
"""Film that shares less than this is beside other film."""


@dataclass(frozen=True, eq=False)
class PressPiece:
    """A layer of a design as it is pressed: its film, where it lies on the panel (mm), and what it lies on.

    ``on`` names the pieces below it. ``setting`` is None where no recipe is known. ``shows`` is what it is called where
    other designs lie on the garment, else its number.
    """

    key: str
    number: int
    design: int
    film: Film
    region: Region
    on: frozenset[str]
    setting: PressSetting | None
    shows: str = ""
    copies: tuple[Region, ...] = ()
    """Where its pieces lie, place by place, where these are several."""
    parts: int = 1
    """Into how many pieces its layer is cut for each place."""
    inks: tuple[Ink, ...] = ()
    """What of a print is seen in which colour, on the panel."""

    @property
    def kind(self) -> FilmKind:
        """The kind of its film."""
        return kind_of(self.film)

    @property
    def name(self) -> str:
        """What it is called on a card."""
        return f"{self.shows or f'layer {self.number}'}, {self.film.name}"

    @property
    def each(self) -> tuple[Region, ...]:
        """Where its pieces lie, place by place: each is laid by itself."""
        return self.copies or (self.region,)

    def place_of(self, number: int) -> int:
        """Return at which place a piece lies; pieces are counted from 0 through all places."""
        return number // self.parts

    def part_of(self, number: int) -> int:
        """Return which piece of its layer a piece is."""
        return number % self.parts

    @cached_property
    def carrier(self) -> Region:
        """Its carrier, trimmed as usual about each part that lies by itself; a print is trimmed to its own edge."""
        if self.kind.bond == "print":
            return self.region
        return carriers(self.region, press_numbers().trim.carrier_mm)


@stage(most=256)
def carriers(region: Region, margin_mm: float) -> Region:
    """Return the carrier of film, trimmed so close about each part that lies by itself: boxes, those that meet as one.

    Parameters
    ----------
    region : Region, mm
        The film, as it lies.
    margin_mm : float, mm
        How far beyond each part it reaches.

    Returns
    -------
    Region, mm
        Around boxes that meet, one box.
    """
    boxes = shapely.bounds(np.array(region.geoms, dtype=object)) + margin_mm * np.array([-1, -1, 1, 1])
    one, other = shapely.STRtree(rectangles := shapely.box(*boxes.T)).query(rectangles, predicate="intersects")
    label = clusters(len(boxes), (one, other))
    joined = []
    for first in np.unique(label):
        mine = boxes[label == first]
        joined.append((*mine[:, :2].min(axis=0), *mine[:, 2:].max(axis=0)))
    return union(shapely.box(*np.array(joined).T))


@dataclass(frozen=True, eq=False)
class PanelWork:
    """All that is pressed on one panel, in the order of pressing, and what it is pressed with."""

    panel: Panel
    pieces: tuple[PressPiece, ...]
    fabric: Fabric | None
    platen: Platen | None
    heat_source: HeatSource
    spec: PressSpec
    overlap_mm: float
    procedure: Procedure
    is_centred: bool = True
    among_others: bool = False
    """Whether other panels of the object are worked on too."""
    elsewhere: tuple[str, ...] = ()
    """The names of pieces that lie on other panels already."""

    @property
    def bond(self) -> Bond:
        """How what lies there holds; all of it holds alike."""
        return self.pieces[0].kind.bond

    @property
    def is_hot(self) -> bool:
        """Whether it is pressed with heat."""
        return self.bond != "glue"

    @property
    def is_cloth(self) -> bool:
        """Whether it lies on cloth; what is not known is taken for cloth."""
        return self.fabric is None or self.fabric.cloth

    @property
    def source_said(self) -> str:
        """What it is pressed with, in a word or two."""
        return "press" if self.heat_source == "press" else heat_kinds()[self.heat_source].name

    @cached_property
    def soft(self) -> Region:
        """What the platen keeps off where it can: collars, cuffs and ribs, which are thicker than the rest."""
        thick = EMPTY
        for cloth in self.panel.cloth:
            thick = union([thick, cloth.region]) if cloth.role in THICK else without(thick, cloth.region)
        return thick

    @cached_property
    def film(self) -> Region:
        """All film on the panel."""
        return union(piece.region for piece in self.pieces)

    def region_of(self, keys: Sequence[str]) -> Region:
        """Return where some of the pieces lie."""
        return union(piece.region for piece in self.pieces if piece.key in keys)

    def piece(self, key: str) -> PressPiece:
        """Return a piece by its key."""
        return next(piece for piece in self.pieces if piece.key == key)


def one_carrier_over(bare: Sequence[PressPiece]) -> PressPiece | None:
    """Return the piece whose used carrier, all in one, lies over all of some bare film, however it is turned.

    None where none is large enough, trimmed as close as carriers are at all. Of several it is the smallest.
    """
    if not bare:
        return None
    left, top, right, bottom = hull_box([piece.region for piece in bare])
    short, long = sorted((right - left, bottom - top))
    fits = []
    for piece in bare:
        one = carriers(piece.region, press_numbers().trim.least_mm)
        low, high = sorted((one.bounds[2] - one.bounds[0], one.bounds[3] - one.bounds[1]))
        if len(one.geoms) == 1 and low >= short and high >= long:
            fits.append((low * high, piece))
    return min(fits, key=lambda fit: fit[0])[1] if fits else None


def carrier_crossings(group: Sequence[PressPiece]) -> Region:
    """Return where a carrier lies on or under other film that is pressed at the same time."""
    crossed = [
        common(one.carrier, without(other.region, one.region)) for one in group for other in group if one is not other
    ]
    return union(region for region in crossed if region.area > TOUCH_MM2) if crossed else EMPTY
