"""Nests, judged by code of the tests' own: points on outlines, no engine, no verifier of Zinnet's."""

import time
from dataclasses import replace

import numpy as np
import pytest
import shapely
from shapely import affinity

from tests.helpers import cases
from zinnet.base.errors import NestError
from zinnet.geometry.region import Region, as_region
from zinnet.nesting.engine import engine_nest
from zinnet.nesting.model import Layout, NestTask, Piece, Placed, SheetLayout, rank
from zinnet.nesting.rectangle_search import are_boxy, fill_with_boxes
from zinnet.nesting.running import NestRun, nest_all
from zinnet.nesting.sheet import Sheet
from zinnet.nesting.shelf import shelf_nest
from zinnet.nesting.verify import faults

# The twelve pentominoes, by cells (Golomb, Polyominoes, 1965).
PENTOMINOES = {
    "F": "10 20 01 11 12",
    "I": "00 10 20 30 40",
    "L": "00 01 02 03 13",
    "N": "10 11 02 12 03",
    "P": "00 10 01 11 02",
    "T": "00 10 20 11 12",
    "U": "00 20 01 11 21",
    "V": "00 01 02 12 22",
    "W": "00 01 11 12 22",
    "X": "10 01 11 21 12",
    "Y": "10 01 11 12 13",
    "Z": "00 10 11 12 22",
}


def pentominoes(size=10.0):
    found = []
    for name, cells in PENTOMINOES.items():
        squares = [
            shapely.box(x * size, y * size, (x + 1) * size, (y + 1) * size)
            for x, y in ((int(cell[0]), int(cell[1])) for cell in cells.split())
        ]
        found.append(Piece(name, Region([shapely.union_all(squares)])))
    return tuple(found)


def judge(task, layout):
    """Assert that no piece overlaps or is too near to another, or over the margin, by independent geometry."""
    pieces = {piece.name: piece for piece in task.pieces}
    wanted = sorted(piece.name for piece in task.pieces for _ in range(piece.copies))
    assert sorted([p.piece for s in layout.sheets for p in s.placed] + list(layout.unplaced)) == wanted
    for sheet in layout.sheets:
        placed = []
        for p in sheet.placed:
            turned = affinity.rotate(pieces[p.piece].region, p.turn_deg, origin=(0, 0))
            placed.append(affinity.translate(turned, p.x_mm, p.y_mm))
        room = shapely.box(0, 0, task.sheet.width_mm, task.sheet.height_mm).buffer(-task.sheet.margin_mm + 0.0011)
        for k, one in enumerate(placed):
            assert room.covers(one)
            for other in placed[:k]:
                assert one.intersection(other).area < 0.01
                if task.gap_mm:
                    assert one.distance(other) >= task.gap_mm - 0.0011
        reach = max(one.bounds[2] for one in placed)
        assert sheet.used_length_mm == pytest.approx(reach, abs=0.01)


@pytest.mark.parametrize("size", [(100, 60), (60, 100), (80, 80)])
def test_the_twelve_pentominoes_are_packed(size):
    # 6 x 10 has 2339 tilings (Haselgrove 1960) and leaves no room at all; 8 x 8 leaves four cells.
    task = NestTask(pentominoes(), (Sheet(width_mm=size[0], height_mm=size[1], copies=1),), gap_mm=0, seconds=60)
    run = NestRun(replace(task, seconds=600))
    while run.is_running and (run.best is None or run.best.unplaced):
        time.sleep(0.02)
    layout = run.cancel()
    assert layout is not None
    assert layout.unplaced == ()
    judge(task, layout)


def random_piece(rng, name):
    count = int(rng.integers(3, 14))
    angles = np.sort(rng.uniform(0, 2 * np.pi, count))
    radii = rng.uniform(4, 26, count)
    star = shapely.Polygon(np.column_stack([radii * np.cos(angles), radii * np.sin(angles)]))
    parts = list(shapely.get_parts(shapely.make_valid(star)))
    polygons = [part for part in parts if part.geom_type == "Polygon"]
    if rng.random() < 0.3 and polygons:
        hole = polygons[0].representative_point().buffer(1.5, quad_segs=3)
        polygons[0] = polygons[0].difference(hole) if polygons[0].contains(hole) else polygons[0]
    if rng.random() < 0.3:
        polygons.append(shapely.box(30, -5, 36, 5))
    region = shapely.union_all(polygons)
    parts = [p for p in shapely.get_parts(region) if p.geom_type == "Polygon"]
    turns = ("none", "half", "quarter", "any")[int(rng.integers(4))]
    return Piece(name, Region(parts), int(rng.integers(1, 3)), turns)


def random_task(seed):
    rng = np.random.default_rng(seed)
    pieces = tuple(random_piece(rng, f"p{k}") for k in range(int(rng.integers(1, 5))))
    sheet = Sheet(
        width_mm=float(rng.uniform(60, 200)),
        height_mm=float(rng.uniform(60, 150)),
        margin_mm=float(rng.choice([0, 3, 6.35])),
        copies=None if rng.random() < 0.6 else int(rng.integers(1, 3)),
    )
    return NestTask(pieces, (sheet,), float(rng.choice([0, 0.5, 2, 6])), 0.3, inside_counters=rng.random() < 0.5)


def test_random_nests_keep_gap_and_margin():
    """A narrow search on each: a wide one on many is a benchmark."""
    engine_led = 0
    for seed in range(cases(12, 40)):
        task = replace(random_task(seed), steps=1)
        found = [shelf_nest(task)]

        def take(layout, task=task, found=found):
            if not faults(task, layout):
                judge(task, layout)
                found.append(layout)

        engine_nest(task, take)
        best = min(found, key=lambda layout: rank(task, layout))
        judge(task, best)
        engine_led += best is not found[0]
    assert engine_led > cases(3, 8), "the engine should better many plain nests"


def test_the_verifier_finds_what_is_wrong():
    square = Region([shapely.box(0, 0, 10, 10)])
    task = NestTask((Piece("a", square, 2),), (Sheet(width_mm=40, height_mm=20, margin_mm=2),), gap_mm=3)

    def kinds(*spots):
        placed = tuple(
            Placed(piece="a", copy_number=k, x_mm=x, y_mm=y, turn_deg=turn) for k, (x, y, turn) in enumerate(spots, 1)
        )
        return {fault.kind for fault in faults(task, Layout(sheets=(SheetLayout(placed=placed, used_length_mm=1),)))}

    assert kinds((2, 2, 0), (15, 2, 0)) == set()
    assert kinds((2, 2, 0), (14.9, 2, 0)) == {"gap"}
    assert kinds((2, 2, 0), (5, 5, 0)) == {"overlap"}
    assert kinds((1.9, 2, 0), (15, 2, 0)) == {"margin"}
    assert kinds((2, 2, 0), (27, 2, 45)) == {"margin", "turn"} or "turn" in kinds((2, 2, 0), (27, 2, 45))
    assert kinds((2, 2, 0)) == {"count"}


def test_cancel_returns_the_best_so_far_at_once():
    task = NestTask(pentominoes(), (Sheet(width_mm=300, height_mm=60),), gap_mm=2, seconds=60)
    run = NestRun(task)
    while run.best is None:
        time.sleep(0.01)
    best = run.cancel()
    assert not run.is_running
    judge(task, best)


def test_one_piece_is_answered_at_once():
    task = NestTask(
        (Piece("a", Region([shapely.box(0, 0, 30, 90)])),), (Sheet(width_mm=100, height_mm=100),), 0, seconds=60
    )
    layout = NestRun(task).wait()
    assert layout.sheets[0].used_length_mm == pytest.approx(30)


def test_what_is_too_large_is_left_over():
    pieces = (Piece("a", Region([shapely.box(0, 0, 30, 30)]), 2), Piece("b", Region([shapely.box(0, 0, 300, 30)])))
    task = NestTask(pieces, (Sheet(width_mm=100, height_mm=100),), gap_mm=1, seconds=0.2)
    (layout,) = nest_all([task])
    assert layout.unplaced == ("b",)
    judge(task, layout)


def test_a_task_survives_its_way_to_the_worker():
    task = random_task(3)
    again = NestTask.from_json(task.to_json())
    assert again.key == task.key
    assert [p.turns for p in again.pieces] == [p.turns for p in task.pieces]


def test_tasks_that_make_no_sense_are_refused():
    square = Region([shapely.box(0, 0, 10, 10)])
    with pytest.raises(NestError, match="same name"):
        NestRun(NestTask((Piece("a", square), Piece("a", square)), (Sheet(width_mm=50, height_mm=50),), 0))
    with pytest.raises(NestError, match="margins leave nothing"):
        NestRun(NestTask((Piece("a", square),), (Sheet(width_mm=50, height_mm=50, margin_mm=25),), 0))


def test_the_same_seed_and_steps_find_the_same_nest_and_it_holds():
    rng = np.random.default_rng(4)
    shapes = [shapely.MultiPoint(rng.uniform(0, 60, (7, 2))).convex_hull for _ in range(6)]
    pieces = tuple(Piece(f"p{k}", as_region(shape), 2) for k, shape in enumerate(shapes))
    sheet = Sheet(width_mm=300, height_mm=200, margin_mm=5)
    tasks = [NestTask(pieces, (sheet,), 3.0, seed=seed, steps=1) for seed in (1, 1, 2)]
    first, again, other = nest_all(tasks)
    assert first == again
    assert first.unplaced == ()
    for task, layout in zip(tasks, (first, again, other), strict=True):
        assert faults(task, layout) == []


@pytest.mark.parametrize("copies", [None, 1, 2])
def test_rectangles_are_nested_at_once_and_hold(copies):
    rng = np.random.default_rng(7)
    pieces = tuple(
        Piece(f"r{k}", as_region(shapely.box(0, 0, *rng.uniform(20, 70, 2))), 2, ("quarter", "none", (90.0,))[k % 3])
        for k in range(9)
    )
    task = NestTask(pieces, (Sheet(width_mm=290, height_mm=200, margin_mm=4, copies=copies),), 3.0, seconds=0.6)
    assert are_boxy(task, list(pieces))
    found = []
    fill_with_boxes(task, list(pieces), time.monotonic() + 0.6, found.append)
    assert found
    for layout in found:
        assert faults(task, layout) == []
    assert rank(task, min(found, key=lambda one: rank(task, one))) <= rank(task, shelf_nest(task))


def test_only_what_nearly_is_an_upright_rectangle_on_plain_sheets_is_taken_for_one():
    sheet = Sheet(width_mm=290, height_mm=200)
    box, disc = as_region(shapely.box(0, 0, 30, 20)), as_region(shapely.Point(0, 0).buffer(20))
    ring = as_region(shapely.box(0, 0, 30, 20) - shapely.box(5, 5, 9, 9))
    assert are_boxy(NestTask((Piece("a", ring),), (sheet,), 0.0), [Piece("a", ring)])
    assert not are_boxy(NestTask((Piece("a", disc),), (sheet,), 0.0), [Piece("a", disc)])
    assert not are_boxy(NestTask((Piece("a", box, 1, "any"),), (sheet,), 0.0), [Piece("a", box, 1, "any")])
    scrap = sheet.model_copy(update={"keep_out": as_region(shapely.box(0, 0, 9, 9))})
    assert not are_boxy(NestTask((Piece("a", box),), (scrap,), 0.0), [Piece("a", box)])


def ring(side, hole):
    square = shapely.box(0, 0, side, side).difference(
        shapely.box((side - hole) / 2, (side - hole) / 2, (side + hole) / 2, (side + hole) / 2)
    )
    return as_region(square)


@pytest.mark.parametrize(("hole", "inside"), [(70.0, True), (30.0, False)])
def test_pieces_lie_only_in_counters_that_scissors_reach(hole, inside):
    pieces = (Piece("ring", ring(100.0, hole)), Piece("small", as_region(shapely.box(0, 0, 20.0, 20.0)), 2))
    sheet = Sheet(width_mm=104.0, height_mm=104.0, copies=1)
    task = NestTask(pieces, (sheet,), 2.0, 1.0, inside_counters=True, counter_mm=40.0)
    layout = NestRun(task).wait()
    assert not faults(task, layout)
    assert (not layout.unplaced) == inside, "both go on the sheet only with one in the other"
    whole = NestTask(pieces, (sheet,), 2.0, 1.0, inside_counters=True)
    assert whole.key != task.key
    assert NestTask(pieces, (sheet,), 2.0, 1.0).key == NestTask(pieces, (sheet,), 2.0, 1.0, counter_mm=40.0).key
