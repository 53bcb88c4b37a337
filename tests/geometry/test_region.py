import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from zinnet.base.errors import ArtworkError
from zinnet.geometry.region import (
    Region,
    as_region,
    common,
    differing,
    fill,
    grown_simplified,
    seamless,
    settled,
    union,
    winding,
    without,
    without_specks,
)

coordinate = st.integers(0, 60).map(float)
ring = st.lists(st.tuples(coordinate, coordinate), min_size=3, max_size=9).map(np.array)


@given(st.lists(ring, min_size=1, max_size=3), st.sampled_from(["nonzero", "evenodd"]))
def test_a_filled_region_holds_just_the_points_that_the_rule_names(rings, rule):
    # SVG 2, 13.3.2: nonzero where the signed crossings do not cancel, evenodd where they are odd.
    region = fill(rings, rule)
    assert region.is_valid
    spots = np.random.default_rng(1).uniform(-2, 62, (60, 2))
    turns = np.zeros(len(spots), dtype=int)
    for points in rings:
        angle = np.zeros(len(spots))
        for a, b in zip(points, np.roll(points, -1, axis=0), strict=True):
            u, v = a - spots, b - spots
            angle += np.arctan2(u[:, 0] * v[:, 1] - u[:, 1] * v[:, 0], (u * v).sum(axis=1))
        turns += np.rint(angle / (2 * np.pi)).astype(int)
    wanted = turns % 2 != 0 if rule == "evenodd" else turns != 0
    clear = shapely.distance(shapely.points(spots), shapely.MultiLineString([list(r) for r in rings])) > 1e-6
    edges = shapely.union_all([shapely.LinearRing(r) if len(r) > 2 else shapely.Point(0, 0) for r in rings])
    clear &= shapely.distance(shapely.points(spots), edges) > 1e-6
    assert (shapely.contains_xy(region, *spots.T) == wanted)[clear].all()


@given(
    st.integers(3, 9),
    st.floats(0, 6.28),
    st.lists(st.floats(-0.9, 1.9), min_size=2, max_size=30),
    st.sampled_from(["nonzero", "evenodd"]),
)
def test_an_outline_that_runs_back_over_itself_keeps_its_area(corners, turn, along, rule):
    # As a curve does whose handles lie on one line: there and back along a slanted edge, off it by rounding.
    angle = turn + np.linspace(0, 2 * np.pi, corners, endpoint=False)
    polygon = 35 + 30 * np.column_stack([np.cos(angle), np.sin(angle)])
    back_and_forth = [polygon[0] + share * (polygon[1] - polygon[0]) for share in along]
    region = fill([np.array([polygon[0], *back_and_forth, *polygon[1:]])], rule)
    assert region.is_valid
    assert region.area == pytest.approx(shapely.Polygon(polygon).area, rel=1e-6)


def test_winding_counts_both_directions():
    square = np.array([(0, 0), (4, 0), (4, 4), (0, 4), (0, 0)], dtype=float)
    inside = np.array([[2.0, 2.0]])
    assert winding(inside, [square, square]).tolist() == [2]
    assert winding(inside, [square, square[::-1]]).tolist() == [0]


def test_a_tangle_is_refused_at_once():
    points = np.random.default_rng(0).uniform(0, 100, (60_000, 2))
    with pytest.raises(ArtworkError, match="crosses itself about"):
        fill([points], "nonzero")


@given(st.integers(4, 200), st.floats(0.02, 2), st.integers(0, 99))
def test_a_grown_shape_covers_the_true_one_and_reaches_little_further(corners, tolerance, seed):
    radii = np.random.default_rng(seed).uniform(10, 30, corners)
    angle = np.linspace(0, 2 * np.pi, corners, endpoint=False)
    star = Region([shapely.Polygon(np.column_stack([radii * np.cos(angle), radii * np.sin(angle)]))])
    grown = grown_simplified(star, tolerance)
    assert grown.is_valid
    assert shapely.covers(grown, star)
    assert shapely.covers(star.buffer(3.05 * tolerance), grown)


def test_dust_goes_and_real_parts_stay():
    region = Region([shapely.box(0, 0, 10, 10), shapely.box(20, 0, 20.001, 10), shapely.box(30, 0, 31, 1)])
    assert len(without_specks(region, 0.01).geoms) == 2


def test_an_overlay_that_rounding_breaks_is_tried_on_coarser_grids_and_then_refused(monkeypatch):
    one, other = (as_region(shapely.box(x, 0, x + 2, 2)) for x in (0, 1))
    tried = []

    def breaks(*regions, grid_size=None):
        tried.append(grid_size)
        if grid_size is None or grid_size < least:
            raise shapely.errors.GEOSException("TopologyException")
        return usual(*regions, grid_size=grid_size)

    usual, least = shapely.intersection, 9e-7
    monkeypatch.setattr(shapely, "intersection", breaks)
    assert common(one, other).area == pytest.approx(2, abs=1e-3)
    assert tried[0] is None
    assert tried[1:] == sorted(tried[1:])
    least = 1e9
    with pytest.raises(ArtworkError, match="too large and too close"):
        common(one, other)


def test_holes_that_rounding_lets_touch_stay_holes():
    outer = [(0, 0), (100, 0), (100, 80), (0, 80)]
    left, right = [(20, 20), (50, 20), (50, 60), (20, 60)], [(50 - 1e-9, 30), (80, 30), (80, 50), (50 - 1e-9, 50)]
    broken = Region([shapely.Polygon(outer, [left, right])])
    assert not broken.is_valid
    whole = settled(broken)
    assert whole.is_valid
    assert whole.area == pytest.approx(100 * 80 - 30 * 40 - 30 * 20)


def test_parts_that_meet_no_other_are_laid_over_others_as_they_are():
    dots = Region([shapely.Point(10 * k, 0).buffer(3) for k in range(60)])
    bar = Region([shapely.box(95, -1, 205, 1)])
    for made, plain in (
        (union([dots, bar]), shapely.union(dots, bar)),
        (seamless([dots, bar]), shapely.union(dots, bar)),
        (without(dots, bar), shapely.difference(dots, bar)),
        (common(dots, bar), shapely.intersection(dots, bar)),
    ):
        assert made.is_valid
        assert shapely.symmetric_difference(made, plain).area < 1e-4
    assert union([dots, Region()]).equals(dots)


@given(st.lists(st.tuples(st.integers(0, 9), st.integers(0, 9), st.integers(1, 4)), min_size=1, max_size=12), st.data())
def test_what_differs_is_found_without_looking_at_what_both_have_alike(squares, data):
    one = union(shapely.box(x, y, x + side, y + side) for x, y, side in squares)
    fewer = data.draw(st.lists(st.sampled_from(squares), max_size=12))
    other = union([*(shapely.box(x, y, x + side, y + side) for x, y, side in fewer), shapely.box(20, 0, 21, 1)])
    found = differing(one, other)
    assert shapely.symmetric_difference(found, shapely.symmetric_difference(one, other)).area == pytest.approx(0)
    moved_a_hair = shapely.transform(other, lambda points: points + 0.001)
    hair = differing(moved_a_hair, one, within=0.01)
    assert abs(hair.area - found.area) <= 0.001 * 2 * (shapely.length(one) + shapely.length(other))


def test_a_part_that_moved_is_no_longer_alike():
    row = union(shapely.box(3 * k, 0, 3 * k + 2, 2) for k in range(5))
    moved_one = union([*list(row.geoms)[1:], shapely.box(0, 0.5, 2, 2.5)])
    assert differing(row, moved_one, within=0.1).area == pytest.approx(2.0)
    holed = union([*list(row.geoms)[1:], shapely.box(0, 0, 2, 2).difference(shapely.box(0.9, 0.9, 1.1, 1.1))])
    assert differing(row, holed, within=0.1).area == pytest.approx(0.04)


def test_settling_leaves_no_grain_that_rounding_made():
    crossed = shapely.Polygon([(0, 0), (10, 0), (10, 10), (0, 10), (5, -1e-10)])
    assert not crossed.is_valid
    assert len(shapely.make_valid(crossed, method="structure").geoms) == 2
    (left,) = settled(Region([crossed])).geoms
    assert left.area == pytest.approx(75.0)
