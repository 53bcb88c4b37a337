"""Pieces moved by hand: pressing, snapping, holding, and nesting again around what is held."""

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from shapely import affinity

from zinnet.geometry.region import as_region
from zinnet.nesting.by_hand import SIDES, around
from zinnet.nesting.model import Layout, NestTask, Piece, Placed, rank
from zinnet.nesting.pinned import pinned_sheet, with_pinned, without_pinned
from zinnet.nesting.running import NestRun
from zinnet.nesting.sheet import Sheet
from zinnet.nesting.verify import faults

SHEET = Sheet(width_mm=200, height_mm=100, margin_mm=5.0)
BLOCK = as_region(shapely.box(100, 40, 120, 60))


def at(x, y, size=20):
    return as_region(shapely.box(x, y, x + size, y + size))


def test_a_piece_is_pressed_against_its_neighbour_and_against_the_margin():
    nearby = around(SHEET, [BLOCK], None, 6.0)
    assert nearby.pressed(at(20, 40), (1, 0)) == pytest.approx(54, abs=0.01)
    assert nearby.pressed(at(20, 40), (-1, 0)) == pytest.approx(15, abs=0.01)
    assert nearby.pressed(at(20, 40), (0, 1)) == pytest.approx(35, abs=0.01)
    assert nearby.gap_to_next(at(74, 40)) == pytest.approx(6.0)


def test_without_a_gap_pieces_meet():
    nearby = around(SHEET, [BLOCK], None, 0.0)
    assert nearby.pressed(at(20, 40), (1, 0)) == pytest.approx(60, abs=0.1)
    assert nearby.holds(at(80, 40))
    assert not nearby.holds(at(81, 40))


def test_a_piece_slides_along_its_neighbour_without_sticking():
    nearby = around(SHEET, [BLOCK], None, 6.0)
    assert nearby.pressed(at(74, 10), (0, 1)) == pytest.approx(65, abs=0.01)


def test_what_overlaps_a_little_is_pushed_out_and_what_is_near_meets():
    nearby = around(SHEET, [BLOCK], None, 6.0)
    across, down = nearby.snapped(at(76, 40), 4.0)
    assert (across, down) == pytest.approx((-2.0, 0.0), abs=0.01)
    across, down = nearby.snapped(at(71, 8), 4.0)
    assert (across, down) == pytest.approx((0.0, -3.0), abs=0.01)
    assert nearby.snapped(at(100, 40), 4.0) == (0.0, 0.0)


@given(st.integers(0, 10_000), st.sampled_from(SIDES))
def test_pressing_never_ends_where_a_piece_does_not_hold_and_goes_as_far_as_it_can(seed, direction):
    rng = np.random.default_rng(seed)
    blobs = [as_region(shapely.MultiPoint(rng.uniform(0, 30, (6, 2))).convex_hull.buffer(1)) for _ in range(4)]
    others = [as_region(affinity.translate(one, *rng.uniform((0, 0), (160, 60)))) for one in blobs[1:]]
    start = as_region(affinity.translate(blobs[0], *rng.uniform((8, 8), (150, 55))))
    nearby = around(SHEET, others, None, 2.0)
    way = nearby.pressed(start, direction)
    if not nearby.holds(start):
        assert way == 0
        return
    moved = affinity.translate(start, direction[0] * way, direction[1] * way)
    assert min(moved.distance(one) for one in others) >= 2.0 - 0.01
    assert shapely.box(5, 5, 195, 95).buffer(0.01).covers(moved)
    farther = affinity.translate(start, direction[0] * (way + 0.3), direction[1] * (way + 0.3))
    assert min(farther.distance(one) for one in others) < 2.0 or not shapely.box(5, 5, 195, 95).covers(farther)


PIECES = (Piece("a", at(0, 0), 6), Piece("b", at(0, 0, 30), 4))


def held_task(gap=4.0):
    placed = (
        Placed(piece="a", copy_number=3, x_mm=80.0, y_mm=40.0, turn_deg=0.0),
        Placed(piece="b", copy_number=1, x_mm=60.0, y_mm=8.0, turn_deg=90.0),
    )
    sheet = pinned_sheet(0, placed, {piece.name: piece.region for piece in PIECES})
    return NestTask(PIECES, (SHEET,), gap, steps=2, pinned=(sheet,))


def test_what_is_pinned_stays_and_the_rest_is_nested_around_it():
    task = held_task()
    layout = NestRun(task).wait()
    assert layout.unplaced == ()
    assert faults(task, layout) == []
    lying = {(one.piece, one.copy_number): one for one in layout.sheets[0].placed}
    for one in task.pinned[0].placed:
        assert lying[one.piece, one.copy_number] == one
    assert len(layout.sheets[0].placed) > 2


def test_pinned_pieces_count_among_the_copies_and_their_sheet_among_the_sheets():
    few = held_task()
    task = NestTask(few.pieces, (SHEET.model_copy(update={"copies": 1}),), 4.0, pinned=few.pinned)
    free = without_pinned(task)
    assert {piece.name: piece.copies for piece in free.pieces} == {"a": 5, "b": 3}
    assert [sheet.copies for sheet in free.sheets] == [1]
    whole = with_pinned(task, Layout(unplaced=("a",) * 5 + ("b",) * 3))
    assert faults(task, whole) == []
    assert rank(task, whole)[0] == 8


def test_pins_change_the_key_and_survive_the_way_to_the_worker():
    task = held_task()
    assert task.key != NestTask(PIECES, (SHEET,), 4.0, seconds=1.0).key
    again = NestTask.from_json(task.to_json())
    assert again.key == task.key
    assert again.pinned == task.pinned
