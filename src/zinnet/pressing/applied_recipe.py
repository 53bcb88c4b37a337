"""What a recipe comes to on one garment: one heat within all limits, and one time for each kind of press."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from zinnet.machines.platens import heat_kinds
from zinnet.pressing.cooling import cool_to_touch_s
from zinnet.pressing.heat_limits import Limit
from zinnet.pressing.heat_values import Range, middle, press_numbers
from zinnet.pressing.known_recipes import Offer
from zinnet.pressing.recipes import PEELS, Peel, Pressure, Recipe

PressKind = Literal["preheat", "tack", "lower", "full", "covered", "back"]
SLACK_C = 1e-6
"""Rounding of a heat that was said in degF."""


@dataclass(frozen=True)
class PressSetting:
    """How one film is pressed on one garment: heat in degC, times in s. None is known only by the film's own sheet.

    ``wanted_c`` is the recipe's heat. ``limit`` is what the fabric bears, where the recipe exceeds it, ``tried`` what
    has to be tried on a hem: the care label, or the fabric where the recipe is not about just that. Then ``heat_c`` is
    lower.
    """

    offer: Offer
    heat_c: float | None
    wanted_c: float | None
    limit: Limit | None
    tried: Limit | None
    full_s: float | None
    lower_s: float | None
    tack_s: float
    back_s: float | None
    covered_s: float | None
    pressure: Pressure | None
    peel: Peel
    wait_s: float

    @property
    def recipe(self) -> Recipe:
        """The recipe that it comes from."""
        return self.offer.recipe

    def seconds(self, kind: PressKind) -> float | None:
        """Return how long a press of a kind takes."""
        if kind == "preheat":
            return middle(press_numbers().times.preheat_s)
        times = {
            "tack": self.tack_s,
            "lower": self.lower_s,
            "full": self.full_s,
            "covered": self.covered_s,
            "back": self.back_s,
        }
        return times[kind]


def setting_of(
    offer: Offer,
    limits: Sequence[Limit],
    *,
    low_c: float | None = None,
    cold_plate: bool = False,
    lifted: bool = False,
) -> PressSetting:
    """Return what a recipe comes to under the limits of a blank.

    Above the dots of a care label, which is about ironing, film is pressed as low as it can be: at the label's heat, or
    at the lower end of the film's own range where that is higher. So it is where the recipe is only the nearest that is
    known, and the fabric bears the film, but not the recipe's heat.

    Parameters
    ----------
    offer : Offer
        The recipe.
    limits : limits, degC
        What the fabric bears, and the label says.
    low_c : float, degC, or None
        The lower end of the film's range.
    cold_plate : bool
        Whether it cools under a cold plate.
    lifted : bool
        Whether the user passed the fabric's limits by.

    Returns
    -------
    PressSetting
        One heat, one time for each kind of press.
    """
    recipe = offer.recipe
    span = recipe.heat_c or (heat_kinds()["hand"].settings_c[recipe.setting] if recipe.setting else None)
    wanted = None if span is None else (span[0] + span[1]) / 2
    hard = [one for one in limits if not one.soft]
    hard += [Limit(recipe.most_c, "the recipe's own")] if recipe.most_c else []
    limit, tried = _exceeded(wanted, hard), _exceeded(wanted, [one for one in limits if one.soft])
    heat = wanted
    if limit is not None and offer.nearest is not None and low_c is not None and low_c <= limit.most_c:
        tried = limit if tried is None else min(limit, tried)
        limit = None
    if heat is not None and tried is not None and not lifted:
        heat = min(heat, max(tried.most_c, low_c or 0.0))
    if heat is not None and limit is not None and not lifted:
        heat = min(heat, limit.most_c)
    peel = coolest(recipe.peel)
    wait = recipe.wait_s or getattr(press_numbers().waits, peel)
    if recipe.wait_s is None and peel == "cool" and heat is not None:
        estimate = cool_to_touch_s(heat, cold_plate=cold_plate)
        wait_s = estimate if cold_plate else min(max(estimate, wait[0]), wait[1])
    else:
        wait_s = middle(wait)
    return PressSetting(
        offer=offer,
        heat_c=heat,
        wanted_c=wanted,
        limit=limit,
        tried=tried,
        full_s=_middle(recipe.seconds),
        lower_s=_middle(recipe.lower_s or recipe.seconds),
        tack_s=_tack_s(recipe),
        back_s=None if recipe.back_s is None else recipe.back_s[0],
        covered_s=_middle(recipe.covered_s),
        pressure=recipe.pressure[(len(recipe.pressure) - 1) // 2] if recipe.pressure else None,
        peel=peel,
        wait_s=wait_s,
    )


def _exceeded(wanted_c: float | None, limits: Sequence[Limit]) -> Limit | None:
    """Return the lowest limit that a heat is above, None where it keeps within all."""
    return next((one for one in sorted(limits) if wanted_c is not None and wanted_c > one.most_c + SLACK_C), None)


def coolest(peels: Sequence[Peel]) -> Peel:
    """Return the coolest of several ways to peel, the safest one; cool where none is said."""
    return max(peels, key=PEELS.index) if peels else "cool"


def _tack_s(recipe: Recipe) -> float:
    """Return how long a film is tacked: where its recipe says nothing, as usual, but not as long as a full press."""
    if recipe.tack_s is not None:
        return middle(recipe.tack_s)
    usual = press_numbers().times.tack_s
    return middle(usual) if recipe.seconds is None else max(usual[0], min(middle(usual), recipe.seconds[0]))


def _middle(span: Range | None) -> float | None:
    return None if span is None else middle(span)
