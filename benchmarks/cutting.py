"""What cutting must show in large numbers: files read back, breaks of the link, and the advice for test cuts."""

import contextlib
import datetime
import os
import random
import sys
import tempfile
import time
from collections import Counter
from pathlib import Path

import numpy as np

from tests.cutting.breaks import SETTINGS, random_program, send_to_chatty, send_until_whole, times_cut
from tests.cutting.test_read_back import random_job, read_back
from tests.helpers import LANTERN, document_of, nested
from tests.hostile.mutators import by_bytes
from zinnet.base.errors import CutError
from zinnet.bench.cut_journal import Broken, adopt_journal, forget_journal, journal_of, keep_journal, mark_of
from zinnet.bench.cutting_run import program_left, send
from zinnet.bench.document import Document
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
    """1,000 mats (``--mats N``) with failures, strays and journals of others: no line twice or left out unsaid."""
    words = dict(zip(sys.argv, sys.argv[1:], strict=False))
    mats, kinds, strays = int(words.get("--mats", MATS)), Counter[str](), 0
    begun = time.monotonic()
    document = nested(document_of(LANTERN))
    with tempfile.TemporaryDirectory() as folder:
        os.environ.update(dict.fromkeys(("XDG_STATE_HOME", "XDG_DATA_HOME", "XDG_CONFIG_HOME"), folder))
        for seed in range(mats):
            kinds.update(send_until_whole(seed, answer_s=0.15))
            if seed % 4 == 0:
                strays += send_to_chatty(seed)[1].strays
            kinds[send_after_journal(seed, document)] += 1
            if seed % 100 == 99:
                print(f"  {seed + 1} mats, {sum(kinds.values())} failures", flush=True)
    took = time.monotonic() - begun
    print(f"{mats} mats in {took:.0f} s; {dict(kinds)}; {strays} stray answers; nothing was left unsaid")
    halts = sorted(map(_halt_s, range(STOPS)))
    print(f"stopped {STOPS} times: the head stands after {halts[STOPS // 2]:.3f} s, at most {halts[-1]:.3f} s")


def send_after_journal(seed: int, document: Document) -> str:
    """Send a mat of which a journal is there, of this job or another one, or damaged; return which.

    What is asked is answered at random; lines are left out only where they are cut, or somebody said so.
    """
    rng = np.random.default_rng(seed)
    loads = [load for load in document.plan.loads if len(load.program().blocks) > 1]
    load = loads[int(rng.integers(len(loads)))]
    names = [block.path.name for block in load.program().blocks]
    cut = int(rng.integers(1, len(names)))
    done, doubtful = tuple(names[:cut]), tuple(names[cut : cut + int(rng.integers(0, 2))])
    mark = mark_of(document.job)
    kind = str(rng.choice(("own", "another job", "another day", "damaged")))
    whose = {
        "another job": mark_of(document.job.model_copy(update={"title": "another customer"})),
        "another day": mark_of(document.job, datetime.date(2026, 1, 1)),
    }.get(kind, mark)
    keep_journal(load, whose, Broken(done, doubtful))
    if kind == "damaged":
        path = journal_of(load)
        path.write_bytes(by_bytes(path.read_bytes(), random.Random(seed)))
    expected = list(names)
    try:
        program = program_left(load, mark)
        assert kind in ("own", "damaged"), f"a journal of {kind} was not asked about"
        assert kind == "damaged" or not doubtful, "lines in doubt were not asked about"
        expected = names[cut:] if kind == "own" else [block.path.name for block in program.blocks]
        assert set(names[cut:]) <= set(expected), "a line is left out that was never cut"
    except CutError:
        if rng.random() < 0.5:
            forget_journal(load)
            program = program_left(load, mark)
        else:
            again = bool(rng.random() < 0.5)
            with contextlib.suppress(CutError):
                adopt_journal(load, mark)
            try:
                program = program_left(load, mark, again=again)
                expected = names[cut if again else cut + len(doubtful) :]
            except CutError:
                assert kind in ("damaged", "own"), kind
                forget_journal(load)
                program = program_left(load, mark)
    assert [block.path.name for block in program.blocks] == expected, (kind, expected)
    with StandInPort(times=None) as port:
        report = send(load, PortSettings(port.name, answer_s=0.5), program, mark).wait(60)
        strokes = list(port.cutter.head.strokes)
    assert report.is_whole, report
    for block in load.program().blocks:
        assert times_cut(block, strokes) == (block.path.name in expected), block.path.name
    forget_journal(load)
    return kind


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
