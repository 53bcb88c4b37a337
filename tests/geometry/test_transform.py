"""The matrices of the chain: products, turns and mirrors, against plain trigonometry."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from zinnet.geometry.transform import (
    IDENTITY,
    MIRROR,
    affine,
    apply,
    coefficients,
    is_mirrored,
    moved,
    scale,
    shift,
    similarity,
    stretch,
    turn,
)

number = st.floats(-500, 500)
angle = st.floats(-720, 720)


@given(number, number, angle)
def test_a_turn_keeps_lengths_and_turns_clockwise_on_screen(x, y, degrees):
    (moved_x, moved_y) = apply(turn(degrees), np.array([x, y]))
    assert math.hypot(moved_x, moved_y) == pytest.approx(math.hypot(x, y), abs=1e-6)
    expected = (
        x * math.cos(math.radians(degrees)) - y * math.sin(math.radians(degrees)),
        x * math.sin(math.radians(degrees)) + y * math.cos(math.radians(degrees)),
    )
    assert (moved_x, moved_y) == pytest.approx(expected, abs=1e-6)


@pytest.mark.parametrize(
    ("degrees", "end"), [(0, (1, 0)), (90, (0, 1)), (180, (-1, 0)), (270, (0, -1)), (-90, (0, -1))]
)
def test_quarter_turns_are_exact(degrees, end):
    assert tuple(apply(turn(degrees), np.array([1.0, 0.0]))) == end


@given(st.floats(0.01, 50), angle, number, number)
def test_a_similarity_scales_every_length_alike(factor, degrees, x, y):
    matrix = similarity(factor=factor, turn_deg=degrees, x=x, y=y)
    triangle = np.array([(0.0, 0.0), (30.0, 0.0), (10.0, 20.0)])
    placed = apply(matrix, triangle)
    for a, b in ((0, 1), (1, 2), (0, 2)):
        assert math.dist(placed[a], placed[b]) == pytest.approx(factor * math.dist(triangle[a], triangle[b]), rel=1e-9)
    assert not is_mirrored(matrix)
    assert is_mirrored(MIRROR @ matrix)
    assert stretch(matrix) == pytest.approx(factor)


@given(number, number, st.floats(0.1, 9), angle)
def test_a_matrix_and_its_inverse_bring_points_back(x, y, factor, degrees):
    matrix = shift(x, y) @ turn(degrees) @ scale(factor)
    points = np.array([(3.0, 4.0), (-7.0, 11.0)])
    assert apply(np.linalg.inv(matrix), apply(matrix, points)) == pytest.approx(points, abs=1e-6)


def test_the_coefficients_are_those_that_svg_writes():
    # SVG 2, 8.5: matrix(a b c d e f).
    assert coefficients(affine(1, 2, 3, 4, 5, 6)) == (1, 2, 3, 4, 5, 6)
    assert coefficients(shift(7, 8)) == (1, 0, 0, 1, 7, 8)


@given(st.floats(0.1, 20), st.floats(0.1, 20), angle)
def test_areas_grow_by_the_determinant(x, y, degrees):
    square = shapely.box(0, 0, 10, 5)
    assert moved(square, turn(degrees) @ scale(x, y)).area == pytest.approx(50 * x * y)
    assert stretch(turn(degrees) @ scale(x, y)) == pytest.approx(max(x, y))


def test_constants_can_not_be_changed_by_accident():
    for constant in (IDENTITY, MIRROR):
        with pytest.raises(ValueError, match="read-only"):
            constant[0, 0] = 5
