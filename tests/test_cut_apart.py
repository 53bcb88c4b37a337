"""Cutting apart: each piece once, with its owner and a trim that touches no neighbour; and the bench that leads it."""

import json
from collections import Counter
from itertools import combinations

import pytest
import shapely

from tests.helpers import nested, run_command
from tests.names.test_on_motif import document as names_on_motif  # noqa: F401 - a fixture
from zinnet.demo import demo_document
from zinnet.job.file import save_job
from zinnet.nesting.sheet import film_of
from zinnet.plan.cut_apart import mats_apart
from zinnet.plan.press_cards import quick_cards
from zinnet.plan.run_garments import owners_of, run_presses
from zinnet.pressing.schedule.tasks import team_of


@pytest.mark.parametrize("name", ["stewards", "names", "tees"])
def test_each_piece_is_there_once_and_its_trim_touches_no_other_film(name):
    plan = nested(demo_document(name=name)).plan
    mats = mats_apart(plan)
    assert sum(len(mat.pieces) for mat in mats) == sum(len(mat.layout.placed) for mat in plan.mats)
    for mat in mats:
        width, height = mat.load.size
        for piece in mat.pieces:
            trim = shapely.box(*piece.trim)
            assert shapely.covers(shapely.buffer(trim, 1e-6), piece.region)
            assert piece.trim[0] > -1e-6
            assert piece.trim[2] < max(width, height) + 1e-6
            left, top, right, bottom = piece.region.bounds
            assert piece.size_mm[0] == pytest.approx(right - left + piece.margins_mm[0] + piece.margins_mm[2])
            assert piece.size_mm[1] == pytest.approx(bottom - top + piece.margins_mm[1] + piece.margins_mm[3])
        for one, other in combinations(mat.pieces, 2):
            crosses = shapely.intersection(shapely.box(*one.trim), shapely.box(*other.trim)).area > 1e-6
            assert not crosses or (one.tangled and other.tangled) or _boxes_overlap(one, other)


def _boxes_overlap(one, other):
    return shapely.intersects(shapely.box(*one.region.bounds), shapely.box(*other.region.bounds))


def test_every_garment_gets_all_its_pieces_and_the_numbers_are_those_of_the_bench(names_on_motif):  # noqa: F811
    plan = names_on_motif.plan
    presses = run_presses(plan)
    cards = quick_cards(presses, team_of(1, 1, 4))
    called = {card.number: card.garment for card in cards if not card.is_for_all}
    owners = owners_of(plan)
    assert {owner.number: owner.name for owner in owners.values()} == called
    rows = [press for _, press in presses for _ in range(press.garment.copies)]
    wanted = Counter(
        (number, piece.film.name)
        for number, press in enumerate(rows, start=1)
        for work in press.works
        for piece in work.pieces
        for _ in piece.each
    )
    found = Counter(
        (piece.owner.number, piece.film.name) for mat in mats_apart(plan) for piece in mat.pieces if piece.owner
    )
    assert found == wanted
    for mat in mats_apart(plan):
        for piece in mat.pieces:
            assert piece.mark == f"No. {piece.owner.number}"


def test_the_films_own_edge_is_told_from_a_trim():
    plan = nested(demo_document(name="stewards")).plan
    for mat in mats_apart(plan):
        for on_mat, loaded in zip(mat.load.trims, mat.load.mats, strict=True):
            by = mat.load.stuck_at(on_mat)
            film = film_of(loaded.sheet).bounds
            edges = (film[0] + by[0], film[1] + by[1], film[2] + by[0], film[3] + by[1])
            for piece in mat.pieces:
                for side in range(4):
                    near = abs(piece.trim[side] - edges[side]) < 0.11
                    assert piece.own_edges[side] == near


def test_the_command_line_says_the_same_and_cuts_a_piece_again(tmp_path):
    job = tmp_path / "a.zinnet"
    document = nested(demo_document(name="names"))
    save_job(job, document.job, document.plan.layouts)
    said = json.loads(run_command("apart", str(job), "--json").stdout)
    mats = mats_apart(document.plan)
    assert [len(one["pieces"]) for one in said] == [len(mat.pieces) for mat in mats]
    assert said[0]["pieces"][0]["garment"] == mats[0].pieces[0].owner.number
    assert f"No. {mats[0].pieces[0].owner.number}" in run_command("apart", str(job)).stdout
    found = run_command("recut", str(job), "--number", "2", "--out", str(tmp_path / "out"))
    assert found.returncode == 0
    assert {path.suffix for path in (tmp_path / "out").iterdir()} == {".svg", ".plt"}
    wrong = run_command("recut", str(job), "--number", "99", "--out", str(tmp_path / "out"))
    assert wrong.returncode != 0
    assert "no garments 99" in wrong.stderr + wrong.stdout
