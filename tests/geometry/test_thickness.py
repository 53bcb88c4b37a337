"""Offsets and overlays against closed forms and a second geometry library (Skia's path operations), and thickness."""

import math
import random

import numpy as np
import pathops
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import MultiPolygon

from tests.helpers import cases
from zinnet.geometry.region import Region, as_region, common, rings_of, union, without
from zinnet.geometry.thickness import (
    closed,
    narrow_gaps,
    offset,
    opened,
    rounded,
    thickened,
    thin_parts,
    thinned,
    without_holes,
)

PAIRS = cases(60, 300)
FINER = 64.0
"""Skia strokes to about a quarter of a unit, so that it is given larger shapes."""


def box(left, top, right, bottom):
    return as_region(shapely.box(left, top, right, bottom))


@given(st.lists(st.tuples(st.floats(-50, 50), st.floats(-50, 50)), min_size=5, max_size=30), st.floats(0.5, 20))
def test_the_offset_of_a_convex_shape_has_steiners_area_and_outline(points, distance):
    """Steiner's formula: area + outline d + pi d², outline + 2 pi d."""
    hull = shapely.convex_hull(shapely.MultiPoint(points))
    if hull.geom_type != "Polygon" or hull.area < 1:
        return
    grown = offset(as_region(hull), distance, tolerance=1e-4)
    assert grown.area == pytest.approx(hull.area + hull.length * distance + math.pi * distance**2, rel=1e-4)
    assert grown.length == pytest.approx(hull.length + 2 * math.pi * distance, rel=1e-4)


@pytest.mark.parametrize("apart", [0.0, 3.0, 8.0, 12.0, 19.5])
def test_two_discs_have_the_areas_of_circle_segments(apart):
    """The lens of two circles of radius r, d apart: 2 r² acos(d / 2r) - d/2 sqrt(4 r² - d²)."""
    radius = 10.0
    one, other = (as_region(shapely.Point(x, 0).buffer(radius, quad_segs=2000)) for x in (0.0, apart))
    lens = 2 * radius**2 * math.acos(apart / 2 / radius) - apart / 2 * math.sqrt(4 * radius**2 - apart**2)
    disc = math.pi * radius**2
    assert common(one, other).area == pytest.approx(lens, rel=1e-5, abs=1e-3)
    assert union([one, other]).area == pytest.approx(2 * disc - lens, rel=1e-5)
    assert without(one, other).area == pytest.approx(disc - lens, rel=1e-5, abs=1e-3)


def random_region(rng):
    """Return a star-shaped polygon with a hole now and then, or two of them."""
    found = []
    for _ in range(rng.choice((1, 1, 2))):
        count = rng.randint(5, 40)
        x, y = rng.uniform(-30, 30), rng.uniform(-30, 30)
        angles = sorted(rng.uniform(0, 2 * math.pi) for _ in range(count))
        ring = [(x + rng.uniform(15, 50) * math.cos(a), y + rng.uniform(15, 50) * math.sin(a)) for a in angles]
        shape = shapely.Polygon(ring)
        if shape.is_valid and rng.random() < 0.5:
            shape = shape.difference(shapely.Point(x, y).buffer(rng.uniform(3, 12)))
        found.append(shapely.make_valid(shape))
    return as_region(shapely.union_all(found))


def skia_path(region):
    path = pathops.Path(fillType=pathops.FillType.EVEN_ODD)
    for ring in rings_of(region):
        ring = ring * FINER
        path.moveTo(*ring[0])
        for point in ring[1:-1]:
            path.lineTo(*point)
        path.close()
    return path


def skia_area(path):
    """Return the area that a Skia path covers: its contours as rings, by the even-odd rule."""
    plain = pathops.Path(path, fillType=path.fillType)
    plain.simplify(fix_winding=True, keep_starting_points=False)
    plain.convertConicsToQuads()
    total = 0.0
    for contour in plain.contours:
        points, here = [], None
        for verb, ends in contour.segments:
            if verb == "qCurveTo":
                chain = [here, *ends]
                for k in range(1, len(chain) - 1):
                    a = chain[k - 1] if k == 1 else tuple((np.array(chain[k - 1]) + chain[k]) / 2)
                    b = chain[k + 1] if k == len(chain) - 2 else tuple((np.array(chain[k]) + chain[k + 1]) / 2)
                    t = np.linspace(0, 1, 17)[1:, None]
                    points += (((1 - t) ** 2) * a + 2 * t * (1 - t) * chain[k] + t**2 * np.array(b)).tolist()
            elif ends:
                points.append(ends[-1])
            here = ends[-1] if ends else here
        if len(points) > 2:
            x, y = np.array(points).T
            total += 0.5 * float(np.dot(x, np.roll(y, -1)) - np.dot(y, np.roll(x, -1)))
    return abs(total) / FINER**2


def test_overlays_and_offsets_are_those_of_a_second_library():
    """The reference library is skia-pathops, random pairs, within 0.1 %."""
    rng = random.Random(11)
    operations = {
        pathops.PathOp.UNION: lambda a, b: union([a, b]),
        pathops.PathOp.INTERSECTION: common,
        pathops.PathOp.DIFFERENCE: without,
    }
    given_up = 0
    for _ in range(PAIRS):
        one, other = random_region(rng), random_region(rng)
        scale = one.area + other.area
        for name, ours in operations.items():
            theirs = pathops.op(skia_path(one), skia_path(other), name)
            assert abs(ours(one, other).area - skia_area(theirs)) < 1e-3 * scale
        distance = rng.uniform(0.5, 6)
        band = skia_path(one)
        band.stroke(2 * distance * FINER, pathops.LineCap.ROUND_CAP, pathops.LineJoin.ROUND_JOIN, 4)
        band.convertConicsToQuads()
        try:
            grown = pathops.op(skia_path(one), band, pathops.PathOp.UNION)
        except pathops.PathOpsError:
            given_up += 1
            continue
        assert offset(one, distance, tolerance=1e-3).area == pytest.approx(skia_area(grown), rel=1e-3)
    assert given_up < PAIRS / 20


STROKES = union([box(0, 0, 40, 10), box(40, 4.6, 70, 5.4), box(70, 0, 100, 10)])


def test_a_thin_bridge_is_found_and_thickened_and_nothing_else_changes():
    (thin,) = thin_parts(STROKES, 1.5).geoms
    assert thin.bounds == pytest.approx((40, 4.6, 70, 5.4), abs=0.1)
    bold = thickened(STROKES, 1.5)
    assert thin_parts(bold, 1.5).is_empty
    assert thin_parts(opened(STROKES, 1.5), 1.5).is_empty
    assert shapely.covers(bold, STROKES.buffer(-0.05))
    middle = common(bold, box(50, -5, 60, 15))
    assert 1.49 <= middle.bounds[3] - middle.bounds[1] <= 1.9
    assert without(bold, STROKES.buffer(0.6)).is_empty


def test_corners_are_not_taken_for_thin():
    star = [
        (math.cos(k * math.pi / 5) * (30 if k % 2 else 13), math.sin(k * math.pi / 5) * (30 if k % 2 else 13))
        for k in range(10)
    ]
    for shape in (box(0, 0, 30, 20), as_region(shapely.Polygon(star)), as_region(shapely.Point(0, 0).buffer(9))):
        assert thin_parts(shape, 2.0).is_empty
        assert narrow_gaps(shape, 2.0).is_empty


@given(st.floats(0.2, 3.0), st.floats(0.3, 2.5))
def test_a_bar_is_thin_just_where_it_is_narrower_than_the_limit(width, limit):
    if abs(width - limit) < 0.02 * limit:
        return
    assert thin_parts(box(0, 0, 30, width), limit).is_empty == (width > limit)


def test_narrow_gaps_are_found_and_closed_and_wide_ones_stay():
    comb = union([box(0, 0, 100, 10), box(0, 10, 30, 40), box(30.6, 10, 60, 40), box(65, 10, 100, 40)])
    (gap,) = narrow_gaps(comb, 1.0).geoms
    assert gap.bounds == pytest.approx((30, 10, 30.6, 40), abs=0.3)
    assert closed(comb, 1.0).area == pytest.approx(comb.area + 0.6 * 30, rel=2e-3)


def test_thinning_stops_at_the_least_stroke():
    slim = thinned(STROKES, 1.0, least=0.8)
    assert slim.bounds == pytest.approx((1, 1, 99, 9), abs=0.01)
    bridge = common(slim, box(50, 0, 60, 10))
    assert bridge.bounds[3] - bridge.bounds[1] == pytest.approx(0.8, abs=1e-6)


def test_rounding_keeps_within_its_radius_and_filling_takes_counters_by_their_area():
    shape = without(box(0, 0, 40, 40), union([box(5, 5, 9, 9), box(20, 20, 30, 30)]))
    smooth = rounded(shape, 1.0)
    assert shapely.hausdorff_distance(smooth.boundary, shape.boundary) < 1.0
    assert [len(without_holes(shape, most_area=most).geoms[0].interiors) for most in (None, 20.0, 4.0)] == [0, 1, 2]


@given(st.floats(-4, 4), st.sampled_from(["round", "mitre", "bevel"]))
def test_an_offset_is_a_valid_region_and_grows_with_its_distance(distance, corners):
    shape = without(box(0, 0, 40, 30), box(10, 10, 20, 20))
    found = offset(shape, distance, corners=corners)
    assert isinstance(found, MultiPolygon)
    assert found.is_valid
    assert isinstance(found, Region)
    if abs(distance) > 1e-3:
        assert (found.area > shape.area) == (distance > 0)
