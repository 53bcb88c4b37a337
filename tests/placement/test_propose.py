"""What is proposed fits, is usual, and says why."""

import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from tests.helpers import document_of, first_of
from zinnet.blanks.build import build_blank
from zinnet.blanks.catalogue import blank_kinds, read_blank_name
from zinnet.blanks.model import BlankSpec
from zinnet.geometry.region import Region
from zinnet.geometry.transform import moved
from zinnet.job.edits import choose_blank, set_nesting, set_placement
from zinnet.placement.place import PlacementSpec, place_artwork, places_on
from zinnet.placement.propose import propose_width
from zinnet.workshop.model import standard_workshop

HABITS = standard_workshop().habits
ALL_PLACES = [
    (kind, size, place)
    for kind, row in blank_kinds().items()
    for size in {row.sizes[0], row.sizes[len(row.sizes) // 2], row.sizes[-1]}
    for place in places_on(build_blank(BlankSpec(kind=kind, size=size)))
]


def box(aspect):
    return Region([shapely.box(0, 0, 100, 100 * aspect)])


def proposal(kind, size, place, art, mat_mm=5000.0, platen_mm=None):
    spec = PlacementSpec(place=place)
    blank = build_blank(BlankSpec(kind=kind, size=size))
    return spec, blank, propose_width(spec, blank, HABITS, art=art, platen_mm=platen_mm, mat_mm=mat_mm)


@given(st.sampled_from(sorted(ALL_PLACES)), st.floats(0.25, 2.5))
def test_wherever_anything_fits_the_proposal_fits(where, aspect):
    spec, blank, found = proposal(*where, box(aspect))
    if found.usable_mm < 5:
        assert found.limit == "nothing fits there"
        return
    at = place_artwork(spec, blank, HABITS, width_mm=found.width_mm, height_mm=found.width_mm * aspect)
    art = moved(Region([shapely.box(0, 0, at.width_mm, at.height_mm)]), at.matrices[0])
    assert shapely.covers(shapely.buffer(at.panel.usable, 0.05), art)
    assert found.width_mm <= found.usable_mm + 0.05


@given(st.sampled_from(sorted(ALL_PLACES)), st.floats(0.4, 2))
def test_a_proposal_that_nothing_limits_is_usual(where, aspect):
    _, _, found = proposal(*where, box(aspect))
    if found.limit is None:
        assert found.width_mm == found.usual_mm
        assert found.holds(found.width_mm)
    else:
        assert found.width_mm <= found.usual_mm


def test_the_widest_that_fits_each_thing_is_told_by_itself():
    _, _, found = proposal("tee", "adult-m", "full-front", box(1.0), mat_mm=132.0, platen_mm=381.0)
    assert (found.mat_mm, found.platen_mm) == (132.0, 381.0)
    assert found.usable_mm > 300
    assert found.width_mm <= 132
    assert found.limit == "no more fits the mat"


def test_what_is_proposed_fits_the_mat_even_below_the_usual_range_and_nothing_is_said_against_it():
    _, _, found = proposal("tee", "adult-m", "full-back", box(1.4), mat_mm=208.0)
    assert found.width_mm == pytest.approx(205)
    assert found.limit == "no more fits the mat"
    document = document_of(
        '<rect width="100" height="140" fill="#f4ead5"/>',
        set_placement("x", place="full-back"),
        attributes='viewBox="0 0 100 140"',
    )
    assert not {"larger-than-mat", "size-unusual"} & {one.id for one in document.plan.findings}


def test_a_larger_mat_lets_more_be_proposed():
    narrow = document_of('<rect width="60" height="90" fill="#f4ead5"/>', set_nesting("x", mat="200x200mm"))
    wide = document_of('<rect width="60" height="90" fill="#f4ead5"/>', set_nesting("x", mat="12x24in"))
    assert first_of(narrow.plan).placement.width_mm <= first_of(wide.plan).placement.width_mm


@pytest.mark.parametrize("unit", ["mm", "in"])
def test_the_reason_is_a_sentence_in_the_users_unit(unit):
    _, _, found = proposal("hoodie", "youth-m", "full-front", box(0.9))
    said = found.reason(unit)
    assert "a hoodie, youth M" in said
    assert f" {unit}" in said
    assert "None" not in said


def test_on_another_blank_the_proposal_is_made_anew():
    document = document_of('<rect width="60" height="60" fill="#f4ead5"/>')
    widths = []
    for name in ("tee-adult", "tee-youth", "tee-infant", "cap"):
        document.apply(choose_blank(read_blank_name(name)))
        widths.append(first_of(document.plan).placement.width_mm)
    assert widths == sorted(widths, reverse=True)
    assert len(set(widths)) >= 3
