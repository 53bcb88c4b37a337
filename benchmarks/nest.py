"""How dense the nests are, against the plain columns of boxes, for one and for ten seconds."""

import numpy as np
import shapely

from zinnet.geometry.region import Region
from zinnet.nesting.model import NestTask, Piece, Sheet
from zinnet.nesting.run import NestRun
from zinnet.nesting.shelf import shelf_nest


def task(count: int, seconds: float) -> NestTask:
    """Return a nest of star-shaped pieces on mats of 12 x 12 in."""
    rng = np.random.default_rng(count)
    pieces = []
    for number in range(count):
        corners = int(rng.integers(5, 20))
        angle = np.sort(rng.uniform(0, 2 * np.pi, corners))
        radii = rng.uniform(8, 30, corners)
        star = shapely.make_valid(shapely.Polygon(np.column_stack([radii * np.cos(angle), radii * np.sin(angle)])))
        largest = max((p for p in shapely.get_parts(star) if p.geom_type == "Polygon"), key=lambda p: p.area)
        pieces.append(Piece(f"p{number}", Region([largest])))
    sheet = Sheet(width_mm=304.8, height_mm=304.8, margin_mm=6.35)
    return NestTask(tuple(pieces), sheet, 6.0, seconds=seconds)


def film_used(layout: object) -> float:
    """Return the film in mm along x that a layout reaches over all its sheets."""
    return float(sum(sheet.used_length_mm for sheet in layout.sheets))  # type: ignore[attr-defined]


def run() -> None:
    """Film reached by the nest, as a share of what plain columns reach."""
    for count in (20, 60, 300):
        plain = shelf_nest(task(count, 1))
        said = []
        for seconds in (1.0, 10.0):
            layout = NestRun(task(count, seconds)).wait()
            said.append(f"{film_used(layout) / film_used(plain):.0%} on {len(layout.sheets)} mats in {seconds:.0f} s")
        print(f"{count} pieces: columns take {len(plain.sheets)} mats; the nest {', '.join(said)}")
