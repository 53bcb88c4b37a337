"""The weed map and the marks: what comes out, in which order, and that no aid touches the artwork."""

import numpy as np
import pytest
import shapely
import shapely.affinity
from hypothesis import given
from hypothesis import strategies as st

from tests.helpers import document_of, nested, outlines_in_svg
from tests.layers.test_build import body_of, shapes, stack_of
from zinnet.cutting.svg_file import cut_svg
from zinnet.data import read_toml
from zinnet.job.edits import set_layers, set_placement
from zinnet.layers.marks import frame_box, marks_of
from zinnet.layers.weeding import weed_map, weed_summary
from zinnet.output.plan_json import weed_json

WORD = (
    '<rect width="100" height="60" fill="#f4ead5"/>'
    '<path fill-rule="evenodd" fill="#1f57c3" d="M10 10h30v30h-30z M15 15h20v20h-20z M22 22h4v4h-4z"/>'
)


def maps_of(stack):
    frame = frame_box(stack.box)
    return [(row, weed_map(row.layer, frame)) for row in stack.in_press_order]


@given(shapes, st.sampled_from(["auto", "cut-away", "lap"]))
def test_waste_and_what_stays_make_up_the_frame(found, method):
    for row, weed in maps_of(stack_of(body_of(found), method=method, attributes='viewBox="-50 -50 200 200"')):
        frame = shapely.box(*weed.frame)
        waste = shapely.union_all([island.region for island in weed.islands])
        assert waste.area + row.layer.region.area == pytest.approx(frame.area, rel=1e-6)
        assert shapely.intersection(waste, row.layer.region).area < 1e-6 * frame.area
        assert [island.number for island in weed.islands] == list(range(1, len(weed.islands) + 1))
        # Every hole of a layer is a counter of its own, what is left of parts inside it taken out.
        holes = sum(len(part.interiors) for part in row.layer.region.geoms)
        assert weed.counters >= holes
        for island in weed.islands:
            assert shapely.intersects(island.region, shapely.Point(island.at))


@given(shapes)
def test_weed_lines_never_touch_the_artwork(found):
    clear = read_toml("limits")["weeding"]["line_clear_mm"]
    for row, weed in maps_of(stack_of(body_of(found), width=300.0, attributes='viewBox="-50 -50 200 200"')):
        for line in weed.lines:
            assert shapely.distance(line, row.layer.region) > clear - 0.02
            assert shapely.covers(shapely.box(*weed.frame).buffer(1e-6), line)


def test_open_waste_comes_first_and_what_touches_small_parts_last():
    (_, lower), (_, upper) = maps_of(stack_of(WORD, method="cut-away", width=100.0))
    assert [island.kind for island in upper.islands][-1] == "counter"
    assert len(upper.small_parts) == 1
    assert upper.islands[-1].near_small
    assert upper.counters == 1
    # In the lower layer the square was cut out: a ring within the rectangle, with the blue square's own hole in it.
    assert lower.counters == 2
    kinds = [island.kind for island in lower.islands]
    assert kinds == sorted(kinds, key=["open", "counter"].index)


def test_the_time_follows_from_outline_areas_and_small_parts():
    rate = read_toml("limits")["weeding"]
    ((row, weed),) = maps_of(stack_of('<rect width="100" height="50" fill="#1f57c3"/>', width=50.0))
    assert weed.outline_mm == pytest.approx(150)
    assert weed.seconds == pytest.approx(0.15 * rate["seconds_per_metre"] + rate["seconds_per_island"])
    assert weed_summary(weed) == "1 open area and 0 counters come out, no small parts stay; about 10 s"
    assert "from memory" in weed.basis
    assert row.layer.order == 1


def test_the_answer_of_the_command_line_counts_the_same():
    document = document_of(WORD, set_placement("x", width_mm=100.0), set_layers("x", method="cut-away"))
    lower, upper = weed_json(document.plan)
    assert (lower["counters"], upper["counters"]) == (2, 1)
    assert len(upper["small_parts"]) == 1
    assert len(upper["islands"]) == upper["areas"]


@given(shapes)
def test_marks_lie_outside_every_layer_and_inside_the_frame(found):
    stack = stack_of(body_of(found), attributes='viewBox="-50 -50 200 200"')
    marks = marks_of(stack)
    left, top, right, bottom = stack.box
    assert shapely.distance(marks.registers, shapely.box(*stack.box)) > 0.5
    assert shapely.contains(shapely.box(*frame_box(stack.box)), marks.registers)
    for row in stack.layers:
        assert shapely.distance(marks.registers, row.layer.region) > 0.5
        assert shapely.distance(marks.frame.exterior, row.layer.region) > 0.5
    # The deep notches stand at the ends of the centre lines.
    points = shapely.get_coordinates(marks.frame)
    deep = read_toml("limits")["marks"]["tick_mm"]
    frame_left, frame_top, _, _ = frame_box(stack.box)
    for notch in (((left + right) / 2, frame_top + deep), (frame_left + deep, (top + bottom) / 2)):
        assert abs(points - notch).sum(axis=1).min() < 1e-6


def test_frame_and_marks_are_cut_but_are_no_part_of_the_piece():
    body = '<rect width="60" height="40" fill="#f4ead5"/><circle cx="60" cy="40" r="20" fill="#1f57c3"/>'
    plain = nested(document_of(body, set_placement("x", width_mm=100.0)))
    marked = nested(document_of(body, set_placement("x", width_mm=100.0), set_layers("x", marks=True)))
    sheets = zip(plain.plan.loads, marked.plan.loads, strict=True)
    for (before, after), (bare, framed) in zip(
        zip(plain.plan.mats, marked.plan.mats, strict=True), sheets, strict=True
    ):
        assert after.film_mm2 == pytest.approx(before.film_mm2)
        assert framed.cut_sheet().pieces[-1].endswith("-frame")
        assert [path.kind for path in framed.cut_sheet().paths].count("mark") == 3
        assert len(outlines_in_svg(cut_svg(framed.cut_sheet(), arcs=False))) == len(bare.cut_sheet().paths) + 4
        (placed,) = after.layout.placed
        room = after.nest.part(placed.piece).room
        assert room.area > 1.1 * after.nest.part(placed.piece).region.area
    # Laid by their frames, both films' frames fall on each other.
    frames = []
    for mat in marked.plan.mats:
        (placed,) = mat.layout.placed
        part = mat.nest.part(placed.piece)
        back = marked.plan.panel_to_cut(part, placed.copy_number)
        (a, b, c), (d, e, f) = np.linalg.inv(back)[:2]
        frames.append(shapely.affinity.affine_transform(part.marks.frame, (a, b, d, e, c, f)))
    assert shapely.symmetric_difference(*frames).area < 1e-6
