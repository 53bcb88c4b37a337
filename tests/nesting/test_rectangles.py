"""How many rectangles fit: the worked example, and every small case by brute force."""

import itertools

import pytest
from hypothesis import given
from hypothesis import strategies as st

from zinnet.base.errors import NestError
from zinnet.base.units import MM_PER_INCH
from zinnet.nesting.rectangles import how_many_rectangles


def test_the_worked_example_of_a_roll_of_stickers():
    # Common practice, no source: a roll of 9.5 x 132 in, rectangles of 7.2 x 5 in without gaps.
    size, film = (7.2 * MM_PER_INCH, 5 * MM_PER_INCH), (9.5 * MM_PER_INCH, 132 * MM_PER_INCH)
    counts = how_many_rectangles(size, film)
    assert (counts.long_along, counts.short_along) == (18, 26)
    assert counts.best == 26


def brute_force(width, length, a, b):
    """Return the most rectangles of a x b on a grid of whole cells: the first free cell is left free or covered."""
    best = 0

    def fill(free, count):
        nonlocal best
        best = max(best, count)
        if count + len(free) // (a * b) <= best:
            return
        for x, y in sorted(free):
            for w, h in {(a, b), (b, a)}:
                cells = frozenset(itertools.product(range(x, x + w), range(y, y + h)))
                if cells <= free:
                    fill(free - cells, count + 1)
            free = free - {(x, y)}
            if count + len(free) // (a * b) <= best:
                return

    fill(frozenset(itertools.product(range(width), range(length))), 0)
    return best


SMALL = [
    (width, length, a, b)
    for a, b in ((1, 2), (2, 3), (1, 3), (2, 4), (3, 4), (2, 5))
    for width, length in ((4, 4), (5, 5), (4, 7), (5, 7), (6, 7))
]


@pytest.mark.parametrize(("width", "length", "a", "b"), SMALL)
def test_small_cases_agree_with_brute_force(width, length, a, b):
    assert how_many_rectangles((a, b), (width, length)).best == brute_force(width, length, a, b)


def test_a_pinwheel_holds_more_than_any_rows():
    # Four rectangles of 2 x 3 around a hole of 1 x 1 fill 5 x 5; rows of one direction hold two.
    counts = how_many_rectangles((20, 30), (50, 50))
    assert counts.best == 4
    assert max(counts.long_along, counts.short_along) < 4


@given(
    st.floats(10, 60), st.floats(10, 60), st.floats(50, 300), st.floats(50, 300), st.sampled_from([0.0, 1.0, 3.0, 6.0])
)
def test_never_more_than_the_area_holds_nor_fewer_than_rows(a, b, width, length, gap):
    counts = how_many_rectangles((a, b), (width, length), gap)
    assert counts.best * (a + gap) * (b + gap) <= (width + gap) * (length + gap) * (1 + 1e-6)
    assert counts.best >= max(counts.long_along, counts.short_along)
    swapped = how_many_rectangles((b, a), (width, length), gap)
    assert swapped == counts


def test_film_with_a_direction_is_not_turned():
    assert how_many_rectangles((20, 30), (50, 50), may_turn=False).best == 2
    assert how_many_rectangles((30, 20), (50, 50), may_turn=False).best == 2


def test_what_has_no_size_is_refused():
    with pytest.raises(NestError, match="above zero"):
        how_many_rectangles((0, 30), (50, 50))
