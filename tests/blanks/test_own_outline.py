"""Outlines of one's own, from SVG and DXF; DXF written by ezdxf, the reference library."""

import contextlib
import io
import math

import ezdxf
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from tests.helpers import NS, svg
from zinnet.artwork.svg.xml_guard import MOST_BYTES
from zinnet.base.errors import BlankError
from zinnet.blanks.build import build_blank
from zinnet.blanks.model import BlankSpec, Measure
from zinnet.blanks.own import read_outline


def region(outline):
    found = shapely.Polygon()
    for ring in outline.rings:
        found = shapely.symmetric_difference(found, shapely.Polygon(ring))
    return found


def dxf(draw, units=4):
    drawing = ezdxf.new("R2010")
    drawing.header["$INSUNITS"] = units
    draw(drawing.modelspace())
    stream = io.StringIO()
    drawing.write(stream)
    return stream.getvalue().encode()


def test_a_circle_with_a_hole_from_dxf_has_its_area():
    def draw(space):
        space.add_circle((100, 50), 40)
        space.add_circle((100, 50), 15)

    outline = read_outline("plate.dxf", dxf(draw))
    assert region(outline).area == pytest.approx(math.pi * (40**2 - 15**2), rel=2e-3)
    assert region(outline).bounds == pytest.approx((0, 0, 80, 80), abs=0.1)


def test_inches_and_loose_lines_and_arcs_are_joined():
    def draw(space):
        space.add_line((0, 0), (4, 0))
        space.add_line((4, 0), (4, 2))
        space.add_arc((2, 2), 2, 0, 180)
        space.add_line((0, 2), (0, 0))

    outline = read_outline("window.dxf", dxf(draw, units=1))
    assert region(outline).area == pytest.approx((8 + math.pi * 2) * 25.4**2, rel=2e-3)


def test_polylines_and_splines_of_dxf_are_read():
    def draw(space):
        space.add_lwpolyline([(0, 0), (60, 0), (60, 30), (0, 30)], close=True)
        space.add_spline([(80, 0), (120, 0), (120, 40), (80, 40), (80, 0)])

    outline = read_outline("two.dxf", dxf(draw))
    assert len(outline.rings) == 2


def test_y_of_dxf_goes_up():
    outline = read_outline("a.dxf", dxf(lambda space: space.add_lwpolyline([(0, 0), (40, 0), (0, 30)], close=True)))
    # The corner without a right angle is at the top in DXF, so at the least y here.
    assert min(y for _, y in outline.rings[0]) == 0
    assert [x for x, y in outline.rings[0] if y == 0] == pytest.approx([0], abs=1e-6)


def test_an_svg_outline_is_scaled_to_the_width_that_was_measured():
    data = svg(
        '<path d="M0 0H60V40H0Z M10 10V20H20V10Z" fill-rule="evenodd"/>',
        'viewBox="0 0 60 40" width="60mm" height="40mm"',
    )
    outline = read_outline("bag.svg", data)
    spec = BlankSpec(kind="own-outline", size=None, outline=outline, measured=(Measure(name="width", mm=300.0),))
    panel = build_blank(spec).main
    left, top, right, bottom = panel.region.bounds
    assert right - left == pytest.approx(300)
    assert bottom - top == pytest.approx(200)
    assert panel.region.area == pytest.approx(25 * (2400 - 100))
    assert left == pytest.approx(-right)


@pytest.mark.parametrize(
    ("name", "data", "says"),
    [
        ("a.svg", b"<svg", "svg"),
        ("a.svg", svg(""), "nothing to cut"),
        ("a.svg", f'<!DOCTYPE svg [<!ENTITY a "b">]><svg {NS}>&a;</svg>'.encode(), "entit|declar|DOCTYPE|type"),
        ("a.svg", svg('<rect width="1" height="1"/>', 'viewBox="0 0 100 100"'), "closed outline"),
        ("a.dxf", b"not a drawing", r"DXF|closed outline|nothing to cut"),
        ("a.dxf", b"", r"DXF|closed outline|nothing to cut"),
        ("a.dxf", dxf(lambda space: space.add_line((0, 0), (50, 0))), "nothing to cut"),
        ("a.dxf", dxf(lambda space: space.add_text("MOTH")), "turned into outlines"),
        ("a.dxf", b"\0" * 2000, r"DXF|closed outline|nothing to cut"),
    ],
)
def test_files_without_an_outline_are_refused_with_a_sentence(name, data, says):
    with pytest.raises(BlankError, match=says) as caught:
        read_outline(name, data)
    assert len(str(caught.value)) > 20


WHOLE_DXF = dxf(lambda space: space.add_circle((10, 10), 30))


@given(st.data())
def test_a_damaged_dxf_never_ends_in_a_traceback(data):
    whole = bytearray(WHOLE_DXF)
    for _ in range(data.draw(st.integers(1, 12))):
        whole[data.draw(st.integers(0, len(whole) - 1))] = data.draw(st.integers(0, 255))
    with contextlib.suppress(BlankError):
        assert read_outline("a.dxf", bytes(whole)).rings


def test_a_huge_file_is_refused_before_it_is_read():
    with pytest.raises(BlankError, match="MB"):
        read_outline("a.dxf", b"0" * (MOST_BYTES + 1))
