"""What is left of film: areas that balance, and rectangles that really lie in it."""

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from scipy.ndimage import minimum_filter

from zinnet.geometry.region import Region, as_region
from zinnet.nesting.leftovers import largest_rectangle, rectangles_in, useful_parts


def holds_a_square(region, side_mm):
    """Tell by pixels of 1 mm, each wholly inside, whether an upright square lies in a region: a check of its own."""
    left, top, right, bottom = region.bounds
    xs, ys = np.arange(left, right - 1, 1.0), np.arange(top, bottom - 1, 1.0)
    if not len(xs) or not len(ys):
        return False
    x, y = (part.ravel() for part in np.meshgrid(xs, ys))
    cells = shapely.box(x, y, x + 1, y + 1)
    inside = shapely.covers(region, cells).reshape(len(ys), len(xs))
    side = int(side_mm) - 2
    return bool(minimum_filter(inside, size=side, mode="constant", cval=False).any())


def test_skeletons_tongues_and_bridges_are_of_no_use_and_the_rest_is():
    skeleton = shapely.box(0, 0, 300, 200).difference(
        shapely.union_all([shapely.box(x, y, x + 44, y + 44) for x in range(6, 290, 50) for y in range(6, 190, 50)])
    )
    assert useful_parts(as_region(skeleton), least_mm=40) == []
    two = shapely.union_all([shapely.box(0, 0, 100, 90), shapely.box(100, 30, 200, 50), shapely.box(200, 0, 250, 90)])
    one, other = useful_parts(as_region(two), least_mm=40)
    assert sorted((one.area, other.area)) == pytest.approx([50 * 90, 100 * 90], rel=0.02)


@given(st.integers(0, 10_000))
def test_from_each_part_the_least_square_can_be_cut(seed):
    rng = np.random.default_rng(seed)
    cut = [shapely.Point(rng.uniform(0, 300, 2)).buffer(rng.uniform(10, 50)) for _ in range(8)]
    region = as_region(shapely.box(0, 0, 300, 200).difference(shapely.union_all(cut)))
    parts = useful_parts(region, least_mm=40)
    for part in parts:
        assert region.buffer(1e-6).covers(part)
        assert holds_a_square(part, 40)
    assert sum(part.area for part in parts) == pytest.approx(shapely.union_all(parts).area)


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
