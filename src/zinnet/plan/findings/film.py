"""Findings of the film on the shelf: whether it is enough, and what lies on spots that are no good."""

from collections import Counter
from collections.abc import Iterator

from zinnet.base.units import write_area, write_length
from zinnet.films.catalogue import Film, by_nearness
from zinnet.job.edits import (
    Edit,
    choose_film,
    nest_again,
    set_nesting,
)
from zinnet.machines.cutters import room
from zinnet.nesting.rolls import rest_of_roll_mm
from zinnet.nesting.shelf import best_turn
from zinnet.nesting.shortage import shortage
from zinnet.plan.findings.model import Finding, Place, found
from zinnet.plan.ledger import left_of_mats
from zinnet.plan.model import Facts
from zinnet.plan.nests import TEST_CUT, FilmNest, NestedMat, held_pins

LONGER, MOST_SECONDS = 4.0, 600.0
"""How many times as long is looked for what found no room, and how long at most, in s."""


def film_short(facts: Facts) -> Iterator[Finding]:
    """What is on the shelf does not hold all pieces of a film."""
    if not facts.job.nesting.from_shelf:
        return
    for nest in facts.nests:
        unplaced = nest.layout.unplaced if nest.layout is not None else ()
        missing = [name for name in unplaced if name != TEST_CUT]
        if not unplaced:
            continue
        wanted = sum(piece.copies for piece in nest.task.pieces if piece.name != TEST_CUT)
        areas = {piece.name: piece.region.area for piece in nest.task.pieces}
        short = write_area(sum(areas[name] for name in missing), unit=facts.job.unit)
        yield found(
            "film-short",
            f"{nest.film.name}: {len(missing)} of {wanted} pieces find no room, {short} of film{_proof(facts, nest)}"
            if missing
            else f"{nest.film.name}: all {wanted} pieces lie, but the test cut finds no room",
            _on_shelf(facts, nest),
            mend=_enough_of_another(facts, nest),
            also=() if shortage(nest.task).proved else (_longer(facts),),
        )


def _longer(facts: Facts) -> Edit:
    """Return the edit that looks for longer."""
    seconds = min(MOST_SECONDS, LONGER * facts.job.nesting.seconds)
    return set_nesting(f"keep looking, {seconds:g} s for each film", seconds=seconds, seed=facts.job.nesting.seed + 1)


def _proof(facts: Facts, nest: FilmNest) -> str:
    """Return how sure it is that so many pieces find no room: proved, or not found in the time that was given."""
    assert nest.layout is not None
    short, missing = shortage(nest.task), len(nest.layout.unplaced)
    if not nest.task.sheets:
        return ""
    why = [said for count, said in ((short.too_wide, "too wide"), (short.too_much, "too much for its area")) if count]
    if short.proved >= missing:
        return f"; proved: {' and '.join(why)}"
    searched = f"not found in {nest.task.seconds:g} s, keep looking"
    if short.proved:
        return f"; {short.proved} of them proved, {' and '.join(why)}; the others {searched}"
    return f"; {searched}"


def _on_shelf(facts: Facts, nest: FilmNest) -> str:
    items = [item for item in facts.shelf if item.film == nest.film.id]
    if not items:
        return f"there is no {nest.film.name} on the shelf"
    area = write_area(sum(item.area_mm2 for item in items), unit=facts.job.unit)
    pieces = "1 piece" if len(items) == 1 else f"{len(items)} pieces"
    return f"the shelf holds {pieces} of it, {area} in all"


def _enough_of_another(facts: Facts, nest: FilmNest) -> Edit | None:
    """Return the edit that takes the nearest film of its kind of which there is more than the pieces need."""
    needed = sum(piece.region.area * piece.copies for piece in nest.task.pieces)
    others = [film for film in facts.workshop.films if film.id != nest.film.id and film.kind == nest.film.kind]
    used = {one.film.id for one in facts.nests}
    for film, off in by_nearness(nest.film.colour, tuple(others)):
        if film.id not in used and _area_of(facts, film) > 2 * needed:
            colour = nest.parts[0].layer.layer.colour
            return Edit(f"use {film.name}, {off:.0f} away", choose_film(colour, film.id).change)
    return None


def _area_of(facts: Facts, film: Film) -> float:
    return sum(item.area_mm2 for item in facts.shelf if item.film == film.id)


def no_spare(facts: Facts) -> Iterator[Finding]:
    """Nothing is left of a film on the shelf for one more of its largest piece."""
    if not facts.job.nesting.from_shelf or facts.job.nesting.spare:
        return
    for nest in facts.nests:
        if nest.layout is None or nest.layout.unplaced:
            continue
        mats = tuple(mat for mat in facts.mats if mat.nest is nest)
        size = _largest(nest)
        if _holds_one_more(nest, mats):
            continue
        unit = facts.job.unit
        yield found(
            "no-spare",
            f"{nest.film.name}: no room for {write_length(size[0], unit=unit, with_unit=False)} x "
            f"{write_length(size[1], unit=unit)}",
            "one miscut should not end the work (common practice): have that much more of it",
        )


def _largest(nest: FilmNest) -> tuple[float, float]:
    """Return the size of the largest piece, the longer side first."""
    left, top, right, bottom = max(nest.task.pieces, key=lambda piece: piece.region.area).region.bounds
    return max(right - left, bottom - top), min(right - left, bottom - top)


def _holds_one_more(nest: FilmNest, mats: tuple[NestedMat, ...]) -> bool:
    """Tell whether any film that is left holds the largest piece, with the room at its edges."""
    piece = max(nest.task.pieces, key=lambda one: one.region.area)
    used = Counter(mat.layout.sheet for mat in mats)
    edges = 2 * room().edge_mm
    for index, sheet in enumerate(nest.task.sheets):
        whole = sheet.is_plain and best_turn(piece, *sheet.inner) is not None
        rest = rest_of_roll_mm(nest.task, nest.layout.sheets if nest.layout is not None else (), index)
        if rest is not None:
            whole = best_turn(piece, min(rest, sheet.width_mm) - 2 * sheet.margin_mm, sheet.inner[1]) is not None
        if whole and (rest is not None or sheet.copies is None or sheet.copies > used[index]):
            return True
    for mat in mats:
        beyond = mat.sheet.width_mm - mat.layout.used_length_mm - mat.sheet.margin_mm
        if mat.sheet.kind == "roll" and best_turn(piece, beyond - edges, mat.sheet.inner[1]) is not None:
            return True
    boxes = [box for left in left_of_mats(mats) for box in left.rectangles]
    return any(best_turn(piece, box[2] - box[0] - edges, box[3] - box[1] - edges) is not None for box in boxes)


def on_test_cut(facts: Facts) -> Iterator[Finding]:
    """A piece lies on the spot of the test cut, or on a spoiled one."""
    for mat in facts.mats:
        if mat.nest.layout is None or mat.nest.layout.verified:
            continue
        spots = [spot for spot in (mat.test_spot, mat.sheet.keep_out) if spot is not None]
        hit = [region for region in mat.rooms if any(region.intersects(spot) for spot in spots)]
        if hit:
            yield found(
                "on-test-cut",
                f"mat {mat.number}: {len(hit)} piece{'s' if len(hit) > 1 else ''} on it",
                "the test cut and damaged spots are kept free",
                place=Place("nest", hit[0].bounds, mat.number),
                mend=nest_again(held_pins(facts.mats, facts.job.nesting)),
            )


CHECKS = (film_short, no_spare, on_test_cut)
