"""The rough length of film against bounds that hold for any packing, and a case worked out by hand."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from zinnet.nesting.rough import RoughPiece, rough_length

PIECES = st.lists(
    st.builds(RoughPiece, st.floats(5, 90), st.floats(5, 90), st.integers(1, 6), st.booleans()), min_size=1, max_size=8
)


def test_boxes_worked_out_by_hand():
    # across 100: one of 60 and one of 30 below it; two of 50 do not go with a gap of 5, so that each has a column
    assert rough_length([RoughPiece(60, 60, 1, False), RoughPiece(30, 30, 1, False)], 100, 5) == 60
    assert rough_length([RoughPiece(40, 50, 2, False)], 100, 5) == 85
    assert rough_length([RoughPiece(120, 30, 2, True)], 125, 5) == 65
    assert rough_length([RoughPiece(30, 120, 1, False)], 100, 5) is None
    assert rough_length([RoughPiece(30, 120, 1, True)], 100, 5) == 120


@given(PIECES, st.floats(0, 10))
def test_it_is_no_less_than_the_area_asks_for_and_within_the_proven_bound(pieces, gap):
    across = 100.0
    length = rough_length(pieces, across, gap)
    area = sum(piece.width_mm * piece.height_mm * piece.copies for piece in pieces)
    assert length >= area / across - 1e-6
    grown = sum((piece.width_mm + gap) * (piece.height_mm + gap) * piece.copies for piece in pieces)
    widest = max(max(piece.width_mm, piece.height_mm) for piece in pieces) + gap
    # first fit decreasing height is within 2 times the area, and one column (from the same paper)
    assert length <= 2 * grown / across + widest + 1e-6


@given(PIECES)
def test_more_pieces_never_take_less(pieces):
    assert rough_length(pieces[:-1], 100.0, 5.0) <= rough_length(pieces, 100.0, 5.0) + 1e-9 or len(pieces) == 1


def test_nothing_takes_nothing():
    assert rough_length([], 100.0, 5.0) == pytest.approx(0.0)
