"""The book of pressing."""

from zinnet.pressing.recipes import KeptRecipe, Pressed
from zinnet.pressing.typed_recipe import typed_recipe
from zinnet.workshop.model import standard_workshop
from zinnet.workshop.opening import with_books
from zinnet.workshop.pressbook import PressBook
from zinnet.workshop.store import WorkshopStore


def sheet(heat, origin="maker"):
    return typed_recipe({"heat": heat, "time": "12"}, origin=origin)


def test_a_sheet_is_kept_once_for_each_film_fabric_and_origin(tmp_path):
    book = PressBook(WorkshopStore(tmp_path / "w.sqlite"))
    book.keep(KeptRecipe(film="cream", recipe=sheet("300 F")))
    book.keep(KeptRecipe(film="cream", recipe=sheet("310 F")))
    book.keep(KeptRecipe(film="cream", fabric="fleece", recipe=sheet("290 F")))
    book.keep(KeptRecipe(film="cream", recipe=sheet("305 F", "mine")))
    assert len(book.recipes()) == 3
    assert book.recipes()[-1].recipe.heat_c == sheet("310 F").heat_c
    book.drop("cream", "maker")
    assert [one.recipe.origin for one in book.recipes()] == ["mine"]


def test_results_and_sheets_are_what_the_workshop_works_with(tmp_path):
    store = WorkshopStore(tmp_path / "w.sqlite")
    book = PressBook(store)
    book.keep(KeptRecipe(film="cream", recipe=sheet("300 F")))
    dated = book.record(Pressed(film="cream", fabric="cotton", heat_source="press", school="x", worked=True))
    workshop = with_books(standard_workshop(), store)
    assert workshop.pressed == (dated,)
    assert workshop.recipes == book.recipes()
    assert with_books(workshop, WorkshopStore(tmp_path / "none.sqlite")).recipes == ()


def test_what_can_not_be_read_any_more_is_left_out(tmp_path):
    store = WorkshopStore(tmp_path / "w.sqlite")
    book = PressBook(store)
    book.keep(KeptRecipe(film="cream", recipe=sheet("300 F")))
    with store.open() as connection:
        connection.execute("UPDATE recipes SET recipe = '{}'")
    assert book.recipes() == ()
