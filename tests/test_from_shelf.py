"""A job cut from the shelf: its mats, trim list, use of film, findings, answers, and its books."""

import itertools
import json
from dataclasses import replace

import numpy as np
import pytest
import shapely

from tests.helpers import document_of, narrow_nest, nested, svg, times
from zinnet import cli
from zinnet.artwork.lettering.text import TextSpec
from zinnet.artwork.source import TextArt
from zinnet.base.errors import NestError, ZinnetError
from zinnet.bench import answers as in_words
from zinnet.bench.document import Document
from zinnet.bench.nesting import nest_document
from zinnet.films.catalogue import CutSide
from zinnet.geometry.region import as_region
from zinnet.job.edits import (
    add_design,
    choose_film,
    move_pieces,
    nest_again,
    record_cut,
    set_copies,
    set_nesting,
    set_placement,
    set_sizes,
    take_back_cut,
)
from zinnet.job.model import Design, FamilyMember, Job
from zinnet.job.names.model import NameList, NameRow
from zinnet.machines.cutters import room, shipped_machines
from zinnet.nesting import questions
from zinnet.nesting.model import Layout, SheetLayout, rank
from zinnet.nesting.questions import always, scaled
from zinnet.output.plan_json import plan_json
from zinnet.placement.place import PlacementSpec
from zinnet.plan.cut_parts import cut_requests
from zinnet.plan.ledger import film_ledger
from zinnet.plan.nests import TEST_CUT, film_nests, held_pins, lay_out, nested_mats, pin_of
from zinnet.plan.trims import trim_list
from zinnet.shop import questions as job_questions
from zinnet.shop.costing import Costing
from zinnet.shop.film_need import missing
from zinnet.shop.ordered import Ordered
from zinnet.shop.questions import (
    films_that_do,
    largest_for,
    mats_that_do,
    more_garments,
    scraps_that_do,
)
from zinnet.workshop.model import standard_workshop
from zinnet.workshop.price_list import usual_prices
from zinnet.workshop.stock import Stock, StockItem
from zinnet.workshop.store import WorkshopStore

BOX = '<rect width="80" height="60" fill="#f4ead5"/>'
RING = '<path fill="#f4ead5" fill-rule="evenodd" d="M0 0H100V100H0Z M20 20H80V80H20Z"/>'
HOLE = shapely.Point(80, 70).buffer(40)


def stock(*items):
    return tuple(
        StockItem(**{"film": "cream", "width_mm": 305.0, "length_mm": 900.0, "kind": "roll", "number": k, **fields})
        for k, fields in enumerate(items, start=1)
    )


SCRAP = {
    "kind": "scrap",
    "width_mm": 150.0,
    "length_mm": 280.0,
    "outline": as_region(shapely.box(0, 0, 280, 150).difference(HOLE)),
    "price_m2": 20.0,
}
ROLL = {"price_m2": 20.0, "place": "tube A"}
BY_TIME = set_nesting("x", steps=None)
"""A question is answered by many short searches, each of which ends by the clock whatever it found."""


@pytest.fixture
def short_trials(monkeypatch):
    """Look for less long than a user would."""
    for module in (job_questions, questions):
        monkeypatch.setattr(module, "TRIAL_S", 0.12)
    monkeypatch.setattr(questions, "LAST_S", 0.12)


def on_shelf(items, *edits, body=BOX, width=60.0, copies=4):
    document = document_of(
        body, set_placement("x", width_mm=width), set_copies(copies), set_nesting("x", from_shelf=True, steps=1), *edits
    )
    document.use_workshop(document.workshop.model_copy(update={"stock": items}))
    return document


def ids(document):
    return [finding.id for finding in document.plan.findings]


def test_scraps_are_used_first_and_the_trim_list_says_what_to_take():
    document = on_shelf(stock(SCRAP, ROLL), copies=12)
    nest_document(document, steps=4)
    plan = document.plan
    assert plan.mats[0].item.kind == "scrap"
    whole = [trim for trim in plan.trims if trim.whole]
    assert [trim.source for trim in whole] == ["scrap 1"]
    cut = [trim for trim in plan.trims if not trim.whole]
    assert all(trim.source == "roll 2, tube A" for trim in cut)
    for trim, mat in zip(plan.trims, plan.mats, strict=True):
        assert trim.size[0] >= mat.layout.used_length_mm - 0.001
        assert "carrier down" in trim.side_down
    assert plan.trims[0].new_settings
    assert not {"film-short", "no-spare", "on-test-cut"} & set(ids(document))


def test_lengths_cut_off_one_roll_follow_one_another():
    document = nested(on_shelf(stock(ROLL), width=200.0, copies=4))
    boxes = [trim.box for trim in document.plan.trims]
    assert len(boxes) > 1
    for one, following in itertools.pairwise(boxes):
        assert following[0] == pytest.approx(one[2])
    assert boxes[-1][2] <= 900.0


def test_the_use_of_film_adds_up_in_area_and_money():
    use = film_ledger(nested(on_shelf(stock(SCRAP, ROLL), copies=10)).plan)
    (film,) = use.films
    assert film.taken_mm2 == pytest.approx(film.on_garments_mm2 + film.kept_mm2 + film.lost_mm2)
    assert film.on_garments_mm2 == pytest.approx(10 * 60 * 45, rel=1e-6)
    assert film.used_up == ((20.0, pytest.approx(film.used_up_mm2)),)
    assert use.garments == 10
    plain = film_ledger(nested(document_of(BOX, set_copies(3))).plan)
    assert plain.films[0].used_up == ((None, pytest.approx(plain.taken_mm2)),), "nothing of it goes on the shelf"
    assert plain.rows_mm2 >= plain.taken_mm2 - 1e-6


def test_spares_a_test_cut_and_frames_are_nested_too():
    document = nested(
        on_shelf(stock(ROLL), set_nesting("x", spare=2, test_cut=True, weed_frame="piece"), copies=3), 0.8
    )
    (nest,) = document.plan.nests
    counts = {piece.name: piece.copies for piece in nest.task.pieces}
    assert counts == {"layer-1": 5, TEST_CUT: 1}
    spots = [mat.test_spot for mat in document.plan.mats if mat.test_spot is not None]
    assert len(spots) == 1
    assert spots[0].area == pytest.approx(room().test_cut_mm ** 2)
    for load in document.plan.loads:
        (mat,) = load.mats
        assert TEST_CUT not in [one.piece for one in mat.layout.placed]
        assert [path.kind for path in load.cut_sheet().paths].count("frame") == len(mat.layout.placed)
        assert load.cut_sheet().paths[-1].kind == "frame"
        for region, around in zip(mat.regions, mat.rooms, strict=True):
            assert around.covers(region)


def test_one_frame_around_all_pieces_stays_inside_the_margin():
    document = nested(on_shelf(stock(ROLL), set_nesting("x", weed_frame="mat"), copies=6))
    for load in document.plan.loads:
        (mat,) = load.mats
        frame = mat.frame()
        assert all(frame.covers(region) for region in mat.rooms)
        margin = room().edge_mm
        inside = shapely.box(margin, margin, mat.sheet.width_mm - margin, mat.sheet.height_mm - margin)
        assert inside.buffer(1e-6).covers(frame)
        assert [path.kind for path in load.cut_sheet().paths].count("frame") == 1


def test_film_with_a_direction_lies_along_the_shelfs_film():
    items = stock({"film": "moss-flock"}, {**SCRAP, "film": "moss-flock"})
    document = on_shelf(items, choose_film("#f4ead5", "moss-flock"))
    plan = nested(document).plan
    turns = {one.turn_deg for mat in plan.mats for one in mat.layout.placed}
    assert turns == {90.0}
    assert "against-nap" not in ids(document)


def test_too_little_film_is_a_stop_with_what_is_missing_and_no_film_says_so():
    document = nested(on_shelf(stock({"length_mm": 120.0}), copies=20))
    assert "film-short" in ids(document)
    (row,) = missing(document.plan)
    assert row.pieces == len(document.plan.nests[0].layout.unplaced)
    assert row.missing_mm > 40
    empty = on_shelf(())
    finding = next(one for one in empty.plan.findings if one.id == "film-short")
    assert "no Cream" in finding.limit or "no cream" in finding.limit.casefold()
    assert finding.mend is None, "where there is no film, cutting from mats that are full is no mend"


def test_the_nearest_film_of_which_there_is_enough_mends_it():
    document = on_shelf(stock({"length_mm": 60.0, "width_mm": 60.0}, {"film": "mint"}), copies=6)
    nested(document)
    finding = next(one for one in document.plan.findings if one.id == "film-short")
    document.apply(finding.mend)
    nested(document)
    assert document.plan.nests[0].film.id == "mint"
    assert "film-short" not in ids(document)


def test_a_job_that_was_cut_keeps_its_plan_whatever_happens_to_the_shelf():
    document = nested(on_shelf(stock(SCRAP, ROLL)))
    mats = document.plan.mats
    document.apply(record_cut(1, document.plan.shelf))
    document.use_workshop(document.workshop.model_copy(update={"stock": ()}))
    assert [mat.layout for mat in document.plan.mats] == [mat.layout for mat in mats]
    document.apply(take_back_cut())
    assert "film-short" in ids(document)


def test_pieces_moved_by_hand_are_judged_at_once_and_held_ones_stay():
    document = nested(document_of(BOX, set_placement("x", width_mm=60.0), set_copies(5)))
    mat = document.plan.mats[0]
    first, second = mat.layout.placed[:2]
    onto = second.model_copy(update={"piece": first.piece, "copy_number": first.copy_number})
    document.apply(move_pieces("move", [pin_of(mat, onto, held=True)]))
    assert "pieces-overlap" in ids(document)
    document.undo()
    assert not {"pieces-overlap", "pieces-too-close"} & set(ids(document))
    free = first.model_copy(update={"x_mm": 200.0, "y_mm": 200.0, "turn_deg": 0.0})
    document.apply(move_pieces("move", [pin_of(mat, free, held=True)]))
    assert not {"pieces-overlap", "pieces-too-close", "off-sheet"} & set(ids(document))
    document.apply(nest_again(held_pins(document.plan.mats, document.plan.job.nesting)))
    nested(document)
    lying = {one.copy_number: one for one in document.plan.mats[0].layout.placed}
    assert lying[first.copy_number] == free
    assert [pin.copy_number for pin in held_pins(document.plan.mats, document.plan.job.nesting)] == [first.copy_number]
    assert len(lying) == 5


def test_by_hand_survives_saving(tmp_path):
    document = nested(document_of(BOX, set_placement("x", width_mm=60.0), set_copies(3)))
    mat = document.plan.mats[0]
    put = mat.layout.placed[0].model_copy(update={"x_mm": 180.0, "y_mm": 150.0})
    document.apply(move_pieces("move", [pin_of(mat, put, held=False)]))
    document.save(tmp_path / "hand.zinnet")
    again = Document.open(tmp_path / "hand.zinnet", document.workshop)
    assert put in again.plan.mats[0].layout.placed


@pytest.mark.usefixtures("nests_here")
def test_questions_about_a_job():
    plan = nested(on_shelf(stock(SCRAP, {**ROLL, "length_mm": 300.0}, {"film": "mint"}), copies=4)).plan
    (scrap,) = scraps_that_do(plan)
    assert (scrap.item.number, scrap.wanted) == (1, 4)
    assert scrap.holds == 4
    rows = list(films_that_do(plan))
    assert rows[0].film.id == "cream"
    assert rows[0].difference < rows[1].difference
    assert all(one.enough for one in rows)
    mats = {one.name: one for one in mats_that_do(plan, goes_on=times(3))}
    assert mats["12x12in"].fits
    assert mats["12x12in"].cost == pytest.approx(mats["12x12in"].taken_mm2 * 20e-6)


def test_how_many_more_and_how_large_lie_between_boxes_and_the_film_whatever_is_found(short_trials):
    plan = nested(on_shelf(stock(SCRAP, {**ROLL, "length_mm": 300.0}), BY_TIME, copies=4)).plan
    (row,) = more_garments(plan)
    film = sum(item.area_mm2 for item in plan.shelf)
    assert 10 <= row.more <= film / (60 * 45) - 4
    assert 1.0 <= largest_for(plan, goes_on=times(40)).factor ** 2 <= film / (4 * 60 * 45)


def test_plan_json_says_where_each_mats_film_is_from():
    plan = nested(on_shelf(stock(SCRAP, ROLL), copies=10)).plan
    data = plan_json(plan)
    assert data["mats"][0]["from"] == 1
    assert data["trims"][0]["source"] == "scrap 1"
    assert data["film_use"]["garments"] == 10
    assert json.loads(json.dumps(data))["film_use"]["films"][0]["film"] == "cream"


@pytest.fixture
def run(monkeypatch, capsys):
    """Return what runs the command line in this process, and gives its exit code, output and errors."""

    def call(*arguments):
        monkeypatch.setattr("sys.argv", ["zinnet", *arguments])
        try:
            cli.main()
            code = 0
        except SystemExit as end:
            code = end.code or 0
        captured = capsys.readouterr()
        return code, captured.out, captured.err

    return call


@pytest.fixture
def job_file(tmp_path):
    Stock(WorkshopStore()).add(stock(SCRAP, ROLL))
    document = nested(on_shelf(stock(SCRAP, ROLL), copies=6))
    document.save(tmp_path / "walk.zinnet")
    return tmp_path / "walk.zinnet"


def test_the_command_line_cuts_undoes_and_confirms(run, job_file):
    code, out, _ = run("stock", "cut", str(job_file), "--keep", "as-it-is")
    assert (code, out.strip()) == (0, "1")
    assert run("stock", "cuts")[1].split()[0] == "1"
    assert run("stock", "undo", "1")[0] == 0
    assert run("stock", "cuts")[1] == ""
    assert run("stock", "confirm", "1")[0] == 2
    assert run("stock", "cut", str(job_file), "--keep", "all")[0] == 2


def test_the_command_line_answers_questions(run, job_file, tmp_path, short_trials):
    code, out, _ = run("ask", "rectangles", "7.2x5in", "--on", "9.5x132in", "--json")
    assert code == 0
    counts = json.loads(out)
    assert (counts["long_along"], counts["short_along"]) == (18, 26)
    assert "18 with the long side" in run("ask", "rectangles", "7.2x5in", "--on", "9.5x132in")[1]
    code, out, _ = run("ask", "scraps", str(job_file), "--json")
    assert json.loads(out)[0]["scrap"] == 1
    assert "Cream" in run("ask", "films", str(job_file))[1]
    pieces = tmp_path / "pieces.svg"
    pieces.write_bytes(svg("<rect width='40' height='20'/>", "width='40mm' viewBox='0 0 40 20'"))
    code, out, _ = run("ask", "largest", str(pieces), "--count", "4", "--sheet", "100x50mm", "--json")
    assert json.loads(out)["width_mm"] == pytest.approx(50, abs=0.01)
    assert run("ask", "how-many", str(pieces), "--sheet", "100x50mm")[1].strip() == "5 fit"
    assert (
        "mm of the roll"
        in run("ask", "missing", str(pieces), "--copies", "9", "--roll", "60x80mm", "--seconds", "1")[1]
    )
    assert run("ask", "how-many", str(pieces))[0] == 2
    assert run("ask", "rectangles", "axb", "--on", "3x4in")[0] == 2


def test_films_of_one_setting_share_a_mat_without_touching_and_are_cut_where_they_are_stuck():
    small = {"kind": "scrap", "width_mm": 90.0, "length_mm": 100.0}
    document = nested(
        on_shelf(stock(small, small, small, ROLL), set_nesting("x", share_mats=True), copies=6, width=80.0), 0.8
    )
    trims, bed = document.plan.trims, shipped_machines().mat("12x12in")
    assert len({trim.load for trim in trims}) < len(trims)
    boxes = {}
    for trim in trims:
        left, top = trim.stuck_at
        assert left + trim.size[0] <= bed.width_mm + 0.01
        assert top + trim.size[1] <= bed.height_mm + 0.01
        boxes.setdefault(trim.load, []).append(shapely.box(left, top, left + trim.size[0], top + trim.size[1]))
    for together in boxes.values():
        for one, other in itertools.combinations(together, 2):
            assert one.distance(other) >= 5.0 - 1e-6
    trim = next(trim for trim in trims if trim.stuck_at[0] > 50)
    load = next(load for load in document.plan.loads if trim in load.trims)
    assert load.size == (bed.width_mm, bed.height_mm)
    (first, *_) = trim.mat.layout.placed
    own = [path for path in load.cut_sheet().paths if path.piece == f"{first.piece}-copy-{first.copy_number}"]
    cut = shapely.union_all([shapely.Polygon(path.points) for path in own]).bounds
    assert np.array(cut) - trim.mat.regions[0].bounds == pytest.approx(np.tile(trim.stuck_at, 2), abs=0.05)
    assert set(load.cut_sheet().films) == {one.mat.nest.film.id for one in load.trims}
    alone = trim_list(document.plan.mats)
    assert len({trim.load for trim in alone}) == len(alone)


def test_without_any_film_every_question_has_an_answer_in_words(monkeypatch):
    plan = on_shelf(()).plan
    for question in (in_words.more, in_words.scraps, in_words.films):
        assert question(plan, always, "mm").said.startswith("There is no")
    with pytest.raises(NestError, match="no film"):
        in_words.largest(plan, always, "mm")


@pytest.mark.usefixtures("nests_here")
def test_answers_are_sentences_with_numbers(short_trials):
    scrap = {**SCRAP, "length_mm": 100.0, "width_mm": 90.0, "outline": None}
    document = nested(on_shelf(stock(scrap), BY_TIME, copies=9))
    assert "of a roll" in in_words.missing_film(document.plan, always, "mm").said
    assert "holds 1 of 9 pieces" in in_words.scraps(document.plan, always, "mm").said
    assert "too little" in in_words.films(document.plan, always, "in").said


def test_every_edit_of_the_nest_is_kept_in_the_job_and_undone():
    document = nested(document_of(BOX, set_placement("x", width_mm=60.0), set_copies(3)))
    first = document.job
    for fields in ({"turns": "any"}, {"share_mats": True}, {"aims": ("film", "scraps", "loads", "rest")}, {"spare": 4}):
        document.apply(set_nesting("x", **fields))
        (name, value), *_ = fields.items()
        assert getattr(document.job.nesting, name) == value
        document.undo()
        assert document.job == first
    with pytest.raises(ZinnetError, match="each once"):
        document.apply(set_nesting("x", aims=("film", "film", "loads", "rest")))


def test_another_aim_is_another_nest_and_few_loads_may_come_before_scraps():
    spec = set_nesting("x", aims=("loads", "scraps", "film", "rest"))
    usual, loads = on_shelf(stock(SCRAP, ROLL)), on_shelf(stock(SCRAP, ROLL), spec)
    assert usual.plan.nests[0].key != loads.plan.nests[0].key
    task = loads.plan.nests[0].task
    one = Layout(sheets=(SheetLayout(placed=(), used_length_mm=200.0, sheet=1),))
    two = Layout(sheets=tuple(SheetLayout(placed=(), used_length_mm=100.0, sheet=k) for k in (0, 1)))
    assert rank(task, one) < rank(task, two)
    assert rank(usual.plan.nests[0].task, two) < rank(usual.plan.nests[0].task, one)


def both_sides(*items, copies=2):
    """Return what is nested where one film is cut as drawn for one design and mirrored for another, and the job."""
    body = '<rect width="60" height="60" fill="#d62828"/>'
    document = document_of(body, choose_film("#d62828", "white-adhesive"), set_copies(copies))
    for edit in (
        add_design("again.svg", svg(body), "full-back"),
        *(set_placement("x", design=number, width_mm=120.0) for number in (0, 1)),
        set_nesting("x", from_shelf=True, test_cut=False),
    ):
        document.apply(edit)
    requests = list(cut_requests(document.plan.garments, (), False))
    through_glass = CutSide(mirrored=True, reason="seen through the glass")
    requests[1] = replace(requests[1], layers=tuple(replace(layer, side=through_glass) for layer in requests[1].layers))
    bed = document.workshop.machines.mat("12x12in")
    return film_nests(tuple(requests), (), document.job.nesting, True, bed, stock(*items)), document.job.nesting


def nested_in_turn(nests, spec):
    layouts = {}
    rows = lay_out(nests, layouts, spec)
    while waiting := [nest for nest in rows if nest.layout is None and not nest.waits]:
        layouts |= {nest.key: narrow_nest(nest.task) for nest in waiting}
        rows = lay_out(nests, layouts, spec)
    return rows


def test_a_sheet_is_given_out_once_though_its_film_is_cut_from_both_sides():
    nests, spec = both_sides({"film": "white-adhesive", "kind": "sheet", "length_mm": 290.0, "width_mm": 150.0})
    assert [nest.mirrored for nest in nests] == [False, True]
    assert [nest.waits for nest in lay_out(nests, {}, spec)] == [False, True]
    first, second = nested_in_turn(nests, spec)
    assert first.layout.unplaced == ()
    assert len(second.layout.unplaced) == 2
    assert [mat.item.number for mat in nested_mats((first, second))] == [1]


def test_the_loads_of_a_roll_are_divided_between_the_sides_of_its_film():
    nests, spec = both_sides({"film": "white-adhesive", "length_mm": 700.0, "width_mm": 150.0})
    rows = nested_in_turn(nests, spec)
    assert all(nest.layout.unplaced == () for nest in rows)
    boxes = [trim.box for trim in trim_list(nested_mats(rows))]
    assert boxes[0][2] <= boxes[1][0] + 1e-6


@pytest.mark.usefixtures("nests_here")
def test_an_order_counts_film_of_the_shelf_once_for_both_sides():
    nests, spec = both_sides({"film": "white-adhesive", "kind": "sheet", "length_mm": 290.0, "width_mm": 150.0})
    rows = nested_in_turn(nests, spec)
    document = on_shelf(stock({"film": "white-adhesive", "kind": "sheet", "length_mm": 290.0, "width_mm": 150.0}))
    mats = nested_mats(rows)
    facts = replace(document.plan, nests=rows, mats=mats, trims=trim_list(mats))
    (film,) = Ordered(Costing(facts, usual_prices())).films
    assert film.there_mm2 == pytest.approx(290 * 150)
    assert film.missing_mm > 0


SHEET = {"kind": "sheet", "length_mm": 290.0, "width_mm": 250.0}
"""A sheet and boxes on it: how many it holds is counted, not searched."""


def on_sheet(*edits, copies):
    return nested(on_shelf(stock(SHEET), set_nesting("x", test_cut=False), *edits, copies=copies))


def test_five_and_five_of_two_sizes_ask_for_as_many_more_as_ten_of_one():
    (one,) = more_garments(on_sheet(copies=10).plan, goes_on=times(0))
    (two,) = more_garments(on_sheet(set_sizes((("adult-l", 5),)), same_width(60.0), copies=5).plan, goes_on=times(0))
    assert one.more == two.more > 5


def test_a_spare_copy_is_kept_once_and_not_for_every_garment():
    (plain,) = more_garments(on_sheet(copies=4).plan, goes_on=times(0))
    (spare,) = more_garments(on_sheet(set_nesting("x", spare=1), copies=4).plan, goes_on=times(0))
    assert spare.more == plain.more - 1 > 10


def test_the_test_cut_stays_as_large_as_it_is_when_the_designs_grow(short_trials):
    tested = on_sheet(set_nesting("x", test_cut=True), copies=6).plan
    factor = largest_for(tested, goes_on=times(12)).factor
    film = sum(item.area_mm2 for item in tested.shelf)
    assert 1 < factor**2 <= film / (6 * 60 * 45)
    (task,) = [nest.task for nest in tested.nests]
    enlarged = {piece.name: piece.region.area for piece in scaled(task, factor, (TEST_CUT,)).pieces}
    before = {piece.name: piece.region.area for piece in task.pieces}
    assert enlarged.pop(TEST_CUT) == before.pop(TEST_CUT)
    assert all(area == pytest.approx(before[name] * factor**2) for name, area in enlarged.items())


@pytest.mark.usefixtures("nests_here")
def test_an_answer_is_carried_out_as_a_whole_job_or_not_at_all(short_trials):
    document = on_sheet(set_sizes((("adult-l", 5),)), same_width(60.0), copies=5)
    answer = in_words.more(document.plan, always, "mm")
    (more,) = answer.offers
    count = more_garments(document.plan)[0].more
    assert f"{count} more garments on the shelf" in answer.said
    assert "surely goes" in answer.said
    found = in_words.carried_out(document.plan, more, usual_prices())
    copies = [garment.copies for garment in found.plan.garments]
    assert sum(copies) == 10 + count
    assert abs(copies[0] - copies[1]) <= 1, "as many of one size as of the other"
    assert not any(nest.layout.unplaced for nest in found.plan.nests)
    too_many = in_words._made_more(document.plan, 60)
    assert in_words.carried_out(document.plan, too_many, usual_prices()) is None


@pytest.mark.usefixtures("nests_here")
def test_designs_as_large_as_was_answered_have_room(short_trials):
    document = on_sheet(copies=6)
    (larger,) = in_words.largest(document.plan, always, "mm").offers
    found = in_words.carried_out(document.plan, larger, usual_prices())
    width = found.plan.garments[0].designs[0].placement.width_mm
    assert width > 60.0
    assert f"{width:g} mm" in larger.edit.name


def test_with_no_garment_of_a_size_nothing_more_is_counted_of_it():
    names = NameList(columns=("name",), rows=(NameRow(values=("Ada",), size="youth-m"),))
    text = Design(source=TextArt(text=TextSpec(text="{name}")))
    box = Design.of("box.svg", svg(BOX), PlacementSpec(place="full-back"))
    job = Job(designs=(text, box), names=names, family=(FamilyMember(size="youth-m"),))
    document = nested(Document(standard_workshop(), job))
    assert [garment.copies for garment in document.plan.garments] == [0, 1]
    assert more_garments(document.plan, goes_on=times(0))


def same_width(width_mm):
    return set_placement("x", width_mm=width_mm, size="adult-l")
