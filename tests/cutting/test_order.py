"""The order of cutting: inside before outside, small before large, frames last, and little travel."""

import itertools

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from tests.helpers import cases
from zinnet.cutting.order import in_cutting_order, must_precede, travel_mm
from zinnet.cutting.paths import CutPath, Shape, file_order, paths_of
from zinnet.cutting.tour import Tour, improved
from zinnet.geometry.region import Region, as_region


def ring(x, y, side, name="p", kind="outline"):
    points = np.array([(x, y), (x + side, y), (x + side, y + side), (x, y + side), (x, y)], dtype=float)
    return CutPath(name, name, "cream", kind, points)


def scattered(count, seed, spread=300.0):
    rng = np.random.default_rng(seed)
    shapes = []
    cells = [(x, y) for x in range(int(spread // 24)) for y in range(int(spread // 24))]
    for k, cell in enumerate(rng.permutation(len(cells))[:count]):
        x, y = (24 * c for c in cells[cell])
        shape = shapely.Point(x + 12, y + 12).buffer(rng.uniform(5, 10))
        if k % 3 == 0:
            shape = shape.difference(shapely.Point(x + 12, y + 12).buffer(rng.uniform(1, 3)))
        if k % 6 == 0:
            shape = shape.union(shapely.Point(x + 12, y + 12).buffer(0.6))
        shapes.append(Shape(f"p{k}", "cream", as_region(shape)))
    return file_order(shapes)


@given(st.integers(1, 60), st.integers(0, 10_000))
def test_every_line_is_there_once_and_what_is_inside_comes_first(count, seed):
    paths = scattered(count, seed)
    ordered = in_cutting_order(paths, (0.0, 300.0))
    assert sorted(path.name for path in ordered) == sorted(path.name for path in paths)
    same = {path.name: path for path in paths}
    shapes = [shapely.Polygon(path.points) for path in ordered]
    for path, shape in zip(ordered, shapes, strict=True):
        assert shape.equals(shapely.Polygon(same[path.name].points)), "only its start may differ"
    for k, earlier in enumerate(shapes):
        for later in shapes[k + 1 :]:
            assert not (earlier.area > later.area and earlier.contains(later.representative_point()))


def test_small_parts_are_cut_before_the_large_one_beside_them():
    paths = [ring(0, 0, 60, "large"), ring(62, 0, 3, "small"), ring(200, 0, 3, "far")]
    names = [path.name for path in in_cutting_order(paths)]
    assert names.index("small") < names.index("large")
    assert {tuple(pair) for pair in must_precede(paths).tolist()} == {(1, 0)}


def test_frames_come_after_all_pieces_and_lines_through_the_waste_after_the_frames():
    line = CutPath("line", "line", "cream", "line", np.array([(0.0, 50.0), (0.0, 90.0)]), closed=False)
    paths = [line, ring(0, 0, 100, "frame", "frame"), ring(10, 10, 20, "a"), ring(60, 60, 20, "b")]
    kinds = [path.kind for path in in_cutting_order(paths)]
    assert kinds == ["outline", "outline", "frame", "line"]


@pytest.mark.parametrize("seed", range(cases(2, 4)))
def test_travel_is_at_least_a_third_shorter_than_in_the_files_order(seed):
    paths = scattered(60, seed)
    assert travel_mm(in_cutting_order(paths)) < 0.7 * travel_mm(paths)


@given(st.integers(0, 10_000), st.integers(3, 7), st.integers(0, 4))
def test_few_points_are_ordered_as_well_as_by_trying_all_orders(seed, count, pairs):
    rng = np.random.default_rng(seed)
    points = rng.uniform(0, 100, (count, 2))
    before = {tuple(sorted(rng.choice(count, 2, replace=False).tolist())) for _ in range(pairs)}
    first, last = np.zeros(2), np.array([0.0, 100.0])

    def length(order):
        way = np.vstack([first, points[list(order)], last])
        return float(np.hypot(*np.diff(way, axis=0).T).sum())

    def holds(order):
        place = {node: k for k, node in enumerate(order)}
        return all(place[a] < place[b] for a, b in before)

    best = min(length(order) for order in itertools.permutations(range(count)) if holds(order))
    tour = Tour(points, points, first, last, np.array(sorted(before), dtype=np.int64).reshape(-1, 2))
    found = improved(tour, np.arange(count))
    assert holds(found.tolist())
    assert length(found) <= best * 1.02 + 1e-9


@given(st.integers(0, 10_000), st.integers(2, 5))
def test_open_lines_are_gone_through_the_way_that_is_shorter(seed, count):
    """Against all orders and directions of a few lines."""
    rng = np.random.default_rng(seed)
    lines = [
        CutPath(f"l{k}", f"l{k}", "cream", "line", rng.uniform(0, 100, (2, 2)), closed=False) for k in range(count)
    ]
    best = min(
        travel_mm([line.starting_at(1) if back else line for line, back in zip(order, backs, strict=True)])
        for order in itertools.permutations(lines)
        for backs in itertools.product([False, True], repeat=count)
    )
    assert travel_mm(in_cutting_order(lines)) <= best * 1.02 + 1e-9


def test_the_same_mat_is_ordered_the_same_way_again():
    paths = scattered(40, 7)
    assert [path.name for path in in_cutting_order(paths)] == [path.name for path in in_cutting_order(paths)]


def test_a_line_is_begun_on_a_corner_where_it_has_one():
    half_disc = shapely.Point(50, 50).buffer(30).intersection(shapely.box(0, 0, 100, 50))
    (path,) = in_cutting_order(tuple(paths_of(Shape("half", "cream", as_region(half_disc)))), (50.0, 0.0))
    corners = [(20.0, 50.0), (80.0, 50.0)]
    assert min(np.hypot(*(path.points[0] - corner)) for corner in corners) < 0.1


def test_nothing_and_one_line_are_in_order():
    assert in_cutting_order(()) == ()
    (only,) = in_cutting_order([ring(0, 0, 10)])
    assert only.name == "p"
    assert list(paths_of(Shape("none", "cream", Region()))) == []
