"""Findings of designs that lie in one place: on one another, or under one another."""

from collections.abc import Iterator
from dataclasses import dataclass

from zinnet.artwork.source import LETTERING
from zinnet.base.stages import stage
from zinnet.data.limits import limits
from zinnet.films.catalogue import Film
from zinnet.films.support import Support, support
from zinnet.geometry.region import Region, common, union, without
from zinnet.job.edits import Edit, choose_pairs
from zinnet.layers.spec import PairChoice
from zinnet.layers.split import ColourLayer
from zinnet.plan.clear import moved_clear
from zinnet.plan.composed import Composition, Spot, laid_on_panel
from zinnet.plan.findings.model import Finding, Place, found
from zinnet.plan.findings.subject import quoted, size_said
from zinnet.plan.fitted import FittedDesign, Garment
from zinnet.plan.model import Facts

LEAST_MM2 = 0.5
"""Designs that lie on one another by less than this only meet."""
LETTERS = "letters are read by their whole outline (common practice)"


@dataclass(frozen=True, eq=False)
class _Meeting:
    """A colour of a lower design, one of an upper design that lies on it, their films, and where, on the panel."""

    lower: str
    upper: str
    under: Film | None
    over: Film | None
    region: Region
    held: Support

    @property
    def in_words(self) -> str:
        names = [film.name if film is not None else colour for film, colour in self._both]
        return f"{names[1]} on {names[0]}"

    @property
    def _both(self) -> tuple[tuple[Film | None, str], ...]:
        return (self.under, self.lower), (self.over, self.upper)


@dataclass(frozen=True, eq=False)
class _Laid:
    """A design, its colours and all that it covers where it lies on the panel."""

    design: FittedDesign
    layers: tuple[ColourLayer, ...]
    covers: Region

    @classmethod
    def of(cls, design: FittedDesign, spot: Spot) -> "_Laid":
        laid = laid_on_panel(design, spot)
        return cls(design, laid.layers, laid.covers)


def designs_overlap(facts: Facts) -> Iterator[Finding]:
    """Designs lie on one another where their films may not, or where words are covered."""
    for garment, composed in facts.composed:
        if isinstance(composed, Composition):
            yield from _overlaps(facts, garment, composed)
    said: set[tuple[int, ...]] = set()
    for row in facts.named:
        garment = facts.garments[row.garment]
        shown = {composed.indices for composed in garment.compositions}
        for composed in row.compositions:
            if isinstance(composed, Composition) and composed.indices not in said | shown:
                said.add(composed.indices)
                yield from _overlaps(facts, garment, composed, f"with the words “{row.words}”, ")


def _overlaps(facts: Facts, garment: Garment, composed: Composition, before: str = "") -> Iterator[Finding]:
    """Yield what is wrong between each two designs of a composition, the lower one first."""
    parts = list(zip(composed.members, composed.spots, strict=True))
    for k, (lower, spot) in enumerate(parts):
        in_front: list[Region] = []
        for other, other_spot in parts[k + 1 :]:
            covers = laid_on_panel(other, other_spot).covers
            shared = _shared(laid_on_panel(lower, spot).covers, covers)
            if in_front:
                shared = without(shared, union(in_front))
            in_front.append(covers)
            if shared.area < LEAST_MM2 or lower.index == other.index:
                continue
            below, above = _Laid.of(lower, spot), _Laid.of(other, other_spot)
            said = f"{size_said(facts, garment)}{before}{quoted(other)} lies on {quoted(lower)}"
            place = Place("fit", shared.bounds, panel=composed.panel.id, size=garment.size, design=other.index)
            meetings = list(_meetings(facts, below, above, shared))
            yield from _judged(facts, garment, below, above, meetings, said, place)


@stage(most=512)
def _shared(one: Region, other: Region) -> Region:
    return common(one, other)


def _meetings(facts: Facts, lower: "_Laid", upper: "_Laid", shared: Region) -> Iterator[_Meeting]:
    for over in upper.layers:
        reached = _shared(over.region, shared)
        for under in lower.layers if reached.area >= LEAST_MM2 else ():
            region = _shared(under.region, reached)
            if region.area < LEAST_MM2:
                continue
            films = _film(lower.design, under.colour), _film(upper.design, over.colour)
            pressed = reversed(films) if _is_turned_round(lower.design) else films
            held = support(*pressed, stack_glitter=facts.job.layers.stack_glitter)
            yield _Meeting(under.colour, over.colour, *films, region, held)


def _is_turned_round(design: FittedDesign) -> bool:
    """Tell whether what is seen in front is pressed first, as on the back of glass."""
    return design.stack is not None and design.stack.through_glass


def _film(design: FittedDesign, colour: str) -> Film | None:
    return next((row.film for row in design.layers if colour in row.colours), None)


def _judged(
    facts: Facts, garment: Garment, lower: "_Laid", upper: "_Laid", meetings: list[_Meeting], said: str, place: Place
) -> Iterator[Finding]:
    """Yield what is wrong where one design lies on another one."""
    decided = {frozenset((choice.lower, choice.upper)) for choice in facts.job.layers.pairs}
    open_ones = [one for one in meetings if frozenset((one.lower, one.upper)) not in decided]
    barred = [one for one in open_ones if not one.held.holds]
    area = sum(one.region.area for one in meetings)
    many = f"{said} by {area / 100:.2f} cm²" if area >= 10 else f"{said} by {area:.1f} mm²"
    if barred:
        worst = max(barred, key=lambda one: one.region.area)
        choices = [PairChoice(lower=one.lower, upper=one.upper, method="side-by-side") for one in barred]
        yield found(
            "designs-overlap",
            f"{many}: {worst.in_words}",
            f"{worst.held.reason} (common practice)",
            place=place,
            mend=choose_pairs("cut the lower one away", choices),
            also=_moves(facts, garment, lower, upper),
            subject=f"{lower.design.index + 1}/{upper.design.index + 1}",
        )
        return
    lost = _unreadable(facts, lower, upper)
    if lost is not None:
        yield found(
            "designs-overlap",
            f"{many}; {lost[0]}",
            f"{lost[1]}; move one of the two",
            level="warn" if len(open_ones) == len(meetings) else "note",
            place=place,
            also=_moves(facts, garment, lower, upper),
            subject=f"{lower.design.index + 1}/{upper.design.index + 1}",
        )


def _moves(facts: Facts, garment: Garment, lower: "_Laid", upper: "_Laid") -> tuple[Edit, ...]:
    """Return what moves one of two designs clear of all others: the upper one, else the lower."""
    for one in () if facts.ahead else (upper, lower):
        edit = moved_clear(facts.job, facts.workshop, garment, one.design.index)
        if edit is not None:
            return (edit,)
    return ()


def _unreadable(facts: Facts, lower: "_Laid", upper: "_Laid") -> tuple[str, str] | None:
    """Return what can't be seen or read where films may lie on one another, and why; None where all can."""
    shared = _shared(lower.covers, upper.covers).area
    hidden, within = shared / lower.covers.area, shared / upper.covers.area
    most = float(limits()["together"]["covered_share"])
    if hidden > most:
        return f"nothing is seen of {quoted(lower.design)}", "what lies under film is not seen"
    if isinstance(facts.job.designs[lower.design.index].source, LETTERING):
        return f"{hidden:.0%} of its letters are covered", LETTERS
    if isinstance(facts.job.designs[upper.design.index].source, LETTERING) and within < most:
        return f"{within:.0%} of the letters lie on it, the rest beside it", LETTERS
    return None


CHECKS = (designs_overlap,)
