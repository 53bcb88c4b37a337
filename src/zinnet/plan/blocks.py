"""What belongs together: designs that share a place of a panel are judged and moved as one."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import shapely

from zinnet.base.stages import stage
from zinnet.geometry.region import Region, hull_box, union
from zinnet.geometry.transform import moved, scale, shift
from zinnet.job.edits import Edit, one_step, set_placement
from zinnet.placement.arrange import One
from zinnet.placement.place import Placement, PlacementSpec, held_by, place_artwork
from zinnet.placement.propose import Proposal
from zinnet.plan.fitted import ANY_WIDTH_MM, FittedDesign, Garment, proposal_for
from zinnet.plan.fitting import Fitting


@dataclass(frozen=True, eq=False)
class Block:
    """The designs of one place on one garment, laid as one: their box's placement, and all that they cover.

    ``width_mm`` is the width that the place is about: of one design its own, laid straight, else that of the box.
    """

    garment: Garment
    designs: tuple[FittedDesign, ...]
    placement: Placement
    art: Region
    width_mm: float
    proposal: Proposal | None

    @property
    def any_size(self) -> Region:
        """All that it covers, its box ``ANY_WIDTH_MM`` wide with the corner at the origin."""
        return _at_any_width(self.art, self.placement)

    @property
    def first(self) -> FittedDesign:
        """The lowest of its designs."""
        return self.designs[0]

    def moved(
        self, name: str, *, across_mm: float = 0.0, down_mm: float = 0.0, factor: float = 1.0, merge: str = ""
    ) -> Edit:
        """Return the edit that moves it, and makes it larger about the point by which its place holds it.

        What lies in it keeps its proportions and its gaps.

        Parameters
        ----------
        name : str
            What the edit is called.
        across_mm, down_mm : float, mm
            To the right, and away from the reference.
        factor : float
            By how much it grows.
        merge : str
            Under which name edits that follow one another become one.

        Returns
        -------
        Edit
            One step.
        """
        whole = self.placement
        edits = []
        for design in self.designs:
            own = design.placement
            assert own is not None
            across = whole.from_centre_mm + factor * (own.from_centre_mm - whole.from_centre_mm) + across_mm
            down = whole.from_reference_mm + factor * (own.from_reference_mm - whole.from_reference_mm) + down_mm
            fields: dict[str, Any] = {"from_centre_mm": across, "from_reference_mm": down}
            if factor != 1.0:
                fields |= {"width_mm": design.word_width_mm * factor, "height_mm": None}
            edits.append(set_placement(name, design=design.index, size=self.garment.size, **fields))

        return one_step(name, edits, merge)


def blocks_of(garment: Garment, fitting: Fitting) -> Iterator[Block]:
    """Yield what lies on a garment, designs of one place together; copies and rings stand for themselves."""
    found: dict[object, list[FittedDesign]] = {}
    for design in garment.designs:
        if design.placement is None or design.art is None:
            continue
        single = isinstance(design.placement.arrangement, One) and design.words is None
        found.setdefault(design.placement.place.id if single else design.index, []).append(design)
    for designs in found.values():
        yield _alone(garment, designs[0]) if len(designs) == 1 else block_of(garment, tuple(designs), fitting)


def _alone(garment: Garment, design: FittedDesign) -> Block:
    assert design.placement is not None
    assert design.art is not None
    return Block(garment, (design,), design.placement, design.art, design.word_width_mm, design.proposal)


@stage(most=64)
def block_of(garment: Garment, designs: tuple[FittedDesign, ...], fitting: Fitting) -> Block:
    """Return several designs of one place as one."""
    art = union(design.art for design in designs if design.art is not None)
    placements = [design.placement for design in designs if design.placement is not None]
    left, top, right, bottom = hull_box(_box(placement) for placement in placements)
    first = placements[0]
    held = held_by(first.place, first.panel, (left, top, right, bottom))
    spec = PlacementSpec(place=first.place.id, school=designs[0].spec.school, **held)
    whole = place_artwork(spec, garment.blank, fitting.habits, width_mm=right - left, height_mm=bottom - top)
    bare = PlacementSpec(place=spec.place, school=spec.school)
    proposal = proposal_for(fitting, bare, garment.blank, _at_any_width(art, whole), (bottom - top) / (right - left))
    return Block(garment, designs, whole, art, right - left, proposal)


def _at_any_width(art: Region, placement: Placement) -> Region:
    left, top, right, _ = placement.block
    return moved(art, scale(ANY_WIDTH_MM / (right - left)) @ shift(-left, -top))


def _box(placement: Placement) -> Region:
    return Region([shapely.box(*placement.block)])
