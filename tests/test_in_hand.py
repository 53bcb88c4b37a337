"""The piece in hand: its lengths on the card, in the list of steps and on the job sheet are those of its own film."""

import io

import pypdfium2
import pytest
import shapely

from tests.helpers import RED_AND_BLUE, document_of
from zinnet.base.units import write_length
from zinnet.bench.press_run import PressRun
from zinnet.demo import demo_document
from zinnet.geometry.transform import moved
from zinnet.job.edits import set_copies, set_placement
from zinnet.output.papers.job_sheet import job_sheet_pdf
from zinnet.output.press_json import press_json
from zinnet.placement.slips import Slip
from zinnet.plan.in_hand import hands_of, in_hand
from zinnet.plan.press_cards import quick_cards
from zinnet.plan.run_garments import by_size, run_presses
from zinnet.pressing.schedule.tasks import team_of
from zinnet.workshop.price_list import usual_prices

LAPPED = '<rect width="90" height="60" fill="#d62828"/><rect x="60" y="10" width="50" height="40" fill="#1f57c3"/>'


def text_of(pdf):
    return " ".join(
        " ".join(page.get_textpage().get_text_range().split()) for page in pypdfium2.PdfDocument(io.BytesIO(pdf))
    )


def test_lengths_are_of_the_films_own_edge_not_of_the_whole_artwork():
    (press,) = document_of(RED_AND_BLUE).plan.presses
    (_, red), (_, blue) = hands_of(press)
    reference = red.placement.reference[1]
    assert red.laying.lengths[0].mm == pytest.approx(red.region.bounds[1] - reference)
    assert blue.laying.lengths[0].mm == pytest.approx(blue.region.bounds[1] - reference)
    assert blue.laying.lengths[0].mm > red.laying.lengths[0].mm + 20
    left = red.work.panel.edges_near(blue.laying.lengths[1].start[1])[0]
    assert blue.laying.lengths[1].mm == pytest.approx(blue.region.bounds[0] - left)


def test_what_lies_there_already_grows_piece_by_piece():
    press = demo_document(name="stewards").plan.presses[0]
    hands = [hand for _, hand in hands_of(press)]
    assert [len(hand.under) for hand in hands] == list(range(len(hands)))
    assert [length.kind for length in hands[0].laying.lengths][3] == "second"
    beside = [hand for hand in hands if hand.laying.lengths[3].kind == "beside"]
    assert len(beside) > len(hands) / 2
    for hand in beside:
        last = hand.laying.lengths[3]
        film = shapely.union_all([region for _, region in hand.under])
        assert shapely.distance(shapely.Point(last.end), film.boundary) == pytest.approx(0, abs=1e-6)
        assert any(f"to the edge of {piece.name}" in hand.rows("mm")[3][2] for piece, _ in hand.under)


def test_a_piece_beside_the_middle_is_not_to_be_matched_to_the_crease():
    (press,) = document_of(RED_AND_BLUE, set_placement("x", from_centre_mm=70.0)).plan.presses
    for _, hand in hands_of(press):
        assert not hand.is_centred
        assert "Off the centre line" in hand.way()
        assert abs(hand.laying.lengths[1].mm - hand.laying.lengths[2].mm) > 60


def test_a_turn_is_told():
    (press,) = document_of(RED_AND_BLUE, set_placement("x", turn_deg=12.5)).plan.presses
    assert all(hand.way().startswith("Turned 12.5° clockwise.") for _, hand in hands_of(press))


def test_each_place_of_a_repeated_motif_has_lengths_of_its_own():
    rows = {"kind": "rows", "rows": 1, "columns": 3}
    (press,) = document_of(RED_AND_BLUE, set_placement("x", width_mm=50.0, arrangement=rows)).plan.presses
    hands = [hand for _, hand in hands_of(press)]
    assert len(hands) == 6
    lefts = [round(hand.laying.lengths[1].mm) for hand in hands[:3]]
    assert len(set(lefts)) == 3
    assert [hand.name.rpartition(", ")[2] for hand in hands[:3]] == ["1 of 3", "2 of 3", "3 of 3"]


@pytest.mark.parametrize("unit", ["mm", "in"])
def test_cards_json_and_sheet_say_the_same(unit):
    document = document_of(RED_AND_BLUE, set_copies(2))
    plan = document.plan
    cards = quick_cards(run_presses(plan), team_of(1, 1, 4))
    by_card = [in_hand(card, unit).rows(unit) for card in cards if card.number == 1 and card.hand is not None]
    assert by_card == [hand.rows(unit) for _, hand in hands_of(plan.presses[0], unit)]
    if unit == "mm":
        rows = press_json(plan)["garments"][0]["laying"]
        said = [[f"{length} {goes}" for _, length, goes in card] for card in by_card]
        assert [[one["said"] for one in row["lengths"]] for row in rows] == said
        assert [[write_length(abs(one["mm"])) for one in row["lengths"]] for row in rows] == [
            [length for _, length, _ in card] for card in by_card
        ]


def test_every_name_has_its_own_lengths_on_the_sheet():
    plan = demo_document(name="names").plan
    said = text_of(job_sheet_pdf(plan, (), usual_prices()))
    for (name, press), one in zip(run_presses(plan), plan.named, strict=True):
        ((_, hand),) = hands_of(press, plan.job.unit)
        assert one.words in name
        _, length, goes = hand.rows(plan.job.unit)[1]
        assert f"{length} {goes}".split(" from ")[0] in said
        assert one.words in said


def test_what_is_laid_later_follows_a_piece_that_slipped(tmp_path):
    """Laid by its new lengths, the next film lies to the first as planned: both went off by the same."""
    (press,) = document_of(LAPPED).plan.presses
    cards = [card for card in quick_cards(by_size([press]), team_of(1, 1, 4)) if card.hand is not None]
    run = PressRun(cards, tmp_path)
    first, second = in_hand(cards[0]), in_hand(cards[1])
    slip = Slip(2.0, -1.0, 0.8)
    run.slipped(cards[0], slip)
    after = in_hand(cards[1], "mm", run.slips_of(cards[1]))
    as_one = moved(second.region, slip.matrix(first.region))
    assert shapely.hausdorff_distance(after.region, as_one) < 0.05
    assert after.follows.holds
    assert "follows what slipped" in after.way()
    assert "0.8° clockwise" in after.way("in")
    assert " in to the right" in after.way("in")
    assert shapely.hausdorff_distance(after.under[0][1], moved(first.region, slip.matrix(first.region))) < 1e-6
    assert after.rows("mm") != second.rows("mm")
    assert in_hand(cards[0], "mm", run.slips_of(cards[0])).rows("mm") == first.rows("mm")
    again = PressRun(cards, tmp_path)
    assert again.slips_of(cards[1]) == run.slips_of(cards[1])
    again.begin_anew()
    assert again.slips_of(cards[1]) == {}


def test_a_slip_of_one_garment_is_none_of_the_next(tmp_path):
    presses = by_size(document_of(LAPPED, set_copies(2)).plan.presses)
    cards = quick_cards(presses, team_of(1, 1, 4))
    run = PressRun(cards, tmp_path)
    mine = {number: [card for card in cards if card.number == number and card.hand] for number in (1, 2)}
    run.slipped(mine[1][0], Slip(3.0, 0.0, 0.0))
    assert run.slips_of(mine[1][1]) != {}
    assert run.slips_of(mine[2][1]) == {}


def test_a_paper_strip_as_wide_as_the_gap_is_offered_beside_what_lies_there():
    body = '<rect width="60" height="30" fill="#d62828"/><rect y="50" x="10" width="40" height="20" fill="#1f57c3"/>'
    (press,) = document_of(body, set_placement("x", from_centre_mm=70.0, width_mm=120.0)).plan.presses
    first, second = (hand for _, hand in hands_of(press))
    assert "strip of paper" not in first.way()
    gap = shapely.distance(first.region, second.region)
    assert f"A strip of paper {gap:.1f}".rstrip("0").rstrip(".") in second.way()
    assert first.piece.name in second.way()
