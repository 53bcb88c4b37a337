"""Test cuts, blades and the log in the workshop's file."""

import pytest

from zinnet.base.errors import CutError
from zinnet.bench.test_cuts import (
    Trial,
    advise,
    record_trial,
    sitting_of,
)
from zinnet.cutting.settings import CutSettings, CutTest
from zinnet.workshop.cutbook import CutBook
from zinnet.workshop.model import standard_workshop
from zinnet.workshop.opening import with_books
from zinnet.workshop.store import WorkshopStore

TRIAL = Trial("cream", "table")


@pytest.fixture
def store(tmp_path):
    return WorkshopStore(tmp_path / "workshop.sqlite")


def books(store):
    return with_books(standard_workshop(), store)


def say(store, outcome):
    settings = advise(books(store), TRIAL).shown
    return record_trial(store, books(store), TRIAL, settings, outcome)


def test_test_cuts_are_kept_with_their_date_and_the_last_is_taken_back(store):
    say(store, "not through")
    say(store, "clean")
    tests = CutBook(store).tests()
    assert [test.outcome for test in tests] == ["not through", "clean"]
    assert all(test.at.startswith("20") for test in tests)
    assert tests[0].settings != tests[1].settings
    CutBook(store).take_back_test()
    assert [test.outcome for test in CutBook(store).tests()] == ["not through"]


def test_what_was_clean_is_used_next_time_and_says_how_often_it_worked(store):
    for outcome in ("not through", "clean", "clean"):
        say(store, outcome)
    advised = advise(books(store), TRIAL)
    assert advised.is_settled
    assert "clean 2 of 2" in advised.source
    assert advised.shown == CutBook(store).tests()[-1].settings


def test_a_sitting_begins_anew_after_a_clean_cut_and_with_a_new_blade(store):
    say(store, "tears")
    say(store, "clean")
    assert [test.outcome for test in sitting_of(books(store), TRIAL)] == ["clean"]
    say(store, "tears")
    assert [test.outcome for test in sitting_of(books(store), TRIAL)] == ["tears"]
    CutBook(store).put_in_blade("table")
    assert sitting_of(books(store), TRIAL) == ()


def test_metres_are_counted_to_the_blade_that_is_in(store):
    book = CutBook(store)
    book.add_metres("table", 1.5)
    (first,) = book.blades()
    assert first.metres == 1.5
    second = book.put_in_blade("table")
    book.add_metres("table", 2.0)
    book.add_metres("small", 4.0)
    metres = {(blade.machine, blade.number): blade.metres for blade in book.blades()}
    assert metres[("table", first.number)] == 1.5
    assert metres[("table", second.number)] == 2.0
    assert sorted(metres.values()) == [1.5, 2.0, 4.0]


def test_the_log_keeps_its_order_and_long_texts_are_cut_short(store):
    book = CutBook(store)
    book.log("Tees", "cut", "all is cut")
    book.log("Tees", "cut files", "x" * 10_000)
    latest, earlier = book.entries()
    assert (earlier.job, earlier.what, earlier.said) == ("Tees", "cut", "all is cut")
    assert len(latest.said) == 4000


def test_a_row_that_can_not_be_read_any_more_is_left_out(store):
    say(store, "tears")
    with store.open() as connection:
        connection.execute(
            "INSERT INTO test_cuts (at, machine, film, test) VALUES ('x', 'table', 'cream', '{\"force\": 3}')"
        )
    assert len(CutBook(store).tests()) == 1


def test_a_film_that_is_not_there_is_named():
    with pytest.raises(CutError, match="no film “gone”"):
        advise(standard_workshop(), Trial("gone", "table"))


def test_without_a_file_there_are_no_books_and_none_is_made(store):
    assert books(store).tests == ()
    assert not store.path.exists()


def test_a_worn_blade_is_told_with_the_advice(store):
    settings = CutSettings(force_g=80, blade_mm=0.15, speed_mm_s=200)
    CutBook(store).record(CutTest(machine="table", film="cream", settings=settings, outcome="clean"))
    CutBook(store).put_in_blade("table")
    CutBook(store).add_metres("table", 1200.0)
    assert "1200 m" in advise(books(store), TRIAL).worn
