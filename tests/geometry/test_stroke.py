"""Strokes against areas and bounds that follow from SVG 2, 13.5, by plain geometry."""

import math

import pytest
import shapely

from tests.helpers import painted
from zinnet.base.errors import ArtworkError
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


def test_a_corner_that_is_hardly_seen_is_left_to_its_bevel_and_all_others_are_drawn():
    sides = 400
    outline = [
        (500 + 300 * math.cos(2 * math.pi * k / sides), 500 + 300 * math.sin(2 * math.pi * k / sides))
        for k in range(sides)
    ]
    points = " ".join(f"{x:.6f},{y:.6f}" for x, y in outline)
    body = f'<polygon points="{points}" fill="none" stroke="red" stroke-width="20"/>'
    inner, outer = ((300 + out) ** 2 - 0 for out in (-10, 10))
    assert painted(body, tolerance=0.05).area == pytest.approx(math.pi * (outer - inner), rel=2e-4)
    star = " ".join(
        f"{500 + (300 if k % 2 else 120) * math.cos(0.6 * k):.3f},{500 + 300 * math.sin(0.6 * k):.3f}" for k in range(9)
    )
    sharp = f'<polyline points="{star}" fill="none" stroke="red" stroke-width="6" stroke-miterlimit="20"/>'
    assert painted(sharp, tolerance=0.05).area == pytest.approx(painted(sharp, tolerance=0.0005).area, rel=1e-4)


def scribble(count):
    return [(k * 7919 % 97 / 10, k * 104729 % 89 / 10) for k in range(count)]


def zigzag(count):
    return [(k * 0.05, (k % 2) * 20.0) for k in range(count)]


@pytest.mark.parametrize("join", ["round", "bevel"])
@pytest.mark.parametrize("cap", ["butt", "round", "square"])
@pytest.mark.parametrize(("line", "width"), [(scribble(80), 0.5), (scribble(80), 4.0), (zigzag(90), 6.0)])
def test_a_line_that_goes_over_itself_paints_what_its_segments_corners_and_ends_paint(line, width, cap, join):
    # The same by another way: every segment, every corner and both ends grown by the library, then put together.
    pieces = [
        shapely.LineString(line[k : k + 3]).buffer(width / 2, 64, cap_style="flat", join_style=join)
        for k in range(len(line) - 2)
    ]
    if cap == "round":
        pieces += [shapely.Point(end).buffer(width / 2, 64) for end in (line[0], line[-1])]
    if cap == "square":
        pieces += [square_end(*line[1::-1], width), square_end(*line[-2:], width)]
    points = " ".join(f"{x},{y}" for x, y in line)
    attributes = f'fill="none" stroke="red" stroke-width="{width}" stroke-linecap="{cap}" stroke-linejoin="{join}"'
    found = painted(f'<polyline points="{points}" {attributes}/>', 'viewBox="-50 -50 150 150"', tolerance=0.0005)
    off = shapely.symmetric_difference(found, shapely.union_all(pieces))
    assert off.buffer(-0.002).is_empty


def square_end(inner, end, width):
    """Return a square cap beyond the end of a line."""
    (x, y), (dx, dy) = end, (end[0] - inner[0], end[1] - inner[1])
    beyond = width / 2 / math.hypot(dx, dy)
    return shapely.LineString([end, (x + dx * beyond, y + dy * beyond)]).buffer(width / 2, cap_style="flat")


def test_thick_corners_without_end_are_refused_in_a_sentence():
    points = " ".join(f"{k},{k % 2 * 20}" for k in range(1400))
    with pytest.raises(ArtworkError, match=r"1398 sharp corners .* thinner"):
        painted(f'<polyline points="{points}" fill="none" stroke="red" stroke-width="3000" stroke-miterlimit="99"/>')
