"""Films to choose from: the nearest first, and whether the shelf has enough, held against what a nest holds."""

import pytest

from tests.helpers import document_of, nested
from zinnet.films.catalogue import catalogue_films
from zinnet.films.colours import colour_difference
from zinnet.job.edits import choose_film, set_copies, set_nesting, set_placement
from zinnet.plan.film_offers import enough_of, film_offers
from zinnet.workshop.stock import StockItem

CREAM, RED = "#f4ead5", "#c8372d"
BOX = f'<rect width="80" height="40" fill="{CREAM}"/>'
TWO = f'{BOX}<rect y="50" width="80" height="40" fill="{RED}"/>'


def scrap(length, width=300.0, film="cream", number=1):
    return StockItem(number=number, film=film, kind="sheet", width_mm=width, length_mm=length)


def job(items, *edits, body=BOX, copies=4):
    """Return a job of pieces of 60 by 30 mm, cut from a shelf."""
    own = (set_placement("x", width_mm=60.0), set_copies(copies), set_nesting("x", from_shelf=True, steps=1))
    document = document_of(body, *own, *edits)
    document.use_workshop(document.workshop.model_copy(update={"stock": tuple(items)}))
    return document


def enough(document, key=CREAM):
    """Return for each film whether the shelf has enough of it for a layer."""
    return enough_of(document.plan, (key,))


def test_the_nearest_come_first_and_without_a_colour_the_films_keep_their_order():
    films = catalogue_films()
    found = film_offers(films, (scrap(500.0), scrap(100.0, number=2)), CREAM)
    apart = [colour_difference(CREAM, offer.film.colour) for offer in found]
    assert apart == sorted(apart) == [offer.difference for offer in found]
    assert {offer.film.id: offer.there_mm2 for offer in found if offer.there_mm2} == {"cream": 600.0 * 300}
    plain = film_offers(films, ())
    assert [(offer.film, offer.difference) for offer in plain] == [(film, None) for film in films]


@pytest.mark.parametrize(
    ("length", "expected"),
    [(20.0, "short"), (23.9, "short"), (24.1, "tight"), (28.0, "tight"), (61.0, "enough"), (400.0, "enough")],
)
def test_what_is_said_of_the_shelf_agrees_with_what_finds_room(length, expected):
    document = nested(job([scrap(length)]))
    (nest,) = document.plan.nests
    assert enough(document)["cream"] == expected
    assert (not nest.layout.unplaced) == (expected == "enough")


def test_what_other_layers_take_of_a_film_is_not_there_for_this_one():
    one, other = scrap(95.0), choose_film(RED, "cream")
    alone = enough(job([one], copies=5))["cream"]
    both = enough(job([one], other, body=TWO, copies=9))["cream"]
    more = enough(job([scrap(400.0)], other, body=TWO, copies=5))["cream"]
    assert (alone, both, more) == ("enough", "short", "enough")


def test_a_strip_too_narrow_for_a_piece_is_not_said_to_be_enough():
    assert enough(job([scrap(5000.0, width=20.0)]))["cream"] == "tight"


def test_film_that_is_not_there_is_said_so_and_copies_and_sizes_count():
    document = job([scrap(45.0)], copies=4)
    assert enough(document)["cream"] == "enough"
    assert enough(document)["white"] == "none"
    document.apply(set_copies(40))
    assert enough(document)["cream"] == "short"
