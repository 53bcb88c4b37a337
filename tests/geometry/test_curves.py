import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from zinnet.geometry.curves import Subpath, arc_as_cubics, ellipse, flatten

coordinate = st.floats(-100, 100)
point = st.tuples(coordinate, coordinate)


def on_cubic(control, t):
    """De Casteljau's construction, apart from the flattening's own formula."""
    points = np.array(control, dtype=float)
    while len(points) > 1:
        points = (1 - t) * points[:-1] + t * points[1:]
    return points[0]


@given(st.lists(point, min_size=4, max_size=4), st.floats(0.001, 1))
def test_a_flattened_curve_stays_within_the_tolerance(control, tolerance):
    line = flatten(Subpath(np.array([control]), closed=False), tolerance)
    start, end = line[:-1], line[1:]
    for t in np.linspace(0, 1, 41):
        spot = on_cubic(control, t)
        along = end - start
        length = (along**2).sum(axis=1)
        share = np.clip(((spot - start) * along).sum(axis=1) / np.where(length == 0, 1, length), 0, 1)
        nearest = start + share[:, None] * along
        assert np.hypot(*(spot - nearest).T).min() <= tolerance * 1.01 + 1e-9


def test_an_ellipse_has_the_area_of_the_textbook():
    # Area of an ellipse: pi a b.
    line = flatten(ellipse(3, 4, 50, 20), 0.0005)
    x, y = line.T
    assert abs(0.5 * np.sum(x[:-1] * y[1:] - x[1:] * y[:-1])) == pytest.approx(math.pi * 50 * 20, rel=1e-4)


@pytest.mark.parametrize("large", [False, True])
@pytest.mark.parametrize("sweep", [False, True])
def test_arc_flags_choose_one_of_the_four_arcs(large, sweep):
    # SVG 2, 9.3.8: four arcs of radii 100 and 50 join two points; the flags pick one of them.
    start, end = (300.0, 100.0), (220.0, 70.0)
    line = flatten(Subpath(arc_as_cubics(start, (100, 50), 0, large, sweep, end), closed=False), 0.0005)
    assert line[0].tolist() == list(start)
    assert line[-1].tolist() == list(end)
    circle = line / (100, 50)
    a, b, c = circle[0], circle[len(circle) // 2], circle[-1]
    centre = np.linalg.solve(2 * np.array([b - a, c - a]), [(b @ b) - (a @ a), (c @ c) - (a @ a)])
    assert np.hypot(*(circle - centre).T) == pytest.approx(np.ones(len(circle)), abs=1e-4)
    angles = np.unwrap(np.arctan2(*(circle - centre).T[::-1]))
    turned = math.degrees(angles[-1] - angles[0])
    assert (turned > 0) == sweep
    assert (abs(turned) > 180) == large


def test_radii_too_small_are_scaled_up_and_zero_radii_give_a_line():
    # SVG 2, 9.5.1: "If rx = 0 or ry = 0, treat as a straight line"; too small radii are scaled up.
    half = flatten(Subpath(arc_as_cubics((0, 0), (1, 1), 0, False, True, (20, 0)), closed=False), 0.001)
    assert np.hypot(half[:, 0] - 10, half[:, 1]) == pytest.approx(np.full(len(half), 10), abs=0.001)
    straight = flatten(Subpath(arc_as_cubics((0, 0), (0, 5), 0, False, True, (20, 0)), closed=False), 0.001)
    assert straight.tolist() == [[0, 0], [20, 0]]
