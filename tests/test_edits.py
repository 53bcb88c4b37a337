"""Every edit has a name, makes another job, and leaves the old one as it was."""

import pytest

from tests.helpers import LANTERN, RED_AND_BLUE, document_of, svg
from zinnet.base.errors import ZinnetError
from zinnet.bench.document import Document
from zinnet.blanks.catalogue import read_blank_name
from zinnet.blanks.model import DrawnKeepOut
from zinnet.job.edits import (
    Edit,
    add_design,
    add_size,
    choose_blank,
    choose_film,
    choose_pairs,
    choose_place,
    choose_platen,
    derive_side,
    drop_keep_out,
    follow_family,
    join_outlines,
    keep_off,
    open_artwork,
    override_side,
    pass_finding,
    place_at,
    press_in_order,
    record_readings,
    remove_design,
    remove_size,
    set_blank,
    set_blank_colour,
    set_copies,
    set_layers,
    set_measure,
    set_nesting,
    set_placement,
    set_sizes,
    set_title,
    set_unit,
    take_back_pass,
)
from zinnet.job.model import Job
from zinnet.layers.spec import PairChoice
from zinnet.placement.as_laid import Readings
from zinnet.placement.place import PlacementSpec
from zinnet.workshop.model import standard_workshop

SPOT = DrawnKeepOut(panel="front", left=0, top=300, right=20, bottom=320)
READINGS = Readings(left_mm=140, right_mm=140, top_left_mm=170, top_right_mm=170)


@pytest.fixture(scope="module")
def rich():
    """A job with two designs, two sizes, a spot, readings and a passed finding."""
    return document_of(
        LANTERN,
        add_design("back.svg", svg(RED_AND_BLUE), "full-back"),
        set_sizes((("toddler", 2),)),
        set_placement("x", design=0, size="toddler", width_mm=90.0),
        keep_off(SPOT),
        record_readings(READINGS),
        override_side("scarlet", False, "the sheet says so"),
        pass_finding("wrong-cut-side", "the sheet says so"),
    ).job


EDITS = [
    open_artwork("new.svg", svg(RED_AND_BLUE)),
    add_design("third.svg", svg(LANTERN), "left-chest"),
    remove_design(1),
    choose_blank(read_blank_name("hoodie-adult")),
    set_blank("fabric", fabric="linen"),
    set_blank_colour("#123456"),
    set_measure("chest", 555.0),
    set_measure("chest", 333.0, "toddler"),
    keep_off(SPOT.model_copy(update={"kind": "zip"})),
    drop_keep_out(0),
    add_size("infant", 3),
    remove_size("toddler"),
    set_sizes((("youth-m", 1),)),
    follow_family("toddler", 0),
    choose_place("left-chest"),
    choose_place("upper-back", design=1, size="toddler"),
    choose_platen("flat-12x10"),
    place_at(PlacementSpec(width_mm=101.0), "place"),
    set_placement("turn", turn_deg=4.0),
    record_readings(READINGS.model_copy(update={"left_mm": 150.0})),
    record_readings(None),
    choose_film("#d62828", "brick"),
    set_layers("stack", method="stack"),
    choose_pairs("lap", [PairChoice(lower="#e9a53a", upper="#d62828", method="lap")]),
    press_in_order(("#d62828", "#e9a53a")),
    join_outlines(False),
    override_side("amber", False, "so it is"),
    derive_side("scarlet"),
    set_nesting("gap", gap_mm=4.0),
    set_copies(9),
    set_unit("in"),
    set_title("Another walk"),
    pass_finding("no-film", "it comes tomorrow"),
    take_back_pass("wrong-cut-side"),
]


@pytest.mark.parametrize("edit", EDITS, ids=lambda edit: edit.name)
def test_an_edit_makes_another_job_that_can_be_derived_and_undone(rich, edit):
    before = rich.model_dump_json()
    changed = edit.change(rich)
    assert edit.name
    assert changed != rich
    assert rich.model_dump_json() == before
    document = Document(standard_workshop(), rich)
    document.apply(edit)
    assert document.job == changed
    document.undo()
    assert document.job == rich
    assert document.redo_name == edit.name
    document.redo()
    assert document.job == changed


@pytest.mark.parametrize("edit", EDITS, ids=lambda edit: edit.name)
def test_an_edited_job_comes_back_from_its_json(rich, edit):
    changed = edit.change(rich)
    data = changed.model_dump(mode="python")
    for design, kept in zip(data["designs"], changed.designs, strict=True):
        design["source"]["file"]["data"] = kept.source.file.data
    assert Job.model_validate(data) == changed


@pytest.mark.parametrize(
    "edit",
    [
        set_copies(0),
        set_copies(100_000),
        set_placement("x", width_mm=-3.0),
        set_placement("x", arrangement={"kind": "spiral"}),
        set_placement("x", arrangement={"kind": "rows", "gap_x_mm": -1.0}),
        set_placement("x", arrangement={"kind": "ring", "count": 0}),
        set_blank("dots", care_dots=7),
        set_nesting("gap", gap_mm=-2.0),
        pass_finding("no-film", "x"),
        set_unit("cubit"),
        add_size("toddler"),
        add_size("huge"),
        set_measure("tail", 30.0),
        keep_off(SPOT.model_copy(update={"panel": "roof"})),
        choose_place("moon"),
        choose_blank(read_blank_name("tee").model_copy(update={"kind": "kimono"})),
        choose_blank(read_blank_name("cap").model_copy(update={"size": "adult-m"})),
    ],
    ids=lambda edit: edit.name,
)
def test_what_can_not_be_is_one_sentence_and_nothing_changes(rich, edit):
    document = Document(standard_workshop(), rich)
    plan = document.plan
    with pytest.raises(ZinnetError) as caught:
        document.apply(edit)
    assert "\n" not in str(caught.value)
    assert str(caught.value).endswith(".")
    assert (document.job, document.plan) == (rich, plan)


def test_dragging_is_undone_in_one_step_and_another_size_is_another_step(rich):
    document = Document(standard_workshop(), rich)
    for k in range(5):
        document.apply(set_placement("move", merge="move", from_centre_mm=float(k + 1)))
    for k in range(5):
        document.apply(set_placement("move", merge="move", size="toddler", from_centre_mm=float(k + 1)))
    document.undo()
    assert document.job.designs[0].placement.from_centre_mm == 5
    document.undo()
    assert document.job == rich


def test_an_edit_that_changes_nothing_is_no_step(rich):
    document = Document(standard_workshop(), rich)
    document.apply(Edit("nothing", lambda job: job))
    assert document.undo_name is None


def test_a_new_blank_forgets_readings_and_makes_no_size_of_another_kind(rich):
    changed = choose_blank(read_blank_name("cap")).change(rich)
    assert (changed.laid, changed.family) == ((), ())


def test_a_size_that_is_made_already_becomes_the_jobs_own_and_both_are_made(rich):
    toddler = rich.member("toddler")
    same = choose_blank(rich.blank.model_copy(update={"size": "toddler", "measured": ()})).change(rich)
    assert (same.blank.size, same.blank.measured, same.copies) == ("toddler", toddler.measured, toddler.copies)
    assert [(one.size, one.copies, one.measured) for one in same.family] == [
        ("adult-m", rich.copies, rich.blank.measured)
    ]
