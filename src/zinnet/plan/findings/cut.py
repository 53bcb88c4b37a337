"""Findings of cutting: loading, settings, test cuts, and what must be off before heat."""

import hashlib
from collections.abc import Iterator

from zinnet.job.edits import confirm, say_loaded, set_nesting
from zinnet.plan.findings.model import Finding, Place, found
from zinnet.plan.loading import LoadedMat
from zinnet.plan.model import Facts


def loading_side(facts: Facts) -> Iterator[Finding]:
    """Before each mat: which side is down, which mat, which blade. The next one that nobody has said yes to."""
    loads = [load for load in facts.loads if not load.is_printed] if facts.is_nested else []
    waiting = [load for load in loads if not load.is_loaded]
    if not waiting:
        return
    load = waiting[0]
    blade = load.cutting.blade
    with_blade = "" if blade is None else f"; blade {blade.number}"
    yield found(
        "loading-side",
        f"mat {load.numbers}: {load.trims[0].side_down}, on {load.grip}{with_blade}",
        f"{len(loads) - len(waiting)} of {len(loads)} mats are said to be loaded",
        place=_on(load),
        mend=say_loaded(load.key),
        subject=load.key,
    )


def settings_changed(facts: Facts) -> Iterator[Finding]:
    """A mat's film needs other settings than the one before."""
    for load in facts.loads if facts.is_nested else ():
        if load.is_printed or (load.before is not None and load.before.is_printed):
            continue
        if load.set_otherwise:
            yield found(
                "settings-changed",
                f"mat {load.numbers} carries {load.films}; {', '.join(load.set_otherwise)} would be set otherwise",
                f"all of it is cut with {load.settings_said}; test cuts decide",
                place=_on(load),
                mend=set_nesting("one film on each mat", share_mats=False),
            )
        subject = load.settings_subject
        if load.before is None or subject is None or subject in facts.job.cutting.confirmed:
            continue
        yield found(
            "settings-changed",
            f"mat {load.numbers}, {load.films}: {load.settings_said}",
            f"mat {load.before.numbers} before it has {load.before.settings_said}",
            place=_on(load),
            mend=confirm(subject),
            subject=subject,
        )


def no_test_cut(facts: Facts) -> Iterator[Finding]:
    """No good test cut is logged for a film, the machine and its blade."""
    if not facts.is_nested:
        return
    blade = facts.cutting.blade
    good = {
        test.film
        for test in facts.workshop.tests
        if test.machine == facts.cutting.machine
        and test.outcome == "clean"
        and (blade is None or test.blade in (None, blade.number))
    }
    films = {mat.nest.film.id: mat.nest.film.name for load in facts.loads if not load.is_printed for mat in load.mats}
    missing = [name for film, name in films.items() if film not in good]
    if missing:
        yield found(
            "no-test-cut",
            f"none of {', '.join(missing)} on the {facts.cutting.device.name}",
            "common practice: a small square with a triangle inside, weeded by hand, before the first mat of a film",
        )


def stray_film(facts: Facts) -> Iterator[Finding]:
    """Before heat: the test cut, weed frames and loose bits are off, and every counter is out."""
    loads = [load for load in facts.loads if not load.is_printed]
    if not facts.is_nested or not loads:
        return
    counters = sum(
        len(part.interiors) for load in loads for mat in load.mats for one in mat.regions for part in one.geoms
    )
    tests = sum(len(load.test_spots) for load in loads)
    framed = facts.job.nesting.weed_frame != "none" or facts.job.layers.marks
    said = [f"{counters} counter{'s' * (counters != 1)} to come out"]
    said += [f"{tests} test cut{'s' * (tests != 1)} to take off"] if tests else []
    said += ["weed frames to peel away"] if framed else []
    whole = hashlib.sha256("".join(load.key for load in loads).encode()).hexdigest()[:20]
    subject = f"stray {whole}"
    if subject in facts.job.cutting.confirmed:
        return
    yield found(
        "stray-film",
        ", ".join(said),
        "what is left on the carrier is pressed on with the rest; look against the light, from the front",
        mend=confirm(subject),
        subject=subject,
    )


def _on(load: LoadedMat) -> Place:
    mat = load.mats[0]
    return Place("nest", (0.0, 0.0, mat.sheet.width_mm, mat.sheet.height_mm), mat.number)


CHECKS = (loading_side, settings_changed, no_test_cut, stray_film)
