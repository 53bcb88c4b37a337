"""The as-laid check: what was laid off is found again from readings rounded as a ruler is read."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from zinnet.base.errors import ZinnetError
from zinnet.blanks.build import build_blank
from zinnet.blanks.catalogue import read_blank_name
from zinnet.placement.as_laid import Readings, expected_readings, locate, sides_of
from zinnet.placement.place import PlacementSpec, place_artwork
from zinnet.workshop.model import standard_workshop

HABITS = standard_workshop().habits
LAID = [
    ("tee-adult", None),
    ("hoodie-adult", "full-front"),
    ("tee-adult", "full-back"),
    ("tote", None),
    ("tee-youth", None),
]


def placed(blank, place, width, aspect):
    return place_artwork(
        PlacementSpec(place=place),
        build_blank(read_blank_name(blank)),
        HABITS,
        width_mm=width,
        height_mm=width * aspect,
    )


def read_with_a_ruler(placement, right, down, turn, to=1.0):
    """Return what a ruler reads, by shapely alone: rays to the panel's edge, straight lines to the marks."""
    art = shapely.Polygon(placement.corners)
    art = shapely.affinity.rotate(art, turn, origin=placement.centre)
    art = shapely.affinity.translate(art, right, down)
    a, b, c, d = list(art.exterior.coords)[:4]
    region = placement.panel.region

    def to_edge(point, sign):
        ray = shapely.LineString([point, (point[0] + sign * 4000, point[1])])
        hits = shapely.get_coordinates(shapely.intersection(ray, region.boundary))
        return max(abs(hits[:, 0] - point[0])) if len(hits) else 0.0

    left = ((a[0] + d[0]) / 2, (a[1] + d[1]) / 2)
    right_side = ((b[0] + c[0]) / 2, (b[1] + c[1]) / 2)
    marks = placement.panel.marks
    values = (to_edge(left, -1), to_edge(right_side, 1), math.dist(a, marks[0]), math.dist(b, marks[1]))
    return Readings(
        **dict(
            zip(
                ("left_mm", "right_mm", "top_left_mm", "top_right_mm"),
                [round(v / to) * to for v in values],
                strict=True,
            )
        )
    )


@given(
    st.sampled_from(LAID),
    st.floats(150, 290),
    st.floats(0.5, 1.1),
    st.floats(0, 60),
    st.floats(0, 360),
    st.floats(-10, 10),
)
def test_a_shift_and_a_tilt_are_found_from_readings_to_the_mm(blank, width, aspect, far, way, turn):
    placement = placed(*blank, width, aspect)
    right, down = far * math.cos(math.radians(way)), far * math.sin(math.radians(way))
    corners = np.array(placement.corners) + np.array([right, down])
    if not shapely.covers(shapely.buffer(placement.panel.region, -25), shapely.box(*corners.min(0), *corners.max(0))):
        return  # The ruler is laid on the blank, so the artwork's sides are on it.
    found = locate(read_with_a_ruler(placement, right, down, turn), placement)
    assert math.hypot(found.right_mm - right, found.down_mm - down) <= 1.5
    assert abs(found.turn_deg - turn) <= 0.6
    assert found.contradiction is None


@pytest.mark.parametrize("wrong", ["left_mm", "right_mm"])
@given(st.floats(6, 80), st.booleans())
def test_a_side_that_was_misread_is_recognised(wrong, by, less):
    placement = placed("tee-adult", None, 250, 0.9)
    readings = read_with_a_ruler(placement, 5, -4, 1)
    off = getattr(readings, wrong) + (-by if less else by)
    found = locate(readings.model_copy(update={wrong: off}), placement)
    assert found.contradiction is not None
    assert "can't all be true" in found.advice(("left", "right"))
    assert not found.is_good


def test_a_corner_that_was_misread_by_a_lot_is_recognised():
    placement = placed("tee-adult", None, 250, 0.9)
    readings = read_with_a_ruler(placement, 0, 0, 0).model_copy(update={"top_left_mm": 330.0})
    assert locate(readings, placement).contradiction is not None


def test_the_advice_says_the_way_back():
    placement = placed("tee-adult", None, 250, 0.9)
    found = locate(read_with_a_ruler(placement, -4, 6, 0.8, to=0.01), placement)
    advice = found.advice(sides_of(placement))
    # 4 mm too far to the viewer's left is the wearer's right: it goes to the wearer's left.
    assert advice == "Move 4 mm to the wearer's left, 6 mm up, turn 0.8° counterclockwise."


def test_in_tolerance_it_says_so():
    placement = placed("tee-adult", None, 250, 0.9)
    assert locate(expected_readings(placement), placement).advice(("left", "right")) == "It lies as planned."
    near = locate(read_with_a_ruler(placement, 1.4, 0, 0.2), placement)
    assert near.is_good
    assert near.advice(sides_of(placement)).startswith("It is within tolerance")


@given(st.floats(-40, 40), st.floats(-30, 30))
def test_the_quick_form_finds_the_shift_of_a_level_piece(right, down):
    placement = placed("tee-adult", None, 240, 0.8)
    full = read_with_a_ruler(placement, right, down, 0)
    quick = Readings(left_mm=full.left_mm, top_left_mm=full.top_left_mm)
    found = locate(quick, placement)
    assert not found.knows_tilt
    assert found.right_mm == pytest.approx(right, abs=1.0)
    assert found.down_mm == pytest.approx(down, abs=1.5)


@pytest.mark.parametrize("wild", [-500.0, 9000.0])
def test_readings_that_no_ruler_gives_are_refused(wild):
    placement = placed("tee-adult", None, 250, 0.9)
    with pytest.raises(ZinnetError, match="read the ruler there again"):
        locate(Readings(left_mm=wild, right_mm=140, top_left_mm=180, top_right_mm=180), placement)
