"""Findings of what lies beside one another: too near, or on some size no longer as it was composed."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray

from zinnet.base.units import write_length
from zinnet.data.limits import limits
from zinnet.films.catalogue import Film, kind_of
from zinnet.geometry.region import Region
from zinnet.geometry.transform import moved
from zinnet.job.edits import Edit, follow_family, one_step
from zinnet.plan.clear import moved_clear
from zinnet.plan.composed import NEAR_MM
from zinnet.plan.findings.model import Finding, Place, found
from zinnet.plan.findings.subject import quoted, size_said
from zinnet.plan.fitted import FittedDesign, Garment
from zinnet.plan.model import Facts
from zinnet.pressing.heat_values import press_numbers

ROUND_MM = 0.005
"""What a gap may lack by rounding."""


@dataclass(frozen=True, eq=False)
class _Laid:
    """A layer where it lies on the panel: the designs it is of, its film, its region in mm."""

    composed: FittedDesign
    film: Film
    region: Region


@dataclass(frozen=True, eq=False)
class _Near:
    """Two layers that lie beside each other, how far apart (mm), the least gap (mm), and why it is needed."""

    one: _Laid
    other: _Laid
    gap_mm: float
    least_mm: float
    why: str

    @property
    def designs(self) -> tuple[int, int]:
        """The numbers of the two designs; of what is composed, those that come nearest."""
        return self.one.composed.index, self.other.composed.index


def touches_another(facts: Facts) -> Iterator[Finding]:
    """Designs lie nearer to one another than scissors, the eye or a film that grows allow."""
    unit = facts.job.unit
    for garment in facts.garments:
        worst: dict[tuple[int, int], _Near] = {}
        for near in _too_near(garment):
            known = worst.get(near.designs)
            if known is None or near.gap_mm - near.least_mm < known.gap_mm - known.least_mm:
                worst[near.designs] = near
        for near in worst.values():
            one, other = near.one.composed, near.other.composed
            said = f"{quoted(other)} lies {write_length(near.gap_mm, unit=unit)} from {quoted(one)}"
            if one is other:
                said = f"{near.other.film.name} lies {write_length(near.gap_mm, unit=unit)} from {near.one.film.name}"
            box = shapely.union_all([shapely.box(*each.region.bounds) for each in (near.one, near.other)]).bounds
            yield found(
                "touches-another",
                f"{size_said(facts, garment)}{said}",
                f"{near.why}: at least {write_length(near.least_mm, unit=unit)} (common practice, no source)",
                place=Place("fit", box, panel=one.panel.id, size=garment.size, design=other.index),
                mend=_moved(facts, garment, one, other),
                subject=f"{one.index + 1}/{other.index + 1}",
            )


def _moved(facts: Facts, garment: Garment, one: FittedDesign, other: FittedDesign) -> Edit | None:
    if one is other or facts.ahead:
        return None
    return moved_clear(facts.job, facts.workshop, garment, other.index)


def _too_near(garment: Garment) -> Iterator[_Near]:
    """Yield the layers that lie too near: of two designs that are cut apart, and beside film that grows."""
    for panel in {design.panel.id: None for design in garment.compositions}:
        laid = [each for composed in garment.composed_on(panel) for each in _layers(composed)]
        reach = [_reach(each.film) for each in laid]
        for k, one in enumerate(laid):
            for n in range(k + 1, len(laid)):
                other = laid[n]
                apart = one.composed is not other.composed
                if not apart and max(kind_of(one.film).growth_mm, kind_of(other.film).growth_mm) == 0:
                    continue
                gap = _gap(one.region, other.region, max(reach[k], reach[n]))
                if gap is not None:
                    yield from _judged(one, other, gap, apart=apart)


def _layers(composed: FittedDesign) -> Iterator[_Laid]:
    if composed.placement is None:
        return
    for row in composed.layers:
        if row.film is not None and not row.layer.region.is_empty:
            for matrix in composed.placement.matrices:
                yield _Laid(composed, row.film, moved(row.layer.region, matrix))


def _reach(film: Film) -> float:
    return max(_limits(film, film))


def _limits(one: Film, other: Film) -> tuple[float, float, float]:
    """Return the least gaps in mm: for what the films grow by, for scissors between their carriers, for the eye."""
    first, second = kind_of(one), kind_of(other)
    heat = first.bond == second.bond == "heat"
    return (
        first.growth_mm + second.growth_mm + max(first.least_gap_mm, second.least_gap_mm)
        if first.growth_mm or second.growth_mm
        else 0.0,
        2 * press_numbers().trim.least_mm if heat else 0.0,
        float(limits()["together"]["seen_gap_mm"]),
    )


def _gap(one: Region, other: Region, within: float) -> float | None:
    """Return how near parts of two regions come that do not touch; None where none come so near."""
    mine, theirs = shapely.get_parts(one), shapely.get_parts(other)
    first, second = shapely.STRtree(mine).query(theirs, predicate="dwithin", distance=within)
    gaps = shapely.distance(mine[second], theirs[first])
    gaps = gaps[gaps > NEAR_MM]
    return float(np.min(gaps)) if len(gaps) else None


def _judged(one: _Laid, other: _Laid, gap: float, *, apart: bool) -> Iterator[_Near]:
    grown, scissors, seen = _limits(one.film, other.film)
    measured = gap + ROUND_MM
    if measured < grown:
        yield _Near(one, other, gap, grown, f"{_growing(one, other)} grows when it is pressed")
    elif apart and measured < scissors:
        yield _Near(one, other, gap, scissors, "scissors trim the carriers between them")
    elif apart and measured < seen:
        yield _Near(one, other, gap, seen, "nearer it looks like a slip")


def _growing(one: _Laid, other: _Laid) -> str:
    return max((one.film, other.film), key=lambda film: kind_of(film).growth_mm).name


def group_torn(facts: Facts) -> Iterator[Finding]:
    """What is composed together on the job's own size does not lie so on another one."""
    own, *others = facts.garments
    least = float(limits()["together"]["torn_mm"])
    for garment in others:
        for members in _composed_together(own):
            apart = [index for index in members if _is_apart(facts, garment, index)]
            torn = _torn(own, garment, members, apart)
            if torn is None or torn[1] < least:
                continue
            (design, off), unit = torn, facts.job.unit
            at = {one.index: one for one in garment.designs}
            first = next(index for index in members if index != design)
            mend = None
            if apart and garment.size is not None:
                mend = one_step("keep them together", [follow_family(garment.size, index) for index in apart])
            art, home = at[design].art, own.blank.name.rpartition(", ")[2]
            yield found(
                "group-torn",
                f"{size_said(facts, garment)}{quoted(at[design])} is {write_length(off, unit=unit)} off from where it "
                f"lies to {quoted(at[first])} on {home}",
                "what is composed together keeps its proportions on all sizes (common practice)",
                place=None if art is None else Place("fit", art.bounds, panel=at[design].panel.id, size=garment.size),
                mend=mend,
                subject=f"{garment.size}/{'-'.join(str(index + 1) for index in members)}",
            )


def _is_apart(facts: Facts, garment: Garment, design: int) -> bool:
    return any(member.size == garment.size and member.apart_for(design) for member in facts.job.family)


def _composed_together(garment: Garment) -> Iterator[tuple[int, ...]]:
    """Yield the designs of each outermost group, and those that are cut as one without being grouped."""
    groups: dict[str, list[int]] = {}
    for design in garment.designs:
        if design.group and design.placement is not None and design.words is None:
            groups.setdefault(design.group[0], []).append(design.index)
    said = [tuple(members) for members in groups.values() if len(members) > 1]
    yield from said
    for composed in garment.compositions:
        members = tuple(dict.fromkeys(composed.indices))
        lone = all(one.placement is not None and len(one.placement.matrices) == 1 for one in composed.made_of)
        plain = lone and not any(one.words for one in composed.made_of)
        if len(members) > 1 and plain and not any(set(members) <= set(one) for one in said):
            yield members


def _torn(own: Garment, garment: Garment, members: tuple[int, ...], apart: Sequence[int]) -> tuple[int, float] | None:
    """Return which design is farthest off from where the others have it on another size, and by how much (mm).

    Those that were set ``apart`` are held against the rest, where there is a rest.
    """
    before, after = _corners(own, members), _corners(garment, members)
    if before is None or after is None:
        return None
    holds = np.array([len(apart) == len(members) or index not in apart for index in members])
    factors = [_size_of(late) / _size_of(early) for early, late in zip(before[holds], after[holds], strict=True)]
    factor = float(np.median(factors))
    shift = np.median((after - factor * before)[holds].reshape(-1, 2), axis=0)
    off = np.abs(after - (factor * before + shift)).max(axis=(1, 2))
    worst = int(np.argmax(off))
    return members[worst], float(off[worst])


def _corners(garment: Garment, members: tuple[int, ...]) -> NDArray[np.float64] | None:
    """Return the corners of designs on a panel, shape (designs, 4, 2) in mm; None where they lie on several panels."""
    designs = {one.index: one for one in garment.designs}
    placements = [designs[index].placement for index in members]
    if len({designs[index].panel.id for index in members}) > 1 or None in placements:
        return None
    return np.array([placement.corners for placement in placements if placement is not None])


def _size_of(corners: NDArray[np.float64]) -> float:
    return float(np.linalg.norm(corners[2] - corners[0]))


CHECKS = (touches_another, group_torn)
