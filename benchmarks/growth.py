"""How the work on a design grows with its regions: splitting, detail, weed map, checks; 500 to 5,000 of them."""

import math
import random
import time
from collections.abc import Callable

import numpy as np

from benchmarks.dragging import COLOURS
from zinnet.artwork.svg.reader import read_svg
from zinnet.bench.document import Document
from zinnet.films.catalogue import catalogue_films
from zinnet.job.edits import open_artwork, set_placement
from zinnet.layers.build import build_layers
from zinnet.layers.detail import details
from zinnet.layers.marks import frame_box
from zinnet.layers.spec import LayersSpec
from zinnet.layers.split import split_artwork
from zinnet.layers.weeding import weed_map
from zinnet.workshop.model import standard_workshop

COUNTS = (500, 1000, 2000, 5000)
FIELD_MM = 5.0
"""Each shape has a field of its own size, however many there are; 5,000 still fit under one press."""


def wings(count: int, seed: int = 1) -> bytes:
    """Return a drawing of so many wings in 10 colours, each of which touches its neighbours, two to an element."""
    rng, side = random.Random(seed), math.ceil(math.sqrt(count))
    drawn: list[str] = []
    for k in range(count):
        x, y, r = 52 * (k % side), 52 * (k // side), rng.uniform(18, 34)
        drawn.append(f"M{x} {y}c{r} {-r} {r * 2} {r} {r} {r * 1.5}s{-r * 2} {-r / 2} {-r} {-r * 1.5}z")
    pairs = zip(drawn[::2], drawn[1::2], strict=True)
    body = [f'<path d="{one} {other}" fill="{COLOURS[k % len(COLOURS)]}"/>' for k, (one, other) in enumerate(pairs)]
    size = 52 * side + 120
    return f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="-60 -60 {size} {size}">{"".join(body)}</svg>'.encode()


def seconds(work: Callable[[], object]) -> float:
    """Return how long something takes."""
    begun = time.perf_counter()
    work()
    return time.perf_counter() - begun


def measured(count: int) -> dict[str, float]:
    """Return the seconds that each kind of work takes with so many regions."""
    width_mm, stock = FIELD_MM * math.sqrt(count), catalogue_films()
    artwork = read_svg(wings(count), "wings.svg")
    found = {"split": seconds(lambda: split_artwork(artwork, width_mm=width_mm))}
    split = split_artwork(artwork, width_mm=width_mm)
    found["layers"] = seconds(lambda: build_layers(split, LayersSpec(), stock, seen="front"))
    stack = build_layers(split, LayersSpec(), stock, seen="front")
    found["detail"] = seconds(lambda: [details(row) for row in stack.layers])
    found["weed map"] = seconds(lambda: [weed_map(row.layer, frame_box(stack.box)) for row in stack.layers])
    document = Document(standard_workshop())
    document.apply(open_artwork("wings.svg", wings(count)))
    found["checks after a change of width"] = seconds(lambda: document.apply(set_placement("x", width_mm=width_mm)))
    return found


def run() -> None:
    """Seconds for 500 to 5,000 regions, and the exponent by which they grow."""
    rows = {}
    for count in COUNTS:
        rows[count] = measured(count)
        print(f"{count}: " + ", ".join(f"{name} {took:.2f} s" for name, took in rows[count].items()), flush=True)
    for name in rows[COUNTS[0]]:
        times = [rows[count][name] for count in COUNTS]
        exponent = np.polyfit(np.log(COUNTS), np.log(times), 1)[0]
        said = ", ".join(f"{count}: {took:.2f} s" for count, took in zip(COUNTS, times, strict=True))
        print(f"{name}: {said}; grows by the power {exponent:.2f}")
