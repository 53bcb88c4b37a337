"""Strokes against areas and bounds that follow from SVG 2, 13.5, by plain geometry."""

import math

import pytest

from tests.helpers import painted
from zinnet.geometry.stroke import stroke

LINE = '<path d="M100,100 H300" fill="none" stroke="red" stroke-width="20" stroke-linecap="{}"/>'
CORNER = (
    '<path d="M100,300 V100 H300" fill="none" stroke="red" stroke-width="20" stroke-linejoin="{}" '
    'stroke-miterlimit="{}"/>'
)


@pytest.mark.parametrize(
    ("cap", "area", "left"),
    [("butt", 4000, 100), ("square", 4400, 90), ("round", 4000 + math.pi * 100, 90)],
)
def test_caps(cap, area, left):
    region = painted(LINE.format(cap))
    assert region.area == pytest.approx(area, rel=1e-4)
    assert region.bounds[0] == pytest.approx(left, abs=0.01)


@pytest.mark.parametrize(
    ("join", "limit", "missing"),
    # The bars overlap in the inner corner square.
    # Of the outer corner square of 10 x 10: a mitre fills it, a bevel half, a round a quarter disc.
    # A right angle has a mitre ratio of sqrt 2: over the limit it becomes a bevel.
    [
        ("miter", 4, 0),
        ("miter", 1.42, 0),
        ("miter", 1.41, 50),
        ("bevel", 4, 50),
        ("round", 4, 100 - math.pi * 25),
    ],
)
def test_joins(join, limit, missing):
    assert painted(CORNER.format(join, limit)).area == pytest.approx(2 * 20 * 200 - missing, abs=0.05)


def test_a_closed_path_is_joined_where_it_ends():
    ring = painted('<path d="M100,100 h200 v200 h-200 z" fill="none" stroke="red" stroke-width="20"/>')
    assert ring.area == pytest.approx(220**2 - 180**2)
    assert ring.bounds == pytest.approx((90, 90, 310, 310))


def test_a_subpath_of_no_length_is_a_dot_with_round_caps_only():
    # SVG 2, 13.5.4: zero length subpaths are drawn with round or square caps.
    dot = '<path d="M50,50 h0" stroke="red" stroke-width="20" stroke-linecap="{}"/>'
    assert painted(dot.format("round") + LINE.format("butt")).area == pytest.approx(4000 + math.pi * 100, rel=1e-3)
    assert painted(dot.format("butt") + LINE.format("butt")).area == pytest.approx(4000)


def test_a_stroke_is_stretched_with_its_shape():
    body = '<g transform="scale(3 1)"><path d="M10,10 V110" stroke="red" stroke-width="10"/></g>'
    assert painted(body).bounds == pytest.approx((15, 10, 45, 110))


def test_no_width_paints_nothing():
    assert stroke([], width=0, tolerance=0.1).is_empty
