"""Layers on the SVGs of the npm package ``openmoji``: cut away without overlap, laps as wide as asked; and in time."""

import random
import sys
import time
from concurrent.futures import ProcessPoolExecutor
from itertools import combinations
from pathlib import Path
from typing import NamedTuple

import numpy as np
import shapely
from numpy.typing import NDArray

from benchmarks.fidelity import CHANNEL_DIFFERENCE, MOST_PIXELS, fetch, pictures
from zinnet.artwork.svg.reader import read_svg
from zinnet.base.errors import ZinnetError
from zinnet.films.catalogue import catalogue_films
from zinnet.geometry.region import EMPTY, Region, common, union, without
from zinnet.layers.build import build_layers
from zinnet.layers.spec import FilmChoice, LayersSpec
from zinnet.layers.split import Split, split_artwork
from zinnet.layers.stack import LayerStack

WIDTH_MM = 200.0
LAP_MM = 0.5
SAMPLE_FILES = 400
MOST_OVERLAP = 1e-6
MOST_MISSING = 1e-5
"""Slits thinner than a hundredth of a mm are closed, so that no blade runs into them."""
LEAST_LAPPED = 0.99
STEP_MM = 0.5
SHARES = (0.002, 0.2, 0.4, 0.6, 0.8, 0.97)
"""How far the steps go, in shares of the lap."""
ON_BORDER_MM = 1e-4
COLOURS = ("#d62828", "#1f57c3", "#f4ead5", "#2f9e44", "#ee7623", "#5b3fa0", "#1a1a1a", "#6db6e8")
SHAPES = 500
MS = 1000.0
TRIES = 5


class Judged(NamedTuple):
    """One file: shares of the painted area that overlap, are missing, and show wrongly; the least share lapped."""

    name: str
    overlap: float
    missing: float
    shows: float
    beyond: float
    lapped: float
    pixels: float
    error: str = ""


def judge(path: Path) -> Judged:
    """Split a file cut away and with a lap, and look at both."""
    text = path.read_text(encoding="utf-8")
    try:
        split = split_artwork(read_svg(text.encode(), path.name), width_mm=WIDTH_MM)
    except ZinnetError as error:
        return Judged(path.name, 0, 0, 0, 0, 1, 0, str(error))
    cut_away = build_layers(split, LayersSpec(method="cut-away"), (), seen="front", share=False)
    lapped = build_layers(split, LayersSpec(method="lap", lap_mm=LAP_MM), (), seen="front", share=False)
    regions = [row.layer.region for row in cut_away.layers]
    painted = union(layer.painted for layer in split.layers)
    whole = painted.area
    overlap = sum(common(one, other).area for one, other in combinations(regions, 2))
    missing = apart(union(regions), painted)
    above = EMPTY
    shows = 0.0
    for row in reversed(lapped.layers):
        shows += apart(without(row.layer.region, above), row.seen)
        above = union([above, row.layer.region])
    beyond = without(above, painted).area
    original, ours = pictures(text, split, [(row.layer.colour, row.layer.region) for row in lapped.layers])
    differs = float((np.abs(original - ours).max(axis=2) > CHANNEL_DIFFERENCE).mean())
    return Judged(
        path.name, overlap / whole, missing / whole, shows / whole, beyond / whole, least_lapped(lapped), differs
    )


def apart(one: Region, other: Region) -> float:
    """Return the area in which two regions differ."""
    return float(without(one, other).area + without(other, one).area)


def least_lapped(stack: LayerStack) -> float:
    """Return the least share of a shared border along which the lower film reaches the lap under the upper.

    From points along the border steps go straight into the upper layer, as far as the lap or to where that layer
    ends; the lower one must lie under all of them.
    """
    least = 1.0
    for pair in stack.pairs:
        near = shapely.buffer(pair.upper.seen, ON_BORDER_MM, quad_segs=1)
        border = shapely.intersection(shapely.boundary(pair.lower.seen), near)
        starts, ends = _segments(border)
        if not len(starts):
            continue
        lengths = np.hypot(*(ends - starts).T)
        counts = np.maximum(1, (lengths / STEP_MM).astype(int))
        which = np.repeat(np.arange(len(starts)), counts)
        place = (np.concatenate([np.arange(count) for count in counts]) + 0.5) / counts[which]
        along = ((ends - starts) / lengths[:, None])[which]
        points = starts[which] + along * (lengths[which] * place)[:, None]
        for normal in (np.column_stack([-along[:, 1], along[:, 0]]), np.column_stack([along[:, 1], -along[:, 0]])):
            still = np.ones(len(points), dtype=bool)
            lapped = np.ones(len(points), dtype=bool)
            begun = None
            for share in SHARES:
                at = points + normal * (LAP_MM * share)
                still &= shapely.contains_xy(pair.upper.seen, at[:, 0], at[:, 1])
                begun = still.copy() if begun is None else begun
                lapped &= ~still | shapely.contains_xy(pair.lower.layer.region, at[:, 0], at[:, 1])
            if begun is not None and begun.any():
                least = min(least, float(lapped[begun].mean()))
    return least


def _segments(lines: shapely.Geometry) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Return the starts and ends of all straight pieces that are long enough to have a direction."""
    parts = [shapely.get_coordinates(part) for part in shapely.get_parts(lines) if part.geom_type == "LineString"]
    if not parts:
        return np.empty((0, 2)), np.empty((0, 2))
    starts = np.concatenate([part[:-1] for part in parts])
    ends = np.concatenate([part[1:] for part in parts])
    long = np.hypot(*(ends - starts).T) > ON_BORDER_MM * 10
    return starts[long], ends[long]


def dense_svg(seed: int) -> bytes:
    """Return a design of 500 shapes in 8 colours that lie all over one another."""
    rng = random.Random(seed)
    body = []
    for _ in range(SHAPES):
        colour, x, y, r = rng.choice(COLOURS), rng.uniform(0, 950), rng.uniform(0, 950), rng.uniform(10, 60)
        body.append(
            rng.choice(
                (
                    f'<circle cx="{x}" cy="{y}" r="{r}" fill="{colour}"/>',
                    f'<ellipse cx="{x}" cy="{y}" rx="{r}" ry="{r / 2}" fill="{colour}"/>',
                    f'<path d="M{x} {y}c{r} {-r} {r * 2} {r} {r} {r * 1.5}s{-r * 2} {-r / 2} {-r} {-r * 1.5}z" '
                    f'fill="{colour}"/>',
                    f'<rect x="{x}" y="{y}" width="{r}" height="{r * 1.3}" fill="{colour}" '
                    f'transform="rotate({rng.uniform(0, 90):.1f} {x} {y})"/>',
                )
            )
        )
    return f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1000 1000">{"".join(body)}</svg>'.encode()


def time_dense() -> None:
    """Time a dense design: reading and splitting, and another film for one colour, beside a bare overlay."""
    stock = catalogue_films()
    build_layers(
        _split(b'<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0h9v9z"/></svg>'),
        LayersSpec(),
        stock,
        seen="front",
    )
    for first, method in ((0, "lap"), (100, "auto")):
        times = []
        for seed in range(first, first + TRIES):
            data = dense_svg(seed)
            begun = time.perf_counter()
            split = _split(data)
            stack = build_layers(split, LayersSpec(method=method), stock, seen="front")
            times.append(time.perf_counter() - begun)
        begun = time.perf_counter()
        shapely.union_all([shapely.boundary(layer.painted) for layer in split.layers])
        bare = time.perf_counter() - begun
        edits = []
        for film in ("gold-glitter", "brick", "moss-flock", "moonlight", "soft-coral"):
            spec = LayersSpec(method=method, films=(FilmChoice(colour=COLOURS[0], film=film),))
            begun = time.perf_counter()
            build_layers(split, spec, stock, seen="front")
            edits.append(time.perf_counter() - begun)
        print(
            f"{SHAPES} shapes, {len(stack.layers)} colours, {method}: {np.median(times) * MS:.0f} ms to read and split "
            f"(longest of {TRIES} {max(times) * MS:.0f}); "
            f"another film: median {np.median(edits) * MS:.0f} ms, longest {max(edits) * MS:.0f} ms; bare "
            f"overlay of all borders {bare * MS:.0f} ms"
        )


def _split(data: bytes) -> Split:
    return split_artwork(read_svg(data, "dense.svg"), width_mm=260.0)


def run(seed: int = 1) -> None:
    """Layers of many drawings: no overlap, nothing missing, laps as wide as asked; and a dense design in time."""
    time_dense()
    files = fetch()
    if "--all" not in sys.argv:
        random.Random(seed).shuffle(files)
        files = files[:SAMPLE_FILES]
    with ProcessPoolExecutor(2) as pool:
        rows = list(pool.map(judge, files, chunksize=10))
    bad = [
        row
        for row in rows
        if row.error
        or row.overlap > MOST_OVERLAP
        or max(row.missing, row.shows, row.beyond) > MOST_MISSING
        or row.lapped < LEAST_LAPPED
        or row.pixels >= MOST_PIXELS
    ]
    print(
        f"{len(rows) - len(bad)} of {len(rows)} files hold; most overlap {max(row.overlap for row in rows):.1e}, most "
        f"missing {max(row.missing for row in rows):.1e}, most shown wrongly {max(row.shows for row in rows):.1e}, "
        f"most beyond the edge {max(row.beyond for row in rows):.1e} of the painted area; least lapped "
        f"{min(row.lapped for row in rows):.2%} of a border; most pixels differ {max(row.pixels for row in rows):.2%}"
    )
    for row in bad:
        print(f"  {row}")
