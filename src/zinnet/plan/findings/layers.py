"""Findings of the layers and their films."""

from collections.abc import Iterator
from functools import partial

from zinnet.data import read_toml
from zinnet.data.limits import limits
from zinnet.films.catalogue import (
    Film,
    kind_of,
    nearest_film,
)
from zinnet.films.support import PairMethod, cut_method, support
from zinnet.geometry.region import Region, common, union, without
from zinnet.job.edits import (
    Edit,
    choose_film,
    choose_pairs,
    derive_side,
    press_in_order,
    set_layers,
)
from zinnet.layers.detail import slivers
from zinnet.layers.spec import PairChoice
from zinnet.layers.stack import FilmLayer, LayerStack, Pair
from zinnet.plan.findings.model import Finding, Place, found
from zinnet.plan.findings.pattern import seen_contrast, seen_difference
from zinnet.plan.findings.subject import about, called, layer_rows, several
from zinnet.plan.findings.ways import same_finish
from zinnet.plan.fitted import FittedDesign
from zinnet.plan.model import Facts

LEAST_BARE_MM2 = 1.0


def no_film(facts: Facts) -> Iterator[Finding]:
    """A colour has no film."""
    for name, design, film_layer in layer_rows(facts):
        if film_layer.film is not None:
            continue
        colour = film_layer.layer.colour
        nearest = nearest_film(colour, facts.workshop.films)
        if nearest is None:
            yield found(
                "no-film", f"{name}, {colour}", "there is no film in stock", about=about(name, design, film_layer)
            )
            continue
        mend = choose_film(film_layer.colours[0], nearest[0].id, *film_layer.colours[1:])
        yield found(
            "no-film",
            f"{name}, {colour}; the nearest is {nearest[0].name}, {nearest[1]:.0f} away",
            f"proposed up to {read_toml('limits')['colour']['far_delta_e']:g} by CIEDE2000; farther is yours to choose",
            mend=Edit(f"use {nearest[0].name}, {nearest[1]:.0f} away", mend.change),
            about=about(name, design, film_layer),
        )


def wrong_cut_side(facts: Facts) -> Iterator[Finding]:
    """The side that is cut does not suit the film and its use."""
    said = set()
    for _, _, film_layer in layer_rows(facts):
        film, side, derived = film_layer.film, film_layer.side, film_layer.derived_side
        if film is None or side is None or derived is None or side.mirrored == derived.mirrored or film.id in said:
            continue
        said.add(film.id)
        yield found(
            "wrong-cut-side",
            f"{film.name} is cut {'mirrored' if side.mirrored else 'not mirrored'}",
            f"{kind_of(film).name}: {derived.reason}",
            mend=derive_side(film.id),
            subject=film.id,
        )


def _stacks(facts: Facts) -> Iterator[tuple[str, FittedDesign, LayerStack]]:
    """Yield the layers of what is cut on the job's own size, with what to say before its finding."""
    designs = facts.garments[0].compositions
    for design in designs:
        if design.stack is not None:
            yield f"{called(designs, design)}, " if len(designs) > 1 else "", design, design.stack


def _choice(pair: Pair, method: PairMethod) -> PairChoice:
    return PairChoice(lower=pair.lower.key, upper=pair.upper.key, method=method)


def _said(row: FilmLayer) -> str:
    return f"layer {row.layer.order}, {row.film.name if row.film is not None else 'no film'}"


def _at(design: FittedDesign, region: Region) -> Place | None:
    return None if region.is_empty else Place("split", region.bounds, design=design.index)


def _cut_away(facts: Facts, stack: LayerStack, pair: Pair) -> Edit:
    """Return the edit that cuts the lower film of a pair away; one that is spread under all goes back to as drawn."""
    lowest = stack.derived_order[-1 if stack.through_glass else 0]
    if facts.job.layers.spread != "none" and pair.lower.key == lowest:
        return set_layers("lay the lowest film as drawn", spread="none")
    return choose_pairs("cut away instead", [_choice(pair, "side-by-side")])


def film_cannot_carry(facts: Facts) -> Iterator[Finding]:
    """A film lies on one that does not hold it."""
    for before, design, stack in _stacks(facts):
        for pair in stack.pairs:
            held = pair.rule.support
            if not pair.lies_on or (held.holds and not held.by_school):
                continue
            spot = common(pair.under.layer.region, pair.over.layer.region)
            yield found(
                "film-cannot-carry",
                f"{before}{_said(pair.over)} lies on {_said(pair.under)}",
                f"{held.reason} (common practice)",
                level="warn" if held.by_school else None,
                place=_at(design, spot),
                mend=_cut_away(facts, stack, pair),
            )


def too_many_films(facts: Facts) -> Iterator[Finding]:
    """More films lie on one another than hold well."""
    for before, design, stack in _stacks(facts):
        if stack.deepest <= stack.most_films:
            continue
        thickest = max(stack.spots, key=lambda spot: len(spot.layers))
        keys = [row.key for row in stack.advice or ()]
        stacked = [pair for pair in stack.pairs if pair.rule.method == "on-top"]
        stays = [(pair.lower.key, pair.upper.key) for pair in stacked if pair.lower.key not in keys]
        choices = [
            _choice(pair, cut_method(pair.lower.key, pair.upper.key, pair.rule.support, stays))
            for pair in stacked
            if pair.lower.key in keys
        ]
        names = " and ".join(str(row.layer.order) for row in stack.advice or ())
        yield found(
            "too-many-films",
            f"{before}{stack.deepest} films, {thickest.thickness_um / 1000:.2f} mm thick, lie on one another",
            f"more than {stack.most_films} are stiff and peel (common practice)",
            place=_at(design, stack.too_deep),
            mend=choose_pairs(f"cut away layer {names}", choices) if choices else None,
        )


def press_order(facts: Facts) -> Iterator[Finding]:
    """A layer is pressed before the one that it lies on."""
    for before, design, stack in _stacks(facts):
        for pair in stack.pairs:
            if pair.lies_on and pair.over.layer.order < pair.under.layer.order:
                yield found(
                    "press-order",
                    f"{before}{_said(pair.over)} is pressed before {_said(pair.under)}, on which it lies",
                    "what lies below is pressed first" + (", the front colour on glass" if stack.through_glass else ""),
                    place=_at(design, common(pair.under.layer.region, pair.over.layer.region)),
                    mend=press_in_order(()),
                )


def sliver(facts: Facts) -> Iterator[Finding]:
    """Cutting a layer away leaves parts thinner than its film holds."""
    for name, design, row in layer_rows(facts):
        if row.film is None or design.setting is not None:
            continue
        kind = kind_of(row.film)
        thin = slivers(row, kind.least_stroke_mm)
        if not thin.is_empty:
            yield found(
                "sliver",
                f"{name}: {several(len(thin.geoms), 'sliver', 'slivers')} thinner than {kind.least_stroke_mm:g} mm",
                f"{kind.name} film holds {kind.least_stroke_mm:g} mm (typical; measure yours); let it go on under its "
                "neighbour, or give the sliver to it",
                place=_at(design, thin),
                mend=set_layers(
                    f"give {several(len(thin.geoms), 'sliver', 'slivers')} to the neighbours", drop_slivers=True
                ),
                about=about(name, design, row),
            )


def heat_clash(facts: Facts) -> Iterator[Finding]:
    """Films of one spot have press ranges that do not meet."""
    for before, design, stack in _stacks(facts):
        for pair in stack.pairs:
            under, over = pair.under.film, pair.over.film
            if under is None or over is None or not pair.lies_on or not pair.rule.support.holds:
                continue
            if not apart(under, over):
                continue
            ways = [
                *same_finish(facts, pair.over, partial(_goes_on, under)),
                *same_finish(facts, pair.under, partial(_goes_under, over)),
            ]
            yield found(
                "heat-clash",
                f"{before}{_said(pair.over)} ({_range(over)}) lies on {_said(pair.under)} ({_range(under)})",
                "one spot is pressed at one heat; press the hotter one first, and test, or change a film",
                place=_at(design, common(pair.under.layer.region, pair.over.layer.region)),
                also=tuple(ways),
            )
        bonds = {kind_of(row.film).bond for row in stack.layers if row.film is not None}
        if {"heat", "glue"} <= bonds:
            yield found(
                "heat-clash",
                f"{before}films that are pressed and films that are stuck on, in one design",
                "adhesive film is never heated: stick it on when all pressing is done and it is cool",
            )


def _goes_on(under: Film, film: Film) -> bool:
    return support(under, film).holds and not apart(under, film)


def _goes_under(over: Film, film: Film) -> bool:
    return _goes_on(film, over)


def apart(one: Film, other: Film) -> bool:
    """Tell whether the heats at which two films are pressed do not meet; a film without one goes with any."""
    a, b = kind_of(one).heat_c, kind_of(other).heat_c
    return a is not None and b is not None and max(a[0], b[0]) > min(a[1], b[1])


def _range(film: Film) -> str:
    low, high = kind_of(film).heat_c or (0.0, 0.0)
    return f"{low:.0f} to {high:.0f} °C"


def invisible_on_blank(facts: Facts) -> Iterator[Finding]:
    """A layer that lies on the blank itself has the blank's own colour."""
    least, blank = float(limits()["colour"]["same_as_blank_delta_e"]), facts.blank.colour

    def is_seen(film: Film) -> bool:
        readable = seen_contrast(film, blank) >= float(limits()["contrast"]["least_ratio"])
        return readable and seen_difference(film, blank) >= 2 * least

    for name, design, row in layer_rows(facts):
        if row.film is None or design.stack is None or row.is_print:
            continue
        difference = seen_difference(row.film, blank)
        if difference >= least:
            continue
        below = [other.layer.region for other in design.stack.layers if other.layer.order < row.layer.order]
        if without(row.layer.region, union(below)).area < LEAST_BARE_MM2:
            continue
        ways = same_finish(facts, row, is_seen)
        yield found(
            "invisible-on-blank",
            f"{name}, {row.film.name}: {difference:.1f} from the blank's colour",
            f"less than {least:g} by CIEDE2000 is hardly seen; drop it, or change the film",
            also=tuple(ways),
            about=about(name, design, row),
        )


CHECKS = (
    no_film,
    film_cannot_carry,
    too_many_films,
    press_order,
    sliver,
    heat_clash,
    wrong_cut_side,
    invisible_on_blank,
)
