"""No line is cut twice; lines are simplified and drawn as arcs within the tolerance."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from tests.cutting.readers import outlines_by_svgelements
from zinnet.cutting.arcs import spans_of
from zinnet.cutting.paths import CutPath, CutSheet, Shape, file_order, paths_of, simplified
from zinnet.cutting.shared_lines import cut_once
from zinnet.cutting.svg_file import cut_svg
from zinnet.geometry.region import as_region


def box(left, top, right, bottom, name, kind="outline"):
    return Shape(name, "cream", as_region(shapely.box(left, top, right, bottom)), kind)


def total(paths):
    return sum(path.length_mm for path in paths)


@given(st.integers(1, 5), st.integers(1, 5), st.floats(5, 40), st.floats(5, 40))
def test_boxes_that_touch_are_cut_along_each_common_edge_once(columns, rows, wide, high):
    shapes = [
        box(x * wide, y * high, (x + 1) * wide, (y + 1) * high, f"p{x}-{y}")
        for x in range(columns)
        for y in range(rows)
    ]
    paths = cut_once(file_order(shapes))
    grid = wide * columns * (rows + 1) + high * rows * (columns + 1)
    assert total(paths) == pytest.approx(grid, abs=0.05 * len(shapes) * 4)
    lines = shapely.union_all([shapely.LineString(path.points) for path in paths])
    for shape in shapes:
        edge = shapely.boundary(shape.region)
        assert shapely.difference(edge, shapely.buffer(lines, 0.03)).length < 1e-6, "every edge is cut"


def test_a_frame_gives_way_to_a_piece_that_lies_along_it():
    paths = cut_once(file_order([box(0, 0, 100, 60, "frame", "frame"), box(0, 0, 40, 30, "piece")]))
    piece = next(path for path in paths if path.piece == "piece")
    assert piece.closed
    assert piece.length_mm == pytest.approx(140)
    frame = [path for path in paths if path.piece == "frame"]
    assert not any(path.closed for path in frame)
    assert total(frame) == pytest.approx(320 - 70, abs=0.1)


def test_the_same_outline_twice_is_cut_once():
    paths = cut_once(file_order([box(0, 0, 40, 30, "a"), box(0, 0, 40, 30, "b")]))
    assert total(paths) == pytest.approx(140)


def test_lines_that_only_cross_or_touch_in_a_point_stay_whole():
    shapes = [box(0, 0, 40, 30, "a"), box(20, 10, 60, 50, "b"), box(60, 50, 80, 80, "c")]
    paths = cut_once(file_order(shapes))
    assert all(path.closed for path in paths)
    assert total(paths) == pytest.approx(140 + 160 + 100)


@given(st.floats(0.5, 120), st.floats(-3, 3), st.floats(0.3, 1.0))
def test_circles_and_ellipses_as_arcs_stay_within_a_twentieth_of_a_mm(radius, turn, squeeze):
    disc = shapely.affinity.scale(shapely.Point(150, 150).buffer(radius, quad_segs=64), 1.0, squeeze)
    disc = shapely.affinity.rotate(disc, turn, use_radians=True)
    (path,) = paths_of(Shape("disc", "cream", as_region(disc)))
    (read,) = outlines_by_svgelements(cut_svg(CutSheet("mat", 300, 300, (path,))))
    off = shapely.hausdorff_distance(shapely.LineString(read), disc.exterior, densify=0.2)
    assert off < 0.05


def test_a_circle_takes_few_arcs_with_its_own_radius():
    disc = as_region(shapely.Point(50, 50).buffer(30, quad_segs=40))
    (path,) = paths_of(Shape("disc", "cream", disc))
    spans = spans_of(path.points)
    assert len(spans) <= 5
    begin = tuple(path.points[0])
    for span in spans:
        if span.bulge:
            assert span.radius(begin) == pytest.approx(30, abs=0.03)
            assert 4 * math.atan(abs(span.bulge)) < math.radians(171)
        begin = span.end


def test_straight_lines_stay_lines_and_corners_stay_corners():
    for points in (
        np.array([(0, 0), (30, 0), (30, 20), (0, 20), (0, 0)], dtype=float),
        np.array([(0, 0), (30, 0), (60, 0), (60, 40), (0, 0)], dtype=float),
    ):
        assert not any(span.bulge for span in spans_of(points))


@given(st.integers(0, 10_000), st.integers(3, 60))
def test_simplified_rings_stay_closed_and_within_tolerance(seed, corners):
    rng = np.random.default_rng(seed)
    angles = np.sort(rng.uniform(0, 2 * np.pi, corners))
    radii = 30 + rng.normal(0, 0.02, corners)
    ring = np.column_stack([radii * np.cos(angles), radii * np.sin(angles)])
    ring = np.vstack([ring, ring[:1]])
    fewer = simplified(ring)
    assert (fewer[0] == fewer[-1]).all()
    assert 4 <= len(fewer) <= len(ring)
    assert shapely.hausdorff_distance(shapely.LineString(fewer), shapely.LineString(ring), densify=0.1) <= 0.015 + 1e-9


def test_arcs_turn_the_right_way_round_in_a_mirrored_drawing():
    """A half disc opens to one side; read back, its area and middle are where they were."""
    half = shapely.Point(50, 50).buffer(30, quad_segs=32).intersection(shapely.box(50, 0, 100, 100))
    (path,) = paths_of(Shape("half", "cream", as_region(half)))
    (read,) = outlines_by_svgelements(cut_svg(CutSheet("mat", 100, 100, (path,))))
    drawn = shapely.Polygon(read)
    assert drawn.area == pytest.approx(half.area, rel=2e-3)
    assert drawn.centroid.distance(half.centroid) < 0.05


def test_lines_have_names_that_tell_the_piece():
    ring = as_region(shapely.box(0, 0, 30, 30).difference(shapely.box(10, 10, 20, 20)))
    paths = list(paths_of(Shape("layer-1-copy-2", "cream", ring)))
    assert [(path.name, path.kind) for path in paths] == [
        ("layer-1-copy-2-counter-1", "counter"),
        ("layer-1-copy-2", "outline"),
    ]
    assert {path.piece for path in paths} == {"layer-1-copy-2"}
    assert isinstance(paths[0], CutPath)
