"""Scraps before rolls: what a scrap takes, the roll keeps, and no piece touches what is not there or is spoiled."""

from types import SimpleNamespace

import numpy as np
import pytest
import shapely
from shapely import affinity

from tests.helpers import cases, narrow_nest
from zinnet.geometry.region import Region, as_region
from zinnet.nesting.bins import _Run
from zinnet.nesting.model import NestTask, Piece
from zinnet.nesting.running import nest_all
from zinnet.nesting.sheet import Sheet, film_of, spoiled
from zinnet.nesting.verify import faults, overhang, regions_on

MARGIN = 3.0
ROLL = Sheet(width_mm=1500, height_mm=250, margin_mm=MARGIN, copies=1, kind="roll", label="roll")


def random_scrap(rng, number):
    width, height = rng.uniform(120, 300), rng.uniform(80, 220)
    film = shapely.box(0, 0, width, height)
    for _ in range(int(rng.integers(1, 5))):
        x, y, size = rng.uniform(0, width), rng.uniform(0, height), rng.uniform(10, 45)
        film = film.difference(shapely.Point(x, y).buffer(size, quad_segs=6))
    film = max(shapely.get_parts(film), key=lambda part: part.area)
    left, top, right, bottom = film.bounds
    outline = as_region(affinity.translate(film, -left, -top))
    scrap = Sheet(
        width_mm=right - left,
        height_mm=bottom - top,
        margin_mm=MARGIN,
        outline=outline,
        copies=1,
        kind="scrap",
        label=f"scrap {number}",
    )
    spot = shapely.Point(rng.uniform(0, width), rng.uniform(0, height)).buffer(8)
    return spoiled(scrap, Region([spot]))


def random_pieces(rng):
    shapes = [
        shapely.Point(0, 0).buffer(rng.uniform(8, 25)),
        shapely.box(0, 0, rng.uniform(15, 60), rng.uniform(15, 60)),
        shapely.Polygon([(0, 0), (rng.uniform(30, 70), 0), (20, rng.uniform(30, 70))]),
    ]
    return tuple(
        Piece(f"p{k}", as_region(shape), int(rng.integers(5, 13)), ("quarter", "none", "half")[k])
        for k, shape in enumerate(shapes)
    )


def taken_from_roll(task, layout):
    return sum(
        one.used_length_mm * task.sheets[one.sheet].height_mm
        for one in layout.sheets
        if task.sheets[one.sheet].kind == "roll"
    )


def test_scraps_never_cost_roll_and_pieces_stay_on_sound_film():
    on_scraps = 0
    for seed in range(cases(1, 4)):
        rng = np.random.default_rng(seed)
        pieces = random_pieces(rng)
        scraps = tuple(random_scrap(rng, number) for number in range(2))
        with_scraps = NestTask(pieces, (*scraps, ROLL), 2.0, steps=8, seed=seed)
        rolls_only = NestTask(pieces, (ROLL,), 2.0, steps=8, seed=seed)
        layout, plain = nest_all([with_scraps, rolls_only], at_once=1)
        assert layout.unplaced == plain.unplaced == ()
        assert faults(with_scraps, layout) == []
        assert taken_from_roll(with_scraps, layout) <= taken_from_roll(rolls_only, plain) + 1e-6
        for one in layout.sheets:
            sheet = with_scraps.sheets[one.sheet]
            on_scraps += len(one.placed) * (sheet.kind == "scrap")
            regions = regions_on(one, {piece.name: piece.region for piece in pieces})
            sound = film_of(sheet) if sheet.keep_out is None else film_of(sheet).difference(sheet.keep_out)
            for region in regions:
                assert sound.buffer(1e-6).covers(region)
                assert region.distance(sound.boundary) >= MARGIN - 0.0011
    assert on_scraps > cases(8, 20), "scraps should take a good part of the pieces"


def test_the_judge_finds_a_piece_over_a_hole_a_spot_or_an_edge():
    film = as_region(shapely.box(0, 0, 100, 100).difference(shapely.box(40, 40, 60, 60)))
    scrap = Sheet(width_mm=100, height_mm=100, margin_mm=2, outline=film, copies=1, kind="scrap")
    scrap = spoiled(scrap, as_region(shapely.box(80, 0, 100, 20)))

    def over(*box):
        return overhang(scrap, as_region(shapely.box(*box)))

    assert over(5, 5, 30, 30) < 0
    assert over(5, 5, 38.5, 30) < 0
    assert over(5, 45, 38.5, 55) == pytest.approx(0.5)
    assert over(5, 45, 45, 55) > 2
    assert over(70, 5, 79, 15) == pytest.approx(1)
    assert over(70, 5, 85, 15) > 2
    assert over(1, 5, 10, 15) == pytest.approx(1)


def test_no_piece_is_turned_against_the_nap():
    # A few random jobs; the turn is what the judge looks at in every other nest too.
    for seed in range(cases(6, 24)):
        rng = np.random.default_rng(100 + seed)
        pieces = tuple(
            Piece(piece.name, piece.region, piece.copies, turns)
            for piece, turns in zip(random_pieces(rng), ("none", "none", "half"), strict=True)
        )
        task = NestTask(pieces, (Sheet(width_mm=300, height_mm=250, margin_mm=3),), 2.0, seed=seed)
        turned = {piece.name: piece.allowed_turns for piece in task.pieces}
        for sheet in narrow_nest(task).sheets:
            for one in sheet.placed:
                assert one.turn_deg % 360 in turned[one.piece]


def test_a_scrap_that_the_engine_leaves_empty_is_passed_over():
    scrap = Sheet(width_mm=100, height_mm=80, copies=1, kind="scrap", margin_mm=MARGIN)
    task = NestTask((Piece("p", as_region(shapely.box(0, 0, 12, 9)), 1),), (scrap, ROLL), 3.0)
    run = _Run(task, list(task.pieces), False, 0.0, print)
    run._bins = [0, 1]
    item = SimpleNamespace(item_type_id=0, bl_corner=SimpleNamespace(x=0.0, y=0.0), angle=0.0)
    bins = [SimpleNamespace(bin_type_id=k, copies=1, items=items) for k, items in enumerate(([], [item]))]
    layout = run._layout(SimpleNamespace(number_of_different_bins=lambda: 2, bin=lambda k: bins[k]))
    assert [(sheet.sheet, len(sheet.placed)) for sheet in layout.sheets] == [(1, 1)]
    assert layout.unplaced == ()
