"""Laps leave nothing that a film can't hold, reach nowhere but below others, and change nothing that is seen."""

import pytest
import shapely

from tests.helpers import document_of
from zinnet.films.catalogue import film_kinds
from zinnet.geometry.region import as_region
from zinnet.geometry.thickness import thin_parts
from zinnet.job.edits import set_layers, set_placement
from zinnet.layers.detail import details
from zinnet.layers.laps import held_below

SMOOTH = film_kinds()["smooth"]


def test_a_strip_that_is_too_thin_goes_on_below_its_neighbour():
    strip, below = as_region(shapely.box(0, 0, 40, 0.3)), as_region(shapely.box(0, 0.3, 40, 20))
    held = held_below(strip, below, SMOOTH)
    assert thin_parts(held, SMOOTH.least_stroke_mm).is_empty
    assert shapely.covers(held, strip)
    assert shapely.covers(shapely.buffer(shapely.union(strip, below), 1e-6), held)


def test_a_hole_that_could_not_be_weeded_is_closed_where_something_lies_on_it_and_stays_where_nothing_does():
    plate = as_region(shapely.difference(shapely.box(0, 0, 40, 20), shapely.box(10, 10, 11, 11)))
    covered, bare = as_region(shapely.box(9, 9, 12, 12)), as_region(shapely.box(30, 0, 40, 20))
    assert len(held_below(plate, covered, SMOOTH).geoms[0].interiors) == 0
    assert len(held_below(plate, bare, SMOOTH).geoms[0].interiors) == 1


@pytest.mark.parametrize("lap_mm", [0.3, 0.6, 1.0])
def test_laps_of_a_drawing_leave_what_is_seen_as_it_was_and_nothing_too_fine(lap_mm):
    stripes = "".join(f'<rect x="{4 + 8 * k}" width="6.9" height="60" fill="#1f57c3"/>' for k in range(11))
    ground = f'<rect width="100" height="60" fill="#f4ead5"/>{stripes}'
    plain, lapped = (
        document_of(ground, set_placement("x", width_mm=127.0), set_layers("x", method=method, lap_mm=lap_mm))
        for method in ("stack", "lap")
    )
    rows = lapped.plan.garments[0].compositions[0].layers
    assert [detail for row in rows for detail in details(row)] == []
    for row, other in zip(rows, plain.plan.garments[0].compositions[0].layers, strict=True):
        assert shapely.symmetric_difference(row.seen, other.seen).area < 0.5
