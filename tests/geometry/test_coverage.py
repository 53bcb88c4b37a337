"""Arrangements of regions: borders that stay shared, and what lies on what."""

import math

import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from zinnet.geometry.arrangement import depths, faces_of, simplify_shared
from zinnet.geometry.region import EMPTY, as_region


def disc(x, y, r):
    return as_region(shapely.Point(x, y).buffer(r, quad_segs=32))


discs = st.lists(st.tuples(st.floats(0, 60), st.floats(0, 60), st.floats(3, 30)), min_size=1, max_size=6).map(
    lambda rows: [disc(*row) for row in rows]
)


@given(discs)
def test_faces_tell_which_regions_cover_them(regions):
    faces, covered = faces_of(regions)
    for index, region in enumerate(regions):
        whole = shapely.union_all(faces[covered[:, index]])
        assert shapely.symmetric_difference(whole, region).area < 1e-3


@given(discs)
def test_depths_add_up_to_all_areas(regions):
    found = depths(regions)
    assert sum(len(members) * part.area for members, part in found) == pytest.approx(
        sum(region.area for region in regions), rel=1e-6
    )
    assert len({members for members, _ in found}) == len(found)


def test_where_shapes_abut_and_overlap_simplified_borders_stay_shared():
    wave = [(x, 50 + 3 * math.sin(x)) for x in range(101)]
    upper = as_region(shapely.Polygon([(0, 0), *wave, (100, 0)]))
    lower = as_region(shapely.Polygon([(0, 100), *wave, (100, 100)]))
    over = disc(50, 50, 20)
    one, other, disc_now = simplify_shared([upper, lower, over], 2.0)
    before = sum(shapely.get_num_coordinates(region) for region in (upper, lower, over))
    assert shapely.get_num_coordinates([one, other, disc_now]).sum() < before / 2
    assert shapely.intersection(one, other).area < 1e-6
    # No gap between the two that abut: together they are one part without a hole, as before.
    whole = as_region(shapely.union_all([one, other]))
    assert (len(whole.geoms), len(whole.geoms[0].interiors)) == (1, 0)
    assert shapely.hausdorff_distance(disc_now, over) < 4.0


def test_nothing_stays_nothing():
    assert [region.is_empty for region in simplify_shared([EMPTY, EMPTY], 1.0)] == [True, True]
