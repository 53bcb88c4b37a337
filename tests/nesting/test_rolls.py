"""Loads cut off a roll: nothing of it is taken twice, and it holds no less than the same film as sheets."""

from dataclasses import replace

import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.helpers import cases, narrow_nest
from zinnet.geometry.region import as_region
from zinnet.machines.cutters import shipped_machines
from zinnet.nesting.model import Layout, NestTask, Piece
from zinnet.nesting.rolls import rest_of_roll_mm
from zinnet.nesting.running import NestRun
from zinnet.nesting.sheet import Sheet, all_room_mm2, taken_mm
from zinnet.nesting.shelf import shelf_nest
from zinnet.nesting.verify import count_faults, faults
from zinnet.workshop.stock import StockItem
from zinnet.workshop.stock_sheets import sheets_from

INCH = 25.4
MAT = shipped_machines().mat("12x12in")
# The worked example of the trade (common practice, no published source): a roll of 9.5 x 132 in, motifs of 7.2 x 5 in.
WIDTH, LENGTH, LONG, SHORT = 9.5 * INCH, 132 * INCH, 7.2 * INCH, 5 * INCH


def roll(length, width=WIDTH, mat=MAT):
    item = StockItem(number=1, film="cream", kind="roll", width_mm=width, length_mm=length)
    return tuple(sheet for sheet, _ in sheets_from([item], mat, edge_mm=3.0, directed=False))


def box(width, height, copies, turns="quarter"):
    return Piece("box", as_region(shapely.box(0, 0, width, height)), copies, turns)


def taken(task, layout):
    return sum(taken_mm(task.sheets[one.sheet], one.used_length_mm) for one in layout.sheets)


@pytest.mark.parametrize(("gap", "held"), [(6.0, 25), (0.0, 25)])
def test_the_roll_of_the_trade_holds_its_motifs_on_a_square_mat(gap, held):
    # by hand: two motifs lie beside each other along a load, so that it takes 2 x 127 + gap and an edge of 3 mm twice;
    # 12 such loads leave room for one more motif
    task = NestTask((box(LONG, SHORT, 26),), roll(LENGTH), gap, steps=1)
    layout = narrow_nest(task)
    assert faults(task, layout) == []
    assert 26 - len(layout.unplaced) == held
    assert taken(task, layout) <= LENGTH


@settings(max_examples=cases(12, 120), deadline=None)
@given(st.floats(200, 3000), st.floats(60, 300), st.floats(20, 120), st.floats(20, 120), st.integers(1, 12))
def test_a_roll_is_never_cut_longer_than_it_is(length, width, wide, high, copies):
    task = NestTask((box(wide, high, copies),), roll(length, width), 4.0, steps=1)
    for layout in (shelf_nest(task), narrow_nest(task)):
        assert faults(task, layout) == []
        assert taken(task, layout) <= length + 1e-6
        rest = rest_of_roll_mm(task, layout.sheets, 0)
        assert rest is None or rest == pytest.approx(length - taken(task, layout))


@settings(max_examples=cases(8, 60), deadline=None)
@given(st.floats(700, 2400), st.floats(60, 140), st.floats(60, 140))
def test_a_roll_holds_no_less_than_the_full_loads_it_makes(length, wide, high):
    loads = roll(length)
    as_roll = NestTask((box(wide, high, 40),), loads, 4.0, steps=1)
    full = loads[0].model_copy(update={"copies": int(length / loads[0].width_mm), "roll_mm": None})
    as_sheets = replace(as_roll, sheets=(full,))
    assert len(narrow_nest(as_roll).unplaced) <= len(narrow_nest(as_sheets).unplaced)


def test_the_judge_finds_a_roll_that_is_cut_longer_than_it_is():
    sheet = Sheet(width_mm=100, height_mm=50, copies=9, kind="roll", roll_mm=150)
    task = NestTask((box(90, 40, 2),), (sheet,), 0.0)
    one = narrow_nest(task).sheets[0]
    both = [one, one.model_copy(update={"placed": (one.placed[0].model_copy(update={"copy_number": 2}),)})]
    assert any("cut off a roll" in fault.message for fault in count_faults(task, Layout(sheets=tuple(both))))


def test_the_room_of_a_roll_is_that_of_its_length():
    sheet = Sheet(width_mm=100, height_mm=50, copies=40, kind="roll", roll_mm=650)
    assert all_room_mm2(sheet) == pytest.approx(650 * 50)


def test_a_wide_roll_is_loaded_across_so_that_nothing_of_its_width_is_lost():
    (sheet,) = roll(2000.0, 600.0, shipped_machines().mat("12x24in"))
    assert sheet.height_mm == pytest.approx(600.0)


def test_what_nearly_is_a_rectangle_is_counted_like_one():
    # 300 x 300 mm hold 10 rows of 24.1 mm with gaps of 6 mm and two of 118.9 mm along: 20, worked out by hand
    word = shapely.union_all([shapely.box(x, 0, x + 13, 24.1) for x in (0, 17, 34, 52, 70, 88, 105.9)])
    film = Sheet(width_mm=300, height_mm=300, margin_mm=3, copies=3, kind="sheet")
    task = NestTask((Piece("word", as_region(word), 100, "quarter"),), (film,), 6.0, seconds=1.0)
    layout = NestRun(task).wait()
    assert faults(task, layout) == []
    assert 100 - len(layout.unplaced) >= 54
