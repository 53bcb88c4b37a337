"""Masks, markers, words, switches, paint order and blends of SVG, against the pictures of an independent renderer."""

import base64
import contextlib
import io

import numpy as np
import pytest
import resvg_py
from PIL import Image

from tests.helpers import svg
from zinnet.artwork.lettering.text import shape_line
from zinnet.artwork.painted import lines_from_open, paint_artwork
from zinnet.artwork.svg.reader import read_svg
from zinnet.artwork.visible import visible_patches
from zinnet.base.errors import ArtworkError
from zinnet.cutting.svg_file import path_data
from zinnet.data import path_of
from zinnet.geometry.region import rings_of, union

ARROW = '<marker id="a" viewBox="0 0 10 10" refX="5" refY="5" markerWidth="4" markerHeight="4" orient="{}">'
ARROW += '<path d="M0 0 L10 5 L0 10 z" fill="#1d3557"/></marker>'
ZIGZAG = '<path d="M10 80 L40 20 L70 60 L90 10" fill="none" stroke="#d62828" stroke-width="3" {}/>'
BEARS = 'marker-start="url(#a)" marker-mid="url(#a)" marker-end="url(#a)"'
BODIES = {
    "mask with a hole": '<mask id="m"><rect width="100" height="100" fill="white"/><circle cx="50" cy="50" r="20"/>'
    '</mask><rect x="10" y="10" width="80" height="80" fill="#d62828" mask="url(#m)"/>',
    "mask by alpha": '<mask id="m" mask-type="alpha"><circle cx="50" cy="50" r="30"/></mask>'
    '<rect x="10" y="10" width="80" height="80" fill="#d62828" mask="url(#m)"/>',
    "mask in shares of the box": '<mask id="m" maskContentUnits="objectBoundingBox"><circle cx=".5" cy=".5" r=".4" '
    'fill="white"/></mask><rect x="10" y="20" width="80" height="60" fill="#d62828" mask="url(#m)"/>',
    "mask on a turned group": '<mask id="m"><rect x="20" y="20" width="50" height="50" fill="#fff"/></mask>'
    '<g transform="rotate(20 50 50)" mask="url(#m)"><circle cx="50" cy="50" r="40" fill="#2f7d5b"/></g>',
    "markers": ARROW.format("auto") + ZIGZAG.format(BEARS),
    "markers turned back": ARROW.format("auto-start-reverse") + ZIGZAG.format(BEARS),
    "markers at an angle": ARROW.format("30") + ZIGZAG.format('marker-mid="url(#a)"'),
    "markers by the short property": '<style>path{marker:url(#a)}</style><marker id="a" markerUnits="userSpaceOnUse" '
    'markerWidth="8" markerHeight="8" refX="4" refY="4"><path d="M0 0h8v8h-8z" fill="#1d3557" style="marker:none"/>'
    '</marker><path d="M10 80 L40 20 L70 60 z" fill="#ffaa00"/>',
    "switch": '<switch><rect requiredExtensions="x" width="50" height="50"/><rect systemLanguage="de" width="50" '
    'height="50"/><circle cx="50" cy="50" r="30" fill="#2f7d5b"/></switch>',
    "stroke first": '<circle cx="50" cy="50" r="30" fill="#2f7d5b" stroke="#d62828" stroke-width="10" '
    'paint-order="stroke"/>',
    "clip in shares of a turned box": '<clipPath id="c" clipPathUnits="objectBoundingBox"><circle cx=".5" cy=".5" '
    'r=".4"/></clipPath><rect x="20" y="10" width="60" height="80" fill="#2f7d5b" clip-path="url(#c)" '
    'transform="rotate(20 50 50)"/>',
    "a symbol in its own box": '<symbol id="s" viewBox="0 0 10 10"><circle cx="5" cy="5" r="5" fill="#8a2f3c"/>'
    '</symbol><use href="#s" x="10" y="20" width="60" height="40"/>',
    "names of editors": '<g xmlns:ed="urn:editor" ed:label="x"><ed:guide at="5"/><rect x="9" y="9" width="40" '
    'height="40" fill="#d62828" ed:locked="true"/></g>',
}


def picture(text):
    png = bytes(resvg_py.svg_to_bytes(svg_string=text, shape_rendering="optimize_speed", background="#ffffff"))
    return np.asarray(Image.open(io.BytesIO(png)).convert("RGB")).astype(int)


def redrawn(artwork, size):
    patches = visible_patches(paint_artwork(artwork, 0.01))
    paths = "".join(
        f'<path fill-rule="evenodd" fill="{one.colour}" d="{path_data(rings_of(one.region))}"/>' for one in patches
    )
    return svg(paths, size).decode()


@pytest.mark.parametrize("name", BODIES)
def test_what_is_read_is_what_an_independent_renderer_draws(name):
    size = 'viewBox="0 0 100 100" width="400" height="400"'
    source = svg(BODIES[name], size)
    difference = np.abs(picture(source.decode()) - picture(redrawn(read_svg(source), size))).max(axis=2) > 48
    assert difference.mean() < 0.002


def test_text_is_set_in_the_font_that_it_names_where_it_says():
    """The reference is resvg with the same font file."""
    body = '<text x="100" y="70" text-anchor="middle" font-family="Dancing Script" font-size="50">Moth moon</text>'
    size = 'viewBox="0 0 200 100" width="800" height="400"'
    source = svg(body, size)
    files = [str(path_of("fonts", "DancingScript-Bold.otf"))]
    png = bytes(resvg_py.svg_to_bytes(svg_string=source.decode(), background="#ffffff", font_files=files))
    theirs = np.asarray(Image.open(io.BytesIO(png)).convert("L")) < 128
    ours = picture(redrawn(read_svg(source), size)).max(axis=2) < 128
    assert theirs.sum() > 5000
    assert (theirs ^ ours).sum() < 0.06 * theirs.sum()


def test_spans_follow_one_another_and_a_font_that_is_not_here_is_reported():
    body = '<text x="0" y="50" font-size="10">Moth <tspan fill="#d62828" font-family="Nonesuch">moon</tspan></text>'
    artwork = read_svg(svg(body), "t.svg")
    red = [shape for shape in artwork.shapes if shape.fill.colour == "#d62828"]
    assert (len(artwork.shapes), len(red)) == (8, 4)
    advance = 10 * sum(glyph.advance for glyph in shape_line("Moth ", "atkinson", "regular"))
    left = min(subpath.moved(red[0].matrix).cubics[:, :, 0].min() for subpath in red[0].subpaths)
    assert advance <= left < advance + 2
    assert [remark.message for remark in artwork.remarks] == [
        "the font Nonesuch is not here; set in Atkinson Hyperlegible"
    ]


def test_a_linear_blend_becomes_as_many_bands_as_asked_for():
    body = (
        '<linearGradient id="g" x2="0" y2="1"><stop stop-color="#ff0000"/><stop offset="1" stop-color="#0000ff"/>'
        '</linearGradient><rect width="80" height="60" fill="url(#g)"/>'
    )
    (one,) = visible_patches(paint_artwork(read_svg(svg(body)), 0.01))
    assert one.colour == "#800080"
    artwork = read_svg(svg(body), "t.svg", 4)
    bands = visible_patches(paint_artwork(artwork, 0.01))
    assert [band.region.bounds for band in bands] == [
        pytest.approx((0, 15 * k, 80, 15 * (k + 1)), abs=1e-6) for k in range(4)
    ]
    assert [band.colour for band in bands] == ["#df0020", "#9f0060", "#60009f", "#2000df"]
    assert {remark.code for remark in artwork.remarks} == {"flattened"}


def test_a_radial_blend_becomes_rings():
    body = (
        '<radialGradient id="g"><stop stop-color="#ffffff"/><stop offset="1" stop-color="#000000"/></radialGradient>'
        '<circle cx="50" cy="50" r="40" fill="url(#g)"/>'
    )
    bands = visible_patches(paint_artwork(read_svg(svg(body), "t.svg", 2), 0.001))
    assert [round(band.region.area) for band in bands] == [
        pytest.approx(round(np.pi * 20**2), abs=3),
        pytest.approx(round(np.pi * (40**2 - 20**2)), abs=4),
    ]


def test_an_embedded_picture_is_handed_on_and_a_linked_one_is_only_counted():
    body = f'<image href="data:image/png;base64,{base64.b64encode(b"moth").decode()}"/><image href="moon.png"/>'
    assert read_svg(svg(body)).pictures == (b"moth", b"")


def test_an_open_outline_can_be_taken_as_a_line():
    artwork = read_svg(svg('<path d="M0 0 L50 0 L25 40" fill="#d62828"/>'))
    filled, line = (
        union(area.region for area in paint_artwork(one, 0.01)).area for one in (artwork, lines_from_open(artwork))
    )
    assert filled == pytest.approx(1000)
    assert line < 60


BOX = '<rect width="9" height="9" {}/>'
ENDLESS = {
    "masks": f'<mask id="m">{BOX.format('mask="url(#m)"') * 2}</mask>{BOX.format('mask="url(#m)"')}',
    "clips": f'<clipPath id="a" clip-path="url(#b)">{BOX.format("")}</clipPath>'
    f'<clipPath id="b" clip-path="url(#a)">{BOX.format("")}</clipPath>{BOX.format('clip-path="url(#a)"')}',
    "markers": '<marker id="k" overflow="visible"><path d="M0 0h9v9z" marker-mid="url(#k)"/></marker>'
    '<path d="M0 0h9v9z" marker-mid="url(#k)"/>',
    "spans": f"<text>{'<tspan>M' * 900}{'</tspan>' * 900}</text>",
}


@pytest.mark.parametrize("name", ENDLESS)
def test_what_refers_to_itself_comes_to_an_end(name):
    with contextlib.suppress(ArtworkError):
        assert len(read_svg(svg(ENDLESS[name]), "t.svg").shapes) < 1000


def test_a_text_without_end_is_refused():
    with pytest.raises(ArtworkError, match="more than 150000 points"):
        read_svg(svg(f"<text>{'Moth ' * 60_000}</text>"), "t.svg")


def test_a_stroke_that_does_not_scale_is_as_wide_on_the_page():
    """A line of 40 units at 4 pixels a unit, drawn 5 pixels wide (SVG 2, 8.13 'vector-effect')."""
    body = (
        '<g transform="scale(4)"><path d="M2 5 H12" stroke="#d62828" stroke-width="5" '
        'vector-effect="non-scaling-stroke"/></g>'
    )
    artwork = read_svg(svg(body, 'viewBox="0 0 100 100" width="400" height="400"'))
    assert union(area.region for area in paint_artwork(artwork, 0.01)).area == pytest.approx(40 * 5 / 4)
