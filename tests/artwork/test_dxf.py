"""Reading DXF: files written by ezdxf, the reference library; areas by closed forms."""

import contextlib
import io
import math

import ezdxf
import numpy as np
import pytest
from ezdxf import colors
from hypothesis import given
from hypothesis import strategies as st

from tests.helpers import RED_AND_BLUE, first_of, svg
from zinnet.artwork.painted import paint_artwork, rough_extent
from zinnet.artwork.read import read_artwork
from zinnet.base.errors import ArtworkError
from zinnet.bench.document import Document
from zinnet.geometry.region import union
from zinnet.job.edits import open_artwork
from zinnet.layers.split import own_width_mm, split_artwork
from zinnet.workshop.model import standard_workshop

SQUARE = [(0, 0), (40, 0), (40, 40), (0, 40)]


def dxf(draw, *, units=4, version="R2010"):
    drawing = ezdxf.new(version)
    drawing.header["$INSUNITS"] = units
    draw(drawing)
    stream = io.StringIO()
    drawing.write(stream)
    return stream.getvalue().encode(drawing.output_encoding)


def region(draw, **options):
    artwork = read_artwork(dxf(draw, **options), "a.dxf")
    return union(area.region for area in paint_artwork(artwork, rough_extent(artwork) / 20_000))


def colours(draw):
    return [shape.fill.colour for shape in read_artwork(dxf(draw), "a.dxf").shapes]


def remarks(draw):
    return {remark.code: remark.count for remark in read_artwork(dxf(draw), "a.dxf").remarks}


@pytest.mark.parametrize(
    ("draw", "area"),
    [
        (lambda d: d.modelspace().add_circle((10, 10), 20), math.pi * 400),
        (lambda d: d.modelspace().add_ellipse((0, 0), (30, 0), 0.5), math.pi * 30 * 15),
        (lambda d: d.modelspace().add_lwpolyline(SQUARE, close=True), 1600),
        # A bulge of 1 is half a circle: the slot is a rectangle and two half discs.
        (
            lambda d: d.modelspace().add_lwpolyline(
                [(0, 0, 0), (60, 0, 1), (60, 20, 0), (0, 20, 1)], format="xyb", close=True
            ),
            60 * 20 + math.pi * 100,
        ),
        (lambda d: d.modelspace().add_polyline2d([*SQUARE, SQUARE[0]]), 1600),
        (lambda d: d.modelspace().add_solid([(0, 0), (30, 0), (0, 20), (30, 20)]), 600),
        # A quarter disc out of two lines and an arc, given in no order.
        (
            lambda d: (
                d.modelspace().add_line((0, 50), (0, 0)),
                d.modelspace().add_arc((0, 0), 50, 0, 90),
                d.modelspace().add_line((0, 0), (50, 0)),
            ),
            math.pi * 2500 / 4,
        ),
    ],
)
def test_areas(draw, area):
    assert region(draw).area == pytest.approx(area, rel=1e-3)


@pytest.mark.parametrize("version", ["R12", "R2000", "R2004", "R2018"])
def test_every_common_version_is_read(version):
    assert region(lambda d: d.modelspace().add_circle((0, 0), 30), version=version).area == pytest.approx(
        math.pi * 900, rel=1e-3
    )


def test_an_outline_within_another_is_a_hole_and_one_within_that_is_an_island():
    def draw(d):
        for radius in (10, 30, 20):
            d.modelspace().add_circle((0, 0), radius)

    found = region(draw)
    assert found.area == pytest.approx(math.pi * (900 - 400 + 100), rel=1e-3)
    assert len(found.geoms) == 2


def test_y_of_dxf_goes_up():
    left, top, right, bottom = region(
        lambda d: d.modelspace().add_lwpolyline([(0, 0), (9, 0), (9, 5), (0, 5)], close=True)
    ).bounds
    assert (left, top, right, bottom) == pytest.approx((0, -5, 9, 0))


@pytest.mark.parametrize(("units", "mm"), [(1, 25.4), (4, 1), (5, 10), (6, 1000), (0, None)])
def test_units(units, mm):
    artwork = read_artwork(dxf(lambda d: d.modelspace().add_lwpolyline(SQUARE, close=True), units=units), "a.dxf")
    assert own_width_mm(artwork) == (None if mm is None else pytest.approx(40 * mm))


def test_layers_and_entities_have_their_colours():
    def draw(d):
        d.layers.add("moth", color=1)
        space = d.modelspace()
        space.add_circle((0, 0), 5, dxfattribs={"layer": "moth"})
        space.add_circle((20, 0), 5, dxfattribs={"color": 5})
        space.add_circle((40, 0), 5, dxfattribs={"true_color": colors.rgb2int((244, 234, 213))})
        space.add_circle((60, 0), 5)

    assert colours(draw) == ["#ff0000", "#0000ff", "#f4ead5", "#1a1a1a"]


@given(st.floats(0.2, 5), st.floats(-180, 180), st.floats(-100, 100))
def test_blocks_are_placed_scaled_and_turned(factor, turn, x):
    def draw(d):
        d.blocks.new("lantern").add_lwpolyline(SQUARE, close=True)
        outer = d.blocks.new("pair")
        outer.add_blockref("lantern", (0, 0))
        outer.add_blockref("lantern", (100, 0))
        attributes = {"xscale": factor, "yscale": factor, "rotation": turn}
        d.modelspace().add_blockref("pair", (x, 0), dxfattribs=attributes)

    found = region(draw)
    assert len(found.geoms) == 2
    assert found.area == pytest.approx(2 * 1600 * factor**2, rel=1e-3)
    a, b = (np.array(part.centroid.coords[0]) for part in found.geoms)
    assert math.dist(a, b) == pytest.approx(100 * factor, rel=1e-3)


def test_a_hatch_is_filled_with_its_holes():
    def draw(d):
        hatch = d.modelspace().add_hatch(color=3)
        hatch.paths.add_polyline_path(SQUARE, is_closed=True)
        edges = hatch.paths.add_edge_path()
        edges.add_arc((20, 20), 10, 0, 360)

    assert region(draw).area == pytest.approx(1600 - math.pi * 100, rel=1e-3)


def test_what_does_not_close_is_closed_and_said():
    def draw(d):
        d.modelspace().add_lwpolyline(SQUARE)
        d.modelspace().add_text("MOTH")

    assert remarks(draw) == {"open-outline": 1, "text": 1}
    assert region(draw).area == pytest.approx(1600)


def test_a_lone_line_is_left_out_and_said():
    def draw(d):
        d.modelspace().add_line((0, 0), (30, 0))
        d.modelspace().add_circle((0, 0), 3)

    assert remarks(draw)["left-out"] == 1


@given(st.permutations(range(8)), st.lists(st.booleans(), min_size=8, max_size=8))
def test_loose_lines_in_any_order_and_direction_become_one_outline(order, turned):
    corners = [(30 * math.cos(k * math.pi / 4), 30 * math.sin(k * math.pi / 4)) for k in range(8)]

    def draw(d):
        for k in order:
            a, b = corners[k], corners[(k + 1) % 8]
            d.modelspace().add_line(b if turned[k] else a, a if turned[k] else b)

    # A regular octagon of circumradius r: 2 sqrt(2) r^2.
    assert region(draw).area == pytest.approx(2 * math.sqrt(2) * 900, rel=1e-4)
    assert "open-outline" not in remarks(draw)


def test_a_dxf_goes_all_the_way_to_layers_and_mats():
    def draw(d):
        d.modelspace().add_circle((0, 0), 30, dxfattribs={"color": 1})
        d.modelspace().add_circle((50, 0), 12, dxfattribs={"color": 5})

    document = Document(standard_workshop())
    document.apply(open_artwork("moon.dxf", dxf(draw)))
    assert [row.layer.colour for row in first_of(document.plan).layers] == ["#ff0000", "#0000ff"]
    assert document.plan.nests


def test_the_same_drawing_as_dxf_and_as_svg_splits_alike():
    def draw(d):
        d.modelspace().add_lwpolyline(
            [(0, 0), (60, 0), (60, -40), (0, -40)], close=True, dxfattribs={"true_color": 0xD62828}
        )
        d.modelspace().add_circle((60, -40), 20, dxfattribs={"true_color": 0x1F57C3})

    one = split_artwork(read_artwork(dxf(draw), "a.dxf"), width_mm=160.0)
    other = split_artwork(read_artwork(svg(RED_AND_BLUE), "a.svg"), width_mm=160.0)
    for a, b in zip(one.layers, other.layers, strict=True):
        assert a.colour == b.colour
        assert a.region.symmetric_difference(b.region).area < 0.01 * a.area_mm2


@pytest.mark.parametrize(
    ("name", "data", "says"),
    [
        ("a.pdf", b"%PDF-1.7 ...", "is PDF.*export it as SVG or DXF"),
        ("a.eps", b"%!PS-Adobe-3.0 EPSF", "EPS or PostScript"),
        ("a.svg", b"%PDF-1.4", "is PDF"),
        ("a.png", b"\x89PNG\r\n\x1a\n", "PNG picture.*trace it"),
        ("a.jpg", b"\xff\xd8\xff\xe0", "JPEG picture"),
        ("a.webp", b"RIFF\0\0\0\0WEBP", "WebP picture"),
        ("a.dxf", b"", "not a DXF|nothing to cut"),
        ("a.dxf", b"  0\nSECTION\n  2\nENTITIES\n  0\n", "not a DXF|nothing to cut"),
    ],
)
def test_other_kinds_are_refused_with_what_to_do(name, data, says):
    with pytest.raises(ArtworkError, match=says):
        read_artwork(data, name)


def test_a_dxf_is_known_by_what_is_in_it():
    data = dxf(lambda d: d.modelspace().add_circle((0, 0), 30))
    assert len(read_artwork(data, "drawing.txt").shapes) == 1


def test_too_many_entities_are_refused_soon():
    def draw(d):
        block = d.blocks.new("b0")
        block.add_line((0, 0), (1, 0))
        for k in range(1, 12):
            outer = d.blocks.new(f"b{k}")
            for x in range(8):
                outer.add_blockref(f"b{k - 1}", (x, 0))
        d.modelspace().add_blockref("b11", (0, 0))

    with pytest.raises(ArtworkError, match="more than 20000 entities"):
        read_artwork(dxf(draw), "bomb.dxf")


WHOLE = dxf(lambda d: (d.modelspace().add_circle((10, 10), 30), d.modelspace().add_lwpolyline(SQUARE)))


@given(st.lists(st.tuples(st.integers(0, len(WHOLE) - 1), st.integers(0, 255)), min_size=1, max_size=20), st.booleans())
def test_damaged_files_are_read_or_refused_with_a_sentence(changes, cut):
    data = bytearray(WHOLE)
    for at, byte in changes:
        data[at] = byte
    data = data[: changes[0][0]] if cut else data
    with contextlib.suppress(ArtworkError):
        artwork = read_artwork(bytes(data), "a.dxf")
        if artwork.shapes:
            paint_artwork(artwork, rough_extent(artwork) / 1000)
