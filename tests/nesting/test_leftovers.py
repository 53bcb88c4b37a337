"""What is left of film: areas that balance, and rectangles that really lie in it."""

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from zinnet.geometry.region import Region, as_region
from zinnet.nesting.leftovers import largest_rectangle, left_of, rectangles_in
from zinnet.nesting.sheet import Sheet


def test_a_roll_keeps_its_length_beyond_the_cut():
    roll = Sheet(width_mm=1000, height_mm=300, margin_mm=5, copies=1, kind="roll")
    left = left_of(roll, [Region([shapely.box(5, 5, 105, 205)])], reach_mm=105)
    assert left.beyond_mm == pytest.approx(890)
    assert left.taken_mm2 == pytest.approx(110 * 300)
    assert left.around_mm2 == pytest.approx(110 * 300 - 100 * 200)
    assert left.around_mm2 + left.pieces_mm2 == pytest.approx(left.taken_mm2)


def test_of_a_scrap_all_is_left_but_the_pieces():
    outline = as_region(shapely.box(0, 0, 200, 100).difference(shapely.box(50, 20, 90, 60)))
    scrap = Sheet(width_mm=200, height_mm=100, outline=outline, copies=1, kind="scrap")
    left = left_of(scrap, [Region([shapely.box(100, 10, 150, 60)])], reach_mm=150)
    assert left.beyond_mm == 0
    assert left.around_mm2 == pytest.approx(200 * 100 - 40 * 40 - 50 * 50)
    assert not left.around.intersects(shapely.box(101, 11, 149, 59))


def test_the_largest_rectangle_around_a_hole_is_the_one_worked_out_by_hand():
    # A hole from 60 to 100 across in a sheet of 200 x 100: beside it to the right stay 100 x 100, above it 200 x 30.
    region = as_region(shapely.box(0, 0, 200, 100).difference(shapely.box(60, 30, 100, 70)))
    assert largest_rectangle(region) == pytest.approx((100, 0, 200, 100), abs=0.05)
    first, second = rectangles_in(region, least_mm=25, most=2)
    assert first == pytest.approx((100, 0, 200, 100), abs=0.05)
    assert second == pytest.approx((0, 0, 60, 100), abs=0.05)


def test_nothing_narrow_is_offered():
    assert rectangles_in(as_region(shapely.box(0, 0, 500, 8)), least_mm=30) == []
    assert largest_rectangle(Region()) is None


@given(st.integers(0, 10_000))
def test_rectangles_lie_in_the_region_and_apart(seed):
    rng = np.random.default_rng(seed)
    holes = [shapely.Point(rng.uniform(0, 300, 2)).buffer(rng.uniform(5, 40)) for _ in range(6)]
    region = as_region(shapely.box(0, 0, 300, 200).difference(shapely.union_all(holes)))
    found = [shapely.box(*one) for one in rectangles_in(region, least_mm=20)]
    for k, one in enumerate(found):
        assert region.buffer(1e-6).covers(one)
        assert all(one.intersection(other).area < 1e-6 for other in found[:k])


@given(st.integers(0, 10_000))
def test_the_largest_rectangle_is_nearly_as_large_as_any_on_the_grid_of_corners(seed):
    # In a region of straight upright edges the largest rectangle has its sides on edges: all of them are tried.
    rng = np.random.default_rng(seed)
    holes = []
    for _ in range(4):
        x, y = rng.uniform(0, 250), rng.uniform(0, 150)
        holes.append(shapely.box(x, y, x + rng.uniform(5, 60), y + rng.uniform(5, 60)))
    region = as_region(shapely.box(0, 0, 300, 200).difference(shapely.union_all(holes)))
    points = shapely.get_coordinates(region)
    xs, ys = np.unique(points[:, 0].round(6)), np.unique(points[:, 1].round(6))
    grown = region.buffer(1e-4)
    shapely.prepare(grown)
    best = 0.0
    for i, left in enumerate(xs):
        for right in xs[i + 1 :]:
            boxes = [shapely.box(left, top, right, low) for j, top in enumerate(ys) for low in ys[j + 1 :]]
            inside = shapely.covers(grown, boxes)
            best = max(best, max((b.area for b, ok in zip(boxes, inside, strict=True) if ok), default=0.0))
    left, top, right, bottom = largest_rectangle(region)
    assert (right - left) * (bottom - top) >= 0.97 * best
