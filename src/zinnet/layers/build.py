"""Building the layers: films on top of one another, side by side, or with a lap, and the order of pressing."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
import shapely

from zinnet.base.stages import stage
from zinnet.data.limits import limits
from zinnet.films.catalogue import Bond, Film, FilmKind, kind_of
from zinnet.films.support import (
    PairMethod,
    PairRule,
    cut_method,
    pair_rule,
    support,
)
from zinnet.geometry.inside import points_inside
from zinnet.geometry.parallel import each
from zinnet.geometry.region import Region, common, seamless, union, without, without_specks
from zinnet.geometry.thickness import offset
from zinnet.geometry.transform import scale
from zinnet.layers.assign import Assigned, assign_films, sides_of
from zinnet.layers.depth import cut_away_advice
from zinnet.layers.laps import held_below
from zinnet.layers.relations import Relations, relations, scaled
from zinnet.layers.slivers import give_slivers
from zinnet.layers.spec import LayersSpec
from zinnet.layers.split import DUST_MM, ColourLayer, Split, moved_layer
from zinnet.layers.stack import FilmLayer, LayerStack, Pair

Rules = dict[tuple[int, int], PairRule]
LAP_STEP_MM = 0.05


@stage(most=256)
def build_layers(
    split: Split,
    spec: LayersSpec,
    stock: tuple[Film, ...],
    *,
    seen: str,
    holds: tuple[Bond, ...] = ("heat",),
    share: bool = True,
) -> LayerStack:
    """Return the layers of split artwork with their films.

    Where no length in mm is asked for they are built once at the larger size of the split, and scaled down from there.

    Parameters
    ----------
    split : Split, mm
        The colours at the size that is to be cut.
    spec : LayersSpec
        Films, laps and repairs that the user chose.
    stock : films
        Those to choose from.
    seen : 'front' or 'through-glass'
        From which side the films are looked at.
    holds : bonds
        By which films hold there, the usual one first.
    share : bool
        Whether colours that come to one film become one layer.

    Returns
    -------
    LayerStack, mm
        Every layer as worn, lowest first.
    """
    glass = seen == "through-glass"
    assigned = assign_films(split.layers, spec, stock, share=share, holds=holds)
    source = split.larger or split
    related = relations(source, tuple(one.colours for one in assigned))
    films = [assigned[index] for index in related.sequence]
    lap_mm = spec.lap_mm or proposed_lap_mm(split, [one.film for one in films])
    rules, spared = _rules(related, films, spec, glass)
    here = related
    if source is not split:
        here = scaled(related, split.width_mm / source.width_mm, split.height_mm / source.height_mm)
    derived = tuple(one.colours[0] for one in (reversed(films) if glass else films))
    order = _press_order(derived, spec.order, films)
    ways = [_way(index, rules, spec, lap_mm, one.film) for index, one in enumerate(films)]
    in_mm = [spec.drop_slivers or bool(way.laps) or way.outline_mm > 0 for way in ways]
    if any(way.laps for way in ways):
        here.covered  # noqa: B018 - once, before the layers are built side by side

    def build(index: int) -> ColourLayer:
        one = films[index]
        return _layer(here if in_mm[index] else related, index, ways[index], order[one.colours[0]], one.main)

    layers = each(build, range(len(films)))
    seen_parts = [part.seen for part in here.parts]
    if spec.drop_slivers:
        layers, seen_parts = _without_slivers(layers, here, films)
    rows = []
    for layer, region, one, exact in zip(layers, seen_parts, films, in_mm, strict=True):
        sizes = None if exact or source is split else (source, split)
        rows.append(_row(layer, region, one, spec, seen, sizes))
    pairs = []
    for (lower, upper), rule in rules.items():
        low, high = rows[lower], rows[upper]
        pairs.append(Pair(low, high, *((high, low) if glass else (low, high)), rule))
    lies_round = spec.spread == "outline" and rows
    return LayerStack(
        outline=max((row.layer for row in rows), key=lambda layer: layer.area_mm2) if lies_round else None,
        layers=tuple(sorted(rows, key=lambda row: row.layer.order, reverse=glass)),
        piles=tuple(tuple(rows[index] for index in pile) for pile in _piles(related, rules, spec.spread != "none")),
        pairs=tuple(pairs),
        derived_order=derived,
        lap_mm=lap_mm,
        most_films=spec.most_films or usual_most_films(),
        through_glass=glass,
        spared=tuple(films[index].colours[0] for index in spared),
    )


def usual_most_films() -> int:
    """Return how many films may usually lie on one another."""
    return int(limits()["layers"]["most_films"])


def proposed_lap_mm(split: Split, films: Sequence[Film | None]) -> float:
    """Return the lap that hides the misfit to be expected: laying by hand, and shrink from the middle to the edge.

    Parameters
    ----------
    split : Split, mm
        The colours at the size that is to be cut.
    films : a Film or None each
        The films of the colours.

    Returns
    -------
    float, mm
        Between the least and the most that is usual, in steps that can be set.
    """
    numbers = limits()["lap"]
    shrink = max((kind_of(film).shrink_share for film in films if film is not None), default=0.0)
    misfit = float(numbers["low_mm"]) + shrink * max(split.width_mm, split.height_mm) / 2
    return round(round(min(misfit, float(numbers["high_mm"])) / LAP_STEP_MM) * LAP_STEP_MM, 3)


@stage(most=512)
def _row(
    layer: ColourLayer,
    seen_part: Region,
    one: Assigned,
    spec: LayersSpec,
    seen: str,
    sizes: tuple[Split, Split] | None,
) -> FilmLayer:
    """Return a layer with its film; ``sizes`` are those of the split that it was built on and of the wanted one."""
    side, derived_side = sides_of(one.film, spec, seen)
    larger = None
    if sizes is not None:
        source, split = sizes
        across, down = split.width_mm / source.width_mm, split.height_mm / source.height_mm
        larger = (layer, across) if abs(across / down - 1) < 1e-3 else None
        layer = _smaller(layer, across, down)
    return FilmLayer(
        layer=layer,
        colours=one.colours,
        seen=seen_part,
        film=one.film,
        chosen=one.chosen,
        difference=one.difference,
        side=side,
        derived_side=derived_side,
        larger=larger,
    )


@stage(most=256)
def _smaller(layer: ColourLayer, across: float, down: float) -> ColourLayer:
    return moved_layer(layer, scale(across, down))


# how each pair lies


def _rules(
    related: Relations, films: Sequence[Assigned], spec: LayersSpec, glass: bool
) -> tuple[Rules, tuple[int, ...]]:
    """Return how each pair that meets lies, and the layers that were cut away to keep to the most films."""
    chosen = _choices(spec, films)
    rules: Rules = {}
    spread = spec.spread != "none"
    under_all = [(0, upper) for upper in range(1, len(films))] if spread else []
    for lower, upper in sorted({*related.meeting, *under_all}):
        under, over = (upper, lower) if glass else (lower, upper)
        held = support(films[under].film, films[over].film, stack_glitter=spec.stack_glitter)
        if spread and lower == 0:
            reason = f"the lowest film is spread under all; {held.reason}"
            rules[0, upper] = PairRule(method="on-top", reason=reason, support=held, chosen=True)
            continue
        rules[lower, upper] = pair_rule(
            held, spec.method, chosen.get((lower, upper)), goes_under=(lower, upper) in related.under
        )
    if spec.method != "auto":
        return rules, ()
    most = spec.most_films or usual_most_films()
    cut = _too_many(related, rules, spread, most)
    changed = [pair for pair, rule in rules.items() if pair[0] in cut and _may_change(rule)]
    on_top = {pair for pair, rule in rules.items() if rule.method == "on-top" and pair not in changed}
    for lower, upper in changed:
        held = rules[lower, upper].support
        how = cut_method(lower, upper, held, on_top)
        films_said = "1 film" if most == 1 else f"{most} films"
        reason = f"more than {films_said} would lie on one another; cut away here, the outlines grow least"
        rules[lower, upper] = PairRule(method=how, reason=reason, support=held)
    return rules, cut


def _may_change(rule: PairRule) -> bool:
    return rule.method == "on-top" and not rule.chosen


def _choices(spec: LayersSpec, films: Sequence[Assigned]) -> dict[tuple[int, int], PairMethod]:
    """Return the user's own methods by the index of the layers."""
    index = {colour: place for place, one in enumerate(films) for colour in one.colours}
    found: dict[tuple[int, int], PairMethod] = {}
    for choice in spec.pairs:
        if choice.lower in index and choice.upper in index:
            pair = index[choice.lower], index[choice.upper]
            found[min(pair), max(pair)] = choice.method
    return found


def _too_many(related: Relations, rules: Rules, spread: bool, most: int) -> tuple[int, ...]:
    """Return the layers to cut away so that no more than ``most`` films lie on one another."""
    piles = _piles(related, rules, spread)
    if all(len(pile) <= most for pile in piles):
        return ()
    on_top = [pair for pair, rule in rules.items() if rule.method == "on-top"]
    fixed = {lower for lower, upper in on_top if rules[lower, upper].chosen}
    extra = [
        part.seen.length - _onto(related, index, tuple(sorted(high for low, high in on_top if low == index))).length
        for index, part in enumerate(related.parts)
    ]
    return cut_away_advice(piles, extra, most, tuple(fixed)) or ()


def _piles(related: Relations, rules: Rules, spread: bool) -> tuple[tuple[int, ...], ...]:
    """Return the layers that lie on one another somewhere, laps left out, each pile from the lowest to what is seen."""
    on_top = {pair for pair, rule in rules.items() if rule.method == "on-top"}
    uppers = [upper for _, upper in on_top]
    found: set[tuple[int, ...]] = {(index,) for index in range(len(related.parts))}
    if len(set(uppers)) == len(uppers):
        return tuple(sorted({*found, *(pair for pair in on_top if spread or pair in related.under)}))
    for *lower, top in related.piles:
        base = [0] if spread and top else []
        found.add((*base, *(index for index in lower if index not in base and (index, top) in on_top), top))
    return tuple(sorted(found))


# what is cut


@dataclass(frozen=True)
class _Way:
    """How one layer goes on beyond what is seen of it: all under some layers, with a lap under others, or all round."""

    on_top: tuple[int, ...]
    laps: tuple[int, ...]
    lap_mm: float
    spread: bool
    outline_mm: float
    kind: FilmKind | None
    """What the film can hold, where the layer has laps."""


def _way(index: int, rules: Rules, spec: LayersSpec, lap_mm: float, film: Film | None) -> _Way:
    mine = {upper: rule.method for (lower, upper), rule in rules.items() if lower == index}
    laps = tuple(sorted(upper for upper, method in mine.items() if method == "lap"))
    return _Way(
        on_top=tuple(sorted(upper for upper, method in mine.items() if method == "on-top")),
        laps=laps,
        lap_mm=lap_mm if laps else 0.0,
        spread=index == 0 and spec.spread != "none",
        outline_mm=spec.outline_mm if index == 0 and spec.spread == "outline" else 0.0,
        kind=kind_of(film) if laps and film is not None else None,
    )


def _layer(related: Relations, index: int, way: _Way, order: int, colour: str) -> ColourLayer:
    """Return one layer as it is cut; one without laps rests on nothing but its own part and where that goes on."""
    part = related.parts[index]
    if way.spread or way.laps:
        return _reaching(related, index, way, order, colour)
    region = _onto(related, index, way.on_top)
    shapes = part.drawn if region is part.seen else _meeting(part.painted_shapes, region)
    return _stacked(region, part.painted, shapes, order, colour)


@stage(most=512)
def _meeting(shapes: tuple[Region, ...], region: Region) -> tuple[Region, ...]:
    """Return the shapes that have anything in common with a region."""
    shapely.prepare(region)
    met = shapely.intersects(region, np.array(shapes, dtype=object))
    return tuple(shape for shape, meets in zip(shapes, met, strict=True) if meets)


@stage(most=512)
def _stacked(region: Region, painted: Region, shapes: tuple[Region, ...], order: int, colour: str) -> ColourLayer:
    return ColourLayer(order, colour, region, painted, shapes, ())


@stage(most=512)
def _reaching(related: Relations, index: int, way: _Way, order: int, colour: str) -> ColourLayer:
    part = related.parts[index]
    region = _region(related, index, way)
    shapes = (region,) if way.spread else (*part.painted_shapes, region)
    return ColourLayer(order, colour, region, part.painted, shapes, ())


@stage(most=512)
def _region(related: Relations, index: int, way: _Way) -> Region:
    if way.spread:
        return offset(related.covered, way.outline_mm)
    lapped = _lapped(related, index, way)
    if not way.on_top:
        return lapped
    return seamless([_onto(related, index, way.on_top), lapped])


def _onto(related: Relations, index: int, uppers: tuple[int, ...]) -> Region:
    """Return what is seen of a layer with what goes on under some others: what it paints, without what others cover.

    So it stays the same where one of those others moves on it. A part of which nothing is seen is not cut.
    """
    part = related.parts[index]
    if not any((index, upper) in related.under for upper in uppers):
        return part.seen
    return _seen_in(_uncovered(part.painted, related.covered_by(index, uppers)), part.seen)


@stage(most=512)
def _uncovered(painted: Region, covered: tuple[Region, ...]) -> Region:
    return without_specks(without(painted, union(covered)), DUST_MM) if covered else painted


@stage(most=512)
def _seen_in(region: Region, seen: Region) -> Region:
    """Return the parts of a region of which something is seen."""
    parts = shapely.get_parts(region)
    inside = points_inside(shapely.get_parts(seen))
    shown = np.unique(shapely.STRtree(parts).query(inside, predicate="intersects")[1])
    return region if len(shown) == len(parts) else Region(parts[shown].tolist())


def _lapped(related: Relations, index: int, way: _Way) -> Region:
    """Return what is seen of a layer with a strip under others, as wide as the lap; it never reaches beyond them.

    Where the strip would leave what its film can't hold, the layer goes on there under the others.
    """
    seen = related.parts[index].seen
    reached = common(offset(seen, way.lap_mm, tolerance=DUST_MM), related.covered)
    for other, part in enumerate(related.parts):
        if other != index and other not in way.laps and shapely.intersects(reached, part.seen):
            reached = without(reached, part.seen)
    lapped = seamless([reached, seen])
    if way.kind is not None:
        lapped = held_below(lapped, union(related.parts[upper].seen for upper in way.laps), way.kind)
    return _seen_in(without_specks(lapped, DUST_MM), seen)


# order, and slivers


def _press_order(derived: Sequence[str], wanted: Sequence[str], films: Sequence[Assigned]) -> dict[str, int]:
    """Return for each layer when it is pressed, from 1: as the user wants it, else as derived."""
    key = {colour: one.colours[0] for one in films for colour in one.colours}
    first = list(dict.fromkeys(key[colour] for colour in wanted if colour in key))
    named = iter(first)
    order = [next(named) if colour in first else colour for colour in derived]
    return {colour: number for number, colour in enumerate(order, start=1)}


def _without_slivers(
    layers: Sequence[ColourLayer], here: Relations, films: Sequence[Assigned]
) -> tuple[list[ColourLayer], list[Region]]:
    """Return the layers with their slivers given to the neighbours, and what is seen of them then."""
    widths = [0.0 if one.film is None else kind_of(one.film).least_stroke_mm for one in films]
    cut, seen = give_slivers(layers, [part.seen for part in here.parts], widths)
    changed = [
        layer if region is layer.region else replace(layer, region=region, drawn=(region,))
        for layer, region in zip(layers, cut, strict=True)
    ]
    return changed, seen
