"""Hem tests: bars that bracket a recipe, what they allow, and what the workshop remembers of them."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.helpers import document_of
from zinnet.blanks.catalogue import read_blank_name
from zinnet.blanks.fabrics import fabrics
from zinnet.films.catalogue import film_kinds
from zinnet.job.edits import choose_blank, choose_film, set_blank
from zinnet.plan.hem_trials import hem_trials
from zinnet.pressing.hem_test import HemBar, HemTest, allowed_c, bars_to_try, recipe_of
from zinnet.workshop.pressbook import PressBook
from zinnet.workshop.store import WorkshopStore

BOX = '<rect width="80" height="60" fill="#f4ead5"/>'


def ids(document):
    return [(one.id, one.level) for one in document.plan.findings if one.level in ("stop", "warn")]


def tried(document, *bars):
    """Take a hem test of the document's film on its cloth into its workshop."""
    (trial,) = hem_trials(document.plan.presses[0], document.workshop)
    test = trial.filled([HemBar(heat_c=heat, seconds=seconds, held=held) for heat, seconds, held in bars])
    document.use_workshop(document.workshop.model_copy(update={"hem_tests": (test,)}))


@given(st.floats(100, 200), st.floats(0, 40), st.floats(5, 60), st.floats(110, 200))
def test_the_bars_bracket_the_recipe_and_stay_within_what_the_cloth_bears(low, span, seconds, most):
    bars = bars_to_try((low, low + span), (seconds, seconds), most_c=most)
    assert 3 <= len(bars) <= 24
    assert all(bar.heat_c <= most + 0.5 for bar in bars)
    assert min(bar.seconds for bar in bars) < seconds < max(bar.seconds for bar in bars)
    if most > low + span + 10:
        assert max(bar.heat_c for bar in bars) >= low + span - 1
        assert min(bar.heat_c for bar in bars) <= low + 1
    assert [(bar.heat_c, bar.seconds) for bar in bars] == sorted((bar.heat_c, bar.seconds) for bar in bars)


def test_satin_is_a_stop_until_a_hem_was_tried_and_is_pressed_by_what_held():
    document = document_of(BOX, choose_blank(read_blank_name("sash")))
    assert ("heat-untested", "stop") in ids(document)
    tried(document, (150.0, 9.0, False), (145.0, 9.0, True), (141.0, 9.0, True), (141.0, 4.0, False))
    assert "heat-untested" not in [one for one, _ in ids(document)]
    (work,) = document.plan.presses[0].works
    setting = work.pieces[0].setting
    assert (setting.heat_c, setting.full_s) == (141.0, 9.0)
    assert setting.recipe.origin == "mine"
    assert "hem test" in setting.recipe.source


def test_where_no_bar_held_it_stays_a_stop():
    document = document_of(BOX, choose_blank(read_blank_name("sash")))
    tried(document, (150.0, 9.0, False), (141.0, 9.0, False))
    assert ("heat-untested", "stop") in ids(document)


def test_a_polyester_blanket_with_two_dots_goes_on_with_a_warning_and_a_hem_test_lifts_it():
    glitter = choose_film("#f4ead5", "gold-glitter")
    document = document_of(
        BOX, choose_blank(read_blank_name("blanket")), set_blank("x", fabric="polyester", care_dots=2), glitter
    )
    found = ids(document)
    assert ("heat-untested", "warn") in found
    assert not [one for one, level in found if level == "stop"]
    # ISO 3758: two dots, 150 degC (value from memory); the film's lower end is 149 degC, from memory.
    assert document.plan.presses[0].works[0].pieces[0].setting.heat_c == 150
    tried(document, (165.0, 30.0, True), (150.0, 30.0, False))
    assert "heat-untested" not in [one for one, _ in ids(document)]
    assert document.plan.presses[0].works[0].pieces[0].setting.heat_c == 165


@pytest.mark.parametrize("cloth", ["polyester satin", "acrylic", "nylon", "coated cloth"])
def test_every_tender_cloth_asks_for_a_test(cloth):
    assert fabrics()[cloth].tender
    document = document_of(BOX, set_blank("x", fabric=cloth, care_dots=3))
    assert ("heat-untested", "stop") in ids(document)


def test_another_cloth_film_or_source_of_heat_is_another_test():
    bar = HemBar(heat_c=150.0, seconds=10.0, held=True)
    test = HemTest(fabric="nylon", kind="smooth", heat_source="plate", bars=(bar,))
    nylon, cotton = fabrics()["nylon"], fabrics()["cotton"]
    assert allowed_c([test], nylon, "smooth", "plate") == 150
    assert allowed_c([test], cotton, "smooth", "plate") is None
    assert allowed_c([test], nylon, "glitter", "plate") is None
    assert allowed_c([test], nylon, "smooth", "press") is None
    assert allowed_c([test], None, "smooth", "plate") is None
    assert set(film_kinds()) >= {test.kind}


def test_what_came_off_in_the_wash_does_not_count():
    bars = (
        HemBar(heat_c=140.0, seconds=10.0, held=True, washed=False),
        HemBar(heat_c=150.0, seconds=10.0, held=True, washed=True),
    )
    test = HemTest(fabric="nylon", kind="smooth", heat_source="plate", bars=bars)
    assert recipe_of(test).heat_c == (150.0, 150.0)


def test_the_workshop_remembers_the_last_test_of_a_cloth_and_film(tmp_path):
    book = PressBook(WorkshopStore(tmp_path / "w.sqlite"))
    bar = HemBar(heat_c=150.0, seconds=10.0, held=False)
    first = HemTest(fabric="nylon", kind="smooth", heat_source="plate", bars=(bar,))
    book.keep_test(first)
    book.keep_test(first.model_copy(update={"bars": (bar.model_copy(update={"held": True}),)}))
    book.keep_test(first.model_copy(update={"kind": "glitter"}))
    kept = book.hem_tests()
    assert [(one.kind, one.bars[0].held) for one in kept] == [("smooth", True), ("glitter", False)]
    assert all(one.at for one in kept)
