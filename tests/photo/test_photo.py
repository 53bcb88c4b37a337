"""Photos of a garment with a sheet on it, drawn with known truth: lengths, and what is wrong with a picture."""

import io
import json

import cv2
import numpy as np
import pytest
from PIL import Image

from tests.helpers import cases, run_command
from tests.photo.drawn import SHEETS, photo
from zinnet.camera.edges import find_side
from zinnet.camera.found_sheet import (
    CORNER,
    EDGE,
    FAINT,
    PROBLEMS,
    find_sheet,
)
from zinnet.camera.known_sheets import photo_numbers
from zinnet.camera.measure import (
    PhotoError,
    length_between,
    on_plane,
    photo_of,
    read_picture,
    straightened,
)


def lengths_in(drawn, seed):
    """Yield pairs of points about the garment's middle, in mm on the plane, with how far apart they are."""
    luck = np.random.default_rng(seed + 1000)
    while True:
        one, other = np.array([700, 720]) + luck.uniform(-280, 280, (2, 2))
        if np.hypot(*(one - other)) > 80:
            yield one, other, float(np.hypot(*(one - other)))


@pytest.mark.parametrize("paper", ["a4", "letter"])
@pytest.mark.parametrize("seed", range(3))
def test_lengths_are_within_one_percent_and_within_what_is_stated(paper, seed):
    drawn = photo(seed, paper=paper)
    found = find_sheet(drawn.picture, paper)
    assert sorted(found.sides_mm) == sorted(SHEETS[paper])
    assert found.tilt_deg == pytest.approx(drawn.tilt, abs=2.5)
    pairs = lengths_in(drawn, seed)
    for _ in range(6):
        one, other, true = next(pairs)
        told = length_between(found, drawn.px(*one), drawn.px(*other))
        assert told.mm == pytest.approx(true, rel=0.01)
        assert abs(told.mm - true) < 2 * told.within_mm + 0.2


@pytest.mark.parametrize("seed", range(2))
def test_a_card_is_found_and_says_that_it_is_less_sure(seed):
    drawn = photo(seed, paper="card")
    found = find_sheet(drawn.picture, "card")
    x, y = drawn.corners[0]
    told = length_between(found, drawn.px(x, y), drawn.px(x + 90, y + 40))
    assert told.mm == pytest.approx(np.hypot(90, 40), rel=0.01)
    far = length_between(found, drawn.px(x - 150, y), drawn.px(x + 150, y))
    assert far.within_mm > told.within_mm


@pytest.mark.parametrize("seed", range(cases(1, 3)))
@pytest.mark.parametrize(
    "how", [{"sheet": False}, {"covered": "corner"}, {"covered": "edge"}, {"sheet": False, "cloth": (235, 235, 235)}]
)
def test_a_missing_or_covered_sheet_is_said(seed, how):
    with pytest.raises(PhotoError) as raised:
        find_sheet(photo(seed, **how).picture, "a4")
    assert str(raised.value).endswith(".")
    if how.get("covered") == "edge":
        assert str(raised.value) == EDGE


def test_white_cloth_is_said():
    with pytest.raises(PhotoError):
        find_sheet(photo(3, cloth=(246, 246, 246)).picture, "a4")


def test_another_sheet_than_said_is_named():
    with pytest.raises(PhotoError, match="not the proportions of A4; it looks like Letter"):
        find_sheet(photo(1, paper="letter").picture, "a4")
    with pytest.raises(PhotoError, match="There is no sheet “a5”; it is one of a4, letter, card"):
        find_sheet(photo(1).picture, "a5")


def test_a_picture_of_nothing_is_said():
    for grey in (0, 128, 255):
        with pytest.raises(PhotoError):
            find_sheet(np.full((300, 400, 3), grey, np.uint8), "a4")
    noise = np.random.default_rng(1).integers(0, 256, (300, 400, 3)).astype(np.uint8)
    with pytest.raises(PhotoError):
        find_sheet(noise, "a4")


def test_what_is_wrong_is_said_by_what_says_most():
    assert PROBLEMS.index(FAINT) < PROBLEMS.index(CORNER) < PROBLEMS.index(EDGE)


def test_the_straightened_picture_is_true_to_scale_all_over():
    drawn = photo(5)
    found = find_sheet(drawn.picture, "a4")
    straight = straightened(drawn.picture, found)
    again = find_sheet(straight.picture, "a4")
    for k in range(4):
        side = again.corners[(k + 1) % 4] - again.corners[k]
        expected = (
            found.sides_mm[0] if abs(np.hypot(*side) / straight.px_mm - found.sides_mm[0]) < 20 else found.sides_mm[1]
        )
        assert np.hypot(*side) / straight.px_mm == pytest.approx(expected, rel=0.004)
    assert max(straight.picture.shape) <= photo_numbers().most_straight_px


def test_beyond_the_horizon_nothing_is_told():
    found = find_sheet(photo(12).picture, "a4")
    line = found.to_mm[2]
    way = line[:2] / np.hypot(*line[:2])
    beyond = -way * (line[2] / np.hypot(*line[:2]) + 50)
    with pytest.raises(PhotoError, match="beyond the plane"):
        on_plane(found, beyond[None])


def test_an_edge_is_found_to_a_tenth_of_a_pixel():
    for place in (50.0, 50.3, 50.75):
        columns = np.clip(np.arange(100) + 0.5 - place + 0.5, 0, 1)
        grey = cv2.GaussianBlur(np.tile(200 - 150 * columns, (80, 1)).astype(np.float32), (0, 0), 1.2)
        side = find_side(grey, np.array([50.0, 5.0]), np.array([50.0, 75.0]), 60, 6.0)
        side = side or find_side(grey, np.array([50.0, 75.0]), np.array([50.0, 5.0]), 60, 6.0)
        assert side.point[0] + 0.5 == pytest.approx(place, abs=0.1)
        assert side.support > 0.95


def test_pictures_are_read_as_the_camera_was_held(tmp_path):
    drawn = photo(4)
    turned = Image.fromarray(np.rot90(drawn.picture))
    exif = Image.Exif()
    exif[0x0112] = 6
    buffer = io.BytesIO()
    turned.save(buffer, format="PNG", exif=exif)
    assert read_picture(buffer.getvalue(), "x.png").shape == drawn.picture.shape
    (tmp_path / "words.jpg").write_bytes(b"no picture at all")
    with pytest.raises(PhotoError, match=r"words\.jpg can't be read as a picture"):
        photo_of(tmp_path / "words.jpg", "a4")
    with pytest.raises(PhotoError, match="There is no file"):
        photo_of(tmp_path / "missing.jpg", "a4")


def test_a_huge_picture_is_refused(monkeypatch):
    small = photo_numbers().model_copy(update={"most_pixels": 1000})
    monkeypatch.setattr("zinnet.camera.measure.photo_numbers", lambda: small)
    buffer = io.BytesIO()
    Image.new("RGB", (100, 100)).save(buffer, format="PNG")
    with pytest.raises(PhotoError, match="make it smaller"):
        read_picture(buffer.getvalue(), "x.png")


def test_the_command_tells_lengths_and_writes_the_straight_picture(tmp_path):
    drawn = photo(6)
    Image.fromarray(drawn.picture).save(tmp_path / "tee.jpg", quality=92)
    a, b = drawn.px(500, 600), drawn.px(900, 700)
    spots = ",".join(f"{number:.2f}" for number in (*a, *b))
    out = tmp_path / "straight.png"
    found = run_command("photo", tmp_path / "tee.jpg", "--paper", "a4", "--length", spots, "--out", out, "--json")
    assert found.returncode == 0, found.stderr
    data = json.loads(found.stdout)
    assert data["lengths"][0]["mm"] == pytest.approx(np.hypot(400, 100), rel=0.01)
    with Image.open(out) as written:
        assert written.info["dpi"][0] == pytest.approx(data["px_mm"] * 25.4, rel=0.01)
    assert "found, tilted by" in run_command("photo", tmp_path / "tee.jpg").stdout
    assert run_command("photo", tmp_path / "tee.jpg", "--length", "1,2,3").returncode == 2
    assert run_command("photo", tmp_path / "tee.jpg", "--paper", "card").returncode == 2
