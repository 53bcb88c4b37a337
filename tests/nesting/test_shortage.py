"""Proofs of shortage: they hold for every nest that is found, and against cases worked out by hand."""

import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.helpers import cases, narrow_nest
from zinnet.geometry.region import as_region
from zinnet.nesting.model import NestTask, Piece
from zinnet.nesting.sheet import Sheet
from zinnet.nesting.shortage import _least_width, shortage


def piece(name, shape, copies=1, turns="quarter"):
    return Piece(name, as_region(shape), copies, turns)


def test_cases_worked_out_by_hand():
    sheet = Sheet(width_mm=100, height_mm=100, copies=1)
    # nine squares of 30 lie in 100 x 100 with gaps of 5; by area 104.9 x 104.9 hold eight or nine grown ones
    squares = NestTask((piece("a", shapely.box(0, 0, 30, 30), 12),), (sheet,), 5.0)
    assert shortage(squares).too_wide == 0
    assert shortage(squares).proved == 12 - int(105 * 105 / as_region(shapely.box(0, 0, 30, 30)).buffer(2.5).area)
    wide = NestTask((piece("a", shapely.box(0, 0, 101, 5), 2), piece("b", shapely.box(0, 0, 9, 9))), (sheet,), 0.0)
    assert (shortage(wide).too_wide, shortage(wide).too_much) == (2, 0)
    any_turn = NestTask((piece("a", shapely.box(0, 0, 120, 5), 1, "any"),), (sheet,), 0.0)
    assert shortage(any_turn).proved == 0, "it lies on the diagonal"
    assert shortage(NestTask(squares.pieces, (), 5.0)).proved == 12


def test_the_least_width_of_known_shapes():
    # of an equilateral triangle it is its height, of a rectangle its shorter side, of a disc its diameter
    triangle = shapely.Polygon([(0, 0), (10, 0), (5, 75**0.5)])
    assert _least_width(piece("a", triangle)) == pytest.approx(75**0.5)
    assert _least_width(piece("a", shapely.affinity.rotate(shapely.box(0, 0, 40, 7), 33))) == pytest.approx(7)
    assert _least_width(piece("a", shapely.Point(0, 0).buffer(5, quad_segs=64))) == pytest.approx(10, abs=0.01)


@pytest.mark.long
@settings(max_examples=cases(15, 150), deadline=None)
@given(
    st.lists(st.tuples(st.floats(10, 90), st.floats(10, 90), st.integers(1, 8)), min_size=1, max_size=4),
    st.floats(60, 220),
    st.floats(60, 220),
    st.integers(1, 3),
    st.sampled_from(["none", "quarter"]),
)
def test_no_nest_places_what_is_proved_to_find_no_room(rows, width, height, copies, turns):
    pieces = tuple(
        piece(f"p{k}", shapely.box(0, 0, w, h) if k % 2 else shapely.Point(0, 0).buffer(w / 2), count, turns)
        for k, (w, h, count) in enumerate(rows)
    )
    task = NestTask(pieces, (Sheet(width_mm=width, height_mm=height, margin_mm=3, copies=copies),), 4.0, steps=1)
    layout = narrow_nest(task)
    assert shortage(task).proved <= len(layout.unplaced)
