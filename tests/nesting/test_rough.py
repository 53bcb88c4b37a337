"""The rough length of film against bounds that hold for any packing, and cases worked out by hand."""

import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from zinnet.geometry.region import as_region
from zinnet.nesting.rough import RoughPiece, rough_length
from zinnet.nesting.slide import ROW_MM, SlidPiece, profiles_of

ALL = (0.0, 90.0, 180.0, 270.0)


def box(width, height, copies=1, turns=ALL):
    profiles = profiles_of(as_region(shapely.box(0, 0, width, height)), turns)
    return RoughPiece(SlidPiece(profiles, width * height), copies)


PIECES = st.lists(st.builds(box, st.floats(6, 90), st.floats(6, 90), st.integers(1, 5)), min_size=1, max_size=6)


def test_boxes_worked_out_by_hand():
    # across 120 (gap 6): two of 50 lie below one another, so that four take twice 40 and a gap
    assert rough_length([box(40, 50, 4, (0.0,))], 120, 6) == pytest.approx(86)
    assert rough_length([box(120, 30, 2)], 125, 6) == pytest.approx(66)
    assert rough_length([box(30, 130, 1, (0.0,))], 120, 6) is None
    assert rough_length([box(30, 130, 1)], 120, 6) == pytest.approx(130)
    # loads of 50 hold one column each, and take 10 mm more for their edges
    assert rough_length([box(40, 50, 4, (0.0,))], 120, 6, load_mm=50, edges_mm=10) == pytest.approx(100)


@given(PIECES, st.floats(0, 10))
def test_it_is_no_less_than_the_area_asks_for(pieces, gap):
    length = rough_length(pieces, 100.0, gap)
    area = sum(one.piece.area_mm2 * one.copies for one in pieces)
    assert length >= area / (100.0 + ROW_MM) - 1e-6
    boxes = sum(max(profile.width_mm for profile in one.piece.profiles) * one.copies for one in pieces)
    assert length <= boxes + gap * sum(one.copies for one in pieces) + 1e-6, "no more than all in one row"


def test_nothing_takes_nothing():
    assert rough_length([], 100.0, 5.0) == pytest.approx(0.0)
