"""A board that lies deeper than its frame: the plate goes into the recess, upright where it must, and covers all."""

import pytest
import shapely

from tests.helpers import document_of
from zinnet.blanks.catalogue import read_blank_name
from zinnet.blanks.model import BlankSpec, Measure
from zinnet.job.edits import choose_blank, set_placement


@pytest.mark.parametrize(("wide", "high"), [(81.3, 109.2), (70.0, 104.0), (150.0, 120.0), (240.0, 60.0)])
def test_no_position_lies_on_the_frame_and_all_of_the_print_is_pressed(wide, high):
    body = f'<rect width="{wide}" height="{high}" fill="#1f57c3"/>'
    sizes = {"width": wide + 50, "height": high + 50, "inset_width": wide, "inset_height": high}
    measured = tuple(Measure(name=name, mm=mm) for name, mm in sizes.items())
    board = BlankSpec(kind="inset-board", size="one", measured=measured)
    edits = [choose_blank(board), set_placement("x", width_mm=wide - 0.2)]
    document = document_of(body, *edits, attributes=f'viewBox="0 0 {wide} {high}"')
    press = document.plan.presses[0]
    (step,) = [one for one in press.steps if one.heat is not None]
    coverage = step.heat.coverage
    recess = press.garment.blank.main.region
    assert coverage.left.is_empty
    for one in coverage.positions:
        assert shapely.difference(one.box, recess).area < 0.1
    assert shapely.difference(press.works[0].film, coverage.pressed).area < 0.1


def test_a_turned_platen_is_said_at_the_step_itself():
    body = '<rect width="81.3" height="109.2" fill="#1f57c3"/>'
    edits = [choose_blank(read_blank_name("inset-board")), set_placement("x", width_mm=81.0)]
    press = document_of(body, *edits, attributes='viewBox="0 0 81.3 109.2"').plan.presses[0]
    (step,) = [one for one in press.steps if one.heat is not None]
    assert any("upright" in line for line in step.lines)
