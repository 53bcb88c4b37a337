"""How a job is pressed and when, as JSON: what ``zinnet press`` and ``zinnet schedule`` print."""

from typing import Any

from zinnet.base.units import to_fahrenheit
from zinnet.plan.in_hand import InHand, hands_of
from zinnet.plan.model import Plan
from zinnet.plan.presses import GarmentPress
from zinnet.pressing.heat_map import most_heat
from zinnet.pressing.known_recipes import Offer, heat_span, seconds_span
from zinnet.pressing.pieces import PanelWork, PressPiece
from zinnet.pressing.schedule.model import Schedule, one_after_another_s
from zinnet.pressing.schedule.plan import Help
from zinnet.pressing.steps import Heat, PressStep

DIGITS = 3


def press_json(plan: Plan) -> dict[str, Any]:
    """Return the recipes, steps, positions, heat and misfits of every size of a job."""
    return {
        "title": plan.job.title,
        "school": plan.job.pressing.school,
        "garments": [_garment_json(press) for press in plan.presses],
        "findings": [one.to_json() for one in plan.findings if one.station == "press"],
    }


def _garment_json(press: GarmentPress) -> dict[str, Any]:
    return {
        "size": press.garment.size,
        "blank": press.garment.blank.name,
        "object": press.object.procedure.id,
        "noun": press.object.procedure.noun,
        "fabric": press.garment.blank.fabric,
        "copies": press.garment.copies,
        "saved_s": _number(press.saved_s),
        "limits": [{"most_c": _number(one.most_c), "whose": one.whose} for one in press.limits],
        "films": [_film_json(film, found) for film, found in press.offers.items()],
        "panels": [_panel_json(press, work) for work in press.works],
        "steps": [_step_json(number, step) for number, step in enumerate(press.steps, start=1)],
        "laying": [_laying_json(lay, hand) for lay, hand in hands_of(press)],
        "misfits": [
            {
                "under": misfit.meeting.under,
                "over": misfit.meeting.over,
                "mm": _number(misfit.mm),
                "limit_mm": _number(misfit.limit_mm),
                "seen": misfit.is_seen,
            }
            for misfit in press.misfits()
        ],
    }


def _laying_json(lay: int, hand: InHand) -> dict[str, Any]:
    """Return a piece in hand with its four lengths; points are on the panel, in mm."""
    return {
        "step": lay + 1,
        "piece": hand.piece.key,
        "place": hand.place + 1,
        "panel": hand.work.panel.id,
        "turn_deg": _number(hand.turn_deg),
        "lengths": [
            {
                "kind": length.kind,
                "mm": round(length.mm, 1),
                "point": length.point,
                "from": [_number(one) for one in length.start],
                "to": [_number(one) for one in length.end],
                "said": f"{shown} {said}",
            }
            for length, (_, shown, said) in zip(hand.laying.lengths, hand.rows("mm"), strict=True)
        ],
    }


def _film_json(film: str, found: tuple[Offer, ...]) -> dict[str, Any]:
    return {
        "film": film,
        "heat_c": _span(heat_span(found)),
        "seconds": _span(seconds_span(found)),
        "recipes": [_offer_json(offer) for offer in found],
    }


def _offer_json(offer: Offer) -> dict[str, Any]:
    recipe = offer.recipe
    return {
        "school": recipe.school,
        "origin": recipe.origin,
        "source": recipe.source,
        "nearest": offer.nearest,
        "worked": offer.worked,
        "pressed": offer.pressed,
        "heat_c": _span(recipe.heat_c),
        "heat_f": None if recipe.heat_c is None else [_number(to_fahrenheit(one)) for one in recipe.heat_c],
        "most_c": _number(recipe.most_c),
        "setting": recipe.setting,
        "seconds": _span(recipe.seconds),
        "lower_s": _span(recipe.lower_s),
        "tack_s": _span(recipe.tack_s),
        "back_s": _span(recipe.back_s),
        "covered_s": _span(recipe.covered_s),
        "wait_s": _span(recipe.wait_s),
        "pressure": list(recipe.pressure),
        "pressure_said": recipe.pressure_said,
        "peel": list(recipe.peel),
        "moving": recipe.moving,
        "by_sheet": recipe.by_sheet,
    }


def _panel_json(press: GarmentPress, work: PanelWork) -> dict[str, Any]:
    spots = press.heat_on(work.panel.id)
    return {
        "panel": work.panel.id,
        "press": None if work.platen is None else work.platen.name,
        "platen_mm": None if work.platen is None else [work.platen.width_mm, work.platen.height_mm],
        "heat_source": work.heat_source,
        "layers": [_piece_json(piece, most_heat(spots, piece.region)) for piece in work.pieces],
    }


def _piece_json(piece: PressPiece, seconds: float) -> dict[str, Any]:
    setting = piece.setting
    return {
        "key": piece.key,
        "layer": piece.number,
        "film": piece.film.id,
        "on": sorted(piece.on),
        "recipe": None if setting is None else setting.recipe.school,
        "heat_c": None if setting is None else _number(setting.heat_c),
        "wanted_c": None if setting is None else _number(setting.wanted_c),
        "limit_c": None if setting is None or setting.limit is None else _number(setting.limit.most_c),
        "tried_c": None if setting is None or setting.tried is None else _number(setting.tried.most_c),
        "full_s": None if setting is None else _number(setting.full_s),
        "back_s": None if setting is None else _number(setting.back_s),
        "peel": None if setting is None else setting.peel,
        "source": None if setting is None else setting.recipe.source,
        "seconds_at_heat": seconds,
        "most_heat_s": piece.kind.most_heat_s,
    }


def _step_json(number: int, step: PressStep) -> dict[str, Any]:
    return {
        "number": number,
        "kind": step.kind,
        "title": step.title,
        "lines": list(step.lines),
        "panel": step.panel,
        "seconds": step.seconds,
        "place": step.place,
        "layers": list(step.pieces),
        "carried": list(step.carried),
        "bare": list(step.bare),
        "cover": step.cover,
        "peel": step.peel,
        "heat": None if step.heat is None else _heat_json(step.heat),
        "wrong": step.wrong,
        "lifts": step.lifts,
        "caution": step.caution,
        "once": step.once,
        "gate": step.gate,
        "hours": step.hours,
    }


def _heat_json(heat: Heat) -> dict[str, Any]:
    return {
        "kind": heat.kind,
        "heat_c": _number(heat.heat_c),
        "heat_f": None if heat.heat_c is None else _number(to_fahrenheit(heat.heat_c)),
        "setting": heat.setting,
        "seconds": heat.seconds,
        "pressure": heat.pressure,
        "moving": heat.moving,
        "back": heat.back,
        "positions": [
            {
                "x_mm": _number(one.x),
                "y_mm": _number(one.y),
                "turn_deg": _number(one.turn_deg),
                "width_mm": one.width_mm,
                "height_mm": one.height_mm,
                "pads": list(one.pads),
            }
            for one in heat.coverage.positions
        ],
        "fewest": heat.coverage.is_proven,
    }


def schedule_json(found: Schedule, helped: tuple[Help, ...]) -> dict[str, Any]:
    """Return a schedule: every task with its times and units, the total, the bound, and what would shorten it."""
    return {
        "presses": found.team.presses,
        "people": found.team.people,
        "cooling": found.team.cooling,
        "garments": len(found.works),
        "total_s": found.total_s,
        "bound_s": found.bound_s,
        "gap": round(found.gap, 5),
        "proven": found.is_proven,
        "one_after_another_s": one_after_another_s(found.works, found.team),
        "press_idle_s": found.idle_s("press"),
        "pattern": None
        if found.pattern is None
        else {
            "period_s": found.pattern.period_s,
            "begun": found.pattern.begun,
            "in_work": found.pattern.in_work,
        },
        "helps": [{"resource": row.resource, "saves_s": row.saves_s} for row in helped],
        "slots": [
            {
                "garment": found.works[slot.garment].name,
                "number": slot.garment + 1,
                "task": found.task(slot).name,
                "start_s": slot.start,
                "end_s": slot.end,
                "heat_c": _number(found.task(slot).heat_c),
                "needs": [
                    {
                        "resource": need.resource,
                        "unit": unit + 1,
                        "start_s": slot.start + need.start_s,
                        "end_s": slot.start + need.end_s,
                    }
                    for need, unit in zip(found.task(slot).needs, slot.units, strict=True)
                ],
            }
            for slot in sorted(found.slots, key=lambda one: (one.start, one.garment))
        ],
    }


def _number(value: float | None) -> float | None:
    return None if value is None else round(value, DIGITS)


def _span(span: tuple[float, float] | None) -> list[float | None] | None:
    return None if span is None else [_number(span[0]), _number(span[1])]
