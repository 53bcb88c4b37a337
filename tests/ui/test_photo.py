"""Measuring on a photo in the real window, by mouse and keys, and the photo below Fit."""

import numpy as np
import pytest
from PIL import Image
from PySide6.QtCore import QPointF, Qt

from tests.photo.drawn import photo
from zinnet.camera.measure import on_plane


@pytest.fixture
def page(demo, qtbot, tmp_path):
    demo.open_page("photo")
    return demo.full_pages["photo"]


@pytest.fixture
def drawn(page, qtbot, tmp_path):
    """Open a drawn photo, and return its truth."""
    found = photo(3, most_tilt=25)
    Image.fromarray(found.picture).save(tmp_path / "tee.png")
    page.open_picture(tmp_path / "tee.png")
    qtbot.waitUntil(lambda: page.photo is not None, timeout=15_000)
    return found


def on_straight(page, px):
    (flat,) = on_plane(page.sheet, np.array([px]))
    x, y, w = np.linalg.inv(page.photo.to_sheet) @ (*flat, 1.0)
    return x / w, y / w


def test_a_chest_is_measured_with_the_mouse_and_taken(page, drawn, qtbot):
    for number, spot in enumerate(((410, 800), (990, 800))):
        page.picture.active = 1 - number
        where = page.picture.to_screen(on_straight(page, drawn.px(*spot)))
        qtbot.mouseClick(page.picture, Qt.MouseButton.LeftButton, pos=where.toPoint())
    assert "mm, within" in page.length.text()
    page.measure.setCurrentIndex(page.measure.findText("Chest"))
    qtbot.mouseClick(page.take, Qt.MouseButton.LeftButton)
    one_pixel = 1 / page.picture._scale / page.photo.px_mm
    assert page.session.plan.blank.measures["chest"] == pytest.approx(580, abs=5.8 + 2 * one_pixel)
    assert "chest" in page.session.plan.blank.measured
    page.session.undo()
    assert page.session.plan.blank.measures["chest"] == 530


def test_keys_move_the_points_and_a_picture_without_a_sheet_leaves_the_last_one(page, drawn, qtbot, tmp_path):
    page.picture.setFocus()
    (x, y), other = page.picture.spots
    qtbot.keyClick(page.picture, Qt.Key.Key_Right)
    qtbot.keyClick(page.picture, Qt.Key.Key_Down, Qt.KeyboardModifier.ShiftModifier)
    assert page.picture.spots[0] == (x + 1, y + 10)
    qtbot.keyClick(page.picture, Qt.Key.Key_Space)
    qtbot.keyClick(page.picture, Qt.Key.Key_Left)
    assert page.picture.spots[1] == (other[0] - 1, other[1])
    heard = []
    page.session.said.connect(heard.append)
    before = page.photo
    Image.fromarray(photo(4, sheet=False).picture).save(tmp_path / "bare.png")
    for name in ("bare.png", "none.png"):
        page.open_picture(tmp_path / name)
        qtbot.waitUntil(lambda name=name: len(heard) == 1 + (name == "none.png"), timeout=15_000)
    assert "There is no file" in heard[-1]
    assert page.photo is before


def test_the_photo_lies_below_fit_at_true_scale_until_it_is_taken_away(page, drawn, qtbot):
    session, window = page.session, page.window()
    plain = window.stations["fit"].grab().toImage()
    page.picture.place(0, on_straight(page, drawn.px(410, 800)))
    page.picture.place(1, on_straight(page, drawn.px(990, 800)))
    page.lay_below_fit()
    assert session.selection.backdrop.apart_mm[0] == pytest.approx(580, rel=0.01)
    scale = np.hypot(*session.selection.backdrop.matrix[:2, 0]) * page.photo.px_mm
    assert scale == pytest.approx(1.0)
    window.go_to("fit")
    assert window.stations["fit"].grab().toImage() != plain
    page.take_away()
    assert session.selection.backdrop is None


def test_the_sample_opens_and_measures(page, qtbot):
    page.try_sample()
    qtbot.waitUntil(lambda: page.photo is not None, timeout=15_000)
    assert page.picture.to_screen(page.picture.spots[0]) != QPointF()
    assert "A4 found" in page.note.text()
