"""What was made, as values; and what the log of it says: which film worked how often, waste, minutes for a garment."""

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from pydantic import Field

from zinnet.base.frozen import Frozen
from zinnet.base.stages import stage
from zinnet.pressing.hand_time import HandTime
from zinnet.workshop.run_made import RunMade

Verdict = Literal["good", "usable", "spoiled"]
MOST_NOTE = 4000
VERDICTS: tuple[Verdict, ...] = ("good", "usable", "spoiled")


class MadeFilm(Frozen):
    """One film of a job: what was used up and thrown away (mm2), and how it was pressed."""

    film: str
    used_mm2: float = Field(ge=0)
    waste_mm2: float = Field(ge=0)
    school: str = ""
    heat_c: float | None = None
    seconds: float | None = None


class Made(Frozen):
    """A job that was carried out. Times in s; ``spoiled`` garments were lost, ``washes`` survived so far.

    ``run`` is what the bench of the press saw of it, garment by garment.
    """

    number: int = 0
    at: str = ""
    title: str = Field(max_length=200)
    blank: str
    garments: int = Field(ge=0)
    films: tuple[MadeFilm, ...] = ()
    planned_s: float = Field(default=0.0, ge=0)
    real_s: float | None = Field(default=None, ge=0)
    verdict: Verdict | None = None
    spoiled: int = Field(default=0, ge=0)
    washes: int = Field(default=0, ge=0)
    note: str = Field(default="", max_length=MOST_NOTE)
    has_job: bool = False
    has_photo: bool = False
    run: RunMade | None = None

    @property
    def took_s(self) -> float | None:
        """How long it took: what its maker says, else what the bench of the press measured; None where neither is."""
        return self.real_s if self.real_s is not None or self.run is None else self.run.real_s

    @property
    def described(self) -> str:
        """All that it can be found by, without capitals."""
        films = (film.film for film in self.films)
        words = (str(self.number), self.title, self.blank, *films, self.verdict or "", self.at[:10], self.note)
        return " ".join(words).casefold()


@dataclass(frozen=True)
class FilmRecord:
    """How a film with a setting did: garments of so many jobs, and how many of those jobs were good."""

    film: str
    setting: str
    jobs: int
    good: int
    garments: int
    spoiled: int


@dataclass(frozen=True)
class Month:
    """A month: film used up and thrown away (mm2), garments, and the time that they took (s), where it is known."""

    month: str
    used_mm2: float
    waste_mm2: float
    garments: int
    seconds: float | None

    @property
    def minutes_each(self) -> float | None:
        """How many minutes a garment took."""
        return None if self.seconds is None or not self.garments else self.seconds / 60 / self.garments


@stage(most=4)
def hand_times(log: tuple[Made, ...]) -> tuple[HandTime, ...]:
    """Return what hands did with the cards of all runs of a log that comes the latest first, the earliest first."""
    return tuple(hands for one in reversed(log) if one.run is not None for hands in one.run.hands)


def film_records(log: Sequence[Made]) -> tuple[FilmRecord, ...]:
    """Return how each film and setting did, over the jobs that have a verdict."""
    rows: dict[tuple[str, str], list[Made]] = defaultdict(list)
    for one in log:
        for film in one.films if one.verdict is not None else ():
            setting = film.school
            if film.heat_c is not None and film.seconds is not None:
                setting = f"{film.school} {film.heat_c:.0f} °C, {film.seconds:.0f} s".strip()
            rows[film.film, setting].append(one)
    found = [
        FilmRecord(
            film,
            setting,
            jobs=len(jobs),
            good=sum(one.verdict == "good" for one in jobs),
            garments=sum(one.garments for one in jobs),
            spoiled=sum(one.spoiled for one in jobs),
        )
        for (film, setting), jobs in rows.items()
    ]
    return tuple(sorted(found, key=lambda row: (row.film, -row.jobs)))


def months(log: Sequence[Made]) -> tuple[Month, ...]:
    """Return what each month took, the earliest first; a garment's time is counted where it was written down."""
    rows: dict[str, list[Made]] = defaultdict(list)
    for one in log:
        rows[one.at[:7]].append(one)
    found = []
    for month, made in sorted(rows.items()):
        timed = [one for one in made if one.took_s is not None]
        seconds = sum(one.took_s or 0.0 for one in timed) if timed else None
        garments = sum(one.garments for one in made)
        if timed and len(timed) < len(made):
            seconds = (seconds or 0.0) * garments / max(1, sum(one.garments for one in timed))
        used = sum(film.used_mm2 for one in made for film in one.films)
        waste = sum(film.waste_mm2 for one in made for film in one.films)
        found.append(Month(month, used, waste, garments, seconds))
    return tuple(found)
