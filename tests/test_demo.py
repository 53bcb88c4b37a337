"""Every demo opens, has nothing that stops it, and is invented."""

import pytest

from tests.helpers import first_of, nested
from zinnet.bench.document import Document
from zinnet.data import read_toml
from zinnet.demo import DEMOS, SHIPPED, demo_document, demo_shelf
from zinnet.demo.shelf import demo_store
from zinnet.demo.walk import LANTERN_MAKERS, STEWARDS, WALK_JOBS
from zinnet.desktop.guide import chapter
from zinnet.nesting.verify import faults
from zinnet.output.cut_files import write_cut_files
from zinnet.output.plan_json import fit_json, plan_json
from zinnet.placement.arrange import Arc, Rows
from zinnet.workshop.model import standard_workshop
from zinnet.workshop.opening import with_books


def test_every_demo_has_a_name_in_the_menu_and_no_other_is_named():
    named = read_toml("demos")
    assert [*named["walk"], *named["others"]] == [*DEMOS]
    assert [*named["walk"]] == [*WALK_JOBS]
    assert named["first"] in DEMOS


@pytest.mark.parametrize("name", DEMOS)
def test_a_demo_opens_without_a_stop(name):
    plan = demo_document(name=name).plan
    assert [finding.id for finding in plan.open_stops] == []
    assert first_of(plan).placement is not None
    assert fit_json(plan)["placement"]["width_mm"] > 0


FAULTS = {
    "stewards": "too-thin",
    "band": "blank-not-measured",
    "children": "no-test-cut",
    "caps": "no-spare",
    "names": "blank-not-measured",
    "blanket": "heat-untested",
    "jars": "no-test-cut",
}


@pytest.mark.parametrize("name", WALK_JOBS)
def test_a_job_of_the_walk_is_clean_but_for_one_fault_that_the_guide_tells_of(name):
    plan = demo_document(name=name).plan
    found = [one for one in plan.findings if one.level in ("stop", "warn")]
    assert {one.id for one in found} == {FAULTS[name]}
    (row,) = [
        line for line in chapter("demo").splitlines() if line.startswith(f"| {read_toml('demos')['walk'][name]} |")
    ]
    assert f"*{found[0].title}*" in row


@pytest.mark.parametrize("name", sorted(set(DEMOS) - set(WALK_JOBS)))
def test_no_other_demo_has_more_than_one_kind_of_fault_in_what_is_drawn_and_pressed(name):
    plan = demo_document(name=name).plan
    found = {one.id for one in plan.findings if one.level in ("stop", "warn")}
    assert len(found - {"blank-not-measured", "no-test-cut"}) <= 1


def test_between_them_they_show_the_arrangements_and_a_family():
    plans = {name: demo_document(name=name).plan for name in ("caps", "blanket", "hoodies")}
    assert isinstance(first_of(plans["caps"]).placement.arrangement, Arc)
    assert len(first_of(plans["caps"]).setting.letters) == len("LANTERN")
    assert isinstance(first_of(plans["blanket"]).placement.arrangement, Rows)
    assert 13 <= len(first_of(plans["blanket"]).placement.matrices) <= 25
    assert len(plans["hoodies"].garments) == 6
    assert sum(garment.copies for garment in plans["hoodies"].garments) == 21


def test_the_caps_are_cut_along_the_arc(tmp_path):
    document = nested(demo_document(name="caps"))
    written = write_cut_files(document.plan, tmp_path)
    assert {path.suffix for path in written} == {".svg", ".plt"}
    said = plan_json(document.plan)
    assert sum(len(mat["pieces"]) for mat in said["mats"]) == 6
    assert len(said["placement"]["letters"]) == 7


def test_the_blankets_flock_lies_one_way():
    document = nested(demo_document(name="blanket"))
    turns = {placed.turn_deg % 360 for mat in document.plan.mats for placed in mat.layout.placed}
    assert turns == {90.0}, "its direction runs along the film"


@pytest.mark.parametrize("name", SHIPPED)
def test_a_nest_that_ships_is_that_of_its_demo(name):
    plan = demo_document(name=name).plan
    assert plan.is_nested
    assert [fault for nest in plan.nests for fault in faults(nest.task, nest.layout)] == []
    assert not any(nest.layout.unplaced for nest in plan.nests)


def test_the_walk_is_what_the_parade_needs():
    plans = {name: demo_document(name=name).plan for name in WALK_JOBS}
    stewards, band, jars = plans["stewards"], plans["band"], plans["jars"]
    assert len(stewards.garments) == len(STEWARDS) == 7
    assert sum(one.copies for one in stewards.garments) == sum(line.count for line in stewards.job.order.lines)
    assert [row.film.name for row in first_of(stewards).stack.in_press_order] == ["Cream", "Amber", "Mint"]
    assert {pair.rule.method for pair in first_of(stewards).stack.pairs} == {"lap"}
    zips = [spot for panel in band.blank.panels for spot in panel.keep_outs if spot.kind == "zip"]
    assert zips
    assert {design.panel.id for design in band.garments[0].designs} == {"front", "back"}
    assert {row.film.kind for row in first_of(plans["children"]).layers} == {"glitter"}
    assert isinstance(first_of(plans["caps"]).placement.arrangement, Arc)
    assert [one.words for one in plans["names"].named] == list(LANTERN_MAKERS)
    assert {row.film.kind for row in first_of(plans["blanket"]).layers} == {"flock"}
    assert first_of(jars).placement.panel.seen == "through-glass"
    assert all(nest.mirrored for nest in jars.nests)
    assert {row.film.kind for row in first_of(jars).layers} == {"adhesive"}


def test_the_last_of_a_roll_is_short_and_scraps_save_the_day():
    plan = demo_document(name="caps").plan
    kinds = {mat.item.kind for mat in plan.mats}
    assert "scrap" in kinds
    on_roll = sum(len(mat.layout.placed) for mat in plan.mats if mat.item.kind == "roll")
    assert on_roll < plan.job.copies
    roll = next(item for item in demo_shelf().stock if item.film == "lemon" and item.kind == "roll")
    rolls_only = plan.workshop.model_copy(update={"stock": (roll,)})
    document = Document(rolls_only, plan.job)
    assert any(nest.layout.unplaced for nest in nested(document, seconds=1.5).plan.nests)


def test_every_station_has_something_real_in_the_walk(tmp_path):
    store = demo_store(tmp_path)
    workshop = with_books(standard_workshop(), store)
    plan = demo_document(workshop, "stewards").plan
    assert plan.blank.measured
    assert first_of(plan).artwork is not None
    assert first_of(plan).placement is not None
    assert first_of(plan).layers
    assert plan.mats
    assert plan.loads[0].duration().seconds > 0
    assert all(press.steps for press in plan.presses)
    assert workshop.made
    assert workshop.garments
    assert workshop.stock
