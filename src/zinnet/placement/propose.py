"""How large artwork should be at a place: a proposal with its reason, the usual range, and what fits where."""

import math
from dataclasses import dataclass

import shapely

from zinnet.base.units import Unit, write_length
from zinnet.blanks.model import Blank
from zinnet.data.limits import limits
from zinnet.geometry.region import Region
from zinnet.placement.character import Design, design_of
from zinnet.placement.guides import Place
from zinnet.placement.place import Habits, PlacementSpec, blank_panel, field_of, largest_width, place_on

STEP_MM = 5.0
LEAST_MM = 5.0


@dataclass(frozen=True, eq=False)
class Proposal:
    """A width in mm with what speaks for it: the usual range, what limits it, and the largest that fits each thing.

    ``limit`` names what made it smaller than usual, if anything did.
    """

    width_mm: float
    usual_mm: float
    low_mm: float | None
    high_mm: float | None
    look: Design
    limit: str | None
    usable_mm: float
    platen_mm: float | None
    mat_mm: float
    blank_name: str
    size_class: str

    def holds(self, width_mm: float) -> bool:
        """Tell whether a width is usual here."""
        low = self.low_mm is None or width_mm >= self.low_mm - 0.05
        return low and (self.high_mm is None or width_mm <= self.high_mm + 0.05)

    def reason(self, unit: Unit) -> str:
        """Say why this width, in the user's unit."""
        said = f"usual for {self.look.in_words} on {self.blank_name}"
        if self.limit is not None:
            said = f"{write_length(self.usual_mm, unit=unit)} is {said}, but {self.limit}"
        if self.low_mm is not None and self.high_mm is not None:
            low = write_length(self.low_mm, unit=unit, with_unit=False)
            said += f"; {low} to {write_length(self.high_mm, unit=unit)} is the range"
        return said


def propose_width(
    spec: PlacementSpec,
    blank: Blank,
    habits: Habits,
    *,
    art: Region,
    platen_mm: float | None,
    mat_mm: float,
    look: Design | None = None,
) -> Proposal:
    """Return the width to propose for artwork, whose silhouette at any scale is ``art``, and its ``look``.

    ``platen_mm`` and ``mat_mm`` are the widest that fit the platen and the mat. The proposal keeps within the usable
    area and within the mat: what is proposed can be cut. Words keep within what is seen. A platen that is smaller only
    means several presses.
    """
    left, top, right, bottom = art.bounds
    aspect = (bottom - top) / (right - left)
    unit_art = shapely.transform(art, lambda points: (points - (left, top)) / (right - left))
    bare = PlacementSpec(place=spec.place, school=spec.school)
    place = place_on(bare, blank)
    look = look or design_of(art)
    usable = largest_width(bare, blank, habits, unit_art=unit_art, aspect=aspect)
    usual, low, high = _usual(place, bare, blank, habits, look, unit_art, aspect, usable)
    width, limit = usual, None
    whole_steps = place.widths_of(blank.size_class) is not None
    panel = blank_panel(bare, blank)
    seen = panel.visible_mm if look.letters or (panel.is_round and place.arrangement != "band") else None
    for most, said in (
        (usable, "no more fits the usable area"),
        (math.inf if seen is None else seen, "no more is seen from the front"),
        (mat_mm, "no more fits the mat"),
    ):
        if most < LEAST_MM:
            limit = "nothing fits there"
        elif most < width - 0.05:
            width = max(most // STEP_MM * STEP_MM if whole_steps and most > 4 * STEP_MM else _tenths(most), LEAST_MM)
            limit = said
    return Proposal(
        width_mm=width,
        usual_mm=usual,
        low_mm=low,
        high_mm=high,
        look=look,
        limit=limit,
        usable_mm=usable,
        platen_mm=platen_mm,
        mat_mm=mat_mm,
        blank_name=f"{'an' if blank.name[0].lower() in 'aeiou' else 'a'} {blank.name[0].lower()}{blank.name[1:]}",
        size_class=blank.size_class,
    )


def _usual(
    place: Place,
    spec: PlacementSpec,
    blank: Blank,
    habits: Habits,
    look: Design,
    unit_art: Region,
    aspect: float,
    usable: float,
) -> tuple[float, float | None, float | None]:
    """Return the usual width at a place, and the range."""
    widths = place.widths_of(blank.size_class)
    if widths is not None:
        low, high = widths.range_for(look.character)
        return _tenths(widths.usual_for(look.character)), low, high
    most = usable * (place.fill or 1.0)
    if place.less_mm is not None or place.within_visible:
        field = field_of(place, blank_panel(spec, blank))
        most = largest_width(spec, blank, habits, unit_art=unit_art, aspect=aspect, field=field)
    if place.box_mm is not None:
        is_wide = aspect < limits()["arrangement"]["wide_aspect"]
        wide, high_side = place.wide_box_mm if place.wide_box_mm and is_wide else place.box_mm
        most_in_box = min(wide, high_side / aspect)
        most = min(most, most_in_box) if place.fill is not None or place.less_mm is not None else most_in_box
        return _tenths(most), None, most_in_box
    return _tenths(most), None, None


def _tenths(mm: float) -> float:
    """Return the largest tenth of a mm that is not more, but for rounding."""
    return int(mm * 10 + 0.01) / 10
