"""Recipes: the table of the trade, its contradictions, limits of labels, and what wins over what."""

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.helpers import document_of
from zinnet.base.errors import SettingsError, UnitsError
from zinnet.base.units import (
    from_fahrenheit,
    read_temperature,
    to_fahrenheit,
    write_seconds,
    write_temperature,
)
from zinnet.blanks.catalogue import read_blank_name
from zinnet.blanks.fabrics import fabric_of, fabrics
from zinnet.data import read_toml
from zinnet.films.catalogue import Film, catalogue_films, film_kinds
from zinnet.job.edits import (
    choose_blank,
    choose_film,
    choose_platen,
    choose_recipe,
    pass_finding,
    set_blank,
    set_pressing,
)
from zinnet.pressing.applied_recipe import setting_of
from zinnet.pressing.heat_limits import heat_limits, label_limit
from zinnet.pressing.heat_values import middle
from zinnet.pressing.known_recipes import heat_span, offers, seconds_span
from zinnet.pressing.recipes import KeptRecipe, Pressed, Recipe, habits
from zinnet.pressing.typed_recipe import typed_recipe

BOX = '<rect width="80" height="60" fill="#f4ead5"/>'
TWO = '<rect width="80" height="60" fill="#f4ead5"/><circle cx="40" cy="30" r="12" fill="#1a1a1a"/>'
FILM = {"smooth": "cream", "patterned": "reed-pattern", "soft-stretch": "soft-coral", "glitter": "gold-glitter",
        "holographic": "moonlight", "flock": "moss-flock", "puff": "white-puff"}  # fmt: skip
# Common practice, no source: how films are pressed by habit, typed here a second time. Film, fabric, with, heat as it
# is said, seconds of the last press, back, pressures, peels.
TABLE = [
    ("smooth", "polyester", "press", "300 F", (10, 10), None, ("firm",), ("cool",)),
    ("patterned", "polyester", "press", "300 F", (10, 10), None, ("firm",), ("cool",)),
    ("smooth", "cotton", "plate", "315 F", (30, 30), (15, 15), ("light",), ("cool",)),
    ("smooth", "cotton canvas", "press", "350 F", (15, 15), None, ("medium", "firm"), ("warm",)),
    ("smooth", "cotton", "plate", "340 F", (30, 30), None, ("light",), ("warm",)),
    ("smooth", "cotton", "press", "365 F", (15, 15), None, ("firm",), ("hot",)),
    ("smooth", "cotton", "press", "320 F", (10, 15), None, ("firm",), ("warm",)),
    ("smooth", "cotton-polyester", "press", "320 F", (10, 15), None, ("firm",), ("warm",)),
    ("smooth", "cotton", "plate", "330 F", (30, 30), (15, 30), ("light",), ("warm",)),
    ("smooth", "cotton-polyester", "plate", "330 F", (30, 30), (15, 30), ("light",), ("warm",)),
    ("smooth", "cotton canvas", "plate", "350 F", (15, 15), None, ("medium", "firm"), ("warm",)),
    ("smooth", "cotton", "press", "160 C", (3, 8), None, ("firm",), ("warm",)),
    ("smooth", "polyester satin", "press", "285 F", (8, 10), None, ("medium",), ("warm",)),
    ("soft-stretch", "polyester satin", "press", "285 F", (8, 10), None, ("medium",), ("warm",)),
    ("holographic", "polyester satin", "press", "320 F", (10, 15), None, ("medium",), ("cold",)),
    ("soft-stretch", "cotton", "press", "285 F", (8, 8), None, ("medium",), ("warm",)),
    ("glitter", "cotton-polyester", "press", "330 F", (30, 30), (15, 30), ("light", "medium", "firm"), ("cool",)),
    ("glitter", "polyester", "press", "330 F", (30, 30), (15, 30), ("light", "medium", "firm"), ("cool",)),
    ("glitter", "fleece", "press", "165 C", (30, 30), (15, 15), ("light",), ("cool",)),
    ("glitter", "polyester", "press", "300 F", (15, 15), None, ("firm",), ("cool",)),
    ("glitter", "polyester satin", "press", "330 F", (30, 30), None, ("light",), ("cool",)),
    ("smooth", "cotton-polyester", "press", "330 F", (30, 30), (15, 15), ("firm",), ("warm",)),
    ("glitter", "cotton-polyester", "press", "330 F", (30, 30), (15, 15), ("firm",), ("cool",)),
    ("glitter", "cotton-polyester", "press", "350 F", (15, 15), None, (), ("cool", "hot")),
    ("flock", "polyester knit", "press", "305 F", (10, 10), None, ("firm",), ("cool",)),
]
HANDS = [
    ("smooth", "cotton canvas", (3, 8), ("light",), ("hot", "warm")),
    ("patterned", "cotton-polyester", (25, 25), ("light",), ("cold",)),
]


def film(kind):
    return next(one for one in catalogue_films() if one.id == FILM[kind])


def heat(said):
    """Return a heat that was said in degF or degC, in degC, by exact fractions."""
    number, unit = said.split()
    return float((Fraction(number) - 32) * 5 / 9) if unit == "F" else float(number)


@pytest.mark.parametrize("row", TABLE)
def test_every_row_of_the_table_is_offered_and_gives_steps_within_it(row):
    kind, fabric, source, said, seconds, back, pressures, peels = row
    found = offers(film(kind), fabrics()[fabric], source, beside={"smooth", "glitter"} - {kind})
    (offer,) = [
        one
        for one in found
        if one.recipe.heat_c == (heat(said),) * 2
        and one.recipe.seconds == seconds
        and one.recipe.peel == peels
        and one.recipe.pressure == pressures
        and one.recipe.back_s == back
    ]
    assert offer.nearest is None
    setting = setting_of(offer, heat_limits(fabrics()[fabric], None))
    assert setting.limit is None
    assert setting.heat_c == pytest.approx(heat(said), abs=1e-9)
    assert seconds[0] <= setting.full_s <= seconds[1]
    assert setting.peel in (peels or ("cool",))
    assert setting.pressure in (pressures or (None,))
    assert back is None or back[0] <= setting.back_s <= back[1]


@pytest.mark.parametrize("row", HANDS)
def test_the_small_hand_press_has_a_middle_setting_and_is_kept_moving(row):
    kind, fabric, seconds, pressures, peels = row
    (offer,) = offers(film(kind), fabrics()[fabric], "hand")
    assert offer.nearest is None
    assert offer.recipe.setting == "middle"
    assert offer.recipe.moving
    assert offer.recipe.pressure == pressures
    assert offer.recipe.peel == peels
    assert seconds[0] <= setting_of(offer, ()).full_s <= seconds[1]


def test_a_row_gives_the_steps_of_a_job_their_heat_time_and_peel():
    document = document_of(TWO, choose_recipe("cream", school="hot, peeled hot"))
    document.apply(choose_recipe("black", school="hot, peeled hot"))
    presses = [step for step in document.plan.presses[0].steps if step.kind == "press"]
    assert [step.heat.heat_c for step in presses] == [pytest.approx(185.0)] * 2
    assert presses[-1].heat.seconds == 15
    document.apply(set_pressing("x", school="full"))
    presses = [step for step in document.plan.presses[0].steps if step.kind == "press"]
    assert [step.heat.seconds for step in presses] == [10, 15]
    assert {step.peel for step in document.plan.presses[0].steps if step.kind == "peel"} == {"hot"}
    assert not [step for step in document.plan.presses[0].steps if step.kind == "wait"]


def test_flock_is_pressed_bare_then_covered_and_waits_a_minute():
    document = document_of(BOX, choose_blank(read_blank_name("blanket")), choose_film("#f4ead5", "moss-flock"))
    steps = document.plan.presses[0].steps
    presses = [step for step in steps if step.kind == "press"]
    assert [(step.heat.kind, step.heat.seconds) for step in presses] == [("full", 10), ("covered", 15)]
    assert presses[1].carried == presses[0].carried != ()
    assert "over the carrier" in " ".join(presses[1].lines)
    kinds = [step.kind for step in steps]
    assert kinds.index("wait") == kinds.index("peel") - 1 == len(kinds) - 1 - kinds[::-1].index("press") + 1
    assert {step.seconds for step in steps if step.kind == "wait"} == {60}


def test_puff_goes_by_the_sheet_in_the_roll_and_a_print_by_its_board():
    document = document_of(BOX, choose_blank(read_blank_name("tote")), choose_film("#f4ead5", "white-puff"))
    press = next(step for step in document.plan.presses[0].steps if step.kind == "press")
    assert press.heat.heat_c is None
    assert press.heat.seconds is None
    assert "sheet" in " ".join(press.lines)
    (row,) = [habit for habit in habits() if "sublimation" in habit.films]
    assert row.recipe.heat_c == (heat("400 F"),) * 2
    assert row.recipe.seconds == (60, 60)


def test_contradictions_are_shown_as_a_range_each_with_its_school():
    found = offers(film("smooth"), fabrics()["cotton"], "press")
    assert heat_span(found) == (heat("320 F"), heat("365 F"))
    assert seconds_span(found) == (3, 15)
    assert len({one.recipe.school for one in found}) == 3
    held = offers(film("smooth"), fabrics()["cotton"], "plate")
    assert heat_span(held) == (heat("315 F"), heat("340 F"))
    assert seconds_span(held) == (3, 30)
    assert len({one.recipe.school for one in held}) == 4
    glitter = offers(film("glitter"), fabrics()["cotton-polyester"], "press", beside={"smooth"})
    assert heat_span(glitter) == (heat("330 F"), heat("350 F"))
    assert len({one.recipe.school for one in glitter}) == len(glitter) == 3


def test_every_habit_says_where_it_comes_from_and_has_a_school_of_its_own():
    assert all(habit.recipe.source.startswith("common practice, no source") for habit in habits())
    assert len({habit.recipe.school for habit in habits()}) == len(habits()) == len(read_toml("recipes")["recipe"])


# ISO 3758:2012, ironing: 110, 150 and 200 degC for one, two and three dots (values from memory).
@pytest.mark.parametrize(("dots", "most"), [(1, 110.0), (2, 150.0), (3, 200.0)])
def test_above_the_care_label_film_is_pressed_as_low_as_it_can_be_and_never_above_what_the_cloth_bears(dots, most):
    assert label_limit(dots).most_c == most
    for habit in habits():
        for name in habit.fabrics:
            fabric = fabrics()[name]
            low = film_kinds()[habit.films[0]].heat_c
            for one in offers(film_of_kind(habit.films[0]), fabric, habit.with_[0]):
                setting = setting_of(one, heat_limits(fabric, dots), low_c=None if low is None else low[0])
                if setting.heat_c is None:
                    continue
                assert setting.heat_c <= min(fabric.most_c, max(most, low[0] if low else 0.0)) + 1e-6
                assert (setting.tried is None) == (setting.wanted_c <= most + 1e-6)


@pytest.mark.parametrize(("platen", "seconds", "back"), [("plate-9x9", (30, 30), 15), ("flat-15x15", (10, 15), None)])
def test_smooth_film_on_a_cotton_tee_is_pressed_as_most_do_it_with_that_source(platen, seconds, back):
    document = document_of(BOX, choose_platen(platen))
    (work,) = document.plan.presses[0].works
    setting = work.pieces[0].setting
    assert seconds[0] <= setting.full_s <= seconds[1]
    assert setting.back_s == back
    assert "common practice" in setting.recipe.source
    assert len(setting.recipe.source) > 40
    assert not [one for one in document.plan.findings if one.id in ("no-recipe", "fabric-limit", "heat-untested")]


def test_a_school_that_was_chosen_holds_whatever_it_is_pressed_with():
    document = document_of(BOX, choose_recipe("cream", school="low and long"))
    (work,) = document.plan.presses[0].works
    assert work.heat_source == "press"
    assert work.pieces[0].setting.full_s == 30
    (said,) = [one for one in document.plan.findings if one.id == "no-recipe"]
    assert "hand-held plate" in said.measured


def test_the_recipe_for_films_beside_one_another_comes_before_the_usual_one():
    (first, *_) = offers(film("smooth"), fabrics()["cotton-polyester"], "press", beside={"glitter"})
    assert first.recipe.school == "smooth beside glitter"
    (alone, *_) = offers(film("smooth"), fabrics()["cotton-polyester"], "press")
    assert alone.recipe.school == "as most close a press"


def film_of_kind(kind):
    return Film(id="x", name="X", kind=kind, colour="#ffffff")


def test_a_limit_is_lifted_only_by_a_word_with_a_reason():
    blanket = choose_blank(read_blank_name("blanket"))
    document = document_of(BOX, blanket, choose_recipe("cream", school="hot, peeled hot"))
    assert max(step.heat.heat_c for step in document.plan.presses[0].presses) == 167
    document = document_of(BOX, set_blank("x", fabric="nylon"))
    assert [one.level for one in document.plan.findings if one.id == "fabric-limit"] == ["stop"]
    assert max(step.heat.heat_c for step in document.plan.presses[0].presses) == 140
    document.apply(pass_finding("fabric-limit", "tried on a hem of the same shirt", "cream"))
    assert max(step.heat.heat_c for step in document.plan.presses[0].presses) > 140
    assert [one.passed for one in document.plan.findings if one.id == "fabric-limit"]


def test_a_care_label_is_a_warning_with_the_lower_end_of_the_films_range():
    document = document_of(BOX, set_blank("x", care_dots=2))
    assert max(step.heat.heat_c for step in document.plan.presses[0].presses) == 150
    (warned,) = [one for one in document.plan.findings if one.id == "heat-untested"]
    assert warned.level == "warn"
    document.apply(warned.mend)
    assert max(step.heat.heat_c for step in document.plan.presses[0].presses) == 149
    assert not [one for one in document.plan.findings if one.id == "heat-untested"]
    # One dot (110 degC): smooth film does not hold below its own 149 degC, so it is pressed there.
    one_dot = document_of(BOX, set_blank("x", care_dots=1))
    assert max(step.heat.heat_c for step in one_dot.plan.presses[0].presses) == 149
    assert [one.level for one in one_dot.plan.findings if one.id == "heat-untested"] == ["warn"]


def test_what_worked_here_wins_over_the_makers_sheet_and_that_over_habits():
    cream, cotton = film("smooth"), fabrics()["cotton"]
    maker = KeptRecipe(film="cream", recipe=typed_recipe({"heat": "300F", "time": "12"}, origin="maker"))
    mine = KeptRecipe(film="cream", fabric="cotton", recipe=typed_recipe({"heat": "158C", "time": "9"}, origin="mine"))
    for_fleece = KeptRecipe(film="cream", fabric="fleece", recipe=mine.recipe)
    log = [Pressed(film="cream", fabric="cotton", heat_source="press", school="my own", worked=k < 2) for k in range(3)]
    found = offers(cream, cotton, "press", kept=(maker, mine, for_fleece), log=log)
    assert [one.recipe.origin for one in found][:3] == ["mine", "maker", "typical"]
    assert found[0].in_words == "mine, worked 2 of 3 times"
    assert [one.recipe.origin for one in offers(cream, cotton, "press", kept=(for_fleece,))] == ["typical"] * 3


def test_a_recipe_for_a_whole_kind_holds_for_all_its_colours_but_for_one_that_has_its_own():
    recipe = {"heat": "158C", "time": "9"}
    kind = KeptRecipe(film="smooth", heat_source="plate", recipe=typed_recipe(recipe, origin="mine"))
    one = KeptRecipe(film="cream", recipe=typed_recipe(recipe | {"time": "11"}, origin="mine"))
    white = next(one for one in catalogue_films() if one.id == "white")
    cotton = fabrics()["cotton"]
    assert offers(white, cotton, "plate", kept=(kind, one))[0].recipe.seconds == (9, 9)
    assert offers(white, cotton, "press", kept=(kind, one))[0].recipe.origin == "typical"
    assert offers(film("smooth"), cotton, "plate", kept=(kind, one))[0].recipe.seconds == (11, 11)


@pytest.mark.parametrize(
    ("kind", "fabric", "source", "said"),
    [
        ("smooth", "fleece", "press", "on cotton"),
        ("flock", "cotton", "press", "on polyester knit"),
        ("smooth", "cotton", "iron", "with a hand-held plate"),
        ("holographic", "cotton", "press", "on polyester satin"),
    ],
)
def test_a_missing_combination_gives_the_nearest_with_why(kind, fabric, source, said):
    found = offers(film(kind), fabrics()[fabric], source)
    assert found
    assert all(one.nearest for one in found)
    assert said in found[0].nearest


def test_nothing_is_proposed_where_nothing_is_near():
    assert offers(film("smooth"), fabrics()["glass"], "press") == ()
    assert offers(film_of_kind("adhesive"), fabrics()["cotton"], "press") == ()
    assert offers(film_of_kind("sublimation"), fabrics()["cotton"], "press") == ()


@pytest.mark.parametrize(
    ("label", "name"),
    [
        ("100 % Cotton", "cotton"),
        ("50% cotton, 50% polyester", "cotton-polyester"),
        ("polyester fleece", "fleece"),
        ("Polyester satin", "polyester satin"),
        ("silk", None),
    ],
)
def test_a_labels_words_mean_a_fabric(label, name):
    found = fabric_of(label)
    assert (found.name if found is not None else None) == name


# The scales by definition: water freezes at 0 degC, 32 degF and boils at 100 degC, 212 degF; they meet at -40.
@pytest.mark.parametrize(("f", "c"), [(32, 0.0), (212, 100.0), (-40, -40.0), (392, 200.0), (302, 150.0), (230, 110.0)])
def test_celsius_and_fahrenheit_are_exact(f, c):
    assert from_fahrenheit(f) == c
    assert to_fahrenheit(c) == f


@given(st.integers(32, 700))
def test_every_whole_degree_comes_back(f):
    assert write_temperature(read_temperature(f"{f} F"), degrees="F") == f"{f} °F"
    assert abs(from_fahrenheit(f) - Fraction(5 * (f - 32), 9)) < 1e-12


@pytest.mark.parametrize("text", ["hot", "", "900 C", "-5 F", "300 K 5"])
def test_what_is_no_temperature_is_refused_with_what_to_write(text):
    with pytest.raises(UnitsError, match=r"330 F|check the unit"):
        read_temperature(text)


@pytest.mark.parametrize(
    "typed",
    [
        {"heat": "20 C", "time": "5"},
        {"heat": "320 F"},
        {"heat": "320 F", "time": "soon"},
        {"heat": "320 F", "time": "15-10"},
        {"heat": "320 F", "time": "10", "peel": "tomorrow"},
        {"heat": "320 F", "time": "10", "pressure": "enormous"},
    ],
)
def test_a_sheet_that_can_not_be_is_refused_in_words(typed):
    with pytest.raises((SettingsError, UnitsError)):
        typed_recipe(typed, origin="maker")


def test_a_typed_sheet_is_read_and_said():
    typed = {"heat": "300-320F", "time": "10-15 s", "tack": "3", "peel": "warm", "pressure": "firm", "wait": "20"}
    recipe = typed_recipe(typed, origin="maker")
    assert recipe.heat_c == (heat("300 F"), 160.0)
    assert recipe.in_words("F") == "300 °F to 320 °F, tack 3 s, 10-15 s, firm pressure, after 20 s, peel warm"
    assert Recipe.model_validate_json(recipe.model_dump_json()) == recipe


@given(st.floats(0, 1000), st.floats(0, 1000))
def test_the_middle_of_a_range_lies_in_it(one, other):
    low, high = sorted((one, other))
    assert low <= middle((low, high)) <= high


@pytest.mark.parametrize(("seconds", "said"), [(0, "0 s"), (59.6, "1 min"), (75, "1 min 15 s"), (3725, "1 h 2 min")])
def test_times_are_said_in_words(seconds, said):
    assert write_seconds(seconds) == said
