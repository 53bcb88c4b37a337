"""What a design looks like: its ink against closed forms, its letters and words against what was drawn."""

import math

import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from zinnet.geometry.region import Region, as_region
from zinnet.placement.character import are_spaces, baseline_of, design_of, letters_of


def boxes(*rows):
    return Region([shapely.box(*row) for row in rows])


def words(*lengths, height=20, gap=4, space=16, top=0):
    found, x = [], 0
    for length in lengths:
        for _ in range(length):
            found.append((x, top, x + 12, top + height))
            x += 12 + gap
        x += space - gap
    return found


@given(st.floats(10, 500))
def test_the_ink_of_a_disc_is_a_quarter_of_pi(radius):
    look = design_of(as_region(shapely.Point(0, 0).buffer(radius, quad_segs=64)))
    assert look.ink == pytest.approx(math.pi / 4, rel=1e-3)
    assert look.character == "compact"
    assert look.words == 0


def test_the_look_does_not_depend_on_the_size():
    small = boxes((0, 0, 10, 4), (12, 0, 30, 9))
    large = as_region(shapely.affinity.scale(small, 37, 37, origin=(0, 0)))
    one, other = design_of(small), design_of(large)
    assert (one.character, one.parts, one.words) == (other.character, other.parts, other.words)
    assert one.ink == pytest.approx(other.ink)


@pytest.mark.parametrize("lengths", [(5,), (3, 4), (7, 4, 6), (4, 4, 4, 4)])
def test_words_are_counted(lengths):
    motif = (0, 60, 100, 160)
    look = design_of(boxes(*words(*lengths), motif))
    assert look.words == len(lengths)
    assert look.letters == sum(lengths)


def test_widely_set_letters_are_still_one_word():
    assert design_of(boxes(*words(7, gap=14, space=60), (0, 60, 190, 160))).words == 1
    assert design_of(boxes(*words(4, 4, gap=14, space=60), (0, 60, 190, 160))).words == 2


def test_two_lines_of_words_are_two_rows():
    look = design_of(boxes(*words(5, 3), *words(4, 4, top=40), (0, 90, 120, 190)))
    assert look.words == 4


def test_mostly_words_or_very_many_parts_is_busy():
    assert design_of(boxes(*words(6, 6), *words(6, 6, top=40))).character == "busy"
    dots = [(12 * k % 120, 12 * (k // 10), 12 * k % 120 + 6, 12 * (k // 10) + 6) for k in range(80)]
    assert design_of(boxes(*dots)).character == "busy"


def test_a_long_motif_is_not_compact():
    assert design_of(boxes((0, 0, 100, 20))).character == "usual"
    assert design_of(boxes((0, 0, 100, 80))).character == "compact"


def test_the_said_look_has_numbers():
    said = design_of(boxes(*words(5), (0, 60, 76, 120))).in_words
    assert "ink cover" in said
    assert "1 word" in said
    assert "1 words" not in said


def test_the_dot_of_an_i_belongs_to_its_stem():
    letters = letters_of(boxes((0, 10, 6, 30), (0, 0, 6, 6), (12, 0, 30, 30)))
    assert [len(letter.geoms) for letter in letters] == [2, 1]


def test_kerned_letters_stay_apart():
    # Their boxes share a little of their width, as those of A and V do.
    leaning = Region([shapely.Polygon([(0, 30), (10, 0), (20, 30)]), shapely.Polygon([(15, 0), (35, 0), (25, 30)])])
    assert len(letters_of(leaning)) == 2


def test_letters_come_from_left_to_right():
    letters = letters_of(boxes((40, 0, 50, 30), (0, 0, 10, 30), (20, 0, 30, 30)))
    assert [letter.bounds[0] for letter in letters] == [0, 20, 40]


def test_tails_do_not_move_the_baseline():
    upright, tailed = [(20 * k, 0, 20 * k + 10, 30) for k in range(4)], [(80, 8, 90, 42)]
    assert baseline_of(letters_of(boxes(*upright, *tailed))) == 30


@given(st.lists(st.floats(1, 4), min_size=1, max_size=12))
def test_even_gaps_hold_no_spaces(gaps):
    assert not any(are_spaces(gaps, 30.0))


def test_a_wide_gap_among_narrow_ones_is_a_space():
    assert are_spaces([3, 3, 14, 3], 30.0) == [False, False, True, False]
    assert are_spaces([], 30.0) == []
