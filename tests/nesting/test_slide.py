"""Sliding nests: every one holds by the judge, who shares nothing with them, and reaches between a piece's parts."""

import time

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.helpers import cases
from zinnet.geometry.region import as_region
from zinnet.nesting.model import NestTask, Piece
from zinnet.nesting.sheet import Sheet
from zinnet.nesting.slide import ROW_MM, profiles_of
from zinnet.nesting.slide_search import nest_by_sliding
from zinnet.nesting.verify import faults


def slid(task, seconds=0.0):
    found = []
    nest_by_sliding(task, list(task.pieces), time.monotonic() + seconds, found.append, once=not seconds)
    return found


def thrown(rng, size):
    """Return a piece of some parts thrown at random."""
    parts = [shapely.Point(rng.uniform(0, size, 2)).buffer(rng.uniform(2, size / 4)) for _ in range(rng.integers(1, 6))]
    parts += [shapely.box(x, y, x + size / 3, y + 4) for x, y in rng.uniform(0, size, (int(rng.integers(0, 3)), 2))]
    return as_region(shapely.union_all(parts))


@settings(max_examples=cases(25, 300), deadline=None)
@given(st.integers(0, 100_000), st.floats(0, 12), st.sampled_from(["none", "half", "quarter", "any"]), st.booleans())
def test_every_nest_holds(seed, gap, turns, endless):
    rng = np.random.default_rng(seed)
    pieces = tuple(
        Piece(f"p{k}", thrown(rng, float(rng.uniform(15, 140))), int(rng.integers(1, 7)), turns) for k in range(4)
    )
    wide, high = rng.uniform(150, 400, 2).tolist()
    copies = None if endless else int(rng.integers(1, 3))
    sheets = (
        Sheet(width_mm=wide, height_mm=high, margin_mm=5, copies=copies),
        Sheet(width_mm=200, height_mm=300, margin_mm=3, copies=2, kind="sheet"),
    )
    task = NestTask(pieces, sheets, gap)
    layouts = slid(task) + slid(task, 0.05)
    assert layouts
    for layout in layouts:
        assert [fault.message for fault in faults(task, layout)] == []


def test_pieces_reach_into_one_another():
    # two bars far apart: beside each other's boxes four take 4 x 100 mm; slid between the bars they take far less
    bars = as_region(shapely.union_all([shapely.box(0, 0, 100, 15), shapely.box(0, 85, 100, 100)]))
    comb = as_region(shapely.union_all([shapely.box(0, 0, 100, 12), shapely.box(88, 0, 100, 100)]))
    for region in (bars, comb):
        task = NestTask((Piece("a", region, 4, "quarter"),), (Sheet(width_mm=900, height_mm=180, copies=1),), 4.0)
        layout = slid(task, 0.3)[-1]
        assert layout.unplaced == ()
        assert layout.sheets[0].used_length_mm < 4 * 100


def test_a_profile_says_where_a_piece_begins_and_ends_in_each_row():
    triangle = as_region(shapely.Polygon([(0, 0), (30, 0), (0, 30)]))
    upright, turned = profiles_of(triangle, (0.0, 90.0))
    assert upright.rows == turned.rows == int(30 / ROW_MM) + 1
    assert upright.left[0] == pytest.approx(0)
    assert upright.right[0] == pytest.approx(30)
    assert upright.right[5] == pytest.approx(30 - 5 * ROW_MM, abs=ROW_MM)
    assert turned.corner == pytest.approx((-30, 0))


def test_no_time_still_gives_a_nest_and_what_fits_nowhere_is_named():
    sheet = Sheet(width_mm=100, height_mm=100, copies=1)
    pieces = (Piece("a", as_region(shapely.box(0, 0, 50, 50)), 3), Piece("b", as_region(shapely.box(0, 0, 300, 5))))
    layout = slid(NestTask(pieces, (sheet,), 0.0))[-1]
    assert layout.unplaced.count("b") == 1, "it is longer than the sheet"
    assert len(layout.sheets[0].placed) + layout.unplaced.count("a") == 3
    assert len(layout.sheets[0].placed) >= 2
