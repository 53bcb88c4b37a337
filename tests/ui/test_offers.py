"""What is offered to mend findings: in which order it is proven, and the room that its buttons get."""

import itertools
from dataclasses import replace
from unittest import mock

import pytest

from tests.ui.conftest import offered
from zinnet.job.edits import set_placement
from zinnet.plan.proof import Proof

pytestmark = pytest.mark.proven


def test_a_card_has_room_for_all_its_mends_as_soon_as_they_are_offered(demo, qtbot):
    demo.go_to("artwork")
    offered(qtbot, demo, "too-thin")
    panel = demo.findings
    qtbot.waitUntil(lambda: demo.session.plan.is_nested and not panel.offers.is_working)
    card = panel.card("too-thin")
    (offer, *_) = panel.offers.of(card.finding)
    several = tuple(replace(offer, mend=replace(offer.mend, name=f"way number {number}")) for number in range(4))
    with mock.patch.object(panel.offers, "of", return_value=several):
        panel._show_offers(card.finding)
    boxes = [one.geometry() for one in (*card.mends, card.show_place)]
    assert len(boxes) == 5
    assert not any(one.intersects(other) for one, other in itertools.pairwise(boxes))
    assert card.height() >= card.heightForWidth(card.width())


def test_cheap_mends_of_all_findings_are_proven_before_those_that_change_outlines(demo, qtbot, monkeypatch):
    proven = []

    def prove(plan, finding, mend):
        proven.append((finding.id, mend.name))
        return Proof((), (), plan)

    panel = demo.findings
    qtbot.waitUntil(lambda: not panel.offers.is_working)
    monkeypatch.setattr("zinnet.plan.proof.prove", prove)
    monkeypatch.setattr("zinnet.plan.changes.change_between", lambda *plans: None)
    monkeypatch.setattr("zinnet.plan.safe.mend_all_safe", lambda plan: None)
    demo.session.apply(set_placement("x", from_centre_mm=9.0))
    qtbot.waitUntil(lambda: "off-centre" in {name for name, _ in proven} and not panel.offers.is_working)
    outlines = [index for index, (_, name) in enumerate(proven) if name.startswith("thicken")]
    assert outlines
    assert proven[0][0] == "off-centre"
    assert outlines[0] > [name for name, _ in proven].index("off-centre")
