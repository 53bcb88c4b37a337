"""A layer on its carrier in pictures: parts, counters and stray film judged, from either side."""

import json

import numpy as np
import pytest
import shapely
from PIL import Image

from benchmarks.seen import Look, seen
from tests.helpers import document_of, run_command
from zinnet.camera.found_sheet import PhotoError
from zinnet.camera.scene import Scene, Thing, sheet_at
from zinnet.camera.weeded import judge_weeding
from zinnet.geometry.region import as_region
from zinnet.geometry.transform import MIRROR, moved, shift, turn
from zinnet.job.edits import set_placement

SIZE = (520.0, 360.0)
SHEET = sheet_at("a4", shift(400, 180) @ turn(-3))
AMBER = "#e9a53a"
PARTS = (
    shapely.Point(-45, 0).buffer(22).difference(shapely.Point(-45, 0).buffer(11)),
    shapely.box(-10, -25, 30, -10),
    shapely.box(-10, 0, 40, 30).difference(shapely.box(0, 8, 12, 22)).difference(shapely.box(20, 8, 30, 22)),
    shapely.Point(50, -15).buffer(3),
    shapely.Polygon([(60, 0), (70, 20), (50, 20)]),
)
LAYER = as_region(shapely.union_all(PARTS))
LOOKS = (
    Look(pixels=(1200, 900), tilt=6.0, seed=4),
    Look(pixels=(1200, 900), tilt=22.0, towards=120.0, uneven=3.0, turn=8.0, seed=5),
)


def number_of(spot):
    """Return the number of the part of the layer at a spot."""
    return next(k for k, part in enumerate(LAYER.geoms, start=1) if part.buffer(0.5).contains(shapely.Point(spot)))


def taken(film, *, look=LOOKS[0], mirrored=False, angle=25.0, table="#2b2b2e", colour=AMBER):
    place = shift(150, 180) @ turn(angle)
    place = place @ MIRROR if mirrored else place
    left, top, right, bottom = LAYER.bounds
    carrier = as_region(shapely.box(left - 12, top - 12, right + 12, bottom + 12))
    things = (Thing(moved(carrier, place), "#ffffff", "carrier"), Thing(moved(as_region(film), place), colour), SHEET)
    return seen(Scene(SIZE, table, things), look).picture


def test_a_layer_that_is_weeded_right_is_said_to_be():
    told = judge_weeding(taken(LAYER), "a4", LAYER, AMBER, mirrored=False)
    assert {one.state for one in told.parts} == {"there"}
    assert {one.state for one in told.counters} == {"out"}
    assert len(told.counters) == 3
    assert told.stray == ()
    assert told.in_words == ["All 5 parts are there, 3 counters are out."]


@pytest.mark.parametrize("mirrored", [False, pytest.param(True, marks=pytest.mark.long)])
@pytest.mark.parametrize("look", LOOKS, ids=["from above", "tilted"])
def test_what_is_missing_left_in_and_stray_is_found(look, mirrored):
    gone = number_of((50, -15))
    film = shapely.union_all([part for k, part in enumerate(LAYER.geoms, start=1) if k != gone])
    film = shapely.union_all([film, shapely.box(0, 8, 12, 22), shapely.box(66, -22, 69, -19)])
    told = judge_weeding(taken(film, look=look, mirrored=mirrored), "a4", LAYER, AMBER, mirrored=mirrored)
    assert [one.number for one in told.parts if one.state == "missing"] == [gone]
    assert {one.state for one in told.parts if one.number != gone} == {"there"}
    (left,) = [one for one in told.counters if one.state == "left"]
    assert shapely.box(0, 8, 12, 22).contains(shapely.Point(left.at))
    (stray,) = told.stray
    assert shapely.box(65, -23, 70, -18).contains(shapely.Point(stray.at))
    assert stray.area_mm2 == pytest.approx(9, abs=3)
    assert len(told.in_words) == 3


def test_a_layer_that_is_seen_from_the_other_side_is_taken_so():
    told = judge_weeding(taken(LAYER, mirrored=True), "a4", LAYER, AMBER, mirrored=False)
    assert told.mirrored
    assert {one.state for one in told.parts} == {"there"}


@pytest.mark.long
def test_another_layer_and_film_like_the_table_are_refused():
    other = as_region(shapely.box(-60, -30, 70, 30))
    with pytest.raises(PhotoError, match=r"not found|alike"):
        judge_weeding(taken(LAYER), "a4", as_region(shapely.Point(0, 0).buffer(9)), "#1f57c3", mirrored=False)
    with pytest.raises(PhotoError, match="alike"):
        judge_weeding(taken(other, colour="#2d2d30"), "a4", LAYER, "#2d2d30", mirrored=False)


def test_the_command_judges_a_layer_of_a_job(tmp_path):
    body = f'<path d="M10 10H110V70H10ZM30 25H50V50H30Z" fill="{AMBER}" fill-rule="evenodd"/>'
    document = document_of(body, set_placement("x", width_mm=120.0))
    job = tmp_path / "job.zinnet"
    document.save(job)
    (row,) = document.plan.garments[0].compositions[0].layers
    region = row.layer.region
    middle = np.array(region.centroid.coords[0])
    laid = moved(region, shift(150, 180) @ turn(10) @ shift(*(-middle)))
    view = seen(Scene(SIZE, "#2b2b2e", (Thing(laid, row.film.colour), SHEET)), LOOKS[0])
    path = tmp_path / "layer.png"
    Image.fromarray(view.picture).save(path)
    said = json.loads(run_command("photo", "weeded", path, job, "--layer", "1", "--json").stdout)
    assert [one["state"] for one in said["parts"]] == ["there"]
    assert [one["state"] for one in said["counters"]] == ["out"]
    assert region.contains(shapely.Point(said["parts"][0]["at"]))
    assert said["refused"] is None
    wrong = run_command("photo", "weeded", path, job, "--layer", "7", "--json")
    assert wrong.returncode == 2
