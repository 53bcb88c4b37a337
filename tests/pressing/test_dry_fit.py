"""The dry fit: every part of film and every counter counted and numbered, and held against the cloth."""

import pytest
import shapely

from tests.helpers import document_of
from zinnet.demo import demo_document
from zinnet.job.edits import choose_film, set_blank_colour
from zinnet.plan.dry_fit import laid_out
from zinnet.plan.press_cards import quick_cards
from zinnet.plan.run_garments import run_presses
from zinnet.pressing.dry_fit import film_counted
from zinnet.pressing.schedule.tasks import team_of

RING = '<path fill-rule="evenodd" fill="#d62828" d="M0 0H60V60H0Z M10 10H25V50H10Z M35 10H50V50H35Z"/>'
DOTS = '<path fill="#d62828" d="M80 0H100V20H80Z"/><path fill="#d62828" d="M80 40H100V60H80Z"/>'


@pytest.mark.parametrize(
    ("drawing", "parts", "counters"), [(RING, 1, 2), (RING + DOTS, 3, 2), (DOTS, 2, 0)], ids=["ring", "both", "dots"]
)
def test_parts_and_counters_are_counted(drawing, parts, counters):
    press = document_of(drawing).plan.presses[0]
    laid = laid_out(press, press.works[0].panel.id)
    (piece,) = laid.fit.pieces
    assert (len(piece.parts), len(piece.counters)) == (parts, counters)
    assert film_counted(press.works) == f"1 piece of film: {piece.counted}"
    step = next(step for step in press.steps if step.kind == "dry fit")
    assert step.words[0] == f"1 piece of film: {piece.counted}. All here?"


def test_each_number_stands_in_its_own_part_or_counter():
    press = demo_document(name="stewards").plan.presses[0]
    laid = laid_out(press, press.works[0].panel.id)
    assert [spot.number for one in laid.fit.pieces for spot in one.parts] == list(
        range(1, 1 + sum(len(one.parts) for one in laid.fit.pieces))
    )
    for one in laid.fit.pieces:
        for spot in one.parts:
            assert shapely.covers(one.region, shapely.Point(spot.at))
        for spot in one.counters:
            assert not shapely.intersects(one.region, shapely.Point(spot.at))
            assert shapely.covers(shapely.convex_hull(one.region), shapely.Point(spot.at))
        polygons = shapely.get_parts(one.region)
        assert len(one.parts) == len(polygons)
        assert len(one.counters) == sum(len(polygon.interiors) for polygon in polygons)


def test_film_of_the_cloths_own_colour_is_asked_about():
    document = document_of(RING, choose_film("#d62828", "white"), set_blank_colour("#ffffff"))
    press = document.plan.presses[0]
    laid = laid_out(press, press.works[0].panel.id)
    assert [one.piece.film.id for one in laid.like_cloth] == ["white"]
    assert "on white cloth" in laid.asked[-1]
    document.apply(set_blank_colour("#1b1b1f"))
    press = document.plan.presses[0]
    assert not laid_out(press, press.works[0].panel.id).like_cloth


def test_it_is_asked_once_a_side_before_anything_is_heated():
    for name in ("stewards", "names", "hoodies", "sash", "caps"):
        for _, press in run_presses(demo_document(name=name).plan):
            fits = [k for k, step in enumerate(press.steps) if step.kind == "dry fit"]
            heats = [k for k, step in enumerate(press.steps) if step.heat is not None]
            assert len(fits) == len({work.panel.id for work in press.works})
            assert not heats or min(fits) < min(heats)


def test_it_costs_no_card_of_its_own_where_the_cloth_is_preheated():
    presses = run_presses(demo_document(name="stewards").plan)
    cards = quick_cards(presses, team_of(1, 1, 4))
    with_it = [card for card in cards if card.dry_fit is not None]
    assert len(with_it) == sum(press.garment.copies for _, press in presses)
    assert {card.step.kind for card in with_it} == {"preheat"}


def test_a_motif_that_is_repeated_is_counted_once_with_how_often():
    (press,) = demo_document(name="blanket").plan.presses
    laid = laid_out(press, press.works[0].panel.id)
    ((piece, said),) = laid.fit.rows
    assert said == f"{len(piece.each)} times {laid.fit.pieces[0].counted}"
    assert len(laid.fit.pieces) == len(piece.each)
