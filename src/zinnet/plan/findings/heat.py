"""Findings of heat: what the cloth bears, what its label says, what is not tried, and what film bears."""

from collections.abc import Iterator

from zinnet.base.units import write_temperature
from zinnet.blanks.fabrics import fabric_of
from zinnet.films.catalogue import Film, by_nearness, kind_of
from zinnet.job.edits import Edit, choose_film, choose_recipe, set_pressing
from zinnet.plan.findings.model import Finding, found
from zinnet.plan.findings.plates import at_one_press
from zinnet.plan.findings.pressed import garment_said, place_on, work_of
from zinnet.plan.model import Facts
from zinnet.plan.presses import GarmentPress, degrees_of
from zinnet.pressing.applied_recipe import PressSetting, setting_of
from zinnet.pressing.heat_limits import label_limit
from zinnet.pressing.heat_map import most_heat
from zinnet.pressing.hem_test import SAME_C, allowed_c
from zinnet.pressing.known_recipes import offers
from zinnet.pressing.pieces import PanelWork, PressPiece
from zinnet.pressing.recipes import habits, source_said


def fabric_limit(facts: Facts) -> Iterator[Finding]:
    """Heat is above what the fabric bears."""
    degrees = degrees_of(facts.job)
    press = facts.presses[0]
    for film, piece in _films(press).items():
        setting = piece.setting
        if setting is None or setting.wanted_c is None or setting.limit is None:
            continue
        yield found(
            "fabric-limit",
            f"{piece.film.name} wants {write_temperature(setting.wanted_c, degrees=degrees)} on "
            f"{press.garment.blank.fabric}",
            f"{write_temperature(setting.limit.most_c, degrees=degrees)}: {setting.limit.whose}",
            place=place_on(press, piece.region, piece),
            mend=_cooler(facts, press, piece),
            subject=film,
        )


def heat_untested(facts: Facts) -> Iterator[Finding]:
    """Heat is above the dots of the care label, read or usual; or the cloth is hurt easily, and no hem was tried."""
    press = facts.presses[0]
    hottest: PressPiece | None = None
    for film, piece in _films(press).items():
        setting = piece.setting
        if setting is None or setting.wanted_c is None:
            continue
        work = work_of(press, piece)
        if work.fabric is not None and work.fabric.tender and _is_untried(facts, piece, work):
            yield found(
                "heat-untested",
                f"{piece.film.name} on {press.garment.blank.fabric}: no hem test of {piece.kind.name} film "
                f"with a {source_said(work.heat_source)}",
                f"{work.fabric.name} is hurt by heat easily (common practice): it is tried on a hem first, at Press",
                level="stop",
                place=place_on(press, piece.region, piece),
                subject=film,
            )
        elif setting.tried is not None and setting.limit is None:
            yield _above_label(facts, press, piece, setting)
        elif setting.limit is None and (hottest is None or setting.wanted_c > _wanted(hottest)):
            hottest = piece
    yield from _unread_label(facts, press, hottest)


def _is_untried(facts: Facts, piece: PressPiece, work: PanelWork) -> bool:
    tried = allowed_c(facts.workshop.hem_tests, work.fabric, piece.film.kind, work.heat_source)
    return tried is None or (piece.setting is not None and (piece.setting.heat_c or 0.0) > tried + SAME_C)


def _wanted(piece: PressPiece) -> float:
    return (piece.setting.wanted_c if piece.setting is not None else None) or 0.0


def _above_label(facts: Facts, press: GarmentPress, piece: PressPiece, setting: PressSetting) -> Finding:
    degrees, label = degrees_of(facts.job), setting.tried
    assert label is not None
    assert setting.wanted_c is not None
    assert setting.heat_c is not None
    at = write_temperature(setting.heat_c, degrees=degrees)
    about = ", which is about ironing" if label.soft else ""
    return found(
        "heat-untested",
        f"{piece.film.name} wants {write_temperature(setting.wanted_c, degrees=degrees)} on "
        f"{press.garment.blank.fabric}; it is pressed at {at}",
        f"{write_temperature(label.most_c, degrees=degrees)}: {label.whose}{about}; try it on a hem first",
        place=place_on(press, piece.region, piece),
        mend=_cooler(facts, press, piece) or _lower_end(facts, piece),
        subject=piece.film.id,
    )


def _lower_end(facts: Facts, piece: PressPiece) -> Edit | None:
    """Return the mend that presses a film at the lower end of its range, where that is enough, else as it is."""
    setting, span = piece.setting, piece.kind.heat_c
    if setting is None or span is None or (setting.tried is not None and span[0] > setting.tried.most_c):
        return None
    lower = setting.recipe.model_copy(update={"heat_c": (span[0], span[0]), "school": "the film's lower end"})
    edit = choose_recipe(piece.film.id, own=lower)
    return Edit(f"press it at {write_temperature(span[0], degrees=degrees_of(facts.job))}, its lower end", edit.change)


def _unread_label(facts: Facts, press: GarmentPress, hottest: PressPiece | None) -> Iterator[Finding]:
    """The label was not read, and one that is usual for the fabric would be about less heat."""
    blank, fabric = press.garment.blank, fabric_of(press.garment.blank.fabric)
    usual = label_limit(fabric.usual_dots) if fabric is not None else None
    wanted = hottest.setting.wanted_c if hottest is not None and hottest.setting is not None else None
    if blank.care_dots or usual is None or wanted is None or hottest is None or wanted <= usual.most_c:
        return
    work = work_of(press, hottest)
    tried = allowed_c(facts.workshop.hem_tests, work.fabric, hottest.film.kind, work.heat_source)
    if tried is not None and wanted <= tried + SAME_C:
        return
    degrees = degrees_of(facts.job)
    yield found(
        "heat-untested",
        f"{hottest.film.name} wants {write_temperature(wanted, degrees=degrees)}, and the care label is not read",
        f"{write_temperature(usual.most_c, degrees=degrees)} is what {usual.whose} of {blank.fabric} usually says",
        place=place_on(press, hottest.region, hottest),
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
        if _keeps(setting_of(offer, press.limits, low_c=_low(piece.film))):
            edit = choose_recipe(piece.film.id, school=offer.recipe.school)
            return Edit(f"press it by “{offer.recipe.school}”", edit.change)
    work = work_of(press, piece)
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
    return bool(known) and known[0].nearest is None and _keeps(setting_of(known[0], press.limits, low_c=_low(film)))


def _keeps(setting: PressSetting) -> bool:
    return setting.limit is None and setting.tried is None and setting.wanted_c is not None


def _low(film: Film) -> float | None:
    """Return the lower end of the heat of a film's kind, in degC."""
    span = kind_of(film).heat_c
    return None if span is None else span[0]


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
        work = work_of(press, piece)
        wanted = f"{piece.kind.name} on {blank.fabric} with a {source_said(work.heat_source)}"
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
        yield found("no-recipe", measured, limit, place=place_on(press, piece.region, piece), subject=piece.film.kind)


def too_much_heat(facts: Facts) -> Iterator[Finding]:
    """Seconds at heat add up past a film's limit."""
    for press in facts.presses:
        for work in press.works:
            if work.pieces[0].kind.bond == "glue":
                continue
            likely = _most_likely(press, work)
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
                    f"{garment_said(facts, press)}{piece.name}: {seconds:.0f} s at heat where presses overlap",
                    f"{limit:.0f} s: what {piece.kind.name} film bears (typical, unsourced); fewer overlaps, or tack",
                    place=place_on(press, piece.region, piece),
                    mend=set_pressing("tack first", school="tack") if full else None,
                    also=tuple(at_one_press(facts, press, work)),
                    subject=piece.film.id,
                )


def _most_likely(press: GarmentPress, work: PanelWork) -> float:
    """Return for how many seconds film of a panel is at heat at most, were it under the platen at every position.

    Only past that the map is worked out.
    """
    heats = [step.heat for step in press.presses if step.heat is not None and step.panel == work.panel.id]
    return sum(
        (heat.seconds or 0.0) * (1 if heat.spread.at_once is not None else len(heat.coverage.positions))
        for heat in heats
        if heat.kind != "preheat"
    )


CHECKS = (fabric_limit, heat_untested, no_recipe, too_much_heat)
