"""Gaps that are too narrow, against shapes whose gaps are known: notches, slots, dots, letters."""

import math

import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.helpers import cases, document_of
from zinnet.artwork.lettering.text import TextSpec
from zinnet.artwork.lettering.word import word_regions
from zinnet.geometry.gaps import narrowest_neck, tight_places
from zinnet.geometry.region import Region, as_region
from zinnet.job.edits import choose_film, set_placement

BLOCK = shapely.box(-30, 0, 30, 30)


def notched(angle_deg, depth=20.0):
    """Return a block with a notch that runs to a point, of such an angle."""
    half = depth * math.tan(math.radians(angle_deg / 2))
    return as_region(BLOCK - shapely.Polygon([(-half, 30), (half, 30), (0, 30 - depth)]))


def dots(radius, gap):
    return Region([shapely.Point(x, 0).buffer(radius, quad_segs=64) for x in (0.0, 2 * radius + gap)])


@settings(max_examples=cases(25, 300))
@given(st.floats(3, 120), st.floats(2, 25), st.floats(0, 360))
def test_a_notch_that_runs_to_a_point_is_no_gap(angle, depth, turned):
    block = shapely.affinity.rotate(notched(angle, depth), turned)
    assert tight_places(block, 0.5, 1.0).is_empty


@settings(max_examples=cases(25, 300))
@given(st.floats(0.05, 0.45), st.floats(2, 25), st.floats(0, 360))
def test_a_slot_with_sides_beside_each_other_is_one(width, depth, turned):
    slot = shapely.affinity.rotate(BLOCK - shapely.box(-width / 2, 30 - depth, width / 2, 31), turned)
    (place,) = tight_places(as_region(slot), 0.5, 1.0).geoms
    assert place.area == pytest.approx(width * depth, rel=0.1, abs=0.1)
    wide = shapely.affinity.rotate(BLOCK - shapely.box(-0.3, 30 - depth, 0.3, 31), turned)
    assert tight_places(as_region(wide), 0.5, 1.0).is_empty


@settings(max_examples=cases(40, 300))
@given(st.floats(1.0, 20), st.floats(0.2, 4.5))
def test_dots_are_one_where_they_are_nearer_than_the_limit_over_a_length(radius, gap):
    # Two circles of radius r lie nearer than the limit where sqrt((r + limit/2)^2 - (r + gap/2)^2) from the middle.
    limit, run = 3.0, 0.3
    half = math.sqrt(max(0.0, (radius + limit / 2) ** 2 - (radius + gap / 2) ** 2))
    found = tight_places(dots(radius, gap), limit, run)
    if gap > limit + 0.02 or 2 * half < 0.9 * run:
        assert found.is_empty
    elif gap < limit - 0.02 and 2 * half > 1.1 * run:
        assert len(found.geoms) == 1
        assert narrowest_neck(dots(radius, gap), found.geoms[0], limit) == pytest.approx(gap, abs=0.01)


@pytest.mark.parametrize("font", ["atkinson", "bitter", "bebas-neue"])
def test_letters_at_a_height_at_which_their_counters_stay_open_have_no_gaps(font):
    for word in ("VWXAMN", "vwyk", "7147", "Lantern Walk"):
        for letter in word_regions(TextSpec(text=word, font=font), height_mm=40.0, joined=False):
            assert tight_places(letter, 0.5, 1.0).is_empty, word


def test_round_dots_of_puff_fuse_as_bars_do():
    puff, size = choose_film("#d62828", "white-puff"), set_placement("x", width_mm=50.0)
    round_ones = '<circle cx="10" cy="10" r="9" fill="#d62828"/><circle cx="30" cy="10" r="9" fill="#d62828"/>'
    bars = '<rect width="19" height="9" fill="#d62828"/><rect x="21" width="19" height="9" fill="#d62828"/>'
    for body in (round_ones, bars):
        document = document_of(body, size, puff)
        (gap,) = [one for one in document.plan.findings if one.id == "gap-will-close"]
        document.apply(gap.mend)
        assert not [one for one in document.plan.findings if one.id == "gap-will-close"]
