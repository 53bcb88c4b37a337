"""A piece on a garment in pictures: how far it lies off its planned place, and whether what is said of that holds."""

import json

import numpy as np
import pytest
import shapely
from PIL import Image

from benchmarks.seen import Look, seen
from tests.helpers import document_of, run_command
from zinnet.bench.eye import planned_on_panel
from zinnet.camera.found_sheet import PhotoError
from zinnet.camera.laid import judge_laid
from zinnet.camera.scene import Scene, Thing, sheet_at
from zinnet.geometry.region import as_region
from zinnet.geometry.transform import moved, shift, turn
from zinnet.job.edits import set_placement

CLOTH, AMBER = "#8a1f2b", "#e9a53a"
BODY = (
    f'<path d="M10 10H110V70H10ZM30 25H50V50H30Z" fill="{AMBER}" fill-rule="evenodd"/>'
    f'<circle cx="130" cy="20" r="12" fill="{AMBER}"/>'
)
LOOK = Look(pixels=(1000, 750), tilt=12.0, towards=40.0, uneven=2.0, seed=8)


@pytest.fixture(scope="module")
def planned():
    document = document_of(BODY, set_placement("x", width_mm=220.0))
    return document, *planned_on_panel(document.plan, 1)


def taken(panel, piece, off, *, piece_colour=AMBER, cloth=CLOTH, look=LOOK):
    left, top, right, _ = panel.bounds
    place = shift(50 - left, 50 - top) @ turn(2.0)
    size = (right - left + 380, panel.bounds[3] - top + 120)
    sheet = sheet_at("a4", shift(right - left + 220, 300) @ turn(5))
    things = (Thing(moved(panel, place), cloth, "cloth"), Thing(moved(piece, place @ off), piece_colour), sheet)
    return seen(Scene(size, "#c9b99a", things), look).picture


@pytest.mark.parametrize(
    ("aside", "down", "turned"), [(4.0, -3.0, 1.5), pytest.param(0.0, 0.0, 0.0, marks=pytest.mark.long)]
)
def test_how_far_a_piece_lies_off_is_told_within_what_is_said(planned, aside, down, turned):
    _, panel, piece, colour = planned
    middle = piece.centroid
    off = shift(aside, down) @ shift(middle.x, middle.y) @ turn(turned) @ shift(-middle.x, -middle.y)
    told = judge_laid(taken(panel, piece, off), "a4", panel, piece, colour)
    assert np.hypot(told.aside_mm - aside, told.down_mm - down) <= min(told.error_mm, 2.0)
    assert abs(told.turn_deg - turned) <= min(told.error_deg, 0.4)
    if turned:
        assert "to the right as seen" in told.in_words
        assert "clockwise" in told.in_words
    else:
        assert "in its place" in told.in_words


@pytest.mark.long
def test_without_a_piece_or_the_garment_it_is_refused(planned):
    _, panel, piece, colour = planned
    other = as_region(shapely.box(-20, 200, 20, 230))
    with pytest.raises(PhotoError, match=r"piece|alike"):
        judge_laid(taken(panel, other, np.eye(3)), "a4", panel, piece, colour)
    with pytest.raises(PhotoError, match="alike"):
        judge_laid(taken(panel, piece, np.eye(3), piece_colour="#8c2030"), "a4", panel, piece, "#8c2030")


@pytest.mark.long
def test_the_command_tells_it_as_json(planned, tmp_path):
    document, panel, piece, _ = planned
    job, path = tmp_path / "job.zinnet", tmp_path / "laid.png"
    document.save(job)
    Image.fromarray(taken(panel, piece, shift(5, 0))).save(path)
    said = json.loads(run_command("photo", "laid", path, job, "--json").stdout)
    assert said["aside_mm"] == pytest.approx(5, abs=said["error_mm"])
    assert said["refused"] is None
    assert "as seen" in run_command("photo", "laid", path, job).stdout
