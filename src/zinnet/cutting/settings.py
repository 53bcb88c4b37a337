"""Settings of a cut, the typical ones of each kind of film, and what became of test cuts."""

from typing import Literal

from pydantic import Field

from zinnet.base.frozen import Frozen
from zinnet.data import read_toml
from zinnet.films.catalogue import Film, kind_of
from zinnet.machines.cutters import Machine

Outcome = Literal["not through", "tears", "clean", "carrier marked", "carrier cut through"]
OUTCOMES: tuple[Outcome, ...] = ("not through", "tears", "clean", "carrier marked", "carrier cut through")


class CutSettings(Frozen):
    """What is set on the machine: force in grams, how much blade is let out, speed, how often each line is cut."""

    force_g: float = Field(gt=0, le=5000)
    blade_mm: float = Field(gt=0, le=5)
    speed_mm_s: float = Field(gt=0, le=5000)
    passes: int = Field(default=1, ge=1, le=5)

    def in_words(self, machine: Machine) -> str:
        """Return the settings in the words of a machine."""
        passes = "one pass" if self.passes == 1 else f"{self.passes} passes"
        speed = "" if machine.speaks == "presets" else f"{self.speed_mm_s:.0f} mm/s"
        said = (machine.force_said(self.force_g), machine.blade_said(self.blade_mm), speed, passes)
        return ", ".join(part for part in said if part)


class CutTest(Frozen):
    """A test cut: on which machine, of which film, with which blade of how many metres, and how it weeded."""

    machine: str = Field(min_length=1, max_length=200)
    film: str = Field(min_length=1, max_length=200)
    settings: CutSettings
    outcome: Outcome
    blade: int | None = None
    blade_m: float = Field(default=0.0, ge=0)
    mat: str = ""
    at: str = ""


class Blade(Frozen):
    """A blade in a machine: its number, when it was put in, and how many metres it has cut since."""

    number: int
    machine: str
    since: str
    metres: float = Field(default=0.0, ge=0)


class Known(Frozen):
    """The settings for a film on a machine, where they come from, and how often they were clean of how many tries."""

    settings: CutSettings
    source: str
    clean: int = 0
    tried: int = 0

    @property
    def is_typical(self) -> bool:
        """Whether nobody has tried them here yet."""
        return not self.clean


def typical_settings(film: Film, machine: Machine) -> Known:
    """Return typical settings to begin with. Kinds that nothing is known of are cut like smooth film."""
    kinds, kinds_most = read_toml("cutting")["typical"], read_toml("cutting")["advice"]["most_blade_mm"]
    row = kinds.get(film.kind)
    if row is None:
        thick = kind_of(film).thickness_um
        row = kinds["smooth"] | {
            "blade_mm": max(0.1, round(thick / 1000 + 0.06, 2)),
            "source": "as smooth film; nothing is known of this kind",
        }
    settings = CutSettings.model_validate({name: row[name] for name in CutSettings.model_fields})
    blade_mm = kinds_most if machine.speaks == "presets" else machine.blade(settings.blade_mm)
    there = {"force_g": machine.force(settings.force_g), "blade_mm": blade_mm}
    return Known(settings=settings.model_copy(update=there), source=row["source"])


def known_settings(film: Film, machine_name: str, machine: Machine, tests: tuple[CutTest, ...]) -> Known:
    """Return the best known settings of a film on a machine: those that were clean most often, of these the latest.

    Where the latest test with them was not clean any more, others that are still clean come before them. Without any
    clean test they are the typical ones.

    Parameters
    ----------
    film : Film
        What is cut.
    machine_name : str
        By which tests are logged.
    machine : Machine
        For what is typical.
    tests : test cuts
        The whole log.

    Returns
    -------
    Known
        The settings and where they come from.
    """
    own = [test for test in tests if (test.film, test.machine) == (film.id, machine_name)]
    by_settings: dict[CutSettings, list[CutTest]] = {}
    for test in own:
        by_settings.setdefault(test.settings, []).append(test)
    rows = []
    for settings, tries in by_settings.items():
        clean = sum(test.outcome == "clean" for test in tries)
        if clean:
            latest = max(place for place, test in enumerate(own) if test.settings == settings)
            rows.append((tries[-1].outcome == "clean", clean, latest, settings, len(tries), tries[-1].at))
    if not rows:
        return typical_settings(film, machine)
    _, clean, _, settings, tried, at = max(rows, key=lambda row: row[:3])
    day = f", last on {at[:10]}" if at else ""
    return Known(settings=settings, source=f"clean {clean} of {tried} times here{day}", clean=clean, tried=tried)
