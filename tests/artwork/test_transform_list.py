"""Transform lists as CSS Transforms 1 and CSS Values 4 have them, against matrices worked out by hand."""

import numpy as np
import pytest

from tests.helpers import svg
from zinnet.artwork.svg.reader import read_svg
from zinnet.artwork.svg.transform_list import parse_transform

HALF = np.sqrt(0.5)
MM = 96 / 25.4


@pytest.mark.parametrize(
    ("text", "matrix"),
    [
        ("rotate(0.25turn)", [[0, -1, 0], [1, 0, 0], [0, 0, 1]]),
        ("rotate(50grad)", [[HALF, -HALF, 0], [HALF, HALF, 0], [0, 0, 1]]),
        (f"rotate({np.pi / 4}rad)", [[HALF, -HALF, 0], [HALF, HALF, 0], [0, 0, 1]]),
        ("rotate(45deg)", [[HALF, -HALF, 0], [HALF, HALF, 0], [0, 0, 1]]),
        ("translate(10mm, 1in)", [[1, 0, 10 * MM], [0, 1, 96], [0, 0, 1]]),
        ("translateX(2cm) translateY(3pt)", [[1, 0, 20 * MM], [0, 1, 4], [0, 0, 1]]),
        ("scaleX(2) scaleY(3)", [[2, 0, 0], [0, 3, 0], [0, 0, 1]]),
        ("skew(45deg, 0.125turn)", [[1, 1, 0], [1, 1, 0], [0, 0, 1]]),
        ("rotate(90 1in 0)", [[0, -1, 96], [1, 0, -96], [0, 0, 1]]),
        ("rotate(90,10,20)", [[0, -1, 30], [1, 0, 10], [0, 0, 1]]),
        ("matrix(1 2 3 4 5 6)", [[1, 3, 5], [2, 4, 6], [0, 0, 1]]),
        ("none", np.eye(3)),
    ],
)
def test_every_function_and_unit_is_read(text, matrix):
    assert parse_transform(text) == pytest.approx(np.array(matrix, dtype=float), abs=1e-9)


@pytest.mark.parametrize(
    "text",
    ["rotate(10mm)", "translate(50%)", "rotate3d(1,1,1,45deg)", "scale(2px)", "spin(3)", "scale()"],
)
def test_what_can_not_be_read_is_left_out_and_said(text):
    assert parse_transform(text) is None
    artwork = read_svg(svg(f'<rect width="10" height="10" fill="red" style="transform: {text}"/>'), "x")
    (remark,) = [one for one in artwork.remarks if one.code == "mended"]
    assert "transform" in remark.message
    assert np.allclose(artwork.shapes[0].matrix, np.eye(3))
