"""Use, symbols, nested viewports, clips, styles and units of SVG, by area and place; expected values worked by hand."""

import math

import numpy as np
import pytest
import resvg_py
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from tests.helpers import NS, painted, svg
from zinnet.artwork.painted import outline_region, paint_artwork
from zinnet.artwork.svg import clipping
from zinnet.artwork.svg.reader import direct_children, read_svg
from zinnet.base.errors import ArtworkError
from zinnet.geometry.region import fill
from zinnet.layers.split import own_width_mm, split_artwork

BOX = 'viewBox="0 0 100 100"'
TEN = '<rect width="10" height="10"/>'


def bounds(body, attributes=BOX):
    return painted(body, attributes, 0.001).bounds


@pytest.mark.parametrize(
    ("body", "box"),
    [
        # SVG 2, 5.6: x and y of use are one more translation, inside its own transform.
        ('<defs><rect id="r" width="10" height="20"/></defs><use href="#r" x="5" y="7"/>', (5, 7, 15, 27)),
        (
            '<defs><rect id="r" width="10" height="20"/></defs><use xlink:href="#r" x="5" transform="scale(2)"/>',
            (10, 0, 30, 40),
        ),
        ('<g id="g"><rect id="r" x="1" width="10" height="20"/></g><use href="#g" y="50"/>', (1, 0, 11, 70)),
        # A symbol has a viewport of its own, scaled to the size that use asks for.
        (
            '<symbol id="s" viewBox="0 0 10 10"><rect width="10" height="10"/></symbol>'
            '<use href="#s" width="40" height="40"/>',
            (0, 0, 40, 40),
        ),
        (
            '<symbol id="s" viewBox="0 0 10 20"><rect width="10" height="20"/></symbol>'
            '<use href="#s" x="10" width="40" height="40"/>',
            (20, 0, 40, 40),
        ),
        # A nested svg places its viewBox in its viewport; preserveAspectRatio says how.
        (
            '<svg x="10" y="10" width="50" height="50" viewBox="0 0 5 5"><rect width="5" height="5"/></svg>',
            (10, 10, 60, 60),
        ),
        (
            f'<svg width="80" height="40" viewBox="0 0 10 10" preserveAspectRatio="xMinYMin">{TEN}</svg>',
            (0, 0, 40, 40),
        ),
        (
            f'<svg width="80" height="40" viewBox="0 0 10 10" preserveAspectRatio="none">{TEN}</svg>',
            (0, 0, 80, 40),
        ),
    ],
)
def test_use_symbols_and_nested_viewports(body, box):
    assert bounds(body) == pytest.approx(box, abs=0.01)


def test_a_use_of_a_use_is_followed_and_a_circle_of_them_ends():
    body = '<defs><rect id="a" width="4" height="4"/><use id="b" href="#a" x="10"/></defs><use href="#b" y="30"/>'
    assert bounds(body) == pytest.approx((10, 30, 14, 34), abs=0.01)
    circle = '<g id="a"><use href="#b"/></g><g id="b"><use href="#a"/></g><rect width="9" height="9"/>'
    assert bounds(circle) == pytest.approx((0, 0, 9, 9), abs=0.01)


def test_what_a_use_inherits_is_used_where_the_shape_says_nothing():
    body = '<defs><rect id="r" width="10" height="10"/></defs><use href="#r" fill="#123456"/>'
    (area,) = paint_artwork(read_svg(svg(body), "t"), 0.1)
    assert area.paint.colour == "#123456"


@given(st.floats(5, 45), st.floats(5, 45))
def test_a_clip_leaves_what_both_cover(x, r):
    clip = f'<clipPath id="c"><rect x="{x}" width="60" height="100"/></clipPath>'
    body = f'{clip}<circle cx="50" cy="50" r="{r}" clip-path="url(#c)"/>'
    region = painted(body, BOX, 0.001)
    # A disc less a circular segment: r^2 (phi - sin phi) / 2 with the segment's angle phi.
    depth = max(0.0, x - (50 - r))
    phi = 2 * math.acos(max(-1.0, min(1.0, 1 - depth / r)))
    right = max(0.0, 50 + r - (x + 60))
    psi = 2 * math.acos(max(-1.0, min(1.0, 1 - right / r)))
    expected = math.pi * r * r - r * r * (phi - math.sin(phi)) / 2 - r * r * (psi - math.sin(psi)) / 2
    assert region.area == pytest.approx(expected, rel=2e-3, abs=0.05)


def test_a_clip_in_the_units_of_the_box_it_clips():
    body = (
        '<clipPath id="c" clipPathUnits="objectBoundingBox"><rect width="0.5" height="1"/></clipPath>'
        '<rect x="20" y="20" width="60" height="30" clip-path="url(#c)"/>'
    )
    assert bounds(body) == pytest.approx((20, 20, 50, 50), abs=0.01)


def test_clips_within_clips_are_all_kept():
    body = (
        '<clipPath id="a"><rect width="50" height="100"/></clipPath>'
        '<clipPath id="b"><rect width="100" height="30"/></clipPath>'
        '<g clip-path="url(#a)"><rect width="100" height="100" clip-path="url(#b)"/></g>'
    )
    assert bounds(body) == pytest.approx((0, 0, 50, 30), abs=0.01)


@pytest.mark.parametrize(
    ("style", "colour"),
    [
        # CSS 2.2, 6.4: the id wins over the class, the class over the element, style over all of them.
        ("rect { fill: #111111 }", "#111111"),
        ("rect { fill: #111111 } .a { fill: #222222 }", "#222222"),
        (".a { fill: #222222 } #r { fill: #333333 } .b { fill: #444444 }", "#333333"),
        ("#r { fill: #333333 } rect { fill: #555555 !important }", "#555555"),
        ("rect { fill: #555555 !important } #r { fill: #777777 ! important }", "#777777"),
        ("g rect { fill: #666666 } rect { fill: #111111 }", "#666666"),
        (".b { fill: #444444 } .a { fill: #222222 }", "#222222"),
        ("/* nothing */ @media print { rect { fill: #999999 } } rect { fill: navy }", "#000080"),
    ],
)
def test_the_cascade(style, colour):
    body = f'<style>{style}</style><g><rect id="r" class="a b" width="10" height="10" fill="#abcdef"/></g>'
    (area,) = paint_artwork(read_svg(svg(body), "t"), 0.1)
    assert area.paint.colour == colour


@pytest.mark.parametrize(
    ("size", "mm"),
    [("100mm", 100), ("10cm", 100), ("4in", 101.6), ("72pt", 25.4), ("6pc", 25.4), ("96px", None), ("96", None)],
)
def test_physical_sizes(size, mm):
    # CSS Values 3, 6.2: 1 in = 2.54 cm = 72 pt = 6 pc; a size in px says nothing of the size on cloth.
    data = svg('<rect width="50" height="50"/>', f'viewBox="0 0 50 50" width="{size}" height="{size}"')
    assert own_width_mm(read_svg(data, "t")) == (mm if mm is None else pytest.approx(mm))


def test_pieces_are_the_direct_children_and_keep_their_ids():
    body = f'<rect id="moth" width="5" height="5"/><title>x</title><g>{TEN}</g><circle id="moon" r="4"/>'
    assert [name for name, _ in direct_children(svg(body), "t")] == ["moth", None, "moon"]
    with pytest.raises(ArtworkError, match="no piece"):
        direct_children(svg("<title>nothing</title>"), "t")


@pytest.mark.parametrize(
    "hidden", ['display="none"', 'visibility="hidden"', 'fill="none"', 'fill-opacity="0"', 'opacity="0"']
)
def test_what_is_not_seen_is_not_cut(hidden):
    body = f'<rect width="10" height="10" {hidden}/><rect x="50" width="5" height="5" fill="red"/>'
    assert bounds(body) == pytest.approx((50, 0, 55, 5), abs=0.01)


shape = st.tuples(
    st.sampled_from(["circle", "rect", "path"]),
    st.integers(10, 80),
    st.integers(10, 80),
    st.integers(5, 25),
    st.sampled_from(["#d62828", "#1f57c3", "#2f9e44"]),
    st.integers(-60, 60),
    st.booleans(),
)


@given(st.lists(shape, min_size=1, max_size=6))
def test_what_is_read_is_what_an_independent_renderer_draws(shapes):
    """Pixel by pixel against resvg: the layers, drawn by it, and the source look alike."""
    parts = []
    for kind, x, y, r, colour, turn, stroked in shapes:
        paint = f'fill="none" stroke="{colour}" stroke-width="5"' if stroked else f'fill="{colour}"'
        at = f'transform="translate({x} {y}) rotate({turn})"'
        drawn = {
            "circle": f'<circle r="{r}" {paint} {at}/>',
            "rect": f'<rect x="{-r}" y="{-r / 2}" width="{2 * r}" height="{r}" rx="3" {paint} {at}/>',
            "path": f'<path d="M{-r} 0C{-r} {-r} {r} {-r} {r} 0L0 {r}Z" {paint} {at}/>',
        }[kind]
        parts.append(drawn)
    body = f'<rect width="100" height="100" fill="#ffffff"/>{"".join(parts)}'
    split = split_artwork(read_svg(svg(body), "t"), width_mm=100.0)
    again = "".join(
        f'<path fill="{layer.colour}" fill-rule="evenodd" d="'
        + "".join(
            "M" + "L".join(f"{x:.3f} {y:.3f}" for x, y in ring.coords) + "Z"
            for part in layer.region.geoms
            for ring in (part.exterior, *part.interiors)
        )
        + '"/>'
        for layer in split.layers
    )
    one, other = (
        drawn_by_resvg(f'<svg {NS} viewBox="0 0 100 100" width="300" height="300">{b}</svg>') for b in (body, again)
    )
    assert (np.abs(one - other).max(axis=2) > 90).mean() < 0.01


def drawn_by_resvg(text):
    import io

    return np.array(Image.open(io.BytesIO(bytes(resvg_py.svg_to_bytes(svg_string=text)))).convert("RGB"), dtype=int)


@pytest.mark.parametrize("stroked", ["", 'stroke="#d62828" stroke-width="8e5"'])
def test_what_lies_beside_the_page_is_not_drawn_however_large_it_is(stroked):
    far = f'<circle cx="7e8" cy="4e8" r="2e7" fill="#1d3557" {stroked}/>'
    near = '<rect x="10" y="10" width="80" height="80" fill="#e9c46a"/>'
    found = paint_artwork(read_svg(svg(far + near, BOX), "far.svg"), 1e-5)
    assert [area.shape for area in found] == [1]


@pytest.mark.parametrize("miter", [2, 20])
def test_a_stroke_that_reaches_into_the_page_is_drawn_though_its_line_lies_beside_it(miter):
    spike = (
        f'<path d="M-60 40L-20 50L-60 60" fill="none" stroke="#1d3557" stroke-width="20" stroke-miterlimit="{miter}"/>'
    )
    found = paint_artwork(read_svg(svg(spike, BOX), "spike.svg"), 0.001)
    # The mitre of this corner reaches 10 / sin(atan(1/4)) = 41.2 beyond it: 21.2 into the page (SVG 2, 13.5.5).
    reach = found[0].region.bounds[2] if found else 0.0
    assert reach == (pytest.approx(-20 + 10 / math.sin(math.atan(0.25)), abs=0.01) if miter == 20 else 0.0)


def test_an_outline_of_hundreds_of_metres_takes_few_points():
    drawn = read_svg(svg('<circle cx="0" cy="0" r="6e7"/>', BOX), "huge.svg")
    region = outline_region(drawn, 0.02)
    assert len(region.geoms[0].exterior.coords) < 5_000
    assert region.area == pytest.approx(math.pi * 36e14, rel=1e-5)


def test_a_clip_of_very_many_points_is_filled_a_few_times_and_no_more(monkeypatch):
    """Its curves are long beside the page, and it is worked out for every place where it is used."""
    waves = "".join(f"Q{k * 900} {(-1) ** k * 4000} {k * 900 + 450} 50" for k in range(1, 60))
    used = "".join(
        f'<rect width="50" height="50" clip-path="url(#c)" x="{k / 9}" y="0" transform="translate({k})"/>'
        for k in range(200)
    )
    filled = []
    monkeypatch.setattr(clipping, "fill", lambda rings, rule: filled.append(1) or fill(rings, rule))
    with pytest.raises(ArtworkError, match="clips and masks too much"):
        read_svg(svg(f'<clipPath id="c"><path d="M0 50{waves}z"/></clipPath>{used}', BOX), "waves.svg")
    assert len(filled) < 60
