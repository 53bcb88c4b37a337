"""Where the platen goes: as few positions as trying all finds, all film covered, nothing hot that must stay cool."""

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.helpers import cases
from tests.pressing.covering import fewest_by_search, random_case, region
from zinnet.blanks.model import KeepOut
from zinnet.geometry.region import EMPTY, Region, as_region, union
from zinnet.geometry.transform import moved, turn
from zinnet.machines.platens import Platen, platen
from zinnet.pressing.box_cover import Boxes, fewest_boxes
from zinnet.pressing.heat_map import HeatPress, heat_at, heat_map, most_heat
from zinnet.pressing.platen_positions import cover, reach

FLAT = platen("flat-15x15")


def of_size(width, height, source="press"):
    return Platen(name="x", heat_source=source, width_mm=width, height_mm=height, source="a test's own")


def box(*edges):
    return as_region(shapely.box(*edges))


@pytest.mark.parametrize("first", range(0, cases(20, 80), 10))
def test_as_few_positions_as_trying_all_finds(first):
    for seed in range(first, first + 10):
        case = random_case(seed)
        if case is None:
            continue
        expected = fewest_by_search(case)
        size = case.width, case.height
        blocked = reach(region(case.hard), *size) if case.hard else EMPTY
        found = fewest_boxes(Boxes(region(case.film), *size, *size, blocked))
        if expected is None:
            assert not found.left.is_empty
            continue
        assert len(found.middles) == expected == found.least, seed
        spread = union(shapely.box(x - size[0] / 2, y - size[1] / 2, x + size[0] / 2, y + size[1] / 2)
                       for x, y in found.middles)  # fmt: skip
        assert shapely.area(shapely.difference(region(case.film), spread)) < 1e-4
        for x, y in found.middles:
            mine = shapely.box(x - size[0] / 2, y - size[1] / 2, x + size[0] / 2, y + size[1] / 2)
            assert shapely.area(shapely.intersection(mine, region(case.hard))) < 1e-4


@settings(max_examples=cases(8, 200))
@given(st.integers(0, 10_000))
def test_any_film_is_covered_and_no_keep_out_is_touched(seed):
    luck = np.random.default_rng(seed)
    spots = luck.uniform(0, 420, size=(luck.integers(1, 9), 2))
    film = union(shapely.buffer(shapely.Point(spot), luck.uniform(5, 60)) for spot in spots)
    keeps = []
    if luck.random() < 0.5:
        x, y = luck.uniform(-60, 480, size=2)
        zip_ = box(x - 3, y - 90, x + 3, y + 90)
        film = Region([part for part in film.geoms if shapely.distance(part, zip_) > 1])
        keeps = [KeepOut("zip", zip_)]
    found = cover([film], of_size(200, 150), keeps, overlap_mm=15)
    left = shapely.difference(film, union(one.box for one in found.positions))
    assert shapely.area(shapely.difference(left, shapely.buffer(found.left, 1e-3))) < 1e-2
    for position in found.positions:
        for keep in keeps:
            assert shapely.area(shapely.intersection(position.box, keep.region)) < 1e-2
    assert not found.left.is_empty or 1 <= found.least <= len(found.positions)


def test_what_fits_is_pressed_at_once_in_its_middle():
    found = cover([box(-100, 50, 100, 250)], FLAT, [], overlap_mm=15)
    (one,) = found.positions
    assert (one.x, one.y, one.turn_deg) == (0, 150, 0)
    assert found.is_proven


def test_a_long_piece_lies_across_the_turned_platen_and_along_its_diagonal():
    upright = cover([box(0, 0, 100, 290)], of_size(300, 120), [], overlap_mm=15)
    assert [one.turn_deg for one in upright.positions] == [90]
    slanted = cover([as_region(moved(box(-250, -10, 250, 10), turn(0)))], of_size(381, 381), [], overlap_mm=15)
    (one,) = slanted.positions
    assert one.turn_deg not in (0, 90)
    assert one.box.buffer(1e-6).covers(box(-250, -10, 250, 10))
    two = cover([box(-250, -10, 250, 10)], of_size(381, 381), [], overlap_mm=15, turns=False)
    assert len(two.positions) == 2


def test_parts_of_one_piece_overlap_and_a_piece_that_fits_is_not_split():
    found = cover([box(0, 0, 500, 100)], of_size(300, 150), [], overlap_mm=15, turns=False)
    first, second = (one.box for one in found.positions)
    assert shapely.intersection(first, second).bounds[2] - shapely.intersection(first, second).bounds[0] >= 15 - 1e-6
    apart = union([box(0, 0, 250, 100), box(300, 0, 550, 100)])
    whole = cover([apart], of_size(300, 150), [], overlap_mm=15, turns=False)
    assert len(whole.positions) == 2
    for part in apart.geoms:
        assert any(one.box.buffer(1e-6).covers(part) for one in whole.positions)


def test_film_that_is_done_is_not_heated_again_where_that_can_be_helped():
    film, done = box(0, 0, 100, 100), box(110, 0, 400, 100)
    found = cover([film, box(0, 400, 100, 500)], of_size(200, 150), [], overlap_mm=0, done=done, turns=False)
    assert len(found.positions) == 2
    assert shapely.area(shapely.intersection(found.pressed, done)) < 1e-6


def test_a_raised_pocket_is_padded_and_a_zip_keeps_the_platen_off():
    film = box(0, 0, 100, 100)
    pocket = KeepOut("other", box(-20, 60, 120, 160), raised=True)
    (one,) = cover([film], FLAT, [pocket], overlap_mm=15).positions
    assert one.pads == ("pocket or seam",)
    zip_ = KeepOut("zip", box(110, -500, 116, 500))
    (beside,) = cover([film], FLAT, [zip_], overlap_mm=15).positions
    assert beside.box.bounds[2] <= 110 + 1e-5


def test_film_under_a_zip_on_both_sides_can_not_be_reached():
    zips = [KeepOut("zip", box(-40, -500, -30, 500)), KeepOut("zip", box(130, -500, 140, 500))]
    found = cover([box(0, 0, 100, 100)], of_size(200, 200), zips, overlap_mm=0)
    assert found.left.area == pytest.approx(100 * 100, rel=0.01)


@given(st.integers(0, 10_000))
def test_the_heat_map_is_a_count_point_by_point(seed):
    luck = np.random.default_rng(seed)
    presses = []
    for _ in range(luck.integers(1, 5)):
        boxes = []
        for _ in range(luck.integers(1, 4)):
            x, y = luck.uniform(0, 200, size=2)
            boxes.append(moved(shapely.box(-60, -40, 60, 40), turn(float(luck.uniform(0, 90)))))
            boxes[-1] = shapely.transform(boxes[-1], lambda points, x=x, y=y: points + np.array([x, y]))
        presses.append(HeatPress(tuple(boxes), float(luck.integers(1, 40))))
    spots = heat_map(presses)
    for x, y in luck.uniform(-50, 250, size=(200, 2)):
        point = shapely.Point(x, y)
        counted = sum(press.seconds for press in presses for one in press.boxes if one.contains(point))
        mapped = sum(spot.seconds for spot in spots if spot.region.contains(point))
        assert mapped == pytest.approx(counted)
        assert heat_at(presses, x, y) == pytest.approx(counted)
    whole = union(one for press in presses for one in press.boxes)
    assert sum(spot.region.area for spot in spots) == pytest.approx(whole.area, rel=1e-6)
    assert most_heat(spots, whole) == pytest.approx(max(spot.seconds for spot in spots))
