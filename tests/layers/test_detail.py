"""Small detail planted in random designs is found, measured, and nothing else is."""

import random

import numpy as np
import pytest
import shapely
import shapely.affinity

from tests.helpers import cases, svg
from zinnet.artwork.svg.reader import read_svg
from zinnet.cutting.svg_file import path_data
from zinnet.films.catalogue import Film, film_kinds
from zinnet.geometry.region import as_region, rings_of
from zinnet.layers.build import build_layers
from zinnet.layers.detail import details
from zinnet.layers.spec import FilmChoice, LayersSpec
from zinnet.layers.split import split_artwork

WIDE = 200.0
"""The designs are so many mm wide, one unit of the drawing to the mm."""


def near(one, at):
    return shapely.dwithin(one.region, at, 15)


def layer_of(shape, kind="smooth", width=WIDE):
    """Return a shape's one layer, cut from a film of a kind; a box at either end keeps the design wide."""
    ends = [shapely.box(0, 0, 12, 12), shapely.box(width - 12, 0, width, 12)]
    whole = as_region(shapely.union_all([shape, *ends]))
    data = path_data(rings_of(whole))
    body = f'<path fill-rule="evenodd" fill="#d62828" d="{data}"/>'
    split = split_artwork(read_svg(svg(body, 'viewBox="-50 -50 600 600"'), "t"), width_mm=width)
    film = Film(id="film", name="Film", kind=kind, colour="#d62828")
    spec = LayersSpec(films=(FilmChoice(colour="#d62828", film="film"),))
    (row,) = build_layers(split, spec, (film,), seen="front").layers
    return row


def cell(index):
    """Return the middle of a cell of the design, clear of its neighbours."""
    return 25.0 + 36.0 * (index % 5), 40.0 + 36.0 * (index // 5)


def blob(rng, x, y):
    """Return a shape that holds on any film: an ellipse, a box, or a ring, at a turn."""
    kind = rng.choice(["ellipse", "box", "ring"])
    if kind == "box":
        shape = shapely.box(x - 8, y - 6, x + 8, y + 6)
    elif kind == "ring":
        shape = shapely.Point(x, y).buffer(12, quad_segs=32).difference(shapely.Point(x, y).buffer(6, quad_segs=32))
    else:
        shape = shapely.affinity.scale(shapely.Point(x, y).buffer(1, quad_segs=64), 12, 7)
    return shapely.affinity.rotate(shape, rng.uniform(0, 180), origin=(x, y))


def bridged(rng, x, y, width):
    """Return two discs joined by a stroke of a width, and where the stroke's middle is."""
    angle = rng.uniform(0, 180)
    discs = [shapely.Point(x + dx, y).buffer(5, quad_segs=32) for dx in (-9, 9)]
    shape = shapely.union_all([*discs, shapely.box(x - 9, y - width / 2, x + 9, y + width / 2)])
    return shapely.affinity.rotate(shape, angle, origin=(x, y))


def slotted(rng, x, y, width):
    """Return a disc with a slot of a width through its middle."""
    shape = (
        shapely.Point(x, y).buffer(11, quad_segs=48).difference(shapely.box(x - 7, y - width / 2, x + 7, y + width / 2))
    )
    return shapely.affinity.rotate(shape, rng.uniform(0, 180), origin=(x, y))


def pierced(rng, x, y, width):
    """Return a disc with a square counter of a side."""
    hole = shapely.affinity.rotate(shapely.box(x - width / 2, y - width / 2, x + width / 2, y + width / 2), 30)
    return shapely.Point(x, y).buffer(10, quad_segs=48).difference(hole)


def dot(rng, x, y, width):
    """Return a square part of a side."""
    return shapely.affinity.rotate(shapely.box(x - width / 2, y - width / 2, x + width / 2, y + width / 2), 20)


MAKE = {"stroke": bridged, "gap": slotted, "counter": pierced, "part": dot}


def limit_of(kind, what):
    film = film_kinds()[kind]
    return {
        "stroke": film.least_stroke_mm,
        "gap": film.open_gap_mm,
        "counter": film.open_counter_mm,
        "part": film.least_part_mm,
    }[what]


@pytest.mark.parametrize("kind", ["smooth", "glitter", "flock", "adhesive", "puff"])
@pytest.mark.parametrize("seed", range(cases(3, 8)))
def test_what_is_planted_is_found_and_measured_and_nothing_else(kind, seed):
    rng = random.Random(f"{kind}-{seed}")
    shapes, planted = [], []
    for index in range(20):
        x, y = cell(index)
        if rng.random() < 0.4:
            shapes.append(blob(rng, x, y))
            continue
        what = rng.choice(list(MAKE))
        limit = limit_of(kind, what)
        too_small = rng.random() < 0.6
        width = limit * (rng.uniform(0.55, 0.93) if too_small else rng.uniform(1.06, 1.5))
        shapes.append(MAKE[what](rng, x, y, width))
        if too_small:
            planted.append((what, x, y, width))
    found = details(layer_of(shapely.union_all(shapes), kind))
    for what, x, y, width in planted:
        here = [one for one in found if shapely.distance(one.region, shapely.Point(x, y)) < 8 and one.kind == what]
        assert here, (what, width)
        assert min(abs(one.measured_mm - width) for one in here) < 0.05, (what, width, here)
    expected = [(what, shapely.Point(x, y)) for what, x, y, _ in planted]
    false = [one for one in found if not any(what == one.kind and near(one, at) for what, at in expected)]
    assert len(false) <= 0.02 * len(found)


@pytest.mark.parametrize("share", np.linspace(0.5, 1.5, 21))
def test_puff_closes_just_the_gaps_that_its_growth_closes(share):
    growth = film_kinds()["puff"].growth_mm
    width = 2 * growth * float(share)
    rng = random.Random(3)
    shape = slotted(rng, 60, 60, width)
    # The slot is gone where the film grown by its growth, a plain offset, leaves no hole.
    grown = shapely.buffer(shape, growth, quad_segs=64)
    closes = len(grown.interiors) == 0
    assert closes == (share <= 1.0001)
    found = [one for one in details(layer_of(shape, "puff")) if one.kind == "gap"]
    if abs(share - 1) > 1e-3:
        assert bool(found) == closes


def test_a_design_without_film_or_detail_has_none():
    row = layer_of(shapely.box(20, 20, 180, 150))
    assert details(row) == ()
