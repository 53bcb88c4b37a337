"""Findings of the platen: film that it presses in parts, and edges of it on film that would fit under it whole."""

from collections.abc import Iterator, Sequence
from dataclasses import replace

import shapely

from zinnet.base.units import write_length
from zinnet.geometry.region import EMPTY, Region, hull_box, union
from zinnet.job.edits import Edit, choose_platen
from zinnet.machines.platens import Platen
from zinnet.plan.findings.model import Finding, found
from zinnet.plan.findings.pressed import garment_said, place_on, work_of
from zinnet.plan.findings.subject import several
from zinnet.plan.model import Facts
from zinnet.plan.presses import GarmentPress
from zinnet.pressing.pieces import PanelWork
from zinnet.pressing.platen_positions import Position, at_once
from zinnet.pressing.platen_spot import is_padded
from zinnet.pressing.press_area import Spread
from zinnet.pressing.reach import reaching

MOST_TRIED = 3
"""So many other platens are looked at."""
EDGE_MM2 = 1.0
"""Less film under an edge is rounding, or the ruler's millimetre."""


def platen_smaller(facts: Facts) -> Iterator[Finding]:
    """The artwork needs more than one position of the platen."""
    unit = facts.job.unit
    for press in facts.presses:
        for work in press.works:
            spreads = [step.heat.spread for step in press.presses if step.heat is not None]
            if work.platen is None or work.pieces[0].kind.bond == "glue" or not _is_larger(work, spreads):
                continue
            left, top, right, bottom = work.film.bounds
            art = f"{write_length(right - left, unit=unit, with_unit=False)} x {write_length(bottom - top, unit=unit)}"
            platen = work.platen
            size = f"{write_length(platen.width_mm, unit=unit, with_unit=False)} x "
            size += write_length(platen.height_mm, unit=unit)
            yield found(
                "platen-smaller",
                f"{garment_said(facts, press)}film over {art} on the {work.panel.name.lower()} is pressed in parts",
                f"the platen of {size}; parts overlap a little, and the first is held still (Positions shows them)",
                place=place_on(press, work.film, work.pieces[0]),
            )


def _is_larger(work: PanelWork, spreads: Sequence[Spread]) -> bool:
    """Tell whether any press of a panel takes more than one position; only what does not fit straight is worked out."""
    here = {id(film) for piece in work.pieces for film in piece.each}
    return not all(one.may_be_one for one in spreads if any(id(film) in here for film in one.films))


def platen_edge_on_piece(facts: Facts) -> Iterator[Finding]:
    """An edge of the platen lies on a piece that would fit under it whole.

    Where another position holds it whole that is worth a note, a warning where the user chose a platen that can't do
    better and another one can.
    """
    unit = facts.job.unit
    for press in facts.presses:
        said = set()
        for step in press.presses:
            heat = step.heat
            if heat is None or heat.kind == "preheat" or heat.spread.may_be_one or step.panel in said:
                continue
            platen, positions = heat.spread.platen, heat.coverage.positions
            if platen is None or not positions:
                continue
            cut = list(_edged(heat.spread.films, positions, platen.margin_mm))
            if not cut:
                continue
            said.add(step.panel)
            film, area, whole = max(cut, key=lambda one: (not one[2], one[1]))
            left, top, right, bottom = film.bounds
            size = f"{write_length(right - left, unit=unit, with_unit=False)} x {write_length(bottom - top, unit=unit)}"
            piece = next(one for work in press.works for one in work.pieces if any(film is each for each in one.each))
            rest = "another position's edge lies on it" if whole else "no position holds it whole"
            ways = tuple(_off_all_edges(facts, press, heat.spread, work_of(press, piece)))
            yield found(
                "platen-edge-on-piece",
                f"{garment_said(facts, press)}{several(len(cut), 'piece', 'pieces')}; {piece.name}, {size}: {rest}, "
                f"on {area / 100:.1f} cm²",
                "the edge of a platen leaves a line in film, and its outer "
                f"{write_length(platen.margin_mm, unit=unit)} press less evenly (common practice)",
                level="note" if whole and (not ways or facts.job.platen is None) else None,
                place=place_on(press, film, piece),
                also=ways,
            )


def _off_all_edges(facts: Facts, press: GarmentPress, spread: Spread, work: PanelWork) -> Iterator[Edit]:
    """Yield the edit that takes another platen, such that no edge lies on film that fits under it whole."""
    at_once_by = tuple(at_one_press(facts, press, work))
    yield from at_once_by
    if at_once_by:
        return
    for name, platen in _others(facts, press, work)[:MOST_TRIED]:
        if not all(_fits(film, platen.inner) for film in spread.films):
            continue
        other = replace(spread, platen=platen).coverage
        if other.left.is_empty and not any(_edged(spread.films, other.positions, platen.margin_mm)):
            edit = choose_platen(name)
            yield Edit(f"press with the {platen.name}", edit.change)
            return


def _edged(
    films: Sequence[Region], positions: Sequence[Position], margin_mm: float
) -> Iterator[tuple[Region, float, bool]]:
    """Yield the films that fit under the platen whole and have an edge of it on them, with how much lies under that.

    The last of each three tells whether the film lies whole under one of the positions at least.
    """
    outer = [one.box for one in positions]
    inner = [shapely.buffer(box, EDGE_MM2 / 100 - margin_mm, join_style="mitre") for box in outer]
    inner_size = tuple(size - 2 * margin_mm for size in (positions[0].width_mm, positions[0].height_mm))
    for film in films:
        if not _fits(film, inner_size):
            continue
        held = [box.covers(film) for box in inner]
        cut = [shapely.intersection(film, box).area for box, whole in zip(outer, held, strict=True) if not whole]
        partly = [area for area in cut if area > EDGE_MM2]
        if partly:
            yield film, max(partly), any(held)


def _fits(film: Region, size: tuple[float, ...]) -> bool:
    left, top, right, bottom = film.bounds
    return bool(right - left <= size[0] and bottom - top <= size[1])


def _others(facts: Facts, press: GarmentPress, work: PanelWork) -> list[tuple[str, Platen]]:
    """Return the other platens that get to the object, those of the same source first, then the smaller ones."""
    return sorted(
        (row for row in reaching(facts.workshop.presses, press.garment.blank) if row[1] != work.platen),
        key=lambda row: (row[1].heat_source != work.heat_source, row[1].width_mm * row[1].height_mm),
    )


def at_one_press(facts: Facts, press: GarmentPress, work: PanelWork) -> Iterator[Edit]:
    """Yield the edit that takes the smallest platen of the workshop that presses all of a panel at once."""
    box = hull_box([work.film])
    hard = [one.region for one in work.panel.keep_outs if not is_padded(one)]
    for name, platen in _others(facts, press, work):
        if at_once(box, platen, union(hard) if hard else EMPTY, turns=True) is not None:
            edit = choose_platen(name)
            yield Edit(f"press all at once: {platen.name}", edit.change)
            return


CHECKS = (platen_smaller, platen_edge_on_piece)
