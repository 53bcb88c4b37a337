"""Each mend of small detail mends its place, and can be taken out again."""

import pytest
import shapely

from tests.helpers import document_of, first_of
from zinnet.job.edits import (
    choose_film,
    mends_of,
    set_layers,
    set_placement,
)
from zinnet.layers.detail import details

BASE = '<rect width="100" height="60" fill="#f4ead5"/>'
PLANTED = {
    "stroke": BASE + '<rect x="40" y="59" width="0.5" height="20" fill="#f4ead5"/>'
    '<rect x="30" y="78" width="20" height="10" fill="#f4ead5"/>',
    "gap": '<rect width="49.9" height="60" fill="#f4ead5"/><rect x="50.1" width="49.9" height="60" fill="#f4ead5"/>',
    "counter": '<path fill-rule="evenodd" fill="#f4ead5" d="M0 0H100V60H0Z M50 30h0.9v0.9h-0.9z"/>',
    "part": BASE + '<rect x="50" y="62" width="1.2" height="1.2" fill="#f4ead5"/>',
}
WAYS = {"stroke": {"thicken", "drop"}, "gap": {"widen"}, "counter": {"fill"}, "part": {"enlarge", "bridge", "drop"}}


def places(document, kind):
    (row,) = first_of(document.plan).layers
    return row, [detail for detail in details(row) if detail.kind == kind]


@pytest.mark.parametrize(("kind", "way"), [(kind, way) for kind, ways in WAYS.items() for way in sorted(ways)])
def test_a_mend_mends_its_place_and_is_a_step_that_can_be_taken_out(kind, way):
    document = document_of(PLANTED[kind], set_placement("x", width_mm=100.0))
    row, found = places(document, kind)
    mends = mends_of(row, found[0], width_mm=first_of(document.plan).split.width_mm)
    assert set(mends) == WAYS[kind]
    document.apply(mends[way])
    assert len(document.job.designs[0].steps) == 1
    assert places(document, kind)[1] == []
    document.undo()
    assert len(places(document, kind)[1]) == len(found)


def test_a_dropped_part_is_only_the_one_that_was_pointed_at():
    two = PLANTED["part"] + '<rect x="20" y="62" width="1.2" height="1.2" fill="#f4ead5"/>'
    document = document_of(two, set_placement("x", width_mm=100.0))
    row, found = places(document, "part")
    assert len(found) == 2
    document.apply(mends_of(row, found[0], width_mm=first_of(document.plan).split.width_mm)["drop"])
    (left,) = places(document, "part")[1]
    assert shapely.distance(left.region, found[1].region) < 0.01


def test_a_bridge_is_wide_enough_for_its_film_to_hold():
    document = document_of(PLANTED["part"], set_placement("x", width_mm=100.0), choose_film("#f4ead5", "gold-glitter"))
    row, found = places(document, "part")
    document.apply(mends_of(row, found[0], width_mm=first_of(document.plan).split.width_mm)["bridge"])
    row, found = places(document, "part")
    assert found == []
    assert row.layer.pieces == 1
    assert places(document, "stroke")[1] == []


def test_a_film_spread_under_what_it_can_not_carry_goes_back_to_as_drawn():
    far = (
        '<rect width="60" height="60" fill="#d62828"/><circle cx="90" cy="90" r="8" fill="#1f57c3"/>'
        '<circle cx="20" cy="20" r="5" fill="#f4ead5"/>'
    )
    document = document_of(far, choose_film("#d62828", "gold-glitter"), set_layers("x", spread="under"))
    stack = first_of(document.plan).stack
    assert {(pair.lower.layer.order, pair.upper.layer.order) for pair in stack.pairs} >= {(1, 2), (1, 3)}
    stops = [finding for finding in document.plan.findings if finding.id == "film-cannot-carry"]
    assert len(stops) == 2
    document.apply(stops[0].mend)
    assert document.job.layers.spread == "none"
    assert "film-cannot-carry" not in [finding.id for finding in document.plan.findings]
