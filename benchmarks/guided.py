"""Damaged files that are led by coverage: what reaches code that no case before reached is changed further."""

import importlib.util
import random
import subprocess
import sys
import tempfile
import time
import zlib
from collections import Counter
from pathlib import Path

from benchmarks.limits import MOST_S, TooLongError, at_most

KINDS = ("svg by grammar", "artwork by bytes", "jobs", "workshops", "settings", "tables")
USUAL_RUNS = 2000
MOST_LETTERS = 4096
SAID_EVERY = 500


class Choices(random.Random):
    """Chance that is read from bytes, so that a changed byte is a changed choice; where they end, a seeded one."""

    def __init__(self, data: bytes) -> None:
        super().__init__(zlib.crc32(data))
        self._data, self._at = data, 0

    @property
    def _is_over(self) -> bool:
        return self._at >= len(self._data)

    def _bits(self, count: int) -> int:
        size = (count + 7) // 8
        part = self._data[self._at : self._at + size].ljust(size, b"\0")
        self._at += size
        return int.from_bytes(part, "little") & ((1 << count) - 1)

    def random(self) -> float:
        """Return a share below one, by two bytes."""
        return super().random() if self._is_over else self._bits(16) / 65536

    def getrandbits(self, k: int, /) -> int:
        """Return so many bits."""
        return super().getrandbits(k) if self._is_over else self._bits(k)


def guide(name: str, runs: int, corpus: str) -> None:
    """Try one kind in this process, which ends with it."""
    import atheris

    with atheris.instrument_imports(include=["zinnet"], enable_loader_override=False):
        from tests.hostile.readers import KINDS as ALL
        from tests.hostile.readers import attempt
    kind, counts, failed = ALL[name], Counter[str](), set[str]()
    longest, begun, folder = 0.0, time.perf_counter(), Path(tempfile.mkdtemp())

    def say() -> None:
        found = ", ".join(f"{count} {how}" for how, count in sorted(counts.items()))
        took = time.perf_counter() - begun
        print(f"  {name}: {counts.total()} cases: {found}; longest {longest:.1f} s, {took:.0f} s", flush=True)

    def one(data: bytes) -> None:
        nonlocal longest
        began = time.process_time()
        case = b""
        try:
            with at_most(MOST_S):
                case = kind.make(Choices(data))
                said = attempt(kind, case, folder)
        except TooLongError:
            said = f"over {MOST_S:.0f} s"
        longest = max(longest, time.process_time() - began)
        counts[said if said in ("read", "refused") else "failed"] += 1
        if said not in ("read", "refused") and said not in failed:
            failed.add(said)
            kept = Path(corpus).with_name(f"failed-{len(failed)}")
            kept.write_bytes(case)
            print(f"  {name}: {said} ({kept})", flush=True)
        if counts.total() % SAID_EVERY == 0 or counts.total() == runs:
            say()

    options = [f"-runs={runs}", f"-max_len={MOST_LETTERS}", "-len_control=20", "-timeout=300", "-rss_limit_mb=4096"]
    atheris.Setup([sys.argv[0], *options, "-verbosity=0", corpus], one)
    atheris.Fuzz()


def run() -> None:
    """Cases led by coverage (``--runs N`` of each kind), where atheris is installed."""
    words = dict(zip(sys.argv, sys.argv[1:], strict=False))
    runs = int(words.get("--runs", USUAL_RUNS))
    if importlib.util.find_spec("atheris") is None:
        print("atheris is not installed (pip install atheris); hostile tries plain cases")
        return
    with tempfile.TemporaryDirectory() as folder:
        for number, name in enumerate(KINDS):
            corpus = Path(folder) / str(number) / "corpus"
            corpus.mkdir(parents=True)
            for seed in range(20):
                (corpus / str(seed)).write_bytes(random.Random(seed).randbytes(MOST_LETTERS // 4))
            code = f"from benchmarks.guided import guide; guide({name!r}, {runs}, {str(corpus)!r})"
            done = subprocess.run([sys.executable, "-c", code], stderr=subprocess.PIPE, text=True, check=False)
            reached = len(list(corpus.iterdir()))
            print(f"{name}: {reached} cases reached something new; exit {done.returncode}", flush=True)
            if done.returncode:
                print(done.stderr[-2000:], flush=True)
