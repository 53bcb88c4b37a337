"""Findings of pressing: heat and limits, recipes, covers, carriers, shrink, the platen, and curing."""

import datetime
import math
from collections.abc import Iterator, Sequence

import shapely

from zinnet.base.units import write_length, write_temperature
from zinnet.films.catalogue import Film, by_nearness, kind_of
from zinnet.geometry.region import EMPTY, Region
from zinnet.job.edits import (
    Edit,
    choose_film,
    choose_recipe,
    set_layers,
    set_nesting,
    set_pressing,
)
from zinnet.layers.stack import FilmLayer
from zinnet.plan.cut_parts import CutPart
from zinnet.plan.findings.model import Finding, Place, found
from zinnet.plan.model import Facts
from zinnet.plan.presses import GarmentPress, degrees_of
from zinnet.pressing.applied_recipe import PressSetting, setting_of
from zinnet.pressing.at_once import groups_of
from zinnet.pressing.fabrics import fabric_of, label_limit
from zinnet.pressing.heat_map import most_heat
from zinnet.pressing.heat_values import press_numbers
from zinnet.pressing.known_recipes import offers
from zinnet.pressing.pieces import PanelWork, PressPiece, carrier_crossings
from zinnet.pressing.press_area import Spread
from zinnet.pressing.recipes import PEELS, SOURCES_SAID, habits


def fabric_limit(facts: Facts) -> Iterator[Finding]:
    """Heat is above what the care label or the fabric allows, or may be, where the label was not read."""
    degrees = degrees_of(facts.job)
    press = facts.presses[0]
    blank = press.garment.blank
    hottest: PressPiece | None = None
    for film, piece in _films(press).items():
        setting = piece.setting
        if setting is None or setting.wanted_c is None:
            continue
        if setting.limit is not None:
            yield found(
                "fabric-limit",
                f"{piece.film.name} wants {write_temperature(setting.wanted_c, degrees=degrees)} on {blank.fabric}",
                f"{write_temperature(setting.limit.most_c, degrees=degrees)}: {setting.limit.whose}",
                level="stop" if _is_too_hot_for_the_cloth(press, setting.wanted_c) else "warn",
                place=_place(press, piece.region, piece),
                mend=_cooler(facts, press, piece),
                subject=film,
            )
        elif hottest is None or setting.wanted_c > (hottest.setting.wanted_c or 0.0 if hottest.setting else 0.0):
            hottest = piece
    yield from _unread_label(facts, press, hottest)


def _is_too_hot_for_the_cloth(press: GarmentPress, wanted_c: float) -> bool:
    """Tell whether the fabric itself forbids a heat; a care label is about ironing, and reading it makes nothing worse.

    So a heat above its dots is no graver than one that the usual label would forbid, were it not read.
    """
    fabric = fabric_of(press.garment.blank.fabric)
    return fabric is not None and fabric.most_c is not None and wanted_c > fabric.most_c


def _unread_label(facts: Facts, press: GarmentPress, hottest: PressPiece | None) -> Iterator[Finding]:
    """The label was not read, and one that is usual for the fabric would forbid the heat."""
    blank, fabric = press.garment.blank, fabric_of(press.garment.blank.fabric)
    usual = label_limit(fabric.usual_dots) if fabric is not None else None
    wanted = hottest.setting.wanted_c if hottest is not None and hottest.setting is not None else None
    if blank.care_dots or usual is None or wanted is None or hottest is None or wanted <= usual.most_c:
        return
    degrees = degrees_of(facts.job)
    yield found(
        "fabric-limit",
        f"{hottest.film.name} wants {write_temperature(wanted, degrees=degrees)}, and the care label is not read",
        f"{write_temperature(usual.most_c, degrees=degrees)} is what {usual.whose} of {blank.fabric} usually says",
        level="warn",
        place=_place(press, hottest.region, hottest),
        subject="label",
    )


def _films(press: GarmentPress) -> dict[str, PressPiece]:
    """Return a piece of every film that is pressed with heat."""
    return {
        piece.film.id: piece
        for work in reversed(press.works)
        for piece in reversed(work.pieces)
        if piece.kind.bond != "glue"
    }


def _cooler(facts: Facts, press: GarmentPress, piece: PressPiece) -> Edit | None:
    """Return the mend: a recipe of the film that keeps within the limit, else the nearest film that has one.

    It is of the same kind and finish, and none that another colour is cut from already.
    """
    for offer in press.offers.get(piece.film.id, ()):
        if _keeps(setting_of(offer, press.limits)):
            edit = choose_recipe(piece.film.id, school=offer.recipe.school)
            return Edit(f"press it by “{offer.recipe.school}”", edit.change)
    work = next(work for work in press.works if piece in work.pieces)
    used = {row.film.id for design in facts.garments[0].compositions for row in design.layers if row.film is not None}
    alike = tuple(film for film in facts.workshop.films if film.kind == piece.film.kind and film.id not in used)
    for film, off in by_nearness(piece.film.colour, alike):
        if _may_be(film, work, press):
            row = next(
                row for design in facts.garments[0].compositions for row in design.layers if row.film == piece.film
            )
            edit = choose_film(row.colours[0], film.id, *row.colours[1:])
            return Edit(f"use {film.name}, {off:.0f} away", edit.change)
    return None


def _may_be(film: Film, work: PanelWork, press: GarmentPress) -> bool:
    known = offers(film, work.fabric, work.heat_source)
    return bool(known) and known[0].nearest is None and _keeps(setting_of(known[0], press.limits))


def _keeps(setting: PressSetting) -> bool:
    return setting.limit is None and setting.wanted_c is not None


def no_recipe(facts: Facts) -> Iterator[Finding]:
    """No recipe is known for a film, its fabric and the source of heat."""
    press = facts.presses[0]
    blank, known = press.garment.blank, len(habits()) + len(facts.workshop.recipes)
    alike: dict[tuple[str, str | None, str], list[PressPiece]] = {}
    for piece in _films(press).values():
        offer = piece.setting.offer if piece.setting is not None else None
        key = piece.film.kind, offer.nearest if offer else None, offer.recipe.school if offer else ""
        alike.setdefault(key, []).append(piece)
    for pieces in alike.values():
        piece, names = pieces[0], ", ".join(one.film.name for one in pieces)
        work = next(work for work in press.works if piece in work.pieces)
        wanted = f"{piece.kind.name} on {blank.fabric} with a {SOURCES_SAID[work.heat_source]}"
        setting = piece.setting
        if setting is None:
            measured, limit = (
                f"{names}: none of {known} recipes is for {wanted}, and none is near",
                "nothing that was pressed before is like it: ask its maker, and type the sheet in at Press",
            )
        elif setting.recipe.by_sheet:
            measured, limit = (
                f"{names}: heat and time stand only on the sheet in its roll",
                "its maker's: type them in once at Press",
            )
        elif setting.offer.nearest is not None:
            measured, limit = (
                f"{names}: none of {known} recipes is for {wanted}; the nearest is “{setting.recipe.school}”, known "
                f"{setting.offer.nearest}",
                "common practice: test it on a hem or a scrap of the cloth first",
            )
        else:
            continue
        yield found("no-recipe", measured, limit, place=_place(press, piece.region, piece), subject=piece.film.kind)


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
                f"{_size(facts, press)}film over {art} on the {work.panel.name.lower()} is pressed in parts",
                f"the platen of {size}; parts overlap a little, and the first is held still (Positions shows them)",
                place=_place(press, work.film, work.pieces[0]),
            )


def _is_larger(work: PanelWork, spreads: Sequence[Spread]) -> bool:
    """Tell whether any press of a panel takes more than one position; only what does not fit straight is worked out."""
    mine = [one for one in spreads if any(film is piece.region for film in one.films for piece in work.pieces)]
    return not all(one.may_be_one for one in mine)


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
            f"{_size(facts, press)}{len(steps)} presses touch: {', '.join(dict.fromkeys(names)) or steps[0].bare[0]}",
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
                f"{_size(facts, press)}{crossed.area / 100:.1f} cm² of {' and '.join(one.name for one in group)}",
                f"a carrier's edge leaves a dent, even trimmed to {press_numbers().trim.carrier_mm:g} mm",
                place=_place(press, crossed, work.pieces[0]),
                mend=set_pressing("press one after the other", together=False),
            )
            return


def carriers_of_parts(facts: Facts) -> Iterator[Finding]:
    """Parts of one layer are cut apart, and lie so near that their carriers would overlap."""
    margin = facts.job.pressing.trim_mm or press_numbers().trim.carrier_mm
    for layer, gap in _near_parts(facts, 2 * margin):
        unit, half = facts.job.unit, math.floor(gap * 5 + 1e-6) / 10
        mend = set_nesting("keep each layer together, on one carrier", keep_together=True)
        if half >= press_numbers().trim.least_mm:
            mend = set_pressing(f"trim to {write_length(half, unit=unit)}, half the gap", trim_mm=half)
        yield found(
            "carrier-overlap",
            f"{layer.film.name if layer.film else layer.key}: parts {write_length(gap, unit=unit)} apart, carriers of "
            f"{write_length(margin, unit=unit)} round each",
            "a carrier's edge leaves a dent in film below it: trim closer, keep them together, or press one after the "
            "other (common practice)",
            mend=mend,
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
                f"{_size(facts, press)}{', then '.join(f'{peels[peel].name} {peel}' for peel in order)}",
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
            f"{_size(facts, press)}{under.name} shrinks by {write_length(worst.mm, unit=unit)} at its edge "
            f"before {over.name} is laid",
            f"{write_length(worst.limit_mm, unit=unit)} of lap, or what the eye overlooks; "
            + ("lay from the middle outward, so that each side is off by half" if tacked else "tack each layer first"),
            place=_place(press, over.region, over),
            mend=mend,
        )
        return


def too_much_heat(facts: Facts) -> Iterator[Finding]:
    """Seconds at heat add up past a film's limit."""
    for press in facts.presses:
        for work in press.works:
            if work.pieces[0].kind.bond == "glue":
                continue
            likely = _likely_heat(press, work)
            for piece in work.pieces:
                limit = piece.kind.most_heat_s
                if limit is None or likely <= limit:
                    continue
                seconds = most_heat(press.heat_on(work.panel.id), piece.region)
                if seconds <= limit:
                    continue
                full = facts.job.pressing.school == "full"
                yield found(
                    "too-much-heat",
                    f"{_size(facts, press)}{piece.name}: {seconds:.0f} s at heat where presses overlap",
                    f"{limit:.0f} s: what {piece.kind.name} film bears (typical, from memory); fewer overlaps, or tack",
                    place=_place(press, piece.region, piece),
                    mend=set_pressing("tack first", school="tack") if full else None,
                    subject=piece.film.id,
                )


def _likely_heat(press: GarmentPress, work: PanelWork) -> float:
    """Return for how many seconds film of a panel is at heat at most; in parts, where two of them overlap.

    Only past that the map is worked out: where four parts meet is no larger than the overlap is wide.
    """
    heats = [step.heat for step in press.presses if step.heat is not None and step.panel == work.panel.id]
    return sum(
        (heat.seconds or 0.0) * (1 if heat.spread.at_once is not None else 2)
        for heat in heats
        if heat.kind != "preheat"
    )


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
        f"{hours:g} hours (typical, from memory); the film's and the garment's label come first",
    )


def _size(facts: Facts, press: GarmentPress) -> str:
    return f"{press.garment.blank.name}: " if len(facts.presses) > 1 else ""


def _place(press: GarmentPress, region: Region, piece: PressPiece) -> Place:
    work = next(work for work in press.works if piece in work.pieces)
    return Place("press", region.bounds, panel=work.panel.id, size=press.garment.size, design=piece.design)


CHECKS = (
    fabric_limit,
    no_recipe,
    platen_smaller,
    bare_film,
    carrier_overlap,
    carriers_of_parts,
    peel_mixed,
    shrink_misfit,
    too_much_heat,
    too_fresh,
)
