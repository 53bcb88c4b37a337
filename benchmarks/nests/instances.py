"""What is nested to measure density: letters, icons, motifs, rectangles, pentominoes, stars and frames on a strip."""

from collections.abc import Sequence
from functools import cache
from pathlib import Path
from typing import NamedTuple

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from benchmarks.fidelity import fetch
from zinnet.artwork.lettering.text import TextSpec
from zinnet.artwork.lettering.word import word_regions
from zinnet.artwork.painted import outline_region
from zinnet.artwork.svg.reader import read_svg
from zinnet.geometry.region import Region, as_region, settled, union
from zinnet.geometry.transform import moved, scale, shift
from zinnet.nesting.model import Piece, Turns

DEMO = Path("src/zinnet/data/demo")
STEWARDS = "ASHWREN BELLMOSS CINDER DUSKIN EMBERLY FENWICKET GLIMMERLY HOLLOWAY IVYFORD JUNIPERL"
PENTOMINOES = (
    "10 20 01 11 12/00 10 20 30 40/00 01 02 03 13/10 11 02 12 03/00 10 01 11 02/00 10 20 11 12/"
    "00 20 01 11 21/00 01 02 12 22/00 01 11 12 22/10 01 11 21 12/10 01 11 12 13/00 10 11 12 22"
)
"""The twelve pentominoes by their cells (Golomb, *Polyominoes*, 1965)."""


class Instance(NamedTuple):
    """Pieces for a strip ``height_mm`` wide; the shorter the strip, the better. ``irregular`` ones are no boxes."""

    name: str
    pieces: tuple[Piece, ...]
    height_mm: float
    gap_mm: float
    irregular: bool = True


def _pieces(regions: Sequence[BaseGeometry], turns: Turns, copies: int = 1) -> tuple[Piece, ...]:
    return tuple(Piece(f"p{k}", as_region(region), copies, turns) for k, region in enumerate(regions))


def _letters(words: str, font: str, height_mm: float) -> list[Region]:
    specs = [TextSpec(text=letter, font=font) for letter in words if letter != " "]
    return [union(word_regions(spec, height_mm=height_mm, joined=True)) for spec in specs]


def _sized(region: Region, largest_mm: float) -> Region:
    left, top, right, bottom = region.bounds
    by = largest_mm / max(right - left, bottom - top)
    return moved(region, scale(by) @ shift(-left, -top))


@cache
def _icon_names() -> tuple[Path, ...]:
    return tuple(fetch())


def _icons(count: int, seed: int, sizes: tuple[float, float]) -> list[Region]:
    """Return silhouettes of openmoji pictures, everything that is painted of each as one region."""
    rng = np.random.default_rng(seed)
    found: list[Region] = []
    for index in rng.permutation(len(_icon_names())):
        if len(found) == count:
            break
        path = _icon_names()[index]
        artwork = read_svg(path.read_bytes(), path.name)
        region = settled(outline_region(artwork, 0.05))
        if not region.is_empty and len(region.geoms) == 1:
            smooth = _sized(region, float(rng.uniform(*sizes))).buffer(0.25).buffer(-0.5).buffer(0.25)
            found.append(Region([max(shapely.get_parts(smooth), key=lambda part: part.area)]))
    return found


def _motif(name: str, largest_mm: float) -> Region:
    return _sized(outline_region(read_svg((DEMO / name).read_bytes(), name), 0.1), largest_mm)


def _pentominoes(times: int, size: float) -> tuple[Piece, ...]:
    shapes = [
        shapely.union_all(
            [
                shapely.box(int(x) * size, int(y) * size, (int(x) + 1) * size, (int(y) + 1) * size)
                for x, y in cells.split()
            ]
        )
        for cells in PENTOMINOES.split("/")
    ]
    return _pieces(shapes, "quarter", times)


def _rectangles(count: int, seed: int) -> list[BaseGeometry]:
    rng = np.random.default_rng(seed)
    return [shapely.box(0, 0, *rng.uniform(15, 90, 2).round(1)) for _ in range(count)]


def _stars(count: int, seed: int) -> list[BaseGeometry]:
    rng = np.random.default_rng(seed)
    found = []
    while len(found) < count:
        corners = int(rng.integers(5, 20))
        angles = np.sort(rng.uniform(0, 2 * np.pi, corners))
        radii = rng.uniform(8, 30, corners)
        star = shapely.Polygon(np.column_stack([radii * np.cos(angles), radii * np.sin(angles)]))
        if star.is_valid:
            found.append(star)
    return found


def _triangles(count: int, seed: int) -> list[BaseGeometry]:
    rng = np.random.default_rng(seed)
    found = [shapely.Polygon(rng.uniform(0, 80, (3, 2))) for _ in range(4 * count)]
    return [one for one in found if one.area > 500 and one.minimum_clearance > 12][:count]


def _frames(count: int) -> list[BaseGeometry]:
    """Return rings and frames with room inside, and small discs and boxes that may lie there."""
    found: list[BaseGeometry] = []
    for k in range(count):
        side = 60 + 12 * (k % 4)
        box = shapely.box(0, 0, side, side * (0.7 + 0.1 * (k % 3)))
        ring = shapely.Point(0, 0).buffer(side / 2)
        found.append((box if k % 2 else ring).difference((box if k % 2 else ring).buffer(-8)))
        found += [shapely.Point(0, 0).buffer(6 + k % 5), shapely.box(0, 0, 12 + k % 7, 18), shapely.box(0, 0, 25, 9)]
    return found


def instances() -> list[Instance]:
    """Return all instances, from 5 to 300 pieces."""
    moth, lantern = _motif("moth.svg", 70), _motif("lantern-word.svg", 90)
    capitals, small = "ABCDEFGHIJKLMNOPQRSTUVWXYZ", "abcdefghijklmnopqrstuvwxyz"
    return [
        Instance("letters-walk", _pieces(_letters("WRENFIELD LANTERN WALK", "bebas-neue", 50), "quarter"), 280, 2),
        Instance("letters-capitals", _pieces(_letters(capitals, "bitter", 50), "none"), 280, 2),
        Instance("letters-alphabet", _pieces(_letters(capitals + small, "atkinson", 40), "quarter"), 280, 1),
        Instance("letters-script", _pieces(_letters(capitals, "dancing-script", 60), "half"), 280, 3),
        Instance("letters-names", _pieces(_letters(STEWARDS, "comfortaa", 30), "any"), 280, 2),
        Instance("letters-digits", _pieces(_letters("0123456789", "bebas-neue", 80), "half", 4), 280, 3),
        Instance("letters-few", _pieces(_letters("MOTHS", "bitter", 90), "quarter"), 200, 4),
        Instance("letters-three-hundred", _pieces(_letters(STEWARDS[:68], "bebas-neue", 22), "quarter", 5), 280, 2),
        Instance("icons-8", _pieces(_icons(8, 1, (60, 110)), "quarter"), 280, 3),
        Instance("icons-15", _pieces(_icons(15, 2, (40, 90)), "none"), 280, 3),
        Instance("icons-25", _pieces(_icons(25, 3, (30, 80)), "quarter"), 280, 2),
        Instance("icons-40", _pieces(_icons(40, 4, (25, 70)), "half"), 280, 2),
        Instance("icons-60", _pieces(_icons(60, 5, (25, 60)), "any"), 280, 2),
        Instance("icons-100", _pieces(_icons(100, 6, (20, 50)), "quarter"), 280, 2),
        Instance("icons-160", _pieces(_icons(160, 7, (15, 45)), "quarter"), 280, 1),
        Instance("icons-300", _pieces(_icons(300, 8, (12, 40)), "half"), 280, 1),
        Instance("moths-12", _pieces([moth], "any", 12), 280, 3),
        Instance("moths-40", _pieces([moth], "half", 40), 280, 3),
        Instance("lanterns-20", _pieces([lantern], "half", 20), 280, 3),
        Instance("moths-and-lanterns", _pieces([moth, lantern], "quarter", 16), 280, 2),
        Instance("rectangles-20", _pieces(_rectangles(20, 1), "quarter"), 280, 0, False),
        Instance("rectangles-60", _pieces(_rectangles(60, 2), "quarter"), 280, 2, False),
        Instance("rectangles-150", _pieces(_rectangles(150, 3), "quarter"), 280, 0, False),
        Instance("rectangles-upright", _pieces(_rectangles(40, 4), "none"), 280, 1, False),
        Instance("pentominoes-12", _pentominoes(1, 10), 60, 0),
        Instance("pentominoes-48", _pentominoes(4, 12), 120, 0),
        Instance("pentominoes-120", _pentominoes(10, 12), 240, 1),
        Instance("stars-20", _pieces(_stars(20, 1), "quarter"), 280, 3),
        Instance("stars-60", _pieces(_stars(60, 2), "any"), 280, 2),
        Instance("stars-200", _pieces(_stars(200, 3), "quarter"), 280, 1),
        Instance("triangles-30", _pieces(_triangles(30, 1), "any"), 280, 1),
        Instance("triangles-80", _pieces(_triangles(80, 2), "quarter"), 280, 2),
        Instance("frames-6", _pieces(_frames(6), "quarter"), 280, 2),
        Instance("frames-14", _pieces(_frames(14), "half"), 280, 2),
        Instance("frames-and-icons", _pieces([*_frames(5), *_icons(20, 9, (15, 50))], "quarter"), 280, 2),
        Instance(
            "mixture",
            _pieces([*_stars(15, 4), *_rectangles(15, 5), *_letters("LANTERN", "bitter", 45)], "quarter"),
            280,
            2,
        ),
    ]
