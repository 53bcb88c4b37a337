"""Files from strangers: how long until there is an answer, and how damaged ones of every kind fare."""

import resource
import subprocess
import sys
import tempfile
import time
from collections import Counter
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field
from multiprocessing import get_context
from pathlib import Path

from benchmarks.limits import MOST_S, TooLongError, at_most
from tests.hostile.readers import KINDS, fare

MOST_BYTES = 1 << 30
BATCH = 100
USUAL_CASES = 2_000

NS = 'xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1000 1000"'


def samples() -> dict[str, str]:
    """Return each hostile or huge file by its name."""
    few, many = (
        "".join(f'<rect x="{k % 997}" y="{k * 7 % 991}" width="3" height="4" fill="#d62828"/>' for k in range(count))
        for count in (4_900, 170_000)
    )
    zigzag = "M0 0" + "".join(f"L{k * 7919 % 1000} {k * 104729 % 1000}" for k in range(1, 60_000))
    grid = "M0 0" + "".join(f"L{k % 1000} {k // 1000}" for k in range(1, 149_000))
    shapes = "".join(
        f'<circle cx="{k * 37 % 1000}" cy="{k * 61 % 1000}" r="{5 + k % 60}" fill="#{k * 99991 % 0xFFFFFF:06x}"/>'
        for k in range(500)
    )
    return {
        "2 million points": f'<svg {NS}><path d="M0 0{"L1 1 2 3" * 1_000_000}"/></svg>',
        "10 MB of small shapes": f"<svg {NS}>{many}</svg>",
        "4 900 small shapes": f"<svg {NS}>{few}</svg>",
        "60 000 crossing lines": f'<svg {NS}><path d="{zigzag}"/></svg>',
        "149 000 points in rows": f'<svg {NS}><path d="{grid}"/></svg>',
        "10 MB of comment": f'<svg {NS}><!--{"moth " * 2_000_000}--><rect width="9" height="9"/></svg>',
        "500 circles in 500 colours": f"<svg {NS}>{shapes}</svg>",
        "entity bomb": '<!DOCTYPE a [<!ENTITY b "bb"><!ENTITY c "&b;&b;">]><svg>&c;</svg>',
        "not a number": f'<svg {NS}><path d="M NaN NaN L 5 5"/><rect x="NaN" width="Infinity" height="5"/></svg>',
        "no size": '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 0 0"><rect width="5" height="5"/></svg>',
        "empty": "",
        "only a picture": f'<svg {NS}><image href="x.png" width="50" height="50"/></svg>',
    }


def answers() -> None:
    """Seconds until each file is split or refused with a sentence."""
    folder = Path(tempfile.mkdtemp())
    for name, text in samples().items():
        path = folder / "file.svg"
        path.write_text(text)
        begun = time.perf_counter()
        done = subprocess.run(
            [sys.executable, "-m", "zinnet", "split", str(path), "--out", str(folder / "out")],
            capture_output=True,
            text=True,
        )
        took = time.perf_counter() - begun
        print(f"{took:5.1f} s  exit {done.returncode}  {name}: {done.stderr.strip()[:130] or 'split'}", flush=True)


@dataclass
class Fared:
    """How the cases of a kind fared: how many how, the longest (s, seed), the most memory (bytes), what failed."""

    counts: Counter[str] = field(default_factory=Counter)
    seconds: float = 0.0
    longest: tuple[float, int] = (0.0, 0)
    memory: int = 0
    failed: list[str] = field(default_factory=list)

    def __iadd__(self, other: "Fared") -> "Fared":
        self.counts += other.counts
        self.seconds += other.seconds
        self.longest, self.memory = max(self.longest, other.longest), max(self.memory, other.memory)
        self.failed += other.failed
        return self


def batch(kind: str, first: int, count: int) -> tuple[str, Fared]:
    """Try cases of a kind in one process."""
    resource.setrlimit(resource.RLIMIT_DATA, (MOST_BYTES, resource.getrlimit(resource.RLIMIT_DATA)[1]))
    found = Fared()
    with tempfile.TemporaryDirectory() as folder:
        for seed in range(first, first + count):
            begun = time.process_time()
            try:
                with at_most(MOST_S):
                    said, _ = fare(kind, seed, Path(folder))
            except TooLongError:
                said = f"over {MOST_S:.0f} s"
            took = time.process_time() - begun
            found.seconds += took
            found.longest = max(found.longest, (took, seed))
            found.counts[said if said in ("read", "refused") else "failed"] += 1
            if said not in ("read", "refused"):
                found.failed.append(f"{kind} {seed}: {said}")
    found.memory = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss * 1024
    return kind, found


def shares(cases: int) -> dict[str, int]:
    """Return how many cases of each kind are tried of so many in all."""
    whole = sum(kind.share for kind in KINDS.values())
    return {name: max(1, round(cases * kind.share / whole)) for name, kind in KINDS.items()}


def _in_words(name: str, found: Fared) -> str:
    return (
        f"{name:18} {found.counts.total():6} cases: {found.counts['read']:6} read, "
        f"{found.counts['refused']:6} refused, {found.counts['failed']:3} failed; "
        f"longest {found.longest[0]:5.2f} s (seed {found.longest[1]}), "
        f"most memory of a process {found.memory / 2**20:4.0f} MB, {found.seconds:.0f} s"
    )


def run() -> None:
    """Damaged files of every kind (``--cases N``, ``--first SEED``, ``--workers N``): how they fare, how long."""
    words = dict(zip(sys.argv, sys.argv[1:], strict=False))
    cases, first = int(words.get("--cases", USUAL_CASES)), int(words.get("--first", 0))
    total = {name: Fared() for name in KINDS}
    work = [
        (name, first + done, min(BATCH, count - done))
        for name, count in shares(cases).items()
        for done in range(0, count, BATCH)
    ]
    asked = shares(cases)
    with ProcessPoolExecutor(int(words.get("--workers", 2)), mp_context=get_context("spawn")) as pool:
        for name, found in pool.map(batch, *zip(*work, strict=True)):
            total[name] += found
            for line in found.failed:
                print(f"  {line}", flush=True)
            if total[name].counts.total() == asked[name]:
                print(_in_words(name, total[name]), flush=True)
    print(
        f"{sum(one.counts.total() for one in total.values())} cases, "
        f"{sum(one.counts['failed'] for one in total.values())} failed, "
        f"longest {max(one.longest for one in total.values())[0]:.2f} s, "
        f"most memory {max(one.memory for one in total.values()) / 2**20:.0f} MB"
    )
