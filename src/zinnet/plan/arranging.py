"""Edits that arrange designs to one another: groups, alignment, equal gaps."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Literal

from zinnet.base.errors import ZinnetError
from zinnet.geometry.region import hull_box
from zinnet.job.edits import Edit, one_step, set_group, set_placement
from zinnet.job.model import MOST_GROUPS, Job
from zinnet.placement.arrange import One
from zinnet.placement.place import Placement, held_by
from zinnet.plan.fitted import FittedDesign, Garment

By = Literal["left", "centre", "right", "top", "middle", "bottom"]
To = Literal["first", "each-other", "panel", "centre-line"]
Along = Literal["across", "down"]
Box = tuple[float, float, float, float]
ACROSS = ("left", "centre", "right")


@dataclass(frozen=True, eq=False)
class Unit:
    """What moves as one: a design, or all of an outermost group; its box on the panel, mm."""

    designs: tuple[FittedDesign, ...]
    box: Box


def units_of(garment: Garment, designs: Sequence[int]) -> list[Unit]:
    """Return what moves as one of these designs, in their order; groups are whole.

    Raises :class:`ZinnetError` where one is not there, lies on another panel, or in rows or on an arc.
    """
    found: dict[object, list[FittedDesign]] = {}
    at = {design.index: design for design in garment.designs}
    for index in designs:
        if index not in at:
            raise ZinnetError(f"The job has no design {index + 1}; it has {len(at)}.")
        outer = at[index].group[:1]
        mine = [one for one in garment.designs if outer and one.group[:1] == outer] or [at[index]]
        found.setdefault(outer or index, mine)
    members = [one for unit in found.values() for one in unit]
    for one in members:
        if one.placement is None or one.art is None:
            raise ZinnetError(f"Design {one.index + 1} has no outline yet; trace it first.")
        if not isinstance(one.placement.arrangement, One):
            raise ZinnetError(f"Design {one.index + 1} lies in rows, in a ring or on an arc; lay it once first.")
    if len({one.panel.id for one in members}) > 1:
        raise ZinnetError("The designs lie on different panels; arrange those of one panel.")
    return [Unit(tuple(unit), hull_box([one.art for one in unit if one.art is not None])) for unit in found.values()]


def grouped(garment: Garment, designs: Sequence[int], name: str) -> Edit:
    """Return the edit that makes designs one group: placed, sized and cut as one.

    Groups among them stay groups within it. All take the place of the first one; nothing moves.

    Raises :class:`ZinnetError` where they can't be one.
    """
    units = units_of(garment, designs)
    if len(units) < 2:
        raise ZinnetError("A group has two designs or more; name another one.")
    taken = {group for design in garment.designs for group in design.group}
    if name in taken:
        raise ZinnetError(f"There is a group “{name}” already; call this one something else.")
    members = [one for unit in units for one in unit.designs]
    if max(len(one.group) for one in members) >= MOST_GROUPS:
        raise ZinnetError(f"Groups lie within one another at most {MOST_GROUPS} deep; take one apart first.")
    lead = members[0].placement
    assert lead is not None
    edits = []
    for one in members:
        edits += [_at_place_of(lead, one, garment), set_group(one.index, (name, *one.group))]
    return one_step(f"group {name}", edits)


def ungrouped(job: Job, name: str) -> Edit:
    """Return the edit that takes a group apart; what it was made of stays where it is.

    Raises :class:`ZinnetError` where there is no such group.
    """
    members = [index for index, design in enumerate(job.designs) if name in design.group]
    if not members:
        there = sorted({group for design in job.designs for group in design.group})
        raise ZinnetError(f"There is no group “{name}”; there are: {', '.join(there) or 'none'}.")
    edits = [set_group(index, tuple(one for one in job.designs[index].group if one != name)) for index in members]
    return one_step(f"take {name} apart", edits)


def _at_place_of(lead: Placement, design: FittedDesign, garment: Garment) -> Edit:
    """Return the edit that holds a design by another one's place and leaves it where it is."""
    own = design.placement
    assert own is not None
    x, y = own.centre
    wide, high = own.width_mm / 2, own.height_mm / 2
    held: dict[str, Any] = held_by(lead.place, lead.panel, (x - wide, y - high, x + wide, y + high))
    return set_placement(
        "group",
        design=design.index,
        size=garment.size,
        place=lead.place.id,
        width_mm=design.word_width_mm,
        **held,
    )


def aligned(garment: Garment, designs: Sequence[int], by: By, to: To, at_mm: float = 0.0) -> Edit:
    """Return the edit that brings an edge or the middle of designs into line.

    Parameters
    ----------
    garment, designs
        Which, in their order; groups move whole.
    by : edge or middle
        Of each, and of what it is aligned to.
    to : 'first', 'each-other', 'panel' or 'centre-line'
        The first of them, all together, the panel's usable area, or the line x = 0.
    at_mm : float, mm
        How far beyond that, to the right or down.

    Returns
    -------
    Edit
        One step.
    """
    units = units_of(garment, designs)
    if to == "centre-line" and by not in ACROSS:
        raise ZinnetError("The centre line runs down the panel; align to it by left, centre or right.")
    if to in ("first", "each-other") and len(units) < 2:
        raise ZinnetError("Two designs or more are aligned to one another; name another one, or align to the panel.")
    goal = _goal(units, to)
    edits: list[Edit] = []
    for unit in units[1:] if to == "first" else units:
        off = _edge(goal, by) + at_mm - _edge(unit.box, by)
        edits += _moved(garment, unit, *((off, 0.0) if by in ACROSS else (0.0, off)))
    return one_step(f"align by {by}", edits)


def spread(
    garment: Garment, designs: Sequence[int], along: Along, gap_mm: float | None = None, *, over_panel: bool = False
) -> Edit:
    """Return the edit that lays designs with equal gaps, in the order in which they lie.

    Parameters
    ----------
    garment, designs
        Which; groups move whole.
    along : 'across' or 'down'
        The way in which the gaps are.
    gap_mm : float or None, mm
        The gap, about the middle of all; None: the first and the last stay, or the edges of the panel are kept off
        as far as they are off one another.
    over_panel : bool
        Over the panel's whole usable area.

    Returns
    -------
    Edit
        One step.
    """
    units = units_of(garment, designs)
    if len(units) < (1 if over_panel else 2):
        raise ZinnetError("Gaps are between two designs or more; name another one.")
    low, high = (0, 2) if along == "across" else (1, 3)
    units.sort(key=lambda unit: unit.box[low] + unit.box[high])
    sizes = [unit.box[high] - unit.box[low] for unit in units]
    begin, end = _around(units)[low], _around(units)[high]
    if over_panel:
        begin, end = units[0].designs[0].panel.usable.bounds[low], units[0].designs[0].panel.usable.bounds[high]
        gap_mm = (end - begin - sum(sizes)) / (len(units) + 1)
        begin += gap_mm
    elif gap_mm is None:
        gap_mm = (end - begin - sum(sizes)) / (len(units) - 1)
    else:
        begin = (begin + end - sum(sizes) - gap_mm * (len(units) - 1)) / 2
    if gap_mm < 0:
        over = -gap_mm * (len(units) + (1 if over_panel else -1))
        raise ZinnetError(f"Together they are {over:.1f} mm too large for that; make them smaller.")
    edits: list[Edit] = []
    for unit, size in zip(units, sizes, strict=True):
        off = begin - unit.box[low]
        edits += _moved(garment, unit, *((off, 0.0) if along == "across" else (0.0, off)))
        begin += size + gap_mm
    return one_step(f"equal gaps {along}", edits)


def _goal(units: Sequence[Unit], to: To) -> Box:
    """Return the box to which designs are aligned."""
    if to == "first":
        return units[0].box
    if to == "each-other":
        return _around(units)
    left, top, right, bottom = units[0].designs[0].panel.usable.bounds
    return (left, top, right, bottom) if to == "panel" else (0.0, top, 0.0, bottom)


def _around(units: Sequence[Unit]) -> Box:
    boxes = [unit.box for unit in units]
    return min(b[0] for b in boxes), min(b[1] for b in boxes), max(b[2] for b in boxes), max(b[3] for b in boxes)


def _edge(box: Box, by: By) -> float:
    left, top, right, bottom = box
    return {
        "left": left,
        "centre": (left + right) / 2,
        "right": right,
        "top": top,
        "middle": (top + bottom) / 2,
        "bottom": bottom,
    }[by]


def moved_by(
    garment: Garment, unit: Unit, across_mm: float, down_mm: float, name: str = "move", *, merge: str = ""
) -> Edit:
    """Return the edit that moves all of a unit by so much on the panel (mm)."""
    return one_step(name, _moved(garment, unit, across_mm, down_mm), merge)


def _moved(garment: Garment, unit: Unit, across_mm: float, down_mm: float) -> list[Edit]:
    """Return the edits that move all of a unit; a place that is held from below counts upwards."""
    found = []
    for design in unit.designs:
        own = design.placement
        assert own is not None
        down = -down_mm if own.place.anchor == "bottom" else down_mm
        found.append(
            set_placement(
                "move",
                design=design.index,
                size=garment.size,
                width_mm=design.word_width_mm,
                from_centre_mm=round(own.from_centre_mm + across_mm, 3),
                from_reference_mm=round(own.from_reference_mm + down, 3),
            )
        )
    return found
