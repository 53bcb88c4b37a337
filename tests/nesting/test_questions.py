"""Answers to questions, against counting by brute force where that can be done."""

import math
from dataclasses import replace

import numpy as np
import pytest
import shapely

from tests.helpers import cases, times
from zinnet.base.errors import NestError
from zinnet.geometry.region import as_region
from zinnet.nesting import questions
from zinnet.nesting.model import NestTask, Piece
from zinnet.nesting.questions import (
    all_fit,
    how_many,
    how_many_more,
    largest_size,
    missing_length,
)
from zinnet.nesting.running import NestRun
from zinnet.nesting.sheet import Sheet

INCH = 25.4


def rectangles(size, film, *, copies=1, gap=0.0, turns="quarter", margin=0.0):
    piece = Piece("r", as_region(shapely.box(0, 0, *size)), copies, turns)
    roll = Sheet(width_mm=film[0], height_mm=film[1], copies=1, kind="roll", margin_mm=margin)
    return NestTask((piece,), (roll,), gap)


def test_the_worked_example_of_a_roll():
    """A roll 9.5 x 132 in, rectangles 7.2 x 5 in: 18 one way, 26 the other (common practice)."""
    film = 132 * INCH, 9.5 * INCH
    assert how_many(rectangles((7.2 * INCH, 5 * INCH), film, turns="none")) == 18
    assert how_many(rectangles((5 * INCH, 7.2 * INCH), film, turns="none")) == 26
    assert how_many(rectangles((7.2 * INCH, 5 * INCH), film)) == 26


@pytest.mark.parametrize("seed", range(cases(7, 25)))
def test_counts_and_largest_sizes_of_rectangles_equal_brute_force(seed):
    rng = np.random.default_rng(seed)
    size, film = rng.uniform(20, 60, 2), rng.uniform(150, 400, 2)
    gap = float(rng.choice([0.0, 2.5, 6.0]))

    def rows(factor):
        return int((film[0] + gap) / (size[0] * factor + gap) + 1e-9) * int(
            (film[1] + gap) / (size[1] * factor + gap) + 1e-9
        )

    task = rectangles(size, film, gap=gap, turns="none")
    assert how_many(task) == rows(1.0)
    wanted = int(rng.integers(1, 30))
    found = largest_size(replace(task, pieces=(replace(task.pieces[0], copies=wanted),)))
    assert found.exact
    edges = [
        ((side + gap) / count - gap) / one
        for side, one in zip(film, size, strict=True)
        for count in range(1, wanted + 1)
        if (side + gap) / count > gap
    ]
    best = max(edge for edge in edges if rows(edge * (1 - 1e-9)) >= wanted)
    assert found.factor == pytest.approx(best, rel=1e-5)


def triangle(copies, sheet, gap=2.0):
    region = as_region(shapely.Polygon([(0, 0), (42, 6), (20, 38)]))
    return NestTask((Piece("t", region, copies, "half"),), (sheet,), gap)


SMALL = Sheet(width_mm=170, height_mm=120, copies=1, kind="sheet", margin_mm=3.0)


@pytest.fixture
def short_trials(monkeypatch):
    """Look for less long than a user would: what is asserted holds however little is found."""
    monkeypatch.setattr(questions, "TRIAL_S", 0.12)
    monkeypatch.setattr(questions, "LAST_S", 0.12)


def test_the_answer_for_free_shapes_is_never_less_than_boxes_nor_more_than_the_film(short_trials):
    boxes = math.floor(166 / 44) * math.floor(116 / 40)
    most = 170 * 120 / triangle(1, SMALL).pieces[0].region.area
    assert boxes <= how_many(triangle(1, SMALL), goes_on=times(150)) <= most
    assert boxes - 4 <= how_many_more(triangle(4, SMALL), [{"t": 1}], goes_on=times(60)).count <= most - 4


def test_a_count_that_is_stopped_at_once_is_what_rows_hold():
    boxes = math.floor(166 / 44) * math.floor(116 / 40)
    assert how_many(triangle(1, SMALL), goes_on=times(0)) >= boxes - 1
    assert how_many(triangle(1, SMALL), goes_on=times(1)) >= boxes - 1


def test_the_largest_size_of_free_shapes_is_at_least_that_of_their_boxes(short_trials):
    task = triangle(8, SMALL)
    found = largest_size(task, goes_on=times(60))
    assert found.factor > 0.96, "boxes of 44 x 40 mm fit eight times at 0.9649"
    assert not found.exact
    assert 8 * task.pieces[0].region.area * found.factor**2 <= 170 * 120


def test_what_is_missing_is_a_length_on_which_the_rest_fits():
    task = replace(triangle(30, SMALL), steps=2)
    layout = NestRun(task).wait()
    assert layout.unplaced
    length = missing_length(task, layout, 120.0, margin_mm=3.0)
    rest = Piece("t", task.pieces[0].region, len(layout.unplaced), "half")
    more = Sheet(width_mm=length * 1.03, height_mm=120, copies=1, kind="roll", margin_mm=3.0)
    area = len(layout.unplaced) * rest.region.area / 120
    assert area < length < 3 * area
    assert all_fit(NestTask((rest,), (more,), 2.0, steps=8))


def test_questions_without_an_answer_say_why():
    with pytest.raises(NestError, match="how long"):
        how_many(NestTask(triangle(1, SMALL).pieces, (Sheet(width_mm=100, height_mm=100),), 0.0))
    with pytest.raises(NestError, match="any size"):
        largest_size(rectangles((10, 10), (50, 50), copies=100, gap=20.0))
    huge = NestTask((Piece("h", as_region(shapely.box(0, 0, 500, 10)), 1),), (SMALL,), 0.0)
    assert not all_fit(huge)
    assert how_many(huge) == 0
