"""A size that was measured for the artwork is the artwork's: it fills that, whatever is usual there."""

import pytest

from tests.helpers import document_of, first_of, run_command, svg
from zinnet.artwork.source import source_of
from zinnet.blanks.catalogue import forms, read_blank_name
from zinnet.job.edits import add_sizes, choose_blank, set_placement, set_source

FLAT = '<rect width="80" height="20" fill="#f4ead5"/>'
TALL = '<rect width="20" height="80" fill="#f4ead5"/>'


def room(**fields):
    return set_placement("room", **{f"field_{name}_mm": mm for name, mm in fields.items()})


@pytest.mark.parametrize(
    ("body", "fields", "width"),
    [
        (FLAT, {"width": 228.6}, 228.6),
        (FLAT, {"height": 40.0}, 160.0),
        (FLAT, {"width": 228.6, "height": 40.0}, 160.0),
        (TALL, {"width": 100.0, "height": 200.0}, 50.0),
        (TALL, {"width": 30.0, "height": 200.0}, 30.0),
    ],
)
def test_artwork_fills_the_room_that_was_measured_for_it(body, fields, width):
    document = document_of(body, choose_blank(read_blank_name("tote")), room(**fields))
    placement = first_of(document.plan).placement
    assert placement.width_mm == pytest.approx(width)
    assert not [one for one in document.plan.findings if one.id == "size-unusual"]


def test_other_artwork_fills_it_too_and_a_width_of_its_own_wins():
    document = document_of(FLAT, choose_blank(read_blank_name("tote")), room(width=200.0, height=100.0))
    assert first_of(document.plan).placement.width_mm == pytest.approx(200)
    document.apply(set_source("tall", source_of("tall.svg", svg(TALL))))
    assert first_of(document.plan).placement.height_mm == pytest.approx(100)
    document.apply(set_placement("x", width_mm=60.0))
    assert first_of(document.plan).placement.width_mm == 60
    assert [one.id for one in document.plan.findings if one.id == "size-unusual"]
    document.apply(set_placement("x", width_mm=None))
    document.apply(room(width=None, height=None))
    assert first_of(document.plan).placement.width_mm == first_of(document.plan).proposal.width_mm


def test_other_sizes_follow_in_proportion():
    document = document_of(FLAT, room(width=200.0), add_sizes(("youth-m",)))
    own, other = (garment.designs[0] for garment in document.plan.garments)
    share = other.placement.width_mm / other.proposal.width_mm
    assert share == pytest.approx(own.placement.width_mm / own.proposal.width_mm, abs=0.03)


def test_it_is_set_by_command(tmp_path):
    job = tmp_path / "bag.zinnet"
    document_of(FLAT, choose_blank(read_blank_name("tote"))).save(job)
    assert run_command("job", "set", job, "design.1.field-width=9in").returncode == 0
    assert "228.6 x 57" in run_command("job", "show", job).stdout
    assert run_command("job", "set", job, "design.1.field-width=-3").returncode == 2


def test_where_a_blank_has_a_field_of_its_own_both_are_asked_for_by_name():
    names = {form: [one.name for one in row.measures.values()] for form, row in forms().items()}
    assert names["gift-bag"][:3] == ["Whole front, width", "Whole front, height", "Name panel, width"]
    assert names["board"][2] == "Inset for the print, width"
    for form, said in names.items():
        assert len(set(said)) == len(said), form
