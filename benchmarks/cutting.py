"""What cutting must show in large numbers: files read back, breaks of the link, and the advice for test cuts."""

import tempfile
import time
from collections import Counter
from pathlib import Path

import numpy as np

from tests.cutting.breaks import SETTINGS, random_program, send_until_whole
from tests.cutting.test_read_back import random_job, read_back
from zinnet.cutting.advice import next_settings
from zinnet.cutting.link import Sending
from zinnet.cutting.ports import PortSettings
from zinnet.cutting.settings import CutTest, typical_settings
from zinnet.cutting.stand_in.depth import depth_um, loaded_film, outcome_of
from zinnet.cutting.stand_in.port import StandInPort
from zinnet.films.catalogue import Film, film_kinds
from zinnet.machines.cutters import shipped_machines

JOBS, MATS, STOPS, FILMS, MOST_TESTS = 100, 1000, 20, 200, 5


def files() -> None:
    """SVG, DXF, HP-GL and PDF of 100 random jobs, read back by other libraries: how far off, in mm."""
    with tempfile.TemporaryDirectory() as folder:
        worst = [read_back(random_job(seed), Path(folder)) for seed in range(JOBS)]
    print(f"{JOBS} jobs: right side, right order, closed; worst {max(worst):.4f} mm, median {np.median(worst):.4f}")


def link() -> None:
    """1,000 mats over a pseudo-terminal with failures at random: no line cut twice or left out without being said."""
    kinds: Counter[str] = Counter()
    begun = time.monotonic()
    for seed in range(MATS):
        kinds.update(send_until_whole(seed, answer_s=0.15))
        if seed % 100 == 99:
            print(f"  {seed + 1} mats, {sum(kinds.values())} failures", flush=True)
    print(f"{MATS} mats in {time.monotonic() - begun:.0f} s; failures: {dict(kinds)}; nothing was left unsaid")
    halts = sorted(map(_halt_s, range(STOPS)))
    print(f"stopped {STOPS} times: the head stands after {halts[STOPS // 2]:.3f} s, at most {halts[-1]:.3f} s")


def _halt_s(seed: int) -> float:
    """Return how long it takes from stop until the head stands, in the middle of a mat."""
    luck = np.random.default_rng(seed)
    with StandInPort(times=1.0) as port:
        sending = Sending(random_program(luck), PortSettings(port.name), SETTINGS).start()
        time.sleep(luck.uniform(0.05, 1.5))
        begun = time.monotonic()
        sending.stop()
        sending.wait(60)
        while port.cutter.is_busy:
            time.sleep(0.001)
        return time.monotonic() - begun


def advice() -> None:
    """The advice for test cuts on 200 random films and blades, by both schools: how many tries to a clean cut."""
    for blade_first in (False, True):
        tries = Counter(_tries(seed, blade_first) for seed in range(FILMS))
        within = sum(count for number, count in tries.items() if number <= MOST_TESTS) / FILMS
        school = "more blade first" if blade_first else "force first"
        print(f"{school}: clean within {MOST_TESTS} test cuts {within:.1%}; {dict(sorted(tries.items()))}")


def _tries(seed: int, blade_first: bool) -> int:
    """Return how many test cuts it takes to a clean one, 99 where the advice ends before."""
    rng = np.random.default_rng(seed)
    name = str(rng.choice([name for name, kind in film_kinds().items() if kind.bond != "print"]))
    film, machine = Film(id=name, name=name, kind=name, colour="#ffffff"), dict(shipped_machines().cutters)["table"]
    loaded = loaded_film(
        film_kinds()[name], name, harder=float(np.exp(rng.normal(0, 0.25))), thicker=float(rng.uniform(0.85, 1.15))
    )
    age, start = float(rng.uniform(0, 900)), typical_settings(film, machine).settings
    settings, tests = start, []
    for number in range(1, 20):
        outcome = outcome_of(loaded, depth_um(loaded, settings, age))
        if outcome == "clean":
            return number
        tests.append(CutTest(machine="table", film=name, settings=settings, outcome=outcome))
        proposed = next_settings(film, machine, start, tests, blade_first=blade_first).settings
        if proposed is None:
            return 99
        settings = proposed
    return 99
