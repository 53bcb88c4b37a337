"""Layers cut apart, from the proposal to the cards: what is laid is the artwork, and each piece has its card."""

import json
from decimal import Decimal

import numpy as np
import pytest
import shapely

from tests.helpers import document_of, nested, run_command
from zinnet.artwork.lettering.text import TextSpec
from zinnet.artwork.source import TextArt
from zinnet.bench.document import Document
from zinnet.bench.nesting import nest_document
from zinnet.bench.recut import cut_again
from zinnet.data.limits import limits
from zinnet.geometry.region import union
from zinnet.geometry.transform import moved
from zinnet.job.edits import (
    add_size,
    choose_way,
    nest_again,
    propose_ways,
    set_copies,
    set_nesting,
    set_placement,
    set_price,
)
from zinnet.job.keys import set_key
from zinnet.job.model import Design, Job
from zinnet.nesting.model import NestSpec
from zinnet.placement.lay_lengths import laying_of
from zinnet.plan.in_hand import hands_of
from zinnet.plan.ledger import taken_by
from zinnet.plan.nested_ways import nested_way_mm2
from zinnet.plan.nests import TEST_CUT, pin_of
from zinnet.plan.parted import rates_of
from zinnet.plan.press_cards import Hand, quick_cards
from zinnet.plan.run_garments import owners_of, run_presses
from zinnet.pressing.heat_values import press_numbers
from zinnet.pressing.schedule.tasks import team_of
from zinnet.workshop.model import standard_workshop

AMBER, CREAM = "#e9a53a", "#f4ead5"
pytestmark = pytest.mark.usefixtures("nests_here")

PAGE = 'viewBox="0 0 300 300"'
SCATTER = "".join(
    f'<circle cx="{x}" cy="{y}" r="{16 + x % 7}" fill="{AMBER}"/>' for x in (20, 160, 280) for y in (20, 130, 260)
)
CORNERS = (
    f'<rect width="70" height="60" fill="{AMBER}"/><rect x="230" y="240" width="70" height="60" fill="{AMBER}"/>'
    f'<circle cx="150" cy="150" r="60" fill="{CREAM}"/>'
)


def far_apart(*edits):
    return document_of(CORNERS, set_placement("x", width_mm=260.0), *edits, attributes=PAGE)


def test_what_is_far_apart_is_cut_apart_and_laid_where_it_belongs():
    plan = nested(far_apart(set_copies(1))).plan
    garment = plan.garments[0]
    (composed,) = garment.compositions
    amber = next(row for row in composed.layers if row.film.id == "amber")
    assert len(garment.pieces_of(amber)) == 2
    # the chain: every cut piece, laid where its place says, gives the artwork back
    for nest in plan.nests:
        laid = []
        for part in nest.parts:
            matrix = np.linalg.inv(plan.panel_to_cut(part))
            laid.append(moved(part.region, matrix))
        row = nest.parts[0].layer
        whole = moved(row.layer.region, composed.placement.matrix)
        assert shapely.symmetric_difference(union(laid), whole).area < 1e-3


def test_each_piece_has_its_card_its_owner_and_is_cut_again_by_itself():
    plan = nested(far_apart(set_copies(2), choose_way("amber", 0.5))).plan
    (press,) = plan.presses
    hands = [hand for _, hand in hands_of(press)]
    assert len(hands) == 3
    assert len({hand.name for hand in hands}) == 3
    cards = quick_cards(run_presses(plan), team_of(1, 1, 4))
    assert sum(card.hand is not None for card in cards) == 2 * 3
    placed = [
        (one.piece, one.copy_number)
        for nest in plan.nests
        for sheet in nest.layout.sheets
        for one in sheet.placed
        if one.piece != TEST_CUT
    ]
    assert sorted(placed) == sorted(owners_of(plan)), "every piece is for a garment"
    lay = next(
        step for step in press.steps if step.kind == "lay" and any("amber" in k or AMBER in k for k in step.pieces)
    )
    assert lay.base_s >= 2 * press_numbers().hands.lay_s
    amber = next(piece for work in press.works for piece in work.pieces if piece.film.id == "amber")
    for number, region in enumerate(amber.each):
        again = cut_again(plan, press, Hand(amber.key, number))
        assert again.load.mats[0].regions[0].area == pytest.approx(region.area)


def test_the_proposal_costs_what_the_ways_say_and_saves_what_it_must():
    plan = far_apart(set_copies(1)).plan
    rules = limits()["cut_apart"]
    for one in plan.ways:
        assert one.ways[0].share is None
        assert [way.pieces for way in one.ways] == sorted({way.pieces for way in one.ways})
        if one.chosen:
            assert one.way.cost <= (1 - rules["saved_share"]) * one.ways[0].cost
    # time that costs a fortune keeps everything whole; film that costs nothing does too
    dear = far_apart(set_copies(1), set_price("hour", hour=500)).plan
    assert all(one.chosen == 0 for one in dear.ways)


def test_a_single_small_garment_stays_whole():
    small = document_of(CORNERS, set_placement("x", width_mm=90.0), set_copies(1), attributes=PAGE).plan
    assert small.garments[0].apart == ()
    many = document_of(CORNERS, set_placement("x", width_mm=90.0), set_copies(40), attributes=PAGE).plan
    assert all(len(one.ways) > 1 for one in many.ways if one.film.id == "amber"), "of many it may pay"


def test_the_reckoned_film_is_about_what_a_nest_takes():
    plan = far_apart(set_copies(1)).plan
    for one in plan.ways:
        for way in one.ways:
            real = nested_way_mm2(plan, one.film.id, way, 0.4)
            assert real <= way.film_mm2 * 1.02, "the nest begins with what was reckoned"


def test_a_chosen_way_holds_until_it_is_proposed_again():
    document = far_apart(set_copies(1))
    document.apply(choose_way("amber", None))
    assert document.plan.garments[0].apart == ()
    document.apply(propose_ways())
    assert document.plan.garments[0].apart != ()
    document.apply(set_nesting("whole", cut_apart="whole"))
    assert document.plan.garments[0].apart == ()


def test_all_sizes_are_parted_alike():
    plan = far_apart(set_copies(1), add_size("youth-m", 1), choose_way("amber", 0.5)).plan
    pieces = [
        len(garment.pieces_of(row))
        for garment in plan.garments
        for composed in garment.same
        for row in composed.layers
        if row.film.id == "amber"
    ]
    assert pieces == [2, 2]


def test_words_of_a_text_stay_on_their_line():
    text = TextArt(text=TextSpec(text="W A L K\nN I G H T", colour=AMBER, letter_spacing=1.5))
    job = Job(title="x", designs=(Design(source=text),), nesting=NestSpec(cut_apart="proposed"))
    plan = Document(standard_workshop(), job).plan
    (composed,) = plan.garments[0].same
    (row,) = composed.layers
    for piece in plan.garments[0].pieces_of(row):
        boxes = [row.layer.region.geoms[part].bounds for part in piece]
        lines = {round((box[1] + box[3]) / 2 / composed.placement.height_mm) for box in boxes}
        rest = [k for k in range(len(row.layer.region.geoms)) if k not in piece]
        others = {round(sum(row.layer.region.geoms[k].bounds[1::2]) / 2 / composed.placement.height_mm) for k in rest}
        assert not lines & others


def test_the_keys_set_it_also_as_job_files_name_it_and_old_files_are_read():
    job = Job()
    assert set_key(job, "nesting.cut_apart", "whole").change(job).nesting.cut_apart == "whole"
    assert set_key(job, "nest.cut-apart", "parts").change(job).nesting.cut_apart == "parts"
    assert NestSpec.model_validate({"keep_together": False}).cut_apart == "parts"
    assert NestSpec.model_validate({"keep_together": True}).cut_apart == "whole"


def test_pieces_lie_within_half_a_millimetre_by_their_cards():
    (press,) = far_apart(set_copies(1)).plan.presses
    for work in press.works:
        for piece in work.pieces:
            for region in piece.each:
                assert laying_of(region, work.panel, None).error_mm <= 0.5


def test_what_is_proposed_passes_its_own_findings():
    plan = nested(document_of(SCATTER, set_placement("x", width_mm=240.0), set_copies(1), attributes=PAGE)).plan
    assert plan.garments[0].apart
    assert not {"loose-pieces", "carrier-overlap"} & {one.id for one in plan.findings}


def test_the_commands_say_the_ways_and_set_them(tmp_path):
    path = tmp_path / "job.zinnet"
    far_apart(set_copies(1)).save(path)
    said = json.loads(run_command("ask", "ways", path, "--json").stdout)
    assert {row["film"] for row in said} == {"amber", "cream"}
    words = run_command("ask", "ways", path).stdout
    assert words.count("*") == len(said)
    assert run_command("job", "set", path, "nesting.cut_apart=whole").returncode == 0
    said = json.loads(run_command("ask", "ways", path, "--json").stdout)
    assert all(row["chosen"] == 0 for row in said)
    assert run_command("ask", "rescues", path).returncode == 0


def close_call():
    """Return a job whose amber saves so little by being cut apart that a nest has the last word."""
    document = far_apart(set_copies(2))
    (amber,) = [one for one in document.plan.ways if one.film.id == "amber"]
    hour = document.workshop.prices.hour
    for _ in range(60):
        ratio = amber.way.cost / amber.ways[0].cost
        if amber.chosen and ratio > 0.75:
            return document, amber
        hour *= Decimal("1.15")
        document.apply(set_price("hour", hour=hour))
        (amber,) = [one for one in document.plan.ways if one.film.id == "amber"]
    raise AssertionError("no rate makes it close")


def film_of(plan, nest):
    return taken_by(nest.task, nest.layout) / 1e6 * rates_of(plan.job, plan.workshop).film(nest.film.id)


def test_a_close_call_is_nested_both_ways_and_the_cheaper_one_holds():
    document, amber = close_call()
    assert {len(nest.parts) for nest in document.plan.trials} == {1, 2}
    nest_document(document, steps=2)
    plan = document.plan
    cost = {}
    for nest in plan.trials:
        way = amber.ways[0] if len(nest.parts) == 1 else amber.way
        cost[len(nest.parts)] = film_of(plan, nest) + way.seconds / 3600 * float(plan.job.price.hour)
    (used,) = [nest for nest in plan.nests if nest.film.id == "amber"]
    assert len(used.parts) == (2 if cost[2] <= 0.9 * cost[1] else 1)


def test_a_close_call_goes_back_to_whole_where_the_nest_is_no_better():
    document, _ = close_call()
    nest_document(document, steps=2)
    (apart,) = [nest for nest in document.plan.trials if len(nest.parts) == 2]
    spread = apart.layout.model_copy(
        update={
            "sheets": tuple(one.model_copy(update={"used_length_mm": 280.0}) for one in apart.layout.sheets),
        }
    )
    document.keep_layout(apart.key, spread)
    assert document.plan.garments[0].apart == ()
    assert document.plan.is_nested
    (amber,) = [one for one in document.plan.ways if one.film.id == "amber"]
    assert (amber.proposed, amber.chosen) == (0, 0)
    # pieces held by hand change nothing of what was decided, and a way that is chosen is never tried
    pin = pin_of(document.plan.mats[0], document.plan.mats[0].layout.placed[0], held=True)
    document.apply(nest_again([pin]))
    assert document.plan.garments[0].apart == ()
    document.apply(choose_way("amber", 0.5))
    assert document.plan.trials == ()
    assert document.plan.garments[0].apart != ()


def test_what_was_tried_is_kept_in_the_job_file(tmp_path):
    document, _ = close_call()
    nest_document(document, steps=2)
    document.save(tmp_path / "close.zinnet")
    again = Document.open(tmp_path / "close.zinnet", document.workshop)
    assert again.plan.is_nested
    assert all(nest.layout is not None for nest in again.plan.to_nest)
    assert [one.chosen for one in again.plan.ways] == [one.chosen for one in document.plan.ways]
