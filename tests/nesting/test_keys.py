"""The key of a nest: the same for the same pieces, another as soon as anything differs."""

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from zinnet.base.errors import NestError
from zinnet.geometry.region import Region
from zinnet.machines.cutters import shipped_machines, usual_gap_mm
from zinnet.nesting.mat_sheets import gap_of, sheet_on
from zinnet.nesting.model import NestSpec, NestTask, Piece
from zinnet.nesting.sheet import Sheet

SHEET = Sheet(width_mm=300, height_mm=300, margin_mm=6)


def task(*regions, **fields):
    pieces = tuple(Piece(f"p{k}", region) for k, region in enumerate(regions))
    return NestTask(pieces=pieces, sheets=(fields.pop("sheet", SHEET),), gap_mm=fields.pop("gap_mm", 6.0), **fields)


ring = st.lists(st.tuples(st.integers(-2000, 2000), st.integers(-2000, 2000)), min_size=4, max_size=9, unique=True)


def hull(points):
    return shapely.convex_hull(shapely.MultiPoint(np.array(points) / 10))


@given(ring, st.integers(0, 8), st.booleans())
def test_the_order_of_points_does_not_count(points, start, back):
    shape = hull(points)
    if shape.geom_type != "Polygon":
        return
    coordinates = list(shape.exterior.coords)[:-1]
    start %= len(coordinates)
    again = coordinates[start:] + coordinates[:start]
    other = shapely.Polygon(again[::-1] if back else again)
    assert task(Region([shape])).key == task(Region([other])).key


@given(ring, st.floats(0.01, 5))
def test_a_piece_that_differs_by_a_hundredth_has_another_key(points, by):
    shape = hull(points)
    if shape.geom_type != "Polygon":
        return
    assert task(Region([shape])).key != task(Region([shapely.affinity.translate(shape, by, 0)])).key


def test_all_that_the_result_depends_on_counts_and_the_time_does_not():
    box = Region([shapely.box(0, 0, 30, 20)])
    plain = task(box)
    assert task(box, seconds=9.0).key == plain.key
    others = [
        task(box, gap_mm=5.0),
        task(box, seed=1),
        task(box, sheet=SHEET.model_copy(update={"copies": 1})),
        task(box, sheet=SHEET.model_copy(update={"margin_mm": 5.0})),
        NestTask(pieces=(Piece("p0", box, 2),), sheets=(SHEET,), gap_mm=6.0),
        NestTask(pieces=(Piece("p0", box, 1, "none"),), sheets=(SHEET,), gap_mm=6.0),
        NestTask(pieces=(Piece("q", box),), sheets=(SHEET,), gap_mm=6.0),
    ]
    keys = [other.key for other in others]
    assert len({plain.key, *keys}) == len(others) + 1


def test_a_task_comes_back_from_its_text():
    box = Region([shapely.box(0, 0, 30, 20).difference(shapely.box(5, 5, 10, 10))])
    before = task(box, seed=4)
    after = NestTask.from_json(before.to_json())
    assert after.key == before.key
    assert after.pieces[0].region.equals(box)


def test_mats_are_named_or_sized_and_nonsense_is_refused():
    for name, mat in shipped_machines().mats:
        assert sheet_on(shipped_machines().mat(name)).width_mm == mat.width_mm
    assert sheet_on(shipped_machines().mat("30x20cm")).height_mm == 200
    assert gap_of(NestSpec()) == usual_gap_mm()
    assert gap_of(NestSpec(gap_mm=2.0)) == 2
    for name in ("huge", "10x10mm", "-5x300", ""):
        with pytest.raises(NestError):
            sheet_on(shipped_machines().mat(name))
