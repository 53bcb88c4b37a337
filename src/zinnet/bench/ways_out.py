"""Ways out where film is short: what could be changed of a job, the least change first. Nothing is checked here."""

import math
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
import shapely

from zinnet.base.units import write_length
from zinnet.data.limits import limits
from zinnet.films.catalogue import Film, by_nearness, kind_of
from zinnet.job.edits import (
    Edit,
    add_step,
    choose_film,
    choose_way,
    one_step,
    set_copies,
    set_nesting,
    set_placement,
    set_sizes,
)
from zinnet.layers.parting import gaps_of
from zinnet.layers.stack import FilmLayer
from zinnet.machines.cutters import Mat
from zinnet.plan.apart_by_hand import points_of
from zinnet.plan.fitted import FittedDesign
from zinnet.plan.model import Facts
from zinnet.plan.nests import FilmNest
from zinnet.shop.film_need import missing, missing_said
from zinnet.steps.model import Recolour, Which

WayKind = Literal[
    "turned",
    "apart",
    "spare",
    "gap",
    "film",
    "part",
    "smaller",
    "fewer",
    "mat",
    "buy",
    "more",
    "larger",
    "shelf",
    "cloth",
    "outline",
    "order",
]
MOST_FILMS, MOST_PARTS, MOST_MATS = 3, 4, 3
STEP_MM = 0.5
WORD_PARTS = 3


@dataclass(frozen=True)
class WayOut:
    """A change that may help: its kind, the edit, what it means in words, and how far a colour is from what it was."""

    kind: WayKind
    edit: Edit
    said: tuple[str, ...] = ()
    difference: float | None = None


def ways_out(facts: Facts) -> Iterator[WayOut]:
    """Yield the changes that may help a job whose film is short, those that change least of it first."""
    short = [nest for nest in facts.nests if nest.layout is not None and nest.layout.unplaced]
    if not short:
        return
    yield from _of_the_nest(facts, short)
    for nest in short:
        yield from _other_films(facts, nest)
        yield from _parts(facts, nest)
    yield from _fewer(facts, short)
    yield from _mats(facts)
    yield from bought(facts)


def resized(facts: Facts, factor: float) -> WayOut | None:
    """Return the change that makes all designs so many times as large; None where some are set by a list of names."""
    edits = []
    widths = []
    for design in facts.garments[0].designs:
        if design.words is not None or design.placement is None:
            return None
        width = math.floor(design.word_width_mm * factor / STEP_MM) * STEP_MM
        widths.append(write_length(width, unit=facts.job.unit))
        edits.append(set_placement("width", design=design.index, width_mm=max(width, STEP_MM), height_mm=None))
    kind: WayKind = "smaller" if factor < 1 else "larger"
    said = f"{abs(1 - factor):.0%} {kind}: {', '.join(widths)} wide"
    return WayOut(kind, one_step(said, edits), ("the same on all sizes",))


def _of_the_nest(facts: Facts, short: Sequence[FilmNest]) -> Iterator[WayOut]:
    spec = facts.job.nesting
    if spec.turns != "any" and any(not kind_of(nest.film).direction for nest in short):
        yield WayOut("turned", set_nesting("turn pieces by any angle", turns="any"), ("nothing else changes",))
    for nest in short:
        for film in facts.ways:
            if film.film.id == nest.film.id and film.chosen < len(film.ways) - 1:
                way = film.ways[-1]
                more = way.pieces - film.way.pieces
                edit = choose_way(film.film.id, way.share)
                yield WayOut("apart", Edit(f"cut {film.film.name} apart", edit.make), (f"{more} more pieces to lay",))
    if spec.spare:
        yield WayOut("spare", set_nesting("no spare copies", spare=0), ("a miscut has no replacement",))
    narrow = float(limits()["together"]["least_gap_mm"])
    if spec.gap_mm is None or spec.gap_mm > narrow:
        gap = write_length(narrow, unit=facts.job.unit)
        yield WayOut("gap", set_nesting(f"{gap} between pieces", gap_mm=narrow), ("scissors need more care",))


# other films


def on_shelf(facts: Facts, besides: str) -> tuple[Film, ...]:
    """Return the films of which there is something on the shelf, but for one."""
    there = {item.film for item in facts.shelf}
    return tuple(film for film in facts.workshop.films if film.id in there and film.id != besides)


def alike_on_shelf(facts: Facts, film: Film) -> list[tuple[Film, float]]:
    """Return the films on the shelf that hold by the same bond, the nearest colour first."""
    bond = kind_of(film).bond
    fit = tuple(one for one in on_shelf(facts, film.id) if kind_of(one).bond == bond)
    return by_nearness(film.colour, fit)


def _other_films(facts: Facts, nest: FilmNest) -> Iterator[WayOut]:
    for film, off in alike_on_shelf(facts, nest.film)[:MOST_FILMS]:
        yield film_instead(facts, nest.film, film, off)


def film_instead(facts: Facts, old: Film, film: Film, difference: float) -> WayOut:
    """Return the change that cuts from one film what is cut from another; their colours are so far apart."""
    rows = {row.key: row for _, composed in facts.composed for row in composed.layers if row.film == old}
    edits = [choose_film(row.colours[0], film.id, *row.colours[1:]) for row in rows.values()]
    return WayOut("film", one_step(f"{film.name} instead of {old.name}", edits), changes_of(old, film), difference)


def changes_of(old: Film, new: Film) -> tuple[str, ...]:
    """Return what changes with a film besides its colour."""
    before, after = kind_of(old), kind_of(new)
    said = []
    if before.finish != after.finish:
        said.append(f"{after.finish} instead of {before.finish}")
    if before.heat_c != after.heat_c and after.heat_c is not None:
        said.append(f"pressed at {after.heat_c[0]:g} to {after.heat_c[1]:g} °C")
    return tuple(said)


def _parts(facts: Facts, nest: FilmNest) -> Iterator[WayOut]:
    """Yield the changes that cut a part of the film's layers, apart by a natural gap, from a film that is near."""
    for composed in facts.garments[0].same:
        for row in composed.layers:
            if row.film == nest.film:
                yield from _parts_of(facts, composed, row, nest.film)


def _parts_of(facts: Facts, composed: FittedDesign, row: FilmLayer, film: Film) -> Iterator[WayOut]:
    rules = limits()["cut_apart"]
    gaps = gaps_of(row.layer.region)
    pieces = gaps.parted(float(rules["least_gap_mm"]), least_mm=float(rules["least_piece_mm"]))
    if len(pieces) < 2:
        return
    geoms = row.layer.region.geoms
    order = sorted(range(len(pieces)), key=lambda k: sum(geoms[part].area for part in pieces[k]))
    sets: list[tuple[int, ...]] = [(order[k],) for k in range(min(MOST_PARTS, len(order)))]
    if len(order) > 2:
        sets.append(tuple(order[:-1]))
    for number, chosen in enumerate(sets, start=1):
        parts = [part for k in chosen for part in pieces[k]]
        words = all(_are_letters([geoms[part] for part in pieces[k]]) for k in chosen)
        what = "the words" if words else f"part {number}" if len(chosen) == 1 else "all but the largest part"
        for other, off in alike_on_shelf(facts, film)[:2]:
            points = points_of(composed, row, parts)
            steps = [
                add_step(Recolour(which=Which(points=tuple(spots)), colour=other.colour), design)
                for design, spots in points.items()
            ]
            edit = one_step(f"{what} in {other.name}", [*steps, choose_film(other.colour, other.id)])
            yield WayOut("part", edit, changes_of(film, other), off)


def _are_letters(parts: Sequence[shapely.Polygon]) -> bool:
    """Tell whether parts stand in a row like letters: several, about equally high, on a line."""
    if len(parts) < WORD_PARTS:
        return False
    boxes = shapely.bounds(np.array(parts, dtype=object))
    highs = boxes[:, 3] - boxes[:, 1]
    tall = boxes[highs > 0.4 * highs.max()]
    width, height = boxes[:, 2].max() - boxes[:, 0].min(), boxes[:, 3].max() - boxes[:, 1].min()
    return bool(len(tall) >= WORD_PARTS and width > 1.5 * height and np.ptp(tall[:, 3]) < 0.5 * highs.max())


# fewer, elsewhere, bought


def _fewer(facts: Facts, short: Sequence[FilmNest]) -> Iterator[WayOut]:
    """Yield the change that makes as many garments now as the film holds, the others later."""
    if facts.named:
        return
    held = [one.copies for one in facts.garments]
    for nest in short:
        assert nest.layout is not None
        left = Counter(nest.layout.unplaced)
        for part in nest.parts:
            wanted = facts.garments[part.garment].copies * len(part.places) + facts.job.nesting.spare
            placed = wanted - left[part.name]
            held[part.garment] = min(held[part.garment], placed // len(part.places))
    now, asked = sum(held), facts.copies
    if not 0 < now < asked:
        return
    if not held[0]:
        return
    sizes = tuple((one.size, count) for one, count in zip(facts.garments[1:], held[1:], strict=True) if one.size)
    counted = tuple(row for row in sizes if row[1])
    edits = [set_copies(held[0]), *([set_sizes(counted)] if len(facts.garments) > 1 else [])]
    yield WayOut("fewer", one_step(f"{now} garments now, {asked - now} later", edits), ("the rest is another job",))


def _mats(facts: Facts) -> Iterator[WayOut]:
    here = facts.job.nesting.mat
    mats = [(name, mat) for name, mat in facts.workshop.machines.mats if name != here]
    own = facts.workshop.machines.mat(here)
    mats.sort(key=lambda row: abs(row[1].width_mm * row[1].height_mm - own.width_mm * own.height_mm))
    larger = [row for row in mats if min(row[1].width_mm, row[1].height_mm) >= min(own.width_mm, own.height_mm)]
    for name, mat in larger[:MOST_MATS]:
        yield on_mat(name, mat)


def on_mat(name: str, mat: Mat) -> WayOut:
    """Return the change that cuts on another mat."""
    return WayOut("mat", set_nesting(f"on the {mat.name}", mat=name), ("another mat, or another machine",))


def bought(facts: Facts) -> Iterator[WayOut]:
    """Yield the change that buys what is missing."""
    needs = missing(facts)
    if not needs:
        return
    said = tuple(f"{need.film.name}: {missing_said(need, facts.job.unit)}" for need in needs)
    yield WayOut("buy", set_nesting("buy what is missing, and cut from full mats", from_shelf=False), said)
