"""Recipes that the log teaches: what held, longer than what lifted or came off."""

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.helpers import cases
from zinnet.blanks.fabrics import fabrics
from zinnet.pressing.known_recipes import offers
from zinnet.pressing.learned import learned
from zinnet.pressing.recipes import KeptRecipe, Pressed, Recipe
from zinnet.workshop.model import standard_workshop

FILM = standard_workshop().film("cream")
COTTON = fabrics()["cotton"]


def pressed(seconds, *, held=True, heat=160.0, lifted=0, more=0.0, film="cream", kind="smooth", **fields):
    return Pressed(
        film=film, kind=kind, fabric="cotton", heat_source="press", school="my school", heat_c=heat, seconds=seconds,
        worked=held, lifted=lifted, more_s=more, **fields,
    )  # fmt: skip


def taught(*log, film=FILM):
    return learned(log, film, COTTON, "press")


def test_twice_the_same_is_enough_and_once_is_not():
    assert taught(pressed(12)) is None
    recipe = taught(pressed(12), pressed(14))
    assert (recipe.heat_c, recipe.seconds, recipe.origin) == ((160, 160), (12, 14), "learned")
    assert recipe.source == "learned from 2 presses of Cream, 2 held at 12 to 14 s"


def test_what_lifted_is_pressed_longer():
    recipe = taught(pressed(8, lifted=1, more=10), pressed(8, lifted=2, more=20), pressed(16))
    assert recipe.seconds == (16, 28)
    assert "2 lifted at 8 s" in recipe.source


def test_what_was_lost_later_than_all_that_held_teaches_nothing():
    assert taught(pressed(12), pressed(12), pressed(15, held=False)) is None
    recipe = taught(pressed(12), pressed(20), pressed(20), pressed(15, held=False))
    assert recipe.seconds == (20, 20)
    assert "1 lost at 15 s" in recipe.source


def test_heats_far_from_one_another_are_not_mixed():
    recipe = taught(pressed(12, heat=140.0), pressed(12, heat=140.0), pressed(12, heat=170.0), pressed(12, heat=171.0))
    assert recipe.heat_c == (170, 171)


def test_other_cloth_and_other_sources_teach_nothing():
    log = (pressed(12), pressed(12))
    assert learned(log, FILM, fabrics()["polyester"], "press") is None
    assert learned(log, FILM, COTTON, "plate") is None
    assert learned(log, FILM, None, "press") is None


def test_another_colour_of_the_kind_teaches_where_the_film_itself_does_not():
    log = [pressed(12, film="black"), pressed(12, film="black")]
    assert "smooth film" in taught(*log).source
    assert taught(*log, pressed(20), pressed(20)).seconds == (20, 20)
    assert taught(*log, film=standard_workshop().film("gold-glitter")) is None


def test_ones_own_word_comes_first_then_the_log_then_the_makers_sheet():
    log = (pressed(12), pressed(13))
    sheet = KeptRecipe(film="cream", recipe=Recipe(school="sheet", heat_c=(150, 150), seconds=(9, 9), origin="maker"))
    mine = KeptRecipe(film="cream", recipe=Recipe(school="own", heat_c=(155, 155), seconds=(7, 7), origin="mine"))
    found = offers(FILM, COTTON, "press", kept=(sheet, mine), log=log)
    assert [offer.recipe.origin for offer in found[:3]] == ["mine", "learned", "maker"]
    assert found[1].recipe.peel == found[0].recipe.peel


presses = st.lists(
    st.builds(
        pressed,
        st.integers(3, 60),
        held=st.booleans(),
        heat=st.integers(130, 180).map(float),
        lifted=st.integers(0, 2),
        more=st.integers(0, 20).map(float),
    ),
    max_size=14,
)


@settings(max_examples=cases(60, 1000), deadline=None)
@given(log=presses)
def test_never_as_short_as_what_lifted_or_was_lost_and_never_hotter_than_what_held(log):
    recipe = taught(*log)
    if recipe is None:
        return
    assert all(one.seconds < recipe.seconds[0] for one in log if one.lifted or not one.worked)
    assert all(one.seconds + one.more_s < recipe.seconds[0] for one in log if not one.worked)
    held = [one for one in log if one.worked]
    assert min(one.heat_c for one in held) <= recipe.heat_c[0] <= recipe.heat_c[1] <= max(one.heat_c for one in held)
    assert recipe.heat_c[1] - recipe.heat_c[0] <= 15
    assert len(held) >= 2
