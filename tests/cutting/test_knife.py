"""The way of a drag knife: the blade's tip is simulated as it trails its axis, without the code that made the way."""

from itertools import pairwise

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.helpers import cases
from zinnet.artwork.lettering.text import TextSpec
from zinnet.artwork.lettering.word import word_regions
from zinnet.cutting.hpgl import Setup, program_of
from zinnet.cutting.knife import Knife, aligning_stroke, axis_path, heading_after, with_overcut
from zinnet.cutting.paths import CutPath, CutSheet, Shape, paths_of
from zinnet.geometry.region import as_region, union

STEP_MM = 0.02


def trailed(axis, offset, tip):
    """Return where a tip goes that hangs at ``offset`` behind an axis: the pursuit curve (tractrix), step by step."""
    found = [tip]
    for begin, end in pairwise(axis):
        count = max(1, int(np.ceil(np.hypot(*(end - begin)) / STEP_MM)))
        for k in range(1, count + 1):
            at = begin + (end - begin) * (k / count)
            away = tip - at
            tip = at + away * (offset / np.hypot(*away))
            found.append(tip)
    return np.array(found)


def farthest(tip, path):
    return float(shapely.hausdorff_distance(shapely.LineString(tip), shapely.LineString(path), densify=0.1))


def star(seed, corners, low, high):
    rng = np.random.default_rng(seed)
    angles = np.sort(rng.uniform(0, 2 * np.pi, corners))
    radii = rng.uniform(low, high, corners)
    ring = np.column_stack([radii * np.cos(angles), radii * np.sin(angles)]) + 60
    return np.vstack([ring, ring[:1]])


@settings(max_examples=cases(8, 100))
@given(st.integers(0, 10_000), st.integers(3, 24), st.floats(0.2, 1.0), st.floats(-3.2, 3.2))
def test_the_tip_follows_random_polygons_corners_included(seed, corners, offset, heading):
    path = star(seed, corners, 4, 40)
    axis = axis_path(path, offset, heading)
    start = axis[0] - offset * np.array([np.cos(heading), np.sin(heading)])
    assert start == pytest.approx(path[0])
    assert farthest(trailed(axis, offset, start), path) < 0.05


@pytest.mark.parametrize("font", ["bitter", "dancing-script", "bebas-neue"])
@pytest.mark.parametrize("offset", [0.2, 0.5, 1.0])
def test_the_tip_follows_letters_from_the_first_line_to_the_last(font, offset):
    """The whole HP-GL is simulated, rounded to plotter units as it is, heading carried from line to line."""
    word = union(word_regions(TextSpec(text="Mo8g", font=font), height_mm=25.0, joined=True))
    left, top, _, _ = word.bounds
    moved = as_region(shapely.affinity.translate(word, 10 - left, 10 - top))
    sheet = CutSheet("mat-01", 200, 80, tuple(paths_of(Shape("word", "cream", moved))))
    program = program_of(sheet, Setup(Knife(offset_mm=offset)))
    strokes = strokes_of(program.text)
    tip = trailed(strokes[0], offset, strokes[0][0] + np.array([0, offset]))[-1]
    trailing = tip - strokes[0][-1]
    for stroke, path in zip(strokes[1:], sheet.paths, strict=True):
        cut = trailed(stroke, offset, stroke[0] + trailing)
        trailing = cut[-1] - stroke[-1]
        assert farthest(cut, path.points * (1, -1) + (0, 80)) < 0.05


def strokes_of(text):
    """Return the strokes of HP-GL in mm."""
    found, here, current = [], np.zeros(2), []
    for command in text.replace("\n", "").split(";"):
        if command[:2] not in ("PU", "PD"):
            continue
        numbers = np.array([float(part) for part in command[2:].split(",") if part]).reshape(-1, 2) / 40
        if command[:2] == "PU":
            if len(current) > 1:
                found.append(np.array(current))
            current = []
        elif command[:2] == "PD":
            current = current or [here]
            current += list(numbers)
        if len(numbers):
            here = numbers[-1]
    return found


def test_without_an_offset_the_axis_is_the_tip():
    path = star(1, 9, 5, 20)
    axis = axis_path(path, 0.0, 0.0)
    assert farthest(axis, path) < 1e-9


def test_a_square_is_swung_round_its_corners_on_quarter_circles():
    """By hand: the axis runs ahead by the offset; round a right angle it goes a quarter of the circle about it."""
    square = np.array([(0, 0), (10, 0), (10, 10), (0, 10), (0, 0)], dtype=float)
    axis = axis_path(square, 1.0, 0.0)
    assert axis[0] == pytest.approx((1, 0))
    assert min(np.hypot(*(axis - (11, 0)).T)) < 1e-9
    corner = axis[np.abs(np.hypot(*(axis - (10, 0)).T) - 1) < 1e-6]
    assert len(corner) > 4
    assert corner[-1] == pytest.approx((10, 1))
    assert axis[-1] == pytest.approx((0, -1))
    length = float(np.hypot(*np.diff(axis, axis=0).T).sum())
    assert length == pytest.approx(40 + 3 * np.pi / 2, abs=0.02)


@given(st.integers(0, 10_000), st.floats(0.2, 1.0), st.floats(-3.1, 3.1))
def test_the_heading_after_a_way_is_that_of_the_simulated_tip(seed, offset, heading):
    axis = np.random.default_rng(seed).uniform(0, 4, (5, 2))
    end = trailed(axis, offset, axis[0] - offset * np.array([np.cos(heading), np.sin(heading)]))[-1]
    found = heading_after(axis, offset, heading)
    pointing = (axis[-1] - end) / offset
    assert np.array([np.cos(found), np.sin(found)]) == pytest.approx(pointing, abs=0.03)


@pytest.mark.parametrize("overcut", [0.5, 3.0, 25.0, 400.0])
def test_overcut_goes_on_past_the_start_but_at_most_once_round(overcut):
    path = CutPath("a", "a", "cream", "outline", star(3, 8, 5, 10))
    points = with_overcut(path, overcut)
    length = float(np.hypot(*np.diff(points, axis=0).T).sum())
    assert length == pytest.approx(path.length_mm + min(overcut, path.length_mm))
    assert shapely.distance(shapely.LineString(path.points), shapely.Point(points[-1])) < 1e-9


def test_an_open_line_has_no_overcut():
    line = CutPath("a", "a", "cream", "line", np.array([(0.0, 0.0), (10.0, 0.0)]), closed=False)
    assert len(with_overcut(line, 2.0)) == 2


@given(st.floats(-3.14, 3.14), st.floats(0.2, 1.0))
def test_the_stroke_in_the_corner_turns_the_knife_wherever_it_pointed(heading, offset):
    stroke = aligning_stroke(offset)
    tip = stroke[0] - offset * np.array([np.cos(heading), np.sin(heading)])
    end = trailed(stroke, offset, tip)[-1]
    if abs(abs(heading) - np.pi) > 0.05:
        assert abs((end - stroke[-1])[1]) < 0.06 * offset / max(0.02, np.cos(heading / 2))
