"""Rows and columns against an independent brute force that lays motif by motif."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.helpers import document_of, first_of
from zinnet.blanks.catalogue import read_blank_name
from zinnet.job.edits import choose_blank, set_placement
from zinnet.placement.arrange import Rows
from zinnet.placement.rows import Grid, gap_for, how_many_fit, positions, row_lengths, size_for

SLACK = 1e-6


def laid_by_hand(grid):
    """Lay rows one after another while they fit; in a stagger every second row starts half a step further in.

    A row that no longer fits beside its neighbour in the field loses one motif; a lone column stays straight.
    """

    def in_a_row(start):
        count, x = 0, start
        while x + grid.width <= grid.field_width + SLACK:
            count += 1
            x += grid.width + grid.gap_x
        return count

    full = in_a_row(0.0)
    if full == 0:
        return []
    # Shifted by half a step from a row that starts at the very edge, as many fit as the field has room for.
    shifted = min(full, in_a_row((grid.width + grid.gap_x) / 2)) if grid.stagger else full
    if grid.stagger and shifted == 0:
        shifted = full
    rows, y, odd = [], 0.0, False
    while y + grid.height <= grid.field_height + SLACK:
        rows.append(shifted if odd else full)
        odd = not odd
        y += grid.height + grid.gap_y
    return rows


def random_grids(count, seed=4):
    rng = np.random.default_rng(seed)
    for _ in range(count):
        width, height = rng.uniform(20, 300, 2)
        yield Grid(
            field_width=rng.uniform(100, 2200),
            field_height=rng.uniform(100, 2200),
            width=width,
            height=height,
            gap_x=rng.uniform(0, 150),
            gap_y=rng.uniform(0, 150),
            stagger=bool(rng.integers(2)),
        )


def test_five_hundred_random_blankets_count_and_lie_as_laid_by_hand():
    several = 0
    for grid in random_grids(500):
        by_hand = laid_by_hand(grid)
        assert row_lengths(grid) == by_hand
        assert how_many_fit(grid) == sum(by_hand)
        corners = np.array(positions(grid)).reshape(-1, 2)
        assert len(corners) == sum(by_hand)
        if not len(corners):
            continue
        several += len(corners) > 1
        # Inside the field, and as far from its left edge as from its right one.
        assert corners.min() >= -SLACK
        far = corners + np.array([grid.width, grid.height])
        assert (far <= np.array([grid.field_width, grid.field_height]) + SLACK).all()
        assert corners[:, 0].min() == pytest.approx(grid.field_width - corners[:, 0].max() - grid.width, abs=1e-6)
        assert corners[:, 1].min() == pytest.approx(grid.field_height - corners[:, 1].max() - grid.height, abs=1e-6)
        # No two nearer than the gaps: judged pair by pair.
        apart = np.abs(corners[:, None] - corners[None])
        near = (apart[..., 0] < grid.step_x - SLACK) & (apart[..., 1] < grid.step_y - SLACK)
        assert np.count_nonzero(near) == len(corners)
    assert several > 300


def test_a_stagger_shifts_every_second_row_by_half_a_step():
    grid = Grid(1000, 500, 100, 80, 20, 20, stagger=True)
    corners = positions(grid)
    first = [x for x, y in corners if y == corners[0][1]]
    second = [x for x, y in corners if y > corners[0][1] and y < corners[0][1] + 101]
    assert second[0] - first[0] == pytest.approx(60)


@given(
    st.floats(300, 2000),
    st.floats(300, 2000),
    st.floats(30, 250),
    st.floats(30, 250),
    st.integers(1, 40),
    st.booleans(),
)
def test_at_the_size_for_n_n_fit_and_a_little_larger_they_do_not(across, down, width, height, count, stagger):
    grid = Grid(across, down, width, height, 10, 12, stagger)
    factor = size_for(grid, count)
    if factor == 0:
        assert how_many_fit(Grid(across, down, 0.01, 0.01, 10, 12, stagger)) < count
        return

    def sized(by):
        return Grid(across, down, width * by, height * by, 10, 12, stagger)

    assert how_many_fit(sized(factor)) >= count
    larger = factor + 0.03 / max(width, height)
    assert how_many_fit(sized(larger)) < count or larger > min(across / width, down / height)


@given(st.floats(100, 2000), st.floats(5, 400), st.integers(1, 30))
def test_with_the_gap_for_n_they_reach_from_edge_to_edge(room, size, count):
    gap = gap_for(room, size, count)
    if gap is None:
        assert count * size > room
    elif count > 1:
        assert count * size + (count - 1) * gap == pytest.approx(room)
        assert gap >= 0


def blanket(*edits):
    return document_of(
        '<rect width="72" height="50" fill="#f4ead5"/>',
        choose_blank(read_blank_name("blanket")),
        *edits,
    )


def test_on_a_blanket_the_margin_is_kept_and_each_copy_is_cut():
    document = blanket(set_placement("x", arrangement=Rows(margin_mm=60.0, gap_x_mm=90.0, gap_y_mm=90.0).model_dump()))
    placement = first_of(document.plan).placement
    usable = placement.panel.usable.bounds
    left, top, right, bottom = placement.block
    assert left >= usable[0] + 60 - 1e-3
    assert top >= usable[1] + 60 - 1e-3
    assert right <= usable[2] - 60 + 1e-3
    assert bottom <= usable[3] - 60 + 1e-3
    (nest,) = document.plan.nests
    assert nest.task.pieces[0].copies == len(placement.matrices)


def test_asked_for_rows_and_columns_are_the_most():
    document = blanket(set_placement("x", arrangement=Rows(columns=2, rows=3, stagger=False).model_dump()))
    assert len(first_of(document.plan).placement.matrices) == 6
