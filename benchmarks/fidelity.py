"""Splitting against an independent renderer, on the SVGs of the npm package ``openmoji`` (CC BY-SA 4.0)."""

import io
import random
import re
import subprocess
import sys
import time
from collections.abc import Sequence
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path
from typing import NamedTuple

import defusedxml.ElementTree
import numpy as np
import resvg_py
from numpy.typing import NDArray
from PIL import Image

from zinnet.artwork.svg.reader import read_svg
from zinnet.base.errors import ZinnetError
from zinnet.cutting.svg_file import path_data
from zinnet.geometry.region import Region, rings_of
from zinnet.layers.split import Split, split_artwork

FOLDER = Path("out/benchmarks")
WIDTH_PX = 512
LEAST_FILES = 600
CHANNEL_DIFFERENCE = 48
MOST_PIXELS = 0.01


def fetch() -> list[Path]:
    """Return the sample files, fetched once with npm."""
    folder = FOLDER / "node_modules" / "openmoji" / "color" / "svg"
    if not folder.exists():
        FOLDER.mkdir(parents=True, exist_ok=True)
        subprocess.run(
            [
                "npm",
                "install",
                "--no-audit",
                "--no-fund",
                "--ignore-scripts",
                "--no-save",
                "--prefix",
                ".",
                "openmoji@17.0.0",
            ],
            cwd=FOLDER,
            check=True,
            stdout=subprocess.DEVNULL,
        )
    return sorted(folder.glob("*.svg"))


def picture(svg: str) -> NDArray[np.int64]:
    """Return an SVG drawn by resvg without anti-aliasing, on white."""
    png = resvg_py.svg_to_bytes(svg_string=svg, shape_rendering="optimize_speed", background="#ffffff")
    return np.asarray(Image.open(io.BytesIO(png)).convert("RGB")).astype(int)


class Compared(NamedTuple):
    """One file: its layers, the share of pixels that differ or why it can't be split, and seconds taken."""

    name: str
    layers: int
    share: float | str
    seconds: float
    parse_seconds: float


def compare(path: Path) -> Compared:
    """Split a file, timed beside a bare parse of its XML, and compare the layers with the renderer's picture."""
    text = path.read_text(encoding="utf-8")
    begun = time.perf_counter()
    defusedxml.ElementTree.fromstring(text)
    parsed = time.perf_counter()
    try:
        split = split_artwork(read_svg(text.encode(), path.name), width_mm=200)
    except ZinnetError as error:
        return Compared(path.name, 0, str(error), time.perf_counter() - parsed, parsed - begun)
    took = time.perf_counter() - parsed
    original, ours = pictures(text, split, [(layer.colour, layer.region) for layer in split.layers])
    difference = np.abs(original - ours).max(axis=2) > CHANNEL_DIFFERENCE
    return Compared(path.name, len(split.layers), float(difference.mean()), took, parsed - begun)


def pictures(
    text: str, split: Split, layers: Sequence[tuple[str, Region]]
) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
    """Return the renderer's pictures of a file, cropped to the artwork's box, and of its layers painted together."""
    x, y, width, height = split.source_box
    size = f'width="{WIDTH_PX}" height="{max(1, round(WIDTH_PX * height / width))}" preserveAspectRatio="none"'
    head = re.search(r"<svg[^>]*>", text)
    assert head is not None
    bare = re.sub(r'\s(width|height|viewBox|preserveAspectRatio)="[^"]*"', "", head[0])
    original = text.replace(head[0], bare.replace("<svg", f'<svg {size} viewBox="{x} {y} {width} {height}"', 1), 1)
    paths = "".join(
        f'<path fill-rule="evenodd" fill="{colour}" d="{path_data(rings_of(region))}"/>' for colour, region in layers
    )
    box = f"0 0 {split.width_mm} {split.height_mm}"
    ours = f'<svg xmlns="http://www.w3.org/2000/svg" {size} viewBox="{box}">{paths}</svg>'
    return picture(original), picture(ours)


def run(seed: int = 1) -> None:
    """Layers painted together against the renderer's picture of the original, cropped to the artwork's box."""
    files = fetch()
    if "--all" not in sys.argv:
        random.Random(seed).shuffle(files)
        files = files[: LEAST_FILES + 200]
    begun = time.perf_counter()
    with ProcessPoolExecutor(2) as pool:
        everything = list(pool.map(compare, files, chunksize=20))
    results = [row for row in everything if row.layers != 1]
    failed = [row for row in everything if isinstance(row.share, str) or row.share >= MOST_PIXELS]
    shares = [row.share for row in results if not isinstance(row.share, str)]
    ms = np.array([row.seconds for row in everything]) * 1000
    bare = np.array([row.parse_seconds for row in everything]) * 1000
    print(
        f"{len(everything) - len(failed)} of {len(everything)} files ({1 - len(failed) / len(everything):.2%}), "
        f"{len(results)} of them in several colours, differ in fewer than {MOST_PIXELS:.0%} of pixels; "
        f"median {np.median(shares):.4%}, worst {max(shares):.3%}; "
        f"{(time.perf_counter() - begun) / len(files) * 1000:.0f} ms a file and picture"
    )
    print(
        f"reading and splitting: median {np.median(ms):.0f} ms, 95th percentile {np.percentile(ms, 95):.0f} ms; "
        f"bare parsing: median {np.median(bare):.2f} ms ({np.median(ms) / np.median(bare):.0f} times)"
    )
    for row in failed:
        print(f"  failed: {row.name}: {row.share if isinstance(row.share, str) else f'{row.share:.2%}'}")
