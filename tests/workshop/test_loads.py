"""Film from the shelf on a mat, and what is left of it: nothing is lost and nothing is invented."""

import pytest
import shapely

from tests.helpers import narrow_nest
from zinnet.geometry.region import as_region, union
from zinnet.geometry.transform import moved
from zinnet.machines.cutters import Mat, shipped_machines
from zinnet.nesting.model import NestTask, Piece
from zinnet.nesting.sheet import film_of
from zinnet.nesting.verify import faults, regions_on
from zinnet.workshop.after_cut import KEEPS, CutLoad, changes, leftovers
from zinnet.workshop.stock import Stock, StockItem
from zinnet.workshop.stock_sheets import sheets_from, to_film
from zinnet.workshop.store import WorkshopStore

MAT = shipped_machines().mat("12x12in")
BED = Mat(name="bed", width_mm=3000, height_mm=610, margin_mm=12, fed=True)


def item(number=1, **fields):
    usual = {"film": "cream", "kind": "roll", "width_mm": 305.0, "length_mm": 1000.0}
    return StockItem(number=number, **{**usual, **fields})


def sizes(items, mat=MAT, directed=False):
    return [
        (round(sheet.width_mm, 1), round(sheet.height_mm, 1), sheet.copies)
        for sheet, _ in sheets_from(items, mat, edge_mm=3.0, directed=directed)
    ]


def test_a_roll_is_cut_by_the_length_of_the_mat_and_fed_whole_without_one():
    def loads(items, mat=MAT):
        found = sheets_from(items, mat, edge_mm=3.0, directed=False)
        return [(round(one.width_mm, 1), round(one.height_mm, 1), one.margin_mm, one.roll_mm) for one, _ in found]

    assert loads([item()]) == [(304.8, 304.8, 6.35, 1000.0)]
    assert loads([item()], BED) == [(1000.0, 305.0, 3.0, None)]
    # narrow film keeps 3 mm at its edges, so that a load of 602.9 mm reaches as far as the mat's margin lets it
    assert loads([item(width_mm=250)], shipped_machines().mat("12x24in")) == [(602.9, 250.0, 3.0, 1000.0)]
    assert loads([item(length_mm=200)]) == [(200.0, 304.8, 6.35, None)]


def test_scraps_come_first_the_smallest_before_the_larger_then_sheets_then_rolls():
    items = [
        item(1),
        item(2, kind="sheet", length_mm=200, width_mm=200, count=4),
        item(3, kind="scrap", length_mm=250, width_mm=250),
        item(4, kind="scrap", length_mm=90, width_mm=90),
    ]
    assert [owner.number for _, owner in sheets_from(items, MAT, edge_mm=3.0, directed=False)] == [4, 3, 2, 1]


def test_film_that_covers_the_mat_keeps_the_mats_margin_and_smaller_film_its_own():
    margins = {
        owner.number: sheet.margin_mm
        for sheet, owner in sheets_from(
            [item(1), item(2, kind="sheet", length_mm=100, width_mm=120)], MAT, edge_mm=3.0, directed=False
        )
    }
    assert margins == {1: MAT.margin_mm, 2: 3.0}


def test_film_larger_than_the_mat_is_loaded_in_parts_that_cover_it():
    large = item(kind="sheet", length_mm=700, width_mm=500)
    loads = sheets_from([large], MAT, edge_mm=3.0, directed=False)
    covered = union([moved(film_of(sheet), to_film(sheet, large)) for sheet, _ in loads])
    assert covered.area == pytest.approx(700 * 500, rel=1e-6)
    assert sum(sheet.width_mm * sheet.height_mm for sheet, _ in loads) == pytest.approx(700 * 500, rel=1e-6)


def test_film_whose_direction_runs_across_is_turned_by_a_quarter():
    outline = as_region(shapely.Polygon([(0, 0), (200, 0), (200, 60), (120, 100), (0, 100)]))
    turned = item(kind="scrap", length_mm=200, width_mm=100, outline=outline, turned=True)
    ((sheet, _),) = sheets_from([turned], MAT, edge_mm=3.0, directed=True)
    assert (sheet.width_mm, sheet.height_mm) == (100, 200)
    back = moved(film_of(sheet), to_film(sheet, turned))
    assert back.symmetric_difference(outline).area < 1e-6


def test_a_roll_with_a_spoiled_spot_is_loaded_part_by_part_around_it():
    bad = item(spoiled=as_region(shapely.box(400, 100, 440, 140)))
    loads = [sheet for sheet, _ in sheets_from([bad], MAT, edge_mm=3.0, directed=False)]
    assert [sheet.keep_out is not None for sheet in loads] == [False, True, False, False]
    spot = moved(loads[1].keep_out, to_film(loads[1], bad))
    assert spot.symmetric_difference(bad.spoiled).area < 1e-6


def cut_from(items, pieces):
    loads = sheets_from(items, MAT, edge_mm=3.0, directed=False)
    task = NestTask(pieces, tuple(sheet for sheet, _ in loads), 3.0)
    layout = narrow_nest(task)
    assert faults(task, layout) == []
    regions = {piece.name: piece.region for piece in pieces}
    return layout, [
        CutLoad(loads[one.sheet][0], loads[one.sheet][1], union(regions_on(one, regions)), one.used_length_mm)
        for one in layout.sheets
    ]


def pieces(count):
    return (
        Piece("disc", as_region(shapely.Point(0, 0).buffer(24)), count),
        Piece("bar", as_region(shapely.box(0, 0, 70, 14)), count),
    )


@pytest.mark.parametrize("keep", KEEPS)
def test_the_books_balance_whatever_is_kept(keep):
    store = WorkshopStore()
    stock = Stock(store)
    hole = shapely.box(0, 0, 260, 180).difference(shapely.Point(90, 90).buffer(45))
    added = stock.add(
        [
            item(0, kind="scrap", length_mm=260, width_mm=180, outline=as_region(hole)),
            item(0, kind="sheet", length_mm=280, width_mm=200, count=3),
            item(0),
        ]
    )
    before = sum(one.area_mm2 for one in added)
    layout, loads = cut_from(stock.items(), pieces(24))
    assert layout.unplaced == ()
    left = leftovers(loads, least_mm=40.0)
    cut = stock.cut("walk", changes(loads, left, dict.fromkeys(range(len(left)), keep)))
    after = stock.items()
    thrown = sum(one.taken_mm2 - one.cut_mm2 - one.kept_mm2(keep) for one in left)
    gone = sum(one.cut_mm2 for one in left)
    assert sum(one.area_mm2 for one in after) + gone + thrown == pytest.approx(before, rel=1e-3)
    assert gone == pytest.approx(24 * (pieces(1)[0].region.area + 70 * 14), rel=1e-3)
    stock.undo(cut)
    assert sum(one.area_mm2 for one in stock.items()) == pytest.approx(before, rel=1e-9)


def test_a_leftover_stored_and_used_again_loses_no_area_and_no_piece_touches_its_holes():
    stock = Stock(WorkshopStore())
    stock.add([item(0, kind="sheet", length_mm=280, width_mm=200)])
    _, loads = cut_from(stock.items(), (Piece("disc", as_region(shapely.Point(0, 0).buffer(40)), 2),))
    left = leftovers(loads, least_mm=40.0)
    stock.cut("walk", changes(loads, left))
    (scrap,) = stock.items()
    assert scrap.kind == "scrap"
    assert scrap.area_mm2 == pytest.approx(left[0].region.area)
    assert scrap.area_mm2 < 280 * 200 - left[0].cut_mm2
    layout, again = cut_from([scrap], (Piece("chip", as_region(shapely.box(0, 0, 28, 22)), 8),))
    assert layout.unplaced == ()
    last = leftovers(again, least_mm=40.0)
    assert last[0].region.area <= scrap.area_mm2 - 8 * 28 * 22


def test_sheets_of_one_kind_are_counted_down_and_a_used_up_roll_is_gone():
    three = item(1, kind="sheet", length_mm=100, width_mm=100, count=3)
    sheet = sheets_from([three], MAT, edge_mm=3.0, directed=False)[0][0]
    load = CutLoad(sheet, three, as_region(shapely.box(3, 3, 90, 90)), 90.0)
    (change,) = changes([load, load], leftovers([load, load], least_mm=40.0))
    assert change.after is not None
    assert change.after.count == 1
    short = item(2, length_mm=100)
    sheet = sheets_from([short], MAT, edge_mm=3.0, directed=False)[0][0]
    load = CutLoad(sheet, short, as_region(shapely.box(3, 3, 90, 90)), 92.0)
    (change,) = changes([load], leftovers([load], least_mm=40.0))
    assert change.after is None


def test_a_sheet_that_reaches_into_the_mats_margin_keeps_its_own_edge_where_it_lies_in_the_middle():
    # ISO 216: A4 is 210 x 297 mm; on a mat of 304.8 mm, whose margin is 6.35 mm, it ends 3.9 mm from the mat's edge.
    a4 = StockItem(film="white", kind="sheet", width_mm=210, length_mm=297, number=1)
    mat = shipped_machines().mat("12x12in")
    ((sheet, _),) = sheets_from([a4], mat, edge_mm=3.0, directed=False)
    assert sheet.margin_mm == pytest.approx(3.0)
    full = StockItem(film="white", kind="sheet", width_mm=304.8, length_mm=304.8, number=2)
    ((covers, _),) = sheets_from([full], mat, edge_mm=3.0, directed=False)
    assert covers.margin_mm == pytest.approx(6.35)
    # In between, the machine's own area counts: 302 mm ends 1.4 mm from the mat's edge.
    large = StockItem(film="white", kind="sheet", width_mm=302, length_mm=302, number=3)
    ((between, _),) = sheets_from([large], mat, edge_mm=3.0, directed=False)
    assert between.margin_mm == pytest.approx(6.35 - 1.4)
