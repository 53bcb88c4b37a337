"""Findings of pressing: covers, carriers, peel, shrink, and curing."""

import datetime
from collections.abc import Iterator

import shapely

from zinnet.base.units import write_length
from zinnet.films.catalogue import kind_of
from zinnet.geometry.region import EMPTY
from zinnet.job.edits import (
    set_layers,
    set_nesting,
    set_pressing,
)
from zinnet.layers.stack import FilmLayer
from zinnet.plan.cut_parts import CutPart
from zinnet.plan.findings.model import Finding, found
from zinnet.plan.findings.pressed import garment_said, place_on
from zinnet.plan.model import Facts
from zinnet.plan.presses import GarmentPress
from zinnet.pressing.at_once import groups_of
from zinnet.pressing.heat_values import press_numbers
from zinnet.pressing.pieces import PanelWork, PressPiece, carrier_crossings
from zinnet.pressing.recipes import PEELS


def bare_film(facts: Facts) -> Iterator[Finding]:
    """A press would touch film that nothing covers."""
    for press in facts.presses:
        steps = [step for step in press.presses if step.is_bare]
        if not steps:
            continue
        names = [
            piece.name for work in press.works for piece in work.pieces if any(piece.key in one.bare for one in steps)
        ]
        yield found(
            "bare-film",
            f"{garment_said(facts, press)}{len(steps)} presses touch: "
            f"{', '.join(dict.fromkeys(names)) or steps[0].bare[0]}",
            "bare film sticks to the platen: carrier, parchment or a PTFE cover sheet on it",
            mend=set_pressing("cover bare film with parchment", cover="parchment"),
        )
        return


def carrier_overlap(facts: Facts) -> Iterator[Finding]:
    """A carrier lies over or under other film that is pressed at the same time."""
    for press in facts.presses:
        for work, group in _pressed_at_once(press):
            crossed = carrier_crossings(group) if work.spec.together else EMPTY
            if crossed.is_empty:
                continue
            yield found(
                "carrier-overlap",
                f"{garment_said(facts, press)}{crossed.area / 100:.1f} cm² of "
                f"{' and '.join(one.name for one in group)}",
                f"a carrier's edge leaves a dent, even trimmed to {press_numbers().trim.carrier_mm:g} mm",
                place=place_on(press, crossed, work.pieces[0]),
                mend=set_pressing("press one after the other", together=False),
            )
            return


def carriers_of_parts(facts: Facts) -> Iterator[Finding]:
    """Parts of one layer are cut apart, and lie so near that no scissors trim their carriers clear of one another."""
    least, unit = press_numbers().trim.least_mm, facts.job.unit
    for layer, gap in _near_parts(facts, 2 * least):
        yield found(
            "carrier-overlap",
            f"{layer.film.name if layer.film else layer.key}: parts {write_length(gap, unit=unit)} apart: their "
            f"carriers can't be trimmed to {write_length(least, unit=unit)} round each",
            "a carrier's edge leaves a dent in film below it: keep them together, or press one after the other "
            "(common practice)",
            mend=set_nesting("cut the layers apart at wide gaps only", cut_apart="proposed"),
            subject=layer.key,
        )


def _near_parts(facts: Facts, within_mm: float) -> Iterator[tuple[FilmLayer, float]]:
    """Yield the layers whose parts are cut apart and lie nearer than so, with the least gap (mm)."""
    by_layer: dict[tuple[int, tuple[int, ...], int], list[CutPart]] = {}
    for nest in facts.nests:
        if kind_of(nest.film).bond != "heat":
            continue
        for part in nest.parts:
            if part.garment == 0 and part.row is None:
                by_layer.setdefault((part.composition, part.places, part.layer.layer.order), []).append(part)
    for parts in by_layer.values():
        regions = [part.region for part in parts]
        first, second = shapely.STRtree(regions).query(regions, predicate="dwithin", distance=within_mm - 0.01)
        gaps = [shapely.distance(regions[a], regions[b]) for a, b in zip(first, second, strict=True) if a < b]
        if gaps:
            yield parts[0].layer, float(min(gaps))


def peel_mixed(facts: Facts) -> Iterator[Finding]:
    """Films with different peel are pressed at once."""
    for press in facts.presses:
        for _, group in _pressed_at_once(press):
            peels = {piece.setting.peel: piece for piece in group if piece.setting is not None}
            if len(peels) < 2:
                continue
            order = sorted(peels, key=PEELS.index)
            yield found(
                "peel-mixed",
                f"{garment_said(facts, press)}{', then '.join(f'{peels[peel].name} {peel}' for peel in order)}",
                "the hottest peel comes first; the others wait under their carriers",
                mend=set_pressing("press one after the other", together=False),
            )
            return


def _pressed_at_once(press: GarmentPress) -> Iterator[tuple[PanelWork, tuple[PressPiece, ...]]]:
    for work in press.works:
        if work.pieces[0].kind.bond == "heat":
            for group in groups_of(work.pieces, together=work.spec.together):
                if len(group) > 1:
                    yield work, group


def shrink_misfit(facts: Facts) -> Iterator[Finding]:
    """Expected shrink moves an edge by more than the lap."""
    unit = facts.job.unit
    for press in facts.presses:
        off = [misfit for misfit in press.misfits() if misfit.is_seen]
        if not off:
            continue
        worst = off[0]
        work = next(w for w in press.works if any(one.key == worst.meeting.under for one in w.pieces))
        under, over = work.piece(worst.meeting.under), work.piece(worst.meeting.over)
        tacked = facts.job.pressing.school == "tack"
        lap = round(worst.mm * press_numbers().shrink.lap_times, 1)
        mend = (
            set_layers("wider lap", method="lap", lap_mm=lap) if tacked else set_pressing("tack first", school="tack")
        )
        yield found(
            "shrink-misfit",
            f"{garment_said(facts, press)}{under.name} shrinks by {write_length(worst.mm, unit=unit)} at its edge "
            f"before {over.name} is laid",
            f"{write_length(worst.limit_mm, unit=unit)} of lap, or what the eye overlooks; "
            + ("lay from the middle outward, so that each side is off by half" if tacked else "tack each layer first"),
            place=place_on(press, over.region, over),
            mend=mend,
        )
        return


def too_fresh(facts: Facts) -> Iterator[Finding]:
    """What was pressed is washed or folded before the film has cured."""
    said = facts.job.pressing.pressed_at
    if said is None:
        return
    try:
        at = datetime.datetime.fromisoformat(said)
    except ValueError:
        return
    hours = press_numbers().cure.hours
    ready = at + datetime.timedelta(hours=hours)
    yield found(
        "too-fresh",
        f"pressed on {at:%d %B %Y at %H:%M}; not washed or folded before {ready:%d %B %Y, %H:%M}",
        f"{hours:g} hours (typical, unsourced); the film's and the cloth's label come first",
    )


CHECKS = (
    bare_film,
    carrier_overlap,
    carriers_of_parts,
    peel_mixed,
    shrink_misfit,
    too_fresh,
)
