"""Rows of given counts: as many in each as asked, every row in the middle, with the gaps that were asked for."""

import itertools

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.helpers import document_of, first_of, nested, run_command
from zinnet.base.errors import ZinnetError
from zinnet.job.edits import set_placement
from zinnet.placement.arrange import Rows
from zinnet.placement.rows import Grid, positions_of_counts, read_counts

MOTIF = '<path d="M0 20 L15 0 L30 20 Z" fill="#f4ead5"/>'


def in_rows(counts, *, width=30.0, gap=10.0, row_gap=12.0):
    arrangement = Rows(counts=counts, gap_x_mm=gap, gap_y_mm=row_gap).model_dump()
    return document_of(MOTIF, set_placement("x", width_mm=width, arrangement=arrangement))


@given(st.lists(st.integers(1, 9), min_size=1, max_size=7), st.floats(0, 20), st.floats(0, 20))
def test_every_row_has_its_count_its_gaps_and_the_same_margin_on_both_sides(counts, gap_x, gap_y):
    grid = Grid(300.0, 400.0, 12.0, 9.0, gap_x, gap_y)
    found = np.array(positions_of_counts(grid, counts))
    rows = np.split(found, np.cumsum(counts)[:-1])
    assert [len(row) for row in rows] == counts
    for row in rows:
        assert np.ptp(row[:, 1]) < 1e-9
        assert np.allclose(np.diff(row[:, 0]), 12.0 + gap_x)
        assert row[0, 0] == pytest.approx(300.0 - row[-1, 0] - 12.0)
    tops = [row[0, 1] for row in rows]
    assert np.allclose(np.diff(tops), 9.0 + gap_y)
    assert tops[0] == pytest.approx(400.0 - tops[-1] - 9.0)


def test_thirteen_in_rows_of_three_and_two_lie_staggered_on_the_panel_and_are_all_cut():
    document = in_rows((3, 2, 3, 2, 3))
    placement = first_of(document.plan).placement
    assert len(placement.matrices) == 13
    across = [round(x, 3) for x, _ in placement.copies_mm]
    assert across[:5] == [-40.0, 0.0, 40.0, -20.0, 20.0]
    steps = sorted({round(y, 3) for _, y in placement.copies_mm})
    assert np.allclose(np.diff(steps), 20.0 + 12.0)
    (nest,) = nested(document).plan.nests
    assert sum(piece.copies for piece in nest.task.pieces) == 13


@pytest.mark.parametrize("counts", [(12,), (3,) * 40])
def test_rows_that_do_not_fit_say_so_and_nothing_is_left_out(counts):
    with pytest.raises(ZinnetError, match=r"take .* mm|reach beyond"):
        in_rows(counts)


@pytest.mark.parametrize("text", ["3-x", "0", "3--2-501", "½"])
def test_what_is_no_list_of_counts_is_refused(text):
    with pytest.raises(ZinnetError, match="no list of counts"):
        read_counts(text)


def test_by_command_the_copies_and_their_coordinates(tmp_path):
    path = tmp_path / "strip.zinnet"
    document_of(MOTIF, set_placement("x", width_mm=30.0)).save(path)
    done = run_command("job", "rows", path, 1, "--counts", "2-1", "--gap", "10mm", "--row-gap", "5mm")
    places = [tuple(map(float, line.split())) for line in done.stdout.splitlines()]
    assert [x for x, _ in places] == [-20.0, 20.0, 0.0]
    assert places[2][1] - places[0][1] == pytest.approx(25.0)
    assert list(itertools.chain(*places)) == [round(each, 1) for each in itertools.chain(*places)]
