import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from zinnet.geometry.inside import points_inside
from zinnet.geometry.region import Region, fill, rings_of

SLIVER = shapely.Polygon(
    [
        (117.06643163367909, 127.08992197567885),
        (117.03060396230256, 127.08992197567885),
        (117.08888253191381, 127.83042141289079),
        (117.30445998193596, 130.0692788328945),
        (117.55907804811734, 132.30403291879242),
        (117.59406110619696, 132.56975562607644),
        (118.17455047986782, 138.59857958156908),
    ]
)
"""A piece of a letter whose point on the surface, as the geometry library gives it, lies on its outline."""


def test_the_point_lies_within_where_the_geometry_library_puts_it_on_the_outline():
    assert not SLIVER.contains(SLIVER.representative_point())
    assert SLIVER.contains(points_inside([SLIVER])[0])


def test_filling_the_outlines_of_a_region_loses_no_part():
    region = Region([SLIVER, shapely.box(0, 0, 50, 50)])
    assert fill(rings_of(region), "evenodd").area == pytest.approx(region.area)
    assert fill(rings_of(region), "nonzero").area == pytest.approx(region.area)


coordinate = st.floats(0, 100, allow_subnormal=False)


@given(st.lists(st.tuples(coordinate, coordinate), min_size=3, max_size=8))
def test_a_point_of_any_polygon_is_within_it(corners):
    for polygon in shapely.get_parts(shapely.make_valid(shapely.Polygon(np.round(corners, 3)))):
        if polygon.geom_type == "Polygon" and polygon.area > 0.01:
            assert polygon.contains(points_inside([polygon])[0])
