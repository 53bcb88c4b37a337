"""Splitting against an independent renderer, on the SVGs of the npm package ``openmoji`` (CC BY-SA 4.0)."""

import io
import random
import re
import subprocess
import sys
import time
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

import numpy as np
import resvg_py
from numpy.typing import NDArray
from PIL import Image

from zinnet.artwork.svg.reader import read_svg
from zinnet.cutting.svg_file import path_data
from zinnet.errors import ZinnetError
from zinnet.geometry.region import rings_of
from zinnet.layers.split import split_artwork

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


def compare(path: Path) -> tuple[str, int, float | str]:
    """Return (name, layers, share of pixels that differ), or a message where the file can't be split."""
    text = path.read_text(encoding="utf-8")
    try:
        split = split_artwork(read_svg(text.encode(), path.name), width_mm=200, method="cut-away")
    except ZinnetError as error:
        return path.name, 0, str(error)
    x, y, width, height = split.source_box
    size = f'width="{WIDTH_PX}" height="{max(1, round(WIDTH_PX * height / width))}" preserveAspectRatio="none"'
    head = re.search(r"<svg[^>]*>", text)
    assert head is not None
    bare = re.sub(r'\s(width|height|viewBox|preserveAspectRatio)="[^"]*"', "", head[0])
    original = text.replace(head[0], bare.replace("<svg", f'<svg {size} viewBox="{x} {y} {width} {height}"', 1), 1)
    layers = "".join(
        f'<path fill-rule="evenodd" fill="{layer.colour}" d="{path_data(rings_of(layer.region))}"/>'
        for layer in split.layers
    )
    box = f"0 0 {split.width_mm} {split.height_mm}"
    ours = f'<svg xmlns="http://www.w3.org/2000/svg" {size} viewBox="{box}">{layers}</svg>'
    difference = np.abs(picture(original) - picture(ours)).max(axis=2) > CHANNEL_DIFFERENCE
    return path.name, len(split.layers), float(difference.mean())


def run(seed: int = 1) -> None:
    """Layers painted together against the renderer's picture of the original, cropped to the artwork's box."""
    files = fetch()
    if "--all" not in sys.argv:
        random.Random(seed).shuffle(files)
        files = files[: LEAST_FILES + 200]
    begun = time.perf_counter()
    with ProcessPoolExecutor(2) as pool:
        results = [row for row in pool.map(compare, files, chunksize=20) if row[1] != 1]
    failed = [row for row in results if isinstance(row[2], str) or row[2] >= MOST_PIXELS]
    shares = [row[2] for row in results if not isinstance(row[2], str)]
    print(
        f"{len(results) - len(failed)} of {len(results)} multi-colour files ({1 - len(failed) / len(results):.2%}) "
        f"differ in fewer than {MOST_PIXELS:.0%} of pixels; median {np.median(shares):.4%}, worst {max(shares):.3%}; "
        f"{(time.perf_counter() - begun) / len(files) * 1000:.0f} ms a file and picture"
    )
    for name, _, share in failed:
        print(f"  failed: {name}: {share if isinstance(share, str) else f'{share:.2%}'}")
