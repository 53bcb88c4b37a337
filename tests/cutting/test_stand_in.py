"""The stand-in cutter: what it understands, how long it takes, how deep it cuts, and how it fails."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from zinnet.cutting.duration import duration_of, runs_mm
from zinnet.cutting.hpgl import program_of
from zinnet.cutting.order import in_cutting_order
from zinnet.cutting.paths import CutPath, CutSheet, Shape, file_order
from zinnet.cutting.settings import OUTCOMES, CutSettings
from zinnet.cutting.stand_in.cutter import StandIn
from zinnet.cutting.stand_in.depth import depth_um, loaded_film, outcome_of
from zinnet.cutting.stand_in.drawing import strokes_svg
from zinnet.cutting.stand_in.language import Command, Escape, Reader, Unreadable
from zinnet.cutting.tolerances import motion
from zinnet.films.catalogue import film_kinds
from zinnet.geometry.region import as_region

SETTINGS = CutSettings(force_g=90, blade_mm=0.15, speed_mm_s=200)


def told(text, **made):
    cutter = StandIn(**made)
    cutter.receive(text.encode("latin-1"))
    cutter.advance(1e6)
    return cutter


def test_commands_are_read_however_they_come_in():
    """HP-GL lets a command end with a semicolon or where the next one begins, with spaces or commas between."""
    for text in ("PU0,0;PD40,80,120 160;SP0;", "PU0,0PD40,80,120,160;SP0;", "pu0,0;\r\npd40 80 120 160;sp0;"):
        found = list(Reader().feed(text.encode()))
        assert found == [Command("PU", (0, 0)), Command("PD", (40, 80, 120, 160)), Command("SP", (0,))]


@given(st.binary(max_size=200))
def test_any_bytes_are_read_without_falling_over(data):
    cutter = StandIn()
    cutter.receive(data)
    cutter.advance(1e6)
    assert cutter.free_bytes >= 0


@given(st.lists(st.integers(1, 9), min_size=1, max_size=6))
def test_it_makes_no_difference_where_the_bytes_are_parted(sizes):
    text = b"IN;PU40,40;PD80,40,80,80;\x1b.EPU0,0;"
    whole, parted, reader, at = list(Reader().feed(text)), [], Reader(), 0
    while at < len(text):
        size = sizes[at % len(sizes)]
        parted += reader.feed(text[at : at + size])
        at += size
    assert parted == whole
    assert Escape("E") in whole


def test_what_it_does_not_know_is_an_error_that_it_tells_once():
    cutter = told("XX5;OE;OE;")
    assert cutter.answers() == b"1\r0\r"
    assert isinstance(next(iter(Reader().feed(b"\x1b.Z"))), Unreadable)


def test_strokes_are_where_the_pen_is_down_absolute_and_relative():
    cutter = told("PU40,80;PD440,80,440,480;PU0,0;PA400,0;PR;PD40,0,0,40;PU;")
    (first, second) = cutter.head.strokes
    assert first.points == [(1, 2), (11, 2), (11, 12)]
    assert second.points == [(10, 0), (11, 0), (11, 1)]


def test_where_the_head_stands_is_told_after_what_was_sent_before_is_cut():
    cutter = StandIn()
    cutter.receive(b"PU0,0;PD4000,0;OA;\x1b.E")
    assert cutter.answers() == b"0\r", "an escape is answered at once"
    cutter.advance(0.1)
    assert cutter.answers() == b""
    cutter.advance(100)
    assert cutter.answers() == b"4000,0,1\r"


def test_force_and_speed_are_taken_from_what_is_sent():
    cutter = told("VS12;FS140;PU0,0;PD400,0;PU;")
    (stroke,) = cutter.head.strokes
    assert (stroke.force_g, stroke.speed_mm_s) == (140, 120)


def test_a_straight_run_takes_as_long_as_uniform_acceleration_says():
    """By hand: 100 mm at 200 mm/s with 4000 mm/s2 take 100/200 + 200/4000 s; 5 mm never come to speed."""
    how = motion()
    for mm, seconds in ((100, 100 / 200 + 200 / how.accel_mm_s2), (5, 2 * math.sqrt(5 / how.accel_mm_s2))):
        cutter = StandIn()
        cutter.head.speed_mm_s = 200.0
        cutter.receive(f"PD{mm * 40},0;".encode())
        cutter.advance(1000)
        assert cutter.head.seconds == pytest.approx(seconds + how.lift_s)


@given(st.floats(0.01, 0.5))
def test_halfway_through_the_head_is_on_its_line(share):
    cutter = StandIn()
    cutter.receive(b"PU0,0;PD4000,4000;")
    cutter.advance(share)
    x, y = cutter.head.at
    assert x == pytest.approx(y)
    assert 0 <= x <= 100


@pytest.mark.parametrize("seed", range(4))
def test_the_estimate_of_time_agrees_with_the_stand_in(seed):
    rng = np.random.default_rng(seed)
    shapes = []
    for k in range(8):
        x, y = (k % 4) * 40 + 5, (k // 4) * 40 + 5
        disc = shapely.Point(x + 15, y + 15).buffer(rng.uniform(4, 14))
        shape = disc if k % 2 else shapely.box(x, y, x + rng.uniform(6, 30), y + 20)
        shapes.append(Shape(f"p{k}", "cream", as_region(shape)))
    sheet = CutSheet("mat", 200, 120, in_cutting_order(file_order(shapes), (0.0, 120.0)))
    cutter = StandIn()
    cutter.head.speed_mm_s = SETTINGS.speed_mm_s
    text, took = program_of(sheet).text.encode(), 0
    while took < len(text):
        size = min(200, len(text) - took)
        cutter.receive(text[took : took + size])
        took += size
        if cutter.free_bytes < 400:
            cutter.advance(1e6)
    cutter.advance(1e6)
    said = duration_of(sheet.paths, SETTINGS, (0.0, 120.0))
    assert said.seconds == pytest.approx(cutter.head.seconds, rel=0.1)
    assert said.cut_mm == pytest.approx(cutter.head.cut_mm, rel=0.01)
    assert said.lifts == len(sheet.paths)


def test_runs_lie_between_corners():
    square = np.array([(0, 0), (10, 0), (10, 20), (0, 20), (0, 0)], dtype=float)
    assert runs_mm(CutPath("a", "a", "f", "outline", square)).tolist() == [10, 20, 10, 20]
    line = CutPath("a", "a", "f", "line", np.array([(0.0, 0.0), (5.0, 0.0), (9.0, 0.0)]), closed=False)
    assert runs_mm(line).tolist() == [9]


@given(st.floats(20, 300), st.floats(0, 2000), st.floats(50, 400))
def test_more_force_a_sharper_blade_and_less_speed_cut_deeper(force, metres, speed):
    film = loaded_film(film_kinds()["smooth"], "smooth")
    at = CutSettings(force_g=force, blade_mm=2.0, speed_mm_s=speed)
    here = depth_um(film, at, metres)
    assert depth_um(film, at.model_copy(update={"force_g": force * 1.1}), metres) > here
    assert depth_um(film, at, metres + 100) < here
    assert depth_um(film, at.model_copy(update={"speed_mm_s": speed * 1.2}), metres) < here
    assert depth_um(film, at.model_copy(update={"passes": 2}), metres) > here
    assert depth_um(film, at.model_copy(update={"blade_mm": 0.05}), metres) <= 50


def test_results_follow_one_another_as_the_cut_deepens():
    film = loaded_film(film_kinds()["smooth"], "smooth")
    seen = list(dict.fromkeys(outcome_of(film, depth) for depth in range(1, 260)))
    assert seen == list(OUTCOMES)


def test_with_a_full_buffer_bytes_are_lost_and_it_says_so():
    cutter = StandIn()
    cutter.receive(b"PD" + b"40,40," * 400 + b"0,0;")
    cutter.receive(b"\x1b.E")
    assert cutter.answers() == b"16\r"


def test_what_it_cut_can_be_drawn():
    text = strokes_svg(told("PU0,0;PD400,0,400,400;PU;").head.strokes)
    assert "M0.000 10.000 L10.000 10.000 L10.000 0.000" in text
    assert "<path" not in strokes_svg([])
