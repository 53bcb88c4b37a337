"""Pushing pieces together: nothing overlaps, nothing leaves its walls, and plain cases end where they must."""

import time

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import affinity

from tests.helpers import cases
from zinnet.geometry.region import Region
from zinnet.nesting.compact import Walls, compacted
from zinnet.nesting.grown import grown, single_outline


def pushed(regions, walls, gap, **options):
    moves = compacted(regions, walls, gap, deadline=time.monotonic() + 20, **options)
    return [affinity.translate(region, *move) for region, move in zip(regions, moves, strict=True)]


def square(x, y, size=10.0):
    return Region([shapely.box(x, y, x + size, y + size)])


def test_squares_in_a_row_end_at_the_gap():
    row = pushed([square(0, 0), square(31, 0), square(77, 0)], Walls(0, 0, 200, 10), 2.0)
    assert [one.bounds[0] for one in row] == pytest.approx([0, 12, 24], abs=0.01)


def test_pieces_slide_past_one_another_where_there_is_room():
    # The third square lies behind the first, but beside it is room for it: 22 of 24 mm are needed.
    row = pushed([square(0, 0), square(12, 3), square(24.5, 14)], Walls(0, 0, 200, 24), 2.0)
    assert max(one.bounds[2] for one in row) == pytest.approx(22, abs=0.1)


def test_a_piece_inside_a_counter_stays_inside():
    frame = Region([shapely.box(40, 0, 100, 60).difference(shapely.box(50, 10, 90, 50))])
    held = square(65, 25)
    moved_frame, moved_held = pushed([frame, held], Walls(0, 0, 200, 60), 3.0)
    assert moved_frame.bounds[0] == pytest.approx(0, abs=0.01)
    assert moved_frame.distance(moved_held) >= 3.0 - 1e-6
    assert shapely.box(*moved_frame.bounds).contains(moved_held)


def test_what_is_fixed_stays():
    first, second = pushed([square(30, 0), square(80, 0)], Walls(0, 0, 200, 10), 1.0, fixed=frozenset({0}))
    assert first.bounds[0] == 30
    assert second.bounds[0] == pytest.approx(41, abs=0.01)


def star(rng, x, y):
    corners = int(rng.integers(4, 12))
    angles = np.sort(rng.uniform(0, 2 * np.pi, corners))
    radii = rng.uniform(4, 14, corners)
    points = np.column_stack([x + radii * np.cos(angles), y + radii * np.sin(angles)])
    shape = shapely.make_valid(shapely.Polygon(points))
    return Region([max(shapely.get_parts(shape), key=lambda part: part.area)])


@settings(max_examples=cases(6, 100))
@given(st.integers(0, 100_000), st.sampled_from([0.0, 0.5, 2.0, 6.0]))
def test_random_pieces_keep_gap_and_walls_and_never_reach_farther(seed, gap):
    rng = np.random.default_rng(seed)
    step = 28 + gap + rng.uniform(0, 6)
    regions = [star(rng, 16 + step * k, 16 + step * m) for k in range(4) for m in range(3)]
    walls = Walls(0, 0, 400, 16 + 2 * step + 16)
    after = pushed(regions, walls, gap)
    for k, one in enumerate(after):
        left, top, _, bottom = one.bounds
        assert left >= -1e-6
        assert top >= -1e-6
        assert bottom <= walls.bottom + 1e-6
        for other in after[:k]:
            assert one.distance(other) >= gap - 1e-6
            assert one.intersection(other).area < 1e-6
    assert max(one.bounds[2] for one in after) <= max(one.bounds[2] for one in regions) + 1e-6


@given(st.integers(0, 100_000), st.sampled_from([0.0, 0.5, 3.0]), st.booleans())
def test_a_grown_shape_covers_all_that_is_nearer_than_half_the_gap(seed, half, with_holes):
    rng = np.random.default_rng(seed)
    region = star(rng, 0, 0).buffer(2.0, quad_segs=30)
    region = region.difference(region.buffer(-3.0))
    shape = grown(Region(shapely.get_parts(region)), half, 0.1, with_holes=with_holes)
    assert shape.covers(region.buffer(half, quad_segs=64))
    left, _, right, _ = region.buffer(half).bounds
    assert shape.bounds[0] >= left - 0.4
    assert shape.bounds[2] <= right + 0.4
    assert shape.area <= shapely.Polygon(region.exterior).buffer(half + 0.4).area
    if not with_holes:
        assert not any(part.interiors for part in shape.geoms)


def test_parts_are_joined_to_one_outline():
    parts = Region([shapely.box(0, 0, 4, 4), shapely.box(10, 0, 14, 4), shapely.box(0, 20, 4, 24)])
    outline = single_outline(parts)
    assert outline.is_valid
    assert not outline.interiors
    assert outline.covers(parts)
    assert outline.area < parts.area + 5
