"""Test cuts in the workshop: what to set now, what to try next, and writing down how it weeded."""

from dataclasses import dataclass

from zinnet.base.errors import CutError
from zinnet.cutting.advice import next_settings, worn_blade
from zinnet.cutting.settings import Blade, CutSettings, CutTest, Outcome, known_settings
from zinnet.films.catalogue import Film
from zinnet.workshop.cutbook import CutBook
from zinnet.workshop.model import Workshop
from zinnet.workshop.store import WorkshopStore


@dataclass(frozen=True)
class Trial:
    """What is tried: a film on a machine, by one school or the other."""

    film: str
    machine: str
    mat: str = ""
    blade_first: bool = False


@dataclass(frozen=True)
class Advised:
    """What to set for the next cut: settings to show, why, where they come from, and whether the blade is worn.

    ``is_settled`` says that the last test cut was clean. ``tests`` are those of this sitting: since a clean one, or
    since the blade was changed.
    """

    shown: CutSettings
    reason: str
    source: str
    is_settled: bool
    worn: str | None
    tests: tuple[CutTest, ...]


def advise(workshop: Workshop, trial: Trial) -> Advised:
    """Return what to set for a film on a machine, after all test cuts so far."""
    film, machine, blade = (
        _film(workshop, trial),
        workshop.machines.cutter(trial.machine),
        blade_of(workshop, trial.machine),
    )
    known = known_settings(film, trial.machine, machine, workshop.tests)
    sitting = sitting_of(workshop, trial)
    worn = worn_blade(blade, workshop.tests, film.id, trial.machine)
    if not sitting or sitting[-1].outcome == "clean":
        word = "typical, to begin with" if known.is_typical else "the best known"
        return Advised(
            known.settings, f"{word}: {known.settings.in_words(machine)}", known.source, bool(sitting), worn, sitting
        )
    advice = next_settings(film, machine, sitting[0].settings, sitting, blade_first=trial.blade_first)
    shown = advice.settings or sitting[-1].settings
    count = f"after {len(sitting)} test cut{'s' * (len(sitting) != 1)}"
    return Advised(shown, advice.reason, count, advice.settings is None, worn, sitting)


def record_trial(
    store: WorkshopStore, workshop: Workshop, trial: Trial, settings: CutSettings, outcome: Outcome
) -> CutTest:
    """Write down how a test cut weeded."""
    blade = blade_of(workshop, trial.machine)
    return CutBook(store).record(
        CutTest(
            machine=trial.machine,
            film=trial.film,
            settings=settings,
            outcome=outcome,
            blade=None if blade is None else blade.number,
            blade_m=0.0 if blade is None else blade.metres,
            mat=trial.mat,
        )
    )


def sitting_of(workshop: Workshop, trial: Trial) -> tuple[CutTest, ...]:
    """Return the test cuts since one was clean, the last of them included, all with the blade that is in now."""
    blade = blade_of(workshop, trial.machine)
    number = None if blade is None else blade.number
    found: list[CutTest] = []
    for test in reversed(workshop.tests):
        if (test.film, test.machine) != (trial.film, trial.machine):
            continue
        if test.blade != number or (found and test.outcome == "clean"):
            break
        found.append(test)
        if test.outcome == "clean":
            break
    return tuple(reversed(found))


def blade_of(workshop: Workshop, machine: str) -> Blade | None:
    """Return the blade that is in a machine."""
    return next((blade for blade in reversed(workshop.blades) if blade.machine == machine), None)


def _film(workshop: Workshop, trial: Trial) -> Film:
    film = workshop.film(trial.film)
    if film is None:
        raise CutError(f"There is no film “{trial.film}” in the workshop; choose another one.")
    return film
