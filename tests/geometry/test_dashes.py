"""Dashes: their lengths by arithmetic, their look against an independent renderer."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.artwork.test_svg_structure import drawn_by_resvg
from tests.helpers import NS, painted
from zinnet.artwork.painted import paint_artwork
from zinnet.artwork.svg.reader import read_svg
from zinnet.geometry.curves import Subpath, ellipse, flatten, lines_as_cubics
from zinnet.geometry.dashes import dash
from zinnet.geometry.region import rings_of, union

LINE = Subpath(lines_as_cubics(np.array([(0.0, 0.0), (100.0, 0.0)])), closed=False)


def spans(dashes):
    return [(round(float(one.cubics[0, 0, 0]), 6), round(float(one.cubics[-1, 3, 0]), 6)) for one in dashes]


@pytest.mark.parametrize(
    ("pattern", "offset", "expected"),
    [
        ((30, 20), 0, [(0, 30), (50, 80)]),
        ((30, 20), 10, [(0, 20), (40, 70), (90, 100)]),
        ((30, 20), -10, [(10, 40), (60, 90)]),
        ((30,), 0, [(0, 30), (60, 90)]),
        ((10, 5, 20), 0, [(0, 10), (15, 35), (45, 50), (70, 80), (85, 100)]),
        ((200, 10), 0, [(0, 100)]),
        ((0, 0), 0, [(0, 100)]),
    ],
)
def test_a_line_is_cut_as_the_standard_says(pattern, offset, expected):
    # SVG 2, 13.5.6: an odd list is repeated, the offset is the distance into the pattern at the start.
    assert spans(dash([LINE], pattern=pattern, offset=offset, tolerance=0.01)) == expected


@given(st.lists(st.floats(0.5, 30), min_size=1, max_size=6), st.floats(-100, 100), st.floats(5, 60))
def test_dashes_and_gaps_add_up(pattern, offset, radius):
    circle = ellipse(0, 0, radius, radius)
    around = float(np.hypot(*np.diff(flatten(circle, 0.001), axis=0).T).sum())
    found = dash([circle], pattern=pattern, offset=offset, tolerance=0.001)
    total = sum(float(np.hypot(*np.diff(flatten(one, 0.001), axis=0).T).sum()) for one in found)
    both = [*pattern, *pattern] if len(pattern) % 2 else pattern
    share = sum(both[0::2]) / sum(both)
    assert abs(total - share * around) <= sum(both)
    assert around == pytest.approx(2 * math.pi * radius, rel=1e-3)


def test_a_pattern_finer_than_anyone_could_cut_is_not_tried():
    assert dash([LINE], pattern=(0.0001, 0.0001), offset=0, tolerance=0.01) is None


@pytest.mark.parametrize("pattern", ["5,-3", "none", "", "0", "x", "0 0"])
def test_a_pattern_that_is_none_is_drawn_solid(pattern):
    body = f'<line x1="10" y1="50" x2="90" y2="50" stroke="#d62828" stroke-width="4" stroke-dasharray="{pattern}"/>'
    assert painted(body, 'viewBox="0 0 100 100"').area == pytest.approx(320)


def test_lengths_of_dashes_may_have_units_and_percent():
    body = '<line x1="0" y1="50" x2="96" y2="50" stroke="#d62828" stroke-width="2" stroke-dasharray=".25in 10%"/>'
    assert painted(body, 'viewBox="0 0 100 100"').bounds[0] == pytest.approx(0)
    assert len(painted(body, 'viewBox="0 0 100 100"').geoms) == 3


@given(
    st.lists(st.integers(2, 20), min_size=1, max_size=4),
    st.integers(-20, 20),
    st.sampled_from(["butt", "round", "square"]),
    st.integers(2, 8),
)
def test_what_is_cut_is_what_an_independent_renderer_draws(pattern, offset, cap, width):
    style = (
        f'fill="none" stroke="#1f57c3" stroke-width="{width}" stroke-linecap="{cap}" stroke-dashoffset="{offset}" '
        f'stroke-dasharray="{" ".join(map(str, pattern))}"'
    )
    body = f'<path d="M15 80C20 10 60 10 85 60" {style}/><rect x="10" y="10" width="30" height="25" {style}/>'
    page = f'<svg {NS} viewBox="0 0 100 100" width="400" height="400"><rect width="100" height="100" fill="#fff"/>'
    source = f"{page}{body}</svg>"
    artwork = read_svg(source.encode(), "t")
    ours = union(area.region for area in paint_artwork(artwork, 0.005) if area.paint.colour == "#1f57c3")
    d = "".join("M" + "L".join(f"{x:.3f} {y:.3f}" for x, y in ring) + "Z" for ring in rings_of(ours))
    again = f'{page}<path fill="#1f57c3" fill-rule="evenodd" d="{d}"/></svg>'
    one, other = drawn_by_resvg(source), drawn_by_resvg(again)
    assert (np.abs(one - other).max(axis=2) > 90).mean() < 0.004
