"""Mutated SVG, DXF and PNG files: each gives artwork or a sentence, soon, and in little memory."""

import io
import random
import re
import resource
import sys
import time
from collections import Counter
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from multiprocessing import get_context
from pathlib import Path

import ezdxf
import resvg_py

from zinnet.artwork.source import artwork_of, source_of
from zinnet.base.errors import ZinnetError
from zinnet.data import read_bytes
from zinnet.layers.split import split_artwork

DEMOS = ("moth-and-lantern.svg", "moth.svg", "lantern-word.svg", "marshal-word.svg")
HOSTILE = (
    b"NaN", b"1e400", b"-1e308", b"99999999999", b"0", b"<g>", b"</g>", b"url(#a)", b"&lt;", b"\x00", b"%",
    b"matrix(0 0 0 0 0 0)", b'<use href="#a"/>', b'<text font-size="9e9">Moth</text>', b"<mask id='m'>", b"M",
    b"A1 1 0 1 1", b"z", b"-", b"..", b"e",
)  # fmt: skip
RICH = (Path(__file__).parent / "rich.svg").read_bytes()
"""A file with every feature that the reader knows."""
VALUE = re.compile(rb'"[^"<]*"')
STRANGE = (
    b"NaN",
    b"1e400",
    b"-1e30",
    b"1e-300",
    b"0",
    b"-",
    b"%",
    b"url(#m)",
    b"url(#a)",
    b"M",
    b"A",
    b"z",
    b"9999999",
    b",,",
    b"em",
)
MOST_SECONDS = 10.0
MOST_BYTES = 1 << 30


def seeds() -> list[tuple[str, bytes]]:
    """Return whole files of each kind, to be damaged."""
    found = [(name, read_bytes("demo", name)) for name in DEMOS] + [("rich.svg", RICH)] * 3
    for name in DEMOS[1:3]:
        png = bytes(resvg_py.svg_to_bytes(svg_string=read_bytes("demo", name).decode(), width=160))
        found.append((name.replace(".svg", ".png"), png))
    drawing = ezdxf.new("R2010", setup=True)
    space = drawing.modelspace()
    space.add_lwpolyline([(0, 0, 0.4), (60, 0), (60, 40), (0, 40)], close=True)
    space.add_circle((30, 20), 9)
    space.add_spline([(0, 0), (20, 30), (40, 5), (60, 20)])
    space.add_ellipse((30, 60), (20, 0), 0.4)
    space.add_hatch(color=1).paths.add_polyline_path([(0, 50), (10, 50), (10, 60)])
    block = drawing.blocks.new("MOTH")
    block.add_arc((0, 0), 5, 0, 200)
    space.add_blockref("MOTH", (20, 20), dxfattribs={"xscale": 2, "rotation": 30})
    text = io.StringIO()
    drawing.write(text)
    return [*found, ("walk.dxf", text.getvalue().encode())]


def damaged(data: bytes, rng: random.Random) -> bytes:
    """Return a file with a few bytes, stretches or numbers of it changed."""
    changed = bytearray(data)
    if data.lstrip().startswith(b"<") and rng.random() < 0.6:
        return _values_swapped(data, rng)
    for _ in range(rng.choice((1, 1, 2, 3, 6, 12))):
        at = rng.randrange(len(changed) or 1)
        match rng.randrange(6):
            case 0:
                changed[at : at + 1] = bytes([rng.randrange(256)])
            case 1:
                del changed[at : at + rng.randint(1, 60)]
            case 2:
                changed[at:at] = rng.choice(HOSTILE)
            case 3:
                changed[at:at] = changed[at : at + rng.randint(1, 400)]
            case 4:
                digits = [k for k in range(at, min(at + 200, len(changed))) if 48 <= changed[k] <= 57]
                for k in digits[: rng.randint(1, 9)]:
                    changed[k] = rng.randrange(48, 58)
            case 5:
                other = rng.randrange(len(changed) or 1)
                length = rng.randint(1, 80)
                changed[at : at + length] = changed[other : other + length]
    return bytes(changed)


def _values_swapped(data: bytes, rng: random.Random) -> bytes:
    """Return XML that stays whole, with some of its attributes' values put elsewhere or made strange."""
    values = VALUE.findall(data)
    chances = 3 / max(1, len(values))

    def other(match: re.Match[bytes]) -> bytes:
        if rng.random() > chances:
            return match[0]
        if rng.random() < 0.5:
            return rng.choice(values)
        inner = match[0][1:-1]
        at = rng.randrange(len(inner) + 1)
        return b'"' + inner[:at] + rng.choice(STRANGE) + inner[at + rng.randint(0, 3) :] + b'"'

    return VALUE.sub(other, data)


def attempt(name: str, data: bytes) -> str:
    """Return how a file fares: ``artwork``, ``refused``, or what went wrong."""
    try:
        artwork = artwork_of(source_of(name, data))
        if artwork.shapes:
            split_artwork(artwork, width_mm=200)
    except ZinnetError:
        return "refused"
    except Exception as error:  # noqa: BLE001 - that is what is looked for
        return f"{type(error).__name__}: {error}"[:200]
    return "artwork"


def inputs(count: int, seed: int) -> Iterator[tuple[str, bytes]]:
    """Yield damaged files."""
    rng, whole = random.Random(seed), seeds()
    for _ in range(count):
        name, data = rng.choice(whole)
        yield name, damaged(data, rng)


def batch(count: int, seed: int) -> tuple[Counter[str], list[str], float, int]:
    """Try a batch in one process: how many fared how, what failed, the longest time (s), and the memory (bytes)."""
    fared: Counter[str] = Counter()
    failed, longest = [], 0.0
    for number, (name, data) in enumerate(inputs(count, seed)):
        begun = time.perf_counter()
        said = attempt(name, data)
        took = time.perf_counter() - begun
        longest = max(longest, took)
        fared[said if said in ("artwork", "refused") else "failed"] += 1
        if said not in ("artwork", "refused") or took > MOST_SECONDS:
            failed.append(f"{name}, seed {seed}, file {number}: {took:.1f} s, {said}")
    return fared, failed, longest, resource.getrusage(resource.RUSAGE_SELF).ru_maxrss * 1024


def run() -> None:
    """Damaged files: how many were read or refused, the longest time, and the most memory of a process."""
    count = next((int(word[2:]) for word in sys.argv if word.startswith("n=")), 20_000)
    size = 250
    total: Counter[str] = Counter()
    longest, memory = 0.0, 0
    begun = time.perf_counter()
    with ProcessPoolExecutor(2, mp_context=get_context("spawn")) as pool:
        seeds_left = range(max(1, count // size))
        for fared, failed, slowest, used in pool.map(batch, [size] * len(seeds_left), seeds_left):
            total += fared
            longest, memory = max(longest, slowest), max(memory, used)
            for line in failed:
                print(f"  {line}", flush=True)
    print(
        f"{sum(total.values())} damaged files: {total['artwork']} read, {total['refused']} refused with a sentence, "
        f"{total['failed']} failed; longest {longest:.1f} s, most memory {memory / 2**20:.0f} MiB, "
        f"{time.perf_counter() - begun:.0f} s in all"
    )
