"""The width that is proposed for a design: by its look, and by what the platen and the mat hold."""

from zinnet.base.stages import stage
from zinnet.blanks.model import Blank
from zinnet.geometry.region import Region
from zinnet.layers.split import Split
from zinnet.machines.platens import Platen, widest_under
from zinnet.nesting.sheet import Sheet
from zinnet.placement.character import Design, look_of
from zinnet.placement.place import Habits, PlacementSpec
from zinnet.placement.propose import Proposal, propose_width

ROUNDING_MM = 0.1


@stage(most=64)
def look_of_split(split: Split, words: str) -> Design:
    """Return the look of a design at any size, with the words that were typed."""
    return look_of(split.silhouette, [layer.region for layer in split.layers], words)


@stage(most=256)
def proposal_of(
    spec: PlacementSpec,
    blank: Blank,
    habits: Habits,
    art: Region,
    aspect: float,
    sheet: Sheet,
    press: Platen | None,
    look: Design | None,
) -> Proposal:
    """Return the width that is proposed at a place, for a press and what lies on a mat."""
    return propose_width(
        spec,
        blank,
        habits,
        art=art,
        platen_mm=None if press is None else widest_under(press, aspect),
        mat_mm=_widest_on(sheet, aspect),
        look=look,
    )


def _widest_on(sheet: Sheet, aspect: float) -> float:
    """Return the width at which artwork of ``aspect`` fits the mat, upright or lying."""
    across, down = sheet.width_mm - 2 * sheet.margin_mm, sheet.height_mm - 2 * sheet.margin_mm
    return max(min(across, down / aspect), min(down, across / aspect)) - ROUNDING_MM
