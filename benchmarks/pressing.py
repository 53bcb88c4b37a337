"""Pressing: positions against plain search, random jobs, schedules, and timers over ten minutes."""

import os
import random
import signal
import subprocess
import sys
import time
from collections import Counter
from pathlib import Path
from tempfile import TemporaryDirectory

from tests.helpers import document_of
from tests.pressing.covering import fewest_by_search, random_case, region
from tests.pressing.schedule.checking import faults
from tests.pressing.simulated import random_job, wrongs
from zinnet.geometry.region import EMPTY
from zinnet.job.edits import choose_film, choose_recipe, set_pressing
from zinnet.pressing.box_cover import Boxes, fewest_boxes
from zinnet.pressing.platen_positions import reach
from zinnet.pressing.schedule.model import one_after_another_s
from zinnet.pressing.schedule.plan import plan_work
from zinnet.pressing.schedule.tasks import team_of, works_of

CASES, JOBS = 300, 1000
RINGS = "".join(
    f'<circle cx="50" cy="50" r="{50 - 15 * k}" fill="{colour}"/>'
    for k, colour in enumerate(("#d62828", "#1f57c3", "#f4ead5"))
)
KINDS = {
    "smooth, warm": [],
    "smooth, cool": [choose_recipe(film, school="low and long") for film in ("scarlet", "blue", "cream")],
    "glitter": [choose_film("#d62828", "gold-glitter"), choose_film("#1f57c3", "rose-glitter")],
    "mixed": [choose_film("#f4ead5", "gold-glitter")],
}
TEAMS = ((1, 1, 4), (1, 1, 2), (2, 2, 4), (1, 2, 4))
TIMER_S = (600.0, 597.3, 590.0)


def positions() -> None:
    """Cover 300 random small cases with the fewest positions, against trying them all."""
    right, worst, total, seed = 0, 0.0, 0, 0
    while total < CASES:
        case = random_case(seed)
        seed += 1
        expected = fewest_by_search(case) if case is not None else None
        if case is None or expected is None:
            continue
        total += 1
        hard = region(case.hard)
        blocked = reach(hard, case.width, case.height) if case.hard else EMPTY
        began = time.perf_counter()
        size = case.width, case.height
        found = fewest_boxes(Boxes(region(case.film), *size, *size, blocked))
        worst = max(worst, time.perf_counter() - began)
        right += len(found.middles) == expected == found.least
    print(f"{right} of {total} as few as by trying all, and proven; longest {worst:.2f} s")


def steps() -> None:
    """Carry out the steps of 1,000 random jobs in a simulation of its own."""
    said: Counter[str] = Counter()
    bad = 0
    for seed in range(JOBS):
        document = random_job(seed)
        found = wrongs(document)
        bad += bool(found)
        if found:
            print(seed, found[:2])
        said.update({finding.id for finding in document.plan.findings if finding.station == "press"})
    print(f"{JOBS} jobs, {bad} with something wrong that no finding says")
    print(", ".join(f"{name} {count}" for name, count in said.most_common()))


def schedules() -> None:
    """Plan 12 garments of 3 layers with a proof in 5 s, and 200 in 10 s."""
    for name, edits in KINDS.items():
        for school in ("tack", "full"):
            document = document_of(RINGS, *edits, set_pressing("x", school=school))
            rows = document.plan.presses[0].steps
            for count in (12, 200):
                for team in TEAMS:
                    works = works_of([("tee", count, rows)])
                    began = time.perf_counter()
                    found = plan_work(works, team_of(*team), seconds=4.8)
                    took = time.perf_counter() - began
                    proof = "proven" if found.is_proven else f"{found.gap:.2%} above the bound"
                    alone = one_after_another_s(works, found.team)
                    wrong = faults(found)
                    print(
                        f"{name}, {school}, {count} garments, {team[0]} presses, {team[1]} people, {team[2]} cooling: "
                        f"{found.total_s} s of {alone} s, {proof}, {took:.1f} s{', FAULTS' if wrong else ''}",
                        flush=True,
                    )


WATCH = """
import sys, time
from pathlib import Path
from zinnet.pressing.timers import Timers
timers = Timers(Path(sys.argv[1]))
rung = set()
while len(rung) < len(timers.all):
    for timer in timers.all:
        left = timers.left_s(timer.id)
        if left <= 0 and timer.id not in rung:
            rung.add(timer.id)
            print(timer.id, time.clock_gettime(time.CLOCK_BOOTTIME) + left, flush=True)
    time.sleep(0.02)
"""


def timers() -> None:
    """Run three timers over ten minutes while the program is killed and started again at random."""
    from zinnet.bench.timers import Timers

    luck = random.Random(1)
    with TemporaryDirectory() as folder:
        path = Path(folder) / "timers.json"
        kept = Timers(path)
        began = {}
        for number, seconds in enumerate(TIMER_S):
            began[str(number)] = time.clock_gettime(time.CLOCK_BOOTTIME)
            kept.start(str(number), f"timer {number}", seconds)
        del kept
        kills = 0
        end = time.monotonic() + max(TIMER_S) - 12
        while time.monotonic() < end:
            watcher = subprocess.Popen([sys.executable, "-c", WATCH, str(path)], stdout=subprocess.DEVNULL)
            time.sleep(luck.uniform(5, 40) if time.monotonic() < end - 45 else 5)
            os.kill(watcher.pid, signal.SIGKILL)
            watcher.wait()
            kills += 1
        last = subprocess.run([sys.executable, "-c", WATCH, str(path)], capture_output=True, text=True, check=True)
        worst = 0.0
        for line in last.stdout.splitlines():
            name, at = line.split()
            off = float(at) - began[name] - TIMER_S[int(name)]
            worst = max(worst, abs(off))
            print(f"timer of {TIMER_S[int(name)]} s rang {off:+.3f} s off")
        print(f"worst {worst:.3f} s after {kills} kills")
