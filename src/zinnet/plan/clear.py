"""Moving a design clear of the others: to the nearest place with a gap such as the rest has, on every size."""

from collections.abc import Iterator, Sequence
from statistics import median

import shapely

from zinnet.data.limits import limits
from zinnet.geometry.region import Region, union
from zinnet.job.edits import Edit
from zinnet.job.model import Job
from zinnet.placement.arrange import One
from zinnet.plan.arranging import Unit, moved_by, units_of
from zinnet.plan.fitted import Garment
from zinnet.plan.fitting import fitting_of
from zinnet.plan.sizes import fit_garments
from zinnet.workshop.model import Workshop

ROUND_MM = 0.05
"""What a moved design may lack of a gap by rounding."""


def moved_clear(job: Job, workshop: Workshop, garment: Garment, design: int) -> Edit | None:
    """Return the edit that moves a design, with its group, to the nearest place clear of all others.

    Down and up come first where the place asks for the middle. It is tried on every size of the job.

    Parameters
    ----------
    job, workshop
        What the design belongs to.
    garment : Garment
        The size on which it is moved; sizes that follow it are looked at too.
    design : int
        Its number.

    Returns
    -------
    Edit or None
        None where it lies in rows or on an arc, or where there is no room.
    """
    mine = next(one for one in garment.designs if one.index == design)
    if mine.placement is None or not isinstance(mine.placement.arrangement, One):
        return None
    (unit,) = units_of(garment, [design])
    own = {one.index for one in unit.designs}
    others = [
        one.art
        for one in garment.designs
        if one.index not in own and one.panel.id == mine.panel.id and one.art is not None
    ]
    gap = usual_gap_mm(garment, mine.panel.id)
    art = union(one.art for one in unit.designs if one.art is not None)
    for across, down in _moves(unit, others, gap, centred=mine.placement.place.centred):
        edit = moved_by(garment, unit, across, down, "move it clear")
        there = shapely.transform(art, lambda points, by=(across, down): points + by)
        if shapely.covers(mine.panel.usable, there) and is_clear(edit.change(job), workshop, own, gap):
            return edit
    return None


def usual_gap_mm(garment: Garment, panel: str) -> float:
    """Return the gap that designs have on a panel: the one between those that lie apart, else the usual one (mm)."""
    numbers = limits()["together"]
    arts = [design.art for design in garment.on_panel(panel) if design.art is not None]
    gaps = []
    for index, art in enumerate(arts):
        nearest = min((float(shapely.distance(art, other)) for k, other in enumerate(arts) if k != index), default=0.0)
        if nearest >= numbers["least_gap_mm"]:
            gaps.append(nearest)
    return round(min(median(gaps), numbers["most_gap_mm"]), 1) if gaps else float(numbers["gap_mm"])


def is_clear(job: Job, workshop: Workshop, designs: set[int], gap_mm: float) -> bool:
    """Tell whether designs lie within the usable area and off all others, on the job's own size by a gap (mm).

    On other sizes, where the gap grows and shrinks with the artwork, by the least one.
    """
    least = float(limits()["together"]["least_gap_mm"])
    for number, garment in enumerate(fit_garments(fitting_of(job, workshop))):
        mine = [one for one in garment.designs if one.index in designs and one.art is not None]
        for one in mine:
            if not shapely.covers(one.panel.usable, one.art):
                return False
            off = gap_mm - ROUND_MM if number == 0 else min(gap_mm, least)
            for other in garment.on_panel(one.panel.id):
                if other.index not in designs and other.art is not None and shapely.dwithin(one.art, other.art, off):
                    return False
    return True


def _moves(unit: Unit, others: Sequence[Region], gap: float, *, centred: bool) -> Iterator[tuple[float, float]]:
    """Yield by how much a unit may be moved to lie beyond one of the others (mm): the least first."""
    left, top, right, bottom = unit.box
    boxes = [other.bounds for other in others]
    down = [(0.0, box[3] + gap - top) for box in boxes] + [(0.0, box[1] - gap - bottom) for box in boxes]
    across = [(box[2] + gap - left, 0.0) for box in boxes] + [(box[0] - gap - right, 0.0) for box in boxes]

    def far(move: tuple[float, float]) -> float:
        return abs(move[0]) + abs(move[1])

    if centred:
        yield from (*sorted(down, key=far), *sorted(across, key=far))
    else:
        yield from sorted([*down, *across], key=far)
