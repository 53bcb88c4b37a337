"""What to try after a test cut: the force is bracketed between what was too little and what was too much.

Each result says within which factors of its force the clean one lies; the next force is the middle of what is left, on
a logarithmic scale. Force is raised to its limit before more blade is let out, or the other way round by the other
school. A second pass comes last, and never for flock.
"""

import math
from collections.abc import Sequence
from typing import NamedTuple

from zinnet.cutting.settings import OUTCOMES, Blade, CutSettings, CutTest
from zinnet.data import read_toml
from zinnet.films.catalogue import Film
from zinnet.machines.cutters import Machine

CLEAN = OUTCOMES.index("clean")


class Advice(NamedTuple):
    """What to set for the next test cut and why; None where the last one was clean, or nothing is left to try."""

    settings: CutSettings | None
    reason: str


def next_settings(
    film: Film, machine: Machine, start: CutSettings, tests: Sequence[CutTest], *, blade_first: bool = False
) -> Advice:
    """Return what to try next, after test cuts of one sitting: one film, one machine, one blade, the last one last.

    Parameters
    ----------
    film : Film
        What is cut.
    machine : Machine
        Its range of force and speed.
    start : CutSettings
        With which the sitting began.
    tests : test cuts
        Of one film, machine and blade, the last one last.
    blade_first : bool
        Whether the blade is let out before the force goes up.

    Returns
    -------
    Advice
        What to set and why; no settings where the last cut was clean, or nothing is left to try.
    """
    rules = read_toml("cutting")["advice"]
    if not tests:
        return Advice(start, "a start; look how it weeds")
    last = tests[-1]
    if last.outcome == "clean":
        return Advice(None, f"clean: keep {last.settings.in_words()}")
    same = [test for test in tests if test.settings.passes == last.settings.passes]
    low, high = _bracket(same, start.force_g)
    least, most = machine.force_low_g, machine.force_high_g
    reach = _reach(same, least, most, low, high)
    now = last.settings
    if OUTCOMES.index(last.outcome) < CLEAN:
        limited = now.force_g >= most
        if (limited or blade_first or _does_nothing(same)) and not _blade_does_nothing(tests):
            more_blade = _with_more_blade(now, start)
            if more_blade is not None:
                why = "more blade first, by your school" if blade_first else "force alone does not do it"
                return Advice(more_blade, f"{last.outcome}: let out {more_blade.blade_mm:.2f} mm of blade; {why}")
        if limited:
            return _another_pass(film, last, tests)
    elif now.force_g <= least:
        less = round(now.blade_mm - rules["blade_step_mm"], 3)
        if less < rules["blade_step_mm"]:
            return Advice(None, f"{last.outcome} at the least force and the least blade: this film is too thin for it")
        return Advice(
            now.model_copy(update={"blade_mm": less}), f"{last.outcome}: take back the blade to {less:.2f} mm"
        )
    force = machine.force(math.sqrt(reach[0] * reach[1]))
    step = machine.force_step_g if OUTCOMES.index(last.outcome) < CLEAN else -machine.force_step_g
    tried = {test.settings.force_g for test in same}
    while force in tried and least <= force + step <= most:
        force += step
    if force in tried:
        return _another_pass(film, last, tests)
    word = "more" if force > now.force_g else "less"
    bounds = f"between {reach[0]:.0f} and {reach[1]:.0f} g"
    return Advice(
        now.model_copy(update={"force_g": force}), f"{last.outcome}: {word} force, {force:.0f} g; it lies {bounds}"
    )


def _bracket(tests: Sequence[CutTest], typical_g: float) -> tuple[float, float]:
    """Return between which forces the clean one lies, by all results with as many passes.

    How far it may lie from the typical one counts only where no result says otherwise; what was too little there moves
    the upper end on.
    """
    rules = read_toml("cutting")["advice"]
    below = [test.settings.force_g for test in tests if OUTCOMES.index(test.outcome) < CLEAN]
    above = [test.settings.force_g for test in tests if OUTCOMES.index(test.outcome) > CLEAN]
    low = min([typical_g, *above]) / rules["spread"]
    high = max(typical_g * rules["spread"], *(force * rules["onward"] for force in below), 0.0)
    for test in tests:
        if test.outcome != "clean":
            least, most = rules["reach"][test.outcome]
            force = test.settings.force_g
            low, high = max(low, force * least), min(high, force * most)
    return low, high


def _reach(tests: Sequence[CutTest], least: float, most: float, low: float, high: float) -> tuple[float, float]:
    """Return a bracket that is not empty: where results contradict each other, the plain bounds alone hold."""
    if low > high:
        below = [test.settings.force_g for test in tests if OUTCOMES.index(test.outcome) < CLEAN]
        above = [test.settings.force_g for test in tests if OUTCOMES.index(test.outcome) > CLEAN]
        low = max(below, default=least)
        high = min(above, default=most)
    if low > high:
        low, high = high, low
    return min(max(low, least), most), min(max(high, least), most)


def _does_nothing(tests: Sequence[CutTest]) -> bool:
    """Tell whether much more force changed nothing: then the blade may not be out far enough."""
    no_use = read_toml("cutting")["advice"]["no_use"]
    worst = [test.settings.force_g for test in tests if test.outcome == "not through"]
    return len(worst) >= 3 and max(worst) > no_use * min(worst)


def _blade_does_nothing(tests: Sequence[CutTest]) -> bool:
    """Tell whether letting out more blade, all else as it was, once left the result as it was."""
    return any(
        one.outcome == other.outcome
        and one.settings.blade_mm < other.settings.blade_mm
        and one.settings == other.settings.model_copy(update={"blade_mm": one.settings.blade_mm})
        for one in tests
        for other in tests
    )


def _with_more_blade(settings: CutSettings, start: CutSettings) -> CutSettings | None:
    rules = read_toml("cutting")["advice"]
    step = max(rules["blade_step_mm"], round(start.blade_mm * 0.2, 2))
    blade = round(settings.blade_mm + step, 3)
    return None if blade > rules["most_blade_mm"] else settings.model_copy(update={"blade_mm": blade})


def _was_tried(tests: Sequence[CutTest], settings: CutSettings) -> bool:
    return any(test.settings == settings for test in tests)


def _another_pass(film: Film, last: CutTest, tests: Sequence[CutTest]) -> Advice:
    rules = read_toml("cutting")["advice"]
    again = last.settings.model_copy(update={"passes": last.settings.passes + 1})
    if film.kind in rules["one_pass_only"]:
        return Advice(None, f"{last.outcome} at the limit; two passes are too much for this film: put in a new blade")
    if again.passes > rules["most_passes"] or _was_tried(tests, again) or last.outcome not in ("not through", "tears"):
        return Advice(None, f"{last.outcome}, and all is tried: put in a new blade, or ask the maker's sheet")
    return Advice(again, f"{last.outcome} at the limit: cut every line twice")


def worn_blade(blade: Blade | None, tests: Sequence[CutTest], film: str, machine: str) -> str | None:
    """Return in words why a blade is likely worn, or None: by the metres it has cut, or by the force it needs."""
    rules = read_toml("cutting")["advice"]
    if blade is None:
        return None
    if blade.metres >= rules["blade_life_m"]:
        return f"the blade has cut {blade.metres:.0f} m; most drag after about {rules['blade_life_m']:.0f} m"
    clean = [
        test.settings.force_g
        for test in tests
        if (test.film, test.machine, test.outcome, test.settings.passes) == (film, machine, "clean", 1)
    ]
    own = [test for test in tests if test.blade == blade.number and (test.film, test.machine) == (film, machine)]
    if clean and own and own[-1].settings.force_g > rules["worn_share"] * min(clean):
        return f"it needs {own[-1].settings.force_g:.0f} g where {min(clean):.0f} g were clean once"
    return None
