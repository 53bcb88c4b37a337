"""Transform lists and viewBoxes, by the rules and examples of SVG 2, chapter 8, and of CSS Transforms 1."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from zinnet.artwork.svg.transform_list import fit_view_box, read_transform, read_view_box

value = st.floats(-50, 50).map(lambda number: round(number, 3))


def at(matrix, x, y):
    return tuple((matrix @ [x, y, 1.0])[:2])


@pytest.mark.parametrize(
    ("text", "point", "lands"),
    [
        ("translate(50,90)", (1, 2), (51, 92)),
        ("translate(50)", (1, 2), (51, 2)),
        ("translate(5px 9px)", (1, 2), (6, 11)),
        ("scale(2)", (3, 4), (6, 8)),
        ("scale(2 -1)", (3, 4), (6, -4)),
        ("rotate(90)", (1, 0), (0, 1)),
        ("rotate(90deg)", (1, 0), (0, 1)),
        ("rotate(180, 10, 20)", (11, 20), (9, 20)),
        ("skewX(45)", (1, 2), (3, 2)),
        ("skewY(45)", (1, 2), (1, 3)),
        ("matrix(1 2 3 4 5 6)", (1, 1), (1 + 3 + 5, 2 + 4 + 6)),
        ("translate(10,20),scale(2)", (1, 1), (12, 22)),
        ("scale(2) translate(10,20)", (1, 1), (22, 42)),
        ("  rotate( -90 )\n translate(1e1,-.5) ", (0, 0), (-0.5, -10)),
    ],
)
def test_each_function_moves_a_point_where_svg_says(text, point, lands):
    assert at(read_transform(text), *point) == pytest.approx(lands)


@pytest.mark.parametrize(
    "text",
    [
        None,
        "",
        "none",
        "turn(40)",
        "rotate(40",
        "rotate(1 2)",
        "matrix(1 2 3)",
        "scale()",
        "translate(5) wobble",
        "scale(1e999)",
        "rotate(1e999)",
    ],
)
def test_a_list_that_can_not_be_read_changes_nothing(text):
    assert np.array_equal(read_transform(text), np.eye(3))


@given(st.lists(st.tuples(st.sampled_from(["translate", "rotate", "skewX", "scale"]), value), max_size=5))
def test_a_list_is_the_product_of_its_functions(rows):
    product = np.eye(3)
    for name, number in rows:
        product = product @ read_transform(f"{name}({number})")
    assert read_transform(" ".join(f"{name}({number})" for name, number in rows)) == pytest.approx(product)


@given(value, value, value)
def test_turning_about_a_point_leaves_that_point(angle, x, y):
    matrix = read_transform(f"rotate({angle} {x} {y})")
    assert at(matrix, x, y) == pytest.approx((x, y), abs=1e-9)
    assert np.linalg.det(matrix) == pytest.approx(1)
    assert math.degrees(math.atan2(matrix[1, 0], matrix[0, 0])) == pytest.approx(angle)


@pytest.mark.parametrize("text", [None, "", "0 0 10", "0 0 0 5", "0 0 5 -1", "0 0 1e999 5", "a b c d"])
def test_a_view_box_that_can_not_be_used_is_none(text):
    assert read_view_box(text) is None


def test_a_view_box_takes_commas_and_signs():
    assert read_view_box("-1,-2.5, 30 40") == (-1, -2.5, 30, 40)


@pytest.mark.parametrize(
    ("aspect", "upper_left", "lower_right"),
    [
        # A viewBox of 100 x 50 in a viewport of 200 x 200: it is stretched, kept whole or filling.
        ("none", (0, 0), (200, 200)),
        (None, (0, 50), (200, 150)),
        ("xMinYMin meet", (0, 0), (200, 100)),
        ("xMaxYMax", (0, 100), (200, 200)),
        ("xMidYMid slice", (-100, 0), (300, 200)),
        ("xMinYMax slice", (0, 0), (400, 200)),
        ("nonsense", (0, 50), (200, 150)),
    ],
)
def test_a_view_box_is_fitted_as_its_aspect_says(aspect, upper_left, lower_right):
    matrix = fit_view_box((10, 20, 100, 50), 200, 200, aspect)
    assert at(matrix, 10, 20) == pytest.approx(upper_left)
    assert at(matrix, 110, 70) == pytest.approx(lower_right)
