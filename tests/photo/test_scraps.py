"""Scraps in pictures of a renderer that is not the stand-in's own: outlines, holes, colour, what is said of errors."""

import json

import numpy as np
import pytest
import shapely
from PIL import Image
from shapely import affinity

from benchmarks.eye import laid, to_scene
from benchmarks.seen import Look, seen
from tests.helpers import run_command
from zinnet.camera.board import board_picture, find_board
from zinnet.camera.drawn import covered
from zinnet.camera.found_sheet import PhotoError
from zinnet.camera.plane import find_plane, mapped
from zinnet.camera.scene import Scene, Thing, sheet_at
from zinnet.camera.scraps import find_scraps
from zinnet.geometry.region import as_region
from zinnet.geometry.transform import shift, turn

SIZE = (560.0, 400.0)
SHEET = sheet_at("a4", shift(430, 200) @ turn(4))
SCRAP = as_region(
    shapely.box(40, 60, 250, 300)
    .difference(shapely.Point(250, 180).buffer(45))
    .difference(shapely.box(90, 120, 150, 170))
    .difference(shapely.Point(110, 240).buffer(12))
)
LOOKS = (
    Look(pixels=(1280, 720), tilt=4.0, seed=1),
    Look(pixels=(1280, 720), tilt=24.0, towards=70.0, uneven=3.0, light_from=200.0, turn=9.0, seed=2),
    Look(pixels=(1600, 1200), tilt=18.0, towards=200.0, uneven=2.5, turn=-6.0, seed=3),
)


def picture(*things, table="#3d4a3f", look=LOOKS[0], board=None):
    return seen(Scene(SIZE, table, things, board), look)


@pytest.mark.parametrize("look", LOOKS, ids=lambda look: f"{look.tilt:g} degrees")
def test_the_outline_of_a_scrap_with_its_holes_lies_within_what_is_said(look):
    view = picture(Thing(SCRAP, "#e9a53a"), SHEET, look=look)
    (scrap,) = find_scraps(view.picture, "a4").scraps
    told = laid(scrap.region, to_scene(find_plane(view.picture, "a4"), view, SCRAP))
    assert len(told.geoms[0].interiors) == 2
    assert told.hausdorff_distance(SCRAP) < 1.5
    out = shapely.points(shapely.get_coordinates(told))
    assert shapely.distance(out, SCRAP).max() <= scrap.error_mm
    assert told.area == pytest.approx(SCRAP.area, rel=0.01)
    colour = np.array([int(scrap.colour[k : k + 2], 16) for k in (1, 3, 5)])
    assert np.abs(colour - (0xE9, 0xA5, 0x3A)).max() < 45


def test_several_scraps_are_told_apart_the_largest_first():
    small = as_region(affinity.translate(shapely.box(0, 0, 60, 40), 90, 330))
    view = picture(Thing(as_region(shapely.box(60, 40, 230, 280)), "#f4ead5"), Thing(small, "#d62828"), SHEET)
    first, second = find_scraps(view.picture, "a4").scraps
    assert first.region.area > second.region.area
    assert second.region.area == pytest.approx(2400, rel=0.02)
    assert second.colour[1:3] > second.colour[3:5], "it is red"


def test_a_mark_sheet_that_is_partly_covered_does():
    at = shift(340, 60)
    over = Thing(as_region(shapely.box(420, 60, 540, 180)), "#202020", "cloth")
    view = picture(Thing(SCRAP, "#8fd6b4"), over, board=at, look=LOOKS[2])
    pixels, spots = find_board(view.picture)
    assert 8 <= len(spots) < 54
    told = mapped(np.linalg.inv(view.to_px), pixels)
    assert np.hypot(*(told - spots - np.array([340, 60])).T).max() < 0.4


def test_the_board_is_printed_as_it_is_looked_for():
    grey = np.pad(board_picture(6.0), 60, constant_values=255)
    pixels, spots = find_board(np.repeat(grey[..., None], 3, axis=2))
    assert len(spots) == 54
    assert np.abs((pixels + 0.5 - 60) / 6.0 - spots).max() < 0.05


@pytest.mark.parametrize(
    ("things", "said"),
    [
        ((SHEET,), "No film is seen"),
        ((Thing(SCRAP, "#e9a53a"),), "sheet"),
        ((Thing(SCRAP, "#404c42"), SHEET), "hardly stands out|No film is seen"),
        ((Thing(as_region(shapely.box(290, 100, 330, 300)), "#e9a53a"), SHEET), "touches the sheet|sheet"),
    ],
    ids=["nothing", "no sheet", "alike", "on the sheet"],
)
def test_what_can_not_be_told_is_refused_with_what_to_do(things, said):
    view = picture(*things)
    with pytest.raises(PhotoError, match=said):
        find_scraps(view.picture, "a4")


def test_a_scrap_that_is_cut_off_by_the_pictures_edge_is_refused():
    view = picture(Thing(SCRAP, "#e9a53a"), SHEET)
    with pytest.raises(PhotoError, match=r"edge of the picture|sheet"):
        find_scraps(np.ascontiguousarray(view.picture[:, 260:]), "a4")


def test_a_pixel_is_covered_by_as_much_as_a_region_covers_of_it():
    region = as_region(shapely.Point(20, 15).buffer(9).difference(shapely.box(16, 12, 22, 17)))
    cover = covered(region, (60, 80), 2.0, (0.0, 0.0), 4)
    assert cover.sum() / 4 == pytest.approx(region.area, rel=0.02)
    y, x = np.mgrid[0:60, 0:80]
    middle = (cover * (x + 0.5)).sum() / cover.sum() / 2, (cover * (y + 0.5)).sum() / cover.sum() / 2
    assert middle == pytest.approx(region.centroid.coords[0], abs=0.05)


def test_how_far_off_a_shape_may_be_grows_with_its_distance_from_the_sheet():
    view = picture(Thing(SCRAP, "#e9a53a"), SHEET)
    plane = find_plane(view.picture, "a4")
    box = np.array([(0, 0), (60, 0), (60, 60), (0, 60)], float)
    assert plane.off_mm(box + 40) < plane.off_mm(box - np.array([260, 0])) < 5


def test_the_command_prints_outlines_and_refuses_with_exit_1(tmp_path):
    path = tmp_path / "scrap.jpg"
    Image.fromarray(picture(Thing(SCRAP, "#e9a53a"), SHEET).picture).save(path, quality=90)
    said = json.loads(run_command("photo", "scrap", path, "--json").stdout)
    (row,) = said["scraps"]
    assert said["refused"] is None
    assert shapely.Polygon(row["outline"], row["holes"]).area == pytest.approx(SCRAP.area, rel=0.01)
    assert row["film"] in ("amber", "orange", "lamplight-adhesive")
    assert "2 holes" in run_command("photo", "scrap", path).stdout
    blank = tmp_path / "nothing.png"
    Image.new("RGB", (900, 700), (90, 90, 90)).save(blank)
    refused = run_command("photo", "scrap", blank, "--json")
    assert refused.returncode == 1
    assert "sheet" in json.loads(refused.stdout)["refused"]
    assert run_command("photo", path, "--paper", "a4").returncode == 0, "lengths are asked for without a word"
