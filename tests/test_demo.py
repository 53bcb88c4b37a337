"""Every demo opens, has nothing that stops it, and is invented."""

import pytest

from tests.helpers import nested
from zinnet.cut_files import write_cut_files
from zinnet.demo import DEMOS, demo_document
from zinnet.export import fit_json, plan_json
from zinnet.placement.arrange import Arc, Rows


@pytest.mark.parametrize("name", DEMOS)
def test_a_demo_opens_without_a_stop(name):
    plan = demo_document(name=name).plan
    assert [finding.id for finding in plan.open_stops] == []
    assert plan.first.placement is not None
    assert fit_json(plan)["placement"]["width_mm"] > 0


def test_between_them_they_show_the_arrangements_and_a_family():
    plans = {name: demo_document(name=name).plan for name in DEMOS}
    assert isinstance(plans["caps"].placement.arrangement, Arc)
    assert len(plans["caps"].first.setting.letters) == len("LANTERN")
    assert isinstance(plans["blanket"].placement.arrangement, Rows)
    assert 13 <= len(plans["blanket"].placement.matrices) <= 25
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
    assert turns == {0.0}
