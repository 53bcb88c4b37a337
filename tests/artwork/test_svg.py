"""Reading SVG by the standard's own examples, by area and bounds."""

import math

import pytest

from tests.helpers import painted, svg
from zinnet.artwork.painted import paint_artwork
from zinnet.artwork.svg.reader import read_svg
from zinnet.base.errors import ArtworkError
from zinnet.layers.split import own_width_mm

STAR = "M 250,75 L 323,301 131,161 369,161 177,301 z"


def colours(body, attributes='viewBox="0 0 1000 1000"'):
    return [area.paint.colour for area in paint_artwork(read_svg(svg(body, attributes), "t"), 0.1)]


@pytest.mark.parametrize(
    ("body", "area", "bounds"),
    [
        # SVG 1.1, 9.2: rect01 and rect02 (rounded by 50).
        ('<rect x="400" y="100" width="400" height="200"/>', 80000, (400, 100, 800, 300)),
        (
            '<rect x="100" y="100" width="400" height="200" rx="50"/>',
            80000 - (4 - math.pi) * 2500,
            (100, 100, 500, 300),
        ),
        # 9.3: circle01; 9.4: ellipse01; 9.7: polygon01.
        ('<circle cx="600" cy="200" r="100"/>', math.pi * 10000, (500, 100, 700, 300)),
        ('<ellipse cx="300" cy="200" rx="250" ry="100"/>', math.pi * 25000, (50, 100, 550, 300)),
        (
            '<polygon points="350,75 379,161 469,161 397,215 423,301 350,250 277,301 303,215 231,161 321,161"/>',
            18055.0,
            (231, 75, 469, 301),
        ),
    ],
)
def test_basic_shapes(body, area, bounds):
    region = painted(body)
    assert region.area == pytest.approx(area, rel=1e-4)
    assert region.bounds == pytest.approx(bounds, abs=0.02)


def test_fill_rules_of_the_star():
    # SVG 1.1, 11.3: the five-pointed star is whole by nonzero and has an open middle by evenodd.
    nonzero = painted(f'<path d="{STAR}" fill-rule="nonzero"/>')
    evenodd = painted(f'<path d="{STAR}" fill-rule="evenodd"/>')
    assert not nonzero.geoms[0].interiors
    middle = nonzero.difference(evenodd)
    # For a regular pentagram the pentagon is phi^-4 of the outer pentagon; this star is nearly regular.
    assert middle.area == pytest.approx(nonzero.convex_hull.area * ((1 + 5**0.5) / 2) ** -4, rel=0.02)


def test_nested_transforms():
    # SVG 1.1, 7.5, RotateScale and NestedTransforms: the matrices multiply from the outside in.
    body = '<g transform="translate(50,90)"><g transform="rotate(-45)"><g transform="translate(130,160)">'
    region = painted(body + '<rect width="10" height="20"/></g></g></g>', 'viewBox="-500 -500 1000 1000"')
    x, y = 50 + (130 + 160) * math.sqrt(0.5), 90 + (160 - 130) * math.sqrt(0.5)
    assert region.area == pytest.approx(200)
    assert region.bounds[0] == pytest.approx(x, abs=1e-6)
    assert region.bounds[3] == pytest.approx(y + 20 * math.sqrt(0.5), abs=1e-6)


def test_a_transform_list_with_skew_and_centre():
    region = painted('<rect width="10" height="10" transform="translate(100 100) rotate(90 5 5) skewX(45) scale(2)"/>')
    assert region.area == pytest.approx(400)
    assert region.bounds == pytest.approx((90, 100, 110, 140), abs=1e-6)


def test_nested_viewbox_meets_slices_and_clips():
    # SVG 1.1, 7.8, example PreserveAspectRatio: a 30 x 40 face in viewports of other shapes.
    inner = (
        '<svg width="{}" height="{}" viewBox="0 0 30 40" preserveAspectRatio="{}"><rect width="30" height="40"/></svg>'
    )
    assert painted(inner.format(50, 30, "xMinYMin meet")).bounds == pytest.approx((0, 0, 22.5, 30))
    assert painted(inner.format(50, 30, "xMaxYMid meet")).bounds == pytest.approx((27.5, 0, 50, 30))
    assert painted(inner.format(30, 60, "xMidYMax meet")).bounds == pytest.approx((0, 20, 30, 60))
    assert painted(inner.format(30, 60, "xMidYMid slice")).bounds == pytest.approx((0, 0, 30, 60))
    assert painted(inner.format(50, 30, "none")).bounds == pytest.approx((0, 0, 50, 30))


def test_use_symbol_and_style_follow_the_cascade():
    body = """<style>.film { fill: #0000ff } #own { fill: #00ff00 }</style>
      <defs><symbol id="leaf" viewBox="0 0 10 10"><rect width="10" height="10"/></symbol>
      <rect id="bar" width="5" height="5"/></defs>
      <use href="#leaf" x="100" y="100" width="40" height="20" class="film"/>
      <use xlink:href="#bar" x="10" fill="#ff0000"/>
      <rect id="own" class="film" x="50" width="5" height="5"/>
      <rect class="film" style="fill:#ffff00" x="60" width="5" height="5"/>"""
    assert colours(body) == ["#0000ff", "#ff0000", "#00ff00", "#ffff00"]
    areas = paint_artwork(read_svg(svg(body, 'viewBox="0 0 1000 1000"'), "t"), 0.1)
    assert areas[0].region.bounds == pytest.approx((110, 100, 130, 120))


def test_nothing_is_painted_that_is_not_seen():
    assert colours(
        '<rect width="9" height="9" display="none"/><rect width="9" height="9" fill="none"/>'
        '<g visibility="hidden"><rect width="5" height="5"/></g><rect width="1" height="1"/>'
    ) == ["#000000"]
    assert painted('<rect x="-50" width="100" height="10"/>').area == pytest.approx(500)


def test_a_clip_path_clips():
    body = '<clipPath id="c"><circle cx="50" cy="50" r="20"/></clipPath>'
    body += '<rect width="100" height="100" clip-path="url(#c)"/>'
    assert painted(body).area == pytest.approx(math.pi * 400, rel=1e-3)


def test_physical_size_is_honoured():
    body = '<rect width="50" height="20"/>'
    assert own_width_mm(read_svg(svg(body, 'width="4in" height="4in" viewBox="0 0 100 100"'), "t")) == pytest.approx(
        50.8
    )
    assert own_width_mm(read_svg(svg(body, 'width="100mm" height="50mm" viewBox="0 0 200 100"'), "t")) == pytest.approx(
        25
    )
    assert own_width_mm(read_svg(svg(body), "t")) is None


def test_pictures_text_and_blends_are_reported():
    body = (
        '<image href="x.png" width="5" height="5"/><text><textPath>Moth</textPath></text>'
        '<rect width="9" height="9" fill="url(#g)"/>'
        '<linearGradient id="g"><stop stop-color="#000"/><stop offset="1" stop-color="#fff"/></linearGradient>'
    )
    artwork = read_svg(svg(body), "t")
    assert {remark.code for remark in artwork.remarks} == {"picture", "text", "blend"}
    assert artwork.shapes[0].fill is not None
    assert artwork.shapes[0].fill.colour == "#808080"


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"", "is empty"),
        (b"  \n", "is empty"),
        (b"moth", "not whole XML"),
        (b"<svg", "not whole XML"),
        (b"\xff\xfe\x00bad", "not"),
        (b"<html/>", "not SVG"),
        (svg(""), "nothing to cut"),
        (svg("<text><textPath>Moth</textPath></text>"), "turned into outlines"),
        (svg('<rect width="5" height="5"/>', 'viewBox="0 0 0 0"'), "no size"),
        (svg('<rect width="5" height="5"/>', 'width="0" height="10"'), "no size"),
        (b'<!DOCTYPE x [<!ENTITY a "b"><!ENTITY c "&a;&a;&a;">]><svg>&c;</svg>', "entities"),
        (b'<!DOCTYPE x [<!ENTITY a SYSTEM "file:///etc/passwd">]><svg>&a;</svg>', "entities"),
        (svg("<g>" * 400 + '<rect width="5" height="5"/>' + "</g>" * 400), "deep"),
        (svg('<path d="' + "M0 0" + "L1 1 2 3" * 250_000 + '"/>'), "more than 150000 points"),
    ],
)
def test_bad_files_are_refused_with_a_sentence(data, says):
    with pytest.raises(ArtworkError, match=says):
        read_svg(data, "moth.svg")


def test_uses_that_multiply_are_refused():
    body = '<defs><g id="a0"><rect width="1" height="1"/></g>'
    for k in range(1, 20):
        body += f'<g id="a{k}">' + f'<use href="#a{k - 1}"/>' * 4 + "</g>"
    with pytest.raises(ArtworkError, match="more than 5000 elements"):
        read_svg(svg(body + '</defs><use href="#a19"/>'), "moth.svg")


def test_a_use_of_itself_ends():
    assert colours('<g id="a"><rect width="5" height="5"/><use href="#a"/></g>') == ["#000000"] * 2


def test_coordinates_that_are_no_numbers_leave_the_rest_whole():
    body = '<path d="M NaN 5 L 3 3"/><polygon points="0,0 NaN,1 5,5"/><rect x="NaN" width="5" height="5"/>'
    assert painted(body).area == pytest.approx(25)


@pytest.mark.parametrize("sides", ['width="100%" height="100%"', 'width="100%"', 'width="50%" height="auto"'])
def test_a_page_that_fills_a_window_is_as_large_as_its_viewbox_says(sides):
    """CSS 2.1, 10.5: a share of what has no size of its own counts as auto; then the viewBox says the size."""
    body = '<rect x="10" width="60" height="30"/>'
    found = read_svg(svg(body, f'{sides} viewBox="0 0 200 100"'), "t")
    plain = read_svg(svg(body, 'viewBox="0 0 200 100"'), "t")
    assert found.view == plain.view == (0, 0, 200, 100)
    assert paint_artwork(found, 0.1)[0].region.bounds == pytest.approx((10, 0, 70, 30))
    assert own_width_mm(found) is None
