"""What goes with what is there already: each offer is a whole job, and what is cut already is not cut again."""

import json

import pytest
import shapely

from tests.helpers import document_of, nested, run_command
from zinnet.bench.already import cut_in, hidden, on_cloth, pressed_first
from zinnet.bench.answers import carried_out
from zinnet.films.colours import contrast
from zinnet.geometry.transform import moved
from zinnet.job.edits import set_blank_colour, set_copies, set_placement
from zinnet.plan.ledger import film_ledger
from zinnet.workshop.price_list import usual_prices
from zinnet.workshop.stock import StockItem

BODY = (
    '<rect width="60" height="40" fill="#e9a53a"/><circle cx="90" cy="20" r="18" fill="#f4ead5"/>'
    '<circle cx="90" cy="20" r="9" fill="#e9a53a"/>'
)
FILMS = ("amber", "cream", "navy", "mint", "charcoal", "scarlet")


def job(*edits, cloth="#23304a"):
    document = document_of(BODY, set_placement("x", width_mm=110.0), set_copies(1), set_blank_colour(cloth), *edits)
    known = [film.id for film in document.workshop.films]
    stock = tuple(
        StockItem(number=k, film=film, kind="roll", width_mm=300.0, length_mm=900.0)
        for k, film in enumerate((one for one in FILMS if one in known), start=1)
    )
    document.use_workshop(document.workshop.model_copy(update={"stock": stock}))
    return nested(document)


def film(document, name):
    return next(one for one in document.workshop.films if one.id == name)


def checked(document, way):
    found = carried_out(document.plan, way, usual_prices())
    assert found is not None, way.edit.name
    assert found.plan.is_nested
    assert not found.plan.open_stops
    return found.plan


@pytest.mark.usefixtures("nests_here")
def test_what_is_cut_already_in_another_film_is_pressed_and_not_cut_again():
    document = job()
    answer = cut_in(document.plan, film(document, "cream"), film(document, "mint"))
    assert "can be read" in answer.said
    plan = checked(document, answer.offers[0])
    assert [nest.film.id for nest in plan.nests] == ["amber"], "the mint is there"
    assert {one.film for one in film_ledger(plan).films} == {"amber"}
    pressed = {piece.film.id for press in plan.presses for work in press.works for piece in work.pieces}
    assert pressed == {"amber", "mint"}, "both are pressed"


@pytest.mark.usefixtures("nests_here")
def test_a_film_that_can_not_be_read_on_the_cloth_is_outlined():
    document = job()
    answer = cut_in(document.plan, film(document, "cream"), film(document, "navy"))
    assert "hard to read" in answer.said
    assert answer.offers
    plan = checked(document, answer.offers[0])
    (row,) = [row for row in plan.garments[0].compositions[0].layers if row.film.id not in ("amber", "navy")]
    assert contrast(row.film.colour, plan.blank.colour) >= 1.5
    assert contrast(row.film.colour, film(document, "navy").colour) >= 1.5


@pytest.mark.usefixtures("nests_here")
def test_on_another_cloth_films_that_are_lost_are_swapped_or_outlined():
    document = job()
    same = on_cloth(document.plan, "#101010")
    assert "Every film can be read" in same.said
    assert checked(document, same.offers[0]).blank.colour == "#101010"
    lost = on_cloth(document.plan, "#f6eddc")
    assert "Cream" in lost.said
    kinds = [way.kind for way in lost.offers]
    assert {"film", "outline"} <= set(kinds)
    for way in lost.offers:
        plan = checked(document, way)
        assert plan.blank.colour == "#f6eddc"
        if way.kind == "film":
            rows = plan.garments[0].compositions[0].layers
            assert all(contrast(row.film.colour, "#f6eddc") >= 1.5 for row in rows)


@pytest.mark.usefixtures("nests_here")
def test_a_fault_beside_the_artwork_lies_below_an_outline():
    document = job()
    before = document.plan.garments[0].compositions[0]
    answer = hidden(document.plan, 8.0, "mm")
    plan = checked(document, answer.offers[0])
    after = plan.garments[0].compositions[0]
    (cover,) = [row for row in after.layers if row.film.id not in ("amber", "cream")]
    assert after.placement.width_mm == pytest.approx(before.placement.width_mm + 2 * 11.0, abs=0.1)
    assert _lie(after, "amber").symmetric_difference(_lie(before, "amber")).area < 20, (
        "it stays as large and in its place"
    )
    fault = _lie(before, "amber").buffer(8.0).difference(_lie(after, "amber").buffer(0.5))
    assert moved(cover.layer.region, after.placement.matrix).buffer(0.2).contains(fault)


def _lie(composed, film_id):
    """Return what is seen of a film on the panel, its counters filled."""
    (row,) = [row for row in composed.layers if row.film.id == film_id]
    laid = moved(row.seen, composed.placement.matrix)
    return shapely.union_all([shapely.Polygon(part.exterior) for part in laid.geoms])


@pytest.mark.usefixtures("nests_here")
def test_what_is_pressed_already_goes_first():
    document = job()
    answer = pressed_first(document.plan, film(document, "cream"))
    plan = checked(document, answer.offers[0])
    laid = [step.pieces for step in plan.presses[0].steps if step.kind == "lay"]
    assert any("#f4ead5" in key for key in laid[0])


def test_the_command_takes_an_offer_and_refuses_two_questions(tmp_path):
    document = job()
    path = tmp_path / "job.zinnet"
    document.save(path)
    said = json.loads(run_command("ask", "already", path, "--cut", "cream=mint", "--json").stdout)
    assert said["offers"]
    out = tmp_path / "kept.zinnet"
    assert run_command("ask", "already", path, "--cut", "cream=mint", "--take", "1", "--out", out).returncode == 0
    told = json.loads(run_command("film", out, "--json").stdout)
    assert [row["film"] for row in told["films"]] == ["amber"]
    refused = run_command("ask", "already", path, "--cut", "cream=mint", "--fault", "8mm")
    assert refused.returncode == 2
    assert "one thing" in refused.stderr
    assert run_command("ask", "already", path, "--cloth", "blue").returncode
    assert run_command("ask", "already", path, "--pressed", "no such film").returncode
