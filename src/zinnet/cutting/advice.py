"""What to try after a test cut: the force is bracketed between what was too little and what was too much.

Each result says within which factors of its force the clean one lies; the next force is the middle of what is left, on
a logarithmic scale. Force is raised to its limit before the blade comes out one step, and starts low again there; by
the other school the blade comes out first. A second pass comes last, and never for flock. All of it is said in the
machine's own words: grams, steps, or presets with more and less.
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
    if not tests:
        return Advice(start, "a start; look how it weeds")
    last = tests[-1]
    if last.outcome == "clean":
        return Advice(None, f"clean: keep {last.settings.in_words(machine)}")
    now, too_little = last.settings, OUTCOMES.index(last.outcome) < CLEAN
    same = [test for test in tests if (test.settings.passes, test.settings.blade_mm) == (now.passes, now.blade_mm)]
    least, most = machine.forces_g[0], machine.forces_g[-1]
    if too_little and (now.force_g >= most or (blade_first and not _blade_does_nothing(tests))):
        more_blade = _with_more_blade(now, start, machine, blade_first=blade_first, tests=tests)
        if more_blade is not None:
            why = "more blade first, by your school" if blade_first else "force alone does not do it; begin low again"
            said = machine.blade_said(more_blade.blade_mm)
            return Advice(more_blade, f"{last.outcome}: {said}; {why}")
        if now.force_g >= most:
            return _another_pass(film, last, tests)
    if not too_little and now.force_g <= least:
        return _with_less_blade(now, last, machine)
    reach = _reach(same, least, most, *_bracket(same, start.force_g))
    force = machine.force(math.sqrt(reach[0] * reach[1]))
    if too_little and _does_nothing(same):
        force = most
    tried = {test.settings.force_g for test in same}
    while force in tried:
        further = machine.next_force(force, up=too_little)
        if further is None:
            break
        force = further
    if force in tried:
        return _another_pass(film, last, tests)
    word = "more" if force > now.force_g else "less"
    bounds = f"it lies between {machine.force_said(reach[0])} and {machine.force_said(reach[1])}"
    return Advice(
        now.model_copy(update={"force_g": force}),
        f"{last.outcome}: {word} force, {machine.force_said(force)}; {bounds}",
    )


def _with_less_blade(now: CutSettings, last: CutTest, machine: Machine) -> Advice:
    """Return the advice to take the blade back, where the least force is too much."""
    step = machine.blade_step_mm if machine.blade_steps else read_toml("cutting")["advice"]["blade_step_mm"]
    less = round(now.blade_mm - step, 3)
    if less < step or machine.speaks == "presets":
        return Advice(None, f"{last.outcome} at the least force and the least blade: this film is too thin for it")
    return Advice(
        now.model_copy(update={"blade_mm": less}), f"{last.outcome}: take back the blade to {machine.blade_said(less)}"
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
    """Tell whether much more force changed nothing: then it goes to its limit at once."""
    no_use = read_toml("cutting")["advice"]["no_use"]
    worst = [test.settings.force_g for test in tests if test.outcome == "not through"]
    return len(worst) >= 2 and max(worst) > no_use * min(worst)


def _blade_does_nothing(tests: Sequence[CutTest]) -> bool:
    """Tell whether letting out more blade, with as much force, once left the result as it was."""
    return any(
        one.outcome == other.outcome
        and one.settings.blade_mm < other.settings.blade_mm
        and one.settings == other.settings.model_copy(update={"blade_mm": one.settings.blade_mm})
        for one in tests
        for other in tests
    )


def _with_more_blade(
    settings: CutSettings, start: CutSettings, machine: Machine, *, blade_first: bool, tests: Sequence[CutTest]
) -> CutSettings | None:
    """Return the settings with the blade one step further out, at the force of the start again; None past its end.

    By the other school the force stays as it is.
    """
    rules = read_toml("cutting")["advice"]
    if machine.speaks == "presets" or _blade_does_nothing(tests):
        return None
    step = machine.blade_step_mm if machine.blade_steps else max(rules["blade_step_mm"], round(start.blade_mm * 0.2, 2))
    blade = round(settings.blade_mm + step, 3)
    most = machine.blade_steps * machine.blade_step_mm if machine.blade_steps else rules["most_blade_mm"]
    if blade > most + 1e-9:
        return None
    return settings.model_copy(update={"blade_mm": blade, **({} if blade_first else {"force_g": start.force_g})})


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
