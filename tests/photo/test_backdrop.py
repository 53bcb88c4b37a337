"""A straightened photo below a panel: true lengths, up stays up, and two points on two marks."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.helpers import cases
from tests.photo.drawn import photo
from zinnet.camera.backdrop import lay_below
from zinnet.camera.found_sheet import PhotoError, find_sheet
from zinnet.camera.measure import (
    StraightPhoto,
    length_on,
    on_plane,
    straightened,
)

NUMBERS = st.floats(-300, 900)
BLACK = np.zeros((10, 10, 3), dtype=np.uint8)


def moved(matrix, spot):
    x, y, w = matrix @ (*spot, 1.0)
    return np.array((x / w, y / w))


def straight_of(drawn, found, *spots_px):
    """Return the straightened photo, and where pixels of the photo are on it."""
    straight = straightened(drawn.picture, found)
    to_straight = np.linalg.inv(straight.to_sheet)
    return straight, [tuple(moved(to_straight, flat)) for flat in on_plane(found, np.array(spots_px))]


@pytest.mark.parametrize("seed", range(cases(3, 8)))
def test_lengths_on_the_straightened_photo_are_those_of_the_garment(seed):
    drawn = photo(seed)
    found = find_sheet(drawn.picture, "a4")
    straight, (one, other) = straight_of(drawn, found, drawn.px(450, 800), drawn.px(950, 900))
    measured = length_on(found, straight, one, other)
    assert measured.mm == pytest.approx(np.hypot(500, 100), rel=0.01)
    assert measured.mm == pytest.approx(np.hypot(*np.subtract(one, other)) / straight.px_mm, rel=1e-6)


@pytest.mark.parametrize("seed", range(cases(3, 8)))
def test_what_was_up_stays_up(seed):
    drawn = photo(seed)
    found = find_sheet(drawn.picture, "a4")
    x, y = found.corners.mean(axis=0)
    straight, (here, above) = straight_of(drawn, found, (x, y), (x, y - 20))
    assert above[1] < here[1]
    assert abs(above[0] - here[0]) < 0.15 * (here[1] - above[1])
    assert straight.picture.shape[2] == 3


@given(x1=NUMBERS, y1=NUMBERS, x2=NUMBERS, y2=NUMBERS, px_mm=st.floats(0.5, 4))
def test_the_scale_is_kept_and_the_middles_meet(x1, y1, x2, y2, px_mm):
    straight = StraightPhoto(BLACK, px_mm, np.eye(3))
    marks = ((-90.0, 12.0), (90.0, 12.0))
    if np.hypot(x2 - x1, y2 - y1) / px_mm < 20:
        with pytest.raises(PhotoError, match="far from each other"):
            lay_below(straight, ((x1, y1), (x2, y2)), marks)
        return
    backdrop = lay_below(straight, ((x1, y1), (x2, y2)), marks)
    one, other = moved(backdrop.matrix, (x1, y1)), moved(backdrop.matrix, (x2, y2))
    apart = np.hypot(x2 - x1, y2 - y1) / px_mm
    assert np.hypot(*(other - one)) == pytest.approx(apart)
    assert (one + other) / 2 == pytest.approx((0.0, 12.0), abs=1e-6)
    assert (other - one) / apart == pytest.approx((1.0, 0.0), abs=1e-6)
    assert backdrop.apart_mm == pytest.approx((apart, 180.0))
