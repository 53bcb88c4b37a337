"""Path data by the examples and the grammar of SVG 1.1 (chapter 8) and SVG 2 (chapter 9)."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.helpers import painted
from zinnet.artwork.svg.path_data import read_path


def ends(data):
    """Return the joints of each subpath, rounded."""
    subpaths, _ = read_path(data)
    return [
        [tuple(round(float(v), 6) + 0.0 for v in s.cubics[0, 0])]
        + [tuple(round(float(v), 6) + 0.0 for v in c[3]) for c in s.cubics]
        for s in subpaths
    ]


@pytest.mark.parametrize(
    ("data", "same"),
    [
        # SVG 1.1, 8.3.1: superfluous white space and separators; omitted repeated commands.
        ("M 100 100 L 200 200", "M100 100L200 200"),
        ("M 100 200 L 200 100 L -100 -200", "M 100 200 L 200 100 -100 -200"),
        ("M 100 200 L 200 100 L -100 -200", "M100,200 200,100-100-200"),
        # 8.3.2: a relative moveto at the beginning is absolute; further pairs are implicit linetos.
        ("m 1 1 2 2 3 3", "M 1 1 L 3 3 L 6 6"),
        # 8.3.9: "M 0.6.5" has two numbers; an exponent and a sign need no separator.
        ("M 0.6 0.5 L 10 -3", "M0.6.5L1e1-3"),
        # SVG 2, 9.3.9: arc flags need no separator behind them.
        ("M0 0 a25 25 -30 0 1 10 -5", "M0 0a25,25 -30 0110-5"),
        ("M10 -20 A 5.5 0.3 -4 1 1 0 -0.1", "M10-20A5.5.3-4 110-.1"),
        ("M0 0 H 10 V 20 H 5", "m0 0h10v20h-5"),
    ],
)
def test_spellings_that_mean_the_same(data, same):
    assert ends(data) == ends(same)
    assert read_path(same)[1]


@pytest.mark.parametrize(
    ("data", "kept"),
    # SVG 2, 9.3.1 and 9.5.4: what comes before an error is kept.
    [
        ("M 100 100 L 200 200 L", [[(100, 100), (200, 200)]]),
        ("M 100 100 L 200 200 foo 300 300", [[(100, 100), (200, 200)]]),
        ("M 0 0 L 10 10 20", [[(0, 0), (10, 10)]]),
        ("M 0 0 L 5 5 A 5 5 0 2 1 9 9", [[(0, 0), (5, 5)]]),
        ("M 0 0 L 5 5 L NaN 5", [[(0, 0), (5, 5)]]),
        ("M 0 0 L 5 5 L 1e999 5", [[(0, 0), (5, 5)]]),
        ("L 5 5", []),
    ],
)
def test_an_error_ends_the_path(data, kept):
    assert ends(data) == kept
    assert not read_path(data)[1]


def test_after_a_closepath_the_next_subpath_starts_at_the_same_point():
    # SVG 1.1, 8.3.3: "the next subpath starts at the same initial point as the current subpath".
    assert ends("M 10 10 h 5 v 5 z l -3 0")[1] == [(10, 10), (7, 10)]


def test_smooth_curves_mirror_the_handle():
    # SVG 1.1, 8.3.6, figure cubic01: M100,200 C100,100 250,100 250,200 S400,300 400,200
    (subpath,), whole = read_path("M100,200 C100,100 250,100 250,200 S400,300 400,200")
    assert whole
    assert subpath.cubics[1].tolist() == [[250, 200], [250, 300], [400, 300], [400, 200]]
    # 8.3.7, figure quad01: M200,300 Q400,50 600,300 T1000,300; the mirrored control point is 800,550.
    (quad,), _ = read_path("M200,300 Q400,50 600,300 T1000,300")
    assert quad.cubics[1][1].tolist() == pytest.approx([600 + 2 / 3 * 200, 300 + 2 / 3 * 250])


def test_the_standards_triangle_and_pie():
    # SVG 1.1, example triangle01: "M 100 100 L 300 100 L 200 300 z".
    assert painted('<path d="M 100 100 L 300 100 L 200 300 z" fill="red"/>').area == pytest.approx(20000)
    # Example arcs01: a three-quarter pie of radius 150 around 300,200.
    pie = painted('<path d="M300,200 h-150 a150,150 0 1,0 150,-150 z" fill="red"/>')
    assert pie.area == pytest.approx(0.75 * 3.14159265 * 150**2, rel=1e-4)
    assert pie.bounds == pytest.approx((150, 50, 450, 350), abs=0.01)
    # ... and the quarter beside it: M275,175 v-150 a150,150 0 0,0 -150,150 z
    quarter = painted('<path d="M275,175 v-150 a150,150 0 0,0 -150,150 z" fill="red"/>')
    assert quarter.area == pytest.approx(0.25 * 3.14159265 * 150**2, rel=1e-4)


@given(st.text(alphabet="MmLlHhVvCcSsQqTtAaZz0123456789.-+eE, ", max_size=60))
def test_any_text_is_read_without_falling_over(data):
    subpaths, _ = read_path(data)
    for subpath in subpaths:
        assert subpath.cubics.shape[1:] == (4, 2)
