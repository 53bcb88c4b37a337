"""Where layers come apart: nothing that belongs together is parted, and what is parted lies as far apart as is said."""

import itertools

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from tests.helpers import painted
from zinnet.geometry.region import as_region
from zinnet.layers.parting import gaps_of

WORDS = ("LANTERN WALK", "Jiggling reeds", "Über die Brücke", "i, j; k!", "STEWARD 24", "drummers' night")
FONTS = ("Atkinson Hyperlegible", "Bitter", "Comfortaa", "Bebas Neue")


def scattered(seed):
    """Return discs, rings and bars thrown at random, those that met as one."""
    rng = np.random.default_rng(seed)
    shapes = []
    for _ in range(int(rng.integers(2, 25))):
        middle = shapely.Point(rng.uniform(0, 300, 2))
        shape = middle.buffer(rng.uniform(3, 25))
        if rng.random() < 0.3:
            shape = shape.difference(middle.buffer(rng.uniform(1, 15)))
        shapes.append(shape)
    return as_region(shapely.union_all(shapes))


@given(st.integers(0, 100_000), st.floats(1, 60))
def test_the_pieces_are_all_the_parts_and_lie_so_far_apart(seed, apart):
    region = scattered(seed)
    pieces = gaps_of(region).parted(apart)
    assert sorted(part for piece in pieces for part in piece) == list(range(len(region.geoms)))
    groups = [shapely.MultiPolygon([region.geoms[part] for part in piece]) for piece in pieces]
    for one, other in itertools.combinations(groups, 2):
        assert shapely.distance(one, other) >= apart - 0.7, "outlines are looked at within 0.3 mm"


@given(st.integers(0, 100_000))
def test_narrower_gaps_part_what_wider_ones_parted(seed):
    gaps = gaps_of(scattered(seed))
    before = 0
    for width in gaps.widths:
        pieces = gaps.parted(width)
        assert len(pieces) > before or before == 0
        before = len(pieces)


@given(st.integers(0, 100_000), st.floats(5, 60))
def test_no_piece_is_too_small_for_a_hand(seed, least):
    region = scattered(seed)
    pieces = gaps_of(region).parted(6.0, least_mm=least)
    if len(pieces) > 1:
        for piece in pieces:
            left, top, right, bottom = shapely.MultiPolygon([region.geoms[part] for part in piece]).bounds
            assert max(right - left, bottom - top) >= least


def test_what_lies_in_a_counter_stays_with_it():
    ring = shapely.Point(0, 0).buffer(80).difference(shapely.Point(0, 0).buffer(70))
    region = as_region(shapely.union_all([ring, shapely.Point(0, 0).buffer(5), shapely.Point(200, 0).buffer(30)]))
    pieces = gaps_of(region).parted(10.0)
    assert sorted(map(len, pieces)) == [1, 2]


def letters(words, font, size, x):
    style = f'font-family="{font}" font-weight="700" font-size="{size}" fill="#111"'
    return f'<text x="{x}" y="400" {style}>{words}</text>'


@pytest.mark.parametrize("words", WORDS)
@pytest.mark.parametrize("font", FONTS)
@pytest.mark.parametrize("size", [60, 260])
def test_no_word_and_no_letter_is_parted(words, font, size):
    # each word is drawn by itself too: what lies in it must be in one piece, a disc below must not
    page, x, body, drawn = 'viewBox="0 0 4000 1000"', 40.0, "", []
    for word in words.split(" "):
        body += letters(word, font, size, round(x, 2))
        drawn.append(painted(letters(word, font, size, round(x, 2)), page))
        x = drawn[-1].bounds[2] + 0.3 * size
    whole = painted(body + '<circle cx="500" cy="900" r="60" fill="#111"/>', page)
    pieces = gaps_of(whole).parted(6.0)
    assert len(pieces) > 1, "the disc comes off"
    for word in drawn:
        mine = {number for number, part in enumerate(whole.geoms) if part.intersection(word).area > 0.5 * part.area}
        assert sum(bool(mine & set(piece)) for piece in pieces) == 1


def test_letters_that_are_known_to_be_letters_stay_on_their_line_however_wide_they_are_spaced():
    bars = as_region(shapely.union_all([shapely.box(x, 0, x + 10, 40) for x in range(0, 300, 60)]))
    assert len(gaps_of(bars).parted(6.0)) > 1
    assert len(gaps_of(bars, lettered=True).parted(6.0)) == 1


def test_an_empty_layer_and_a_single_part_have_no_gaps():
    assert gaps_of(as_region(shapely.MultiPolygon())).parted(5.0) == ()
    assert gaps_of(as_region(shapely.box(0, 0, 9, 9))).parted(5.0) == ((0,),)


def test_parts_in_one_row_of_points_are_no_trouble():
    row = as_region(shapely.union_all([shapely.box(x, 0, x + 1e-3, 1e-3) for x in range(0, 90, 10)]))
    assert len(gaps_of(row).parted(6.0)) == 9
